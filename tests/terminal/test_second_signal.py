"""A signal at any line of what is open, and a second one at any line of the way out: all is as it was.

Modules: ``terminal.live_screen``, ``screen.full_screen``, ``system.process_signals``.

One process forks a child for each line, so that nothing but the drivers themselves takes time.
"""

from __future__ import annotations

import re
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import settings

from tests.harness import Terminal, python

#: Every how many lines a signal comes.
STEP = 1 if settings().max_examples > 1_000 else 61
#: There are so many times more lines on the whole way.
MANY = 7

PROGRAM = """
import os, signal, sys, termios, threading
import wesperon.terminal.tty_driver, wesperon.terminal.kept_lines, wesperon.paging.page
from wesperon import Button, Down, Field, Screen, ask, page, slot

first, second = (getattr(signal, name, None) for name in sys.argv[2:4])
step, most = map(int, sys.argv[4:])
at = 1
modes = termios.tcgetattr(1)
modes[3] &= ~termios.ECHO  # a key is typed ahead
termios.tcsetattr(1, termios.TCSANOW, modes)
FOLDERS = tuple(os.sep.join(["", "wesperon", name, ""]) for name in ("terminal", "system", "screen"))
# Lines are counted from the first of these functions on.
BEGINS = {
    "anything": ("tty_driver.py", "enter"),
    "start": ("live_screen.py", "start"),
    "finish": ("live_screen.py", "finish"),
    "handlers": ("process_signals.py", "_set_before"),
}
FILE, FUNCTION = BEGINS.get(sys.argv[2], ("process_signals.py", "_end"))


def printed():
    os.write(reached, b"<")
    print("printed behind")
    os.write(reached, b"P")


def rows():
    printed()
    for at in range(50):
        yield f"frame {at}"


def show_screen():
    mast = Field(slot(str, "Mast"), value="east")

    def close():
        printed()
        screen.close()

    screen = Screen(Down(mast, Button("Done", close, default=True)), title="Log")
    screen.call_later(5, printed)
    screen.run()


OPENS = {
    "page": lambda: page(rows()),
    "ask": lambda: ask("Note"),
    "screen": show_screen,
}


def show(at):
    count = 0
    has_begun = False

    def trace(frame, event, argument):
        global first
        nonlocal count, has_begun
        code = frame.f_code
        if not any(folder in code.co_filename for folder in FOLDERS):
            return None
        if event == "call":
            if not has_begun and code.co_name == FUNCTION and code.co_filename.endswith(FILE):
                has_begun = True
                os.write(reached, b"!")
            if code.co_name == "wait" and code.co_filename.endswith("tty_events.py") and first is not None:
                number, first = first, None
                threading.Timer(0.02, os.kill, [os.getpid(), number]).start()  # its handler is to be traced
        elif event == "line" and has_begun:
            count += 1
            if count == at:
                os.write(reached, f"{code.co_filename[-30:]}:{frame.f_lineno}".encode())
                os.kill(os.getpid(), second)
        return trace

    sys.settrace(trace)
    try:
        OPENS[sys.argv[1]]()
    except KeyboardInterrupt:
        pass
    finally:
        sys.settrace(None)
        sys.stdout.flush()


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
    place = os.read(reads, 200)
    os.close(reads)
    # The first signal may have come in the midst of tracing, where nothing is traced.
    place = place.decode() + ("" if b"!" in place else "once more")
    print("ended", at, status, termios.tcgetattr(1) == modes, "at", place, flush=True)
    if at > most or status == 1 or place.strip("<P!") == "":
        break
    at += step if "once more" not in place else 0
"""
#: What is told of each child, and what it left on the screen.
TOLD = re.compile(r"^begins (\d+)\n(.*?)ended \d+ (-?\d+) (True|False) at ?(.*?)$", re.MULTILINE | re.DOTALL)
#: What sets modes of the terminal, and each of them.
MODE, STYLE = re.compile(rb"\x1b\[\?([\d;]+)([hl])"), re.compile(rb"\x1b\[(\d) q")
USUAL = {b"25": b"h", b"7": b"h"}
#: The key that leaves each of them.
KEYS = {"page": "q", "ask": "x\r", "screen": "\r"}
#: What comes first, and the signal that comes at any line after it.
PAIRS = [
    *[(first, "SIGINT") for first in ("SIGTERM", "SIGUSR1", "finish", "anything")],
    *[(first, "SIGTERM") for first in ("SIGTERM", "start", "finish", "handlers", "anything")],
]
#: Every how many of their lines, where it is not ``STEP``; and after how many no signal comes.
FEW = max(STEP // 7, 1)
STEPS = {"start": FEW, "handlers": FEW, "SIGTERM": FEW, "SIGUSR1": FEW, "anything": STEP * MANY}
MOST = {"start": 60}


def ends_as_usual(sent: bytes) -> bool:
    """Return True if what was sent leaves the modes and the cursor of the terminal as they are usually."""
    last = dict(MODE.findall(sent))
    styles = STYLE.findall(sent)
    return all(way == USUAL.get(mode, b"l") for mode, way in last.items()) and styles[-1:] in ([], [b"0"])


@pytest.mark.parametrize(("first", "second"), PAIRS)
@pytest.mark.parametrize("opened", ["page", "ask", "screen"])
def test_two_signals_at_any_lines_leave_all_as_it_was(opened: str, first: str, second: str, tmp_path: Path) -> None:
    program = tmp_path / "program.py"
    program.write_text(PROGRAM)
    step, most = STEPS.get(first, STEP), MOST.get(first, 1_000_000)
    argv = python(str(program), opened, first, second, str(step), str(most))
    with Terminal(argv, rows=8, columns=150, history=30_000, env={"WESPERON_KEYS": "modal"}) as terminal:
        begun = 0
        while not terminal.is_closed:
            terminal.read(0.05)
            if terminal.received.count(b"begins ") > begun:
                begun += 1
                if not first.startswith("SIG"):
                    terminal.type(KEYS[opened])
        shown, received = terminal.everything(), terminal.received
    told = TOLD.findall(shown)
    assert len(told) > 5
    for at, left, status, modes, place in told:
        assert modes == "True", (at, place, left)
        assert first != "handlers" or status == "-15" or ":" not in place, (at, place, status)
        if opened != "ask":
            left = left.replace("Interrupted.\n", "")
            # A line of which nobody knows whether it is out is written again rather than lost.
            # One that is being printed may be out.
            times, has_begun, is_out = left.count("printed behind\n"), "<" in place, "P" in place
            assert left == "printed behind\n" * times, (at, place, left)
            assert is_out <= times <= 2 * has_begun, (at, place, left)
    starts = [*re.finditer(rb"begins ", received)]
    for begin, end in pairwise([found.start() for found in starts]):
        assert ends_as_usual(received[begin:end]), received[begin:end]
