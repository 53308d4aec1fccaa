"""Finders: a search in a line, whose needle is typed in a row of its own.

A finder knows nothing of the line: it is given what it looks through, and :meth:`Finder.do` returns how the search has
ended, once it has. What becomes of the line then is the business of ``entry_actions.end_search``; how the row is drawn,
that of ``widgets.finder_row``.
"""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.history_view import Match
    from wesperon.editing.keys.events import Action
    from wesperon.editing.text_state import TextState

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
        """Return why nothing is found; empty if something is."""
        raise NotImplementedError

    def foot(self) -> str:
        """Return what the keys do."""
        raise NotImplementedError
