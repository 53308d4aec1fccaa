"""What a process prints while the line of its console is open."""

from __future__ import annotations

import io
import sys
import threading
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import CTRL_C, CTRL_D, ENTER, Terminal, python
from wesperon.console.stray_output import LineStream, StrayOutput

ALL_SORTS = r"""
import logging, os, subprocess, sys, threading, time, warnings
logging.getLogger().addHandler(logging.StreamHandler())
from wesperon import Command, Console, Program

class Go(Command):
    def run(self):
        print("going", end="", flush=True)
        time.sleep(0.1)
        print(" gone")

console = Console(Program("desk", members=[Go]), history=False, capture="off" not in sys.argv)

def work():
    while not console.driver_in_use or not console.driver_in_use.depth:
        time.sleep(0.01)
    print("one")
    print("two", file=sys.stderr)
    logging.warning("three")
    warnings.warn("four")
    subprocess.run(["sh", "-c", "echo five; echo six >&2; printf half; sleep 0.1; echo -line"])
    print("\x1b[31mred\x1b[2J\x07")
    print("dots", end="")
    print(".", end="", flush=True)
    time.sleep(0.1)
    print(".")
    os.write(1, b"bytes \xff\n")
    raise ValueError("in a thread")

before = sys.stdout, sys.stderr, os.fstat(1).st_ino, os.fstat(2).st_ino
threading.Thread(target=work).start()
status = console.run()
assert before == (sys.stdout, sys.stderr, os.fstat(1).st_ino, os.fstat(2).st_ino)
print("status", status)
"""


def test_everything_that_is_printed_comes_above_the_line() -> None:
    with Terminal(python("-c", ALL_SORTS), rows=60, columns=100) as terminal:
        terminal.see("desk")
        terminal.quiet()
        terminal.type("g")
        terminal.see("ValueError: in a thread")
        terminal.quiet()
        terminal.type("o" + ENTER)
        terminal.see("going gone")
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        lines = terminal.text().splitlines()
        assert terminal.modes() == terminal.initial
    assert [line for line in lines if "warn" not in line.lower()][:3] == ["one", "two", "three"]
    at = lines.index("five")
    assert lines[at : at + 6] == ["five", "six", "half-line", "red^[[2J^G", "dots..", "bytes \\xff"]
    assert lines[-4:] == ["  desk  go", "going gone", "  desk", "status 0"]
    assert b"\x1b[31mred" in terminal.received
    assert terminal.text().count("desk  go") == 1


STORM = """
import sys, threading, time
from wesperon import Command, Console, Program

class Go(Command):
    def run(self):
        print("gone")

console = Console(Program("desk", members=[Go]), history=False)

def work(name):
    while not console.driver_in_use or not console.driver_in_use.depth:
        time.sleep(0.01)
    for number in range(LINES):
        print(name, number, "x" * (number % 90))
    print("end of", name)

threads = [threading.Thread(target=work, args=(name,)) for name in "abcd"]
for thread in threads:
    thread.start()
console.run()
print("left")
"""


def test_nothing_is_lost_torn_or_doubled_in_a_storm_of_lines_and_keys() -> None:
    count = 500
    with Terminal(python("-c", STORM.replace("LINES", str(count))), columns=120, history=10_000) as terminal:
        terminal.see("desk")
        typed = "the quick mast"
        for char in typed:
            terminal.type(char)
            terminal.read(0.01)
        for name in "abcd":
            terminal.wait(lambda name=name: f"end of {name}" in terminal.everything(), name)  # type: ignore[misc]
        terminal.quiet()
        assert terminal.text().splitlines()[-2] == f"  desk  {typed}"
        terminal.type("\x15go" + ENTER)
        terminal.see("gone")
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        lines = terminal.everything().splitlines()
    for name in "abcd":
        mine = [line for line in lines if line.startswith(f"{name} ")]
        assert mine == [f"{name} {number} {'x' * (number % 90)}".rstrip() for number in range(count)]


ORDERED = """
import os, subprocess, sys, threading, time
from wesperon import Command, Console, Program

class Go(Command):
    def run(self):
        print("a terminal" if os.isatty(1) and os.isatty(2) else "no terminal")

console = Console(Program("desk", members=[Go]), history=False)

def work():
    while not console.driver_in_use or not console.driver_in_use.depth:
        time.sleep(0.01)
    for number in range(100):
        os.write(1 + number % 2, b"raw %d\\n" % number)
        print("line", number, file=(sys.stdout, sys.stderr)[number % 2])
    print("all of them")

threading.Thread(target=work, daemon=True).start()
console.run()
"""


def test_what_goes_past_the_streams_keeps_its_place_and_commands_have_the_terminal() -> None:
    with Terminal(python("-c", ORDERED), history=1_000) as terminal:
        terminal.see("all of them")
        terminal.quiet()
        terminal.type("go" + ENTER)
        terminal.see("a terminal")
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        lines = [line for line in terminal.everything().splitlines() if line.startswith(("raw", "line"))]
    assert lines == [f"{how} {number}" for number in range(100) for how in ("raw", "line")]


FORKING = """
import os, threading, time
from wesperon import Command, Console, Program

class Go(Command):
    def run(self):
        print("gone")

console = Console(Program("desk", members=[Go]), history=False)

def work():
    while not console.driver_in_use or not console.driver_in_use.depth:
        time.sleep(0.01)
    process = os.fork()
    if not process:
        print("in the fork", flush=True)
        os._exit(0)
    os.waitpid(process, 0)
    print("after it")

threading.Thread(target=work, daemon=True).start()
console.run()
"""


def test_what_a_forked_process_prints_is_not_lost() -> None:
    with Terminal(python("-W", "ignore", "-c", FORKING)) as terminal:
        terminal.see("in the fork\nafter it")
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0


def test_without_capture_nothing_is_replaced() -> None:
    with Terminal(python("-c", ALL_SORTS, "off"), rows=60, columns=100) as terminal:
        terminal.see("in a thread")
        terminal.quiet()
        terminal.type(CTRL_C + CTRL_D)
        terminal.see("status 0")
        assert b"\x1b[2J" in terminal.received


class Heard:
    """A driver with an open line that keeps what is said."""

    depth = 1

    def __init__(self) -> None:
        self.lock = threading.RLock()
        self.told: list[str] = []

    def say(self, text: str) -> None:
        self.told += text.replace("\x1b[m", "").split("\n")


@given(st.lists(st.tuples(st.integers(0, 3), st.text(st.sampled_from("ab \n"), max_size=6)), max_size=40))
def test_lines_of_threads_are_put_together_whole(pieces: list[tuple[int, str]]) -> None:
    heard: Any = Heard()
    stray = StrayOutput(heard)
    original = io.StringIO()
    stream: Any = LineStream(original, stray)
    number = [0]
    stream._begun = {}
    real = threading.get_ident
    try:
        threading.get_ident = lambda: number[0]
        for thread, text in pieces:
            number[0] = thread
            assert stream.write(text) == len(text)
    finally:
        threading.get_ident = real
    expected: list[str] = []
    rest = dict.fromkeys(range(4), "")
    for thread, text in pieces:
        *lines, rest[thread] = (rest[thread] + text).split("\n")
        expected += lines
    assert heard.told == expected
    assert original.getvalue() == ""
    stream.end_lines()
    assert sorted(original.getvalue()) == sorted("".join(rest.values()))


def test_a_stream_is_given_back_whatever_ends_the_console(monkeypatch: pytest.MonkeyPatch) -> None:
    heard: Any = Heard()
    for name in ("stdout", "stderr"):
        monkeypatch.setattr(sys, name, io.StringIO())
    before = sys.stdout, sys.stderr
    stray = StrayOutput(heard)
    stray.taken_streams = ["stdout", "stderr"]
    stray.open()
    assert isinstance(sys.stdout, LineStream)
    with pytest.raises(TypeError, match="must be str"):
        sys.stdout.write(b"x")  # type: ignore[arg-type]
    sys.stdout.writelines(["a", "b\n", "c"])
    assert heard.told == ["ab"]
    heard.depth = 0
    sys.stdout.write("d\n")
    stray.close()
    assert (sys.stdout, sys.stderr) == before
    assert before[0].getvalue() == "cd\n"
