"""What the full screen sends, against the least that it takes: ``python -m tests.screen.least_bytes``.

On a screen of a few cells all ways can be tried: from one screen, by all that a terminal can do, to every other one.
Half of the changes are a few cells, half are all of them. The budget is 1.5 times.
"""

from __future__ import annotations

import heapq
import random
from collections.abc import Iterator

import pyte

from wesperon.screen.ecma48 import SYNC_OFF, SYNC_ON
from wesperon.screen.frame import Frame, Row
from wesperon.screen.full_screen import FullScreenPainter
from wesperon.terminal.kept_lines import KeptLines

#: The cells of a screen, row by row, and the place of the cursor.
State = tuple[str, int, int]
#: What is sent at most, as a multiple of the least, over all changes together.
MOST = 1.5


def control(count: int) -> int:
    """Return the bytes of a control sequence with one parameter, which may be left out if it is 1."""
    return 3 if count == 1 else 3 + len(str(count))


class Screen:
    """All that a terminal of so many columns and rows can be told, with what it costs; it never wraps or scrolls."""

    def __init__(self, columns: int, rows: int) -> None:
        self.columns, self.rows = columns, rows

    def steps(self, state: State) -> Iterator[tuple[int, State]]:
        """Yield bytes and the state after them."""
        yield from self.moves(state)
        yield from self.changes(state)

    def moves(self, state: State) -> Iterator[tuple[int, State]]:
        """Yield what moves the cursor: CR, LF, BS, CUU, CUD, CUF, CUB, CHA and CUP."""
        cells, row, column = state
        for goal in range(self.rows):
            if goal != row:
                yield control(abs(goal - row)), (cells, goal, column)
            if goal > row:
                yield goal - row, (cells, goal, 0)
        for goal in range(self.columns):
            if goal < column:
                yield min(column - goal, control(column - goal)), (cells, row, goal)
            elif goal > column:
                yield control(goal - column), (cells, row, goal)
            yield (control(goal + 1) if goal else 1), (cells, row, goal)
        for goal_row in range(self.rows):
            for goal in range(self.columns):
                at_row = len(str(goal_row + 1)) if goal_row else 0
                yield 3 + at_row + (1 + len(str(goal + 1)) if goal else 0), (cells, goal_row, goal)

    def changes(self, state: State) -> Iterator[tuple[int, State]]:
        """Yield what changes cells: characters, EL, ED, ECH, ICH, DCH, IL and DL."""
        cells, row, column = state
        at, end = row * self.columns + column, (row + 1) * self.columns
        for char in " ab":
            yield 1, (cells[:at] + char + cells[at + 1 :], row, min(column + 1, self.columns - 1))
        yield 3, (cells[:at] + " " * (end - at) + cells[end:], row, column)
        yield 3, (cells[:at] + " " * (len(cells) - at), row, column)
        for count in range(1, self.columns - column):
            blanks = " " * count
            yield control(count), (cells[:at] + blanks + cells[at + count :], row, column)
            yield control(count), (cells[:at] + blanks + cells[at : end - count] + cells[end:], row, column)
            yield control(count), (cells[:at] + cells[at + count : end] + blanks + cells[end:], row, column)
        first = row * self.columns
        for count in range(1, self.rows - row + 1):
            size = count * self.columns
            yield control(count), (cells[:first] + " " * size + cells[first : len(cells) - size], row, 0)
            yield control(count), (cells[:first] + cells[first + size :] + " " * size, row, 0)

    def least(self, start: State) -> dict[State, int]:
        """Return the least bytes from one state to each other one."""
        best = {start: 0}
        queue = [(0, start)]
        while queue:
            spent, state = heapq.heappop(queue)
            if spent > best[state]:
                continue
            for cost, found in self.steps(state):
                if spent + cost < best.get(found, 1 << 30):
                    best[found] = spent + cost
                    heapq.heappush(queue, (spent + cost, found))
        return best

    def frame(self, state: State) -> Frame:
        """Return the frame that shows a state."""
        cells, row, column = state
        texts = [cells[at : at + self.columns].rstrip() for at in range(0, len(cells), self.columns)]
        rows: tuple[Row, ...] = tuple([((text, ""),) if text else () for text in texts])
        return Frame(rows, (row, column))

    def sent(self, start: State, goal: State) -> str:
        """Return what the painter sends."""
        painter = FullScreenPainter({}, KeptLines())
        before = painter.start(self.columns) + painter.paint(self.frame(start), self.columns, self.rows)
        sent = painter.paint(self.frame(goal), self.columns, self.rows)
        screen = pyte.Screen(self.columns, self.rows)
        pyte.Stream(screen).feed(before + sent)
        assert ("".join(screen.display), screen.cursor.y, screen.cursor.x) == goal
        return sent.removeprefix(SYNC_ON).removesuffix(SYNC_OFF)


def compared(columns: int, rows: int, changes: int = 500) -> tuple[int, int]:
    """Return the bytes that are sent for random changes of a screen, and the least for them."""
    rolled = random.Random(columns)
    screen = Screen(columns, rows)
    count = columns * rows

    def drawn(cells: str) -> State:
        return cells, rolled.randrange(rows), rolled.randrange(columns)

    start = drawn("".join(rolled.choices(" ab", k=count)))
    best = screen.least(start)
    assert len(best) == 3**count * count  # everything can be reached
    sent = least = 0
    for number in range(changes):
        cells = [*start[0]]
        for _ in range(count if number % 2 else rolled.randint(0, 3)):
            cells[rolled.randrange(count)] = rolled.choice(" ab")
        goal = drawn("".join(cells))
        text = screen.sent(start, goal)
        assert len(text) >= best[goal], (text, start, goal)
        sent, least = sent + len(text), least + best[goal]
    return sent, least


def main() -> int:
    """Print the figures; the status is 1 if one is over the budget."""
    worst = 0.0
    for columns, rows in ((4, 2), (2, 4), (8, 1), (3, 3)):
        sent, least = compared(columns, rows)
        worst = max(worst, sent / least)
        print(f"500 changes of {columns}x{rows}: {sent} bytes, {sent / least:.3f} times the least; budget {MOST}")
    return int(worst > MOST)


if __name__ == "__main__":
    raise SystemExit(main())
