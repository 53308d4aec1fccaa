"""What a shell evaluates: assignments, whatever a set says and whatever words come.

Modules: ``tool.assignments``, ``tool.fill``.
"""

from __future__ import annotations

import io
import json
import os
import shutil
import subprocess
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.documents.test_question_set import run
from tests.tables import tabled
from wesperon.context import Context
from wesperon.scope import within
from wesperon.tool.assignments import COUNTERS, SPECIAL, are_wanted, lines
from wesperon.tool.main import main
from wesperon.values.problems import Refusal

SHELLS = [shell for shell in ("sh", "bash", "zsh") if shutil.which(shell)]
#: Texts that do something if a shell ever evaluates them; each leaves a file behind.
TRAPS = ["$(: > canary)", "`: > canary`", "'; : > canary; '", "\n: > canary\n", "x[$(: > canary)]", "1; : > canary"]
TEXTS = st.one_of(
    st.sampled_from(TRAPS), st.text(st.characters(exclude_characters="\0", exclude_categories=["Cs"]), max_size=12)
)
NAMES = st.sampled_from(
    ["name", "frames", "class_", "größe", "path", "PATH", "IFS", "SECONDS", "COLUMNS", "status", "command", "low_light",
     "PS4", "UID", "LINENO", "BASH_ENV", "prompt", "words"]
)  # fmt: skip
WORDS = st.one_of(
    st.sampled_from(
        ["--help", "--version", "--help=all", "--", "--frames", "3", "--name", "-n", "--asking=all", "--answers=-",
         "--to", "--to=json", "shell", "expose", "dome"]
    ),
    TEXTS,
    TEXTS.map("--name={}".format), TEXTS.map("--{}".format), TEXTS.map("--SECONDS={}".format),
)  # fmt: skip


@pytest.mark.parametrize("how", ["shell", "env"])
@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    names=st.lists(NAMES, max_size=3, unique=True),
    texts=st.lists(TEXTS, min_size=6, max_size=6),
    words=st.lists(WORDS, max_size=4),
    has_commands=st.booleans(),
    head=st.sampled_from(
        [["fill"], ["FILL"], ["fi"], ["--as=json", "fill"], ["--asking", "never", "fil"], ["--as", "text", "Fill"]]
    ),
)
def test_shells_evaluate_nothing_but_assignments(
    how: str, names: list[str], texts: list[str], words: list[str], has_commands: bool, head: list[str], tmp_path: Path
) -> None:
    slots = {name: {"help": texts[0], "ask": texts[1] or "?", "default": texts[2] or "x"} for name in names}
    plan = {"description": texts[3], "version": texts[4], "slots": slots}
    if has_commands:
        plan["commands"] = {"expose": {"description": texts[5], "slots": {"note": {"default": texts[1] or "y"}}}}
    path = tmp_path / "plan.json"
    path.write_text(json.dumps(plan))
    out, error = io.StringIO(), io.StringIO()
    driverless = {**os.environ, "WESPERON_ASKING": "never"}
    with within(Context(stdout=out, stderr=error, stdin=io.StringIO(), environ=driverless)):
        status = main([*head, f"--to={how}", str(path), *words])
    assert (status == 0) == bool(out.getvalue() or (not status and not names)), (status, out.getvalue())
    for shell in SHELLS:
        folder = tmp_path / shell
        folder.mkdir(exist_ok=True)
        # What is not an assignment fails, or leaves something behind: no other command is there to be found.
        script = f"PATH=/nowhere; eval {json.dumps('$1')} || exit 9; : done"
        done = subprocess.run(
            [str(shutil.which(shell)), "-c", script, shell, out.getvalue()], cwd=folder, capture_output=True, timeout=60
        )
        assert (done.returncode, done.stdout, done.stderr) == (0, b"", b""), (shell, out.getvalue())
        assert not list(folder.iterdir()), (shell, out.getvalue())


@tabled
def test_no_name_that_a_shell_gives_a_meaning_is_assigned_to(shell: str, question: str) -> None:
    if shutil.which(shell) is None:
        pytest.skip(f"{shell} is not installed")
    kept = {"PATH": os.environ["PATH"]}
    bare = ["-f"] if shell == "zsh" else ["--norc", "--noprofile"]
    told = subprocess.run([shell, *bare, "-c", question], capture_output=True, text=True, check=True, env=kept).stdout
    harmless = {"HOSTNAME", "HOSTTYPE", "MACHTYPE", "OSTYPE"}
    for name in set(told.split()) - harmless:
        with pytest.raises(Refusal, match=r"meaning of its own|is no name"):
            lines({name: "x"}, "shell")
        with pytest.raises(Refusal):
            lines({name: "x"}, "env")


def test_a_name_is_refused_with_a_way_out(capfd: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = tmp_path / "plan.json"
    path.write_text(json.dumps({"slots": {"path": {"default": "/tmp"}}}))
    for how, name in (("shell", "path"), ("env", "PATH")):
        assert main(["fill", f"--to={how}", str(path)]) == 2
        told = capfd.readouterr()
        assert told.out == ""
        assert told.err.startswith(f"wesperon: {name} has a meaning of its own for a shell: --prefix=set_"), told.err
        assert main(["fill", f"--to={how}", "--prefix=set_", str(path)]) == 0
        assert capfd.readouterr().out.lower() == "set_path=/tmp\n"
    with pytest.raises(Refusal, match="is the name of two values"):
        lines({"low": "1", "LOW": "2"}, "env")
    assert lines({"seconds": "30.5"}, "env") == ["SECONDS=30.5"]
    assert COUNTERS <= SPECIAL


def test_pages_go_to_standard_error_even_those_of_the_tool() -> None:
    for words in (["--help"], ["--version"], ["--to=env", "--help"], ["plan.toml", "--help"]):
        done = run("fill", "--to=shell", *words)
        assert (done.returncode != 0, done.stdout) == (True, ""), words
        assert done.stderr
    assert run("fill", "--help").stdout.startswith("wesperon fill")
    assert [are_wanted(words.split(" ")) for words in ("fill x", "fill --TO SHELL x", "fill x -- --to=shell")] == [
        False, True, False,
    ]  # fmt: skip


def test_bytes_that_are_no_text_reach_the_shell_as_they_were(tmp_path: Path) -> None:
    path = tmp_path / "plan.json"
    path.write_text(json.dumps({"slots": {"note": {}}}))
    argv: list[bytes | str] = [run.__globals__["sys"].executable, "-m", "wesperon", "fill", "--to=shell", str(path)]
    for encoding in ("utf-8", "ascii", "latin-1"):
        done = subprocess.run(
            [*argv, b"--note=\xe9 caf\xc3\xa9"], capture_output=True, timeout=60,
            env={**os.environ, "PYTHONIOENCODING": encoding},
        )  # fmt: skip
        assert (done.returncode, done.stdout) == (0, b"note='\xe9 caf\xc3\xa9'\n"), (encoding, done.stderr)


def test_a_set_without_commands_is_filled_by_position(tmp_path: Path) -> None:
    path = tmp_path / "plan.json"
    path.write_text(json.dumps({"slots": {"target": {}, "frames": {"kind": "integer"}}}))
    done = run("fill", "--to=shell", str(path), "HOLLIN-051", "3")
    assert (done.returncode, done.stdout) == (0, "target=HOLLIN-051\nframes=3\n"), done.stderr
    assert "plan TARGET FRAMES" in run("fill", str(path), "--help").stdout
