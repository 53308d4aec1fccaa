"""Whatever objects and functions of the program raise while a screen is drawn, it goes on and says so in their place.

What was typed into other parts is kept.

Modules: ``widgets.parts.part``, ``widgets.parts.table``.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from wesperon import Button, Column, Down, Field, Listing, Screen, Table, one_of, slot
from wesperon.testing import Session
from wesperon.widgets.parts.part import Part


class Rows:
    """Rows of which something fails from the call on that has a number."""

    def __init__(self, fails: str, good: int) -> None:
        self.fails, self.good, self.calls = fails, good, 0

    def check(self, what: str) -> None:
        if what == self.fails:
            self.calls += 1
            if self.calls > self.good:
                raise RuntimeError("the mast is gone")

    def __len__(self) -> int:
        self.check("len")
        return 40

    def rows(self, first: int, count: int) -> Any:
        self.check("rows")
        return [[number, Cell(self)] for number in range(first, first + count)]


class Cell:
    """A cell whose text may fail."""

    def __init__(self, of: Rows) -> None:
        self.of = of

    def __str__(self) -> str:
        self.of.check("str")
        return "calm"


class Fails(Part):
    """A part that cannot be drawn."""

    def view(self, columns: int, rows: int) -> Any:
        raise RuntimeError("the mast is gone")


def raised(*given: Any) -> Any:
    raise RuntimeError("the mast is gone")


DATA: dict[str, Callable[[], Any]] = {
    **{
        f"{what} after {good}": lambda what=what, good=good: Table(Rows(what, good), ["number", "note"])  # type: ignore[misc]
        for what in ("len", "rows", "str")
        for good in (0, 1, 3, 7)
    },
    "key": lambda: Table([[1, 2]], [Column("number", key=raised), Column("note", key=1)]),
    "disabled": lambda: Listing(one_of(["north", "south"], disabled=raised)),
    "view": Fails,
}


@pytest.mark.parametrize("name", DATA)
def test_what_fails_while_it_is_drawn_is_said_in_its_place_and_the_rest_goes_on(name: str) -> None:
    note = Field(slot(str, "Note"))
    part = DATA[name]()
    screen = Screen(Down(note, part, Button("Quit", lambda: screen.close(note.value))))
    seen = ""
    with Session(screen.run, rows=16) as session:
        for key in ("", "a", "b", "tab", "down", "page-down", "s", "end", "home", "up", "shift-tab"):
            session.press(*[key] if key else [])
            seen += session.screen
            if "This has failed" in session.screen:
                session.press("escape")
        session.press("alt-n", "end", "c", "alt-q")
    assert "the mast is gone" in seen or "Run..." in seen
    assert session.result == "abc"
