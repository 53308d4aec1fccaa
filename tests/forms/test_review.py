"""The last look at all values: after the questions, or before something that cannot be undone.

Modules: ``forms.precedence``, ``forms.form_flow``, ``values.wishes``.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from wesperon import Command, DeclarationError, Form, Program, run, slot
from wesperon.testing import Session


class Wipe(Command):
    """Take the frames of a night away."""

    review = "always"
    night = slot("Night")
    frames = slot(int, default=3)

    def run(self) -> str:
        return f"{self.frames} of {self.night} are gone"


class Count(Command):
    """Count them."""

    night = slot("Night")

    def run(self) -> str:
        return f"counted {self.night}"


@pytest.mark.parametrize("words", [["wipe", "n1"], ["wipe", "--night=n1", "--frames=3"]])
def test_a_whole_line_is_looked_at_before_the_command_runs(words: list[str]) -> None:
    with Session(Program("desk", members=[Wipe, Count]), words, columns=60) as session:
        assert session.is_open
        assert "n1" in session.screen
        assert session.output == ""
        session.press("enter")
        assert session.output == "3 of n1 are gone\n"


def test_a_value_can_be_changed_there() -> None:
    with Session(Program("desk", members=[Wipe]), ["wipe", "n1"], columns=60) as session:
        session.press("up", "enter").type("9").press("enter", "enter")
        assert session.output == "9 of n1 are gone\n"


def test_who_does_not_confirm_has_nothing_done() -> None:
    with Session(Program("desk", members=[Wipe]), ["wipe", "n1"], columns=60) as session:
        session.press("ctrl-c")
        assert (session.output, session.status) == ("", 130)


def test_the_ways_round_it(tmp_path: Path) -> None:
    answers = tmp_path / "answers.json"
    answers.write_text('{"wipe": {"night": "n1"}}')
    for words in (["wipe", "n1", "--asking=never"], ["wipe", f"--answers={answers}"]):
        with Session(Program("desk", members=[Wipe]), words) as session:
            assert session.output == "3 of n1 are gone\n"
    with Session(Program("desk", members=[Wipe]), ["wipe", "n1"], environment={"WESPERON_ASKING": "never"}) as session:
        assert session.output == "3 of n1 are gone\n"


def test_nobody_there_is_no_confirmation(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("wesperon.forms.filling.FillOptions.reach", lambda self: None)
    assert Program("desk", members=[Wipe]).main(["wipe", "n1"]) == 2
    shown = capsys.readouterr()
    assert shown.out == ""
    assert "give --asking never to go on without" in shown.err
    assert Program("desk", members=[Wipe]).main(["wipe", "n1", "--asking=never"]) == 0


def test_other_commands_are_as_the_program_says() -> None:
    with Session(Program("desk", members=[Wipe, Count]), ["count", "n1"]) as session:
        assert session.output == "counted n1\n"
    with Session(Program("desk", members=[Count], review="always"), ["count", "n1"]) as session:
        session.press("enter")
        assert session.output == "counted n1\n"
    with Session(Program("desk", members=[Count], review=True), ["count", "n1"]) as session:
        assert session.output == "counted n1\n"  # nothing was asked


def test_forms_and_functions_take_it_too() -> None:
    class Plan(Form):
        night = slot("Night")

    def wipe(night: str) -> str:
        return night

    programs: list[Any] = [lambda: Plan.fill(["n1"], review="always"), lambda: run(wipe, ["n1"], review="always")]
    for program in programs:
        with Session(program, []) as session:
            assert session.is_open
            session.press("enter")
            assert not session.is_open
    with pytest.raises(DeclarationError, match="review='sometimes': must be True, False or 'always'"):
        Plan.fill([], review="sometimes")
