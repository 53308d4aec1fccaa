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

    from wesperon.screen.frame import Row
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
        #: The rows that there is room for below the heading, and the place before the last jump.
        self.room = 1
        #: How many rows down it is still to go, when they have come.
        self.owed = 0
        self._wanted: Place | None = None
        self._top: Place | None = None
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
        self._every = AllPieces(self.pieces, lambda start: self.layout.piece(start).after)
        self._headed = self.heading == 0

    def set_theme(self, theme: Theme) -> None:
        """Take the theme that it is drawn in."""
        self.theme = self.layout.theme = theme
        self.layout.forget()

    def fit(self, columns: int, rows: int) -> list[tuple[int, int]]:
        """Lay it out for a screen of a size. Return the pieces and rows of the heading; the text has the others."""
        self.layout.columns = columns
        heading = [(start, row) for start in self.headed for row in range(len(self.layout.piece(start).rows))]
        heading = heading[: max(rows - 1, 0)]
        self.room = max(rows - len(heading), 1)
        return heading

    def row(self, place: tuple[int, int]) -> Row:
        """Return a row of a piece; the matches in the hit that was found last stand out."""
        start, number = place
        row = self.layout.piece(start).rows[number]
        if start != self.hit:
            return row
        return tuple([(text, "current-match" if role == "match" else role) for text, role in row])

    @property
    def lacks_numbers(self) -> bool:
        """Whether the lines in sight are not counted yet."""
        return self.top is not None and self.numbers.number(self.top[0]) is None

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
    def top(self) -> Place | None:
        """The place at the top; None if nothing is there."""
        return self._top

    @top.setter
    def top(self, place: Place | None) -> None:
        self._top = self._wanted = place

    @property
    def place(self) -> Place:
        """The place at the top, or the one that was wanted, if nothing can be shown yet."""
        return self._top or self._wanted or (0, 0)

    def settle(self) -> None:
        """Show the place that was wanted last, or what is nearest to it by now: hits may not be found yet."""
        self._top = self.in_bounds(self._wanted)
        if self._top is not None and (self.around is None or self.hits is None or self.hits.is_done):
            self._wanted = self._top
        if self.owed:
            self.move(0)

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
    def begin(self) -> int:
        """Where the text begins below the heading, as far as that has come."""
        return self._every.begin if self.order else 0

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
        return self._moved(place, by)[0]

    def _moved(self, place: Place, by: int) -> tuple[Place, int]:
        """Return the same, and how many rows there are too few."""
        start, offset = place
        missing = 0
        laid = self.layout.piece(start)
        row = laid.row_at(offset)
        order = self.order
        while by > 0:
            if row + by < len(laid.rows):
                row, by = row + by, 0
                break
            after = order.after(start)
            if after is None:
                missing = by - (len(laid.rows) - 1 - row)
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
                missing = -by - row
                row = by = 0
                break
            by += row + 1
            start = before
            laid = self.layout.piece(start)
            row = len(laid.rows) - 1
        return (start, laid.starts[row]), missing

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
        """Move the part in sight by rows, down or up; rows that have not come yet are gone down to when they do."""
        by += self.owed
        self.owed = 0
        if self.top is None:
            self.owed = 0 if self.source.is_whole else max(by, 0)
            return
        place, missing = self._moved(self.top, by)
        if by > 0 and not self.source.is_whole:
            lacking = self.room - len(self.rows(place, self.room))
            self.owed = missing + lacking - self._moved(place, -lacking)[1]
        self.top = self.in_bounds(place)

    def jump(self, place: Place | None) -> None:
        """Move far: the place where it was is kept."""
        if place is not None and place != self.top:
            self.came_from = self.place
            self.owed = 0
            self._wanted = place
            self.settle()
            self._wanted = self._top or place

    def show(self, start: int) -> None:
        """Bring the first match in a piece into sight, in the upper third if it was not."""
        laid = self.layout.piece(start)
        needle = self.layout.needle
        spans = needle.spans(laid.text) if needle is not None else []
        row = laid.row_at(spans[0][0]) if spans else 0
        if (start, row) not in self.rows(self.top, self.room):
            self.jump(self.moved((start, laid.starts[row]), -(self.room // 3)))
        if spans and not self.layout.is_broken:
            self.layout.show_columns(laid.text, *spans[0])

    @property
    def is_at_end(self) -> bool:
        """Whether the last row of what is there is in sight."""
        shown = self.rows(self.top, self.room)
        if not shown:
            return True
        start, row = shown[-1]
        return row == len(self.layout.piece(start).rows) - 1 and self.order.after(start) is None
