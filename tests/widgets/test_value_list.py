"""Several values by question: one after the other, each editable; and name-value pairs as a small table.

Modules: ``widgets.value_list``, ``widgets.several_lines``.
"""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Annotated, Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.asking import DOWN, ENTER, ERASE, UP, typed
from tests.tables import tabled
from wesperon import Context, DeclarationError, Form, Problems, any_of, one_of, run, slot
from wesperon.editing.keys.events import Key
from wesperon.forms.row_candidates import RowCandidates
from wesperon.testing import Press, Scripted, Session
from wesperon.values.records import slots_of
from wesperon.widgets.value_list import RowRules, ValueList

words = st.text(st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1, max_size=6)


class Notes(Form):
    notes = slot(many=True, ask="Notes", least=1)


class Frames(Form):
    frames = slot(int, "Frames", many=True, low=0, high=99, least=1, most=4)


class Tags(Form):
    tags = slot(dict[str, int], "Tags", least=1)


@given(st.lists(words, min_size=1, max_size=4))
def test_rows_give_the_values_that_words_give(texts: list[str]) -> None:
    by_question = Notes.fill([], driver=Scripted([*typed(*texts), ENTER]))
    by_words = Notes.fill([f"--notes={text}" for text in texts], asking="never")
    assert by_question == by_words


@given(st.lists(st.integers(0, 99), min_size=1, max_size=6))
def test_the_last_value_that_there_may_be_accepts(numbers: list[int]) -> None:
    end = [ENTER] if len(numbers) < 4 else []
    record = Frames.fill([], driver=Scripted([*typed(*map(str, numbers[:4])), *end]))
    assert record.frames == tuple(numbers[:4])
    # Several in one row are as many rows.
    record = Frames.fill([], driver=Scripted([*typed(" ".join(map(str, numbers[:4]))), *end]))
    assert record.frames == tuple(numbers[:4])


@given(st.dictionaries(words.filter(lambda name: "=" not in name), st.integers(0, 99), min_size=1, max_size=4))
def test_pairs_by_question_by_words_and_from_a_file_are_one(pairs: dict[str, int]) -> None:
    texts = [f"{name}={value}" for name, value in pairs.items()]
    found = [
        Tags.fill([], driver=Scripted([*typed(*texts), ENTER])),
        Tags.fill([f"--tags={text}" for text in texts], asking="never"),
        Tags(tags=pairs),
    ]
    assert [record.tags for record in found] == [pairs] * 3
    assert len({hash(record) for record in found}) == 1
    assert Tags.fill(found[0].words(), asking="never") == found[0]
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "a.json"
        import json

        path.write_text(json.dumps({"tags": pairs}))
        assert Tags.fill([f"--answers={path}"], asking="never").tags == pairs
        path.write_text(json.dumps({"tags": texts}))
        assert Tags.fill([f"--answers={path}"], asking="never").tags == pairs


def test_a_wrong_row_is_told_at_once_and_rows_above_can_be_edited() -> None:
    keys = [*typed("5", "x"), ERASE, *typed("7"), UP, UP, ERASE, *typed("6"), DOWN, ENTER]
    driver = Scripted(keys)
    assert Frames.fill([], driver=driver).frames == (6, 7)
    assert any('"x" is not a whole number' in frame for frame in driver.frames)
    assert any("5\n" in frame and "7" in frame for frame in driver.frames)


def test_an_emptied_row_is_no_value_and_too_few_are_told() -> None:
    driver = Scripted([ENTER, *typed("5", "7"), UP, UP, ERASE, DOWN, DOWN, ENTER])
    assert Frames.fill([], driver=driver).frames == (7,)
    assert any("a value is required" in frame for frame in driver.frames)


def test_what_was_given_is_there_when_the_question_is_opened_again() -> None:
    class Two(Form):
        notes = slot(many=True, ask="Notes", least=1)
        more = slot(ask="More")

    keys = [*typed("a b", "c"), ENTER, Press("shift-tab"), *typed("d"), ENTER, *typed("end")]
    record = Two.fill([], driver=Scripted(keys))
    assert record.notes == ("a b", "c", "d")

    # A draft that was left by going back is there again, too.
    class Three(Form):
        first = slot(ask="First")
        notes = slot(many=True, ask="Notes", least=1)

    keys = [*typed("x"), *typed("a b", "c"), Press("shift-tab"), ENTER, ENTER]
    assert Three.fill([], driver=Scripted(keys)).notes == ("a b", "c")


def test_rows_of_a_form_that_was_left_are_there_again(tmp_path: Path) -> None:
    class Left(Form):
        notes = slot(many=True, ask="Notes", least=1)
        tags = slot(dict[str, int], "Tags", least=1)
        end = slot(ask="End")

    kept = {"XDG_STATE_HOME": str(tmp_path)}
    with Session(lambda: Left.fill([]), environment=kept) as session:
        session.type("a b").press("enter").type("it's").press("enter", "enter")
        session.type("x y=3").press("enter", "enter", "ctrl-c")
    with Session(lambda: Left.fill([]), environment=kept) as session:
        assert "2 saved answers" in session.screen
        session.press("enter").type("z").press("enter")
        assert (session.result.notes, session.result.tags) == (("a b", "it's"), {"x y": 3})


def test_under_all_wrong_words_are_in_their_rows_ready_to_mend() -> None:
    driver = Scripted([ERASE, *typed("3"), DOWN, ENTER])
    record = Frames.fill(["--frames=1", "--frames=x", "--frames=2", "--asking=all"], driver=driver)
    assert record.frames == (1, 3, 2)


def test_a_name_that_is_there_already_is_told_with_its_row() -> None:
    driver = Scripted([*typed("a=1", "a=2"), Press("home"), Press("delete"), *typed("b"), ENTER])
    keys = [*typed("a=1", "a=2"), Press("home"), Press("delete"), Press("b"), ENTER, ENTER]
    driver = Scripted(keys)
    assert Tags.fill([], driver=driver).tags == {"a": 1, "b": 2}
    assert any("a is given more than once" in frame for frame in driver.frames)


def test_pairs_are_shown_in_two_columns_and_the_cursor_is_in_the_right_one() -> None:
    rules = RowRules(slots_of(Tags)["tags"].parse, lambda row: not row, name_of=str)
    rows = ValueList(list, rules, rows=["depth=3", "see=2"])
    frame = rows.view(40, 10)
    assert frame.text().splitlines()[:2] == ["depth = 3", "see   = 2"]
    rows.press(Key("up"))
    rows.press(Key("end"))
    assert rows.view(40, 10).cursor == (1, 9)
    rows.press(Key("left"))
    assert rows.view(40, 10).cursor == (1, 8)
    rows.press(Key("left"))
    assert rows.view(40, 10).cursor == (1, 3)
    for offset in range(len("see=2") + 1):
        line, column = rows.display.line_and_offset(len("depth=3\n") + offset)
        assert rows.display.offset(line, column) == len("depth=3\n") + offset


def test_choices_are_listed_for_a_row_and_completed() -> None:
    class Rooms(Form):
        rooms = slot(one_of(["dome", "door", "cellar"], note={"dome": "on top"}), "Rooms", many=True, least=1)

    driver = Scripted([*map(Press, "ce"), Press("tab"), ENTER, *typed("dome"), ENTER])
    assert Rooms.fill([], driver=driver).rooms == ("cellar", "dome")
    assert "on top" in driver.frames[0]


def test_what_a_row_may_become_is_what_can_be_typed_and_taken() -> None:
    labels = ["Dome", "door", "da\x1bsh", "cellar", "den"]
    kind = one_of(labels, disabled=lambda label: "shut" * (label == "den"))
    found = RowCandidates(slot(kind, many=True), None)
    assert [one.text for one in found.first("", 9)] == ["Dome", "door", "cellar"]
    assert [one.text for one in found.first("", 2)] == ["Dome", "door"]
    assert [one.text for one in found.first("d", 9)] == ["door"]
    assert [one.text for one in found.first("DO", 9)] == ["Dome", "door"]  # none begins so in this letter case
    assert found.first("x", 9) == []
    assert found.complete("door\ncel", 8) == (5, found.first("cel", 9))


def test_the_modal_family_edits_rows() -> None:
    keys = [*map(Press, "12"), ENTER, *map(Press, "34"), Press("escape"), Press("k"), Press("x"), ENTER]
    assert Frames.fill([], driver=Scripted(keys), keys="modal").frames == (1, 34)


def test_a_value_with_a_line_end_is_asked_for_in_one_line() -> None:
    class Lines(Form):
        notes = slot(many=True, ask="Notes", initial=["two\nlines", "b"])

    assert Lines.fill([], driver=Scripted([ENTER])).notes == ("two\nlines", "b")


@tabled
def test_what_is_no_pair_is_a_problem_from_every_source(given: list[str], reason: str) -> None:
    with pytest.raises(Problems) as caught:
        Tags.fill(given, asking="never")
    assert reason in str(caught.value) or reason == "least 1"
    if "more than once" in reason:
        assert [problem.words for problem in caught.value] == [(0, 2)]

    class Env(Form):
        tags = slot(dict[str, int], env="TAGS", least=1)

    line = " ".join(word.removeprefix("--tags=") for word in given)
    with pytest.raises(Problems):
        Env.fill([], asking="never", context=Context(words=[], environ={"TAGS": line}))


@pytest.mark.parametrize("value", [3, "a=1", ["a"], {"a": "x"}, {"a=b": 1}, {"": 1}, {3: 1}, None])
def test_what_is_no_dictionary_of_the_kind_is_refused(value: Any) -> None:
    with pytest.raises(Problems):
        Tags(tags=value)


def test_pairs_have_kinds_bounds_and_defaults_of_their_own(capsys: pytest.CaptureFixture[str]) -> None:
    def plan(tags: dict[str, Annotated[int, slot(low=0)]] = {}, *, rooms: dict[str, str]) -> str:  # noqa: B006
        tags["called"] = 1
        return f"{tags} {rooms}"

    for _ in range(2):  # the default is not changed by what the function does
        assert run(plan, ["--rooms=a=b c", "--rooms", "e="]) == 0
        assert capsys.readouterr().out == "{'called': 1} {'a': 'b c', 'e': ''}\n"
    with pytest.raises(SystemExit):
        run(plan, ["--tags=a=-1"])
    assert "too low" in capsys.readouterr().err
    with pytest.raises(DeclarationError, match="no kind"):
        slot(dict[str, any_of(["a"])])  # type: ignore[misc, call-overload]
    with pytest.raises(DeclarationError, match="stream"):
        slot(dict[str, int], piped="stream")

    class Kept(Form):
        tags = slot(dict[str, int], default={"a": 1})

    assert Kept.fill([]).tags == {"a": 1}
    assert str(Kept.fill([])) == "  tags  a=1"
    first = Kept.fill([])
    first.tags["b"] = 2
    assert Kept.fill([]).tags == {"a": 1}


def test_in_plain_lines_each_value_is_checked_at_once() -> None:
    with Session(lambda: print(Tags.fill([]).tags), environment={"WESPERON_PLAIN": "1"}) as session:
        for text in ("a=1", "b", "a=2", "b=3", ""):
            session.type(text)
            session.press("enter")
        assert "{'a': 1, 'b': 3}" in session.output


def test_in_plain_lines_the_choices_are_told() -> None:
    class Rooms(Form):
        rooms = slot(one_of(["dome", "door"]), "Rooms", many=True, least=1)

    with Session(lambda: Rooms.fill([]), environment={"WESPERON_PLAIN": "1"}) as session:
        assert session.screen.count("such as dome, door") == 1
        session.type("door").press("enter")
        assert session.screen.count("such as dome, door") == 1
        session.press("enter")
        assert session.result.rooms == ("door",)


def test_random_keys_leave_a_list_of_values_whole() -> None:
    import random

    names = ["enter", "up", "down", "left", "right", "backspace", "delete", "home", "end", "tab", "ctrl-k", "ctrl-y"]
    names += ["ctrl-w", "ctrl-_", "alt-enter", "page-up", "ctrl-t", "alt-t", "shift-up", "ctrl-r", "escape"]
    parse = slots_of(Tags)["tags"].parse
    for seed in range(150):
        chance = random.Random(seed)
        rules = RowRules(parse, lambda row: not row, name_of=lambda row: parse(row)[0])
        rows = ValueList(list, rules, rows=["a=1", "bb=22"])
        for _ in range(40):
            name = chance.choice([*names, *"ab=1 "])
            rows.press(Key(name, name if len(name) == 1 else ""))
            frame = rows.view(chance.randint(1, 30), chance.randint(1, 9))
            assert frame.cursor is None or frame.cursor[0] < max(len(frame.rows), 1)
            if rows.outcome is not None:
                break
