"""What the full screen sends, against the least that turns one screen into another (``least_bytes``).

Modules: ``screen.full_screen``, ``screen.painter``.
"""

from __future__ import annotations

import random

import pytest

from tests.screen.least_bytes import MOST, Screen, State, compared
from wesperon.screen.ecma48 import CUP_HOME, ED
from wesperon.screen.full_screen import MORE


@pytest.mark.parametrize(("columns", "rows"), [(4, 2), (2, 4), (8, 1)])
def test_little_more_is_sent_than_the_least(columns: int, rows: int) -> None:
    sent, least = compared(columns, rows, changes=300)
    assert sent <= MOST * least, sent / least


@pytest.mark.parametrize("seed", range(12))
def test_a_change_never_costs_more_than_all_of_the_screen(seed: int) -> None:
    rolled = random.Random(seed)
    columns, rows = rolled.randint(1, 60), rolled.randint(1, 12)
    screen = Screen(columns, rows)

    def drawn() -> State:
        cells = "".join(rolled.choices([" ", " " * rolled.randint(1, 30), "a", "b", "ab"], k=columns * rows))
        return cells[: columns * rows], rolled.randrange(rows), rolled.randrange(columns)

    empty: State = (" " * (columns * rows), 0, 0)
    for number in range(20):
        start, goal = drawn(), drawn()
        if number % 2:  # something in the middle is another
            first, last = sorted(rolled.choices(range(columns * rows), k=2))
            goal = (start[0][:first] + goal[0][first:last] + start[0][last:], *goal[1:])
        again = CUP_HOME + ED + screen.sent(empty, goal)
        assert len(screen.sent(start, goal)) <= MORE * len(again) + 8
