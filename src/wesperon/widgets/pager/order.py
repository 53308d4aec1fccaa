"""Which pieces of a text are shown, one after the other: all of them, or those around the hits of a search."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Protocol

    from wesperon.widgets.pager.pieces import Pieces
    from wesperon.widgets.pager.scan import Hits

    class Order(Protocol):
        """The pieces that are shown; each is told by where it begins."""

        def first(self) -> int | None:
            """Return the first piece; None if there is none yet."""

        def last(self) -> int | None:
            """Return the last piece of what is there."""

        def after(self, start: int) -> int | None:
            """Return the piece that is shown after the one at an offset; None if there is none yet."""

        def before(self, start: int) -> int | None:
            """Return the piece that is shown before the one at an offset."""

        def nearest(self, start: int) -> int | None:
            """Return the piece at an offset if it is shown, else the one after it, else the one before."""


class AllPieces:
    """Every piece from an offset on; ``end`` gives where the next one begins, as it is known already mostly."""

    def __init__(self, pieces: Pieces, end: Callable[[int], int], begin: int = 0) -> None:
        self.pieces = pieces
        self.end = end
        self.begin = begin

    def first(self) -> int | None:
        """See ``Order``."""
        return self.begin if self.begin < len(self.pieces.data) else None

    def last(self) -> int | None:
        """See ``Order``."""
        size = len(self.pieces.data)
        return max(self.pieces.start(size - 1), self.begin) if size > self.begin else None

    def after(self, start: int) -> int | None:
        """See ``Order``."""
        after = self.end(start)
        return after if after < len(self.pieces.data) else None

    def before(self, start: int) -> int | None:
        """See ``Order``."""
        return self.pieces.before(start) if start > self.begin else None

    def nearest(self, start: int) -> int | None:
        """See ``Order``."""
        last = self.last()
        return None if last is None else min(max(self.pieces.start(start), self.begin) if start < last else last, last)


class OnlyHits:
    """The pieces with hits, and so many ``around`` each."""

    def __init__(self, every: AllPieces, hits: Hits, around: int = 0) -> None:
        self.every = every
        self.hits = hits
        self.around = around

    def first(self) -> int | None:
        """See ``Order``."""
        begin = self.every.first()
        return begin if begin is None or self._is_shown(begin) else self.after(begin)

    def last(self) -> int | None:
        """See ``Order``."""
        last = self.hits.starts[-1] if self.hits.starts else -1
        return self._moved(last, self.every.after) if last >= self.every.begin else None

    def after(self, start: int) -> int | None:
        """See ``Order``."""
        following = self.every.after(start)
        if following is None or self._is_shown(following):
            return following
        hit = self.hits.after(following)
        return None if hit is None else self._moved(hit, self.every.before)

    def before(self, start: int) -> int | None:
        """See ``Order``."""
        earlier = self.every.before(start)
        if earlier is None or self._is_shown(earlier):
            return earlier
        hit = self.hits.before(earlier)
        return None if hit is None or hit < self.every.begin else self._moved(hit, self.every.after)

    def nearest(self, start: int) -> int | None:
        """See ``Order``."""
        place = self.every.nearest(start)
        if place is None or self._is_shown(place):
            return place
        after = self.after(place)
        return self.before(place) if after is None else after

    def _is_shown(self, start: int) -> bool:
        """Return True if a hit is at the piece at an offset, or near it."""
        first, last = self._moved(start, self.every.before), self._moved(start, self.every.after)
        hit = self.hits.after(first - 1)
        return hit is not None and hit <= last

    def _moved(self, start: int, step: Callable[[int], int | None]) -> int:
        """Return the piece that is ``around`` steps away, or as many as there are."""
        for _ in range(self.around):
            following = step(start)
            if following is None:
                break
            start = following
        return start
