"""The layout of a card: labels right-aligned in a gutter, values in the column beside it.

On a narrow terminal there is no room for a gutter: the label then is in a row of its own, the value below it.
"""

from __future__ import annotations

from wesperon.frozen import Frozen, later, remembered
from wesperon.screen.frame import row_text
from wesperon.screen.width import cut, width

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

    from wesperon.screen import line_wrap
    from wesperon.screen.frame import Row
else:
    line_wrap = later("wesperon.screen.line_wrap")

#: Columns before the gutter, between gutter and value, and before a value that is below its label.
MARGIN, BETWEEN, INDENT = 2, 2, 2
#: What is in the gutter beside the current row of a list.
CURRENT_MARK = ": "
#: Narrower than this, labels are above their values.
NARROW = 40


class FieldArea(Frozen):
    """Where values are on a terminal of a certain width."""

    stacked: bool
    left: int
    width: int


@remembered(64)
def field_area(gutter: int, columns: int, margin: int = MARGIN) -> FieldArea:
    """Return where values are beside a gutter of this width; one column at the right edge stays free for the cursor.

    Without a gutter, values begin after the margin.
    """
    if not gutter:
        left = margin if columns >= NARROW else 0
        return FieldArea(False, left, max(columns - left - (margin > 0), 1))
    left = margin + gutter + BETWEEN
    if columns < NARROW or left > columns // 2:
        left = INDENT if columns > 3 * INDENT else 0
        return FieldArea(True, left, max(columns - left - 1, 1))
    return FieldArea(False, left, columns - left - 1)


def gutter_for(labels: Iterable[str], least: int = 0) -> int:
    """Return the width of the gutter that holds these labels, at least ``least``."""
    return max([width(label) for label in labels] + [least])


def labelled(label: str, gutter: int, rows: list[Row], columns: int, margin: int = MARGIN) -> list[Row]:
    """Return the rows of a value with its label beside the first of them, or above."""
    where = field_area(gutter, columns, margin)
    indent = (" " * where.left, "")
    if not label:
        return [(indent, *row) for row in rows]
    if where.stacked:
        return [((cut(label, max(columns - 1, 1)), "label"),), *[(indent, *row) for row in rows]]
    before = before_value(label, gutter, margin)
    if not rows:
        return [before]
    first = (*before, *rows[0])
    return [first, *[(indent, *row) for row in rows[1:]]] if len(rows) > 1 else [first]


def marked_gutter(gutter: Row) -> Row:
    """Return what is before a value, with the mark of the current row; as it is if there are no two columns for it.

    A character marks the row too, since a screen reader does not speak of reverse video.
    """
    text, role = gutter[-1] if gutter else ("", "")
    if len(text) < len(CURRENT_MARK) or not text.isspace():
        return gutter
    return (*gutter[:-1], (text[: -len(CURRENT_MARK)] + CURRENT_MARK, role))


@remembered(64)
def before_value(label: str, gutter: int, margin: int = MARGIN) -> Row:
    """Return the label in its gutter, and what is between it and the value."""
    text = cut(label, gutter)
    return ((" " * (margin + gutter - width(text)) + text, "label"), (" " * BETWEEN, ""))


def value_rows(label: str, value: str, gutter: int, columns: int) -> list[Row]:
    """Return a label with a finished value, in a box that has its own margin around it."""
    return field(label, value, gutter, columns, margin=0)


def field(label: str, value: str, gutter: int, columns: int, most: int = 4, margin: int = MARGIN) -> list[Row]:
    """Return a label with a finished value, wrapped, in at most ``most`` rows."""
    where = field_area(gutter, columns, margin)
    rows, _ = line_wrap.spread(value[: most * where.width + 1], where.width)
    if len(rows) > most:
        rows = [*rows[: most - 1], ((cut(f"{row_text(rows[most - 1])}....", where.width), ""),)]
    return labelled(label, gutter, rows, columns, margin)
