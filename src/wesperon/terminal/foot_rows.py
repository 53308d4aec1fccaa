"""Rows at the foot of a terminal on which nothing is open: those of long work.

The terminal keeps its modes, since nobody knows when the process ends. So whatever ends it leaves nothing to put right:

- The cursor rests in the first column below the rows. What a shell or a child prints comes there, after whole rows.
- A row is shorter than the terminal is wide, so that it never wraps; nothing is hidden, nothing set.
- Every change writes all rows, from the first: they are few, and it is certain what is there then.

When the terminal has become narrower, some terminals break the rows that are too long now, and the first one is further
up.
"""

from __future__ import annotations

import _thread

from wesperon.screen.ecma48 import CR, ED, EL, NEXT_ROW, SGR_RESET, SYNC_OFF, SYNC_ON, cuf, cuu, sgr
from wesperon.screen.frame import Frame, row_text
from wesperon.screen.width import width
from wesperon.terminal.inbox import Grown

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence

    from wesperon.screen.frame import Row

#: Has a loop draw its widget again, with the rows that there are now: as if a list of the widget had grown.
MOVED = Grown(-1, 0)


class FootRows:
    """The rows; ``send`` writes to the terminal, ``size`` gives its columns and rows, ``roles`` are renditions by role.

    ``breaks`` tells whether the terminal breaks rows that have become too long for it.
    """

    def __init__(
        self,
        send: Callable[[str], object],
        size: Callable[[], tuple[int, int]],
        roles: Mapping[str, str],
        *,
        breaks: bool = True,
    ) -> None:
        self.send = send
        self.size = size
        self.roles = roles
        self.breaks = breaks
        self.lock = _thread.RLock()
        #: What is on the screen, as rows and as it was sent, and for how many columns.
        self.rows: tuple[Row, ...] = ()
        self._text = ""
        self._columns = 0
        #: Rows below that the user has begun with Enter.
        self._entered = 0

    def show(self, rows: Sequence[Row]) -> bool:
        """Show rows, as many as fit above the one of the cursor. Return False if nothing has changed."""
        columns, height = self.size()
        if not rows:
            had_rows = bool(self.rows)
            self.hide()
            return had_rows
        shown = tuple(rows[: max(height - 1, 1)])
        with self.lock:
            if shown == self.rows and columns == self._columns and not self._entered:
                return False
            start = self._at_first(columns)
            text = "".join([self._rendered(row) + EL + NEXT_ROW for row in shown])
            self.send(SYNC_ON + start + text + ED + SYNC_OFF)
            self.rows, self._text, self._columns, self._entered = shown, text, columns, 0
            return True

    def say(self, text: str) -> None:
        """Put lines above the rows, for good."""
        columns, _ = self.size()
        with self.lock:
            lines = text.replace("\n", NEXT_ROW) + NEXT_ROW
            if not self.rows:
                self.send(lines)
            else:
                start = self._at_first(columns) + EL + cuf(1) + ED + CR  # some terminals would keep a copy else
                self.send(SYNC_ON + start + lines + self._text + SYNC_OFF)
                self._columns, self._entered = columns, 0

    def entered(self, rows: int) -> None:
        """Take note that the user has pressed Enter: the cursor is so many rows further down."""
        with self.lock:
            self._entered += rows if self.rows else 0

    def hide(self) -> None:
        """Take the rows away; the cursor is where they began."""
        with self.lock:
            if self.rows:
                self.send(self._at_first(self.size()[0]) + EL + cuf(1) + ED + CR)
                self.abandon()

    def abandon(self) -> None:
        """Leave the rows as they are, for good."""
        with self.lock:
            self.rows, self._text, self._entered = (), "", 0

    def _at_first(self, columns: int) -> str:
        """Return what brings the cursor to the first column of the first row; on a row of its own if none are shown."""
        if not self.rows:
            return " " * columns + CR + EL
        up = len(self.rows)
        if self.breaks and columns < self._columns:
            up = sum(max(-(-width(row_text(row)) // columns), 1) for row in self.rows)
        up += self._entered
        return CR + cuu(up)

    def _rendered(self, row: Row) -> str:
        roles = self.roles
        return "".join([f"{sgr(roles[role])}{text}{SGR_RESET}" if roles.get(role) else text for text, role in row])


def above_frame(work: tuple[Row, ...], frame: Frame, rows: int) -> Frame:
    """Return a frame with rows of long ``work`` above it, as many as there is room for."""
    room = rows - len(frame.rows)
    work = work[: max(room, 0)]
    cursor = frame.cursor and (frame.cursor[0] + len(work), frame.cursor[1])
    current = None if frame.current is None else frame.current + len(work)
    return Frame((*work, *frame.rows), cursor, frame.shape, current, frame.clicks.moved(len(work), 0))
