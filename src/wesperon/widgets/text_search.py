"""The search in a text of several lines: a needle typed in a row of its own, and the place that it leads to."""

from __future__ import annotations

from wesperon.editing.edits import TextState
from wesperon.editing.keys.events import TYPE, Action
from wesperon.editing.modal.places import SEARCHES
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.widgets.incremental_search import ACCEPTING, SHORTER

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Row
    from wesperon.widgets.line import Line
    from wesperon.widgets.modal_line import ModalLine

#: Actions that make the whole needle go.
EMPTYING = ("erase-line-back", "delete-line-start", "delete-text-whole")


class TextSearch:
    """What is looked for in the text of a ``line``, for an ``action`` that waits for it: a motion, or an operator."""

    FOOT = "Enter: go there   Escape: back"

    def __init__(self, line: Line, modal: ModalLine, action: Action) -> None:
        self.line = line
        self.modal = modal
        self.action = action
        self.needle = ""
        self.at = -1

    def foot(self) -> str:
        """What the keys do."""
        return tell(self.FOOT)

    @property
    def shown(self) -> TextState:
        """The text, with the cursor at what was found."""
        return TextState(self.line.draft.text, self.line.draft.cursor if self.at < 0 else self.at)

    @property
    def match(self) -> tuple[int, int]:
        """The offsets between which the needle is."""
        return (0, 0) if self.at < 0 else (self.at, self.at + len(self.needle))

    def do(self, action: Action) -> bool:
        """Do what belongs to the search. Return False if the action is for the line, and the search is over."""
        name = action.name
        if name == TYPE:
            self._look(self.needle + action.text)
        elif (name in SHORTER or name == "erase-word-back") and self.needle:
            self._look(self.needle[:-1])
        elif name in EMPTYING:
            self._look("")
        elif name in ACCEPTING:
            self.line.finder = None
            of = self.action
            needle = self.needle or self.line.memory.needle
            self.modal.found(Action(of.name, of.count, needle, of.register, of.motion))
        elif name in ("cancel", "mode-command", *SHORTER, "erase-word-back"):
            self.line.finder = None
            self.modal.commands.failed = True
            self.modal.follow(self.line.draft.text)
        elif name:
            self.line.finder = None
            return False
        return True

    def take(self) -> None:
        """Leave the search; the cursor stays."""
        self.line.finder = None

    def rows(self, columns: int) -> list[Row]:
        """The needle in a row of its own."""
        role = "reason" if self.needle and self.at < 0 else ""
        text = visible(self.needle) + ("   " + tell("is not in the text") if role else "")
        label = self._label(columns)
        return [((label, "label"), (cut(text, max(columns - width(label), 1)), role))]

    def column(self, columns: int) -> int:
        """The column of the cursor in that row."""
        label = width(self._label(columns))
        return label + min(width(visible(self.needle)), max(columns - label, 0))

    def _look(self, needle: str) -> None:
        self.needle = needle
        way = SEARCHES[self.action.motion or self.action.name]
        self.at = self.modal.commands.places.find(needle, way) if needle else -1

    def _label(self, columns: int) -> str:
        return tell("search") + "  " if columns >= 20 else "? " if columns > 4 else ""
