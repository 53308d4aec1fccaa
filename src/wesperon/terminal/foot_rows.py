"""Rows at the foot of a terminal on which nothing is open: those of long work.

The terminal keeps its modes, since nobody knows when the process ends. So whatever ends it leaves nothing to put right:

- The cursor rests in the first column below the rows. What a shell or a child prints comes there, after whole rows.
- A row is shorter than the terminal is wide. If that has become narrower just now the row is cut, never wrapped.
- Nothing is hidden, and no mode is left set at the end of what is sent at once.
- Every change writes all rows, from the first: they are few, and it is certain what is there then.

When the terminal has become narrower, some terminals break the rows that are too long now, and the first one is further
up.
"""

from __future__ import annotations

import _thread

from wesperon.screen.ecma48 import (
    CR,
    ED,
    EL,
    NEXT_ROW,
    SGR_RESET,
    SYNC_OFF,
    SYNC_ON,
    WRAP_OFF,
    WRAP_ON,
    cud,
    cuf,
    cuu,
    dl,
    sgr,
)
from wesperon.screen.width import width
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Protocol

    from wesperon.screen.frame import Row

    class Others(Protocol):
        """Other processes that write to the terminal."""

        def begin_writing(self) -> None:
            """Have none of them write for a moment."""

        def end_writing(self) -> None:
            """Let them."""

        def has_rows(self) -> bool:
            """Return True if they have printed below the rows of this process."""

        def pop_rows(self) -> int:
            """Return how many rows they have printed since this was asked."""

        def tell_of(self, rows: int) -> None:
            """Tell them of rows that were printed."""


class FootRows:
    """The rows; ``send`` writes to the terminal, ``size`` gives its columns and rows, ``roles`` are renditions by role.

    ``breaks`` tells whether the terminal breaks rows that have become too long for it, ``entered`` how many rows
    further down the cursor is than the last time, since the user has pressed Enter, ``is_away`` whether the terminal is
    another process's just now: then the rows are left as they are, and none are shown. ``others`` are the processes
    that may print on the terminal too: one of them writes at a time, and tells the others how many rows.
    """

    def __init__(
        self,
        send: Callable[[str], object],
        size: Callable[[], tuple[int, int]],
        roles: Mapping[str, str],
        *,
        breaks: bool = True,
        entered: Callable[[], int] | None = None,
        is_away: Callable[[], bool] | None = None,
        others: Others | None = None,
    ) -> None:
        self.send = send
        self.size = size
        self.roles = roles
        self.breaks = breaks
        self.entered = entered
        self.is_away = is_away
        self.others = others
        self.lock = _thread.RLock()
        #: What is on the screen, as rows and as it was sent, and for how many columns.
        self.rows: tuple[Row, ...] = ()
        self._text = ""
        self._columns = 0
        #: How many rows further down the cursor is than where it was left.
        self._below = 0

    def is_shown(self, rows: Sequence[Row]) -> bool:
        """Return True if these rows are on the screen already, as far as they fit."""
        columns, height = self.size()
        if fitted(rows, height - 1) != self.rows:
            return False
        if self.rows and self.others is not None and self.others.has_rows():
            return False
        return not self.rows or (columns == self._columns and not self._rows_entered())

    def show(self, rows: Sequence[Row]) -> bool:
        """Show rows, as many as fit above the one of the cursor. Return False if nothing has changed."""
        with self.lock:
            if self._is_away() or self.is_shown(rows):
                return False
            self._begin_writing()
            try:
                if not rows:
                    self.hide()
                    return True
                columns, height = self.size()
                shown = fitted(rows, height - 1)
                start = self._at_first(columns)
                text = WRAP_OFF + "".join([self.rendered(row) + EL + NEXT_ROW for row in shown]) + WRAP_ON
                self.send(SYNC_ON + start + text + ED + SYNC_OFF)
                self.rows, self._text, self._columns = shown, text, columns
                return True
            finally:
                self._end_writing()

    def say(self, text: str) -> None:
        """Put lines above the rows, for good."""
        columns, _ = self.size()
        with self.lock:
            lines = text.replace("\n", NEXT_ROW) + NEXT_ROW
            is_away = self._is_away()
            self._begin_writing()
            try:
                if is_away or not self.rows:
                    self.send(lines)
                    if self.others is not None:
                        self.others.tell_of(sum(max(-(-width(line) // columns), 1) for line in text.split("\n")))
                else:
                    start = self._at_first(columns) + EL + cuf(1) + ED + CR  # some terminals would keep a copy else
                    self.send(SYNC_ON + start + lines + self._text + SYNC_OFF)
                    self._columns = columns
            finally:
                self._end_writing()

    def _begin_writing(self) -> None:
        """Have no other process write; go on below what they have printed."""
        if self.others is not None:
            self.others.begin_writing()
            printed = self.others.pop_rows()
            if printed and self.rows:
                count = len(self.rows)
                self.send(SYNC_ON + CR + cuu(count + printed) + dl(count) + cud(printed) + SYNC_OFF)
                self.abandon()

    def _end_writing(self) -> None:
        if self.others is not None:
            self.others.end_writing()

    def hide(self) -> None:
        """Take the rows away; the cursor is where they began."""
        with self.lock:
            if self.rows:
                self.send(self._at_first(self.size()[0]) + EL + cuf(1) + ED + CR)
                self.abandon()

    def abandon(self) -> None:
        """Leave the rows as they are, for good."""
        with self.lock:
            self.rows, self._text = (), ""

    def _is_away(self) -> bool:
        if self.is_away is None or not self.is_away():
            return False
        self.abandon()
        return True

    def _rows_entered(self) -> int:
        if self.entered is not None:
            self._below += self.entered()
        return self._below

    def _at_first(self, columns: int) -> str:
        """Return what brings the cursor to the first column of the first row; on a row of its own if none are shown."""
        entered, self._below = self._rows_entered(), 0
        if not self.rows:
            return " " * columns + CR + EL
        up = len(self.rows)
        if self.breaks and columns < self._columns:
            up = sum(max(-(-sum(width(text) for text, _ in row) // columns), 1) for row in self.rows)
        return CR + cuu(up + entered)

    def rendered(self, row: Row) -> str:
        """Return a row as it is sent, with what its roles look like."""
        roles = self.roles
        return "".join([f"{sgr(roles[role])}{text}{SGR_RESET}" if roles.get(role) else text for text, role in row])


def fitted(rows: Sequence[Row], room: int) -> tuple[Row, ...]:
    """Return as many rows as there is room for; if that is not all of them, the last says how many more there are."""
    if len(rows) <= max(room, 1):
        return tuple(rows)
    if room < 2:
        return tuple(rows[:1])
    return (*rows[: room - 1], ((tell("... and {count} more", count=len(rows) - room + 1), "note"),))
