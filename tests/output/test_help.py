"""Help pages: what they say of a form is what the form does."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Command, CommandGroup, Form, Problems, Program, slot
from wesperon.documents.question_set import read_set
from wesperon.output.help import described, help_page, usage

SLOTS: dict[str, Callable[[], Any]] = {
    "needed": lambda: slot(),
    "with_default": lambda: slot(int, default=3),
    "none": lambda: slot(int, default=None),
    "switch": lambda: slot(bool),
    "dry": lambda: slot(bool, default=False),
    "key": lambda: slot(named_only=True),
    "mode": lambda: slot(named_only=True, default="x"),
    "asked": lambda: slot(int, applies=lambda answers: False, default=1),
}
RESTS: dict[str, Callable[[], Any]] = {
    "none": lambda: None,
    "any": lambda: slot(rest=True),
    "some": lambda: slot(rest=True, least=1),
}


@given(st.lists(st.sampled_from(sorted(SLOTS)), unique=True, max_size=6), st.sampled_from(sorted(RESTS)))
def test_what_a_usage_line_shows_without_brackets_is_needed_and_enough(names: list[str], rest: str) -> None:
    """The line as it is, without what is in brackets, fills the form; without any one of its words it does not."""
    last = RESTS[rest]()
    declared: dict[str, Any] = {name: SLOTS[name]() for name in names if name != "switch"}
    if last is not None:
        declared["files"] = last
    form: Any = type("Any", (Form,), declared)
    words = usage([], form._slots).split()
    needed = [word.replace("TEXT", "x").removesuffix("...") for word in words if not word.startswith("[")]
    values = [word if word.startswith("-") else "7" for word in needed]
    form.fill(values, asking="never")
    for left_out in range(len(values)):
        with pytest.raises(Problems):
            form.fill([*values[:left_out], *values[left_out + 1 :]], asking="never")


def test_a_usage_line_is_in_the_notation_of_posix() -> None:
    class Light(Form):
        frames = slot(int)
        seconds = slot(float, default=30.0)
        file = slot(Path, rest=True)

    assert help_page(["light"], None, Light._slots, 80).splitlines()[0] == "light FRAMES [SECONDS] [FILE...]"


def test_a_help_text_does_not_hide_the_question_nor_when_it_is_wanted() -> None:
    class Night(Form):
        kind = slot(default="dark")
        frames = slot(int, "How many frames?", help="Only those that are kept.", applies=lambda night: True)

    assert described(Night._slots["frames"]) == (
        "How many frames?; Only those that are kept; a whole number; only where other values make it apply"
    )


def test_a_condition_in_a_file_is_said_in_words(tmp_path: Path) -> None:
    (tmp_path / "night.toml").write_text(
        """
        [slots.kind]
        ask = "Kind of frame"
        choices = ["dark", "light"]
        [slots.seconds]
        kind = "integer"
        [slots.guide]
        applies = { all = [{ slot = "kind", is = "light" }, { slot = "seconds", at_least = 1200 }] }
        """
    )
    page = help_page(["night"], None, read_set(str(tmp_path / "night.toml"), Form).form._slots, 100)
    assert "only where Kind of frame is light and seconds is at least 1200" in " ".join(page.split())


def test_the_page_of_a_group_shows_what_is_common_to_its_commands(capsys: pytest.CaptureFixture[str]) -> None:
    class Common(Form):
        site = slot(default="ridge", help="which dome")

    class Own(Form):
        lamp = slot(default="red")

    class Look(Command):
        """Look."""

        eye = slot(default="left")

    group = CommandGroup("dome", "The dome.", [Look], shared=Own, default_command=Look)
    assert Program("desk", members=[group], shared=Common).main(["dome", "--help"]) == 0
    page = capsys.readouterr().out
    assert page.splitlines()[:2] == ["desk dome COMMAND [ARGUMENT...]", "desk dome [EYE]"]
    for part in ("--site=TEXT", "--lamp=TEXT", "With no command:", "--eye=TEXT"):
        assert part in page
