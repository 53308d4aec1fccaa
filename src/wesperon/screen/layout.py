"""The layout of a card: labels right-aligned in a gutter, values in the column beside it.

On a narrow terminal there is no room for a gutter: the label then stands in a row of its own, the value below it.
"""

from __future__ import annotations

from wesperon.core.frozen import frozen
from wesperon.core.visible import is_plain, shown
from wesperon.editing.clusters import clusters
from wesperon.screen.frame import row_text
from wesperon.screen.width import cut, head, width

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

    from wesperon.screen.frame import Row

#: Columns before the gutter, between gutter and value, and before a value that stands below its label.
MARGIN, BETWEEN, INDENT = 2, 2, 2
#: Narrower than this, labels stand above their values.
NARROW = 40


@frozen
class Place:
    """Where values stand on a terminal of a certain width."""

    stacked: bool
    left: int
    width: int


def place(gutter: int, columns: int) -> Place:
    """Where values stand beside a gutter of this width; one column at the right edge stays free for the cursor."""
    left = MARGIN + gutter + BETWEEN
    if columns < NARROW or left > columns // 2:
        left = INDENT if columns > 3 * INDENT else 0
        return Place(True, left, max(columns - left - 1, 1))
    return Place(False, left, columns - left - 1)


def gutter_for(labels: Iterable[str]) -> int:
    """The width of the gutter that holds these labels."""
    return max((width(label) for label in labels), default=0)


def labelled(label: str, gutter: int, rows: list[Row], columns: int) -> list[Row]:
    """The rows of a value with its label beside the first of them, or above."""
    where = place(gutter, columns)
    indent = (" " * where.left, "")
    if where.stacked:
        return [((cut(label, max(columns - 1, 1)), "label"),), *[(indent, *row) for row in rows]]
    text = cut(label, gutter)
    beside = (" " * (MARGIN + gutter - width(text)) + text, "label")
    first = (beside, (" " * BETWEEN, ""), *(rows[0] if rows else ()))
    return [first, *[(indent, *row) for row in rows[1:]]]


def field(label: str, value: str, gutter: int, columns: int, most: int = 4) -> list[Row]:
    """A label with a finished value, wrapped, in at most so many rows."""
    where = place(gutter, columns)
    rows, _ = spread(value[: most * where.width + 1], None, where.width)
    if len(rows) > most:
        rows = [*rows[: most - 1], ((cut(f"{row_text(rows[most - 1])}....", where.width), ""),)]
    return labelled(label, gutter, rows, columns)


def spread(
    text: str,
    cursor: int | None,
    columns: int,
    role: str = "",
    fault: tuple[int, int] = (0, 0),
) -> tuple[list[Row], tuple[int, int]]:
    """A text being edited, in rows of so many columns, and the row and column of the cursor in them.

    Characters that would act on the terminal appear in their visible form. The characters from ``fault[0]`` to
    ``fault[1]`` have the role of a fault; a fault behind the end of the text is shown as one blank.
    """
    if fault[0] >= len(text) and fault[1] > fault[0]:
        text += " "
    if is_plain(text):
        rows = [
            _roles(text[start : start + columns], start, role, fault) for start in range(0, max(len(text), 1), columns)
        ]
        at = 0 if cursor is None else min(cursor // columns, len(rows) - 1)
        return rows, (at, (cursor or 0) - at * columns)
    return _spread_clusters(text, cursor, columns, role, fault)


def _roles(text: str, start: int, role: str, fault: tuple[int, int]) -> Row:
    """A stretch of plain text that begins at an offset, with the part at fault set apart."""
    first = min(max(fault[0] - start, 0), len(text))
    last = min(max(fault[1] - start, first), len(text))
    parts = ((text[:first], role), (text[first:last], "fault"), (text[last:], role))
    return tuple([part for part in parts if part[0]])


def _spread_clusters(
    text: str, cursor: int | None, columns: int, role: str, fault: tuple[int, int]
) -> tuple[list[Row], tuple[int, int]]:
    rows: list[list[tuple[str, str]]] = [[]]
    used = offset = 0
    at = (0, 0)
    for cluster in clusters(text):
        seen = head("".join([shown(char) for char in cluster]), columns) or " "
        taken = max(width(seen), 1)
        if used + taken > columns:
            rows.append([])
            used = 0
        if cursor is not None and offset <= cursor:
            at = (len(rows) - 1, used if offset == cursor else used + taken)
        rows[-1].append((seen, "fault" if fault[0] <= offset < fault[1] else role))
        used += taken
        offset += len(cluster)
    return [_joined(row) for row in rows], at


def _joined(parts: list[tuple[str, str]]) -> Row:
    """The row with neighbours of one role made one span."""
    joined: list[tuple[str, str]] = []
    for text, role in parts:
        if joined and joined[-1][1] == role:
            joined[-1] = (joined[-1][0] + text, role)
        else:
            joined.append((text, role))
    return tuple(joined)
