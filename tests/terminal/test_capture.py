"""What a process prints while something is open on its terminal.

Modules: ``terminal.seat.capture``, ``terminal.seat.diversion``, ``terminal.seat.seat``.
"""

from __future__ import annotations

import contextlib
import io
import random
import re
import sys
from collections.abc import Iterator
from pathlib import Path

import pyte
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import CTRL_C, CTRL_D, ENTER, Terminal, python
from wesperon.system.streams import StandardStream
from wesperon.terminal.inbox import MOST_WAITING, Said
from wesperon.terminal.seat.capture import Capture
from wesperon.testing import Scripted
from wesperon.text.escape import showable
from wesperon.text.overwriting import last_state

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
    """A question that is open, and keeps what is said above it."""

    def __init__(self) -> None:
        self.told: list[str] = []

    def say(self, text: str) -> bool:
        self.told += text.replace("\x1b[m", "").split("\n")
        return True

    def has_room(self) -> bool:
        return True


@contextlib.contextmanager
def taken() -> Iterator[tuple[Capture, Heard, StandardStream, io.StringIO]]:
    """A capture that takes one stream, as if that led to a terminal."""
    heard, original, stream = Heard(), io.StringIO(), StandardStream("stdout")
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(sys, "stdout", original)
        patch.setattr("wesperon.terminal.seat.capture.STREAMS", {"stdout": stream})
        patch.setattr("wesperon.terminal.seat.capture._is_on_terminal", lambda stream: True)
        patch.setattr("wesperon.terminal.seat.capture.is_own_terminal", lambda handle: False)
        capture = Capture(heard)
        capture.open()
        yield capture, heard, stream, original
        while stream.taker is not None:
            capture.close()


@given(st.lists(st.tuples(st.integers(0, 3), st.text(st.sampled_from("ab \n"), max_size=6)), max_size=40))
def test_lines_of_threads_are_put_together_whole(pieces: list[tuple[int, str]]) -> None:
    with taken() as (capture, heard, stream, original):
        number = [0]
        capture.begin()
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr("_thread.get_ident", lambda: number[0])
            for thread, text in pieces:
                number[0] = thread
                assert stream.write(text) == len(text)
        expected: list[str] = []
        rest = dict.fromkeys(range(4), "")
        for thread, text in pieces:
            *lines, rest[thread] = (rest[thread] + text).split("\n")
            expected += lines
        assert heard.told == expected
        assert original.getvalue() == ""
        capture.end()
        capture._end_lines()
        assert sorted(original.getvalue()) == sorted("".join(rest.values()))


def test_a_stream_is_given_back_whatever_ends_the_question() -> None:
    with taken() as (capture, heard, stream, original):
        assert getattr(sys, stream.name) is stream
        capture.begin()
        with pytest.raises(TypeError, match="must be str"):
            stream.write(b"x")
        sys.stdout.writelines(["a", "b\n", "c"])
        assert heard.told == ["ab"]
        capture.end()
        sys.stdout.write("d\n")
        capture.close()
        assert sys.stdout is original
        assert original.getvalue() == "cd\n"


def test_what_is_open_inside_is_captured_by_the_outermost() -> None:
    with taken() as (capture, heard, _, original):
        capture.begin()
        for _ in range(2):
            capture.open()
            capture.begin()
            print("inside")
            capture.end()
            capture.close()
        print("outside")
        assert heard.told == ["inside", "inside", "outside"]
        assert original.getvalue() == ""


def test_a_stream_that_somebody_else_has_put_there_stays() -> None:
    with taken() as (capture, _, _, original):
        capture.begin()
        other = io.StringIO()
        with contextlib.redirect_stdout(other):
            print("redirected")
            capture.end()
            capture.close()
            assert sys.stdout is other
        assert other.getvalue() == "redirected\n"
        print("after")  # the stream that was kept does what the original one does
        assert original.getvalue() == "after\n"


class Tee(io.StringIO):
    """A stream of a program's own, which writes on to the one that it found."""

    def __init__(self) -> None:
        super().__init__()
        self.before = sys.stdout

    def write(self, text: str) -> int:
        self.before.write(text)
        return super().write(text)


def test_a_stream_that_writes_on_to_ours_does_not_go_round_for_ever(monkeypatch: pytest.MonkeyPatch) -> None:
    with taken() as (capture, _, stream, _):
        tee = Tee()
        capture.close()
        monkeypatch.setattr(sys, "stdout", tee)
        monkeypatch.setattr(sys, "__stdout__", io.StringIO())
        stream.use()
        print("once")
        stream.release()
        assert tee.getvalue() == "once\n"
        assert sys.stdout is tee


@given(st.lists(st.text(st.sampled_from("ab"), max_size=5), max_size=6), st.sampled_from(["", "\r"]))
def test_a_carriage_return_starts_the_line_again_as_a_terminal_does(states: list[str], end: str) -> None:
    line = "\r".join(states) + end
    screen = pyte.Screen(80, 2)
    pyte.Stream(screen).feed(line)
    assert last_state(line).rstrip() == screen.display[0].rstrip()


@given(st.lists(st.sampled_from(["a", "b", " ", "\r", "\x1b[K", "\x1b[1K", "\x1b[2K"]), max_size=12))
def test_what_erases_a_line_is_obeyed_in_it(pieces: list[str]) -> None:
    line = "".join(pieces)
    screen = pyte.Screen(80, 2)
    pyte.Stream(screen).feed("\r" + line)
    assert last_state("\r" + line).rstrip() == screen.display[0].rstrip()


def test_colours_of_a_line_that_is_drawn_again_stay_with_their_characters() -> None:
    assert last_state("\x1b[31mload 3%\x1b[m\r\x1b[32mload 9%\x1b[m") == "\x1b[m\x1b[32mload 9%\x1b[m"
    assert last_state("plain\r") == "plain"


def test_who_says_more_than_can_be_shown_waits_so_that_memory_stays_bounded() -> None:
    class Full(Heard):
        waited = 0

        def has_room(self) -> bool:
            self.waited += len(self.told) > 3
            return len(self.told) <= 3

    full = Full()
    capture = Capture(full)
    for number in range(5):
        capture.show(f"line {number}")
    assert full.waited > 100  # looked again and again, for a quarter of a second each
    driver = Scripted()
    for number in range(2 * MOST_WAITING):
        assert driver.inbox.has_room == (number <= MOST_WAITING)
        driver.inbox.post(Said("x"))


@given(st.text(st.sampled_from("a\x1b[3;12mKJHlh\n\t\r\x07\x9b")))
def test_nothing_but_lines_tabs_and_styles_reaches_the_terminal(text: str) -> None:
    """Promise 5, for what a process prints: no sequence but SGR, no control but line feed and tab."""
    shown = re.sub(r"\x1b\[[0-9;:]*m", "", showable(text))
    assert all(char in "\n\t" or char.isprintable() for char in shown)


OPENED = """
import os, subprocess, sys, threading, time
from wesperon import Form, Guide, any_of, fill, one_of, slot
way = sys.argv[1]
SLOTS = {
    "card": {"target": slot(), "frames": slot(int)}, "menu": {"lens": slot(one_of(["wide", "narrow"]))},
    "checks": {"lenses": slot(any_of(["wide", "narrow"]))}, "rows": {"names": slot(many=True, least=1)},
    "summary": {"target": slot()}, "secret": {"word": slot(secret=True)}, "lines": {"log": slot(lines=True)},
}
def work():
    while os.isatty(1):  # until the question is open
        time.sleep(0.01)
    time.sleep(0.3)
    print("print")
    print("error", file=sys.stderr)
    os.write(1, b"raw\\n")
    subprocess.run(["sh", "-c", "echo child"])
    print("half", end="")
    time.sleep(0.05)
    print("-line")
    print("load 1%\\rload 99%")
    print("a terminal" if sys.stdout.isatty() else "no terminal", os.isatty(1), end="\\n")
    from wesperon import terminal_size
    print("size", terminal_size().columns)
threading.Thread(target=work, daemon=True).start()
if way == "guide":
    Guide(sys.argv[2]).walk([], resume=False)
else:
    form = type("Plan", (Form,), SLOTS[way])
    fill(form, [], review=way == "summary", resume=False)
print("the end", sys.stdout.isatty(), os.isatty(1), flush=True)
"""


STEPS = """
start = "lamp"
[steps.lamp]
ask = "Lamp"
kind = "boolean"
next = "end"
[steps.end]
ends = "x"
"""


@pytest.mark.parametrize("plain", ["", "1"])
@pytest.mark.parametrize("way", ["card", "menu", "checks", "rows", "summary", "secret", "lines", "guide"])
def test_whatever_is_open_has_what_is_printed_above_it(way: str, plain: str, tmp_path: Path) -> None:
    guide = tmp_path / "dome.toml"
    guide.write_text(
        'start = "lamp"\n[steps.lamp]\nask = "Lamp"\nkind = "boolean"\nnext = "end"\n[steps.end]\nends = "x"\n'
    )
    with Terminal(
        python("-c", OPENED, way, str(guide)), env={"WESPERON_PLAIN": plain}, rows=60, columns=70
    ) as terminal:
        if way == "summary":
            terminal.wait(lambda: not terminal.read(0.1) and terminal.received != b"", "a question")
            terminal.type("x" + ENTER)
        terminal.see("size 70")
        terminal.wait(lambda: not terminal.read(0.2), "silence")
        lines = terminal.text().splitlines()
        printed = ["print", "error", "raw", "child", "half-line", "load 99%", "a terminal False", "size 70"]
        assert [line for line in lines if line in printed] == printed
        if not plain:  # the question is below, in one piece
            assert lines.index("size 70") < min(at for at, line in enumerate(lines) if "Ctrl-C" in line)
        terminal.type({"rows": "x\r\r\x1b\r", "lines": "x\x04", "card": "x\r5\r", "guide": "y\r"}.get(way, "x\r\r"))
        terminal.wait(lambda: terminal.is_closed or not terminal.read(0.3), "silence")
        if not terminal.is_closed and terminal.process.isalive():
            terminal.type("\x04\x03")
        terminal.end()
        assert terminal.modes() == terminal.initial


LEFT = """
import subprocess
from wesperon import Command, Console, Program
class Leave(Command):
    def run(self):
        subprocess.Popen(
            ["sh", "-c", "for i in 1 2 3; do until [ -e $i ]; do sleep 0.02; done; echo from the child $i; done"]
        )
Console(Program("desk", members=[Leave]), history=False).run()
"""


def test_a_line_that_a_child_of_a_command_tears_is_drawn_right_by_the_next_key(tmp_path: Path) -> None:
    with Terminal(python("-c", f"import os; os.chdir({str(tmp_path)!r})\n{LEFT}"), rows=40) as terminal:
        terminal.see("desk")
        terminal.quiet()
        terminal.type("leave" + ENTER)
        terminal.wait(lambda: terminal.text().count("  desk") == 2, "the next line")
        terminal.quiet()
        terminal.type("hel")
        for number in (1, 2, 3):
            terminal.wait(lambda: not terminal.read(0.2), "silence")
            (tmp_path / str(number)).touch()
            terminal.see(f"from the child {number}")
            terminal.type("p"[: number == 1] or " ")
            terminal.wait(lambda: not terminal.read(0.2), "silence")
            rows = terminal.text().split("\n")[-2:]
            assert rows[0].rstrip().startswith("  desk  help")
            assert rows[1].strip().startswith("Enter: run   Tab: complete")
            assert terminal.screen.cursor.x == len("  desk  help") + number - 1
        terminal.type("\x15" + CTRL_D)
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


BETWEEN = """
import sys, threading, time
from wesperon import Command, Console, Program
stop = threading.Event()
def say(name):
    number = 0
    while not stop.is_set():
        print(f"<{name}:{number}>")
        number += 1
        time.sleep(0.0005)
class Talk(Command):
    def run(self):
        for name in "ab":
            threading.Thread(target=say, args=(name,), daemon=True).start()
        for number in range(400):
            print(f"<own:{number}>")
            if number % 40 == 0:
                time.sleep(0.002)
        print("<half", end="", flush=True)
        for _ in range(60):  # a line that grows keeps nobody waiting either
            time.sleep(0.005)
            print(".", end="", flush=True)
        print(":done>")
        stop.set()
sys.setswitchinterval(1e-5)
Console(Program("desk", members=[Talk]), history=False).run()
"""


def test_what_a_command_prints_is_not_torn_by_what_threads_print_meanwhile() -> None:
    """The built-in print writes a text and its end one after the other; a line of another thread may come between."""
    with Terminal(python("-c", BETWEEN), rows=40, history=20_000) as terminal:
        terminal.answer("desk", "talk")
        terminal.see(":done>")
        terminal.quiet()
        rows = [row for row in terminal.everything().split("\n") if row.startswith("<") and "half" not in row]
        torn = [row for row in rows if not re.fullmatch(r"<(a|b|own):\d+>", row)]
        assert torn == []
        assert [row for row in rows if "own" in row] == [f"<own:{number}>" for number in range(400)]
        assert sum("<a" in row for row in rows) > 50  # a line that has no end for long keeps nobody waiting
        terminal.type(CTRL_D)
        assert terminal.end() == 0


SLOW_LINES = """
import sys, threading, time
from wesperon import Form, slot
class Slow(str):
    '''A text that takes a while to become one, as of a large object: the line has begun by then.'''
    def __str__(self):
        time.sleep(0.0005)
        return str.__str__(self)
lock = threading.Lock()
def say(name, number):
    with lock:  # two that print at once tear each other's lines in every program
        print(Slow(f"<{name}"), Slow("is"), Slow("at"), Slow(f"{number}>"))
    time.sleep(number % 7 * 0.001)
def ask(name):
    form = type("Note", (Form,), {"note": slot(ask=f"Note of {name}")})
    for number in range(6):
        form.fill([], resume=False)
        for more in range(3):
            say(name, 3 * number + more)
def go(name):
    for number in range(60): say(name, number)
threads = [threading.Thread(target=ask, args=(name,)) for name in "ab"]
threads.append(threading.Thread(target=go, args=("c",)))
for thread in threads: thread.start()
ask("main")
for thread in threads: thread.join()
print("all told")
"""


@pytest.mark.parametrize("plain", ["", "1"])
def test_a_question_that_opens_tears_no_line_that_a_thread_has_begun(plain: str) -> None:
    """Questions of three threads open and close at any moment of the lines that these, and a fourth, print."""
    env = {"WESPERON_PLAIN": plain, "PYTHONUNBUFFERED": ""}
    pace = random.Random(plain)
    with Terminal(python("-c", SLOW_LINES), env=env, rows=40, history=20_000) as terminal:
        typed = 0
        while "all told" not in terminal.everything():
            terminal.read(pace.choice([0.01, 0.05]))
            if typed < 18 and re.search(r"Note of \w+:? *(\n +Enter: .*)?$", terminal.everything().rstrip()):
                if plain and terminal.read(0.05):
                    continue  # what is typed before a plain question is there is echoed above it
                terminal.type("x\r")
                typed += 1
        told = [row.strip() for row in terminal.everything().split("\n") if re.search("<|is|>", row)]
        wanted = [f"<{name} is at {number}>" for name in ("a", "b", "main") for number in range(18)]
        assert sorted(told) == sorted([*wanted, *(f"<c is at {number}>" for number in range(60))])
        assert terminal.end() == 0
