"""Ground for screens: shares of a room, frames over each other, parts in containers, rows that the terminal moves.

Modules: ``widgets.container``, ``screen.shares``, ``screen.overlay``.
"""

from __future__ import annotations

from typing import Any

import pyte
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.screen.test_painter import FRAMES
from wesperon import one_of
from wesperon.editing.keys.events import Key, Mouse
from wesperon.screen.frame import Frame, cells, row_text
from wesperon.screen.full_screen import FullScreenPainter
from wesperon.screen.overlay import overlay
from wesperon.screen.shares import Wants, shares
from wesperon.widgets.container import Container, Part
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.several_lines import SeveralLines

WANTS = st.builds(
    Wants,
    st.none() | st.integers(1, 9),
    st.integers(0, 4),
    st.integers(1, 5),
    st.none() | st.integers(5, 20),
    st.integers(0, 6),
)


@given(st.integers(0, 60), st.lists(WANTS, max_size=6))
def test_parts_share_all_the_room_within_their_bounds(room: int, parts: list[Wants]) -> None:
    sizes = shares(room, parts)
    assert len(sizes) == len(parts)
    assert sum(sizes) <= room
    for size, part in zip(sizes, parts, strict=True):
        assert size == 0 or max(part.least, part.hide_below) <= size
        assert size <= (part.most or room) or size == part.least
    shown = [(size, part) for size, part in zip(sizes, parts, strict=True) if size]
    can_grow = [part for size, part in shown if part.size is None and part.weight and size < (part.most or room)]
    assert sum(sizes) == room or not can_grow
    if sum(part.least for part in parts) <= room and not any(part.hide_below or part.size for part in parts):
        assert all(sizes)


def test_a_share_is_by_weight() -> None:
    assert shares(60, [Wants(), Wants(weight=2), Wants(size=30)]) == [10, 20, 30]
    assert shares(20, [Wants(hide_below=12), Wants()]) == [0, 20]


def drawn(frame: Frame, columns: int) -> list[list[str]]:
    """Return what is in each column of each row, half a wide character as a blank."""
    return [[text or " " for text, _ in [*cells(row, columns), *[(" ", "")] * columns][:columns]] for row in frame.rows]


@given(FRAMES, FRAMES, st.integers(0, 5), st.integers(0, 12), st.integers(1, 9))
def test_what_lies_over_a_frame_is_seen_and_the_rest_is_as_before(
    below: Frame, above: Frame, row: int, column: int, columns: int
) -> None:
    made = overlay(below, above, row, column, columns)
    over, under, seen = drawn(above, columns), drawn(below, 40), drawn(made, 40)
    assert len(made.rows) == max(len(below.rows), row + len(above.rows))
    for at in range(len(made.rows)):
        for place in range(40):
            inside = row <= at < row + len(above.rows) and column <= place < column + columns
            before = under[at][place] if at < len(under) else " "
            wanted = over[at - row][place - column] if inside else before
            assert seen[at][place] in (wanted, " "), (at, place)
    assert made.cursor == (None if above.cursor is None else (above.cursor[0] + row, above.cursor[1] + column))


def screen_of(across: bool) -> tuple[Container, list[Any]]:
    widgets = [Line(str), SeveralLines(str, default="one\ntwo"), Menu(one_of([*"abcdef"]).choices, str)]
    inner = Container([Part(widgets[1]), Part(widgets[2], Wants(hide_below=4))], across=not across)
    return Container([Part(widgets[0], Wants(weight=1)), Part(inner, Wants(weight=3))], across=across), widgets


KEYS = ["tab", "shift-tab", "x", "down", "left", "enter"]


@settings(max_examples=150)
@given(st.booleans(), st.lists(st.sampled_from(KEYS) | st.tuples(st.integers(0, 30), st.integers(0, 90))), st.data())
def test_one_part_has_the_focus_and_the_box_is_filled(across: bool, events: list[Any], data: st.DataObject) -> None:
    made, widgets = screen_of(across)
    for event in events:
        columns, rows = data.draw(st.sampled_from([(80, 24), (30, 9), (12, 4)]))
        frame = made.view(columns, rows)
        made.drawn()
        assert len(frame.rows) == rows
        assert made.view(columns, rows) == made.view(columns, rows)
        focused = [widget for widget in widgets if widget.has_focus]
        assert len(focused) <= 1
        if isinstance(event, str):
            made.press(Key(event, event if len(event) == 1 else ""))
        else:
            made.press(frame.clicks.aimed(Mouse("left", "press", *event)))
        if made.outcome is not None:
            return


def test_a_click_gives_the_focus_and_keys_go_there() -> None:
    made, widgets = screen_of(across=True)
    frame = made.view(80, 24)
    made.drawn()
    made.press(frame.clicks.aimed(Mouse("left", "press", 1, 30)))
    made.press(Key("x", "x"))
    assert [widget.has_focus for widget in widgets] == [False, True, False]
    assert "x" in widgets[1].text
    assert widgets[0].text == ""
    made.press(Key("shift-tab"))
    assert widgets[0].has_focus
    made.press(Key("tab"))
    assert widgets[1].has_focus
    made.press(Key("tab"))  # which adds blanks there
    assert widgets[1].has_focus
    assert "    " in widgets[1].text


@settings(max_examples=200)
@given(
    st.lists(st.tuples(st.integers(-9, 9), st.integers(0, 7), st.integers(0, 7)), max_size=12),
    st.integers(0, 2),
    st.data(),
)
def test_rows_that_moved_are_moved_by_the_terminal_and_come_out_equal(
    steps: list[tuple[int, int, int]], heading: int, data: st.DataObject
) -> None:
    screen = pyte.Screen(20, 8)
    stream = pyte.Stream(screen)
    painter = FullScreenPainter({})
    stream.feed(painter.start(20))
    lines = [f"row {number} 日" for number in range(60)]
    top = 20
    for by, first, last in [(0, 0, 0), *steps]:
        top = min(max(top + by, 0), 40)
        shown = [*["a heading"] * heading, *lines[top : top + 8 - heading]]
        if last < first:
            shown[first] = data.draw(st.sampled_from(["", "another", "row 3 日"]))
        frame = Frame(tuple([((text, ""),) for text in shown]), (first, 0))
        stream.feed(painter.paint(frame, 20, 8))
        assert [line.rstrip() for line in screen.display] == [row_text(row) for row in frame.rows]
        assert (screen.cursor.y, screen.cursor.x) == frame.cursor


def test_a_row_of_scrolling_costs_a_row() -> None:
    painter = FullScreenPainter({})
    painter.start(80)
    frames = [Frame(tuple([((f"row {at} " + "x" * 60, ""),) for at in range(top, top + 40)])) for top in (0, 1)]
    painter.paint(frames[0], 80, 40)
    assert len(painter.paint(frames[1], 80, 40)) < 150
