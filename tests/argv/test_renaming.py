"""Names that change: an old name works, says the new one in a line, and is on no page."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import Command, CommandGroup, Console, Context, DeclarationError, Form, Problems, Program, fill, run, slot
from wesperon.testing import Session


class Plan(Form):
    target = slot()
    seconds = slot(float, default=30.0, renamed_from=("exposure_time", "time"))
    guided = slot(bool, default=True, renamed_from="guide")
    notes = slot(many=True, renamed_from="remarks")


OLD = {"seconds": ["exposure-time", "time"], "guided": ["guide"], "notes": ["remarks"]}


@given(
    st.lists(
        st.sampled_from(["--{seconds}=5", "--{seconds} 7", "--{guided}", "--no-{guided}", "--{notes}=a"]), max_size=4
    ),
    st.data(),
)
def test_an_old_name_does_what_the_new_one_does(parts: list[str], data: st.DataObject) -> None:
    def written(old: bool) -> list[str]:
        names = {name: data.draw(st.sampled_from(olds)) if old else name for name, olds in OLD.items()}
        return ["x", *(word for part in parts for word in part.format(**names).split())]

    outcomes: list[Any] = []
    for words in (written(old=False), written(old=True)):
        try:
            outcomes.append(tuple(Plan.fill(words, asking="never")))
        except Problems as problems:
            outcomes.append({(problem.slot, problem.reason) for problem in problems})
    assert outcomes[0] == outcomes[1]


def test_an_old_name_is_no_value_of_the_name_before_it() -> None:
    with pytest.raises(Problems, match="--target requires a value"):
        Plan.fill(["--target", "--time=5"], asking="never")


def test_one_line_says_the_new_name(capsys: pytest.CaptureFixture[str]) -> None:
    fill(Plan, ["x", "--time=5", "--no-guide", "--remarks=a", "--remarks=b"])
    captured = capsys.readouterr()
    assert captured.err.splitlines() == [
        "--time is now called --seconds",
        "--no-guide is now called --no-guided",
        "--remarks is now called --notes",
    ]
    assert captured.out == ""


def test_an_old_name_is_never_cut_and_takes_no_prefix_away() -> None:
    with pytest.raises(Problems, match="--tim is unknown"):
        Plan.fill(["x", "--tim=5"], asking="never")

    class Other(Form):
        range_ = slot(int, default=1)
        width = slot(int, default=1, renamed_from="rang")

    assert Other.fill(["--ran=3"]).range_ == 3  # it would be ambiguous if old names could be cut


def test_files_may_have_old_names_too(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "a.toml"
    path.write_text('target = "x"\nexposure_time = 5\nremarks = ["a"]\n')
    record = Plan.fill([f"--answers={path}"])
    assert (record.seconds, record.notes) == (5.0, ("a",))
    lines = capsys.readouterr().err.splitlines()
    assert lines[0].endswith("a.toml, line 2: exposure_time is now called seconds")
    assert lines[1].endswith("a.toml, line 3: remarks is now called notes")
    path.write_text('target = "x"\nexposure_time = 5\nseconds = 6\n')
    with pytest.raises(Problems, match="is given twice"):
        Plan.fill([f"--answers={path}"])


def test_the_words_of_a_record_have_the_new_names() -> None:
    record = Plan.fill(["x", "--time=5"])
    assert record.words() == ["--target=x", "--seconds=5"]


def test_problems_as_json_are_json_and_nothing_else(capsys: pytest.CaptureFixture[str]) -> None:
    context = Context(words=["--time=x"], environ={"WESPERON_PROBLEMS": "json"})
    with pytest.raises(SystemExit):
        fill(Plan, asking="never", context=context)
    assert {problem["slot"] for problem in json.loads(capsys.readouterr().err)} == {"target", "seconds"}


class Expose(Command):
    """Expose."""

    renamed_from = ("shoot", "TakePicture")
    frames = slot(int, default=1, renamed_from="count")

    def run(self) -> str:
        return f"{self.frames} frames"


def park(angle: int = 0) -> str:
    """Park."""
    return f"parked at {angle}"


def program() -> Program:
    group = CommandGroup(
        "scope", "The telescope.", [Command.from_function(park, renamed_from="rest")], renamed_from="tube"
    )
    lazy = ("tests.lazy_member:Lazy", "Loaded late.", "late")
    return Program("desk", members=[Expose, group, lazy])


@tabled
def test_commands_and_groups_have_old_names(
    words: list[str], out: str, said: list[str], capsys: pytest.CaptureFixture[str]
) -> None:
    assert program().main(words) == 0
    captured = capsys.readouterr()
    assert captured.out == out
    assert captured.err.splitlines() == said
    with Session(Console(program(), history=False).run) as session:
        session.type(" ".join(words))
        session.press("enter")
        assert out.strip() in session.output
        assert all(line in session.errors for line in said)


def test_a_command_that_is_loaded_late_has_an_old_name(capsys: pytest.CaptureFixture[str]) -> None:
    assert program().main(["late"]) == 0
    shown = capsys.readouterr()
    assert shown.out == "7\n"  # a number is a result like any other
    assert "late is now called lazy" in shown.err


def test_the_table_of_a_renamed_command_is_read(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "a.toml"
    path.write_text("[tube.rest]\nangle = 9\n[shoot]\ncount = 4\n")
    assert program().main(["scope", "park", f"--answers={path}"]) == 0
    captured = capsys.readouterr()
    assert captured.out == "parked at 9\n"
    assert "tube is now called scope" in captured.err
    assert program().main(["expose", f"--answers={path}"]) == 0
    assert capsys.readouterr().out == "4 frames\n"


def test_no_page_and_no_completion_has_old_names_and_the_contract_does(capsys: pytest.CaptureFixture[str]) -> None:
    made = program()
    assert made.main(["--help=all"]) == 0
    page = capsys.readouterr().out
    for old in ("shoot", "take-picture", "count", "tube", "rest "):
        assert old not in page
    assert {one.text for one in made.candidates([], "")} == {"expose", "scope", "lazy"}
    assert not [one for one in made.candidates(["expose"], "--c") if "count" in one.text]
    assert "--count" not in Plan.blank_answers()
    contract = made.contract()
    assert "desk expose\n  once called shoot, take-picture\n" in contract
    assert "once called --count" in contract
    assert "desk scope\n  once called tube" in contract


def test_a_function_has_old_names(capsys: pytest.CaptureFixture[str]) -> None:
    from typing import Annotated

    def plan(seconds: Annotated[float, slot(renamed_from="time")]) -> str:
        return str(seconds)

    globals()["Annotated"], globals()["slot"] = Annotated, slot
    assert run(plan, ["--time=3"]) == 0
    captured = capsys.readouterr()
    assert (captured.out, captured.err) == ("3.0\n", "--time is now called --seconds\n")


@tabled
def test_an_old_name_that_means_another_thing_is_refused(slots: dict[str, Any]) -> None:
    with pytest.raises(DeclarationError, match="old name"):
        type("F", (Form,), slots)


def test_other_wrong_old_names_are_refused() -> None:
    with pytest.raises(DeclarationError, match="is no name"):
        slot(renamed_from="two words")
    with pytest.raises(DeclarationError, match="the name of another member"):
        Program("desk", members=[Command.from_function(park, renamed_from="expose"), Expose])
