"""Plain functions as programs and as commands.

Modules: ``function``.
"""

from __future__ import annotations

import asyncio
import io
import json
import os
import signal
import subprocess
import sys
import textwrap
from collections.abc import Mapping
from pathlib import Path
from typing import Annotated, Any, Literal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import CTRL_C, ROOT, Terminal, python
from tests.tables import tabled
from wesperon import (
    Command,
    CommandGroup,
    Console,
    Context,
    DeclarationError,
    Form,
    Problems,
    Program,
    Refusal,
    run,
    slot,
)
from wesperon.form import said_at_once
from wesperon.output.results import show
from wesperon.scope import within
from wesperon.testing import Press, Scripted, Session
from wesperon.text.escape import showable

PROGRAM = '''
from typing import Annotated, Literal
from wesperon import Refusal, run, slot

__version__ = "2.1"


def expose(
    target: str,
    seconds: Annotated[float, slot("Seconds each", low=0.1, unit="s")] = 30.0,
    *notes: str,
    camera: Literal["north", "south"] = "north",
    dry_run: bool = False,
):
    """Plan one exposure.

    Arguments:
        target: what to look at
    """
    if target == "moon":
        raise Refusal("the moon is too bright", status=4)
    if target == "fault":
        raise ValueError("no such fault")
    if target == "status":
        return 7
    if target == "nothing":
        return None
    return f"{target} {seconds} {notes} {camera} {dry_run}"


print("after", run(expose))
'''


def started(tmp_path: Path, *words: str, text: str = PROGRAM, **environ: str) -> subprocess.CompletedProcess[str]:
    """Return a run of the program with nobody there."""
    (tmp_path / "plan.py").write_text(textwrap.dedent(text), encoding="utf-8")
    environment = {"PATH": "/usr/bin:/bin", "PYTHONPATH": str(ROOT / "src"), "HOME": str(tmp_path), **environ}
    return subprocess.run(
        [sys.executable, "plan.py", *words],
        cwd=tmp_path,
        env=environment,
        stdin=subprocess.DEVNULL,
        capture_output=True,
        text=True,
        start_new_session=True,
        timeout=60,
    )


@tabled
def test_a_function_is_a_program(tmp_path: Path, words: list[str], status: int, out: str, err: str) -> None:
    done = started(tmp_path, *words)
    assert done.returncode == status
    assert out in done.stdout
    assert err in done.stderr
    assert "Traceback" not in done.stderr


def test_a_wrong_environment_is_a_problem_and_no_trace(tmp_path: Path) -> None:
    done = started(tmp_path, "a", WESPERON_ASKING="sometimes")
    assert done.returncode == 2
    assert done.stderr.splitlines() == [
        'plan.py: WESPERON_ASKING must be one of never, missing, all, got "sometimes"',
        "plan.py --help shows all values.",
    ]


def test_the_page_of_a_function_is_made_from_its_docstring(tmp_path: Path) -> None:
    page = started(tmp_path, "--help").stdout
    assert page.startswith("plan.py TARGET [SECONDS] [NOTES...] [--camera=CHOICE] [--dry-run]\n\nPlan one exposure.\n")
    assert "Arguments" not in page


def test_a_function_asks_for_what_is_missing(tmp_path: Path) -> None:
    (tmp_path / "plan.py").write_text(PROGRAM, encoding="utf-8")
    with Terminal([sys.executable, str(tmp_path / "plan.py")], env={"PYTHONPATH": str(ROOT / "src")}) as terminal:
        terminal.answer("target", "HOLLIN-051")
        terminal.see("HOLLIN-051 30.0 () north False")
        assert terminal.end() == 0
    with Terminal([sys.executable, str(tmp_path / "plan.py")], env={"PYTHONPATH": str(ROOT / "src")}) as terminal:
        terminal.see("target")
        terminal.type(CTRL_C)
        assert terminal.end() == -signal.SIGINT


def test_a_run_with_all_values_given_loads_little(tmp_path: Path) -> None:
    text = PROGRAM.replace('print("after", run(expose))', "import sys\nbefore = set(sys.modules)\nrun(expose)\n") + (
        "names = [name for name in sys.modules if name not in before]\n"
        "print([n for n in names if n in ('inspect', 'enum', 're', 'dataclasses', 'pathlib', 'logging')])\n"
        "print([n for n in names if n.split('.')[1:2] in (['terminal'], ['widgets'], ['commands'], ['forms'])])\n"
    )
    text = text.replace('camera: Literal["north", "south"] = "north"', 'camera: str = "north"')
    done = started(tmp_path, "nothing", text=text)
    assert done.stdout.splitlines() == ["[]", "[]"], done.stderr


def expose(target: str, seconds: Annotated[float, slot(low=0.1)] = 30.0) -> str:
    """Plan one exposure."""
    return f"{target}: {seconds}"


async def park(angle: int = 0) -> str:
    """Park the telescope."""
    await asyncio.sleep(0)
    return f"parked at {angle}"


def list_(site: str, *, loud: bool = False) -> dict[str, Any]:
    """List the targets."""
    return {"site": site, "loud": loud}


def words(words: list[str], run: int = 1, name: str = "x") -> str:
    """Have parameters with the names of methods."""
    return f"{words} {run} {name}"


class Shared(Form):
    site = slot(default="ridge")


def members() -> list[Any]:
    return [
        expose,
        park,
        words,
        CommandGroup("targets", "The targets.", [list_]),
        ("tests.test_function:expose", "The same, found when it is called."),
        Command.from_function(expose, name="expose-again", examples=["expose-again x"]),
    ]


def desk(**keywords: Any) -> Program:
    given = members()
    return Program("desk", members=[*given[:4], CommandGroup("more", "", given[4:])], **keywords)


@tabled
def test_a_function_may_stand_wherever_a_command_class_may(
    line: list[str], out: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert desk().main(line) == 0
    assert capsys.readouterr().out.split() == out.split()
    assert asyncio.run(desk().call_async(line)) == 0
    assert capsys.readouterr().out.split() == out.split()
    with Session(Console(desk(), history=False).run) as session:
        session.type(" ".join(line))
        session.press("enter")
        assert out.split()[-1] in session.output
    # And the function is what it was.
    assert expose("a", seconds=1) == "a: 1"


def test_a_parameter_with_the_name_of_a_shared_slot_gets_its_value(capsys: pytest.CaptureFixture[str]) -> None:
    program = desk(shared=Shared)
    assert program.main(["targets", "list", "--site=valley", "--loud"]) == 0
    assert "valley" in capsys.readouterr().out
    assert program.main(["targets", "list"]) == 0
    assert "ridge" in capsys.readouterr().out
    with pytest.raises(Problems):
        program.call(["targets", "list", "valley"])  # it is by name only, as what is shared always is

    def wrong(site: int) -> None: ...

    with pytest.raises(DeclarationError, match="another kind"):
        Program("desk", members=[wrong], shared=Shared)


def test_results_settings_and_the_gate_are_those_of_a_program(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    seen: list[Any] = []

    def gate(path: tuple[str, ...], command: type[Command], values: Mapping[str, Any]) -> None:
        seen.append((path, values["target"]))

    assert run(list_, ["a", "--as=json"], results=True) == 0
    assert json.loads(capsys.readouterr().out) == {"site": "a", "loud": False}
    assert run(expose, ["a"], name="desk", version="3", gate=gate) == 0
    assert seen == [((), "a")]
    assert capsys.readouterr().out == "a: 30.0\n"
    with pytest.raises(TypeError, match="version"):
        run(expose, ["a"], verson="3")


def test_a_context_is_in_force_while_a_function_runs() -> None:
    context = Context(words=["a", "2"], environ={})
    assert run(expose, context=context) == 0
    with pytest.raises(SystemExit) as caught:
        run(expose, context=Context(words=["a", "x"], environ={}))
    assert caught.value.code == 2


def test_a_coroutine_function_and_a_refusal(capsys: pytest.CaptureFixture[str]) -> None:
    assert run(park, ["3"]) == 0
    assert capsys.readouterr().out == "parked at 3\n"

    def refuse(reason: str) -> None:
        raise Refusal(reason, status=5)

    with pytest.raises(SystemExit) as caught:
        run(refuse, ["no"])
    assert caught.value.code == 5
    assert capsys.readouterr().err.endswith(": no\n")


def test_what_a_function_returns_is_its_output_whatever_it_is(capsys: pytest.CaptureFixture[str]) -> None:
    def total(*seconds: int) -> int:
        return sum(seconds)

    assert run(total, ["1", "2"]) == 0
    assert run(total, ["3"], results=True) == 0
    program = Program("desk", members=[total], results=True)
    assert program.main(["total", "4"]) == 0
    assert program.main(["total", "5", "--as=json"]) == 0
    assert capsys.readouterr().out.split() == ["3", "3", "4", "5"]


def test_a_secret_parameter_is_nowhere(capsys: pytest.CaptureFixture[str]) -> None:
    def connect(key: Annotated[str, slot("Key", secret=True, env="DESK_KEY")]) -> None:
        raise ValueError(f"wrong key {key}")

    with pytest.raises(SystemExit):
        run(connect, context=Context(words=[], environ={"DESK_KEY": "otter-canary"}))
    with pytest.raises(SystemExit):
        run(connect, ["otter-canary"])

    def default(key: Annotated[str, slot("Key", secret=True)] = "otter-canary") -> None:
        raise ValueError(f"wrong key {key}")

    with pytest.raises(SystemExit):
        run(default, [])
    captured = capsys.readouterr()
    assert "otter-canary" not in captured.out + captured.err


def test_a_function_is_asked_for_on_a_scripted_terminal(capsys: pytest.CaptureFixture[str]) -> None:
    driver = Scripted([*map(Press, "abc"), Press("enter")])
    assert desk().call(["expose"], driver) == 0
    assert capsys.readouterr().out == "abc: 30.0\n"


def test_a_member_without_a_name_is_refused() -> None:
    with pytest.raises(DeclarationError, match="name="):
        Program("desk", members=[lambda: None])
    assert list(Program("desk", members={"ping": lambda: None}).members) == ["ping"]
    with pytest.raises(DeclarationError, match="no member"):
        Program("desk", members=[3])


def test_the_contract_and_the_pages_have_functions(capsys: pytest.CaptureFixture[str]) -> None:
    program = desk(shared=Shared)
    assert "desk targets list" in program.contract()
    assert program.main(["more", "expose-again", "--help"]) == 0
    assert "desk expose-again x" in capsys.readouterr().out
    assert program.main(["--help=all"]) == 0
    assert "Park the telescope." in capsys.readouterr().out
    assert "[targets.list]" in program.blank_answers()


def test_types_are_those_of_the_function() -> None:
    def f(camera: Literal["north", "south"]) -> str:
        return camera

    command: type[Command] = Command.from_function(f)
    assert f("north") == "north"
    assert command.fill(["north"], asking="never").run() == "north"


@given(st.text(max_size=9) | st.integers() | st.floats() | st.booleans() | st.binary(max_size=2) | st.none())
def test_what_is_printed_at_once_is_what_would_be_printed_after_a_look_at_it(result: object) -> None:
    at_once, looked_at = io.StringIO(), io.TextIOWrapper(io.BytesIO(), encoding="utf-8", errors="surrogatepass")
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(sys, "stdout", at_once)
        patch.delitem(sys.modules, "wesperon.context")
        was_said = said_at_once(result)
    assert was_said or not at_once.getvalue()
    if was_said:
        with within(Context(stdout=looked_at)):
            show(result)
        looked_at.seek(0)
        assert at_once.getvalue() == looked_at.read()
        assert showable(str(result)) == str(result)


@pytest.mark.parametrize("asking", ["never", "missing", "", "typo", "all"])
def test_when_to_ask_makes_no_difference_if_nothing_is_missing(asking: str) -> None:
    program = "from wesperon import run\ndef f(a: int):\n    return f'{a} \u00e9\\n'\nrun(f)"
    env = {**os.environ, "WESPERON_ASKING": asking, "PYTHONIOENCODING": "utf-8"}
    done = subprocess.run([*python("-c", program), "3"], capture_output=True, env=env, stdin=subprocess.DEVNULL)
    if asking == "typo":
        assert (done.returncode, done.stdout) == (2, b"")
        assert b'"typo"' in done.stderr
    elif asking == "all":  # and nobody is there
        assert done.returncode in (0, 2)
    else:
        assert (done.returncode, done.stdout, done.stderr) == (0, "3 \u00e9\n\n".encode(), b"")
