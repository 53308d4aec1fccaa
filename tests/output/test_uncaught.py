"""What a call raises and nobody catches: no trace, what is wrong on standard error, and the status that it means.

Modules: ``output.uncaught``.
"""

from __future__ import annotations

import os
import re
import shlex
import subprocess
from pathlib import Path

import pytest

from tests.harness import Terminal, python
from tests.tables import tabled

SET = '[slots.frames]\nkind = "integer"\nlow = 3\n'
GUIDE = '[steps.lit]\nask = "Lit?"\nkind = "boolean"\nnext = { otherwise = "end" }\n[steps.end]\nends = true\n'
FILL = "Form.from_file('set.toml').fill()"
WALK = "Guide('guide.toml').walk()"
OTHERS = {
    "class": "type('Plan', (Form,), {'frames': slot(int, low=3)}).fill()",
    "loop": "asyncio.run(type('Plan', (Form,), {'frames': slot(int, low=3)}).fill_async())",
}


def run(code: str, *words: str, folder: Path) -> tuple[int, str, str]:
    """Return what a script ends with that imports all of the library: the status, and what it printed."""
    (folder / "set.toml").write_text(SET)
    (folder / "guide.toml").write_text(GUIDE)
    script = folder / "script.py"
    script.write_text(f"import asyncio\nfrom wesperon import *\n{code}\nprint('after')\n")
    done = subprocess.run(
        python(str(script), *words), cwd=folder, capture_output=True, text=True, check=False, stdin=subprocess.DEVNULL
    )
    return done.returncode, done.stdout, done.stderr


@tabled
def test_what_is_wrong_ends_a_script_without_a_trace(code: str, words: list[str], said: str, tmp_path: Path) -> None:
    status, out, error = run(code, *words, folder=tmp_path)
    assert (status, out) == (2, "")
    assert said in error
    assert "Traceback" not in error


def test_a_refusal_ends_it_with_its_status(tmp_path: Path) -> None:
    code = "try:\n    " + FILL + "\nexcept Problems:\n    raise Refusal('closed', 7)"
    assert run(code, "2", folder=tmp_path) == (7, "", "script.py: closed\n")


def test_other_errors_and_hooks_are_as_they_were(tmp_path: Path) -> None:
    code = "try:\n    " + FILL + "\nexcept Problems:\n    pass\n"
    assert "ZeroDivisionError" in run(code + "1 / 0", "2", folder=tmp_path)[2]
    status, _, error = run(code + "raise KeyboardInterrupt", "2", folder=tmp_path)
    assert status == -2
    assert "Traceback" in error
    own = "import sys\nsys.excepthook = lambda *about: print('mine', about[0].__name__)\n"
    assert run(own + FILL, "2", folder=tmp_path) == (1, "mine Problems\n", "")


@pytest.mark.parametrize("code", [FILL, WALK, OTHERS["class"], OTHERS["loop"]])
def test_a_question_that_is_stopped_ends_the_script_by_the_signal(code: str, tmp_path: Path) -> None:
    (tmp_path / "set.toml").write_text(SET)
    (tmp_path / "guide.toml").write_text(GUIDE)
    whole = f"import asyncio, os\nfrom wesperon import *\nos.chdir({str(tmp_path)!r})\n{code}\nprint('after')\n"
    with Terminal(python("-c", whole)) as terminal:
        terminal.quiet()
        terminal.type("\x03")
        assert terminal.end() == -2
        assert "Interrupted." in terminal.text()
        assert "Traceback" not in terminal.everything()


@pytest.mark.parametrize("code", ["fill(n=slot(int))", FILL, WALK, "raise SystemExit(run(lambda: None, name='x'))"])
@pytest.mark.parametrize("word", ["--help", "--version"])
def test_a_page_that_cannot_be_written_is_told_in_one_line(code: str, word: str, tmp_path: Path) -> None:
    run("", folder=tmp_path)
    (tmp_path / "script.py").write_text(f"from wesperon import *\n{code}\n")
    with open("/dev/full", "w") as full:
        done = subprocess.run(
            python("script.py", word), cwd=tmp_path, stdout=full, stderr=subprocess.PIPE, text=True, check=False
        )
    assert done.returncode == 1
    assert done.stderr.endswith(": standard output: No space left on device\n")


#: What a command gives that prints something, little and more than a buffer holds.
GIVEN = {
    "text": "'x' * n",
    "number": "10 ** n",
    "record": "{'n': n}",
    "rows": "[{'n': 1}] * n",
    "stream": "iter(range(n))",
    "page": "page('x\\n' * n)",
    "source": "page(str(at) for at in range(n))",
    "print": "print(n)",
}
STARTS = {
    "run": "raise SystemExit(run(f, name='desk'))",
    "program": "raise SystemExit(Program('desk', members=[f, g], results=True).main(['f', *sys.argv[1:], *FORM]))",
}


@pytest.mark.parametrize("given", GIVEN)
@pytest.mark.parametrize("start", STARTS)
@pytest.mark.parametrize("number", ["3", "40000"])
def test_a_result_that_cannot_be_written_is_told_in_one_line(
    given: str, start: str, number: str, tmp_path: Path
) -> None:
    kind = "int" if given != "number" else "float"
    form = ["--as=json"] if given in ("record", "rows", "stream") else []
    code = f"import sys\nFORM = {form}\ndef g(): pass\ndef f(n: {kind}): return {GIVEN[given]}\n{STARTS[start]}\n"
    (tmp_path / "script.py").write_text("from wesperon import *\n" + code)
    environ = {name: value for name, value in os.environ.items() if name != "PYTHONUNBUFFERED"}
    with open("/dev/full", "w") as full:
        done = subprocess.run(
            python("script.py", number if given != "number" else "3"),
            cwd=tmp_path,
            env=environ,
            stdout=full,
            stderr=subprocess.PIPE,
            text=True,
            check=False,
        )
    assert (done.returncode, done.stderr) == (1, "desk: standard output: No space left on device\n")


CLOSED = {
    "run": "raise SystemExit(run(lambda n: None, name='x'))",
    "result": "def double(n: int) -> int:\n    return 2 * n\nrun(double)",
    "fill": "print(fill(n=slot(int)).n)",
    "program": "raise SystemExit(Program('x', default_command=Command.from_function(lambda n: n, name='n')).main())",
}


@pytest.mark.parametrize("code", CLOSED)
@pytest.mark.parametrize("word", ["5", "--no", "--help", "--version"])
@pytest.mark.parametrize("closed", [(0,), (1,), (2,), (1, 2), (0, 1, 2)])
def test_a_stream_that_was_closed_before_the_start_changes_no_status(
    code: str, word: str, closed: tuple[int, ...], tmp_path: Path
) -> None:
    (tmp_path / "script.py").write_text(f"from wesperon import *\n{CLOSED[code]}\n")
    shut = " ".join(f"{number}>&-" for number in closed)
    line = f"exec {shlex.join(python('script.py', word))} {shut}"
    done = subprocess.run(
        ["sh", "-c", line], cwd=tmp_path, capture_output=True, text=True, check=False, start_new_session=True
    )
    assert done.returncode == (2 if word == "--no" else 0), done.stderr
    assert not re.search("Traceback|AttributeError|Exception ignored", done.stderr)
