"""Faults at system calls: whatever fails, and whenever, the terminal and the descriptors are as they were."""

from __future__ import annotations

import pytest

from campaign.modes import left_set
from tests.harness import Terminal, python

PROGRAM = """
import _thread, errno, os, select, sys, termios, threading, time
from wesperon import Console, Form, Problems, Program, slot

class Note(Form):
    note = slot()
    more = slot(default="")

Note.fill(["x"])
import wesperon.terminal.decoder, wesperon.terminal.seat.capture, wesperon.widgets.card, asyncio
where, name, way = sys.argv[1:4]
terminal = os.open("/dev/tty", os.O_RDWR)
real_write, calls, failing = os.write, [0], [0]
modes = termios.tcgetattr

def faulty(real, error):
    def call(*given, **named):
        calls[0] += 1
        if failing[0] and failing[0] <= calls[0] < failing[0] + int(sys.argv[4]):
            raise error
        return real(*given, **named)
    return call

class Poll:
    def __init__(self):
        self.real = real_poll()
        self.register = self.real.register
        self.poll = faulty(self.real.poll, OSError(errno.ENOMEM, "out of memory"))

def state():
    return [modes(terminal), os.fstat(1).st_ino, os.fstat(2).st_ino, sys.stdout, sys.stderr]

before = state()
real_poll = select.poll
if name == "poll":
    select.poll = Poll
else:
    module = {"os": os, "termios": termios, "_thread": _thread}[where]
    errors = {"os": OSError(errno.EIO, "fault"), "termios": termios.error(errno.EIO, "fault"),
              "_thread": RuntimeError("no more threads")}
    setattr(module, name, faulty(getattr(module, name), errors[where]))
for number in range(1, 10):
    calls[0], failing[0] = 0, number
    try:
        if way == "async":
            asyncio.run(Note.fill_async([], resume=False))
        elif way == "console":
            Console(Program("desk"), history=False).run()
        else:
            Note.fill([], resume=False)
    except (Problems, OSError, termios.error, RuntimeError, KeyboardInterrupt):
        pass
    failing[0] = 0
    if state() != before:
        changed = [a == b for a, b in zip(before, state())]
        real_write(terminal, b"CHANGED at call %d: %r\\r\\n" % (number, changed))
        break
real_write(terminal, b"the end\\r\\n")
"""

CALLS = [
    ("os", "write"), ("os", "read"), ("os", "dup"), ("os", "dup2"), ("os", "pipe"), ("os", "set_blocking"),
    ("os", "open"), ("os", "get_terminal_size"), ("termios", "tcsetattr"), ("termios", "tcgetattr"),
    ("_thread", "start_new_thread"), ("select", "poll"),
]  # fmt: skip


@pytest.mark.parametrize("way", ["", "async", "console"])
@pytest.mark.parametrize(("where", "name"), CALLS, ids=[f"{where}.{name}" for where, name in CALLS])
def test_a_system_call_that_fails_leaves_the_terminal_as_it_was(where: str, name: str, way: str) -> None:
    """Promise 4. The first nine calls of each sort fail in turn, each once: those that begin, go on, and end."""
    with Terminal(python("-c", PROGRAM, where, name, way, "1"), columns=100) as terminal:
        while b"the end" not in terminal.received and not terminal.is_closed:
            if not terminal.read(0.15) and terminal.process.isalive():
                terminal.send(b"x\r\x04")
        assert terminal.end() == 0, terminal.everything()
        assert b"CHANGED" not in terminal.received, terminal.everything()
        assert terminal.modes() == terminal.initial
        if name != "write":  # a terminal that takes no text cannot be told anything
            assert left_set(terminal.received) == []
