"""Promise 4 under signals: alone, in pairs, in storms, in nests, in threads, in loops.

Modules: ``system.signals``, ``terminal.seat.guard``.
"""

from __future__ import annotations

import os
import random
import signal
import sys
import time
from pathlib import Path

import pytest

from campaign.actions import ENDING
from campaign.modes import left_set
from tests.harness import CTRL_C, CTRL_D, ENTER, Terminal, python

QUESTION = (
    "from wesperon import Form, slot, fill\nclass Note(Form):\n    note = slot()\n    more = slot()\nfill(Note, [])"
)
IN_LOOP = "import asyncio\n" + QUESTION.replace("fill(Note, [])", "asyncio.run(Note.fill_async([]))")
IN_THREAD = "import threading\n" + QUESTION.replace(
    "fill(Note, [])", "threading.Thread(target=Note.fill, args=([],)).start()"
)
DESK = """
import asyncio, sys, threading, time
from wesperon import Command, Console, Program

class Inner(Command):
    def run(self):
        inner = Console(Program("inner", members=[Inner, Nap]), history=False, driver=console.driver_in_use)
        return inner.run_async() if console.is_async else inner.run()

class Nap(Command):
    def run(self):
        print("napping", flush=True)
        time.sleep(30)

console = Console(Program("desk", members=[Inner, Nap]), history=False)
threading.Thread(target=time.sleep, args=(60,), daemon=True).start()  # one that the system may give signals to
status = asyncio.run(console.run_async()) if "async" in sys.argv else console.run()
print("status", status, flush=True)
sys.exit(status)
"""


def is_as_before(terminal: Terminal) -> None:
    """The settings and the modes of the terminal are what they were."""
    terminal.wait(lambda: terminal.modes() == terminal.initial, "the settings as before")
    assert left_set(terminal.received) == []


@pytest.mark.parametrize("program", [QUESTION, IN_LOOP, IN_THREAD], ids=["blocking", "loop", "thread"])
def test_every_signal_that_ends_a_process_gives_the_terminal_back_first(program: str) -> None:
    chance = random.Random(len(program))
    pairs = [(first, second) for first in ENDING for second in ENDING]
    for names in [*((name,) for name in ENDING), *chance.sample(pairs, 6)]:
        with Terminal(python("-c", program)) as terminal:
            terminal.see("note")
            terminal.quiet()
            for name in names:
                terminal.process.kill(getattr(signal, name))
            assert terminal.end() in [-getattr(signal, name) for name in names], names
            is_as_before(terminal)


@pytest.mark.parametrize("way", ["sync", "async"])
@pytest.mark.parametrize("names", [("SIGTERM", "SIGHUP"), ("SIGTERM", "SIGTERM"), ("SIGHUP", "SIGUSR1")])
@pytest.mark.parametrize("doing", ["", "inner", "nap", "inner nap"])
def test_a_console_ends_by_signals_in_pairs_and_in_nests(way: str, names: tuple[str, str], doing: str) -> None:
    numbers = [getattr(signal, name) for name in names]
    for pause in (0.0, 0.01, 0.02) if doing.endswith("nap") and way == "async" else (0.0,):
        ended_by(numbers, doing, way, pause)


def ended_by(numbers: list[int], doing: str, way: str, pause: float) -> None:
    """Have a console end by signals, with a pause in seconds between them."""
    with Terminal(python("-c", DESK, way)) as terminal:
        terminal.see("desk")
        for word in doing.split():
            terminal.quiet()
            terminal.type(word + ENTER)
            terminal.see({"inner": "  inner", "nap": "\nnapping"}[word])
        if not doing.endswith("nap"):
            terminal.quiet()
        for number in numbers:
            if terminal.process.isalive():
                terminal.process.kill(number)
            time.sleep(pause)
        assert terminal.end() in [*(128 + number for number in numbers), *(-number for number in numbers)]
        is_as_before(terminal)


@pytest.mark.parametrize("way", ["sync", "async"])
def test_a_signal_leaves_consoles_inside_each_other_the_innermost_first(way: str) -> None:
    with Terminal(python("-c", DESK, way)) as terminal:
        for name in ("desk", "inner", "inner"):
            terminal.see(f"  {name}")
            terminal.quiet()
            terminal.type("inner" + ENTER)
        terminal.wait(lambda: terminal.text().count("inner  inner") == 2, "three consoles inside")
        terminal.quiet()
        terminal.process.kill(signal.SIGTERM)
        assert terminal.end() == 143
        assert "status 143" in terminal.everything()
        is_as_before(terminal)


@pytest.mark.parametrize("program", [QUESTION, IN_LOOP, DESK], ids=["blocking", "loop", "console"])
def test_a_storm_of_interrupts_leaves_the_terminal_as_it_was(program: str) -> None:
    for seed in range(3):
        chance = random.Random(seed)
        with Terminal(python("-c", program)) as terminal:
            terminal.quiet()
            for _ in range(30):
                if terminal.process.isalive():
                    terminal.process.kill(signal.SIGINT)
                    terminal.read(chance.choice([0, 0.001, 0.01]))
            if program == DESK:  # an interrupt drops the line, and never ends the console
                terminal.quiet()
                terminal.type(CTRL_D)
            terminal.end()
            is_as_before(terminal)


#: The thread that stops the process is late, so that all others have stopped, and were continued, before it.
LATE_STOP = """
import time
import wesperon.system.signals as stopping
class Late:
    def __getattr__(self, name):
        if name == "pthread_kill":
            time.sleep(0.4)
        return getattr(signals, name)
signals, stopping.signals = stopping.signals, Late()
"""


@pytest.mark.parametrize("late", ["", LATE_STOP])
def test_the_key_that_stops_works_in_a_question_of_a_thread(late: str, tmp_path: Path) -> None:
    (tmp_path / "asking.py").write_text(late + IN_THREAD)
    line = f"set -m; {sys.executable} {tmp_path / 'asking.py'}; echo stopped; stty -a; fg; echo end"
    with Terminal(["bash", "-c", line], rows=40) as terminal:
        terminal.see("note")
        terminal.quiet()
        terminal.type("half\x1a")
        terminal.see("stopped")
        terminal.wait(lambda: terminal.text().count("note  half") == 2, "the question, drawn again")
        assert " icanon" in terminal.text()
        terminal.quiet()
        terminal.type(" and half" + ENTER)
        terminal.see("more")
        terminal.quiet()
        terminal.type("x" + ENTER)
        terminal.see("end")
        assert terminal.end() == 0
        assert "half and half" in terminal.text()
        is_as_before(terminal)


HANDLED = """
import signal, sys
from wesperon import Form, slot
class Note(Form):
    note = slot()
def own(number, frame): print("own", number, flush=True)
signal.signal(signal.SIGUSR1, own)
signal.signal(signal.SIGINT, own)
signal.signal(signal.SIGALRM, signal.SIG_IGN)
woken = __import__("os").pipe2(__import__("os").O_NONBLOCK)
signal.set_wakeup_fd(woken[1])
before = {number: signal.getsignal(number) for number in signal.valid_signals()}
print("got", Note.fill([]).note)
assert before == {number: signal.getsignal(number) for number in signal.valid_signals()}
assert signal.set_wakeup_fd(-1) == woken[1]
print("numbers", sorted(set(__import__("os").read(woken[0], 99))))
"""


def test_what_the_program_handles_itself_stays_its_own() -> None:
    with Terminal(python("-c", HANDLED)) as terminal:
        terminal.see("note")
        terminal.quiet()
        for name in ("SIGUSR1", "SIGINT", "SIGALRM"):
            terminal.process.kill(getattr(signal, name))
            if name != "SIGALRM":
                terminal.see(f"own {int(getattr(signal, name))}")
        terminal.quiet()
        terminal.type("x" + ENTER)
        assert terminal.end() == 0
        assert "got x" in terminal.text()
        assert f"numbers [{int(signal.SIGINT)}, {int(signal.SIGUSR1)}]" in terminal.text()
        is_as_before(terminal)


FORKED = """
import multiprocessing, os, signal, time
from wesperon import Form, slot

def work():
    os.write(1, b"child is there\\n")
    time.sleep(30)

def check(text):
    child = multiprocessing.get_context("fork").Process(target=work)
    child.start()
    time.sleep(0.2)
    child.terminate()
    child.join()
    print("child ended by", child.exitcode)

class Note(Form):
    note = slot(check=check)

print("got", Note.fill([]).note)
"""


def test_a_child_that_was_forked_meanwhile_ends_by_its_own_signal() -> None:
    with Terminal(python("-W", "ignore", "-c", FORKED)) as terminal:
        terminal.answer("note", "x")
        terminal.see("got x")
        assert "child ended by -15" in terminal.text()
        assert terminal.end() == 0
        is_as_before(terminal)


LIVING = """
import os, threading, time
from wesperon import Form, slot
class Note(Form):
    note = slot()
def ask():
    print("got", Note.fill([], resume=False).note, flush=True)
    os._exit(0)
threading.Thread(target=ask, daemon=True).start()
time.sleep(0.7)
if os.fork() == 0:
    time.sleep(40)
    os._exit(0)
print("forked", os.getpid(), flush=True)
time.sleep(40)
"""


@pytest.mark.parametrize("killed", [False, True])
def test_a_child_that_lives_on_keeps_no_guard_from_its_work(killed: bool, tmp_path: Path) -> None:
    """The child has whatever was open when it was forked; the question ends all the same, and so does a kill."""
    (tmp_path / "living.py").write_text(LIVING)
    with Terminal(
        ["bash", "-c", f"{sys.executable} -W ignore {tmp_path / 'living.py'}; echo ended; sleep 20"]
    ) as terminal:
        terminal.see("forked")
        terminal.quiet()
        if killed:
            os.kill(int(terminal.text().rpartition("forked ")[2].split()[0]), signal.SIGKILL)
        else:
            terminal.answer("note", "x")
            terminal.see("got x")
        terminal.see("ended")
        is_as_before(terminal)
        terminal.type(CTRL_C)


def test_a_guard_leaves_the_modes_alone_once_a_shell_has_the_terminal(tmp_path: Path) -> None:
    """The process is stopped, the shell has the terminal and sets modes of its own, and then the process is killed."""
    (tmp_path / "asking.py").write_text(IN_THREAD)
    line = f"set -m; {sys.executable} {tmp_path / 'asking.py'}; stty -echo; kill -9 %1; sleep 0.7; stty -a; stty echo"
    with Terminal(["bash", "-c", line], rows=40) as terminal:
        terminal.see("note")
        terminal.quiet()
        # A stop that no process can handle: the terminal is not given back, and the guard is armed.
        os.kill(child_of(terminal.process.pid), signal.SIGSTOP)
        terminal.see(" -echo ")
        assert terminal.end() == 0


def child_of(process: int) -> int:
    """Return the only child of a process."""
    children = Path(f"/proc/{process}/task/{process}/children").read_text().split()
    assert len(children) == 1
    return int(children[0])


def test_an_interrupt_right_after_a_job_was_started_leaves_no_job_that_never_ran() -> None:
    jobs = DESK.replace("history=False)\nthreading", 'history=False, background=2, at_leaving="stop")\nthreading')
    jobs = jobs.replace("time.sleep(30)", "time.sleep(0.2)")
    for delay in (0, 0.003, 0.008, 0.02):
        with Terminal(python("-c", jobs), rows=40) as terminal:
            terminal.see("desk")
            terminal.quiet()
            terminal.type("nap &" + ENTER)
            time.sleep(delay)
            terminal.process.kill(signal.SIGINT)
            terminal.quiet()
            terminal.wait(lambda: not terminal.read(0.4), "silence")
            terminal.type("jobs" + ENTER)
            terminal.see("nothing runs in the background")
            terminal.quiet()
            terminal.type("exit" + ENTER)
            assert terminal.end() == 0
            is_as_before(terminal)


def test_a_console_that_waits_for_its_jobs_can_be_interrupted_without_a_trace() -> None:
    jobs = DESK.replace("history=False)\nthreading", "history=False, background=2)\nthreading")
    with Terminal(python("-c", jobs), rows=40) as terminal:
        terminal.see("desk")
        terminal.quiet()
        terminal.type("nap &" + ENTER)
        terminal.see("started")
        terminal.quiet()
        terminal.type("exit" + ENTER)
        terminal.see("waiting for the end")
        terminal.type(CTRL_C)
        time.sleep(0.3)
        terminal.type(CTRL_C)
        assert terminal.end() == 0
        assert "Traceback" not in terminal.everything()
        is_as_before(terminal)


def test_a_size_that_changes_between_two_lines_holds_for_the_next_one() -> None:
    """While a command runs no driver hears of the signal, and the size that was read last holds for a moment."""
    resizing = DESK.replace(
        '        print("napping", flush=True)\n        time.sleep(30)\n',
        "        import termios\n        termios.tcsetwinsize(0, (24, 33))\n",
    )
    with Terminal(python("-c", resizing)) as terminal:
        terminal.see("desk")
        terminal.quiet()
        terminal.type("nap" + ENTER)
        terminal.wait(lambda: terminal.text().count("desk") == 2, "the next line")
        terminal.quiet()
        assert len(terminal.text().split("\n")[-1]) <= 33
        terminal.type(CTRL_D)
        assert terminal.end() == 0


LATE = """
import os, signal, sys
from wesperon import fill, slot
import wesperon.terminal.ports.posix as posix
wait = posix.PosixPort.wait
def waits(self, seconds):
    found = wait(self, seconds)
    if found[0]:  # the keys that are there are thrown away before they are read
        import termios
        termios.tcflush(self.handle, termios.TCIFLUSH)
        os.kill(os.getpid(), signal.SIGINT)
    return found
posix.PosixPort.wait = waits
fill([], a=slot())
"""


@pytest.mark.parametrize("env", [{}, {"WESPERON_PLAIN": "1"}])
def test_an_interrupt_that_throws_away_what_was_to_be_read_is_heard(env: dict[str, str]) -> None:
    with Terminal(python("-c", LATE), env=env) as terminal:
        terminal.see("a")
        terminal.type("x" + ENTER)
        assert terminal.end() == -signal.SIGINT
        is_as_before(terminal)
