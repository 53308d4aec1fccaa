"""Help pages: what they say of a form is what the form does.

Modules: ``output.help``, ``values.phrases``.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Command, CommandGroup, Form, Problem, Problems, Program, any_of, one_of, slot
from wesperon.documents.question_set import read_set
from wesperon.output.help import described, help_page
from wesperon.output.usage import usage
from wesperon.values.records import slots_of

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
    words = usage([], slots_of(form)).split()
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

    assert help_page(["light"], None, slots_of(Light), 80).splitlines()[0] == "light FRAMES [SECONDS] [FILE...]"


def test_a_help_text_does_not_hide_the_question_nor_when_it_is_wanted() -> None:
    class Night(Form):
        kind = slot(default="dark")
        frames = slot(int, "How many frames?", help="Only those that are kept.", applies=lambda night: True)

    assert described(slots_of(Night)["frames"]) == (
        "How many frames?; Only those that are kept: a whole number; only where other values make it apply"
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
    page = help_page(["night"], None, slots_of(read_set(str(tmp_path / "night.toml"), Form).form), 100)
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
    for part in ("--site=TEXT", "--lamp=TEXT", "With no command", "--eye=TEXT"):
        assert part in page


class Plan(Form):
    day = slot(date, "Day", low=date(2031, 1, 1), high=date(2031, 2, 1))
    count = slot(int, "Count")
    gain = slot(int, "Gain", named_only=True)
    flag = slot(bool)
    quiet = slot(bool, default=False, help="say less")


PAGE = """\
plan.py DAY COUNT --gain=NUMBER --flag [--quiet]

In this order, or by name anywhere
  1    --day=YYYY-MM-DD  Day: a date from 2031-01-01 to 2031-02-01
  2      --count=NUMBER  Count: a whole number

By name
          --gain=NUMBER  Gain: a whole number
       --flag --no-flag
     --quiet --no-quiet  say less (if left out: no)

Always
              -h --help  this page
"""


def test_a_page_has_one_gutter_and_says_what_happens_if_a_value_is_left_out() -> None:
    assert help_page(["plan.py"], None, slots_of(Plan), 80).startswith(PAGE)


@given(st.lists(st.sampled_from(sorted(SLOTS)), unique=True, max_size=8), st.integers(30, 100))
def test_every_name_on_a_page_is_taken_and_every_position_is_the_one_it_says(names: list[str], columns: int) -> None:
    form: Any = type("Any", (Form,), {name: SLOTS[name]() for name in names})
    page = help_page([""], None, slots_of(form), columns)
    assert all(len(line) <= columns for line in page.split("\n"))
    shown = set(re.findall(r"--[a-z-]+", page.partition("Always")[0])) - {"--"}
    assert shown >= {f"--{slot.word}" for slot in slots_of(form).values()}
    for name in shown:
        slot_of = slots_of(form)[name[2:].removeprefix("no-").replace("-", "_")]
        word = name if not slot_of.shape.takes_text else f"{name}=7"
        told = [problem.slot for problem in _problems(form, [word])]
        assert slot_of.name not in told or name == "--asked"
    for number, name in re.findall(r"^ *(\d+) +--([a-z-]+)", page, re.M):
        words = ["7"] * int(number)
        left = {problem.slot for problem in _problems(form, words) if problem.missing}
        assert name.replace("-", "_") not in left
        earlier = {problem.slot for problem in _problems(form, words[:-1]) if problem.missing}
        assert (name.replace("-", "_") in earlier) == (name == "needed")


@given(st.lists(st.sampled_from(sorted(SLOTS)), unique=True, max_size=8), st.sampled_from(sorted(RESTS)))
def test_a_contract_says_of_each_value_what_holds(names: list[str], rest: str) -> None:
    """Of each line: whether the value is required, its position, its default; shared values are those of the group."""

    def shows(site: str, count: int = 3) -> None:
        """Takes a shared value."""

    declared: dict[str, Any] = {name: SLOTS[name]() for name in names}
    if (last := RESTS[rest]()) is not None:
        declared["files"] = last
    form: Any = type("Any", (Command,), declared)
    shared = type("Shared", (Form,), {"site": slot(default="x")})
    text = Program("desk", members=[form, shows], shared=shared).contract()
    own, of_function = text.partition("desk any")[2].split("desk shows")
    assert "--site" not in own + of_function
    for line in own.strip().splitlines():
        place, word, *parts = line.strip().split("; ")
        name = word.split()[0][2:].replace("-", "_")
        told = {problem.slot for problem in _problems(form, []) if problem.missing}
        assert (parts[-1] == "required") == (name in told) or name == "asked"
        if place.startswith("position"):
            filled = {problem.slot for problem in _problems(form, ["7"] * int(place[9:])) if problem.missing}
            assert name not in filled
        elif place == "by name" and parts[-1] == "required":
            assert name in {problem.slot for problem in _problems(form, ["7"] * own.count("position"))}


def _problems(form: Any, words: list[str]) -> list[Problem]:
    try:
        form.fill(words, asking="never")
    except Problems as problems:
        return list(problems)
    return []


def test_choices_stand_in_rows_with_their_notes_twelve_at_most() -> None:
    class Look(Form):
        target = slot(
            one_of([f"HOLLIN-{number:03}" for number in range(40)], note=lambda label: f"number {label[-2:]}")
        )
        hue = slot(any_of(["red", "blue"], least=1), default=["red"])
        note = slot(low=2, high=9)
        tags = slot(many=True, most=3)

    rows = help_page(["look"], None, slots_of(Look), 80).split("\n")
    at = rows.index("  1   --target=CHOICE  one of")
    assert rows[at + 1 : at + 3] == [f"{'':25}HOLLIN-{number:03}  number {number:02}" for number in range(2)]
    assert rows[at + 13].strip() == "and 28 more"
    page = "\n".join(rows)
    assert "--hue=CHOICE,...  any of (at least 1) (if left out: red)" in page
    assert "--note=TEXT  2 to 9 characters" in page
    assert "--tags=TEXT...  text; may be given several times, at most 3" in page
