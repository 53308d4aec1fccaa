"""Work on a terminal, read back by an independent emulator: rows while it runs, and what they leave.

Modules: ``long_work.places``, ``terminal.foot_rows``, ``terminal.seat.holding``, ``system.original_streams``,
``terminal.seat.rows_turn``.
"""

from __future__ import annotations

import json
import random
import re
import signal
import sys
from pathlib import Path

import pytest

from tests.harness import CTRL_C, CTRL_D, ENTER, Terminal, python

PROGRAM = str(Path(__file__).with_name("random_work.py"))
SEEDS = [random.Random(28).randrange(10**6) + number for number in range(8)]


@pytest.mark.parametrize("seed", SEEDS)
def test_whatever_happens_the_last_lines_say_what_was_done(seed: int, tmp_path: Path) -> None:
    """And the lines of the program are whole, each in a row of its own and in their order."""
    result = tmp_path / "result.json"
    with Terminal([*python(PROGRAM), str(seed), str(result)], columns=60, rows=16, history=3000) as terminal:
        assert terminal.end() == 0
        rows = [row for row in terminal.everything().splitlines() if row]
        cursor, modes = terminal.screen.cursor, terminal.modes()
        assert modes == terminal.initial
    said = json.loads(result.read_text("utf-8"))
    for name, count in said["lines"].items():
        printed = [row for row in rows if row.startswith(f"<{name}:")]
        assert printed == [f"<{name}:{number}>" for number in range(count)]
    ends = {name: [row for row in rows if row.startswith(f"{name}: ")] for name in said["ended"]}
    for name, (how, count) in said["ended"].items():
        assert len(ends[name]) <= 1, rows
        if how == "failed":
            assert ends[name], rows
        for row in ends[name]:
            if name == "All":
                assert re.fullmatch(r"All: stopped after [\d.]+s", row)
                continue
            if "after" in row:  # nothing was counted
                assert (how, count) == ("failed", 0)
                continue
            number = re.search(rf"{how}(?: at|,) ([\d]+)", row)
            assert number is not None, row
            assert int(number[1]) == count, row
    others = [row for row in rows if not row.startswith("<") and not any(row in found for found in ends.values())]
    assert others == []
    assert cursor.x == 0


STACK = """
import sys, time
from wesperon import progress
for frame in progress(range(400), "Stacking", unit="frames"):
    time.sleep(0.02)
    if frame % 50 == 49:
        print("frame", frame, flush=True)
"""


def test_one_row_at_the_foot_says_how_far_it_is_and_what_is_printed_is_above() -> None:
    with Terminal([sys.executable, "-c", STACK]) as terminal:
        terminal.see("frame 99")
        terminal.wait(lambda: "s left" in terminal.lines()[2], "a row with the time left")
        lines = terminal.lines()
        assert lines[:2] == ["frame 49", "frame 99"]
        assert re.fullmatch(r"Stacking {20,}\d+%  \d+ of 400 frames  [\d.]+/s  \d+s left", lines[2])
        assert (terminal.screen.cursor.y, terminal.screen.cursor.x) == (3, 0)
        assert not terminal.screen.cursor.hidden
        assert any(terminal.screen.buffer[2][column].reverse for column in range(10, 30)), "a bar of the theme"
        terminal.type(CTRL_C)
        assert terminal.end() != 0
        assert re.search(r"^Stacking: (failed|stopped) at \d+ of 400 frames$", terminal.text(), re.MULTILINE)
        assert terminal.text().count("Stacking") == 1
        assert terminal.modes() == terminal.initial


def test_it_redraws_at_most_twenty_times_a_second_and_not_if_nothing_changes() -> None:
    script = """
import time
from wesperon import working
with working("Cooling", total=10**6) as work:
    end = time.monotonic() + 3
    while time.monotonic() < end:
        work.add()
        time.sleep(0.001)
    print("waits", flush=True)
    time.sleep(1.5)
"""
    with Terminal([sys.executable, "-c", script]) as terminal:
        terminal.see("waits")
        drawn = terminal.received.count(b"\x1b[?2026h")
        assert 0 < drawn <= 42, "two seconds of it are shown"
        assert terminal.end() == 0
        assert terminal.received.count(b"\x1b[?2026h") - drawn <= 5, "the time left and the rate, nothing else"


@pytest.mark.parametrize("columns", [20, 30, 45, 80, 200])
def test_the_row_fits_any_terminal(columns: int) -> None:
    with Terminal([sys.executable, "-c", STACK], columns=columns, rows=8) as terminal:
        terminal.see("frame 99")
        terminal.see("%")
        assert [line for line in terminal.lines() if "%" in line] == [terminal.lines()[2]]
        terminal.type(CTRL_C)
        terminal.end()


def test_a_size_that_changes_leaves_one_row() -> None:
    with Terminal([sys.executable, "-c", STACK], columns=90, rows=12) as terminal:
        terminal.see("%")
        for columns in (60, 25, 100):
            terminal.resize(columns, 12)
            received = len(terminal.received)
            terminal.wait(lambda: terminal.received.count(b"\x1b[?2026h", received) > 3, "it is drawn again")  # noqa: B023
            assert sum("%" in line for line in terminal.lines()) == 1, terminal.text()
        terminal.type(CTRL_C)
        terminal.end()


def test_enter_that_the_user_types_meanwhile_tears_nothing() -> None:
    with Terminal([sys.executable, "-c", STACK]) as terminal:
        terminal.see("%")
        for _ in range(3):
            received = len(terminal.received)
            terminal.type(ENTER)
            terminal.wait(lambda: terminal.received.count(b"\x1b[?2026h", received) > 3, "it is drawn again")  # noqa: B023
        terminal.wait(lambda: sum("Stacking" in line for line in terminal.lines()) == 1, "one row")
        terminal.type(CTRL_C)
        terminal.end()


def test_a_program_that_is_killed_leaves_a_terminal_that_can_be_used() -> None:
    with Terminal([sys.executable, "-c", STACK]) as terminal:
        terminal.see("%")
        terminal.process.kill(signal.SIGKILL)
        terminal.wait(lambda: terminal.is_closed, "the end")
        assert terminal.screen.cursor.x == 0
        assert "Stacking" in terminal.lines()[terminal.screen.cursor.y - 1]
        assert not terminal.screen.cursor.hidden


def test_a_shell_stops_it_and_goes_on(tmp_path: Path) -> None:
    """What the shell prints stays, and the row is below it afterwards; in the background nobody shows it."""
    with Terminal(["bash", "--norc", "-i"], env={"PS1": "$ "}) as terminal:
        terminal.see("$")
        script = tmp_path / "stack.py"
        script.write_text(STACK)
        terminal.type(f"{sys.executable} {script}{ENTER}")
        terminal.see("%")
        terminal.type("\x1a")
        terminal.see("Stopped")
        frames = terminal.text().count("\nframe")
        terminal.type(f"bg{ENTER}")
        terminal.wait(lambda: terminal.text().count("\nframe") > frames + 1, "it goes on")
        after = terminal.text().split("Stopped")[1]
        assert "%" not in after
        terminal.type(f"fg{ENTER}")
        terminal.wait(lambda: "%" in terminal.text().split("Stopped")[1], "a row again")
        terminal.type(CTRL_C)
        terminal.see(" at ")
        lines = terminal.text().splitlines()
        assert sum("Stopped" in line for line in lines) == 1


CONSOLE = """
import time
from wesperon import Console, Program, progress
def stack():
    for frame in progress(range(200), "Stacking"):
        time.sleep(0.05)
Console(Program("desk", members=[stack]), history=False).run()
"""


JOB = """
from wesperon import Command
class Cool(Command):
    background = True
    def run(self):
        for degree in progress(range(60), "Cooling"):
            time.sleep(0.1)
"""


def test_programs_on_different_terminals_know_nothing_of_each_other() -> None:
    program = CONSOLE.replace("history=False", "history=False, background=2").replace("def stack", JOB + "def stack")
    program = program.replace("[stack]", "[Cool, stack]")
    with Terminal(python("-c", program)) as first, Terminal(python("-c", program)) as second:
        for terminal in (first, second):
            terminal.see("Enter: run")
            terminal.type("cool &" + ENTER)  # its output is taken by then, so that the terminal is asked for by name
        for terminal in (first, second, first):
            terminal.wait(lambda t=terminal: any("Cooling" in row and "%" in row for row in t.lines()), "a row")  # type: ignore[misc]
        for terminal in (first, second):
            terminal.see("Cooling: done, 60 in ")
            terminal.wait(lambda t=terminal: "%" not in t.text(), "no row left")  # type: ignore[misc]


def test_a_command_of_a_console_that_was_stopped_goes_on_below_what_others_have_shown() -> None:
    with Terminal(["bash", "--norc", "-i"], env={"PS1": "$ ", "SCRIPT": CONSOLE}) as terminal:
        terminal.see("$")
        terminal.type(f'{sys.executable} -c "$SCRIPT"{ENTER}')
        terminal.see("Enter: run")
        terminal.type("stack" + ENTER)
        terminal.see("%")
        terminal.type("\x1a")
        terminal.see("Stopped")
        terminal.type(f"fg{ENTER}")
        terminal.wait(lambda: "%" in terminal.text().split("Stopped")[-1], "a row below")
        terminal.type(CTRL_C)
        terminal.see("Stacking: stopped at ")
        terminal.see("Enter: run")
        lines = terminal.text().splitlines()
        assert sum("Stopped" in line for line in lines) == 1
        assert sum("%" in line for line in lines) == 1, "the one that was there when it stopped"
        terminal.type(CTRL_D)
        terminal.see("$")


INSIDE = """
import time
from wesperon import Console, Program, working
def name():
    print("half a line, ", end="", flush=True)
    time.sleep(1.5)
    print("and the rest")
with working("Session", total=3) as work:
    time.sleep(1.5)
    Console(Program("desk", members=[name]), history=False).run()
    work.add()
"""


def test_a_console_that_is_opened_inside_work_has_the_row_above_its_line() -> None:
    with Terminal([sys.executable, "-c", INSIDE]) as terminal:
        terminal.see("Session")
        terminal.see("Enter: run")
        terminal.wait(lambda: "%" in terminal.lines()[0] and "desk" in terminal.lines()[1], "the row above the line")
        terminal.type("name" + ENTER)
        terminal.wait(lambda: "%" in terminal.lines()[1] and not terminal.lines()[2], "the row at the foot")
        terminal.see("half a line, and the rest")
        terminal.wait(lambda: "%" in terminal.lines()[2] and "desk" in terminal.lines()[3], "the row above the line")
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        *_, last = terminal.text().splitlines()
        assert last.startswith("Session: done, 1 of 3 in ")
        assert sum("%" in row for row in terminal.lines()) == 0


FORKS = """
import os, sys, time
from wesperon import progress
for number in progress(range(60), "Forking"):
    time.sleep(0.03)
    child = os.fork()
    if not child:
        for item in progress(range(3), "in a child"):
            print("child", number)
        sys.stdout.flush()
        os._exit(0)
    os.waitpid(child, 0)
"""


def test_children_that_are_forked_meanwhile_print_and_end() -> None:
    """Whatever the thread that draws had locked: it is not there in the child."""
    with Terminal([sys.executable, "-c", FORKS], history=2000) as terminal:
        assert terminal.end() == 0
        assert terminal.received.count(b"child 59") == 3
        assert re.search(r"^Forking: done, 60 in [\d.]+s$", terminal.text(), re.MULTILINE)


OPENING = """
import time
from wesperon import progress
from wesperon.terminal.seat.process_turn import TerminalTurn
turn = TerminalTurn()
for frame in progress(range(80), "Stacking"):
    time.sleep(0.04)
    turn.take() if frame % 2 else turn.end()
"""


def test_a_question_of_the_process_that_is_being_opened_or_closed_leaves_no_row() -> None:
    """It has the turn among processes a moment before it takes the rows away, and for a moment after it has ended."""
    with Terminal([sys.executable, "-c", OPENING]) as terminal:
        assert terminal.end() == 0
        assert [row for row in terminal.everything().splitlines() if "%" in row] == []


PIPED = """
import sys, time
from wesperon import ask, progress
for number in progress(range(int(sys.argv[2])), sys.argv[1]):
    time.sleep(0.1)
    if sys.argv[3:] == ["pipe"]:
        print(number, flush=True)
    if sys.argv[3:] == ["ask"] and number == 20:
        print("filter:", ask("Which filter?"), file=sys.stderr)
if sys.argv[3:] != ["pipe"]:
    sys.stdin.read()
"""


@pytest.mark.parametrize("second", ["", "ask"])
def test_of_the_programs_of_a_pipeline_one_at_a_time_shows_its_rows(second: str) -> None:
    """The last line of each stays, and so does what is asked."""
    command = '"$0" -c "$1" First 40 pipe | "$0" -c "$1" Second 30 $2'
    with Terminal(["bash", "--norc", "-c", command, sys.executable, PIPED, second]) as terminal:
        terminal.see("%")
        if second:
            terminal.see("Which filter?")
            terminal.wait(lambda: "Enter" in terminal.text(), "the question")
            terminal.type("Red" + ENTER)
            terminal.see("filter: Red")
        assert terminal.end() == 0
        rows = terminal.text().splitlines()
        assert sum(row.startswith("First: done, 40 in ") for row in rows) == 1, rows
        assert sum(row.startswith("Second: done, 30 in ") for row in rows) == 1, rows
        assert sum("%" in row for row in rows) <= len(second[:1]), rows


ASKS = """
import subprocess, sys, time
from wesperon import ask, progress, working
for frame in progress(range(30), "Stacking"):
    time.sleep(0.1)
    if frame == 14:
        print("filter:", ask("Which filter?"))
    if frame == 20:
        work = working("Cooling")
        with work.aside():
            subprocess.run(["sh", "-c", "stty -echo; echo child begins; read go; stty echo; echo child ends"])
"""


def test_a_question_takes_the_rows_away_while_it_is_open_and_a_child_has_the_terminal() -> None:
    with Terminal([sys.executable, "-c", ASKS]) as terminal:
        terminal.see("%")
        terminal.see("Which filter?")
        terminal.wait(lambda: "Ctrl-C" in terminal.text(), "the question")
        assert "Stacking" not in terminal.text()
        terminal.type("Red" + ENTER)
        terminal.see("filter: Red")
        terminal.see("%")
        terminal.see("child begins")
        assert "Stacking" not in terminal.text()
        terminal.type(ENTER)
        assert terminal.end() == 0
        assert terminal.text().splitlines()[-3:-1] == ["child begins", "child ends"]
        assert re.fullmatch(r"Stacking: done, 30 in [\d.]+s", terminal.text().splitlines()[-1])


@pytest.mark.parametrize("environment", [{"TERM": "dumb"}, {"WESPERON_PLAIN": "1"}])
def test_where_nothing_can_be_drawn_there_are_lines(environment: dict[str, str]) -> None:
    script = STACK.replace("400", "100")
    with Terminal([sys.executable, "-c", script], env=environment) as terminal:
        assert terminal.end() == 0
        assert b"\x1b" not in terminal.received
        lines = [line for line in terminal.lines() if line.startswith("Stacking")]
        assert 3 <= len(lines) <= 11
        assert lines[-1].startswith("Stacking: done, 100 frames in ")


def test_without_colours_the_bar_is_told_by_weight() -> None:
    with Terminal([sys.executable, "-c", STACK], env={"NO_COLOR": "1"}) as terminal:
        terminal.see("%")
        colours = re.findall(rb"\x1b\[[\d;]*3\d[\d;]*m", terminal.received)
        assert colours == []
        assert b"\x1b[7m" in terminal.received
        terminal.type(CTRL_C)
        terminal.end()


def test_other_terminals_have_rows_too() -> None:
    """Standard error leads to a terminal that is not the one of the process: nothing else is open there."""
    with Terminal(["sleep", "60"]) as other:
        path = f"/proc/{other.process.pid}/fd/1"
        with Terminal(["sh", "-c", f'"$0" -c "$1" 2>{path}', sys.executable, STACK.replace("400", "90")]) as terminal:
            other.see("%")
            assert terminal.end() == 0
        other.see("Stacking: done, 90 frames")
        assert other.text().count("Stacking") == 1
        assert terminal.text() == "frame 49"
