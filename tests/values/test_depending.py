"""Bounds, choices and suggestions that depend on other values: the same meaning from every source.

Modules: ``values.slots``, ``values.bounds``, ``values.dependencies``.
"""

from __future__ import annotations

import io
import itertools
from datetime import date, timedelta
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.asking import ENTER
from wesperon import Command, Complaint, Context, DeclarationError, Form, Problems, Program, any_of, one_of, slot
from wesperon.testing import Press, Scripted
from wesperon.values.records import slots_of

ROOMS = {"dome": 4, "cellar": 2}


class Visit(Form):
    first = slot(int, "First")
    last = slot(int, "Last", low=lambda so_far: so_far.first, high=lambda so_far: so_far.first + 3)
    more = slot(int, many=True, high=lambda so_far: so_far.last)
    room = slot(one_of(list(ROOMS), disabled=lambda room, so_far: "full" * (ROOMS[room] < so_far.first)))


def filled(values: dict[str, Any], source: str) -> Any:
    """Return the record of values from a source, or the names of the slots with problems."""
    words, environ, stdin = [], {}, ""
    if source == "words":
        words = [f"--{name}={one}" for name, value in values.items() for one in (value if name == "more" else [value])]
    elif source == "env":
        environ = {
            name.upper(): " ".join(map(str, value)) if name == "more" else str(value) for name, value in values.items()
        }
    else:
        words = ["--answers=-"]
        stdin = "".join(f"{name} = {value!r}\n" for name, value in values.items())
    form = With if source == "env" else Visit
    try:
        record = form.fill(asking="never", context=Context(words=words, environ=environ, stdin=io.StringIO(stdin)))
    except Problems as problems:
        return {(problem.slot, problem.reason) for problem in problems}
    return {name: getattr(record, name) for name in slots_of(form)}


class With(Form):
    """The same, of which each value may come from the environment."""

    first = slot(int, env="FIRST")
    last = slot(int, env="LAST", low=lambda so_far: so_far.first, high=lambda so_far: so_far.first + 3)
    more = slot(int, env="MORE", many=True, high=lambda so_far: so_far.last)
    room = slot(one_of(list(ROOMS), disabled=lambda room, so_far: "full" * (ROOMS[room] < so_far.first)), env="ROOM")


@given(st.integers(0, 5), st.integers(0, 9), st.lists(st.integers(0, 9), max_size=3), st.sampled_from(list(ROOMS)))
def test_bounds_that_depend_mean_the_same_from_every_source(first: int, last: int, more: list[int], room: str) -> None:
    values = {"first": first, "last": last, "more": more, "room": room}
    is_right = first <= last <= first + 3 and all(one <= last for one in more) and ROOMS[room] >= first
    found = [filled(values, source) for source in ("words", "env", "answers")]
    assert found[0] == found[1] == found[2]
    if is_right:
        assert found[0] == {**values, "more": tuple(more)}
        record = Visit(**values)
        assert Visit.fill(record.words(), asking="never") == record
    else:
        assert isinstance(found[0], set)
        with pytest.raises(Problems) as caught:
            Visit(**values)
        assert {problem.slot for problem in caught.value} == {slot for slot, _ in found[0]}


def test_a_wrong_text_is_told_at_once_and_a_missing_value_hides_no_other() -> None:
    with pytest.raises(Problems) as caught:
        Visit.fill(["--last=x", "--more=3", "--more=y"], asking="never")
    assert {problem.slot: problem.missing for problem in caught.value} == {
        "first": True, "last": False, "more": False, "room": True,
    }  # fmt: skip


def test_a_question_has_the_bounds_of_the_answers_so_far() -> None:
    driver = Scripted([*map(Press, "2"), ENTER, *map(Press, "9"), ENTER, Press("backspace"), Press("4"), ENTER, ENTER])
    record = Visit.fill(["--room=dome"], driver=driver)
    assert (record.first, record.last) == (2, 4)
    assert any('"9" is too high: must be from 2 to 5' in frame for frame in driver.frames)
    assert any("a whole number from 2 to 5" in frame for frame in driver.frames)
    # Up and Down stay within the bounds, and going back changes them.
    keys = [Press("2"), ENTER, Press("up", 9), Press("shift-tab"), Press("backspace"), Press("3"), ENTER, ENTER]
    record = Visit.fill(["--room=dome"], driver=Scripted(keys))
    assert (record.first, record.last) == (3, 5)


def test_a_menu_shows_why_a_choice_is_disabled_with_these_answers() -> None:
    driver = Scripted([Press("3"), ENTER, ENTER, ENTER, Press("down"), ENTER, Press("up"), ENTER])
    record = Visit.fill(["--last=3"], driver=driver)
    assert record.room == "dome"
    assert any("full" in frame for frame in driver.frames)


def test_no_possible_value_is_a_problem() -> None:
    class Never(Form):
        first = slot(int)
        last = slot(int, low=lambda so_far: so_far.first, high=5)

    with pytest.raises(Problems, match="no value is possible with the values before it: must be from 9 to 5"):
        Never.fill(["9", "9"], asking="never")


def test_a_bound_may_be_none_or_wrong() -> None:
    class Open(Form):
        first = slot(int)
        last = slot(int, high=lambda so_far: None if so_far.first else "x", default=3)

    assert Open.fill(["1", "99999"]).last == 99999
    with pytest.raises(DeclarationError, match="high of last"):
        Open.fill(["0", "5"])


def test_lengths_and_days_have_bounds_that_depend() -> None:
    class Plan(Form):
        size = slot(int)
        code = slot(low=lambda so_far: so_far.size, high=lambda so_far: so_far.size)
        begin = slot(date)
        end = slot(date, low=lambda so_far: so_far.begin, high=lambda so_far: so_far.begin + timedelta(3))

    assert Plan.fill(["3", "abc", "2024-05-01", "2024-05-04"]).code == "abc"
    with pytest.raises(Problems) as caught:
        Plan.fill(["3", "ab", "2024-05-01", "2024-05-05"])
    assert [problem.slot for problem in caught.value] == ["code", "end"]


def test_help_and_contract_say_what_they_can(capsys: pytest.CaptureFixture[str]) -> None:
    class Call(Command):
        """Call."""

        first = slot(int)
        last = slot(int, low=lambda so_far: so_far.first, high=9)
        room = slot(one_of(list(ROOMS), disabled=lambda room, so_far: ""))
        other = slot(any_of(lambda so_far: range(so_far.first)))

    program = Program("desk", members=[Call])
    assert program.main(["call", "--help"]) == 0
    page = " ".join(capsys.readouterr().out.split())
    assert "a whole number; its bounds depend on other values" in page
    assert "one of dome cellar" in page
    assert "its choices depend on other values" in page
    contract = program.contract()
    assert "low depends on the answers before; high 9" in contract
    assert "one of dome, cellar; which can be chosen depends on the answers before" in contract


def later(so_far: Any) -> Any:
    return so_far.last


BROKEN: dict[str, tuple[dict[str, Any], str]] = {
    "low": ({"first": {"low": later}, "last": {}}, "low of first reads last, which is declared after it"),
    "itself": ({"first": {"high": lambda so_far: so_far.first}}, "high of first reads first itself"),
    "cycle": (
        {"first": {"low": lambda so_far: so_far.last}, "last": {"high": lambda so_far: so_far.first}},
        "first and last depend on each other",
    ),
    "default": ({"first": {"default": later}, "last": {}}, "default of first reads last"),
    "applies": ({"first": {"applies": later}, "last": {}}, "applies of first reads last"),
    "closure": (
        {"first": {"low": lambda so_far: max(so_far.last for _ in "x") if so_far.last else 0}, "last": {}},
        "low of first reads last",
    ),
}


@pytest.mark.parametrize("name", BROKEN)
def test_what_is_read_before_it_is_there_is_refused_at_declaration(name: str) -> None:
    slots, reason = BROKEN[name]
    with pytest.raises(DeclarationError, match=reason):
        type("F", (Form,), {name: slot(int, **keywords) for name, keywords in slots.items()})


class Customer:
    def __init__(self, name: str, city: str) -> None:
        self.name, self.city = name, city


@given(st.lists(st.sampled_from(["Vera", "vera", "Linden", "Row"]), min_size=1, max_size=6), st.booleans())
def test_late_choices_may_share_a_label_and_a_word_for_several_is_a_problem(names: list[str], grows: bool) -> None:
    customers = [Customer(name, f"city {at}") for at, name in enumerate(names)]

    def late(so_far: Any) -> Any:
        return iter(customers) if grows else customers

    class Sale(Form):
        before = slot(default="")
        customer = slot(one_of(late, label="name", note="city"))

    class Letter(Form):
        before = slot(default="")
        customer = slot(any_of(late, label="name", note="city"))

    for at, one in enumerate(customers):
        assert Sale.fill([], driver=Scripted([*[Press("down")] * at, ENTER])).customer is one
    for form, word in itertools.product((Sale, Letter), ("Vera", "vera", "VERA", " Linden", "Row")):
        exact = [one for one in customers if one.name == word.strip()]
        meant = exact or [one for one in customers if one.name.lower() == word.strip().lower()]
        shared = len({one.name for one in meant}) < len(meant)
        try:
            value = form.fill([f"--customer={word}"], asking="never").__dict__["customer"]
        except Problems as problems:
            told = problems.problems[0].reason
            assert len(meant) != 1
            assert grows or (f"names {len(meant)} choices" in told) == shared
        else:
            assert len(meant) == 1 or (grows and shared)
            assert value == (meant[0] if form is Sale else (meant[0],))


def test_suggestions_that_speak_of_a_later_value_are_none_until_it_is_there() -> None:
    class Log(Form):
        note = slot(suggest=lambda so_far: [f"{so_far.frames} frames"])
        frames = slot(int, default=7)

    driver = Scripted([Press("tab"), Press("x"), ENTER])
    assert Log.fill([], driver=driver).note == "x"

    class Wrong(Form):
        note = slot(suggest=lambda so_far: [so_far.frmaes])

    with pytest.raises(AttributeError, match="frmaes"):
        Wrong.fill([], driver=Scripted([Press("x"), ENTER]))


def test_a_name_that_is_no_attribute_of_the_answers_is_none_of_our_business() -> None:
    class Other:
        last = 3

    class Fine(Form):
        first = slot(int, low=lambda so_far: Other.last)
        last = slot(int, high=lambda so_far, limits=Other: limits.last + so_far.first)

    assert Fine.fill(["3", "5"]).last == 5


def test_a_function_of_the_program_that_complains_is_heard() -> None:
    class Odd(Form):
        first = slot(int)
        last = slot(int, low=lambda so_far: _refuse())

    with pytest.raises(Problems, match="the desk is closed"):
        Odd.fill(["1", "2"])


def _refuse() -> int:
    raise Complaint("the desk is closed")


def broken(error: type[Exception]) -> Any:
    """Return a function of the program that fails."""

    def function() -> Any:
        raise error("no list today")

    return function


def fails(error: type[Exception]) -> Any:
    """Return a generator that fails after two items."""
    yield "red"
    yield "reddish"
    raise error("no list today")


@pytest.mark.parametrize("error", [OSError, KeyError, ValueError, ZeroDivisionError])
def test_a_question_goes_on_without_suggestions_that_cannot_be_made(error: type[Exception]) -> None:
    for offered in (broken(error), fails(error), lambda so_far: fails(error)):
        form: type[Any] = type("Paint", (Form,), {"hue": slot(suggest=offered)})
        driver = Scripted(["b", ENTER])
        assert form.fill([], driver=driver).hue == "b"
        assert any("No suggestions: " + error.__name__ in frame for frame in driver.frames)
        assert form.fill(["x"], asking="never").hue == "x"


def test_choices_that_cannot_be_made_are_a_problem_and_a_fault_of_the_program_is_raised() -> None:
    form: type[Any] = type("Paint", (Form,), {"hue": slot(one_of(broken(OSError)))})
    for words, keywords in ((["red"], {"asking": "never"}), ([], {"driver": Scripted([ENTER])})):
        with pytest.raises(Problems, match="there is nothing to choose from: OSError: no list today"):
            form.fill(words, **keywords)
    several: list[dict[str, Any]] = [{"suggest": broken(TypeError)}, {"kind": one_of(broken(TypeError))}]
    for given_keywords in several:
        declare: Any = slot
        wrong: type[Any] = type("Paint", (Form,), {"hue": declare(**given_keywords)})
        with pytest.raises(TypeError):
            wrong.fill([], driver=Scripted([ENTER]))


async def later_on() -> list[str]:
    return []


@pytest.mark.parametrize("keyword", ["suggest", "default", "initial", "low", "high", "applies"])
def test_coroutine_functions_are_refused_where_they_are_declared(keyword: str) -> None:
    declare: Any = slot
    with pytest.raises(DeclarationError, match=f"{keyword}: later_on is a coroutine function"):
        declare(int, **{keyword: later_on})
    declare = one_of
    with pytest.raises(DeclarationError, match="choices: later_on is a coroutine function"):
        declare(later_on)
