"""Frames are joined beside and above each other, and fields stand in boxes of any size.

Modules: ``screen.frame``, ``screen.layout``.
"""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon.editing.keys.events import Key, Mouse, typed
from wesperon.screen.frame import DRAWN, Frame, above, beside, cells, row_text
from wesperon.screen.width import width
from wesperon.values.kinds.choices import one_of
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.notice import Notice
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.summary import Summary
from wesperon.widgets.widget import Widget
from wesperon.widgets.yes_no import YesNo

FRAMES = st.lists(st.text("ab日 é", max_size=12), max_size=4).map(
    lambda texts: Frame(tuple([((text, "label"), ("|", "")) for text in texts]))
)
CHOICES = one_of(["Lantern", "Wicker", "Thimble"]).choices
FIELDS: list[Any] = [
    lambda: Line(str, default="12"), lambda: SeveralLines(str, default="a\nb"), lambda: YesNo(str),
    lambda: Menu(CHOICES, CHOICES.check), lambda: Checkboxes(CHOICES, set), lambda: Notice("one\ntwo"),
    lambda: Summary([("Frames", "12")], 6),
]  # fmt: skip


@given(st.lists(st.tuples(FRAMES, st.integers(0, 15)), min_size=1, max_size=4))
def test_frames_beside_each_other_keep_their_columns(parts: list[tuple[Frame, int]]) -> None:
    joined = beside(*parts)
    assert len(joined.rows) == max(len(frame.rows) for frame, _ in parts)
    total = sum(columns for _, columns in parts)
    assert all(width(row_text(row)) == total for row in joined.rows)


@given(st.lists(FRAMES, max_size=4))
def test_frames_above_each_other_keep_their_rows(frames: list[Frame]) -> None:
    assert above(*frames).rows == tuple(row for frame in frames for row in frame.rows)


def test_the_cursor_is_that_of_the_frame_that_has_one() -> None:
    first, second = Frame(((("a", ""),),), (0, 1), "bar"), Frame(((("b", ""),), ()))
    assert beside((second, 4), (first, 4)).cursor == (0, 5)
    assert beside((first, 4), (second, 4)).shape == "bar"
    assert above(second, first).cursor == (2, 1)
    assert above(second).cursor is None


@pytest.mark.parametrize("make", FIELDS)
@pytest.mark.parametrize(("columns", "rows"), [(1, 1), (3, 2), (12, 1), (20, 4), (60, 20)])
def test_a_field_fits_into_any_box_and_says_how_large_it_would_be(make: Any, columns: int, rows: int) -> None:
    field: Widget = make()
    for key in (typed("a"), Key("down"), Key("backspace"), typed("x")):
        field.press(key)
        frame = field.view(columns, rows)
        assert len(frame.rows) <= rows
        assert all(width(row_text(row)) <= columns for row in frame.rows)
        size = field.size(columns)
        assert 1 <= size.least_rows <= size.rows
        if rows >= size.rows:
            assert len(frame.rows) <= size.rows


def test_two_fields_stand_beside_each_other_and_the_focus_has_the_cursor() -> None:
    left, right = Line(str), Menu(CHOICES, CHOICES.check)
    right.focus(False)
    left.press(typed("7"))
    frame = beside((left.view(10, 5), 12), (right.view(20, 5), 20))
    assert frame.text().splitlines() == ["7           Lantern", "            Wicker", "            Thimble"]
    assert frame.cursor == (0, 1)
    left.focus(False)
    right.focus(True)
    right.press(typed("w"))
    frame = beside((left.view(10, 5), 12), (right.view(20, 5), 20))
    assert frame.text().splitlines()[:2] == ["7           w", "            Wicker"]
    assert frame.cursor == (0, 13)
    right.press(right.view(20, 5).clicks.aimed(Mouse("left", "press", 1, 2)))
    assert right.outcome is not None


def test_what_lines_and_bars_are_drawn_of_takes_one_column_each() -> None:
    text = DRAWN
    assert [width(char) for char in text] == [1] * len(text)
    assert cells(((text, "note"),), 1_000) == [(char, "note") for char in text]
