"""The layout of a card: labels right-aligned in a gutter, values in the column beside it.

On a narrow terminal there is no room for a gutter: the label then is in a row of its own, the value below it. Under
them are sentences in rows, candidates in columns, and what the keys do.
"""

from __future__ import annotations

from wesperon.frozen import Frozen, later, remembered
from wesperon.screen.frame import row_text
from wesperon.screen.width import cut, width, wrap
from wesperon.text.escape import visible

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
#: The most rows of what is said about a text.
MOST_SAID = 4


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


# Under a value that is asked for --------------------------------------------------------------------------------------


def wrap_limited(text: str, columns: int) -> list[str]:
    """Return a sentence wrapped into a few rows; no row if it is empty."""
    if not text:
        return []
    rows = wrap(text[: MOST_SAID * columns + 1], columns)
    return rows if len(rows) <= MOST_SAID else [*rows[: MOST_SAID - 1], cut(rows[MOST_SAID - 1] + "....", columns)]


def in_columns(texts: list[str], columns: int) -> list[str]:
    """Return the texts in rows, aligned in as many columns as fit, to be read downwards."""
    texts = [visible(text) for text in texts]
    cell = max(width(text) for text in texts) + 2
    across = max((columns + 2) // cell, 1)
    down = -(-len(texts) // across)
    rows = []
    for row in range(down):
        parts = [cut(text, columns) for text in texts[row::down]]
        padded = [part + " " * (cell - width(part)) for part in parts[:-1]] + parts[-1:]
        rows.append("".join(padded))
    return rows


@remembered(64)
def foot_row(keys: str, columns: int, said: str = "", more: str = "", first: int = 1) -> Row:
    """Return what the keys do, further keys, and after them what the value must be, or the position in a list.

    The parts of ``keys`` and ``more`` are three blanks apart, the most needed ones of ``keys`` first: if there is
    no room for all, its ``first`` ones are needed most, then ``said``, the second key, ``more``, and the last of
    ``keys``, which leaves. No part is shown without those that are needed more.
    """
    own, further, room = keys.split("   "), more.split("   ") if more else [], columns - 1
    order = [*own[:-1], *further, own[-1], said] if len(own) > 1 else [*own, *further, said]
    kept: list[str] = []
    for part in filter(None, dict.fromkeys([*own[:first], said, *own[1:2], *further, own[-1], *own[2:]])):
        if kept and width("   ".join([*kept, part])) > room:
            break
        kept.append(part)
    text = "   ".join([part for part in order if part in kept])
    margin = " " * MARGIN if width(text) + MARGIN <= room else ""
    return ((cut(margin + text, room), "foot"),)
