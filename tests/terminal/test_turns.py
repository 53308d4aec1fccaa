"""Several who want one terminal: the programs of a pipeline, a child of a program that asks, threads.

Modules: ``terminal.seat.turn``, ``terminal.seat.process_turn``.
"""

from __future__ import annotations

import asyncio
import fcntl
import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path
from types import SimpleNamespace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import ENTER, Terminal, python
from wesperon.terminal.seat.process_turn import TerminalTurn, holders_of
from wesperon.terminal.seat.turn import Turn

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


SEVERAL = """
import asyncio, sys, threading
from wesperon import Command, Console, Form, Program, slot

def note(name):
    return type("Note", (Form,), {"note": slot(ask=f"Thread {name}")})

def ask(name):
    print(f"{name} got", note(name).fill([], resume=False).note, flush=True)

class Say(Command):
    text = slot()
    def run(self):
        return f"said {self.text}"

threads = [threading.Thread(target=ask, args=(name,)) for name in "abc"[: int(sys.argv[1])]]
for thread in threads:
    thread.start()
if "console" in sys.argv:
    Console(Program("desk", members=[Say]), history=False).run()
if "loop" in sys.argv:
    print("loop got", asyncio.run(note("of the loop").fill_async([], resume=False)).note, flush=True)
for thread in threads:
    thread.join()
"""


@pytest.mark.parametrize(("count", "beside"), [(3, ""), (1, "console"), (2, "console"), (1, "loop"), (3, "loop")])
@pytest.mark.parametrize("plain", ["", "1"])
def test_whoever_asks_gets_what_was_typed_for_it(count: int, beside: str, plain: str) -> None:
    """Threads among each other, beside a console, beside an event loop: whoever has the terminal gets all keys."""
    wanted = {*"abc"[:count], *(["desk"] if beside == "console" else ["of the loop"] if beside else [])}
    env = {"WESPERON_PLAIN": plain}
    with Terminal(python("-c", SEVERAL, str(count), beside), env=env, rows=50) as terminal:
        answered: list[str] = []
        while wanted - set(answered):

            def asking() -> str:
                shown = [line.strip() for line in terminal.lines() if line.strip()]
                last = [line for line in shown if line.startswith(("Thread", "desk"))][-1:]
                name = last[0].removeprefix("Thread ").partition("  ")[0].rstrip(":") if last else ""
                return name if name in wanted and name not in answered else ""

            terminal.wait(lambda: bool(asking()), "a question")
            name = asking()
            terminal.wait(lambda: not terminal.read(0.2), "silence")
            text = f"for-{name.replace(' ', '-')}"
            for char in ("say " if name == "desk" else "") + text:
                terminal.type(char)
                terminal.read(0.005)
            terminal.type(ENTER)
            said = f"said {text}" if name == "desk" else f"loop got {text}" if " " in name else f"{name} got {text}"
            terminal.see(said)
            answered.append(name)
        if beside == "console":
            terminal.wait(lambda: not terminal.read(0.3), "silence")
            terminal.type("\x04")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


@given(st.lists(st.integers(1, 3), min_size=1, max_size=6))
def test_a_turn_is_one_threads_at_a_time_in_the_order_in_which_they_came(depths: list[int]) -> None:
    turn = Turn()
    inside: list[int] = []
    order: list[int] = []
    begun = [threading.Event() for _ in depths]

    def work(number: int) -> None:
        begun[number].set()
        for depth in range(depths[number]):  # asked inside itself
            assert turn.take() == (depth == 0)
        inside.append(number)
        order.append(number)
        assert inside == [number]
        inside.remove(number)
        for depth in reversed(range(depths[number])):
            assert turn.end() == (depth == 0)

    assert turn.take()
    threads = [threading.Thread(target=work, args=(number,)) for number in range(len(depths))]
    for number, thread in enumerate(threads):
        thread.start()
        begun[number].wait(20)
        while len(turn._queue) <= number:
            time.sleep(0.001)
    assert not turn.take()  # inside, whoever waits
    turn.end()
    assert order == []
    turn.end()
    for thread in threads:
        thread.join(20)
    assert order == list(range(len(depths)))
    assert turn.is_free


def test_tasks_take_turns_and_one_that_gives_up_holds_up_nobody() -> None:
    turn = Turn()
    order: list[str] = []

    async def ask(name: str) -> None:
        await turn.reserve()
        turn.take()
        order.append(name)
        await asyncio.sleep(0.05)
        turn.end()

    async def all_of_them() -> None:
        tasks = [asyncio.create_task(ask(name)) for name in "abcd"]
        await asyncio.sleep(0.01)
        tasks[1].cancel()
        await asyncio.gather(*tasks, return_exceptions=True)
        lost = asyncio.create_task(turn.reserve())  # ends before it takes what it has reserved
        await lost
        await ask("e")

    asyncio.run(all_of_them())
    assert order == ["a", "c", "d", "e"]
    assert turn.is_free


INSIDE = """
from wesperon import Form, fill, slot
class Inner(Form):
    why = slot(ask="Why")
def check(text):
    print("before", text)
    print("because of", Inner.fill([], resume=False).why)
class Outer(Form):
    target = slot("Target", check=check)
    lens = slot("Lens")
print("got", *fill(Outer, [], resume=False))
"""


@pytest.mark.parametrize("plain", ["", "1"])
def test_a_check_may_ask_and_print_in_the_midst_of_a_form(plain: str) -> None:
    with Terminal(python("-c", INSIDE), env={"WESPERON_PLAIN": plain}) as terminal:
        for label, text in (("Target", "Lantern"), ("Why", "clouds"), ("Lens", "wide")):
            terminal.see(label)
            terminal.wait(lambda: not terminal.read(0.2), "silence")
            terminal.type(text + ENTER)
        terminal.see("got Lantern wide")
        rows = [row.strip() for row in terminal.text().splitlines()]
        assert rows.index("before Lantern") < next(at for at, row in enumerate(rows) if row.startswith("Why"))
        assert next(at for at, row in enumerate(rows) if row.endswith("clouds")) < rows.index("because of clouds")
        if not plain:  # the form is drawn again below, whole
            assert [row for row in rows if row.startswith(("Target", "Lens"))] == ["Target  Lantern", "Lens  wide"]
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


@given(st.integers(0, 300), st.integers(0, 300), st.integers(1, 300), st.lists(st.tuples(*[st.integers(0, 300)] * 3)))
def test_a_lock_on_another_file_is_none_on_the_terminal(
    major: int, minor: int, inode: int, others: list[tuple[int, int, int]]
) -> None:
    file = SimpleNamespace(st_dev=os.makedev(major, minor), st_ino=inode)
    lines = [f"{at}: FLOCK  ADVISORY  WRITE {at} {a:02x}:{b:02x}:{c} 0 EOF" for at, (a, b, c) in enumerate(others, 2)]
    lines.insert(len(lines) // 2, f"1: FLOCK  ADVISORY  WRITE 1 {major:02x}:{minor:02x}:{inode} 0 EOF")
    lines.append(f"9: -> FLOCK  ADVISORY  WRITE 999 {major:02x}:{minor:02x}:{inode} 0 EOF")
    held = {1, *(at for at, other in enumerate(others, 2) if other == (major, minor, inode))}
    assert holders_of(file, lines) == held  # type: ignore[arg-type]


def test_the_system_lists_a_lock_as_it_is_looked_for(tmp_path: Path) -> None:
    if not Path("/proc/locks").exists():
        pytest.skip("the system lists no locks")
    with (tmp_path / "locked").open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        found = holders_of(os.fstat(file.fileno()), Path("/proc/locks").read_text().splitlines())
    assert found in ({os.getpid()}, set())  # a container may list those of its own alone, or none
