"""What is selected in visual mode: characters, whole lines, or a block of columns."""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after, clusters, columns_of
from wesperon.frozen import Frozen

#: What may be selected.
CHARS, LINES, BLOCK = "chars", "lines", "block"


class Shape(Frozen):
    """How large a selection is, to act on as much elsewhere: lines, and the columns of the last, or of a block.

    ``columns`` are None for those up to the ends of lines.
    """

    sort: str
    lines: int
    columns: int | None


class Selection:
    """A selection from an ``anchor`` to the cursor; a block may go to the ends of its lines."""

    def __init__(self, anchor: int, sort: str) -> None:
        self.anchor = anchor
        self.sort = sort
        self.to_ends = False

    def ends(self, cursor: int) -> tuple[int, int]:
        """Its first and its last place."""
        return min(self.anchor, cursor), max(self.anchor, cursor)

    def spans(self, text: str, cursor: int) -> list[tuple[int, int]]:
        """Return the offsets between which it is; of a block, those of each row."""
        start, last = self.ends(cursor)
        if self.sort == LINES:
            return [(line_start(text, start), line_end(text, last))]
        if self.sort == CHARS:
            return [(start, min(after(text, last), len(text)))]
        return rows_between(text, line_start(text, start), line_end(text, last), *self.columns(text, cursor))

    def columns(self, text: str, cursor: int) -> tuple[int, int | None]:
        """Return the first column of a block and the one after its last; None if it goes to the ends of the lines."""
        one, other = (column_of(text, at) for at in (self.anchor, cursor))
        widths = [
            columns_of(text[at : after(text, at)]) if at < line_end(text, at) else 1 for at in (self.anchor, cursor)
        ]
        return min(one, other), None if self.to_ends else max(one + widths[0], other + widths[1])

    def shape(self, text: str, cursor: int) -> Shape:
        """Return how large it is."""
        start, last = self.ends(cursor)
        lines = text.count("\n", start, last) + 1
        if self.sort == BLOCK:
            left, right = self.columns(text, cursor)
            return Shape(BLOCK, lines, None if right is None else right - left)
        end = column_of(text, last) + 1
        return Shape(self.sort, lines, end if lines > 1 else end - column_of(text, start))


def column_of(text: str, at: int) -> int:
    """Return the column of an offset in its line."""
    return columns_of(text[line_start(text, at) : at])


def at_column(text: str, start: int, column: int) -> int:
    """Return the offset in the line that begins at ``start`` of what is in a column.

    Return the end of the line if it is shorter.
    """
    used, at = 0, start
    for cluster in clusters(text[start : line_end(text, start)]):
        used += columns_of(cluster)
        if used > column:
            return at
        at += len(cluster)
    return at


def rows_between(text: str, start: int, end: int, left: int, right: int | None) -> list[tuple[int, int]]:
    """In each line between two offsets, the offsets of what is in some columns."""
    rows = []
    while True:
        first, last = line_start(text, start), line_end(text, start)
        rows.append((at_column(text, first, left), last if right is None else at_column(text, first, right)))
        if last >= end:
            return rows
        start = last + 1


def of_shape(text: str, cursor: int, shape: Shape) -> tuple[Selection, int]:
    """Return a selection of a shape from the cursor on, and where its last place is."""
    selection, first = Selection(cursor, shape.sort), line_start(text, cursor)
    for _ in range(shape.lines - 1):
        if line_end(text, first) == len(text):
            break
        first = line_end(text, first) + 1
    column = column_of(text, cursor)
    if shape.sort == BLOCK:
        selection.to_ends = shape.columns is None
        column += (shape.columns or 1) - 1
    elif shape.columns is not None:
        column = shape.columns - 1 if shape.lines > 1 else column + shape.columns - 1
    return selection, at_column(text, first, max(column, 0))
