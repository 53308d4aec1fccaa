"""Several who want one terminal: the programs of a pipeline, a child of a program that asks, threads."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

import pytest

from tests.harness import ENTER, Terminal, python
from wesperon.terminal.seat.process_turn import TerminalTurn

PIPELINE = """
import asyncio, sys
from wesperon import Form, slot

class Log(Form):
    target = slot()
    frames = slot(int)

label = sys.argv[1]
Log.target.ask = label
if "async" in sys.argv:
    record = asyncio.run(Log.fill_async([]))
else:
    record = Log.fill([])
print(label, *record, "" if sys.stdin.isatty() else sys.stdin.read(), flush=True)
"""


@pytest.mark.parametrize("ways", [("", ""), ("async", ""), ("async", "async")])
@pytest.mark.parametrize("plain", ["0", "1"])
def test_programs_of_a_pipeline_ask_one_after_the_other(ways: tuple[str, str], plain: str, tmp_path: Path) -> None:
    program = tmp_path / "log.py"
    program.write_text(PIPELINE)
    answers = {"Upper?": "high", "Lower?": "deep"}
    names = tuple(answers)
    one, two = (f"{sys.executable} {program} {name} {way}" for name, way in zip(names, ways, strict=True))
    with Terminal(["sh", "-c", f"{one} | {two}; echo all done"], env={"WESPERON_PLAIN": plain}) as terminal:

        def sees(count: int, *texts: str) -> None:
            terminal.wait(lambda: sum(map(terminal.text().count, texts)) >= count, f"{count} of {texts}")

        for turn in (1, 2):
            sees(turn, *names)
            name = max(names, key=terminal.text().rfind)
            terminal.type(answers[name] + ENTER)
            sees(turn, "frames")
            terminal.type(f"{turn}" + ENTER)
        terminal.see("all done")
        text = terminal.text()
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
    assert "Lower? deep " in text
    assert " Upper? high " in text


CHILD = """
import subprocess, sys
from wesperon import Form, slot
child = "from wesperon import Form, slot, fill; print('child got', *fill([], inner=slot()))"

def check(text):
    subprocess.run([sys.executable, "-c", child])

class Log(Form):
    outer = slot(check=check)

print("got", Log.fill([]).outer, flush=True)
"""


def test_a_child_that_is_waited_for_does_not_wait_for_its_parent() -> None:
    with Terminal(python("-c", CHILD)) as terminal:
        terminal.answer("outer", "one")
        terminal.see("inner")
        terminal.quiet()
        terminal.type("two" + ENTER)
        terminal.see("child got two")
        terminal.see("got one")
        assert terminal.end() == 0


def test_nobody_waits_without_a_terminal(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("wesperon.terminal.seat.process_turn.own_terminal", lambda: "")
    one, other = TerminalTurn(), TerminalTurn()
    assert one.take()
    assert other.take()
    one.end()
    monkeypatch.setattr("wesperon.terminal.seat.process_turn.own_terminal", lambda: "/nowhere/at/all")
    assert one.take()


def test_a_turn_is_one_processes_at_a_time(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "terminal"
    path.touch()
    monkeypatch.setattr("wesperon.terminal.seat.process_turn.own_terminal", lambda: str(path))
    turn = TerminalTurn()
    assert turn.take()
    assert turn.take()
    other = "from wesperon.terminal.seat import process_turn as m; import os, sys; os.getppid = lambda: 0;"
    other += f"m.own_terminal = lambda: {str(path)!r}; turn = m.TerminalTurn(); sys.exit(turn.take())"
    assert subprocess.run(python("-c", other), check=False).returncode == 0
    child = other.replace("os.getppid = lambda: 0;", "")
    assert subprocess.run(python("-c", child), check=False).returncode == 1  # the one who waits for it has the turn
    turn.end()
    turn.end()
    assert subprocess.run(python("-c", other), check=False).returncode == 1


THREAD = """
import sys, threading, time
from wesperon import Form, slot

class Log(Form):
    frames = slot(int)
    password = slot(secret=True)

def work():
    print("got", Log.fill([]).frames, flush=True)

thread = threading.Thread(target=work, daemon="daemon" in sys.argv)
thread.start()
if "ends" in sys.argv:
    time.sleep(float(sys.argv[-1]))
    sys.exit(3)
thread.join()
"""


@pytest.mark.parametrize("name", ["SIGTERM", "SIGHUP", "SIGINT", "SIGKILL"])
def test_a_signal_gives_the_terminal_back_that_a_thread_has(name: str) -> None:
    with Terminal(python("-c", THREAD, "daemon")) as terminal:
        terminal.see("frames")
        terminal.quiet()
        terminal.process.kill(getattr(signal, name))
        assert terminal.end() == -getattr(signal, name)
        terminal.wait(lambda: terminal.modes() == terminal.initial, "the modes as before")
        assert terminal.received.count(b"\x1b[?2004l") >= terminal.received.count(b"\x1b[?2004h")


def test_the_end_of_the_main_thread_gives_the_terminal_back_that_a_thread_has() -> None:
    with Terminal(python("-c", THREAD, "daemon", "ends", "1.5")) as terminal:
        terminal.see("frames")
        assert terminal.end() == 3
        assert terminal.modes() == terminal.initial
        assert terminal.received.rindex(b"\x1b[?2004l") > terminal.received.rindex(b"\x1b[?2004h")
    with Terminal(python("-c", THREAD, "ends", "0")) as terminal:  # the process waits for the thread
        terminal.answer("frames", "7")
        terminal.answer("password", "hush")
        terminal.see("got 7")
        assert terminal.end() == 3
        assert terminal.modes() == terminal.initial
        assert b"hush" not in terminal.received


def test_a_thread_whose_guard_was_killed_goes_on(tmp_path: Path) -> None:
    with Terminal(python("-c", THREAD)) as terminal:
        terminal.see("frames")
        terminal.quiet()
        children = Path(f"/proc/{terminal.process.pid}/task")
        for task in children.iterdir():
            for child in (task / "children").read_text().split():
                os.kill(int(child), signal.SIGKILL)
        terminal.type("7" + ENTER)
        terminal.answer("password", "hush")
        terminal.see("got 7")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
