"""One text in the pager: which part of it is in sight, and how to get to another.

A place is where a row begins: the offset of its piece, and the offset in the text of that piece, so that it stays the
same text when the width changes. Every move looks at the rows between the old place and the new one, and no further:
its cost depends on the screen, not on the text.
"""

from __future__ import annotations

from wesperon.widgets.pager.laying import Layout
from wesperon.widgets.pager.line_numbers import LineNumbers
from wesperon.widgets.pager.order import AllPieces, OnlyHits
from wesperon.widgets.pager.pieces import Pieces

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Protocol

    from wesperon.screen.theme import Theme
    from wesperon.widgets.pager.order import Order
    from wesperon.widgets.pager.pieces import Bytes
    from wesperon.widgets.pager.scan import Hits

    Place = tuple[int, int]

    class PagedSource(Protocol):
        """Where a text comes from (``paging.sources``)."""

        name: str
        #: Rises each time that bytes which were there have become others.
        version: int
        #: What has happened to it; empty if nothing has.
        said: str
        #: Whether more is wanted than is seen, so that it may take much at once.
        hurries: bool

        @property
        def data(self) -> Bytes:
            """The bytes that are there: always the same object."""

        @property
        def is_whole(self) -> bool:
            """Whether all has come."""

        @property
        def may_change(self) -> bool:
            """Whether it is a file, which is looked at again and again."""

        @property
        def count(self) -> int:
            """How many bytes are there."""

        def pull(self, count: int) -> bool:
            """Take bytes until there are so many; may block. Return True if more may come."""

        def look(self) -> bool:
            """Look whether the file has changed. Return True if it has."""

        def read_again(self) -> None:
            """Take the file that has its name now, from its start."""


class TextView:
    """A part of a text, as many rows as there is room for.

    ``source`` is where it comes from, ``heading`` how many of its first lines stay in sight.
    """

    def __init__(self, source: PagedSource, theme: Theme, heading: int = 0) -> None:
        self.source = source
        self.heading = heading
        self.theme = theme
        #: Whether the end stays in sight when more comes.
        self.follows = False
        #: The hit that was found last; places by their names; how many pieces around each hit are shown, None for all.
        self.hit: int | None = None
        self.marks: dict[str, Place] = {}
        self.around: int | None = None
        self.hits: Hits | None = None
        #: The place at the top, the rows that there is room for below the heading, and the place before the last jump.
        self.top: Place | None = None
        self.room = 1
        self.came_from: Place = (0, 0)
        self.layout = Layout(Pieces(source.data), theme)
        self._begin()

    def _begin(self) -> None:
        """Know nothing about the text."""
        self.pieces = Pieces(self.source.data)
        self.layout.pieces = self.pieces
        self.layout.forget()
        self.numbers = LineNumbers(self.source.data)
        self.version = self.source.version
        self._every = AllPieces(self.pieces)
        self._headed = self.heading == 0

    def renewed(self) -> bool:
        """Take note if the text has become another one. Return True if it has."""
        if self.version == self.source.version:
            return False
        self._begin()
        self.hit, self.marks, self.hits, self.around = None, {}, None, None
        if self.top is not None and self.top[0] >= len(self.source.data):
            self.top = None if not len(self.source.data) else self.end()
        elif self.top is not None:
            self.top = (self.pieces.start(self.top[0]), 0)
        return True

    @property
    def order(self) -> Order:
        """The pieces that are shown."""
        if not self._headed:
            at = 0
            for _ in range(self.heading):
                at = self.pieces.end(at)[1] if at < len(self.source.data) else at
            self._every.begin = at
            self._headed = at < len(self.source.data) or self.source.is_whole
        if self.around is not None and self.hits is not None:
            return OnlyHits(self._every, self.hits, self.around)
        return self._every

    @property
    def headed(self) -> list[int]:
        """The pieces of the heading."""
        made, at = [], 0
        order = self.order
        end = self._every.begin if order.first() is not None or self._headed else len(self.source.data)
        while at < end:
            made.append(at)
            at = self.pieces.end(at)[1]
        return made

    # Places ----------------------------------------------------------------------------------------------------------

    @property
    def start_of_all(self) -> Place | None:
        """The place where the text begins, heading and all; None if nothing is there."""
        return (0, 0) if len(self.source.data) else None

    def start(self) -> Place | None:
        """Return the first place; None if nothing is there."""
        first = self.order.first()
        return None if first is None else (first, 0)

    def end(self) -> Place | None:
        """Return the top place with which the last row is the last in sight."""
        last = self.order.last()
        if last is None:
            return None
        return self.moved((last, self.layout.piece(last).starts[-1]), 1 - self.room)

    def moved(self, place: Place, by: int) -> Place:
        """Return the place so many rows further down, or up if it is negative; the first or the last row at most."""
        start, offset = place
        laid = self.layout.piece(start)
        row = laid.row_at(offset)
        order = self.order
        while by > 0:
            if row + by < len(laid.rows):
                row, by = row + by, 0
                break
            after = order.after(start)
            if after is None:
                row, by = len(laid.rows) - 1, 0
                break
            by -= len(laid.rows) - row
            start, row = after, 0
            laid = self.layout.piece(start)
        while by < 0:
            if row + by >= 0:
                row, by = row + by, 0
                break
            before = order.before(start)
            if before is None:
                row = by = 0
                break
            by += row + 1
            start = before
            laid = self.layout.piece(start)
            row = len(laid.rows) - 1
        return start, laid.starts[row]

    def rows(self, place: Place | None, room: int) -> list[tuple[int, int]]:
        """Return the pieces and their rows from a place on, at most ``room``."""
        made: list[tuple[int, int]] = []
        if place is None:
            return made
        start: int | None = place[0]
        row = self.layout.piece(place[0]).row_at(place[1])
        order = self.order
        while start is not None and len(made) < room:
            count = len(self.layout.piece(start).rows)
            made += [(start, at) for at in range(row, min(count, row + room - len(made)))]
            start, row = order.after(start), 0
        return made

    def in_bounds(self, place: Place | None) -> Place | None:
        """Return a place that is shown, and below which the screen is full if there are so many rows."""
        nearest = None if place is None else self.order.nearest(place[0])
        if nearest is None or place is None:
            return self.start()
        if nearest != place[0]:
            place = (nearest, 0)
        shown = self.rows(place, self.room)
        return place if len(shown) == self.room else self.moved(place, len(shown) - self.room)

    def lacks(self, place: Place | None, rows: int) -> bool:
        """Return True if so many rows from a place on are not there yet, and may come."""
        return not self.source.is_whole and len(self.rows(place, rows)) < rows

    # Moves -----------------------------------------------------------------------------------------------------------

    def move(self, by: int) -> None:
        """Move the part in sight by rows, down or up."""
        if self.top is not None:
            self.top = self.in_bounds(self.moved(self.top, by))

    def jump(self, place: Place | None) -> None:
        """Move far: the place where it was is kept."""
        if place is not None:
            self.came_from = self.top or (0, 0)
            self.top = self.in_bounds(place)

    def show(self, start: int) -> None:
        """Bring the first match in a piece into sight, in the upper third if it was not."""
        laid = self.layout.piece(start)
        needle = self.layout.needle
        spans = needle.spans(laid.text) if needle is not None else []
        row = laid.row_at(spans[0][0]) if spans else 0
        if (start, row) not in self.rows(self.top, self.room):
            self.jump(self.moved((start, laid.starts[row]), -(self.room // 3)))

    @property
    def is_at_end(self) -> bool:
        """Whether the last row of what is there is in sight."""
        shown = self.rows(self.top, self.room)
        if not shown:
            return True
        start, row = shown[-1]
        return row == len(self.layout.piece(start).rows) - 1 and self.order.after(start) is None
