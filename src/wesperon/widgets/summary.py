"""The last look: all values of a form, to go on with or to change one of them."""

from __future__ import annotations

from wesperon.screen.frame import ClickMap, Frame
from wesperon.screen.layout import CURRENT_MARK, field_area, marked_gutter, value_rows
from wesperon.screen.width import cut
from wesperon.text.messages import tell
from wesperon.widgets.widget import QUESTION_ACTIONS, Answered, SizeHint, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import ClassVar

    from wesperon.editing.keys.events import Mouse
    from wesperon.screen.frame import Row
    from wesperon.screen.layout import FieldArea


class Summary(Widget):
    """Shows labels with their values; the outcome is the index of one that is to be changed, or None to go on.

    ``gutter`` is the width of the column of labels; ``question`` what the row that goes on says.
    """

    FOOT = "Enter: accept   Up Down: to a value   Ctrl-C: stop"
    FOOT_AT_VALUE = "Enter: change this value   Up Down: move   Ctrl-C: stop"

    def __init__(self, entries: Sequence[tuple[str, str]], gutter: int, question: str = "") -> None:
        super().__init__()
        self.entries = entries
        self.gutter = gutter
        self.question = question
        #: The current entry; the row after the last one goes on.
        self.at = len(entries)

    def begins_beside(self) -> bool:
        """Return False: it has labels of its own."""
        return False

    def click(self, event: Mouse) -> None:
        """Take the row under the mouse."""
        if isinstance(event.hit, int):
            self.at = event.hit
            self.enter()

    def size(self, columns: int) -> SizeHint:
        """Return at least the current row; all rows if there is room."""
        return SizeHint(1, 1, columns, len(self._rows(columns)[0]))

    def view(self, columns: int, rows: int) -> Frame:
        """Return the values, the current one in reverse, and the row that goes on."""
        made, indexes = self._rows(columns)
        bottom = len(made) - indexes[::-1].index(self.at)
        top = max(min(bottom - rows, len(made) - rows), 0)
        shown, hits = made[top : top + rows], indexes[top : top + rows]
        # Where a label is in a row of its own, its value is in the next one.
        current = next(
            (at for at, row in enumerate(shown) if hits[at] == self.at and row[-1][1] == "current"),
            hits.index(self.at),
        )
        cursor = (current, max(self._area(columns).left - len(CURRENT_MARK), 0)) if self.has_focus else None
        shown[current] = _marked(shown[current])
        return Frame(tuple(shown), cursor, clicks=ClickMap(hits=tuple(hits)))

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """Return all values."""
        return [row for label, value in self.entries for row in value_rows(label, value, self.gutter, columns)]

    def _rows(self, columns: int) -> tuple[list[Row], list[int]]:
        """Return all rows, and the entry that each belongs to."""
        made: list[Row] = []
        indexes: list[int] = []
        for at, (label, value) in enumerate(self.entries):
            shown = value_rows(label, value, self.gutter, columns)
            if at == self.at:
                shown = [_reversed(row) for row in shown]
            made += shown
            indexes += [at] * len(shown)
        left = self._area(columns).left
        said = cut(self.question or tell("Everything is right: accept"), max(columns - left, 1))
        made.append(((" " * left, ""), (said, "current" if self.at == len(self.entries) else "")))
        return made, [*indexes, len(self.entries)]

    def _area(self, columns: int) -> FieldArea:
        """Return where the values are."""
        return field_area(self.gutter, columns, margin=0)

    def foot(self) -> str:
        """Return what the keys do."""
        return tell(self.FOOT if self.at == len(self.entries) else self.FOOT_AT_VALUE)

    def go(self, at: int) -> None:
        """Make another row the current one; after the last comes the first."""
        self.at = at % (len(self.entries) + 1)

    def up(self) -> None:
        """To the row above."""
        self.go(self.at - 1)

    def down(self) -> None:
        """To the row below."""
        self.go(self.at + 1)

    def first(self) -> None:
        """To the first value."""
        self.go(0)

    def last(self) -> None:
        """To the row that goes on."""
        self.go(-1)

    def enter(self) -> None:
        """Go on, or change the value."""
        self.outcome = Answered(None if self.at == len(self.entries) else self.at)

    def end(self) -> None:
        """Nothing: whether the values are right is to be said."""

    CHOOSES = True
    LAYERS = ("menu", "summary")
    ACTIONS: ClassVar[dict[str, str]] = {
        **QUESTION_ACTIONS,
        **dict.fromkeys(("move-up", "recall-older"), "up"),
        **dict.fromkeys(("move-down", "recall-newer"), "down"),
        **dict.fromkeys(("move-text-start", "move-line-start"), "first"),
        **dict.fromkeys(("move-text-end", "move-line-end"), "last"),
        **dict.fromkeys(("accept", "accept-if-whole", "accept-unless-whole"), "enter"),
    }


def _reversed(row: Row) -> Row:
    """Return the row with its value in reverse."""
    return tuple([(text, role if role == "label" or not text.strip() else "current") for text, role in row])


def _marked(row: Row) -> Row:
    """Return the row with a mark before its value, which is its last part."""
    return (*marked_gutter(row[:-1]), row[-1])
