"""Which of many texts hold what was typed: all its parts, in any order, whatever their letter case.

The search goes on in slices, so that who has it can show what is found so far and take the next key. Costs, for
``n`` texts:

    a letter          one pass of ``in`` over the texts; a slice that has none costs one search in all of it at once;
                      over the last hits alone, where the letter makes the needle longer
    the first letter  the same, and every text once: it is made, and its letter case taken off
    memory            the texts without letter case twice, singly and by slices
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable

    from wesperon.screen.frame import Row

#: How many texts a slice holds.
SLICE = 10_000
#: How many texts of a growing list are taken at a time, and how many a needle is looked for in at most, beyond those
#: that were there: a list without end may hold it nowhere.
TAKEN, LOOKED_AHEAD = 1_000, 100_000
#: How many matches are looked through for one that begins with the needle.
LOOKED_AT = 1_000


class ChoiceFilter:
    """The search in texts of which more may come; ``count`` says how many there are by now, ``texts`` gives some.

    ``comma``: a comma separates parts of the needle as a blank does.
    """

    def __init__(
        self, count: Callable[[], int], texts: Callable[[int, int], list[str]], *, comma: bool = False
    ) -> None:
        self.count = count
        self.texts = texts
        self.comma = comma
        self.needle = ""
        self.parts: list[str] = []
        #: The indices of the texts that have been found so far, in order.
        self.hits: list[int] = []
        self._slices: list[tuple[str, list[str]]] = []
        self._pool: list[int] | None = None
        self._next = 0
        #: How many texts there were when the search began.
        self._seen = 0
        #: Whether what was found last is of one slice.
        self._is_slice = True

    def seek(self, needle: str) -> None:
        """Begin another search, in what the last one has found where the needle has only grown."""
        folded = needle.casefold()
        grows = bool(self.parts) and folded.startswith(self.needle) and self.is_done
        self._pool = self.hits if grows and len(self.hits) < self.count() // 4 else None
        self.needle = folded
        self.parts = sorted((folded.replace(",", " ") if self.comma else folded).split(), key=len, reverse=True)
        self.hits, self._next, self._seen = [], 0, self.count()

    @property
    def is_done(self) -> bool:
        """Whether the search has gone through everything that is there."""
        if self._pool is None:
            return self._next >= self.count()
        return self._next >= len(self._pool) and self._seen >= self.count()

    def wanted(self, hits: int) -> int:
        """Return how many texts there should be for so many hits."""
        count = self.count()
        if len(self.hits) >= hits or not self.is_done:
            return count
        return max(min(count + TAKEN, self._seen + LOOKED_AHEAD), count)

    def work(self) -> list[int]:
        """Go through one slice; the indices found in it."""
        self._is_slice = self._pool is None
        if self._pool is not None:
            found = self._in_pool()
            if self._next >= len(self._pool):  # texts that have come since are after all others
                self._pool, self._next = None, self._seen
        else:
            found = self._in_slice(self._next // SLICE)
        self.hits += found
        return found

    def upto(self, hits: int) -> list[int]:
        """Return at least ``hits`` indices, or all of them if there are fewer."""
        while len(self.hits) < hits and not self.is_done:
            self.work()
        return self.hits

    def all(self) -> list[int]:
        """Return the indices of all that hold the needle."""
        while not self.is_done:
            self.work()
        return self.hits

    def folded(self, index: int) -> str:
        """Return the text at an index without letter case."""
        return self._slices[index // SLICE][1][index % SLICE]

    def best(self) -> int:
        """Return the most likely hit: one that begins with the needle, else one with a word that does."""
        needle = self.needle.strip()
        looked = self.upto(LOOKED_AT)[:LOOKED_AT]
        for wanted in (str.startswith, lambda text, start: " " + start in text):
            for at, index in enumerate(looked):
                if wanted(self.folded(index), needle):
                    return at
        return 0

    def begins(self, found: list[int]) -> tuple[list[int], list[int]]:
        """Of the indices found in one slice, those whose texts begin with the needle, and the others."""
        needle, folded = self.needle, self.folded
        if not needle:
            return found, []
        if found and self._is_slice:
            joined, texts = self._slices[found[0] // SLICE]
            if "\n" + needle not in joined:
                return [], found
            first = found[0] // SLICE * SLICE
            begin = [at for at in found if texts[at - first].startswith(needle)]
        else:
            begin = [at for at in found if folded(at).startswith(needle)]
        if len(begin) == len(found):
            return begin, []
        known = set(begin)
        return begin, [at for at in found if at not in known]

    def _in_pool(self) -> list[int]:
        assert self._pool is not None
        found = self._pool[self._next : self._next + SLICE]
        self._next += SLICE
        slices, size = self._slices, SLICE
        for part in self.parts:
            found = [at for at in found if part in slices[at // size][1][at % size]]
        return found

    def _in_slice(self, number: int) -> list[int]:
        first = number * SLICE
        joined, texts = self._slice(number)
        start, self._next = self._next, first + len(texts)
        if any(part not in joined for part in self.parts):
            return []
        if not self.parts:
            return list(range(start, self._next))
        part = self.parts[0]
        if start == first:
            found = [at for at, text in enumerate(texts, first) if part in text]
        else:
            found = [at for at, text in enumerate(texts[start - first :], start) if part in text]
        for part in self.parts[1:]:
            found = [at for at in found if part in texts[at - first]]
        return found

    def _slice(self, number: int) -> tuple[str, list[str]]:
        """Return the texts of a slice without letter case, joined and singly; made again where more have come."""
        first = number * SLICE
        last = min(first + SLICE, self.count())
        if number < len(self._slices):
            made = self._slices[number]
            if len(made[1]) == last - first:
                return made
            del self._slices[number:]
        texts = self.texts(first, last)
        joined = "\n".join(texts).casefold()
        pieces = joined.split("\n")
        if len(pieces) != len(texts):
            pieces = [text.casefold() for text in texts]
        self._slices.append(("\n" + joined, pieces))
        return self._slices[number]


def marked(text: str, parts: Iterable[str], role: str, found: str) -> Row:
    """Return the text in spans: ``found`` is the role of what the parts match, ``role`` that of the rest."""
    folded = text.casefold()
    if len(folded) != len(text):
        return ((text, role),)
    hits = bytearray(len(text))
    for part in parts:
        at = folded.find(part)
        if at >= 0:
            hits[at : at + len(part)] = b"\1" * len(part)
    spans: list[tuple[str, str]] = []
    start = 0
    for at in range(1, len(text) + 1):
        if at == len(text) or hits[at] != hits[start]:
            spans.append((text[start:at], found if hits[start] else role))
            start = at
    return tuple(spans)
