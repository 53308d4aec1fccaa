"""The output of a line in a file, how long a line took, and areas of the log.

Modules: ``console.output_file``, ``output.log_areas``.
"""

from __future__ import annotations

import io
import logging
import os
import re
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import Terminal, python
from tests.tables import tabled
from wesperon import Command, Console, Context, Program, Refusal, slot
from wesperon.files.whole import write_whole


class Say(Command):
    """Say some words."""

    parts = slot(rest=True, low=0)

    def run(self) -> str:
        """Give them."""
        print("first")
        return " ".join(self.parts)


class Fail(Command):
    """Fail after some output."""

    def run(self) -> None:
        """Print, then fail."""
        print("half of it")
        raise Refusal("", 3)


class Warn(Command):
    """Log something in two areas."""

    def run(self) -> None:
        """Log."""
        for name in ("mast", "night desk.dome"):
            logging.getLogger(name).debug("wind in %s", name)


PROGRAM = Program("night desk", members=[Say, Fail, Warn], results=True, log=True)


@pytest.fixture(autouse=True)
def _loggers() -> Iterator[None]:
    yield
    for name in ("mast", "night desk.dome"):
        logger = logging.getLogger(name)
        logger.setLevel(logging.NOTSET)
        logger.handlers.clear()


def run(lines: str, environ: dict[str, str] | None = None, **keywords: Any) -> tuple[int, str]:
    """Run lines as if typed; the status, and what was printed."""
    out = io.StringIO()
    context = Context(stdin=io.StringIO(lines), stdout=out, stderr=out, environ=environ or {})
    return Console(PROGRAM, history=False, context=context, output_files=True, **keywords).run(), out.getvalue()


def test_output_goes_to_a_file_whole_or_not_at_all(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    assert run("say 'a > b' c > out\n") == (0, "")
    out = tmp_path / "out"
    assert out.read_text() == "first\na > b c\n"
    out.chmod(0o640)
    assert run("say d >>'out'\nhelp say >> out\n") == (0, "")
    assert out.read_text().startswith("first\na > b c\nfirst\nd\nsay [PARTS...]\n")
    assert out.stat().st_mode & 0o777 == 0o640
    before = out.read_bytes()
    assert run("fail > out\n") == (3, "")
    assert run("say --as json é\n") == (0, 'first\n"é"\n')
    assert run("say x --as json > 'new file'\n") == (0, "")
    assert (tmp_path / "new file").read_text() == 'first\n"x"\n'
    assert out.read_bytes() == before
    for line, says in {
        "say x > nowhere/file": "there is no folder",
        "say x > .": "is a folder",
        "say x >": "requires one file name after it",
        "say x > a b": "requires one file name after it",
        "say x > ''": "requires one file name after it",
    }.items():
        status, said = run(line + "\n")
        assert status == 2
        assert says in said
        assert "first" not in said
    assert sorted(path.name for path in tmp_path.iterdir()) == ["new file", "out"]


def test_a_sign_is_a_word_where_files_are_not_allowed(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    out = io.StringIO()
    context = Context(stdin=io.StringIO("say x > out\n"), stdout=out, stderr=out)
    assert Console(PROGRAM, history=False, context=context).run() == 0
    assert out.getvalue() == "first\nx > out\n"
    assert not list(tmp_path.iterdir())


def test_a_link_is_followed_and_what_is_no_regular_file_is_written_to(tmp_path: Path) -> None:
    target = tmp_path / "target"
    target.write_text("old")
    link = tmp_path / "link"
    link.symlink_to(target)
    write_whole(str(link), b"new")
    assert link.is_symlink()
    assert target.read_text() == "new"
    write_whole("/dev/null", b"lost")
    with pytest.raises(IsADirectoryError):
        write_whole(str(tmp_path), b"")
    assert sorted(path.name for path in tmp_path.iterdir()) == ["link", "target"]


@pytest.mark.parametrize("call", ["open", "fsync", "chmod", "replace", "write"])
def test_a_file_that_cannot_be_written_is_as_it_was(call: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "out"
    path.write_bytes(b"old")

    def fails(*given: Any, **named: Any) -> Any:
        raise OSError(28, "No space left on device")

    if call == "write":
        monkeypatch.setattr("wesperon.files.whole.open", lambda *given, **named: _Full(*given, **named), raising=False)
    else:
        monkeypatch.setattr(os, call, fails)
    with pytest.raises(OSError, match="No space"):
        write_whole(str(path), b"new", appends=True)
    monkeypatch.undo()
    assert path.read_bytes() == b"old"
    assert [one.name for one in tmp_path.iterdir()] == ["out"]


class _Full:
    """A file on a full disk."""

    def __init__(self, *given: Any, **named: Any) -> None:
        self.file = open(*given, **named)  # noqa: SIM115

    def __enter__(self) -> Any:
        return self

    def __exit__(self, *about: object) -> None:
        self.file.close()

    def read(self) -> bytes:
        return bytes(self.file.read())

    def write(self, data: bytes) -> None:
        raise OSError(28, "No space left on device")


@given(st.lists(st.sampled_from(["a", "b c", ">", ">>", "é", "'", "&"]), min_size=1, max_size=4))
@settings(deadline=None, max_examples=30)
def test_what_is_quoted_is_never_a_file(parts: list[str]) -> None:
    console = Console(PROGRAM, history=False, output_files=True, background=1)
    quoted = " ".join("'" + part.replace("'", "'\\''") + "'" for part in parts)
    entered = console.lines.entered(f"say {quoted}")
    assert entered.words == ["say", *parts]
    assert entered.output is None
    assert not entered.in_background
    entered = console.lines.entered(f"say {quoted} > {quoted if len(parts) == 1 else 'x'} &")
    assert entered.words == ["say", *parts]
    assert entered.in_background
    assert entered.output is not None


def test_areas_are_turned_on_from_outside_and_inside(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(logging.root, "handlers", [])  # a program without a handler of its own
    assert run("warn\n") == (0, "")
    status, said = run("warn\n", {"NIGHT_DESK_LOG": "mast,dome:info,,odd:loud"})
    assert status == 0
    assert "mast DEBUG: wind in mast" in said
    assert "dome DEBUG" not in said
    assert 'NIGHT_DESK_LOG: "loud" is not a level of a log' in said
    status, said = run("log mast off\nlog dome on\nlog dome\nwarn\nlog mst on\nlog mast loud\nlog\n")
    assert status == 2
    assert "night desk.dome DEBUG: wind in night desk.dome" in said
    assert "mast DEBUG" not in said
    assert 'there is no area "mst"; nearest: mast' in said
    assert '"loud" is not a level' in said
    assert "area" in said
    file = tmp_path / "log"
    code = "from tests.console.test_output_files import PROGRAM; raise SystemExit(PROGRAM.main(['warn']))"
    environ = {**os.environ, "NIGHT_DESK_LOG": "mast", "NIGHT_DESK_LOG_FILE": str(file)}
    done = subprocess.run(python("-c", code), env=environ, capture_output=True, text=True, check=True)
    assert not done.stderr
    assert "wind in mast" in file.read_text()


@tabled
def test_an_area_that_never_was_is_told_at_the_end(areas: str, said: str) -> None:
    code = (
        "import logging\nfrom tests.console.test_output_files import PROGRAM\nstatus = PROGRAM.main(['warn'])\n"
        "late = logging.getLogger('night desk.late')\nlogging.getLogger('later').setLevel(50)\n"
        "logging.getLogger('later').critical('x')\nlogging.getLogger('below.it')\nraise SystemExit(status)"
    )
    environ = {**os.environ, "NIGHT_DESK_LOG": areas}
    done = subprocess.run(python("-c", code), env=environ, capture_output=True, text=True, check=True)
    told = [line for line in done.stderr.splitlines(True) if "LOG:" in line]
    assert len(told) == bool(said)
    assert "".join(told).startswith(said)


def test_a_program_with_a_handler_of_its_own_gets_each_message_once() -> None:
    code = (
        "import logging; logging.basicConfig(level=logging.DEBUG)\n"
        "from tests.console.test_output_files import PROGRAM; raise SystemExit(PROGRAM.main(['warn']))"
    )
    environ = {**os.environ, "NIGHT_DESK_LOG": "mast"}
    done = subprocess.run(python("-c", code), env=environ, capture_output=True, text=True, check=True)
    assert done.stderr.count("wind in mast") == 1


def test_how_long_a_command_took_is_shown_at_the_right_edge() -> None:
    code = """
import time
from wesperon import Command, Console, Program, slot
class Cool(Command):
    '''Cool.'''
    seconds = slot(float)
    def run(self):
        time.sleep(self.seconds)
raise SystemExit(Console(Program("desk", members=[Cool]), history=False, note="ready").run())
"""
    with Terminal(python("-c", code)) as terminal:
        terminal.answer("desk", "cool")
        terminal.see("seconds")
        time.sleep(1.2)  # what the user takes does not count
        terminal.answer("seconds", "0.1")
        terminal.see("ready\n")
        assert not [line for line in terminal.lines() if line.endswith("s") and "ready" in line]
        terminal.answer("desk", "cool 1.3")
        terminal.wait(lambda: re.search(r"ready  [1-9]\.[0-9]s", terminal.text()) is not None, "the seconds")
        terminal.answer("desk", "exit")
        assert terminal.end() == 0


class Slow(Command):
    """Take a while, in the background."""

    background = True

    def run(self) -> str:
        """Wait, then print."""
        time.sleep(0.2)
        return "slow"


def test_pages_and_jobs_go_to_files_too(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    out = io.StringIO()
    lines = "say --help > page\nslow >> jobs\nwait 1\nsay x >> jobs &\nwait 2\nfail >> jobs &\nwait 3\n"
    context = Context(stdin=io.StringIO(lines), stdout=out, stderr=out, environ={})
    program = Program("desk", members=[Say, Fail, Slow])
    assert Console(program, history=False, context=context, output_files=True, background=1).run() == 3
    assert (tmp_path / "page").read_text().startswith("desk say [PARTS...]")
    assert (tmp_path / "jobs").read_text() == "slow\nfirst\nx\n"
