"""What a line may become: the candidates that begin with its text first, then those that hold its parts elsewhere.

The search goes on between two keys, so that no key waits for it; see ``narrowing`` for its costs.
"""

from __future__ import annotations

from wesperon.values.suggestions import note_of, text_of
from wesperon.widgets.filtering import ChoiceFilter

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.values.suggestions import Suggestions

#: The most candidates of each sort that are listed.
KEPT = 2_000


class SuggestionFilter:
    """One search at a time through the candidates of suggestions."""

    def __init__(self, suggestions: Suggestions) -> None:
        self.suggestions = suggestions
        self.search = ChoiceFilter(lambda: len(suggestions.items), self._texts)
        self.is_open = False
        #: The places of the first candidates that begin with the needle, and of others that hold its parts elsewhere.
        self.beginning: list[int] = []
        self.within: list[int] = []

    def seek(self, needle: str | None) -> None:
        """Begin a search; ``None`` ends any."""
        self.is_open = needle is not None
        self.search.seek(needle or "")
        self.beginning, self.within = [], []

    @property
    def parts(self) -> list[str]:
        """What is looked for."""
        return self.search.parts

    @property
    def count(self) -> int:
        """How many have been found so far."""
        return len(self.search.hits) if self.is_open else 0

    def work(self) -> bool:
        """Go through one slice. Return True if there was one."""
        if not self.is_open or self.search.is_done:
            return False
        found = self.search.work()
        if found and len(self.beginning) < KEPT:
            begin, others = self.search.begins(found)
            self.beginning += begin
            if len(self.within) < KEPT:
                self.within += others
        return True

    def found(self, most: int) -> list[int]:
        """Return the first hits: those that begin so, then the others."""
        return [*self.beginning[:most], *self.within[: max(most - len(self.beginning), 0)]]

    def text(self, at: int) -> str:
        """Return the candidate at a place."""
        return text_of(self.suggestions.items[at])

    def note(self, at: int) -> str:
        """Return what is said beside it."""
        return note_of(self.suggestions.items[at])

    def _texts(self, first: int, last: int) -> list[str]:
        return [item if type(item) is str else text_of(item) for item in self.suggestions.items[first:last]]
