"""Cells of a table that are changed in place: in rows of any sort, while the rows move.

Modules: ``widgets.parts.row_cells``, ``widgets.parts.table``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from types import SimpleNamespace
from typing import Any, NamedTuple

import pytest

from wesperon import Column, Down, Screen, Table, slot
from wesperon.testing import Session
from wesperon.values import DeclarationError


class Named(NamedTuple):
    target: str
    frames: int


@dataclass
class Plain:
    target: str
    frames: int


@dataclass(frozen=True)
class Fixed:
    target: str
    frames: int


class Rows:
    """Rows that are given a few at a time, as they are."""

    def __init__(self, rows: list[Any]) -> None:
        self.held = rows

    def __len__(self) -> int:
        return len(self.held)

    def rows(self, first: int, count: int) -> list[Any]:
        return self.held[first : first + count]


class Taking(Rows):
    """Rows of which one can be put in the place of another."""

    def __setitem__(self, at: int, row: Any) -> None:
        self.held[at] = row


class Anew(Taking):
    """The same, made anew each time."""

    def rows(self, first: int, count: int) -> list[Any]:
        return [type(row)(row) if isinstance(row, (list, dict)) else row for row in self.held[first : first + count]]


class Lost(Rows):
    """Rows that are made anew each time, and so cannot be changed."""

    def rows(self, first: int, count: int) -> list[Any]:
        return [list(row) for row in self.held[first : first + count]]


def pair(target: str, frames: int) -> tuple[str, int]:
    return target, frames


ROWS: dict[str, Callable[[str, int], Any]] = {
    "list": lambda target, frames: [target, frames],
    "tuple": pair,
    "mapping": lambda target, frames: {"target": target, "frames": frames},
    "object": lambda target, frames: SimpleNamespace(target=target, frames=frames),
    "named": Named,
    "plain": Plain,
    "fixed": Fixed,
}
READ_ONLY = ("tuple", "named", "fixed")
COLUMNS: list[str | Column] = ["target", Column("frames", slot=slot(int, "Frames", low=1))]


@pytest.mark.parametrize("sort", ROWS)
@pytest.mark.parametrize("held", [list, Taking, Anew])
@pytest.mark.parametrize("is_sorted", [False, True])
def test_a_cell_of_rows_of_any_sort_is_changed_and_the_row_stays_of_its_sort(
    sort: str, held: Any, is_sorted: bool
) -> None:
    made = ROWS[sort]
    rows = held([made("Wicker", 12), made("Lantern", 12), made("Thimble", 12)])
    told: list[Any] = []
    table = Table(rows, COLUMNS)
    table.on_change(told.append)
    with Session(Screen(Down(table)).run) as session:
        session.see("Left Right: column")
        session.press("s", "home") if is_sorted and held is list else session.press("down")
        session.press("right", "enter").see("Change")
        told.clear()
        session.press("ctrl-a", "ctrl-k").type("0").press("enter").see("must be")
        session.press("ctrl-a", "ctrl-k").type("7").press("enter")
        assert [row.split() for row in session.screen.splitlines() if "Lantern" in row] == [["Lantern", "7"]]
    wanted = [made("Wicker", 12), made("Lantern", 7), made("Thimble", 12)]
    found = rows if held is list else rows.held
    assert found == wanted
    assert [type(row) for row in found] == [type(row) for row in wanted]
    assert told == [wanted[1]]


@pytest.mark.parametrize("sort", ROWS)
def test_where_no_value_can_be_put_that_is_said_before_one_is_typed(sort: str) -> None:
    made = ROWS[sort]
    rows = [made("Wicker", 12), made("Lantern", 12)]
    if sort in READ_ONLY:
        with pytest.raises(DeclarationError, match=r"'frames', slot=\.\.\.\): no value can be put"):
            Table(tuple(rows), COLUMNS)
    else:
        Table(tuple(rows), COLUMNS)
    with Session(Screen(Down(Table(Rows(rows), COLUMNS))).run) as session:
        session.press("right", "enter")
        session.see("no value can be put" if sort in READ_ONLY else "Change")


def test_a_column_that_gives_no_place_takes_no_values() -> None:
    with pytest.raises(DeclarationError, match="and the key no function"):
        Table([], [Column("frames", key=len, slot=slot(int, "Frames"))])
    with pytest.raises(DeclarationError, match="no value can be put"):
        Table([("Wicker", 12)], ["target", Column("frames", key="frames", slot=slot(int, "Frames"))])


def test_what_was_typed_stays_where_the_rows_do_not_take_it() -> None:
    with Session(Screen(Down(Table(Lost([["Wicker", 12]]), COLUMNS))).run) as session:
        session.press("right", "enter").see("Change").press("ctrl-a", "ctrl-k").type("34").press("enter")
        session.see("no value can be put").press("enter")
        assert "34" in session.screen
        assert "Change" in session.screen


@pytest.mark.parametrize("sort", ROWS)
@pytest.mark.parametrize("change", ["reverse", "before", "gone", "fewer", "equal"])
def test_the_row_whose_cell_is_changed_is_the_one_it_was_opened_on(sort: str, change: str) -> None:
    made = ROWS[sort]
    rows = [made("Wicker", 12), made("Lantern", 13), made("Thimble", 14)]
    table = Table(rows, COLUMNS)
    with Session(Screen(Down(table)).run) as session:
        session.press("down", "down", "right", "enter").see("Change").press("ctrl-a", "ctrl-k").type("7")
        moved = {
            "reverse": rows[::-1],
            "before": [made("Quoin", 1), *rows],
            "gone": rows[:2],
            "fewer": rows[2:],
            "equal": [rows[0], rows[1], made("Thimble", 14)],
        }[change]
        table.show(moved)
        session.press("enter")
        if change == "gone":
            session.see("this row is not there any more").press("enter")
            assert "7" in session.screen
    wanted = {"Wicker": 12, "Lantern": 13, "Thimble": 7, "Quoin": 1}
    for row in moved:
        target, frames = (table.cell(row, column) for column in table.columns)
        assert frames == wanted[target]


def test_a_row_that_is_too_short_is_made_longer() -> None:
    rows: list[Any] = [["Wicker"], ("Lantern",)]
    with Session(Screen(Down(Table(rows, COLUMNS))).run) as session:
        for _ in rows:
            session.press("right", "enter").see("Change").type("7").press("enter", "down")
    assert rows == [["Wicker", 7], ("Lantern", 7)]
