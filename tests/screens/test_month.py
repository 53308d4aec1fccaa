"""The month from which a day is picked.

Modules: ``widgets.parts.month``.
"""

from __future__ import annotations

import calendar
from datetime import date

from hypothesis import given
from hypothesis import strategies as st

from wesperon import Button, Down, Field, Screen, slot
from wesperon.screen.frame import row_text
from wesperon.testing import Session
from wesperon.widgets.parts.month import COLUMNS, frame_of, moved


@given(st.dates())
def test_the_days_are_those_of_the_calendar(day: date) -> None:
    frame = frame_of(day)
    shown = [[int(text) for text, _ in row if text.strip()] for row in frame.rows[1:]]
    weeks = calendar.monthcalendar(day.year, day.month)  # from Monday on
    assert shown == [[number for number in week if number] for week in weeks]
    assert all(len(row_text(row)) == COLUMNS for row in frame.rows)
    assert frame.cursor is not None
    row, column = frame.cursor
    assert row_text(frame.rows[row])[column - 1 : column + 2].split()[0] == str(day.day)


@given(st.dates(), st.lists(st.sampled_from(["left", "right", "up", "down", "page-up", "page-down", "home", "end"])))
def test_keys_go_by_days_weeks_and_months(day: date, keys: list[str]) -> None:
    for key in keys:
        before, day = day, moved(day, key)
        gone = (day - before).days
        if key in ("left", "right", "up", "down"):
            assert abs(gone) in (0, 1, 7)
        elif key.startswith("page"):
            assert abs(gone) <= 31
        else:
            assert (day.year, day.month) == (before.year, before.month)


def test_a_day_is_picked_from_the_month_of_a_field() -> None:
    first = Field(slot(date, "First night"), value=date(2031, 1, 30))
    screen = Screen(Down(first, Button("Take", lambda: screen.close(first.value), default=True)))
    with Session(screen.run) as session:
        session.press("alt-down").see("2031-01").press("page-down").see("2031-02").press("right", "enter")
        assert "2031-02\n" not in session.screen
        session.see("2031-03-01").press("enter")
    assert session.result == date(2031, 3, 1)
