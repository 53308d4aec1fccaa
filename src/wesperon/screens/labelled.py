"""What is around the value of a field: its label, in a gutter that it shares with its neighbours, and what is wrong."""

from __future__ import annotations

from wesperon.screen.frame import row_text
from wesperon.screen.layout import BETWEEN, wrap_limited
from wesperon.screen.width import cut, width
from wesperon.widgets.parts.around import Around
from wesperon.widgets.parts.boxes import Boxes

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.screen.frame import Row
    from wesperon.values import Complaint

#: The least columns that a reason takes beside a value, where it has no row of its own.
LEAST_BESIDE = 5
#: What is after a value whose list is closed.
CLOSED_MARK = " ..."


class Labelled(Around):
    """A part with a label beside its value, or above it where there is little room."""

    label = ""

    def __init__(self, **place: Any) -> None:
        super().__init__(**place)
        #: The gutter, for the parts that there were when it was found.
        self._found_gutter: tuple[object, int, int] = (self, 0, 0)

    @property
    def gutter(self) -> int:
        """The width of the gutter that the labels of the fields around it share."""
        group = self.parent
        beside = group.parts if isinstance(group, Boxes) and group.down else [self]
        if self._found_gutter[0] is not group or self._found_gutter[1] != len(beside):
            self._found_gutter = (
                group, len(beside), max(width(one.label) for one in beside if isinstance(one, Labelled)),
            )  # fmt: skip
        return self._found_gutter[2]

    def left(self, columns: int) -> int:
        """Return the column of the value; 0 if the label is above it."""
        left = self.gutter + BETWEEN
        return left if left <= columns // 2 else 0

    def rows_of_reason(self, problem: Complaint | None, columns: int, most: int) -> list[Row]:
        """Return what is wrong, below the value, in at most so many rows."""
        left = self.left(columns)
        if problem is None or most < 1:
            return []
        said = wrap_limited(problem.reason, max(columns - left, 1))
        if len(said) > most:
            said = [*said[: most - 1], cut(f"{said[most - 1]}....", max(columns - left, 1))]
        return [((" " * left, ""), (row, "reason")) for row in said]

    def label_row(self, columns: int) -> Row:
        """Return the label above the value."""
        return self._marked(cut(self.label, columns))

    def in_gutter(self, rows: Sequence[Row], columns: int) -> list[Row]:
        """Return the rows of the value, with the label beside the first of them."""
        left = self.left(columns)
        if not left:
            return list(rows)
        label = cut(self.label, left - BETWEEN)
        first = ((" " * (left - BETWEEN - width(label)), ""), *self._marked(label), (" " * BETWEEN, ""))
        return [(*(((" " * left, ""),) if at else first), *row) for at, row in enumerate(rows)]

    def _marked(self, label: str) -> Row:
        """Return the label, with the letter underlined that goes to it."""
        role = "current" if self.has_focus else "label"
        letter = self.host.letter_of(self) if self.host is not None else ""
        at = label.lower().find(letter) if letter else -1
        if at < 0:
            return ((label, role),)
        marked = "current-match" if self.has_focus else "letter"
        return tuple([one for one in ((label[:at], role), (label[at], marked), (label[at + 1 :], role)) if one[0]])


def beside(row: Row, problem: Complaint, columns: int) -> Row:
    """Return a row with what is wrong at its end, as far as there is room for it."""
    room = columns - width(row_text(row)) - BETWEEN
    return (*row, (" " * BETWEEN, ""), (cut(problem.reason, room), "reason")) if room >= LEAST_BESIDE else row
