"""Where the parts of a screen are: laws over random trees of parts and random sizes.

Modules: ``widgets.parts.boxes``, ``widgets.parts.part``, ``widgets.parts.arrangement``.
"""

from __future__ import annotations

import random

import pytest

from tests.screens.trees import tree
from wesperon import Across, Button, Down, Label
from wesperon.screen.frame import row_text
from wesperon.screen.width import width
from wesperon.widgets.parts.arrangement import Arrangement
from wesperon.widgets.parts.part import Box

SIZES = [(20, 6), (80, 24), (200, 60), (500, 200), (1, 1), (3, 2), (41, 7), (12, 40)]


def inside(box: Box, other: Box) -> bool:
    """Return True if a box that is not empty is in another one."""
    return box.inside(other) == box


@pytest.mark.parametrize("seed", range(60))
def test_no_part_is_outside_and_none_covers_another(seed: int) -> None:
    rolled = random.Random(seed)
    arrangement = Arrangement(tree(rolled))
    for columns, rows in rolled.sample(SIZES, 4):
        frame = arrangement.view(columns, rows)
        arrangement.drawn()
        assert len(frame.rows) == rows
        assert all(width(row_text(row)) <= columns for row in frame.rows)
        screen = Box(0, 0, rows, columns)
        cells: set[tuple[int, int]] = set()
        for one in arrangement.placed:
            assert inside(one.clip, screen)
            own = {
                (row, column)
                for row in range(one.clip.row, one.clip.row + one.clip.rows)
                for column in range(one.clip.column, one.clip.column + one.clip.columns)
            }
            assert not own & cells
            cells |= own


@pytest.mark.parametrize("seed", range(60))
def test_the_focus_is_always_somewhere_in_sight(seed: int) -> None:
    rolled = random.Random(seed)
    arrangement = Arrangement(tree(rolled))
    for _ in range(12):
        columns, rows = rolled.choice(SIZES)
        for _ in range(2):  # what is seen at first may have the focus go elsewhere
            frame = arrangement.view(columns, rows)
            arrangement.drawn()
            arrangement.heed()
        frame = arrangement.view(columns, rows)
        stops = [part for part in arrangement.stops() if part in arrangement.shown]
        if stops:
            assert arrangement.focused in stops
            assert frame.cursor is not None
            assert 0 <= frame.cursor[0] < rows
            assert 0 <= frame.cursor[1] <= columns
        arrangement.step(rolled.choice([1, -1]))


def test_tab_comes_to_every_part_however_small_the_screen_is() -> None:
    """What does not fit is scrolled to, in the order of declaration."""
    buttons = [Button(f"B{number}") for number in range(30)]
    groups = [Across(*buttons[at : at + 5]) for at in range(0, 30, 5)]
    arrangement = Arrangement(Down(Label("many"), *groups))
    for columns, rows in ((20, 6), (9, 3), (80, 24)):
        seen = []
        for _ in buttons:
            arrangement.view(columns, rows)
            arrangement.drawn()
            frame = arrangement.view(columns, rows)
            assert arrangement.focused in arrangement.shown
            seen.append(arrangement.focused)
            assert frame.cursor is not None
            row = row_text(frame.rows[frame.cursor[0]])
            assert isinstance(arrangement.focused, Button)
            assert arrangement.focused.label[:1] in row
            arrangement.step(1)
        assert seen[: len(buttons)] == buttons
