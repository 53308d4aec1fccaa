"""History for the line editor: recall by prefix, incremental search, inline hints.

A ``Past`` gives entries one after the other; how they are kept is its own business, and may change while a line is
open: another program removes some. ``Recall`` and ``HistorySearch`` are what a line remembers while the user goes
through them. Entries that have been shown on the way are not shown again.
"""

from __future__ import annotations

from wesperon.editing.text_state import TextState
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Collection, Sequence
    from typing import Protocol

    class Past(Protocol):
        """Entries in the order in which they were made.

        An entry may be given back at any time, also when others have been removed, or it has been itself: then the
        last one of its text counts, and if there is none, the end.
        """

        @property
        def version(self) -> int:
            """A number that is another one after any change that makes positions mean something else."""

        def older(self, entry: Entry | None, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
            """Return the newest entry before this one (``None``: of all) that has the needle, or begins with it.

            Entries whose text is in ``seen`` do not count. If one step has skipped too many duplicates, it returns an
            entry with an empty text; call again with it to continue.
            """

        def newer(self, entry: Entry, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
            """Return the oldest entry after this one, likewise."""

        def oldest(self) -> Entry | None:
            """Return the first entry of all."""

        def find(self, entry: Entry) -> Entry | None:
            """Return an entry as it is by now; ``None`` if it was removed."""

        def hint(self, beginning: str) -> str:
            """Return the newest entry that begins so, if one is found at little cost; else nothing."""

        def load(self) -> None:
            """Take in what others have entered since."""

        def details(self, entry: Entry) -> Details:
            """Return when an entry was made, as year to second in UTC, and its status; None for what is not known."""

        def remove(self, text: str) -> int:
            """Remove all entries of a text for good. Return how many there were."""

        def is_favourite(self, text: str) -> bool:
            """Return True if a text is kept as a favourite."""

        def keep_favourite(self, text: str, keeps: bool) -> None:
            """Keep a text as a favourite, or no longer."""

    #: When an entry was made, and how it ended.
    Details = tuple[tuple[int, ...] | None, int | None]


#: So many texts of a list are looked at in one step.
MOST_LOOKED = 100_000


class Entry(Frozen):
    """A text that was entered; its position, which only its past understands, in a version of that past."""

    position: int
    text: str
    version: int


class ListHistory:
    """A past that is a list of texts, the oldest first."""

    def __init__(self, texts: Sequence[str] = ()) -> None:
        self.texts = texts
        self.version = 0
        self.favourites: set[str] = set()

    def older(self, entry: Entry | None, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
        """See ``Past``."""
        found = self.find(entry) if entry is not None else None
        start = len(self.texts) if found is None else found.position
        return self._first(range(start - 1, -1, -1), needle, begins, seen)

    def newer(self, entry: Entry, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
        """See ``Past``."""
        found = self.find(entry)
        return self._first(range(found.position + 1, len(self.texts)), needle, begins, seen) if found else None

    def oldest(self) -> Entry | None:
        """See ``Past``."""
        return Entry(0, self.texts[0], self.version) if self.texts else None

    def find(self, entry: Entry) -> Entry | None:
        """See ``Past``."""
        if entry.version == self.version:
            return entry
        last = next((at for at in range(len(self.texts) - 1, -1, -1) if self.texts[at] == entry.text), None)
        return None if last is None else Entry(last, entry.text, self.version)

    def hint(self, beginning: str) -> str:
        """See ``Past``."""
        found = self.older(None, beginning, begins=True, seen=(beginning,))
        return found.text if found else ""

    def load(self) -> None:
        """See ``Past``; a list is all there is."""

    def details(self, entry: Entry) -> Details:
        """See ``Past``; of a list nothing else is known."""
        return None, None

    def remove(self, text: str) -> int:
        """See ``Past``."""
        count = len(self.texts)
        self.texts = [one for one in self.texts if one != text]
        self.version += 1
        self.favourites.discard(text)
        return count - len(self.texts)

    def is_favourite(self, text: str) -> bool:
        """See ``Past``."""
        return text in self.favourites

    def keep_favourite(self, text: str, keeps: bool) -> None:
        """See ``Past``."""
        (self.favourites.add if keeps else self.favourites.discard)(text)

    def _first(self, positions: range, needle: str, begins: bool, seen: Collection[str]) -> Entry | None:
        for position in positions[:MOST_LOOKED]:
            text = self.texts[position]
            if (text.startswith(needle) if begins else needle in text) and text not in seen:
                return Entry(position, text, self.version)
        return Entry(positions[MOST_LOOKED], "", self.version) if len(positions) > MOST_LOOKED else None


class Recall:
    """The way through the earlier entries that begin as the line did, and back to that line."""

    def __init__(self, past: Past) -> None:
        self.past = past
        self.beginning = ""
        #: The entries that were passed, the newest first; the last one is where it is.
        self.way: list[Entry] = []
        #: How far the search for the next one has come, if that is further than the last one.
        self.reached: Entry | None = None
        #: The texts that are not shown again: those of the way, and what the line began with.
        self._seen = {""}
        #: Whether it began somewhere among the entries, so that newer ones follow the first of the way.
        self.has_newer = False

    @property
    def entry(self) -> Entry | None:
        """Where it is; ``None`` at the line itself."""
        return self.way[-1] if self.way else None

    def untouched(self) -> PutAside:
        """Return the entry where it is, of which nothing can be undone; an empty text at the line itself."""
        return PutAside(self.way[-1].text if self.way else "")

    @property
    def place(self) -> Entry | None:
        """The entry before which the next one is looked for; ``None`` at the line itself."""
        return self.reached if self.reached is not None else self.entry

    def older(self, text: str) -> bool:
        """Go to the entry before. Return True if there is one. ``text`` is what the line holds.

        A text that no longer begins as the first one did begins another way.
        """
        if not self.way or not text.startswith(self.beginning):
            self.way, self.reached, self.has_newer = [], None, False
            self.beginning, self._seen = text, {text}
        place = self.place
        if place is not None and place.version != self.past.version:
            place = None  # entries are elsewhere by now; what was passed is not shown again
        found = self.past.older(place, self.beginning, begins=True, seen=self._seen)
        if found is None:
            return False
        if not found.text:
            self.reached = found
            return False
        self.reached = None
        self.way.append(found)
        self._seen.add(found.text)
        return True

    def newer(self) -> bool:
        """Go to the entry after, at last to the line itself. Return True if there was somewhere to go."""
        if not self.way:
            return False
        self.reached = None
        left = self.way.pop()
        self._seen.discard(left.text)
        while self.way and self.past.find(self.way[-1]) is None:
            self._seen.discard(self.way.pop().text)
        if not self.way and self.has_newer:
            found = self.past.newer(left, self.beginning, begins=True, seen={left.text})
            if found is not None and found.text:
                self.way.append(found)
                self._seen.add(found.text)
        return True

    def go(self, steps: int, text: str) -> bool:
        """Go ``steps`` entries back, or forward if it is negative, as far as there are any. Return whether it moved."""
        has_moved = False
        for _ in range(abs(steps)):
            if not (self.older(text) if steps > 0 else self.newer()):
                break
            has_moved = True
            text = self.way[-1].text if self.way else text
        return has_moved

    def oldest(self) -> bool:
        """Go to the first entry of all. Return True if it is another one."""
        found = self.past.oldest()
        return found is not None and found != self.entry and self.start(found)

    def newest(self) -> bool:
        """Go back to the line itself. Return True if it was anywhere else."""
        was_away = bool(self.way)
        self.way, self.reached = [], None
        return was_away

    def start(self, entry: Entry) -> bool:
        """Go to an entry, with all others around it; True."""
        self.beginning, self.way, self.reached, self.has_newer = "", [entry], None, True
        self._seen = {"", entry.text}
        return True


class Match(Frozen):
    """Where a search has found its needle: in an entry, or in the line itself (``None``), and at which offset."""

    entry: Entry | None
    at: int


class HistorySearch:
    """A search as the needle is typed: first in the line that is being edited, then entry by entry.

    ``draft`` is that line, ``origin`` the entry that it was made from (``None``: it is new). Each letter goes on from
    what is shown; taking a letter back returns to what was shown before it.
    """

    def __init__(self, past: Past, origin: Entry | None, draft: TextState, *, back: bool) -> None:
        self.past = past
        self.origin = origin
        self.draft = draft
        self.back = back
        self.needle = ""
        self.fails = False
        #: How far the search has come where it found repeated entries only.
        self.reached: Entry | None = None
        #: What was found with this needle, each further back than the one before it.
        self.way: tuple[Match, ...] = ()
        self.before: list[tuple[str, bool, tuple[Match, ...]]] = []

    @property
    def found(self) -> Match | None:
        """What is shown, if anything was found yet."""
        return self.way[-1] if self.way else None

    @property
    def shown(self) -> TextState:
        """The text that is shown, and where the needle is in it."""
        found = self.way[-1] if self.way else None
        return self.draft if found is None else TextState(self._text(found), found.at)

    @property
    def match(self) -> tuple[int, int]:
        """The offsets between which the needle is, or as much of its beginning as is there."""
        if not self.way:
            return (0, 0)
        text, at = self.shown.text, self.way[-1].at
        part = self.needle
        while not text.startswith(part, at):
            part = part[:-1]
        return (at, at + len(part))

    def type(self, text: str) -> None:
        """Make the needle longer, and look on from here."""
        self.before.append((self.needle, self.fails, self.way))
        self.needle += text
        self.way = self.way[-1:]
        self._look(0)

    def widen(self) -> None:
        """Make the needle as short as it was, and show what was shown then."""
        if self.before:
            self.needle, self.fails, way = self.before.pop()
            self.way = self._left(way)

    def further(self, *, back: bool, last: str = "") -> None:
        """Look for the next position, in this direction; ``last`` is a needle to take if there is none yet."""
        self.back = back
        if self.needle:
            self._look(1)
        elif last:
            self.type(last)

    def _text(self, match: Match) -> str:
        return self.draft.text if match.entry is None else match.entry.text

    def _look(self, step: int) -> None:
        """Go on, ``step`` offsets from where the search is; if nothing more is found, what is shown stays."""
        self.way = self._left(self.way)
        here = self.way[-1] if self.way else Match(None, self.draft.cursor)
        text, needle = self._text(here), self.needle
        reached, self.reached = self.reached, None
        self.fails = False
        if self.back:
            at = text.rfind(needle, 0, max(here.at - step + len(needle), 0))
            found = Match(here.entry, at) if at >= 0 else self._older(here, reached)
            self.way = (*self.way, found) if found and step else (found,) if found else self.way
        elif step and len(self.way) > 1:
            self.way = self.way[:-1]
            return
        else:
            at = text.find(needle, here.at + step)
            found = Match(here.entry, at) if at >= 0 else self._newer(here)
            self.way = (found,) if found else self.way
        self.fails = found is None

    def _older(self, here: Match, reached: Entry | None) -> Match | None:
        """Return the last position in the newest older entry that has the needle."""
        place = reached if reached is not None else self._place(here)
        seen = frozenset((self.draft.text, *(self._text(match) for match in self.way)))
        entry = self.past.older(place, self.needle, begins=False, seen=seen)
        if entry is not None and not entry.text:
            self.reached, entry = entry, None
        return Match(entry, entry.text.rfind(self.needle)) if entry else None

    def _newer(self, here: Match) -> Match | None:
        """Return the next match in newer entries, then in the current line."""
        place = self._place(here)
        if place is None:
            return None
        seen = frozenset(self._text(match) for match in self.way)
        entry = self.past.newer(place, self.needle, begins=False, seen=seen)
        if entry is not None and entry.text:
            return Match(entry, entry.text.find(self.needle))
        at = self.draft.text.find(self.needle) if self.origin is None else -1
        return Match(None, at) if at >= 0 else None

    def _left(self, way: tuple[Match, ...]) -> tuple[Match, ...]:
        """Return what was found but for entries that were removed since."""
        return tuple([match for match in way if match.entry is None or self.past.find(match.entry) is not None])

    def _place(self, match: Match) -> Entry | None:
        return self.origin if match.entry is None else match.entry


class PutAside:
    """A text that was left for another one, and what can be undone of it."""

    def __init__(
        self,
        text: str,
        undo_steps: list[TextState] | None = None,
        undo_chars: int = 0,
        redo_steps: list[TextState] | None = None,
    ) -> None:
        self.text = text
        self.undo_steps: list[TextState] = [] if undo_steps is None else undo_steps
        self.undo_chars = undo_chars
        self.redo_steps: list[TextState] = [] if redo_steps is None else redo_steps
