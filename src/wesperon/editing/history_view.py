"""What was entered before, as the line sees it: recalled by its beginning, searched as a needle is typed, hinted at.

A ``Past`` gives entries by place; how they are kept is its own business. ``Recall`` and ``HistorySearch`` are what a
line remembers while the user walks through them. Entries that have been shown on the way are not shown again.
"""

from __future__ import annotations

from wesperon.frozen import frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Collection, Sequence
    from typing import Protocol

    class Past(Protocol):
        """Entries in the order in which they were made; a place is a number that only the past itself understands."""

        def older(self, place: int | None, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
            """The newest entry before a place (``None``: of all) that has the needle, or begins with it.

            Entries whose text is in ``seen`` do not count. An entry with no text says how far the search has come where
            it has gone through as many repeated ones as one step may; the next step goes on from that place.
            """

        def newer(self, place: int, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
            """The oldest entry after a place, likewise."""

        def oldest(self) -> Entry | None:
            """The first entry of all."""

        def hint(self, beginning: str) -> str:
            """The newest entry that begins so, if one is found at little cost; else nothing."""

        def load(self) -> None:
            """Take in what others have entered since."""


@frozen
class Entry:
    """A text that was entered, and its place."""

    place: int
    text: str


class ListHistory:
    """A past that is a list of texts, the oldest first."""

    def __init__(self, texts: Sequence[str] = ()) -> None:
        self.texts = texts

    def older(self, place: int | None, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
        """See ``Past``."""
        start = len(self.texts) if place is None else place
        return self._first(range(start - 1, -1, -1), needle, begins, seen)

    def newer(self, place: int, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
        """See ``Past``."""
        return self._first(range(place + 1, len(self.texts)), needle, begins, seen)

    def oldest(self) -> Entry | None:
        """See ``Past``."""
        return Entry(0, self.texts[0]) if self.texts else None

    def hint(self, beginning: str) -> str:
        """See ``Past``."""
        found = self.older(None, beginning, begins=True, seen=(beginning,))
        return found.text if found else ""

    def load(self) -> None:
        """See ``Past``; a list is all there is."""

    def _first(self, places: range, needle: str, begins: bool, seen: Collection[str]) -> Entry | None:
        for place in places:
            text = self.texts[place]
            if (text.startswith(needle) if begins else needle in text) and text not in seen:
                return Entry(place, text)
        return None


class Recall:
    """A walk through the entries that begin as the line did."""

    def __init__(self, past: Past) -> None:
        self.past = past
        self.beginning = ""
        self.way: list[Entry] = []
        self.reached: int | None = None

    @property
    def place(self) -> int | None:
        """Where the walk is; ``None`` if it has not begun."""
        return self.reached if self.reached is not None else self.way[-1].place if self.way else None

    def older(self, typed: str) -> str | None:
        """The text of the entry before, or ``None`` if there is none; ``typed`` is what the line holds at first."""
        if not self.way:
            self.beginning = typed
        seen = {entry.text for entry in self.way} | {self.beginning}
        found = self.past.older(self.place, self.beginning, begins=True, seen=seen)
        if found is None:
            return None
        if not found.text:
            self.reached = found.place
            return None
        self.reached = None
        self.way.append(found)
        return found.text

    def newer(self) -> str | None:
        """The text of the entry after, at last what was typed; ``None`` where the walk has not begun."""
        if not self.way:
            return None
        self.reached = None
        self.way.pop()
        return self.way[-1].text if self.way else self.beginning

    def oldest(self, typed: str) -> str | None:
        """The text of the first entry of all."""
        found = self.past.oldest()
        if found is None:
            return None
        if not self.way:
            self.beginning = typed
        self.way.append(found)
        return found.text

    def start(self, entry: Entry, typed: str) -> None:
        """Begin the walk at an entry, with what the line held before it."""
        self.beginning, self.way = "" if not entry.text.startswith(typed) else typed, [entry]

    def end(self) -> None:
        """Forget the walk."""
        self.way = []


class HistorySearch:
    """A search as the needle is typed.

    Each letter goes on from the entry that is shown; taking a letter back returns to what was shown before it.
    """

    def __init__(self, past: Past, place: int | None, *, back: bool) -> None:
        self.past = past
        self.start = place
        self.back = back
        self.needle = ""
        self.fails = False
        #: How far the search has come where it found repeated entries only.
        self.reached: int | None = None
        #: The entries found with this needle, each further back than the one before it.
        self.way: tuple[Entry, ...] = ()
        self.before: list[tuple[str, bool, tuple[Entry, ...]]] = []

    @property
    def found(self) -> Entry | None:
        """The entry that is shown."""
        return self.way[-1] if self.way else None

    @property
    def at(self) -> int:
        """The offset of the needle in the entry that is shown, or of as much of its beginning as is there."""
        return self.match[0]

    @property
    def match(self) -> tuple[int, int]:
        """The offsets between which it is."""
        text = self.found.text if self.found else ""
        part = self.needle
        while part and part not in text:
            part = part[:-1]
        at = text.find(part) if part else 0
        return (at, at + len(part))

    def type(self, text: str) -> None:
        """Make the needle longer, and look on from here."""
        self.before.append((self.needle, self.fails, self.way))
        self.needle += text
        self.way = self.way[-1:]
        if self.found is None or self.needle not in self.found.text:
            self._look(self.found.place if self.found else self.start)

    def take_back(self) -> None:
        """Make the needle as short as it was, and show what was shown then."""
        if self.before:
            self.needle, self.fails, self.way = self.before.pop()

    def further(self, *, back: bool, last: str = "") -> None:
        """Look for the next entry, in this direction; ``last`` is a needle to take if there is none yet."""
        self.back = back
        if self.needle:
            place = self.found.place if self.found else self.start
            self._look(self.reached if self.reached is not None and back else place)
        elif last:
            self.type(last)

    def _look(self, place: int | None) -> None:
        """Go on from a place; if nothing more is found, what is shown stays."""
        found = None
        if self.back:
            seen = frozenset(entry.text for entry in self.way)
            found = self.past.older(place, self.needle, begins=False, seen=seen)
            self.reached = found.place if found and not found.text else None
            found = found if found and found.text else None
            self.way = (*self.way, found) if found else self.way
        elif len(self.way) > 1:
            self.way = self.way[:-1]
            found = self.way[-1]
        elif place is not None:
            seen = frozenset(entry.text for entry in self.way)
            found = self.past.newer(place, self.needle, begins=False, seen=seen)
            self.way = (found,) if found else self.way
        self.fails = found is None
