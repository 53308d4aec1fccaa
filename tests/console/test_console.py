"""Programs of several commands, and the console over them.

Modules: ``console.console``, ``console.builtin_commands``, ``console.command_lines``, ``console.console_line``,
``console.entered``, ``console.open_console``.
"""

from __future__ import annotations

import signal
import sys
import time
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import CTRL_C, CTRL_D, ENTER, UP, Terminal, example, python
from tests.tables import tabled
from wesperon import Command, Console, DeclarationError, Form, Problems, Program, Refusal, slot
from wesperon.commands.command_tree import kebab
from wesperon.editing.keys.events import Paste
from wesperon.testing import Press, Scripted

done: list[Any] = []


class Expose(Command):
    """Expose a frame."""

    seconds = slot(int, "Seconds", low=1)
    note = slot(default="")

    def run(self) -> str:
        done.append(self.seconds)
        return f"exposed for {self.seconds} s"


class QueueTarget(Command):
    """Put a target into the queue."""

    def run(self) -> None:
        raise Refusal("", 3)


class Park(Command):
    name = "stow"

    def run(self) -> None:
        raise Refusal("the dome is open", status=4)


class Break(Command):
    def run(self) -> None:
        raise ZeroDivisionError("no flats")


PROGRAM = Program("desk", version="1.2", description="The night desk.", members=[Expose, QueueTarget, Park, Break])


@tabled
def test_words_name_a_command_and_its_values(
    words: list[str], status: int, out: str, err: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert PROGRAM.main(words) == status
    printed = capsys.readouterr()
    assert printed.out == out
    assert err in printed.err


def test_help_lists_the_commands_and_their_values(capsys: pytest.CaptureFixture[str]) -> None:
    assert PROGRAM.main(["--help"]) == 0
    assert "  queue-target  Put a target into the queue." in capsys.readouterr().out
    assert PROGRAM.main(["expose", "--help"]) == 0
    assert "  1  --seconds=NUMBER  Seconds: a whole number, 1 or more" in capsys.readouterr().out


def test_a_missing_command_is_asked_for_where_somebody_is_there() -> None:
    driver = Scripted([Press("enter"), "7", Press("enter")])
    assert PROGRAM.call([], driver) == 0
    assert done[-1] == 7
    assert "expose        Expose a frame." in driver.frames[0]


def test_one_command_calls_another_and_names_come_from_classes() -> None:
    assert Expose(seconds=9).run() == "exposed for 9 s"
    assert [kebab(name) for name in ("QueueTarget", "HTTPProxy", "A1B", "_Park")] == [
        "queue-target", "http-proxy", "a1-b", "park",
    ]  # fmt: skip
    with pytest.raises(DeclarationError, match="two members"):
        Program("desk", members=[Expose, type("Expose", (Command,), {})])
    with pytest.raises(Problems, match="is ambiguous: queue-target or queue"):
        Program("desk", members=[QueueTarget, type("Queue", (Command,), {})]).find("que")


def console(*script: Any) -> tuple[int, Console, Scripted]:
    driver = Scripted(script)
    opened = Console(PROGRAM, driver=driver)
    return opened.run(), opened, driver


def test_a_console_runs_lines_until_it_is_left() -> None:
    enter = Press("enter")
    lines = ["", " expose 5 ", "nothing", "exspose 5", "expose 'x", "stow", "break", "exit"]
    script: list[Any] = [part for line in lines[:5] for part in (line, enter)]
    script += [Press("ctrl-c"), *(part for line in lines[5:] for part in (line, enter))]
    status, opened, driver = console(*script)
    assert status == 0
    assert "exposed for 5 s" in driver.said
    for said in (
        '"nothing" is not a command of desk; there are: expose,', "nearest: expose", "the dome is open",
        "ZeroDivisionError: no flats",
    ):  # fmt: skip
        assert said in "\n".join(driver.said)
    assert any("the quote ' is never closed" in frame for frame in driver.frames)
    assert opened.history.added == ["nothing", "exspose 5", "stow", "break", "exit"]


def test_what_was_cut_in_one_line_comes_back_in_the_next() -> None:
    enter = Press("enter")
    *_, driver = console(
        "expose 42", Press("ctrl-w"), Press("ctrl-u"), enter, "expose ", Press("ctrl-y"), enter, "exit", enter
    )
    assert any('"expose" is not a whole number' in line for line in driver.said)
    *_, driver = console(
        "expose 42", Press("ctrl-w"), Press("ctrl-c"), "expose ", Press("ctrl-y"), enter, "exit", enter
    )
    assert driver.said == ["exposed for 42 s"]


def test_the_end_of_input_runs_no_line_that_is_half_typed() -> None:
    _, opened, _ = console("sto", Press("ctrl-d"), "w", Press("enter"), Press("ctrl-d"))
    assert opened.history.added == ["stow"]


def test_a_console_points_at_the_word_under_the_line() -> None:
    *_, driver = console("expose 'a b' --note x", Press("enter"), Press("ctrl-d"))
    lines = driver.said
    assert lines[0] == "               ^^^^^"
    assert lines[1].startswith('  --seconds  "a b" is not a whole number')


def test_a_console_in_a_terminal() -> None:
    with Terminal(example("nightdesk.py")) as terminal:
        modes = terminal.initial
        terminal.see("Ctrl-D: leave")
        terminal.quiet()
        terminal.type("ex\t")
        terminal.see("exit    Leave")
        terminal.type("p\tHOLLIN-051 90" + ENTER)
        terminal.answer("Frames", "4")
        terminal.see("queued as number 1")
        terminal.answer("queued as number 1", UP)
        terminal.answer("Frames", "2")
        terminal.see("queued as number 2")
        terminal.quiet()
        terminal.type("expose" + CTRL_C)
        terminal.answer("night desk  expose", "qeue")
        terminal.see("nearest: queue")
        terminal.answer("nearest: queue", "QUEUE")
        terminal.see("2  HOLLIN-051: 2 x 90 s")
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        assert terminal.modes() == modes


def test_a_console_is_left_by_a_word_and_an_interrupted_question_goes_back_to_it() -> None:
    with Terminal(example("nightdesk.py")) as terminal:
        terminal.answer("leave", "expose HOLLIN-051")
        terminal.see("Seconds each")
        terminal.quiet()
        terminal.type("9" + CTRL_C)
        terminal.see("Interrupted.")
        terminal.answer("leave", "EXIT")
        assert terminal.end() == 0
    with Terminal(example("nightdesk.py")) as terminal:
        terminal.see("leave")
        terminal.quiet()
        terminal.process.kill(signal.SIGTERM)
        assert terminal.end() == 128 + signal.SIGTERM


#: A console all of whose functions are broken, in its own ways.
BROKEN = """
import asyncio, sys, time
from wesperon import Command, Console, Program, slot

class Nasty(Exception):
    def __str__(self):
        raise RuntimeError("no text")

class Fail(Command):
    how = slot(default="plain")
    def run(self):
        if self.how == "plain": raise ValueError("a fault\x1b[2J")
        if self.how == "nasty": raise Nasty
        if self.how == "exit": raise SystemExit(3)
        if self.how == "message": sys.exit("cannot go on")
        if self.how == "assert": assert False
        if self.how == "recursion": self.run()
        if self.how == "closed": sys.stdout.close(); print("x")

class Wait(Command):
    def run(self):
        print("waiting", flush=True)
        time.sleep(60)

class Sleep(Command):
    async def run(self):
        print("sleeping", flush=True)
        await asyncio.sleep(60)

def broken(*given):
    raise ValueError("broken on purpose")

program = Program("desk", members=[Fail, Wait, Sleep], bindings={"ctrl-o": "break"}, actions={"break": broken})
console = Console(program, prompt=broken, note=broken, private=broken)
if "async" in sys.argv:
    sys.exit(asyncio.run(console.run_async()))
sys.exit(console.run())
"""


@pytest.mark.parametrize("mode", ["sync", "async"])
def test_nothing_that_a_programs_function_does_ends_the_console(mode: str) -> None:
    with Terminal(python("-c", BROKEN, mode), rows=60) as terminal:
        terminal.see("ValueError: broken on purpose")
        for line, said in [
            ("fail", "ValueError: a fault^[[2J"), ("fail nasty", "Nasty: (its text cannot be shown)"),
            ("fail message", "cannot go on"), ("fail assert", "AssertionError"),
            ("fail recursion", "RecursionError"), ("fail exit", ""), ("nothing", "is not a command of desk"),
        ]:  # fmt: skip
            terminal.answer("desk", line)
            terminal.see(said)
        terminal.quiet()
        terminal.type("abc\x0f")
        terminal.see("ValueError in break")
        terminal.type("\x15")
        for line, said, times in (("wait", "waiting", 1), ("sleep", "sleeping", 1), ("wait", "waiting", 2)):
            terminal.answer("desk", line)
            terminal.wait(lambda said=said, times=times: terminal.everything().count(said) == times, said)  # type: ignore[misc]
            terminal.type(CTRL_C)
            terminal.see("Interrupted.")
            terminal.quiet()
        terminal.answer("desk", "fail closed")
        terminal.see("closed file")
        terminal.answer("desk", "exit")
        assert terminal.end() == 0


def test_faults_are_seen_where_standard_error_leads_elsewhere() -> None:
    with Terminal(["bash", "-c", f"{sys.executable} -c '{BROKEN}' 2> /dev/null"], rows=60) as terminal:
        terminal.see("ValueError: broken on purpose")
        terminal.answer("desk", "fail")
        terminal.see("ValueError: a fault^[[2J")
        terminal.answer("desk", "exit")
        assert terminal.end() == 0


@pytest.mark.parametrize("stream", ["/dev/full", "closed"])
def test_an_output_that_takes_nothing_does_not_end_the_console(stream: str) -> None:
    to = ">&- 2>&-" if stream == "closed" else f"> {stream} 2> {stream}"
    with Terminal(["bash", "-c", f"{sys.executable} -c '{BROKEN}' {to}"], rows=60) as terminal:
        for line in ("fail", "help", "fail exit", "nothing"):
            terminal.answer("desk", line)
            terminal.see(f"desk  {line}")
        terminal.see("is not a command of desk")
        terminal.answer("desk", "exit")
        terminal.wait(lambda: terminal.is_closed or not terminal.process.isalive(), "the end")


def test_lines_are_kept_between_runs_and_shared_on_demand(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path)}
    with Terminal(example("nightdesk.py"), env=env) as terminal:
        terminal.answer("leave", "expose HOLLIN-051 90 4")
        terminal.answer("queued as number 1", " queue")
        terminal.answer("1  HOLLIN-051", "expose HOLLIN-064 60 'x")
        terminal.see("Enter: add a line")
        terminal.type("y'" + ENTER)
        terminal.see("whole number")
        terminal.see("Enter: run")  # the status is kept before the next prompt
        terminal.process.kill(signal.SIGKILL)
    with Terminal(example("nightdesk.py"), env=env) as one, Terminal(example("nightdesk.py"), env=env) as other:
        one.see("leave")
        one.quiet()
        one.type("expose HOLLIN-0" + UP)
        one.see("night desk  expose HOLLIN-064 60 'x\n              y'")
        one.type("\x1b[1;5A\x1b[F" + UP)
        one.see("night desk  expose HOLLIN-051 90 4")
        one.type(ENTER)
        one.see("queued as number 1")
        other.see("leave")
        other.quiet()
        other.type("\x12HOLLIN")
        other.see("search  HOLLIN")
        other.type("\x07\x18\x08" + UP)
        other.see("night desk  expose HOLLIN-051 90 4")
        other.type("\x15qu")
        other.quiet()
        assert "night desk  qu\n" in other.text() + "\n"  # what begins with a blank is not kept, nor hinted at
        for terminal in (one, other):
            terminal.type("\x15" + CTRL_D)
            assert terminal.end() == 0
    kept = (tmp_path / "night desk" / "history.txt").read_text().splitlines()
    assert [line for line in kept if line[:1] not in "·⁼#"] == [
        "expose HOLLIN-051 90 4", "expose HOLLIN-064 60 'x", "\ty'", "expose HOLLIN-051 90 4",
    ]  # fmt: skip
    assert kept.count("⁼⁰") == 2
    assert kept.count("⁼²") == 1


class Login(Command):
    token = slot(secret="anywhere")
    host = slot(default="")

    def run(self) -> None:
        pass


def test_lines_with_secrets_and_private_ones_are_not_kept() -> None:
    """Promise 6."""
    program = Program("desk", members=[Login, Expose])
    lines = ["login --token moonstone", "login", "lgoin --token moonstone", "expose 5", "expose 7", "help"]
    script: list[Any] = [part for line in lines for part in (line, Press("enter"))]
    script.insert(4, "moonstone")
    script.insert(5, Press("enter"))
    opened = Console(program, private=lambda line: "7" in line, driver=Scripted(script))
    assert opened.run() == 0
    assert opened.history.added == ["login", "expose 5", "help"]


LINES = ["login moonstone", "log moonstone x", "LOGIN --token=moonstone", "lo x", "expose 5", "# x", "expose 7", "help"]


@given(st.lists(st.sampled_from(LINES), min_size=1, max_size=4))
def test_of_several_lines_entered_at_once_each_may_keep_all_out(lines: list[str]) -> None:
    """Whatever keeps a line out by itself: its command, in full or cut short, or what the program says."""

    def kept(text: str) -> list[str]:
        script: list[Any] = [Paste(text), Press("enter")]
        opened = Console(program, history=False, private=lambda line: line.endswith("7"), driver=Scripted(script))
        opened.run()
        return opened.history.added

    program = Program("desk", members=[Login, Expose])
    assert bool(kept("\n".join(lines))) == all(kept(line) for line in lines)


class Access(Form):
    pin = slot(int, default=0, secret="anywhere")


@given(st.permutations(["expose", "5", "--pin", "4711"]), st.sampled_from(["", "x", "--pn=4711", "-q"]))
def test_a_secret_that_all_commands_share_keeps_only_its_own_lines_out(order: list[str], more: str) -> None:
    program = Program("desk", members=[Expose], shared=Access)
    harmless = ["expose 5", "expose --seconds=6", "help", "expose"]
    line = " ".join([*order, more]).strip()
    script: list[Any] = [part for one in (*harmless[:2], line, harmless[2]) for part in (one, Press("enter"))]
    opened = Console(program, history=False, driver=Scripted(script))
    opened.run()
    assert opened.history.added == harmless[:3]


def test_a_history_that_cannot_be_used_is_told_once_and_the_console_goes_on(tmp_path: Path) -> None:
    path = tmp_path / "notes.txt"
    path.write_text("dear diary\n")
    script: list[Any] = ["expose 5", Press("enter"), "expose 6", Press("enter"), Press("up"), Press("enter")]
    driver = Scripted(script)
    opened = Console(PROGRAM, history=str(path), driver=driver)
    assert opened.run() == 0
    assert driver.said.count("exposed for 6 s") == 2
    assert "\n".join(driver.said).count("it is not a history file") == 1
    assert path.read_text() == "dear diary\n"


def test_a_prompt_and_a_note_are_made_anew_for_each_line() -> None:
    driver = Scripted(["expose 5", Press("enter")], columns=60)
    console = Console(PROGRAM, prompt=lambda: f"{len(done)} done", note=lambda: "dome open", driver=driver)
    before = len(done)
    assert console.run() == 0
    assert driver.frames[0].splitlines()[0] == f"  desk  {before} done"
    assert driver.frames[0].splitlines()[1].endswith("dome open")
    assert f"{before + 1} done" in driver.frames[-2]
    console.say("closed")


def test_what_is_said_while_the_console_is_not_open_is_printed(capsys: pytest.CaptureFixture[str]) -> None:
    Console(PROGRAM).say("the mast\x1b is up")
    assert capsys.readouterr().out == "the mast^[ is up\n"


def test_a_console_stays_open_longer_than_a_question_may() -> None:
    """The time of a program is for its questions; the prompt waits as long as it takes."""
    program = Program("desk", members=[Expose], timeout=0.5)
    driver = Scripted(["exit", Press("enter")])
    assert Console(program, driver=driver).run() == 0
    assert driver.options.timeout is None


#: A command that has another program take the terminal, and a worker that says something meanwhile.
LENDING = """
import subprocess, sys, threading, time
from wesperon import Command, Console, Program

VIEWER = '''
import os, sys, termios
modes = termios.tcgetattr(0)
raw = termios.tcgetattr(0)
raw[3] &= ~(termios.ICANON | termios.ECHO)
termios.tcsetattr(0, termios.TCSADRAIN, raw)
sys.stdout.write("\\x1b[?1049hviewing")
sys.stdout.flush()
os.read(0, 1)
sys.stdout.write("\\x1b[?1049l")
sys.stdout.flush()
termios.tcsetattr(0, termios.TCSADRAIN, modes)
'''

class View(Command):
    def run(self):
        subprocess.run([sys.executable, "-c", VIEWER])

class Work(Command):
    def run(self):
        time.sleep(0.6)
        print("worked", flush=True)

console = Console(Program("desk", members=[View, Work]), history=False)

def tick():
    while True:
        time.sleep(0.2)
        console.say("the mast says something")

threading.Thread(target=tick, daemon=True).start()
console.run()
"""


def test_messages_wait_while_another_program_has_the_terminal() -> None:
    with Terminal(python("-c", LENDING), rows=40) as terminal:
        terminal.see("desk")
        terminal.type("work" + ENTER)
        terminal.see("worked")
        assert "the mast says something\nthe mast" in terminal.text().partition("worked")[0].replace("  desk  work", "")
        terminal.type("view" + ENTER)
        terminal.see("viewing")
        before = terminal.received
        deadline = time.monotonic() + 1.0
        while time.monotonic() < deadline:
            terminal.read(0.1)
        assert terminal.received == before
        terminal.type("q")
        terminal.wait(lambda: terminal.received[len(before) :].count(b"the mast says") >= 4, "the messages that waited")
        terminal.wait(lambda: "Ctrl-D: leave" in terminal.text(), "the next line")
        terminal.type(CTRL_D)
        assert terminal.end() == 0


UNANSWERED = """
from wesperon import Console, Problems, Program, ask
def expose(target: str):
    "Expose."
def two():
    "Ask twice."
    try:
        ask("Which?", timeout=0.3)
    except Problems as problems:
        print("first", problems.problems[0].timed_out)
    try:
        ask("Then?")
    except Problems as problems:
        print("second", problems.problems[0].timed_out)
raise SystemExit(Console(Program("desk", members=[expose, two], timeout=0.3), history=False).run())
"""


@pytest.mark.parametrize("plain", ["", "1"])
def test_a_question_that_nobody_answers_ends_neither_the_next_one_nor_the_console(plain: str) -> None:
    with Terminal(python("-c", UNANSWERED), rows=30, columns=80, env={"WESPERON_PLAIN": plain}) as terminal:
        terminal.see("desk")
        terminal.type("expose\r")
        terminal.see("came in time")
        terminal.type("two\r")
        terminal.see("first True")
        terminal.see("Then?")
        terminal.type("\x04")
        terminal.see("second False")
        terminal.type("exit 3\r")
        assert terminal.end() == 3
