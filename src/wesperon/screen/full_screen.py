"""The painter of the full screen: frames that fill the alternate screen, with the interface of the inline painter.

What differs: the first row of the frame is that of the screen, so that every row can be reached without scrolling; what
is to be put above the frame waits until the screen is left; a change of size draws everything again; and rows that have
moved up or down together are moved by the terminal, so that a list of a screen's height costs a row when it scrolls.
"""

from __future__ import annotations

from wesperon.screen.ecma48 import (
    ALTERNATE_OFF,
    ALTERNATE_ON,
    CR,
    CUP_HOME,
    ED,
    EL,
    NEXT_ROW,
    NO_MARGINS,
    cup,
    decstbm,
    dl,
    il,
)  # fmt: skip
from wesperon.screen.frame import Frame
from wesperon.screen.painter import Painter

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence
    from typing import Protocol

    from wesperon.screen.frame import Cell, Row

    class Kept(Protocol):
        """Where lines wait."""

        def add(self, lines: Iterable[str]) -> None:
            """Keep lines."""

        def pop(self) -> Sequence[str]:
            """Return the lines that are kept, and keep them no longer."""


#: The least rows that must have moved together, for their movement to be less than writing them.
LEAST_MOVED = 3
#: More rows than any screen has: none of them is below what is there already.
EVERY_ROW = 1 << 30


class FullScreenPainter(Painter):
    """Draws frames on the alternate screen."""

    def __init__(self, look: dict[str, str], kept: Kept) -> None:
        super().__init__(look)
        #: What is to be put above the frame.
        self.kept = kept
        self._is_on = False

    def start(self, columns: int) -> str:
        """Return the text that switches to the alternate screen and empties it."""
        self.forget(columns)
        self._is_on = True
        return ALTERNATE_ON + CUP_HOME + ED

    def forget(self, columns: int) -> None:
        """Take the screen as empty, the cursor in its first row and column."""
        super().forget(columns)
        self.depth = EVERY_ROW

    def paint(self, frame: Frame, columns: int, height: int) -> str:
        """Return the text that turns the last frame into this one; see ``Painter``."""
        if columns == self.columns and height == self.height and not self.is_stale and len(self.rows) == height:
            self._scroll(frame.rows[:height])
        return super().paint(frame, columns, height)

    def _scroll(self, rows: Sequence[Row]) -> None:
        """Let the terminal move the rows that are further up or down in the next frame, if many are."""
        first, last, by = moved(self.rows, rows)
        if not by:
            return
        self._plain()
        region = slice(first, last + 1)
        kept, kept_cells = self.rows[region], self.cells[region]
        empty: list[Row] = [()] * abs(by)
        empty_cells: list[list[Cell]] = [[] for _ in empty]
        if by < 0:
            self.rows[region], self.cells[region] = [*kept[-by:], *empty], [*kept_cells[-by:], *empty_cells]
        else:
            self.rows[region], self.cells[region] = [*empty, *kept[:-by]], [*empty_cells, *kept_cells[:-by]]
        self.out.append(decstbm(first, last) + cup(first) + (dl(-by) if by < 0 else il(by)) + NO_MARGINS + CUP_HOME)
        self.at_row, self.at_column = 0, 0

    def finish(self, frame: Frame, columns: int) -> str:
        """Return what leaves the alternate screen, with what has waited and the last frame below what was there."""
        text = self._ended() + self._leave()
        below = Painter(self.look)
        text += " " * columns + CR + EL if frame.rows else ""
        below.forget(columns)
        self.forget(columns)
        return text + below.finish(frame, columns)

    def above(self, lines: list[str], columns: int) -> str:
        """Nothing yet: the lines are put out when the screen is left."""
        self.kept.add(lines)
        return ""

    def hide(self, columns: int) -> str:
        """Return the text that leaves the alternate screen for a while."""
        text = self._ended() + self._leave()
        self.forget(columns)
        return text

    def abandon(self) -> str:
        """Return the text that leaves the alternate screen, with what has waited."""
        return self.hide(self.columns)

    def leave_screen(self) -> str:
        """See ``Painter``; what has waited waits on."""
        was_on, self._is_on = self._is_on, False
        return ALTERNATE_OFF if was_on else ""

    def held(self) -> str:
        """See ``Painter``."""
        return "".join([line + NEXT_ROW for line in self.kept.pop()])

    def resized(self, columns: int, height: int, found: tuple[int, int] | None, breaks: bool) -> None:
        """Nothing is to be found out, since the first row is that of the screen; the next frame is drawn in full."""
        self.is_stale = True

    def _restart(self, columns: int) -> None:
        """Empty the screen, for another width."""
        self.forget(columns)
        self.out.append(CUP_HOME + ED)

    def _leave(self) -> str:
        """Back to the other screen, with what has waited."""
        return self.leave_screen() + self.held()


def moved(old: Sequence[Row], new: Sequence[Row]) -> tuple[int, int, int]:
    """Return the first and last row of a region that moved, and by how many rows, down if it is positive.

    It is the movement that most rows of it made, if that puts more rows right than are right already; by 0 if none
    does. Each row is looked at a few times, however high the screen is.
    """
    count = min(len(old), len(new))
    first = next((at for at in range(count) if old[at] != new[at]), count)
    last = next((at for at in range(count - 1, first - 1, -1) if old[at] != new[at]), first - 1)
    places = {old[at]: at for at in range(first, last + 1)}
    ways: dict[int, int] = {}
    for at in range(first, last + 1):
        before = places.get(new[at], at)
        ways[at - before] = ways.get(at - before, 0) + 1
    right = sum(old[at] == new[at] for at in range(first, last + 1))
    by = max(ways, key=ways.__getitem__, default=0)
    gained = sum(old[at - by] == new[at] for at in range(max(first, first + by), min(last, last + by) + 1))
    return (first, last, by) if by and gained >= right + LEAST_MOVED else (0, 0, 0)
