"""Finders: a search in a line, whose needle is typed in a row of its own.

A finder knows nothing of the line: it is given what it looks through, and :meth:`Finder.do` returns how the search has
ended, once it has. What becomes of the line then is the business of ``line_actions.end_search``.
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.edits import TextState
    from wesperon.editing.history_view import Match
    from wesperon.editing.keys.events import Action
    from wesperon.screen.frame import Row

#: Actions that accept what is found, and those that make the needle shorter.
ACCEPTING = ("accept", "accept-if-whole", "accept-unless-whole")
SHORTER = ("delete-char-back", "delete-word-back", "delete-region-or-word-back")


class Ending(Frozen):
    """How a search ends.

    ``takes``: the line has what was found, else it is as before. ``passes_on``: the action that ended the search is for
    the line. ``command`` is the command that waited for what is looked for, now that it is known; ``fails``: that
    command is not to be done.
    """

    takes: bool = False
    passes_on: bool = False
    command: Action | None = None
    fails: bool = False


class Finder:
    """A search that is open."""

    needle = ""
    #: Whether the needle is remembered for the next search, once this one is over.
    is_remembered = False

    @property
    def found(self) -> Match | None:
        """What the line would have; None for nothing new."""
        return None

    @property
    def shown(self) -> TextState:
        """What is shown in place of the line, and the cursor in it."""
        raise NotImplementedError

    @property
    def match(self) -> tuple[int, int]:
        """The offsets in it between which the needle is."""
        raise NotImplementedError

    def do(self, action: Action) -> Ending | None:
        """Do an action; how the search has ended, if it has."""
        raise NotImplementedError

    def fault(self) -> str:
        """Why nothing is found; empty if something is."""
        raise NotImplementedError

    def foot(self) -> str:
        """What the keys do."""
        raise NotImplementedError

    def rows(self, columns: int) -> list[Row]:
        """The search row: its label and the needle, or why nothing is found."""
        fault, label = self.fault(), self._label(columns)
        text = visible(self.needle) + (f"   {fault}" if fault else "")
        return [((label, "label"), (cut(text, max(columns - width(label), 1)), "reason" if fault else ""))]

    def column(self, columns: int) -> int:
        """The column of the cursor in that row."""
        label = width(self._label(columns))
        return label + min(width(visible(self.needle)), max(columns - label, 0))

    def _label(self, columns: int) -> str:
        return tell("search") + "  " if columns >= 20 else "? " if columns > 4 else ""
