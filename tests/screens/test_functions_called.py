"""What functions that a screen calls give and raise, and what parts are given that show numbers.

Modules: ``screens.faults``, ``widgets.parts.figures``.
"""

from __future__ import annotations

import asyncio
import math
from collections.abc import Callable
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
