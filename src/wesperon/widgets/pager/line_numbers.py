"""Which line an offset is in, and where a line begins: counted once, and remembered at every mebibyte.

Costs, for a text of any length: eight bytes for each mebibyte that was counted; a number or an offset in what was
counted takes a look at one mebibyte at most. What was not counted yet has no numbers; ``step`` counts on.
"""

from __future__ import annotations

from array import array
from bisect import bisect_right

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.widgets.pager.pieces import Bytes

#: The bytes between two numbers that are remembered.
BLOCK = 1 << 20


class LineNumbers:
    """Counts the lines of a text; ``block`` are the bytes between two numbers that are remembered."""

    def __init__(self, data: Bytes, block: int = BLOCK) -> None:
        self.data = data
        self.block = block
        #: How many lines end before each multiple of ``block``, as far as it was counted.
        self._ended = array("q", [0])

    @property
    def counted(self) -> int:
        """The bytes in which all lines have been counted."""
        return (len(self._ended) - 1) * self.block

    @property
    def is_done(self) -> bool:
        """Whether as much was counted as can be: what is after that is less than a block."""
        return self.counted + self.block > len(self.data)

    def step(self) -> bool:
        """Count on. Return True if there was something to count."""
        if self.is_done:
            return False
        start = self.counted
        self._ended.append(self._ended[-1] + self.data[start : start + self.block].count(b"\n"))
        return True

    def number(self, offset: int) -> int | None:
        """Return the number, from 1, of the line that has the byte at an offset; None if it was not counted yet."""
        if self.counted <= offset < self.counted + 2 * self.block:
            self.step()
        place = min(offset // self.block, len(self._ended) - 1)
        start = place * self.block
        if offset - start > self.block:
            return None
        return self._ended[place] + self.data[start:offset].count(b"\n") + 1

    def offset(self, number: int) -> int | None:
        """Return where the line of a number begins; None if it is not among the lines counted so far."""
        if number <= 1:
            return 0
        place = bisect_right(self._ended, number - 2) - 1
        start, left = place * self.block, number - 1 - self._ended[place]
        data = self.data[start : start + self.block]
        at = -1
        for _ in range(left):
            at = data.find(b"\n", at + 1)
            if at < 0:
                return None
        return start + at + 1
