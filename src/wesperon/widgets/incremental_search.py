"""The search in a line: a needle typed in a row of its own, under the entry that it finds."""

from __future__ import annotations

from wesperon.editing.edits import TextState
from wesperon.editing.history_view import HistorySearch
from wesperon.editing.keys.events import TYPE
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.history_view import Past
    from wesperon.editing.keys.events import Action
    from wesperon.screen.frame import Row
    from wesperon.widgets.line import Line

#: Acts that make the needle shorter, and those that leave the search and everything as it was.
ACCEPTING = ("accept", "accept-if-whole", "accept-unless-whole")
SHORTER = ("delete-char-back", "delete-word-back", "delete-region-or-word-back")


class IncrementalSearch:
    """The search of one line."""

    FOOT = "Enter: accept   Ctrl-R: older   Ctrl-S: newer   Right: edit   Ctrl-G: back"
    FOOT_IN_MODAL = "Enter: accept   Up: older   Down: newer   Ctrl-G: back"

    def __init__(self, line: Line, past: Past, *, back: bool) -> None:
        self.line = line
        place = line.recall.place if line.recall else None
        self.search = HistorySearch(past, place, line.draft, back=back)

    def foot(self) -> str:
        """What the keys do."""
        return tell(self.FOOT if self.line.modal is None else self.FOOT_IN_MODAL)

    @property
    def shown(self) -> TextState:
        """The entry that is found, or what was typed before; the cursor at the needle in it."""
        return self.search.shown

    @property
    def match(self) -> tuple[int, int]:
        """Where the needle is in what is shown."""
        return self.search.match

    def do(self, action: Action) -> bool:
        """Do what belongs to the search; whether that is all.

        If not, the search is over, the line has what was found, and the action is for the line.
        """
        if action.name == TYPE:
            self.search.type(action.text)
        elif action.name in SHORTER:
            self.search.take_back()
        elif action.name in ("search-back", "search-forward"):
            self.search.further(back=action.name == "search-back", last=self.line.memory.needle)
        elif action.name == "cancel":
            self.line.finder = None
            self._remember()
        elif action.name in ACCEPTING and self.line.modal is not None:  # that accepts what is looked for, not the line
            before = self.line.text
            self.take()
            self.line.modal.commands.settle()
            self.line.modal.follow(before)
        elif action.name:
            self.take()
            return False
        return True

    def take(self) -> None:
        """Leave the search, and have what it found in the line."""
        line = self.line
        line.finder = None
        self._remember()
        found = self.search.found
        if found is None:
            return
        entry = found.entry
        if entry is not None:
            line.walk(lambda walk: walk.start(entry))
        line.editor.move(found.at)
        line.moved()

    def rows(self, columns: int) -> list[Row]:
        """The needle in a row of its own, after what the row is for."""
        role = "reason" if self.search.fails else ""
        text = visible(self.search.needle) + (self._reason() if self.search.fails else "")
        label = self._label(columns)
        return [((label, "label"), (cut(text, max(columns - width(label), 1)), role))]

    def column(self, columns: int) -> int:
        """The column of the cursor in that row."""
        label = width(self._label(columns))
        return label + min(width(visible(self.search.needle)), max(columns - label, 0))

    def _reason(self) -> str:
        if self.search.reached is not None:
            return "   " + tell("only repeated entries so far: Ctrl-R looks further")
        return "   " + (tell("no older entry contains it") if self.search.back else tell("no newer entry contains it"))

    def _label(self, columns: int) -> str:
        return tell("search") + "  " if columns >= 20 else "? " if columns > 4 else ""

    def _remember(self) -> None:
        if self.search.needle:
            self.line.memory.needle = self.search.needle
