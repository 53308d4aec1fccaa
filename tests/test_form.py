"""Forms: filled from words, from answers and directly; where values come from; the words that give them again.

Modules: ``form``.
"""

from __future__ import annotations

import asyncio
import os
import shutil
import subprocess
import sys
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from enum import Enum
from pathlib import Path
from typing import Any, assert_type

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.asking import ENTER
from tests.harness import ROOT
from tests.tables import tabled
from wesperon import Context, DeclarationError, Form, Problems, Refusal, any_of, fill, one_of, slot
from wesperon.forms.saved_answers import SavedAnswers
from wesperon.testing import Press, Scripted
from wesperon.text.quoting import join
from wesperon.values.records import slots_of
from wesperon.values.words import split_words

FILTERS = ["Red", "Blue", "H,a"]


class Wheel(Enum):
    FIRST = "the first"
    SECOND = 2


class Exposure(Form):
    target = slot(low=0)
    frames = slot(int, default=1)
    seconds = slot(float)
    first = slot(time, default=None)
    guided = slot(bool, default=True)
    bin = slot(one_of([1, 2, 4], label=lambda n: f"{n}x{n}"), default=1)
    filters = slot(any_of(FILTERS))
    notes = slot(many=True)
    night = slot(date, default=None)
    at = slot(datetime, default=None)
    wheel = slot(Wheel, default=Wheel.SECOND)
    mirror = slot(lambda text: text[::-1], default="", text=lambda value: value[::-1])
    wait = slot(timedelta, default=timedelta(0))
    gain = slot(Decimal, default=Decimal("1.0"))
    folder = slot(Path, default=Path("plans"))


def test_a_type_checker_sees_the_values() -> None:
    record = Exposure.fill(["x", "1", "2.5", "--filters="], asking="never")
    assert_type(record.target, str)
    assert_type(record.frames, int)
    assert_type(record.seconds, float)
    assert_type(record.first, time | None)
    assert_type(record.guided, bool)
    assert_type(record.bin, int)
    assert_type(record.filters, tuple[str, ...])
    assert_type(record.notes, tuple[str, ...])
    assert (record.frames, record.first) == (1, None)


def test_origins_tell_where_each_value_came_from() -> None:
    driver = Scripted(["30", Press("enter"), Press("space"), Press("enter")])
    record = Exposure.fill(["x", "--frames=2"], driver=driver)
    assert list(record)[:8] == ["x", 2, 30.0, None, True, 1, ("Red",), ()]
    assert dict(record.origins) == {
        "target": "words", "frames": "words", "seconds": "asked", "first": "default", "guided": "default",
        "bin": "default", "filters": "asked", "notes": "default", "night": "default", "wait": "default",
        "at": "default", "wheel": "default", "mirror": "default",
        "gain": "default", "folder": "default",
    }  # fmt: skip


def test_direct_construction_checks_alike_and_reports_everything() -> None:
    made = Exposure(target="x", seconds=2, filters=["Blue", "Red"], bin=4)
    assert (made.seconds, type(made.seconds), made.filters) == (2.0, float, ("Red", "Blue"))
    assert made.origins["bin"] == "given"
    assert made == Exposure(target="x", seconds=2, filters=("Red", "Blue"), bin=4)
    assert made != Exposure(target="y", seconds=2, filters=(), bin=4)
    with pytest.raises(Problems) as caught:
        Exposure(frames="2", seconds=True, bin=3, filters=["Green"], first="21:30", colour=1)
    slots = {problem.slot for problem in caught.value}
    assert slots == {"target", "frames", "seconds", "bin", "filters", "first", "colour"}
    assert all(problem.source == "given" for problem in caught.value)


def test_a_filled_record_does_not_change() -> None:
    made = Exposure(target="x", seconds=2.0, filters=())
    with pytest.raises(AttributeError, match="read-only"):
        made.frames = 2  # type: ignore[arg-type]  # a type checker sees it too
    assert repr(made).startswith("Exposure(target='x', frames=1")


def test_a_default_may_be_made_from_the_answers_so_far() -> None:
    class Series(Form):
        frames = slot(int)
        pauses = slot(int, default=lambda answers: answers.frames - 1, low=0)

    assert Series.fill(["5"]).pauses == 4
    assert Series(frames=3).pauses == 2
    with pytest.raises(Problems, match="pauses"):
        Series.fill(["0"], asking="never")


class Guided(Form):
    guided = slot(bool, default=True)
    star = slot(applies=lambda answers: answers.guided)
    limit = slot(float, default=2.0, applies=lambda answers: answers.star == "Old Ember")


@tabled
def test_a_slot_that_does_not_apply_is_skipped(words: list[str], values: list[object]) -> None:
    driver = Scripted(["asked", Press("enter")])
    record = Guided.fill(words, driver=driver)
    assert list(record) == values
    assert Guided.fill(record.words(), asking="never") == record
    assert Guided(**dict(zip(slots_of(Guided), values, strict=True))) == record


def test_a_value_for_a_slot_that_does_not_apply_is_a_problem() -> None:
    with pytest.raises(Problems, match="star: does not apply"):
        Guided.fill(["--no-guided", "--star=x"])
    with pytest.raises(Problems, match="star: does not apply"):
        Guided(guided=False, star="x")
    with pytest.raises(Problems, match="1 word too many"):
        Guided.fill(["x"], asking="never")


def test_what_depends_on_a_missing_value_is_not_told_beside_it() -> None:
    class Series(Form):
        frames = slot(int)
        pauses = slot(int, default=lambda answers: answers.frames - 1)
        wait = slot(int, applies=lambda answers: answers.pauses > 3)

    ways: list[Any] = [lambda: Series.fill([], asking="never"), Series]
    for problems in ways:
        with pytest.raises(Problems) as caught:
            problems()
        assert [problem.slot for problem in caught.value] == ["frames"]


def test_a_form_inherits_slots_and_may_replace_them() -> None:
    class Long(Exposure):
        frames = slot(int, default=100)
        repeat = slot(bool, default=False)

    assert list(slots_of(Long))[:2] == ["target", "frames"]
    assert Long(target="x", seconds=1.0, filters=()).frames == 100


def test_a_script_gets_its_values_in_order(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sys, "argv", ["prog", "3", "2.5"])
    frames, seconds = fill(frames=slot(int), seconds=slot(float))
    assert (frames, seconds) == (3, 2.5)
    assert fill(["7"], frames=slot(int)).frames == 7


def test_a_script_with_problems_says_so_and_ends(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as ended:
        fill(["4x5", "--asking=never"], frames=slot(int), seconds=slot(float))
    assert ended.value.code == 2
    message = capsys.readouterr().err.splitlines()
    assert message[0].endswith("4x5 --asking=never")
    assert message[1].strip() == "^^^"
    assert message[1].index("^") == message[0].index("4x5")
    assert message[2:] == [
        '  --frames  "4x5" is not a whole number, such as 12',
        "Missing:",
        "  --seconds=NUMBER  a number",
        f"{Path(sys.argv[0]).name} --help shows all values.",
    ]


EXPOSURES = st.fixed_dictionaries(
    {
        "target": st.text(max_size=12),
        "seconds": st.floats(allow_nan=False, allow_infinity=False),
        "filters": st.lists(st.sampled_from(FILTERS), unique=True),
    },
    optional={
        "frames": st.integers(),
        "first": st.times().map(lambda moment: moment.replace(fold=0)),
        "guided": st.booleans(),
        "bin": st.sampled_from([1, 2, 4]),
        "notes": st.lists(st.text(min_size=1, max_size=6)),
        "night": st.dates(),
        "at": st.datetimes().map(lambda moment: moment.replace(fold=0)),
        "wheel": st.sampled_from(Wheel),
        "mirror": st.text(min_size=1).filter(lambda text: text == text.strip()),
        "wait": st.timedeltas(),
        "gain": st.decimals(allow_nan=False, allow_infinity=False),
        "folder": st.text(st.characters(exclude_characters="\0"), min_size=1).map(Path),
    },
)


def test_a_class_is_filled_as_a_script_fills_its_slots(capsys: pytest.CaptureFixture[str]) -> None:
    def refuse(value: int) -> None:
        if value == 13:
            raise Refusal("The dome is closed.", 4)

    class Series(Form):
        frames = slot(int, low=1, check=refuse)

    made = fill(Series, ["3"])
    assert isinstance(made, Series)
    assert made.frames == 3
    driver = Scripted(["5", ENTER])
    assert fill(Series, [], driver=driver).frames == 5
    assert fill(Series, context=Context(words=["8"])).frames == 8
    for words, status, told in [(["0"], 2, "must be at least 1"), ([], 2, "is missing"), (["13"], 4, "The dome")]:
        with pytest.raises(SystemExit) as ended:
            fill(Series, words, asking="never")
        assert ended.value.code == status
        assert told in capsys.readouterr().err
    wrong: Any = fill
    with pytest.raises(TypeError, match="no keyword 'reveiw'; nearest: review"):
        wrong(Series, [], reveiw=True)
    with pytest.raises(TypeError, match="no keyword 'reveiw'; nearest: review"):
        asyncio.run(Series.fill_async(["3"], reveiw=True))  # type: ignore[call-arg]
    with pytest.raises(DeclarationError, match="needs a subclass of Form"):
        wrong(int)
    with pytest.raises(DeclarationError, match="a form, then the words"):
        wrong(["3"], ["4"])


@given(EXPOSURES, st.sampled_from(["never", "missing"]))
def test_the_words_of_a_record_give_it_again(values: dict[str, Any], asking: str) -> None:
    """Promise 2."""
    record = Exposure(**values)
    again = Exposure.fill(record.words(), asking=asking, driver=Scripted())
    assert repr(again) == repr(record)


SHELL_WORDS = st.lists(
    st.text(st.characters(exclude_characters="\0", exclude_categories=["Cs"]), max_size=8), min_size=1
)


@pytest.mark.parametrize("shell", ["bash", "dash", "zsh"])
@settings(max_examples=25, deadline=None)
@given(words=SHELL_WORDS)
def test_a_real_shell_splits_the_quoted_line_into_the_same_words(shell: str, words: list[str]) -> None:
    path = shutil.which(shell)
    if path is None:
        pytest.skip(f"{shell} is not installed")
    line = "exec " + join([sys.executable, "-c", "import sys; print(ascii(sys.argv[1:]))", *words])
    done = subprocess.run([path, "-c", line], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == ascii(words)


@given(st.lists(st.text(max_size=8)))
def test_our_own_splitting_reads_our_own_quoting(words: list[str]) -> None:
    assert [word for word, _ in split_words(join(words))] == words


@tabled
def test_a_line_is_split_by_the_rules_of_the_shell(line: str, words: list[str]) -> None:
    assert [word for word, _ in split_words(line)] == words


def test_the_whole_line_gives_the_same_values_again() -> None:
    script = (
        "from wesperon import Form, slot\n"
        "class Plan(Form):\n"
        "    target = slot()\n"
        "    frames = slot(int, default=3)\n"
        "record = Plan.fill()\n"
        "print(record.replay())\n"
    )
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    words = ["it's a 'target'; $HOME", "7"]
    first = subprocess.run([sys.executable, "-c", script, *words], capture_output=True, text=True, env=environment)
    again = subprocess.run(["sh", "-c", first.stdout], capture_output=True, text=True, env=environment, check=True)
    assert again.stdout == first.stdout
    assert "--frames=7" in first.stdout


def test_a_kind_of_ones_own_needs_a_text_to_be_written() -> None:
    class Bare(Form):
        pair = slot(lambda text: tuple(text.split("-")))

    class Written(Form):
        pair = slot(lambda text: tuple(text.split("-")), text="-".join)

    assert Written.fill(["a-b"]).words() == ["--pair=a-b"]
    with pytest.raises(DeclarationError, match="text="):
        Bare.fill(["a-b"]).words()


def test_a_record_prints_as_a_card() -> None:
    made = Exposure(target="HOLLIN-051", seconds=30, filters=["Red"], first=time(21, 30))
    assert str(made).splitlines()[:4] == [
        "   target  HOLLIN-051",
        "   frames  1",
        "  seconds  30",
        "    first  21:30",
    ]


def test_the_mouse_is_the_program_s_unless_the_environment_says_otherwise(monkeypatch: pytest.MonkeyPatch) -> None:
    class Log(Form):
        frames = slot(int)

    for value, wanted, mouse in [("0", True, False), ("1", True, True), ("", True, True), ("1", False, True)]:
        monkeypatch.setenv("WESPERON_MOUSE", value)
        driver = Scripted(["1", Press("enter")])
        Log.fill([], driver=driver, mouse=wanted)
        assert driver.preferred.mouse == mouse


def test_answers_that_other_forms_left_too_long_ago_are_swept(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    class Log(Form):
        frames = slot(int)

    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    unfinished = SavedAnswers("desk", Log, "/desk.py")
    unfinished.keep({"frames": "1"}, {})
    folder = tmp_path / "desk" / "unfinished"
    old, young = folder / "00000001.json", folder / "00000002.json"
    old.write_text("{}")
    young.write_text("{}")
    os.utime(old, (0, 0))
    os.close(unfinished.lock)
    SavedAnswers("desk", Log, "/desk.py").keep({"frames": "2"}, {})
    assert not old.exists()
    assert young.exists()


def test_going_back_takes_the_problems_of_later_answers_along() -> None:
    """Two defaults that fail for one answer and not for another: only those of the last way count."""

    def checked(answers: Any) -> int:
        return 200 if answers.first == 1 else 3

    class Log(Form):
        first = slot(int)
        second = slot(int, high=100, default=checked)
        third = slot(int)

    driver = Scripted(["1", ENTER, Press("shift-tab"), Press("ctrl-u"), "2", ENTER, "5", ENTER])
    assert tuple(Log.fill([], driver=driver)) == (2, 3, 5)
