"""The search in a text of several lines: a needle typed in a row of its own, and the place that it leads to."""

from __future__ import annotations

from wesperon.editing.finder import ACCEPTING, SHORTER, Ending, Finder
from wesperon.editing.keys.events import TYPE, Action
from wesperon.editing.modal.places import SEARCHES
from wesperon.editing.text_state import TextState
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.modal.places import Places

#: Actions that make the whole needle go.
EMPTYING = ("erase-line-back", "delete-line-start", "delete-text-whole")


class TextSearch(Finder):
    """What is looked for in a text, for an ``action`` that waits for it: a motion, or an operator.

    ``draft`` is the text with the cursor, ``places`` finds a needle in it, ``last`` is what was searched for before.
    """

    FOOT = "Enter: go there   Escape: back"

    def __init__(self, draft: TextState, places: Places, action: Action, last: str) -> None:
        self.draft = draft
        self.places = places
        self.action = action
        self.last = last
        self.at = -1

    @property
    def shown(self) -> TextState:
        """The text, with the cursor at what was found."""
        return TextState(self.draft.text, self.draft.cursor if self.at < 0 else self.at)

    @property
    def match(self) -> tuple[int, int]:
        """The offsets between which the needle is."""
        return (0, 0) if self.at < 0 else (self.at, self.at + len(self.needle))

    def foot(self) -> str:
        """Return what the keys do."""
        return tell(self.FOOT)

    def do(self, action: Action) -> Ending | None:
        """See ``Finder``."""
        name = action.name
        if name == TYPE:
            self._look(self.needle + action.text)
        elif (name in SHORTER or name == "erase-word-back") and self.needle:
            self._look(self.needle[:-1])
        elif name in EMPTYING:
            self._look("")
        elif name in ACCEPTING:
            of = self.action
            return Ending(command=Action(of.name, of.count, self.needle or self.last, of.register, of.motion))
        elif name in ("cancel", "mode-command", *SHORTER, "erase-word-back"):
            return Ending(fails=True)
        elif name:
            return Ending(passes_on=True)
        return None

    def fault(self) -> str:
        """See ``Finder``."""
        return tell("is not in the text") if self.needle and self.at < 0 else ""

    def _look(self, needle: str) -> None:
        self.needle = needle
        way = SEARCHES[self.action.motion or self.action.name]
        self.at = self.places.find(needle, way) if needle else -1
