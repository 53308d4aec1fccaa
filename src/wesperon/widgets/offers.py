"""The search for what a line may become: candidates that begin with its text first, then those that hold its parts.

A search goes on in slices, between two keys, so that no key waits for it. Costs, for ``n`` candidates:

    a key                      one step, whatever ``n`` is
    all slices of a search     one pass of ``in`` over the texts; over the last hits only, where the text has grown
    memory                     the texts without letter case, once; the places of at most ``KEPT`` hits of each sort
"""

from __future__ import annotations

from wesperon.core.supply import note_of, text_of
from wesperon.widgets.narrowing import parts_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.core.supply import Supply

#: How many candidates a slice looks at.
SLICE = 20_000
#: The most places of hits that are remembered; the search for a longer text starts anew where there were more.
KEPT = 50_000


class Offers:
    """One search at a time through the candidates of a supply."""

    def __init__(self, supply: Supply) -> None:
        self.supply = supply
        self.folded: list[str] = []
        self.needle: str | None = None
        self.parts: list[str] = []
        #: The places of the candidates that begin with the needle, and of those that hold its parts elsewhere.
        self.beginning: list[int] = []
        self.within: list[int] = []
        self.count = 0
        self._pool: list[int] | None = None
        self._next = 0

    def seek(self, needle: str | None) -> None:
        """Begin a search; ``None`` ends any."""
        folded = None if needle is None else needle.casefold()
        grows = (
            folded is not None
            and bool(self.needle)
            and folded.startswith(self.needle or "")
            and self.is_done
            and not self.supply.is_growing
            and self.count <= KEPT
        )
        self._pool = sorted([*self.beginning, *self.within]) if grows else None
        self.needle, self.parts = folded, parts_of(folded or "")
        self.beginning, self.within, self.count, self._next = [], [], 0, 0

    @property
    def is_done(self) -> bool:
        """Whether the search has gone through everything that is there."""
        if self.needle is None:
            return True
        return self._next >= (len(self.supply.items) if self._pool is None else len(self._pool))

    def work(self) -> bool:
        """Go through one slice; whether there was one to go through."""
        if self.is_done:
            return False
        first, last = self._next, self._next + SLICE
        parts, needle = self.parts, self.needle or ""
        if self._pool is None:
            last = min(last, len(self.supply.items))
            self._fold(last)
            texts = self.folded[first:last]
            rest = parts[1:]
            if not parts:
                found = list(range(first, last))
            else:
                part = parts[0]
                found = [at for at, text in enumerate(texts, first) if part in text]
        else:
            found, rest = self._pool[first:last], parts
        folded = self.folded
        for part in rest:
            found = [at for at in found if part in folded[at]]
        self._next = last
        self.count += len(found)
        if len(self.beginning) < KEPT:
            begins = [at for at in found if folded[at].startswith(needle)]
            self.beginning += begins
            if len(begins) == len(found):
                return True
        if len(self.within) < KEPT:
            self.within += [at for at in found if not folded[at].startswith(needle)]
        return True

    def found(self, most: int) -> list[int]:
        """The first hits: those that begin so, then the others."""
        return [*self.beginning[:most], *self.within[: max(most - len(self.beginning), 0)]]

    def text(self, at: int) -> str:
        """The candidate at a place."""
        return text_of(self.supply.items[at])

    def note(self, at: int) -> str:
        """What is said beside it."""
        return note_of(self.supply.items[at])

    def _fold(self, upto: int) -> None:
        done = len(self.folded)
        if done < upto:
            texts = [item if type(item) is str else text_of(item) for item in self.supply.items[done:upto]]
            pieces = "\n".join(texts).casefold().split("\n")
            self.folded += pieces if len(pieces) == len(texts) else [text.casefold() for text in texts]
