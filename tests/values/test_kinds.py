"""Kinds: what a text means, from every source, and how a complaint tells what was wanted.

Modules: ``values``, ``values.kind``, ``values.kinds.choices``, ``values.kinds.choice_list``, ``values.kinds.pairs``,
``values.words``.
"""

from __future__ import annotations

import builtins
import itertools
import json
import re
from collections.abc import Callable
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from enum import Enum
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import Context, DeclarationError, Form, Problems, Refusal, any_of, one_of, slot
from wesperon.editing.keys.events import Paste
from wesperon.testing import Press, Scripted
from wesperon.values import Complaint


def even(text: str) -> int:
    number = int(text)
    if number % 2:
        raise ValueError(f"{number} is odd")
    return number


class Wheel(Enum):
    FIRST = "first"
    SECOND = 2


SLOTS: dict[str, Any] = {
    "text": slot(low=2, high=9),
    "integer": slot(int, low=-3, high=200),
    "real": slot(float, high=99.5),
    "switch": slot(bool),
    "clock": slot(time),
    "own": slot(even),
    "day": slot(date, low=date(2000, 1, 1)),
    "instant": slot(datetime, high=datetime(2100, 1, 1)),
    "length": slot(timedelta, high=timedelta(days=2)),
    "exact": slot(Decimal, low=Decimal(0)),
    "path": slot(Path),
    "member": slot(Wheel),
    "form": slot(pattern=r"HOLLIN-\d{3}"),
    "open": slot(float, high=float("inf")),
}


@tabled
def test_a_text_has_a_value(name: str, text: str, value: object) -> None:
    got = SLOTS[name].parse(text)
    assert (got, type(got)) == (value, type(value))


@tabled
def test_a_complaint_says_what_was_got_and_wanted_and_where(
    name: str, text: str, position: int | None, said: str
) -> None:
    with pytest.raises(Complaint) as caught:
        SLOTS[name].parse(text)
    assert caught.value.position == position
    assert said in caught.value.reason


LIKELY = st.one_of(
    st.text(max_size=12),
    st.integers(-300, 300).map(str),
    st.floats().map(str),
    st.sampled_from(
        [
            "2031-04-17",
            "1h30m",
            "2031-04-17T21:30",
            "a/b",
            "first",
            "HOLLIN-051",
            "yes",
            " no ",
            "1_0",
            "1e2",
            "21:30",
            "4x5",
            "",
            " ",
            "٣",
            "\t5\n",
            "-0",
            "nan",
        ]
    ),
)


@given(st.sampled_from(sorted(set(SLOTS) - {"member"})), LIKELY)
def test_a_text_means_the_same_on_the_command_line_and_at_a_question(name: str, text: str) -> None:
    """Promise 1: the same value, or the same complaint."""
    declared = SLOTS[name]
    form: Any = type("OneValue", (Form,), {"value": declared})
    try:
        by_word: object = form.fill([f"--value={text}"], asking="never").value
        complaint = ""
    except Problems as problems:
        by_word, complaint = None, problems.problems[0].reason
    driver = Scripted([Paste(text), Press("enter"), Press("ctrl-c")])
    try:
        asked: object = form.fill([], asking="missing", driver=driver).value
        assert (asked, type(asked)) == (by_word, type(by_word))
        assert not complaint
    except KeyboardInterrupt:
        assert complaint
        shown = " ".join(" ".join(driver.frames).split())
        missing = complaint.startswith("is missing")
        assert "a value is required" in shown if missing else complaint.split()[-1] in shown


@given(
    st.sampled_from(
        ["integer", "real", "switch", "clock", "text", "day", "instant", "length", "exact", "path", "member"]
    ),
    st.data(),
)
def test_the_text_of_a_value_gives_the_value_again(name: str, data: st.DataObject) -> None:
    strategies: dict[str, st.SearchStrategy[Any]] = {
        "integer": st.integers(-3, 200),
        "real": st.floats(max_value=99.5, allow_nan=False, allow_infinity=False),
        "switch": st.booleans(),
        "clock": st.times().map(lambda moment: moment.replace(fold=0)),
        "text": st.text(min_size=2, max_size=9),
        "day": st.dates(min_value=date(2000, 1, 1)),
        "instant": st.datetimes(max_value=datetime(2099, 1, 1)).map(lambda moment: moment.replace(fold=0)),
        "length": st.timedeltas(max_value=timedelta(days=2)),
        "exact": st.decimals(min_value=0, allow_nan=False, allow_infinity=False),
        "path": st.text(st.characters(exclude_characters="\0"), min_size=1).map(Path),
        "member": st.sampled_from(Wheel),
    }
    value = data.draw(strategies[name])
    declared = SLOTS[name]
    again = declared.parse(declared.format(value))
    assert (repr(again), type(again)) == (repr(value), type(value))


LABELS = st.lists(st.text("ab,\\ é", min_size=1, max_size=5), min_size=1, max_size=6, unique=True)


@given(LABELS, st.data())
def test_the_text_of_some_choices_gives_the_choices_again(labels: list[str], data: st.DataObject) -> None:
    try:
        kind = any_of(labels)
    except DeclarationError:
        assert any(not label.strip() for label in labels)
        return
    chosen = tuple(label for label in labels if data.draw(st.booleans()))
    assert kind.parse(kind.format(chosen)) == chosen


class Lamp:
    def __init__(self, name: str, why: str = "") -> None:
        self.name, self.why = name, why


LAMPS = [Lamp("Arc"), Lamp("Flat", "its bulb is dead"), Lamp("Sky")]


def test_choices_give_back_the_programs_own_objects() -> None:
    menu = one_of(LAMPS, label="name", aliases=lambda lamp: lamp.name[0], disabled="why")
    assert menu.parse("Arc") is LAMPS[0]
    assert menu.parse("S") is LAMPS[2]
    assert any_of(LAMPS, label="name").parse("Sky,Arc") == (LAMPS[0], LAMPS[2])
    assert one_of({"low": 1, "high": 2}).parse("high") == 2
    with pytest.raises(Complaint, match="bulb is dead"):
        menu.parse("Flat")


def test_an_unknown_choice_is_met_with_the_nearest() -> None:
    many = one_of([f"HOLLIN-{number:03}" for number in range(100)])
    with pytest.raises(Complaint, match="not one of the 100 choices; nearest: HOLLIN-051"):
        many.parse("HOLLIN-O51")
    with pytest.raises(Complaint, match="choose from: Arc, Flat, Sky"):
        one_of(LAMPS, label="name").parse("Moon")


@pytest.mark.parametrize(("least", "most", "text", "said"), [(2, None, "a", "at least 2"), (0, 1, "a,b", "at most 1")])
def test_too_few_or_too_many_choices_are_refused(least: int, most: int | None, text: str, said: str) -> None:
    with pytest.raises(Complaint, match=said):
        any_of(["a", "b", "c"], least=least, most=most).parse(text)


def test_labels_are_asked_for_only_when_needed() -> None:
    asked = []

    def label(number: int) -> str:
        asked.append(number)
        return str(number)

    kind = one_of(range(100_000), label)
    assert asked == []
    assert kind.format(5) == "5"
    assert asked == [5]


untyped: Any = slot


@tabled
def test_a_declaration_that_cannot_work_is_refused(declare: Any) -> None:
    with pytest.raises(DeclarationError):
        declare()


def test_choices_of_a_generator_are_taken_as_they_are_wanted() -> None:
    taken: list[int] = []

    def numbers() -> Any:
        for number in range(9):
            taken.append(number)
            yield number

    kind: Any = slot(one_of(numbers(), lambda n: f"n{n}")).kind
    assert (taken, kind.wants) == ([], "one of the choices")
    assert (kind.parse("n2"), taken) == (2, [0, 1, 2])
    assert (kind.validate(4), taken) == (4, [0, 1, 2, 3, 4])
    with pytest.raises(Complaint, match="not one of the 9 choices"):
        kind.parse("n9")
    assert kind.wants == "one of the 9 choices"
    with pytest.raises(DeclarationError, match="both called"):
        one_of(["a", "b", "a"])


@pytest.mark.parametrize("about", ["note", "disabled", "group"])
@pytest.mark.parametrize("given", [{"a": "said"}, lambda value: "said" * (value == "a")])
def test_what_is_said_of_choices_comes_from_functions_and_mappings(about: str, given: Any) -> None:
    choices = one_of(["a", "b"], **{about: given}).choices
    assert [getattr(choices, about)(at) for at in range(2)] == ["said", ""]


def letters() -> Any:
    return {"x": 1, "y": 2}


def test_choices_by_the_answers_take_functions_with_and_without_them() -> None:
    class Two(Form):
        first = slot(int)
        second = slot(any_of(lambda so_far: range(so_far.first), least=1))
        third = slot(one_of(letters), default=2)

    assert tuple(Two.fill(["3", "0,2"], asking="never")) == (3, (0, 2), 2)
    assert Two(first=3, second=(1,)).words() == ["--first=3", "--second=1"]
    assert Two.fill(["3", "0", "x"], asking="never").third == 1
    for words, reason in (
        (["2", "2"], "not one of the 2"),
        (["0", "1"], "nothing to choose from with the values before"),
    ):
        with pytest.raises(Problems, match=reason):
            Two.fill(words, asking="never")


def test_durations_are_rounded_to_whole_microseconds() -> None:
    for text, microseconds in [("0.6us", 1), ("0.4us", 0), ("1.5us", 2), ("0.0009ms", 1), ("0.0000006s", 1)]:
        assert slot(timedelta).parse(text) == timedelta(microseconds=microseconds), text


@given(st.lists(st.text("a,", min_size=1, max_size=6).filter(str.strip), min_size=1, max_size=6, unique=True))
def test_a_text_of_several_labels_is_never_taken_for_one_label(labels: list[str]) -> None:
    kind = any_of(labels)
    for chosen in itertools.combinations(labels, 2):
        assert set(kind.parse(kind.format(chosen))) == set(chosen)


def test_a_text_that_is_also_a_label_gets_as_many_commas_as_it_needs() -> None:
    kind = any_of(["a", "b", "a,b", "a,b,", "a,b,,"])
    assert kind.parse(kind.format(("a", "b"))) == ("a", "b")


@given(
    st.lists(st.text(st.sampled_from("aAbBßSsİi1 "), min_size=1, max_size=3).filter(str.strip), min_size=1, unique=True)
)
def test_a_choice_is_meant_in_any_letter_case_if_only_one_is(labels: list[str]) -> None:
    kind: Any = one_of(labels)
    for label in labels:
        assert kind.parse(label) == label  # an exact one wins
        for text in (label.upper(), label.lower(), label.swapcase()):
            meant = [one for one in labels if one.casefold() == text.strip().casefold()]
            expected = text if text in labels else text.strip() if text.strip() in labels else None
            if expected is None and len(meant) == 1 and meant[0] == meant[0].strip():
                expected = meant[0]
            if expected is not None:
                assert kind.parse(text) == expected
            elif len(meant) > 1:
                with pytest.raises(Complaint):
                    kind.parse(text)


EMPTY_ITEMS: list[Any] = [str, int, one_of(["a", "b"])]


@pytest.mark.parametrize("kind", EMPTY_ITEMS, ids=["text", "integer", "choice"])
def test_an_empty_item_is_wrong_from_every_source(kind: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    class Log(Form):
        values = slot(kind, many=True, env="LOG_VALUES")

    right = "7" if kind is int else "a"
    path = tmp_path / "answers.json"
    path.write_text(json.dumps({"values": [right, ""]}))
    made: Any = Log
    ways: list[Callable[[], Any]] = [
        lambda: Log.fill([f"--values={right}", "--values="], asking="never"),
        lambda: Log.fill([f"--answers={path}"], asking="never"),
        lambda: made(values=[right, ""]),
        lambda: Log.fill([], asking="never"),
    ]
    for at, way in enumerate(ways):
        if at == 3:
            monkeypatch.setenv("LOG_VALUES", f"{right} ''")
        with pytest.raises(Problems) as caught:
            way()
        assert [problem.slot for problem in caught.value] == ["values"]


def test_an_empty_item_is_a_value_where_the_slot_says_so(tmp_path: Path) -> None:
    class Log(Form):
        values = slot(many=True, low=0)

    path = tmp_path / "answers.json"
    path.write_text(json.dumps({"values": ["", "a"]}))
    made: Any = Log
    expected = made(values=["", "a"])
    assert Log.fill(expected.words(), asking="never") == expected
    assert Log.fill([f"--answers={path}"], asking="never") == expected


def raising(error: type[Exception]) -> Any:
    """Return a kind that raises such an error for every text but ``good``."""

    def kind(text: str) -> str:
        if text != "good":
            raise error("told")
        return text

    return kind


ERRORS = [one for one in vars(builtins).values() if isinstance(one, type) and issubclass(one, Exception)]
OWN = (TypeError, NameError, AttributeError, AssertionError, ImportError, NotImplementedError, SystemError, Refusal)


@pytest.mark.parametrize("error", [*ERRORS, re.error, Refusal], ids=lambda error: error.__name__)
@pytest.mark.parametrize("source", ["words", "environment", "question"])
def test_what_a_kind_raises_for_a_text_is_a_complaint_unless_it_is_a_fault_of_its_own(
    error: type[Exception], source: str
) -> None:
    if issubclass(error, (Warning, ExceptionGroup, UnicodeError)):
        return
    form: Any = type("One", (Form,), {"value": slot(raising(error), env="VALUE")})
    keys = [*"bad", Press("enter"), Press("ctrl-u"), *"good", Press("enter")]
    calls: dict[str, Callable[[], Any]] = {
        "words": lambda: form.fill(["bad"], asking="never"),
        "environment": lambda: form.fill([], asking="never", context=Context(environ={"VALUE": "bad"})),
        "question": lambda: form.fill([], driver=Scripted(keys)),
    }
    call = calls[source]
    if issubclass(error, OWN):
        with pytest.raises(error):
            call()
    elif source == "question":
        assert call().value == "good"
    else:
        with pytest.raises(Problems, match="value: "):
            call()


@tabled
def test_usual_functions_are_kinds(kind: Any, text: str, said: str) -> None:
    form: type[Form] = type("One", (Form,), {"value": slot(kind)})
    with pytest.raises(Problems, match=re.escape(said)):
        form.fill([text], asking="never")
