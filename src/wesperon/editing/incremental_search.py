"""The search in earlier entries: a needle typed in a row of its own, under the entry that it finds."""

from __future__ import annotations

from wesperon.editing.finder import ACCEPTING, SHORTER, Ending, Finder
from wesperon.editing.keys.events import TYPE
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.history_view import HistorySearch, Match
    from wesperon.editing.keys.events import Action
    from wesperon.editing.text_state import TextState


class IncrementalSearch(Finder):
    """A ``search`` in a history, step by step; ``last`` is what was searched for before.

    ``in_modal``: keys are those of the family with modes, in which Enter accepts what is found, and not the line.
    """

    FOOT = "Enter: accept   Ctrl-R: older   Ctrl-S: newer   Right: edit   Ctrl-G: back"
    FOOT_IN_MODAL = "Enter: accept   Up: older   Down: newer   Ctrl-G: back"
    is_remembered = True

    def __init__(self, search: HistorySearch, last: str, *, in_modal: bool) -> None:
        self.search = search
        self.last = last
        self.in_modal = in_modal

    @property
    def needle(self) -> str:  # type: ignore[override]
        """What is looked for."""
        return self.search.needle

    @property
    def found(self) -> Match | None:
        """The entry that is found."""
        return self.search.found

    @property
    def shown(self) -> TextState:
        """The entry that is found, or what was typed before; the cursor at the needle in it."""
        return self.search.shown

    @property
    def match(self) -> tuple[int, int]:
        """Where the needle is in what is shown."""
        return self.search.match

    def foot(self) -> str:
        """Return what the keys do."""
        return tell(self.FOOT_IN_MODAL if self.in_modal else self.FOOT)

    def do(self, action: Action) -> Ending | None:
        """See ``Finder``; an action that is none of the search is for the line, with what was found in it."""
        name = action.name
        if name == TYPE:
            self.search.type(action.text)
        elif name in SHORTER:
            self.search.widen()
        elif name in ("search-back", "search-forward"):
            self.search.further(back=name == "search-back", last=self.last)
        elif name == "cancel":
            return Ending()
        elif name:
            return Ending(takes=True, passes_on=not (self.in_modal and name in ACCEPTING))
        return None

    def fault(self) -> str:
        """See ``Finder``."""
        if not self.search.fails:
            return ""
        if self.search.reached is not None:
            return tell("only repeated entries so far: Ctrl-R looks further")
        return tell("no older entry contains it") if self.search.back else tell("no newer entry contains it")
