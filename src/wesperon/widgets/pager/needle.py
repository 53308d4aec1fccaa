"""What is searched for in a long text: a text or a pattern, in which small letters mean capitals too.

Whole slices are looked through as bytes where that finds the same as looking through their lines one by one, which is
a hundred times faster: for a text of any characters if letter case counts, else for one of ASCII. A pattern is matched
line by line, and never across lines.
"""

from __future__ import annotations

import re
import warnings

from wesperon.text.byte_search import ByteSearch
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.pager.letter_case import Folding
from wesperon.widgets.pager.source_colours import SGR

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any, TypeVar

    T = TypeVar("T")
    #: Calls a function, and raises TimeoutError if it takes too long.
    Limited = Callable[[Callable[[], T]], T]

#: The same control sequences as in texts, in bytes.
SGR_BYTES = re.compile(SGR.pattern.encode())
#: The most matches in one piece of a line that are marked.
MOST_MARKED = 10_000


class Needle:
    """What is searched for.

    ``text`` is what was typed. ``is_pattern``: it is a regular expression, as Python has them. ``keeps_colours``: the
    renditions in the text are not shown as characters, and so are not searched. ``limited`` limits the time of a step
    (``Limited``). Raises Complaint for a pattern that cannot be read, with the position.
    """

    def __init__(
        self, text: str, *, is_pattern: bool = False, keeps_colours: bool = True, limited: Limited[Any] | None = None
    ) -> None:
        self.text = text
        self.is_pattern = is_pattern
        self.keeps_colours = keeps_colours
        self.limited = limited
        #: Whether it has taken too long on a line, so that nothing is matched any more.
        self.is_slow = False
        self.folds = text == text.lower()
        flags = re.IGNORECASE if self.folds else 0
        if text.isascii() and not is_pattern:
            flags |= re.ASCII
        try:
            with warnings.catch_warnings(action="ignore"):  # what it may mean some day is nothing to a reader
                self.pattern = re.compile(text if is_pattern else re.escape(text), flags)
        except (re.error, RecursionError, OverflowError) as error:
            reason = error.msg if isinstance(error, re.error) else str(error)
            at = error.pos if isinstance(error, re.error) else None
            raise Complaint(tell("not a pattern: {reason}", reason=reason), at) from None
        #: The bytes that a slice has if it may have a match; None if it is matched line by line.
        self.bytes = None
        if not is_pattern and "\n" not in text and (not self.folds or text.isascii()):
            self.bytes = text.encode("utf-8", "surrogatepass")
        self.folding = Folding(self.bytes) if self.folds and self.bytes else None

    def keeping(self, keeps_colours: bool) -> Needle:
        """Return the same for a text whose renditions are, or are not, shown as characters."""
        return Needle(self.text, is_pattern=self.is_pattern, keeps_colours=keeps_colours, limited=self.limited)

    def spans(self, text: str) -> list[tuple[int, int]]:
        """Return where the matches in a line are that is shown; none if the pattern has taken too long."""
        if self.is_slow:
            return []
        if not self.is_pattern or self.limited is None:
            return self.matches(text)
        try:
            return list(self.limited(lambda: self.matches(text)))
        except TimeoutError:
            self.is_slow = True
            return []

    def matches(self, text: str) -> list[tuple[int, int]]:
        """Return where the matches in a line are, as offsets; a match of nothing is none."""
        found = []
        for match in self.pattern.finditer(text):
            if match.end() > match.start():
                found.append(match.span())
                if len(found) >= MOST_MARKED:
                    break
        return found

    def lines(self, data: bytes) -> Iterator[int]:
        """Yield the offsets in a slice of whole lines, one in each line that has a match, in order."""
        if self.bytes is None or self._is_coloured(data):
            yield from self._matched(data)
            return
        find = self._finder(self.bytes, data)
        at = find(0)
        while at >= 0:
            yield at
            line_end = data.find(b"\n", at)
            at = find(line_end) if line_end >= 0 else -1

    def last(self, data: bytes) -> int:
        """Return an offset in the last line of a slice that has a match; -1 if none has."""
        if self.bytes is None or self._is_coloured(data):
            return max(self._matched(data), default=-1)
        return (data.lower() if self.folds else data).rfind(self.bytes)

    def _is_coloured(self, data: bytes) -> bool:
        """Return True if a slice has renditions, which may be inside of what is searched for."""
        return self.keeps_colours and b"\x1b" in data

    def _finder(self, needle: bytes, data: bytes) -> Callable[[int], int]:
        """Return what finds the first match in bytes without renditions from an offset on; -1 if there is none."""
        return self.folding.finder(data) if self.folding else ByteSearch(data, needle).find

    def _matched(self, data: bytes) -> Iterator[int]:
        """Yield the offsets of the lines of a slice that have a match, each found by itself."""
        if self.bytes is not None and self._finder(self.bytes, SGR_BYTES.sub(b"", data))(0) < 0:
            return
        start = 0
        for line in data.split(b"\n"):
            text = decoded(SGR_BYTES.sub(b"", line) if self.keeps_colours and b"\x1b[" in line else line)
            if self.matches(text):
                yield start
            start += len(line) + 1


def decoded(data: bytes) -> str:
    """Return the text of bytes; each that is not UTF-8 is a lone surrogate (PEP 383), which nobody types."""
    return data.decode("utf-8", "surrogateescape")
