"""What the row of a value may become, at a question that asks for several: a choice, a suggestion or a path."""

from __future__ import annotations

from itertools import islice

from wesperon.completion.candidates import matching, paths
from wesperon.text.escape import visible
from wesperon.values.candidate import Candidate
from wesperon.values.suggestions import Suggestions, note_of, text_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any

    from wesperon.values.slots import Slot

#: The most choices and suggestions that are looked through at every key.
LISTED_AT_ONCE = 1_000
#: The most that are taken from a list that grows, which may have no end.
MOST_LOOKED = 10_000


class RowCandidates:
    """The candidates of one ``slot``, with the ``answers`` so far."""

    def __init__(self, slot: Slot[Any], answers: object) -> None:
        self.slot = slot
        self.suggestions = None if slot.suggest is None else Suggestions(slot.suggest, answers)
        #: The texts, and what gives the note of one by its index; None until somebody asks.
        self._known: tuple[list[str], Callable[[int], str]] | None = None

    @property
    def has_any(self) -> bool:
        """Whether there is anything to complete."""
        kind = self.slot.kind
        return self.suggestions is not None or kind.choices is not None or kind.leads_somewhere

    @property
    def is_listed(self) -> bool:
        """Whether what a row may become can be listed at every key: it is there already, and not too much."""
        choices, suggest = self.slot.kind.choices, self.slot.suggest
        if suggest is not None:
            return isinstance(suggest, (list, tuple, dict)) and len(suggest) <= LISTED_AT_ONCE
        return choices is not None and not choices.is_growing and len(choices) <= LISTED_AT_ONCE

    def first(self, row: str, most: int) -> list[Candidate]:
        """Return at most so many candidates that begin as a ``row`` does."""
        return list(islice(self._beginning(row), most))

    def complete(self, text: str, cursor: int) -> tuple[int, list[Candidate]]:
        """Return where the row of the cursor begins in a text, and all that it may become."""
        start = text.rfind("\n", 0, cursor) + 1
        row = text[start:cursor]
        if self.suggestions is None and self.slot.kind.leads_somewhere:
            return start, matching(paths(row, folders=self.slot.exists == "folder"), row)
        return start, list(self._beginning(row))

    def _beginning(self, row: str) -> Iterator[Candidate]:
        """Yield those that begin as a row does; if none does, those that do in another letter case."""
        texts, note = self._texts()
        found = (at for at, text in enumerate(texts) if text.startswith(row))
        at = next(found, None)
        if at is None:
            folded = row.casefold()
            found = (at for at, text in enumerate(texts) if text.casefold().startswith(folded))
            at = next(found, None)
        while at is not None:
            yield Candidate(texts[at], visible(note(at)))
            at = next(found, None)

    def _texts(self) -> tuple[list[str], Callable[[int], str]]:
        if self._known is None:
            choices = self.slot.kind.choices
            if self.suggestions is not None:
                self.suggestions.pull_all(MOST_LOOKED)
                items = self.suggestions.items
                self._known = [text_of(item) for item in items], lambda at: note_of(items[at])
            elif choices is not None:
                choices.pull_all(MOST_LOOKED)
                # What cannot be shown as it is cannot be typed into a row either.
                free = [at for at in range(len(choices)) if visible(choices.label(at)) == choices.label(at)]
                free = [at for at in free if not choices.disabled(at)]
                self._known = [choices.label(at) for at in free], lambda at: choices.note(free[at])
            else:
                self._known = [], lambda at: ""
        return self._known
