"""A click means what is seen where it hits: in the text of a field, in a month, on yes or no, in a table.

Modules: ``screens.field``, ``screens.month_list``, ``widgets.parts.month``, ``widgets.parts.table``.
"""

from __future__ import annotations

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Button, Down, Field, Screen, Table, slot
from wesperon.editing.keys.events import Key, Mouse
from wesperon.screen.width import width
from wesperon.testing import Session


def click(session: Session, row: int, column: int) -> None:
    session.stage.put([Mouse("left", "press", row, column), Mouse("left", "release", row, column)], 10)


def place_of(session: Session, text: str) -> tuple[int, int]:
    """Return the first row and column of a text on the screen."""
    for number, row in enumerate(session.screen.split("\n")):
        if text in row:
            return number, row.index(text)
    raise AssertionError(f"{text!r} is not on the screen:\n{session.screen}")


@given(
    text=st.text("abc de", min_size=1, max_size=30).filter(lambda text: text.strip() == text),
    at=st.integers(0, 29),
    visited=st.booleans(),
    several=st.booleans(),
)
def test_a_click_in_a_text_puts_the_cursor_there(text: str, at: int, visited: bool, several: bool) -> None:
    """Also in a field that had the focus before, or never."""
    at = min(at, len(text))
    field = Field(slot(str, "V", lines=several), value=text)
    screen = Screen(Down(Button("QQ", lambda: None), field))
    with Session(screen.run, columns=60, rows=12) as session:
        session.press(*(["tab", "shift-tab"] if visited else []))
        row, column = place_of(session, text)
        click(session, row, column + at)
        assert session.focus == "V"
        session.type("X")
        assert field.inner.text == text[:at] + "X" + text[at:]


@given(day=st.dates(date(1, 1, 1), date(9999, 12, 31)), picked=st.integers(1, 28))
def test_a_click_on_a_day_of_the_month_takes_it(day: date, picked: int) -> None:
    field = Field(slot(date, "Night"), value=day)
    screen = Screen(Down(field))
    with Session(screen.run, rows=12) as session:
        row, column = place_of(session, "...")
        click(session, row, column + 1)
        assert f"{day.year:04}-{day.month:02}" in session.screen.split("\n")[1]
        rows = session.screen.split("\n")
        at = next(
            (number, row.index(f"{picked:>3}")) for number, row in enumerate(rows[2:], 2) if f"{picked:>3}" in row
        )
        click(session, at[0], at[1] + 2)
        assert not field.is_open
    assert field.value == day.replace(day=picked)


@pytest.mark.parametrize("before", [True, False, None])
def test_a_click_on_yes_or_no_turns_it(before: bool | None) -> None:
    field = Field(slot(bool, "Guided"))
    if before is not None:
        field.show(before)
    screen = Screen(Down(Button("Above", lambda: None), field))
    with Session(screen.run, rows=6) as session:
        click(session, 1, 0)
        assert (session.focus, field.value) == ("Guided", before)  # the label gives it the focus, and nothing else
        for times in (1, 2):
            click(session, 1, 8)
            assert field.value is (not before if times == 1 else bool(before))


@given(
    widths=st.lists(st.integers(1, 14), min_size=1, max_size=25),
    columns=st.integers(8, 90),
    keys=st.lists(st.sampled_from(["right", "right", "right", "left"]), max_size=30),
    cells=st.booleans(),
)
def test_the_current_column_is_in_sight_and_a_click_on_a_heading_means_that_one(
    widths: list[int], columns: int, keys: list[str], cells: bool
) -> None:
    """However many columns there are."""
    row = [chr(ord("a") + number) * wide for number, wide in enumerate(widths)]
    table = Table([row], [chr(ord("A") + number) for number in range(len(row))], cells=cells)
    table.focus(True)
    for key in ["", *keys]:
        if key:
            table.press(Key(key))
        frame = table.view(columns, 4)
        table.drawn()
        assert all(sum(width(text) for text, _ in line) <= columns for line in frame.rows)
        shown = "".join(text for text, _ in frame.rows[1])
        if cells:
            at = table.cursor_column(columns)
            cell = row[table.column]
            is_whole = shown[at : at + len(cell)] == cell
            assert is_whole or shown[at : at + 1] in (cell[0], ".")
            if table.is_wide and len(cell) <= columns:
                assert is_whole
        heading = "".join(text for text, _ in frame.rows[0])
        for place, letter in enumerate(heading):
            if letter.isupper():
                assert table.column_at(place) == ord(letter) - ord("A")
