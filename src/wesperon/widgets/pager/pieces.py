"""Where the lines of a long text begin and end, found near where they are wanted: nothing is read from the start.

A piece is what is laid out at once: a line, or a part of a line that is very long. Operations, each a look at no more
than two pieces' bytes, wherever in the text it is:

    start(at)    where the piece begins that has the byte at an offset
    end(start)   where it ends, and where the next one begins
    before(at)   where the piece before begins

A line is cut at the multiples of ``most`` bytes before which there are ``most`` bytes without a line end: so every cut
can be found from nearby, and no line shorter than that is ever cut. A cut is never inside a character of UTF-8.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Protocol

    class Bytes(Protocol):
        """The bytes of a text, in memory or in a file, of which more may come."""

        def __len__(self) -> int: ...

        def __getitem__(self, part: slice) -> bytes: ...

        def find(self, pattern: bytes, start: int = 0, end: int | None = None) -> int:
            """Return the first match of a pattern between two offsets; -1 if there is none."""

        def rfind(self, pattern: bytes, start: int = 0, end: int | None = None) -> int:
            """Return the last match of a pattern between two offsets; -1 if there is none."""


#: The bytes of which a line has at least as many before it is cut.
MOST = 1 << 16
#: A character of UTF-8 has at most so many bytes after its first one.
MOST_CONTINUED = 3


class Pieces:
    """The pieces of a text, which may grow; ``most`` is the size from which a line is cut."""

    def __init__(self, data: Bytes, most: int = MOST) -> None:
        self.data = data
        self.most = most

    def start(self, at: int) -> int:
        """Return where the piece begins that has the byte at an offset of the text."""
        most = self.most
        cut = at // most * most
        if at + MOST_CONTINUED >= cut + most and self._is_cut(cut + most) and at >= self._whole(cut + most):
            return self._whole(cut + most)
        end = self.data.rfind(b"\n", max(cut - most, 0), at)
        if end >= 0:
            return end + 1
        return self._whole(cut)

    def end(self, start: int) -> tuple[int, int]:
        """Return where the piece ends that begins at an offset, without its line end, and where the next one begins."""
        most, size = self.most, len(self.data)
        cut = -(-(start + most) // most) * most
        end = self.data.find(b"\n", start, min(cut, size))
        if end >= 0:
            return end, end + 1
        if size <= cut:
            return size, size
        whole = self._whole(cut)
        return whole, whole

    def before(self, start: int) -> int | None:
        """Return where the piece begins that is before the one at an offset; None if that is the first."""
        return self.start(start - 1) if start > 0 else None

    def is_line_start(self, start: int) -> bool:
        """Return True if the piece at an offset is the first one of its line."""
        return start == 0 or self.data[start - 1 : start] == b"\n"

    def line_start(self, start: int) -> int:
        """Return where the line begins that the piece at an offset is a part of; all of a long line is looked at."""
        while not self.is_line_start(start):
            start = self.start(start - 1)
        return start

    def _is_cut(self, at: int) -> bool:
        """Return True if a line is cut at a multiple of ``most``."""
        return at < len(self.data) and self.data.rfind(b"\n", at - self.most, at) < 0

    def _whole(self, at: int) -> int:
        """Return where the character begins that has the byte at an offset."""
        first = max(at - MOST_CONTINUED, 0)
        for back, byte in enumerate(reversed(self.data[first : at + 1])):
            if byte & 0xC0 != 0x80:
                return at - back if back == 0 or byte >= 0xC0 else at
        return at
