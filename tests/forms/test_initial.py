"""Start values: what is in the line at first, although the value is still asked for.

Modules: ``forms.last_values``.
"""

from __future__ import annotations

import io
import json
import os
import stat
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from pathlib import Path
from typing import Annotated, Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.asking import ENTER
from tests.tables import tabled
from wesperon import Command, Complaint, Context, DeclarationError, Form, Problems, Program, any_of, one_of, run, slot
from wesperon.testing import Press, Scripted, Session
from wesperon.values.records import slots_of


class Plan(Form):
    frames = slot(int, "Frames", initial=3, low=1, high=9)
    seconds = slot(float, "Seconds", initial=lambda so_far: so_far.frames * 10)
    camera = slot(one_of(["north", "south"]), initial="south")
    filters = slot(any_of(["red", "blue"]), initial=["blue"])
    notes = slot(many=True, initial=["a b", "c"])
    guided = slot(bool, "Guided", initial=True)


def test_enter_takes_each_start_value_and_they_are_answers() -> None:
    driver = Scripted([ENTER] * 12)
    record = Plan.fill([], driver=driver)
    assert tuple(record) == (3, 30.0, "south", ("blue",), ("a b", "c"), True)
    assert set(record.origins.values()) == {"asked"}
    assert any("suggested" in frame for frame in driver.frames)


def test_the_first_letter_replaces_a_start_value_and_an_editing_key_keeps_it() -> None:
    class One(Form):
        target = slot(ask="Target", initial="dome")

    assert One.fill([], driver=Scripted([Press("x"), ENTER])).target == "x"
    assert One.fill([], driver=Scripted([Press("end"), Press("x"), ENTER])).target == "domex"


def test_a_start_value_is_none_where_nobody_is_asked() -> None:
    with pytest.raises(Problems) as caught:
        Plan.fill([], asking="never")
    assert [problem.slot for problem in caught.value] == ["frames", "seconds", "camera", "filters", "guided"]
    with pytest.raises(Problems):
        Plan(frames=1)


def test_a_value_from_elsewhere_goes_before_the_start_value() -> None:
    record = Plan.fill(["--frames=5"], driver=Scripted([ENTER] * 12))
    assert (record.frames, record.seconds) == (5, 50.0)
    record = Plan.fill(["--frames=5", "--asking=all"], driver=Scripted([ENTER] * 12))
    assert (record.frames, record.seconds) == (5, 50.0)


@tabled
def test_what_cannot_be_a_start_value_is_refused(keywords: dict[str, Any]) -> None:
    with pytest.raises(DeclarationError, match=r"initial|pattern"):
        slot(**{"kind": int, **keywords})


class Last(Form):
    target = slot(ask="Target", initial="last")
    frames = slot(int, "Frames", initial="last", low=1)
    filters = slot(any_of(["red", "blue"]), initial="last")
    notes = slot(many=True, initial="last")
    other = slot(int, "Other")


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    monkeypatch.setattr("sys.argv", ["desk.py"])
    return tmp_path


texts = st.text(st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1, max_size=8)


@given(texts, st.integers(1, 99), st.sets(st.sampled_from(["red", "blue"])), st.lists(texts, max_size=3))
def test_the_next_run_begins_with_the_values_of_the_last(
    target: str, frames: int, filters: set[str], notes: list[str]
) -> None:
    chosen = tuple(one for one in ("red", "blue") if one in filters)
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        words = [f"--target={target}", f"--frames={frames}", f"--filters={','.join(chosen)}"]
        words += [f"--notes={note}" for note in notes] + ["--other=1"]
        environ = {"XDG_STATE_HOME": folder}
        first = Last.fill(words, asking="never", context=Context(words=[], environ=environ))
        keys = [*[ENTER] * 4, Press("7"), ENTER]
        again = Last.fill([], driver=Scripted(keys), context=Context(words=[], environ=environ))
        assert (again.target, again.frames, again.filters) == (first.target, first.frames, first.filters)
        assert again.other == 7
        if notes:
            assert again.notes == first.notes


def test_what_is_kept_is_the_users_alone_and_holds_nothing_else(home: Path) -> None:
    Last.fill(["a", "3", "--filters=red", "--notes=x", "9"], asking="never")
    (path,) = [Path(place) / name for place, _, names in os.walk(home) for name in names]
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    assert path.parent.name == "last"
    assert path.read_text() == '{"target": "a", "frames": "3", "filters": "red", "notes": "x"}'
    path.write_text("{broken")
    driver = Scripted([Press("b"), ENTER, Press("1"), ENTER, ENTER, ENTER, Press("2"), ENTER])
    assert Last.fill([], driver=driver).target == "b"
    path.write_text('{"target": 3, "frames": "0"}')  # neither would do
    driver = Scripted([Press("b"), ENTER, Press("1"), ENTER, ENTER, ENTER, Press("2"), ENTER])
    assert Last.fill([], driver=driver).frames == 1


def test_a_place_that_cannot_be_written_costs_nothing(home: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_STATE_HOME", "/dev/null/nowhere")
    assert Last.fill(["a", "3", "--filters=red", "--notes=x", "9"], asking="never").target == "a"


class Expose(Command):
    """Expose."""

    target = slot(ask="Target", initial="last")

    def run(self) -> str:
        return f"exposing {self.target}"


class Shared(Form):
    site = slot(default="ridge")


@pytest.mark.parametrize("shared", [None, Shared])
def test_a_command_begins_with_its_own_last_value(shared: Any, home: Path, capsys: pytest.CaptureFixture[str]) -> None:
    program = Program("desk", members=[Expose], shared=shared)
    assert program.main(["expose", "dome"]) == 0
    assert program.call(["expose"], Scripted([ENTER])) == 0
    assert capsys.readouterr().out == "exposing dome\n" * 2


def test_a_function_begins_with_its_last_value(home: Path, capsys: pytest.CaptureFixture[str]) -> None:
    def expose(target: Annotated[str, slot("Target", initial="last")]) -> str:
        return f"exposing {target}"

    assert run(expose, ["dome"]) == 0
    assert run(expose, [], context=Context(driver=Scripted([ENTER]))) == 0
    assert capsys.readouterr().out == "exposing dome\n" * 2


def test_a_menu_says_that_the_choice_is_that_of_the_last_run(home: Path) -> None:
    class Pick(Form):
        room = slot(one_of(["dome", "cellar"]), initial="last")

    Pick.fill(["cellar"])
    driver = Scripted([ENTER])
    assert Pick.fill([], driver=driver).room == "cellar"
    assert any("as last time" in frame for frame in driver.frames)


def test_a_session_has_no_last_run_of_the_developer(home: Path) -> None:
    Last.fill(["a", "3", "--filters=red", "--notes=x", "9"], asking="never")
    with Session(lambda: Last.fill([])) as session:
        assert "Target" in session.screen
        session.press("enter")
        assert "a value is required" in session.screen


def test_a_pattern_says_what_it_wants_in_words() -> None:
    class Code(Form):
        code = slot(pattern=r"[A-Z]{3}-\d+", pattern_says="three letters, a hyphen and a number")

    with pytest.raises(Problems, match='"x" is not valid: must be three letters, a hyphen and a number'):
        Code.fill(["x"])
    driver = Scripted([*map(Press, "AB-1"), ENTER, Press("home"), Press("C"), ENTER])
    assert Code.fill([], driver=driver).code == "CAB-1"


def test_a_path_may_be_one_that_can_be_made(tmp_path: Path) -> None:
    class Out(Form):
        path = slot(Path, exists="parent")

    assert Out.fill([str(tmp_path / "new.txt")]).path == tmp_path / "new.txt"
    with pytest.raises(Problems, match="there is no folder"):
        Out.fill([str(tmp_path / "no" / "new.txt")])


class Night(Form):
    """Each may stay empty, and is asked for all the same."""

    observer = slot("Observer", initial=None)
    frames = slot(int, "Frames", initial=None, low=1)
    camera = slot(one_of(["north", "none yet"]), "Camera", initial=None)
    guided = slot(bool, "Guided", initial=None)
    folder = slot(Path, "Folder", initial=None)
    begins = slot(time, "Begins", initial=None)
    seconds = slot(float, "Seconds", initial=None, high=lambda so_far: so_far.frames or 9)
    filter = slot(one_of(lambda so_far: ["red", so_far.camera or "blue"]), "Filter", initial=None)
    hint = slot("Hint", initial=None, suggest=["one", "two"])
    code = slot("Code", initial=None, secret=True, twice=True)


NONE = (None,) * len(slots_of(Night))


def test_an_answer_may_stay_empty_from_every_source() -> None:
    driver = Scripted([ENTER] * len(NONE))
    asked = Night.fill([], driver=driver)
    assert tuple(asked) == NONE
    assert set(asked.origins.values()) == {"asked"}
    assert any("may stay empty" in frame for frame in driver.frames)
    with Session(Night, environment={"WESPERON_PLAIN": "1"}) as session:
        session.press(*["enter"] * len(NONE))
    assert tuple(session.result) == NONE
    assert tuple(Night.fill([], asking="never")) == NONE
    assert tuple(Night()) == NONE
    assert asked.words() == [f"--{name}=" for name in slots_of(Night) if name != "code"]
    again = Night.fill(asked.words(), asking="never")
    assert tuple(again) == NONE
    assert set(again.origins.values()) == {"words", "default"}
    null = Context(stdin=io.StringIO(json.dumps(dict.fromkeys(slots_of(Night)))))
    taken = Night.fill(["--answers=-"], asking="never", context=null)
    assert tuple(taken) == NONE
    assert set(taken.origins.values()) == {"answers"}


@given(st.permutations([name for name in slots_of(Night) if name != "code"]), st.integers(0, 9))
def test_what_is_given_beside_empty_ones_is_kept_and_given_again(names: list[str], count: int) -> None:
    texts = {
        "observer": "V", "frames": "3", "camera": "none yet", "guided": "no", "folder": "here", "begins": "21:00",
        "seconds": "2.5", "filter": "red", "hint": "x",
    }  # fmt: skip
    given_names = names[:count]
    words = [f"--{name}={texts[name] if name in given_names else ''}" for name in names]
    record = Night.fill(words, asking="never")
    for name in names:
        assert (getattr(record, name) is None) == (name not in given_names)
    again = Night.fill(record.words(), asking="never")
    assert again == record


def test_going_back_an_answer_can_be_emptied_and_a_choice_given_up() -> None:
    keys = [Press("x"), ENTER, ENTER, Press("down"), ENTER, *[Press("shift-tab")] * 3]
    keys += [Press("ctrl-u"), ENTER, ENTER, Press("up"), ENTER, *[ENTER] * 7]
    record = Night.fill([], driver=Scripted(keys))
    assert (record.observer, record.camera) == (None, None)
    keys = [ENTER, ENTER, Press("down"), Press("down"), *[ENTER] * 8]
    assert Night.fill([], driver=Scripted(keys)).camera == "none yet"
    with Session(Night, environment={"WESPERON_PLAIN": "1"}) as session:
        session.press("enter", "enter").type("none").press("enter").press(*["enter"] * 7)
    assert session.result.camera is None
    with Session(Night, environment={"WESPERON_PLAIN": "1"}) as session:
        session.press("enter", "enter").type("2").press("enter").press(*["enter"] * 7)
    assert session.result.camera == "north"


def test_a_parameter_may_stay_empty() -> None:
    def expose(target: Annotated[str | None, slot("Target", initial=None)], frames: int = 1) -> None:
        raise Complaint(f"{target} {frames}")

    with Session(lambda: run(expose, [])) as session:
        assert "may stay empty" in session.screen
        session.press("enter")
    assert "None 1" in session.screen


def test_one_that_does_not_apply_is_not_asked_for_and_not_written() -> None:
    class Look(Form):
        deep = slot(bool)
        depth = slot(int, "Depth", initial=None, applies=lambda so_far: so_far.deep)

    assert Look.fill(["--no-deep"], driver=Scripted([])).words() == ["--deep=no"]
    assert Look.fill(["--deep"], driver=Scripted([ENTER])).words() == ["--deep=yes", "--depth="]
    with pytest.raises(Problems):
        Look.fill(["--no-deep", "--depth=3"])


@given(
    st.sampled_from([int, float, Decimal, date, datetime, time, timedelta]),
    st.data(),
    st.lists(st.sampled_from(["up", "down", "page-up", "page-down"]), max_size=6),
)
def test_whatever_the_arrows_make_of_a_value_is_one(kind: Any, data: st.DataObject, keys: list[str]) -> None:
    values: dict[Any, Any] = {
        int: st.integers(), float: st.floats(allow_nan=False, allow_infinity=False),
        Decimal: st.decimals(allow_nan=False, allow_infinity=False), date: st.dates(), datetime: st.datetimes(),
        time: st.times(), timedelta: st.timedeltas(timedelta(-999), timedelta(999)),
    }  # fmt: skip
    form: Any = type("One", (Form,), {"value": slot(kind, initial=data.draw(values[kind]))})
    value = form.fill([], driver=Scripted([*map(Press, keys), ENTER])).value
    assert type(value) is kind
    assert form.fill(form(value=value).words(), asking="never").value == value


@pytest.mark.parametrize(("start", "key"), [(1.7e308, "up"), (-1.7e308, "down")])
def test_a_step_never_leads_beyond_the_last_number(start: float, key: str) -> None:
    form: Any = type("One", (Form,), {"value": slot(float, initial=start, step=1e308)})
    driver = Scripted([Press(key), ENTER])
    assert form.fill([], driver=driver).value == start
    assert not any("inf" in frame for frame in driver.frames)
