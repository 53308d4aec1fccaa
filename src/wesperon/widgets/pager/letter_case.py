"""A text of small letters looked for in bytes, in any letter case of ASCII.

To make small letters of all bytes takes longer than to look through them. So a rare part of the text is looked for by
itself, after no more than its own letters have been brought to one letter case: the one that each has more often.
"""

from __future__ import annotations

from collections import Counter

from wesperon.text.byte_search import ByteSearch

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    #: Some bytes of a needle, their offset in it, and whether they are looked for in a text all of which is made small.
    Part = tuple[bytes, int, bool]

#: What is looked for first is rare as long as it is found at most once in so many bytes.
RARE = 1500
#: Its sizes in bytes, the bytes of a needle among which it is chosen, and how many times it is chosen for a search.
SIZES, CHOSEN_AMONG, MOST_CHOSEN = (1, 3, 6), 64, 8
#: The bytes of a slice by which it is found out what is rare, and how many of them are beside each other.
SAMPLE, TOGETHER = 1 << 16, 1 << 13
#: What it takes, in the time of making a byte small: to look at a match, to change the letter case of a byte, to go on
#: where the first two bytes are found; and to pass over a byte, for each of the sizes and for a letter that is changed.
MATCH, CHANGE, BEGINNING, PASSED, LOOKED = 2500, 28, 10, (0.03, 0.16, 0.16), 0.1
#: The part of a needle that is none: all of the needle is looked for.
NO_PART = (b"", 0, True)


class Folding:
    """The search for a ``needle`` of small letters through slices of a text, in any letter case of ASCII."""

    def __init__(self, needle: bytes) -> None:
        self.needle = needle
        self.part: Part | None = None
        self._chosen = 0

    def finder(self, data: bytes) -> Callable[[int], int]:
        """Return what finds the first match in a slice from an offset on; -1 if there is none."""
        if self.part is None:
            self.part = rare_part(self.needle, sample_of(data)) if self._chosen < MOST_CHOSEN else NO_PART
            self._chosen += 1
        return Folded(data, self, self.part).find


class Folded:
    """A slice that is looked through for a ``part`` of a needle, until that turns out not to be rare here.

    ``left`` says how many times it may still be found where the needle is not.
    """

    def __init__(self, data: bytes, folding: Folding, part: Part) -> None:
        self.data, self.folding, self.part = data, folding, part
        self.left = len(data) // RARE if part[0] else -1
        self.search = ByteSearch(data.lower() if part[2] else as_spelled(data, part[0]), part[0] or folding.needle)

    def find(self, start: int) -> int:
        """Return the first match from an offset on; -1 if there is none."""
        needle = self.folding.needle
        offset = self.part[1]
        while self.left >= 0:
            place = self.search.find(start + offset) - offset
            if place < start:
                return -1
            if self.data[place : place + len(needle)].lower() == needle:
                return place
            start = place + 1
            self.left -= 1
            if self.left < 0:
                self.search = ByteSearch(self.data.lower(), needle)
                self.folding.part = None
        return self.search.find(start)


def sample_of(data: bytes) -> bytes:
    """Return some bytes of a slice, of all of it evenly."""
    step = max(len(data) * TOGETHER // SAMPLE, TOGETHER)
    return b"".join(data[start : start + TOGETHER] for start in range(0, len(data), step))


def rare_part(needle: bytes, sample: bytes) -> Part:
    """Return the part of a needle by which it is found the soonest, judged by a sample of the text.

    It is one byte if one is rare, or a few that are rare together, each letter in the letter case that the text has
    more often; in small letters if as many would have to be changed; none if the whole needle is found as soon.
    """
    small, counts, size_of_all = sample.lower(), Counter(sample), len(sample)
    spelled = bytes(max(byte, capital(byte), key=counts.__getitem__) for byte in needle[:CHOSEN_AMONG])
    best, part = size_of_all * (1 + PASSED[-1]) + BEGINNING * small.count(needle[:2]), NO_PART
    for size, passed in zip(SIZES, PASSED, strict=True):
        for offset in range(len(spelled) - size + 1):
            some, written = needle[offset : offset + size], spelled[offset : offset + size]
            takes = passed * size_of_all + MATCH * small.count(some)
            if size > 1:
                takes += BEGINNING * small.count(some[:2])
            letters = set(written.swapcase()) - set(written)
            changed = sum(CHANGE * counts[byte] + LOOKED * size_of_all for byte in letters)
            is_small = changed >= size_of_all
            takes += min(changed, size_of_all)
            if takes < best:
                best, part = takes, (some if is_small else written, offset, is_small)
    return part


def capital(byte: int) -> int:
    """Return a byte, as a capital if it is a small letter."""
    return bytes((byte,)).upper()[0]


def as_spelled(data: bytes, some: bytes) -> bytes:
    """Return a text in which the letters among some bytes are in the letter case that they have there."""
    for byte in set(some):
        letter = bytes((byte,))
        if letter.isalpha():
            data = data.replace(letter.swapcase(), letter)
    return data
