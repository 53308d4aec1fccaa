"""Questions in plain lines: numbered choices, answers by number or by text, the same values and complaints.

Modules: ``terminal.plain_driver``, ``widgets.plain.answers``, ``widgets.plain.widgets``.
"""

from __future__ import annotations

import signal
from typing import Any

import pytest

from tests.harness import CTRL_C, CTRL_D, Terminal, example, python
from tests.tables import tabled
from wesperon import any_of, one_of
from wesperon.values import Complaint
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.plain.answers import PlainCheckboxes, PlainMenu
from wesperon.widgets.plain.widgets import plainly
from wesperon.widgets.question import Question
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.widget import Answered, Prompt

PROMPT = Prompt("Target", 6)
NAMES = ["Lantern", "Thimble, the", "Wicker", "2"]

EVERYTHING = """
import sys
from datetime import date, time, timedelta
from decimal import Decimal
from pathlib import Path
from wesperon import Form, any_of, one_of, slot
class Night(Form):
    target = slot(one_of(["Lantern", "Thimble", "Wicker"], note=str.upper), "Target")
    filters = slot(any_of(["Red", "Green", "Blue", "Clear"], least=1), "Filters")
    frames = slot(int, "Frames", low=1, high=9)
    gain = slot(Decimal, "Gain")
    guided = slot(bool, "Guided")
    day = slot(date, "Day")
    first = slot(time, "First at")
    pause = slot(timedelta, "Pause")
    folder = slot(Path, "Folder")
    spots = slot(int, "Spots", many=True, least=1)
    log = slot(ask="Log", lines=True)
    key = slot(ask="Key", secret=True, twice=True)
night = Night.fill()
print(night.words(), night.key)
"""
ANSWERS: list[tuple[str, str, str]] = [
    ("Target (number or text): ", "4", '"4" is not the number of a choice: must be from 1 to 3'),
    ("Target (number or text): ", "Sikle", '"Sikle" is not one of the 3 choices'),
    ("Target (number or text): ", "2", "Filters"),
    ("Filters (numbers such as 1,3-5, or texts): ", "none", "at least 1"),
    ("Filters (numbers such as 1,3-5, or texts): ", "Red,3-4", "Frames"),
    ("Frames (a whole number from 1 to 9): ", "12", '"12" is too high: must be from 1 to 9'),
    ("Frames (a whole number from 1 to 9): ", "", "a value is required"),
    ("Frames (a whole number from 1 to 9): ", "4", "Gain"),
    ("Gain", "1.50", "Guided"),
    ("Guided", "yes", "Day"),
    ("Day", "2026-11-23", "First at"),
    ("First at", "21:30", "Pause"),
    ("Pause", "1m30s", "Folder"),
    ("Folder", "/tmp", "Spots"),
    ("Spots (a whole number; an empty line ends): ", "3", "  3"),
    ("Spots (a whole number; an empty line ends): ", "x", "not a whole number"),
    ("Spots (a whole number; an empty line ends): ", "5", "  5"),
    ("Spots (a whole number; an empty line ends): ", "", "Log"),
    ("Log: ", "cold\nclear\n.", "Key"),
    ("Key (not shown while you type): ", "moonstone", "once more"),
    ("Key (once more): ", "moon", "the two entries differ"),
    ("Key (not shown while you type): ", "moonstone", "once more"),
    ("Key (once more): ", "moonstone", "["),
]


def prompted(terminal: Terminal, prompt: str) -> None:
    """Wait until the last line of the screen is a prompt."""
    terminal.wait(lambda: (terminal.text().splitlines() or [""])[-1].startswith(prompt.rstrip()), prompt)
    terminal.wait(lambda: terminal.text().endswith((":", "): ", ">", "]: ")), prompt)


def seen_again(terminal: Terminal, text: str, count: int) -> None:
    """Wait until a text is on the screen more often."""
    terminal.wait(lambda: terminal.text().count(text) > count, text)


@pytest.mark.parametrize("env", [{"TERM": "dumb"}, {"WESPERON_PLAIN": "1"}])
def test_every_kind_is_asked_for_in_plain_lines(env: dict[str, str]) -> None:
    with Terminal(python("-c", EVERYTHING), env=env, rows=70, columns=100) as terminal:
        modes = terminal.initial
        for prompt, answer, then in ANSWERS:
            prompted(terminal, prompt)
            if prompt.startswith("Key"):
                terminal.wait(lambda: not terminal.is_echoing(), "no echo")
            count = terminal.text().count(then)
            first, *more = answer.split("\n")
            terminal.type(first + "\n")
            for number, line in enumerate(more, 1):  # the prompt before may be the last line still
                terminal.wait(lambda number=number: terminal.text().count("\n>") == number, ">")  # type: ignore[misc]
                prompted(terminal, ">")
                terminal.type(line + "\n")
            seen_again(terminal, then, count)
        assert terminal.end() == 0
        shown = terminal.text()
        assert "   2  Thimble  THIMBLE" in shown
        words = ["--target=Thimble", "--filters=Red,Blue,Clear", "--frames=4", "--gain=1.50", "--guided=yes",
                 "--day=2026-11-23", "--first=21:30", "--pause=1m30s", "--folder=/tmp", "--spots=3"]  # fmt: skip
        given = shown[shown.index("[") :].replace("\n", "")
        assert all(repr(word) in given for word in words), given
        assert "'--log=cold\\nclear'] moonstone" in given
        assert shown.count("moonstone") == 1
        assert b"\x1b" not in terminal.received
        assert terminal.modes() == modes


def test_an_interrupt_the_end_of_input_and_a_timeout_mean_what_they_do_elsewhere() -> None:
    with Terminal(example("nightplan.py", "x"), env={"TERM": "dumb"}) as terminal:
        modes = terminal.initial
        terminal.see("Frames")
        terminal.type("12" + CTRL_C)
        assert terminal.end() == -signal.SIGINT
        assert terminal.modes() == modes
    for env, typed in [({}, CTRL_D), ({"WESPERON_TIMEOUT": "0.2"}, "")]:
        with Terminal(example("nightplan.py", "x"), env={"TERM": "dumb", **env}) as terminal:
            terminal.see("Frames")
            terminal.type(typed)
            assert terminal.end() == 2
            assert "4 values are missing" in terminal.text()


def test_a_secret_gives_the_echo_back_when_the_program_is_ended() -> None:
    program = "from wesperon import fill, slot; fill(key=slot(secret=True))"
    with Terminal(python("-c", program), env={"TERM": "dumb"}) as terminal:
        modes = terminal.initial
        terminal.see("key (not shown")
        terminal.wait(lambda: not terminal.is_echoing(), "no echo")
        terminal.process.kill(signal.SIGTERM)
        assert terminal.end() == -signal.SIGTERM
        assert terminal.modes() == modes


def test_a_console_in_plain_lines_runs_commands() -> None:
    with Terminal(example("nightdesk.py"), env={"TERM": "dumb"}) as terminal:
        for prompt, line in [("night desk: ", "expose HOLLIN-051 'x"), ("> ", "y'"), ("night desk: ", "expose 2 90 4")]:
            prompted(terminal, prompt)
            terminal.type(line + "\n")
            terminal.see(line)
        terminal.see("is not one of the 3 choices")
        terminal.see("night desk: expose 2")
        terminal.type("exit\n")
        assert terminal.end() == 0
        assert b"\x1b" not in terminal.received


def answered(widget: Any, *answers: str) -> Any:
    plain = plainly(widget)
    for answer in answers:
        plain.rows()
        plain.answer([answer])
    return widget.outcome.value if isinstance(widget.outcome, Answered) else widget.complaint.reason


@tabled
def test_one_of_several_is_answered_by_text_or_by_number(answers: list[str], value: str) -> None:
    kind = one_of(NAMES)
    assert answered(Question(PROMPT, Menu(kind.choices, kind.choices.check)), *answers) == value


@tabled
def test_some_of_several_are_answered_by_numbers_ranges_and_texts(answers: list[str], value: tuple[str, ...]) -> None:
    kind = any_of(NAMES)
    assert answered(Question(PROMPT, Checkboxes(kind.choices, kind.combine, marked=[2])), *answers) == value


def test_many_choices_are_not_all_listed_and_a_default_is_taken_by_an_empty_answer() -> None:
    kind = one_of(range(1_000), lambda number: f"HOLLIN-{number:03}")
    menu = Question(PROMPT, Menu(kind.choices, kind.choices.check, current=7))
    plain = plainly(menu)
    assert isinstance(plain, PlainMenu)
    assert len(plain.rows()) == 62
    assert "[HOLLIN-007]" in plain.prompt()
    assert answered(menu, "") == 7
    assert isinstance(plainly(Question(PROMPT, Checkboxes(kind.choices, set))), PlainCheckboxes)


def test_a_default_a_complaint_and_several_lines_in_plain_lines() -> None:
    def even(text: str) -> str:
        if len(text) % 2:
            raise Complaint("an even length is wanted")
        return text

    assert answered(Question(PROMPT, Line(even, default="four")), "") == "four"
    assert answered(Question(PROMPT, Line(even, default="four")), "abc") == "an even length is wanted"
    assert answered(Question(PROMPT, Line(even, default="four")), "abc", "ab") == "ab"
    plain = plainly(Question(PROMPT, SeveralLines(even, is_whole=lambda text: text.endswith(";"))))
    assert not plain.is_whole(["a"])
    assert plain.is_whole(["a", "b;"])
    with pytest.raises(TypeError, match="plain lines"):
        plainly(object())  # type: ignore[arg-type]
