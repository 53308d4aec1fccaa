"""The search in a long text, slice by slice: between two slices a key is taken, and the search may be stopped.

A hit is a piece that has a match, told by where it begins. Slices are of whole pieces, so that the lines in them can be
matched one by one. ``Scan`` looks for the next hit, on or back; ``Hits`` collects those of the whole text, from its
start on, for their count and for the view that shows nothing else. Each is given a way to limit the time of a step,
since a pattern may take longer than anybody lives.
"""

from __future__ import annotations

from array import array
from bisect import bisect_left, bisect_right

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.widgets.pager.needle import Limited, Needle
    from wesperon.widgets.pager.pieces import Pieces

#: The bytes of a slice: of what is searched as bytes, and of what is matched line by line.
SLICE, MATCHED = 1 << 19, 1 << 16
#: What is had and freed before: an allocator that learns from what is freed (glibc, mallopt(3), M_MMAP_THRESHOLD) then
#: keeps the memory of a slice and of its copies for the next one, where it would have it from the system each time.
KEPT = 1 << 22
#: The most hits that are collected, in eight bytes each.
MOST_HITS = 1_000_000


class Slices:
    """Reads a text in slices of whole pieces."""

    def __init__(self, pieces: Pieces, needle: Needle) -> None:
        self.pieces = pieces
        self.size = MATCHED if needle.bytes is None else SLICE
        bytes(KEPT)

    def on(self, start: int) -> int:
        """Return where a slice ends that begins at an offset where a piece does."""
        size = len(self.pieces.data)
        if start + self.size >= size:
            return size
        end = self.pieces.start(start + self.size)
        return end if end > start else self.pieces.end(start)[1]

    def back(self, end: int) -> int:
        """Return where a slice begins that ends at an offset where a piece does."""
        return self.pieces.start(max(end - self.size, 0)) if end > 0 else 0


class Scan:
    """Looks for the next hit from the piece that begins at ``start`` on, or before it if it goes ``back``.

    It goes back to the offset ``begin``, where a piece begins. ``hit`` is where the hit begins, once ``step`` has
    returned True; None if there is none in what is there.
    """

    def __init__(
        self, pieces: Pieces, needle: Needle, start: int, limited: Limited[int], *, back: bool, begin: int = 0
    ) -> None:
        self.pieces = pieces
        self.needle = needle
        self.limited = limited
        self.back = back
        self.begin = begin
        self.hit: int | None = None
        #: How far it has come.
        self.at = start
        self._slices = Slices(pieces, needle)

    @property
    def has_reached_end(self) -> bool:
        """Whether it has looked through everything that is there."""
        return self.at <= self.begin if self.back else self.at >= len(self.pieces.data)

    def step(self) -> bool:
        """Look through one slice. Return True if a hit is in it."""
        if self.has_reached_end:
            return False
        if self.back:
            start, end = max(self._slices.back(self.at), self.begin), self.at
        else:
            start, end = self.at, self._slices.on(self.at)
        data = self.pieces.data[start:end]
        look = self._last if self.back else self._first
        found = self.limited(lambda: look(data))
        self.at = start if self.back else end
        if found < 0:
            return False
        self.hit = self.pieces.start(start + found)
        return True

    def _first(self, data: bytes) -> int:
        return next(self.needle.lines(data), -1)

    def _last(self, data: bytes) -> int:
        return self.needle.last(data)


class Hits:
    """The hits of the text from the piece at ``begin`` on, as far as it has been looked through, in order."""

    def __init__(self, pieces: Pieces, needle: Needle, limited: Limited[list[int]], begin: int = 0) -> None:
        self.pieces = pieces
        self.needle = needle
        self.limited = limited
        self.starts = array("q")
        #: Up to where it has been looked through, and whether there were too many to go on.
        self.at = begin
        self.is_full = False
        self._slices = Slices(pieces, needle)

    @property
    def is_done(self) -> bool:
        """Whether everything that is there has been looked through."""
        return self.is_full or self.at >= len(self.pieces.data)

    def step(self) -> bool:
        """Look through one slice. Return True if a hit is in it."""
        if self.is_done:
            return False
        start, end = self.at, self._slices.on(self.at)
        data = self.pieces.data[start:end]
        found = self.limited(lambda: list(self.needle.lines(data)))
        before = len(self.starts)
        for at in found:
            piece = self.pieces.start(start + at)
            if not self.starts or self.starts[-1] < piece:
                self.starts.append(piece)
        self.at = end
        self.is_full = len(self.starts) >= MOST_HITS
        return len(self.starts) > before

    def rank(self, start: int) -> int:
        """Return how many hits are before the piece at an offset, or are it."""
        return bisect_right(self.starts, start)

    def after(self, start: int) -> int | None:
        """Return the first hit after the piece at an offset, of those found so far."""
        place = bisect_right(self.starts, start)
        return self.starts[place] if place < len(self.starts) else None

    def before(self, start: int) -> int | None:
        """Return the last hit before the piece at an offset."""
        place = bisect_left(self.starts, start)
        return self.starts[place - 1] if place else None
