"""What is searched for in a long text: a text or a pattern, in which small letters mean capitals too.

Whole slices are looked through as bytes where that finds the same as looking through their lines one by one, which is
a hundred times faster: for a text of any characters if letter case counts, else for one of ASCII. A pattern is matched
line by line, and never across lines.
"""

from __future__ import annotations

import re
import warnings

from wesperon.text.byte_search import found_at
from wesperon.text.messages import tell
from wesperon.values import Complaint
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
#: A byte is rare as long as it is at most one in so many.
RARE = 400
#: The bytes by which it is found out which are rare.
SAMPLE = 1 << 16
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
        self._rare: tuple[int, int] | None = None
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
        # A single byte is found ten times as fast as two are.
        if self.bytes is None or (self.keeps_colours and b"\x1b" in data):
            yield from self._matched(data)
            return
        folded = Folded(data, *self._rare_byte(self.bytes, data)) if self.folds else None
        at = 0
        while at >= 0:
            at = found_at(data, self.bytes, at) if folded is None else folded.find(self.bytes, at)
            if at >= 0:
                yield at
                at = data.find(b"\n", at)
        if folded is not None and folded.left < 0:
            self._rare = (0, 0)

    def _rare_byte(self, needle: bytes, data: bytes) -> tuple[int, int]:
        """Return the byte of the needle that is the rarest at the beginning of the data, and its place in the needle.

        It is found once, for the whole search.
        """
        if self._rare is None and data:
            sample = data[:SAMPLE].lower()
            count, byte = min((sample.count(bytes((one,))), one) for one in set(needle))
            self._rare = (byte, needle.index(byte)) if count * RARE <= len(sample) else (0, 0)
        return self._rare or (0, 0)

    def last(self, data: bytes) -> int:
        """Return an offset in the last line of a slice that has a match; -1 if none has."""
        if self.bytes is None or (self.keeps_colours and b"\x1b" in data):
            return max(self._matched(data), default=-1)
        return (data.lower() if self.folds else data).rfind(self.bytes)

    def _matched(self, data: bytes) -> Iterator[int]:
        """Yield the offsets of the lines of a slice that have a match, each found by itself."""
        start = 0
        for line in data.split(b"\n"):
            text = decoded(SGR_BYTES.sub(b"", line) if self.keeps_colours and b"\x1b[" in line else line)
            if self.matches(text):
                yield start
            start += len(line) + 1


class Folded:
    """A slice of bytes in which a needle of small letters is looked for in any letter case of ASCII.

    To make small letters of all bytes takes longer than to look through them. So the rarest byte of the needle is
    looked for by itself, in both letter cases, until it turns out not to be rare here. ``byte`` is that one, at an
    ``offset`` of the needle; 0 if none is rare.
    """

    def __init__(self, data: bytes, byte: int, offset: int) -> None:
        self.data = data
        self.small, self.capital = bytes((byte,)), bytes((byte,)).upper()
        self.offset = offset
        self.left = len(data) // RARE if byte else -1
        self.lowered: bytes | None = None

    def find(self, needle: bytes, start: int = 0) -> int:
        """Return the first match from an offset on; -1 if there is none."""
        if self.left < 0:
            if self.lowered is None:
                self.lowered = self.data.lower()
            return found_at(self.lowered, needle, start)
        data, small, capital, at = self.data, self.small, self.capital, start + self.offset
        one = data.find(small, at)
        other = data.find(capital, at) if capital != small else -1
        while one >= 0 or other >= 0:
            found = other if one < 0 or 0 <= other < one else one
            place = found - self.offset
            if data[place : place + len(needle)].lower() == needle:
                return place
            self.left -= 1
            if self.left < 0:
                return self.find(needle, place + 1)
            if found == one:
                one = data.find(small, found + 1)
            else:
                other = data.find(capital, found + 1)
        return -1


def decoded(data: bytes) -> str:
    """Return the text of bytes; each that is not UTF-8 is a lone surrogate (PEP 383), which nobody types."""
    return data.decode("utf-8", "surrogateescape")
