"""A text in lines, kept while the text changes: what a change costs depends on the change, not on the text.

operation            goal
take a new text      comparisons of whole stretches, and work for each line that changed
the line of a place  work for the lines between that place and the one asked for before
"""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False


class Change(Frozen):
    """The difference between two texts: the first ``start`` characters and the last ``tail`` are the same.

    ``line`` is the line, from 0, where it begins, ``begin`` the offset of that line; ``old`` lines became ``new`` ones.
    """

    start: int
    tail: int
    line: int
    begin: int
    old: int
    new: int


class LineIndex:
    """The lines of a text, without their ends."""

    def __init__(self) -> None:
        self.text = ""
        self.lines = [""]
        self.change = Change(0, 0, 0, 0, 1, 1)
        #: How many texts have been taken.
        self.version = 0
        self._near = (0, 0)

    def replace(self, text: str) -> None:
        """Replace the text; update only the lines that differ."""
        old = self.text
        if text is old or text == old:
            return
        after = self.change.tail  # most changes are right after the one before
        start = shared_start(old, text, len(old) - after)
        tail = shared_end(old, text, start, after)
        line, begin = self.line_of(start)[0], old.rfind("\n", 0, start) + 1
        gone = old.count("\n", begin, len(old) - tail) + 1
        end = text.find("\n", len(text) - tail)
        new = text[begin : len(text) if end < 0 else end].split("\n")
        self.lines[line : line + gone] = new
        self.change = Change(start, tail, line, begin, gone, len(new))
        self.text = text
        self.version += 1
        self._near = (begin, line)

    def line_of(self, at: int) -> tuple[int, int]:
        """Return the line of an offset, from 0, and the offset in it."""
        near, line = self._near
        line += self.text.count("\n", near, at) if at >= near else -self.text.count("\n", at, near)
        self._near = (at, line)
        return line, at - self.text.rfind("\n", 0, at) - 1


def shared_start(one: str, other: str, guess: int = 0) -> int:
    """Return how many characters two texts have in common at their beginning; found by halving, so it costs no loop.

    ``guess`` is how many that may be.
    """
    low, high = 0, min(len(one), len(other))
    if 0 < guess <= high and other.startswith(one[:guess]):
        low = guess
        if one[low : low + 1] != other[low : low + 1]:
            return low
    while low < high:
        middle = (low + high + 1) // 2
        if one[low:middle] == other[low:middle]:
            low = middle
        else:
            high = middle - 1
    return low


def shared_end(one: str, other: str, start: int, guess: int = 0) -> int:
    """Return how many characters they have in common at their end, after the first ``start``; see ``shared_start``."""
    low, high = 0, min(len(one), len(other)) - start
    if 0 < guess <= high and other.endswith(one[len(one) - guess :]):
        low = guess
        if low == high or one[len(one) - low - 1] != other[len(other) - low - 1]:
            return low
    while low < high:
        middle = (low + high + 1) // 2
        if one[len(one) - middle : len(one) - low] == other[len(other) - middle : len(other) - low]:
            low = middle
        else:
            high = middle - 1
    return low
