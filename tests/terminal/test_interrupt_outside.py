"""An interrupt after any call, while nothing is open on the terminal: what was begun is undone, and nothing is left.

Modules: ``system.descriptors``, ``system.process_signals``.

Python raises KeyboardInterrupt once a call has returned, so also between a file that was opened and the line that notes
its number. One process forks a child for each such place.
"""

from __future__ import annotations

import os
import re
from pathlib import Path

import pytest
from hypothesis import settings

from tests.harness import ENTER, Terminal, python
from wesperon.system.descriptors import Descriptors

#: At every how many places an interrupt comes.
STEP = 1 if settings().max_examples > 1_000 else 17

PROGRAM = """
import dis, gc, os, pathlib, signal, sys, termios, time
import wesperon.terminal.tty_driver, wesperon.terminal.kept_lines, wesperon.paging.page
from wesperon import *
from wesperon.system.process_signals import SIGNALS
from wesperon.terminal.seat.seat import OWN_SEAT

what, step = sys.argv[1], int(sys.argv[2])
path = pathlib.Path(sys.argv[0] + ".txt")
path.write_text("line\\n" * 100)

class Plan(Form):
    note = slot(str, "Note", default="dry")

def park():
    pass

def show_screen():
    screen = Screen(Button("Done", lambda: screen.close(1)))
    screen.run()

OPENS = {
    "ask": lambda: ask("Note"),
    "form": lambda: Plan.fill([], asking="all"),
    "screen": show_screen,
    "page": lambda: page(path),
    "console": lambda: Console(Program("desk", members=[park])).run(),
}
#: The steps after which the interpreter looks whether a signal has come.
CALLS = {"CALL", "CALL_FUNCTION_EX", "JUMP_BACKWARD", "RESUME"}
places = {}

def places_of(code):
    if code not in places:
        steps = [*dis.get_instructions(code)]
        places[code] = {after.offset for before, after in zip(steps, steps[1:]) if before.opname in CALLS}
    return places[code]

def opened():
    return sorted(os.readlink(one.path) for one in os.scandir("/proc/self/fd") if os.path.lexists(one.path))

def handlers():
    return [signal.getsignal(number) for number in range(1, signal.NSIG)]

def show(at):
    count = 0

    def trace(frame, event, argument):
        nonlocal count
        code = frame.f_code
        if "/wesperon/" not in code.co_filename:
            return None
        frame.f_trace_opcodes = True
        if event == "opcode" and count < at and not SIGNALS._opened and frame.f_lasti in places_of(code):
            count += 1
            if count == at:
                os.write(reached, f"{code.co_filename[-30:]}:{frame.f_lineno} ".encode())
                os.kill(os.getpid(), signal.SIGINT)
        return trace

    files, handled = opened(), handlers()
    sys.settrace(trace)
    try:
        OPENS[what]()
    except KeyboardInterrupt:
        pass
    finally:
        sys.settrace(None)
    gc.collect()
    end = time.monotonic() + 5
    while opened() != files and time.monotonic() < end:  # a thread may be about to close its end of a pipe
        time.sleep(0.01)
    found = (
        opened() == files, handlers() == handled, signal.set_wakeup_fd(-1), OWN_SEAT.turn.take(), len(SIGNALS._stack)
    )
    os.write(reached, b"left all" if found == (True, True, -1, True, 0) else str(found).encode())

at = 1
modes = termios.tcgetattr(1)
while True:
    termios.tcflush(0, termios.TCIFLUSH)
    print("begins", at, flush=True)
    reads, reached = os.pipe()
    process = os.fork()
    if not process:
        show(at)
        os._exit(0)
    status = os.waitstatus_to_exitcode(os.waitpid(process, 0)[1])
    os.close(reached)
    place = os.read(reads, 500).decode()
    os.close(reads)
    print("ended", at, status, termios.tcgetattr(1) == modes, place, flush=True)
    if ":" not in place:
        break
    at += step
"""
#: The keys that leave each of them.
KEYS = {"ask": "x" + ENTER, "form": ENTER, "screen": ENTER, "page": "q", "console": "exit" + ENTER}
TOLD = re.compile(r"ended (\d+) (.*)$", re.MULTILINE)


@pytest.mark.parametrize("opened", KEYS)
def test_an_interrupt_after_any_call_outside_a_question_leaves_nothing(opened: str, tmp_path: Path) -> None:
    program = tmp_path / "program.py"
    program.write_text(PROGRAM)
    with Terminal(python(str(program), opened, str(STEP)), rows=8, columns=300, history=30_000) as terminal:
        begun = 0
        while not terminal.is_closed:
            terminal.read(0.05)
            if terminal.received.count(b"begins ") > begun:
                begun += 1
                terminal.type(KEYS[opened])
        told = TOLD.findall(terminal.everything())
    assert len(told) > 200 / STEP, terminal.everything()
    assert [(at, said) for at, said in told if not re.fullmatch(r"0 True (\S+:\w+ )?left all", said.rstrip())] == []


def test_descriptors_are_closed_once_with_what_holds_them(tmp_path: Path) -> None:
    path = tmp_path / "file"
    path.write_text("x")
    before = set(os.listdir("/proc/self/fd"))
    held = Descriptors()
    first = held.open(str(path), os.O_RDONLY)
    read_end, write_end = held.pipe()
    taken = os.dup(first)
    held.add(taken)
    assert len({first, read_end, write_end, taken}) == 4
    os.write(write_end, b"news")
    assert os.read(read_end, 10) == b"news"
    with pytest.raises(BlockingIOError):
        os.read(read_end, 10)
    os.close(read_end)  # by somebody else: the others are closed all the same
    held.close()
    assert set(os.listdir("/proc/self/fd")) <= before | {str(read_end)}
    other = os.open(path, os.O_RDONLY)
    held.close()  # and none twice
    os.fstat(other)
    os.close(other)
    held.open(str(path), os.O_RDONLY)
    del held
    assert set(os.listdir("/proc/self/fd")) <= before | {str(read_end)}
    with pytest.raises(FileNotFoundError):
        Descriptors().open(str(path) + "x", os.O_RDONLY)
