"""Data that moves under the eyes of who reads it: what was current stays so, and what was typed stays typed.

Modules: ``widgets.parts.listing``, ``widgets.parts.table``.
"""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Down, Listing, Screen, Table
from wesperon.testing import Session

NAMES = ["flat", "dark", "focus", "dome", "mast", "queue", "frames", "guide"]
CHANGES = ("drop first", "drop current", "drop last", "turn", "add first", "add last", "none", "empty", "all")
STEPS = st.lists(st.sampled_from([*CHANGES, "down", "up", "end"]), min_size=1, max_size=8)


def changed(rows: list[Any], change: str, at: int, more: list[Any]) -> None:
    """Change the rows in place."""
    if change == "drop first":
        del rows[:1]
    elif change == "drop last":
        del rows[-1:]
    elif change == "drop current":
        del rows[at : at + 1]
    elif change == "turn":
        rows.reverse()
    elif change == "add first" and more:
        rows.insert(0, more[0])
    elif change == "add last" and more:
        rows.append(more[0])
    elif change == "empty":
        rows.clear()
    elif change == "all":
        rows += more


@pytest.mark.parametrize("part", ["listing", "table", "sorted"])
@pytest.mark.parametrize("in_place", [True, False])
@given(steps=STEPS)
def test_what_is_current_stays_so_or_else_its_place(part: str, in_place: bool, steps: list[str]) -> None:
    every: list[Any] = list(NAMES) if part == "listing" else [{"name": name, "frames": 0} for name in NAMES]
    rows = every[:5]
    made: Any = Listing(rows) if part == "listing" else Table(rows, ["name", "frames"])
    screen = Screen(Down(made))

    def order() -> list[Any]:
        return sorted(rows, key=lambda row: str(row["name"])) if part == "sorted" else list(rows)

    with Session(screen.run, rows=6) as session:
        if part == "sorted":
            session.press("s")
        current = made.value
        for step in steps:
            before = order()
            at = before.index(current) if current is not None else 0
            if step in CHANGES:
                shown = rows if in_place else list(rows)
                more = [one for one in every if one not in rows]
                changed(shown, step, shown.index(current) if current in shown else 0, more)
                rows = shown
                made.show(rows)
                after = order()
                wanted = current if current in after else after[min(at, len(after) - 1)] if after else None
            else:
                session.press(step)
                moves = {"down": at + 1, "up": at - 1, "end": len(before) - 1}
                wanted = before[min(max(moves[step], 0), len(before) - 1)] if before else None
            session.press("f1", "escape")  # drawn again
            assert made.value == wanted, (step, before, current)
            current = wanted


@given(steps=STEPS, needle=st.sampled_from(["f", "fo", "d", "e", "x"]))
def test_what_was_typed_goes_on_to_narrow_the_list(steps: list[str], needle: str) -> None:
    rows = NAMES[:5]
    listing = Listing(rows)
    screen = Screen(Down(listing))
    with Session(screen.run, rows=14) as session:
        session.type(needle)
        for step in steps:
            if step in CHANGES:
                changed(rows, step, 0, [one for one in NAMES if one not in rows])
                listing.show(rows)
            else:
                session.press(step)
            session.press("f1", "escape")
            assert f"/ {needle}" in session.screen or not rows
            listed = {name for name in NAMES if name in session.screen.split()}
            assert listed == {name for name in rows if needle in name}


class Frames:
    """A row that cannot be compared."""

    __hash__ = None  # type: ignore[assignment]

    def __init__(self, number: int) -> None:
        self.number = number

    def __eq__(self, other: object) -> bool:
        raise ValueError("neither equal nor not")


@pytest.mark.parametrize("kind", [list, tuple])
def test_rows_that_cannot_be_compared_are_known_by_identity(kind: Any) -> None:
    rows = [Frames(number) for number in range(5)]
    table = Table(kind(rows), ["number"])
    table.go(2)
    for shown, at in ((rows[1:], 1), (rows[::-1], 2), (rows, 2)):
        table.show(kind(shown))
        assert (table.value.number, table.at) == (2, at)
    table.show(kind([Frames(8), Frames(9)]))
    assert (table.value.number, table.at) == (9, 1)
