"""What functions that a screen calls give and raise, and what parts are given that show numbers.

Modules: ``screens.faults``, ``widgets.parts.figures``.
"""

from __future__ import annotations

import asyncio
import math
from collections.abc import Callable
from functools import partial, wraps
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import (
    Button,
    Complaint,
    Down,
    Field,
    Form,
    Label,
    Listing,
    MenuEntry,
    Meter,
    Refusal,
    Screen,
    Table,
    Trend,
    slot,
)
from wesperon.testing import Session
from wesperon.values import DeclarationError

Function = Callable[..., Any]


def pressed(function: Function) -> tuple[Screen, list[str]]:
    """Return a screen with a button that calls a function, and the keys that lead there."""
    return Screen(Down(Button("Go", function))), ["enter"]


def changed(function: Function) -> tuple[Screen, list[str]]:
    """The same for a field that changes."""
    field = Field(slot(int, "Frames"))
    field.on_change(function)
    return Screen(Down(field)), ["5"]


def chosen(function: Function) -> tuple[Screen, list[str]]:
    """The same for a row of a table."""
    return Screen(Down(Table([["one"], ["two"]], ["name"], action=function))), ["down", "enter"]


def listed(function: Function) -> tuple[Screen, list[str]]:
    """The same for a choice of a list."""
    return Screen(Down(Listing(["one", "two"], action=function))), ["down", "enter"]


def bound(function: Function) -> tuple[Screen, list[str]]:
    """The same for a key."""
    return Screen(Down(Button("Go", lambda: None)), bindings={"f5": function}), ["f5"]


def from_menu(function: Function) -> tuple[Screen, list[str]]:
    """The same for an entry of a menu."""
    return Screen(Down(Button("Go", lambda: None)), menus={"Night": [MenuEntry("Begin", function)]}), [
        "f10",
        "enter",
        "enter",
    ]


def later(function: Function) -> tuple[Screen, list[str]]:
    """The same for a function that is called after a time."""
    screen = Screen(Down(Label("waits")))
    screen.call_later(0, function)
    return screen, []


WAYS = [pressed, changed, chosen, listed, bound, from_menu, later]


@pytest.mark.parametrize("way", WAYS)
def test_a_result_that_nobody_looks_at_is_a_fault_of_the_program(way: Function) -> None:
    def refuse(*given: Any) -> bool:
        return False

    screen, keys = way(refuse)
    with Session(screen.run) as session:
        session.press(*keys)
        session.see("gave a result (bool), which says nothing").see("raises Refusal").press("enter", "ctrl-d")
    assert session.result is None


class Calls:
    """Functions of every shape, which note that they were called and with what."""

    def __init__(self) -> None:
        self.had: list[tuple[Any, ...]] = []

    def of_one(self, value: Any) -> None:
        """Take one."""
        self.had.append((value,))

    def of_none(self) -> None:
        """Take none."""
        self.had.append(())

    def of_any(self, *values: Any) -> None:
        """Take any number."""
        self.had.append(values)

    def of_one_or_none(self, value: Any = None) -> None:
        """Take one, or none."""
        self.had.append((value,))

    def __call__(self) -> None:
        self.had.append(())


SHAPES: list[tuple[str, Callable[[Calls], Function], bool]] = [
    ("a method", lambda calls: calls.of_one, True),
    ("a method of nothing", lambda calls: calls.of_none, False),
    ("a method of any number", lambda calls: calls.of_any, True),
    ("a method that can do without", lambda calls: calls.of_one_or_none, True),
    ("a lambda", lambda calls: lambda value: calls.of_one(value), True),
    ("a lambda of nothing", lambda calls: lambda: calls.of_none(), False),
    ("decorated, of nothing", lambda calls: wraps(calls.of_none)(lambda *given: calls.of_none(*given)), False),
    ("decorated", lambda calls: wraps(calls.of_one)(lambda *given: calls.of_one(*given)), True),
    ("an object that can be called", lambda calls: calls, False),
    ("filled in part", lambda calls: partial(calls.of_any), True),
    ("filled in whole, of nothing", lambda calls: partial(lambda made: calls.of_none(), 1), False),
    ("of the standard library", lambda calls: calls.had.append, True),
]


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(("shape", "make", "takes_value"), SHAPES, ids=[shape for shape, _, _ in SHAPES])
def test_a_function_gets_the_value_if_it_takes_one_and_can_do_without(
    way: Function, shape: str, make: Callable[[Calls], Function], takes_value: bool
) -> None:
    calls = Calls()
    gives_value = way in (changed, chosen, listed)
    if takes_value and not gives_value and "any" not in shape and "without" not in shape and shape != "filled in part":
        with pytest.raises(DeclarationError, match="must be a function of nothing"):
            way(make(calls))
        return
    screen, keys = way(make(calls))
    with Session(screen.run) as session:
        session.press(*keys)
        assert "failed" not in session.screen
        session.press("ctrl-d")
    assert len(calls.had) == 1
    has_value = calls.had[0] not in ((), (None,))
    assert has_value == (gives_value and takes_value)


@pytest.mark.parametrize("way", WAYS)
def test_a_function_that_wants_more_is_refused_where_it_is_given(way: Function) -> None:
    def of_two(one: Any, other: Any) -> None:
        """Take two."""

    def by_name(*, name: str) -> None:
        """Take one by name."""

    for function in (of_two, by_name):
        with pytest.raises(DeclarationError, match="must be a function of"):
            way(function)


def test_what_says_nothing_true_of_itself_is_taken_as_it_is() -> None:
    class Anything:
        def __getattr__(self, name: str) -> Any:
            return self

        def __call__(self, *given: Any) -> None:
            """Take anything."""

    def wrapped() -> None:
        """Say that it wraps itself."""

    wrapped.__wrapped__ = wrapped  # type: ignore[attr-defined]
    for function in (Anything(), wrapped):
        Button("Go", function)
        Listing(["one"], action=function)


def test_a_result_of_a_coroutine_function_is_a_fault_too() -> None:
    async def count() -> int:
        await asyncio.sleep(0)
        return 5

    screen, keys = pressed(count)
    with Session(lambda: asyncio.run(screen.run_async())) as session:
        session.press(*keys).see("gave a result (int)").press("enter", "ctrl-d")


class Frames(Form):
    """Frames."""

    frames = slot(int)


def wrong_record() -> Frames:
    """Raise Problems."""
    return Frames(frames="the dome is closed")


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(
    "raised",
    [Refusal("the dome is closed"), Complaint("the dome is closed"), lambda: Frames(frames="the dome is closed")],
)
def test_what_a_function_refuses_is_said_without_a_trace(way: Function, raised: Any) -> None:
    def refuse(*given: Any) -> None:
        raise raised if isinstance(raised, Exception) else raised()

    screen, keys = way(refuse)
    with Session(screen.run) as session:
        session.press(*keys)
        session.see("the dome is closed")
        assert "failed" not in session.screen
        assert "Refusal" not in session.screen
        session.press("enter")
        assert "the dome is closed" not in session.screen
        session.press("ctrl-d")
    assert session.result is None


def test_the_trace_of_what_failed_is_that_of_the_program_with_its_lines_indented() -> None:
    def fails() -> None:
        raise ZeroDivisionError("no flats")

    screen, keys = pressed(fails)
    with Session(screen.run, columns=120) as session:
        session.press(*keys).see("no flats").choose("Show where")
        assert "functions_called.py" in session.screen
        assert "running.py" not in session.screen
        assert '│   File "' in session.screen
        session.press("escape", "ctrl-d")


def test_a_refusal_without_a_message_says_nothing() -> None:
    def refuse() -> None:
        raise Refusal("")

    with Session(Screen(Down(Button("Go", refuse))).run) as session:
        before = session.screen
        session.press("enter")
        assert session.screen == before
        session.press("ctrl-d")


NUMBERS = st.lists(st.floats(allow_nan=True, allow_infinity=True), max_size=30)


@given(NUMBERS, st.sampled_from([None, 0.0, -1e308]), st.integers(1, 40), st.integers(1, 6))
def test_any_numbers_are_shown(numbers: list[float], low: float | None, columns: int, rows: int) -> None:
    trend = Trend(numbers, low=low)
    shown = trend.view(columns, rows).rows
    assert len(shown) == rows
    assert all(sum(len(text) for text, _ in row) <= columns for row in shown)
    room = numbers[-columns:]
    if rows > 1:
        drawn = ["".join(text for text, _ in row).rjust(columns) for row in shown[:-1]]
        for at, number in enumerate(reversed(room), 1):
            column = "".join(row[-at] for row in drawn)
            assert (column.strip() == "") == math.isnan(number)
            if number == math.inf:
                assert set(column) == {"█"}


def test_what_is_no_number_is_refused_where_it_is_given() -> None:
    words: Any = ["wind"]
    for made in (lambda: Trend(words), lambda: Meter(total=words), lambda: Meter(total=-1)):
        with pytest.raises(DeclarationError, match="must be"):
            made()


@pytest.mark.parametrize("seconds", ["1", None, math.nan])
def test_a_time_that_is_none_is_refused_where_it_is_given(seconds: Any) -> None:
    with pytest.raises(DeclarationError, match="call_later"):
        Screen(Down(Label("waits"))).call_later(seconds, lambda: None)


def test_the_way_out_cannot_be_bound_and_one_button_is_the_default() -> None:
    with pytest.raises(DeclarationError, match="always stops the screen"):
        Screen(Down(Label("night")), bindings={"ctrl-c": lambda: None})
    buttons = [Button(label, lambda: None, default=True) for label in ("Expose", "Park")]
    with pytest.raises(DeclarationError, match="Expose, Park: one button is the default"):
        Screen(Down(*buttons))


def test_bounds_of_a_part_that_exclude_each_other_are_refused() -> None:
    with pytest.raises(DeclarationError, match="most=2"):
        Label("night", least=5, most=2)
