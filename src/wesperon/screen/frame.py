"""Frames: what a widget shows, as rows of styled text with a place for the cursor.

A row is a tuple of spans, a span a text and its role. Frames are compared row by row before anything is drawn, so
rows that did not change cost one comparison.
"""

from __future__ import annotations

from wesperon.editing.graphemes import clusters
from wesperon.editing.keys.events import Mouse
from wesperon.frozen import Frozen
from wesperon.screen.width import head, width
from wesperon.text.escape import is_plain, visible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Protocol

    class Clicks(Protocol):
        """What a click on a frame hits: one box (``ClickMap``), or several (``overlay.Regions``)."""

        def moved(self, rows: int, columns: int) -> Clicks:
            """Return the same for a frame in which everything is further down and to the right."""

        def aimed(self, event: Mouse) -> Mouse:
            """Return the event as the widget of the box gets it."""


#: A text without control characters, and the role that it has in the look.
Span = tuple[str, str]
Row = tuple[Span, ...]
#: One column of a row: a cluster and its role; the second column of a wide cluster holds an empty text.
Cell = tuple[str, str]


#: What lines and bars are drawn of, one column each.
DRAWN = " ▁▂▃▄▅▆▇█▏▎▍▌▋▊▉─│┌┐└┘├┤┬┴┼"


class ClickMap(Frozen):
    """What a click on a frame hits: the place of the box whose widget takes it, and what is in each row of that.

    A click means what was to be seen when the mouse was pressed, so it is looked up in the frame that was drawn last.
    """

    row: int = 0
    column: int = 0
    hits: tuple[object, ...] = ()

    def moved(self, rows: int, columns: int) -> ClickMap:
        """Return the map for a frame in which the box is further down and to the right."""
        return ClickMap(self.row + rows, self.column + columns, self.hits)

    def aimed(self, event: Mouse) -> Mouse:
        """Return the event as the widget of the box gets it."""
        row, column = event.row - self.row, event.column - self.column
        hit = self.hits[row] if 0 <= row < len(self.hits) else None
        return Mouse(event.name, event.action, row, column, hit)


#: The map of a box that begins where the frame does, and whose rows are one thing.
WHOLE_BOX = ClickMap()


class Frame(Frozen):
    """What is shown: rows from the top, and the cursor as row and column from 0, or ``None`` to hide it.

    ``shape`` is how the cursor looks: ``block``, ``underline`` or ``bar``; empty for the terminal's own. ``current``
    is the row of a list that is current, which is marked in the gutter beside it; ``None`` if no row is. ``clicks``
    says what a click hits.
    """

    rows: tuple[Row, ...]
    cursor: tuple[int, int] | None = None
    shape: str = ""
    current: int | None = None
    clicks: Clicks = WHOLE_BOX

    def text(self) -> str:
        """Return the frame as plain text, blanks at the ends of rows taken off."""
        return "\n".join(row_text(row).rstrip() for row in self.rows)


def above(*frames: Frame) -> Frame:
    """Return the frames one above the other; the cursor is that of the last one that has one."""
    rows: tuple[Row, ...] = ()
    cursor, shape = None, ""
    for frame in frames:
        if frame.cursor is not None:
            cursor, shape = (len(rows) + frame.cursor[0], frame.cursor[1]), frame.shape
        rows += frame.rows
    return Frame(rows, cursor, shape)


def beside(*frames: tuple[Frame, int]) -> Frame:
    """Return the frames side by side, each in its number of columns; the cursor is that of the last frame that has one.

    Rows that are shorter are filled with blanks, longer ones are cut.
    """
    height = max((len(frame.rows) for frame, _ in frames), default=0)
    rows: list[Row] = [()] * height
    cursor, shape, left = None, "", 0
    for frame, columns in frames:
        if frame.cursor is not None:
            cursor, shape = (frame.cursor[0], left + frame.cursor[1]), frame.shape
        for number in range(height):
            row = frame.rows[number] if number < len(frame.rows) else ()
            rows[number] = (*rows[number], *fitted(row, columns))
        left += columns
    return Frame(tuple(rows), cursor, shape)


def fitted(row: Row, columns: int) -> Row:
    """Return the row, cut or filled with blanks to exactly this width."""
    used = sum([len(text) if text.isascii() else width(text) for text, _ in row])
    if used <= columns:
        return (*row, (" " * (columns - used), "")) if used < columns else row
    kept: list[Span] = []
    left = columns
    for text, role in row:
        piece = head(text, left)
        if piece:
            kept.append((piece, role))
        left -= width(piece)
        if piece != text:
            break
    return (*kept, (" " * left, "")) if left else tuple(kept)


def row_text(row: Row) -> str:
    """Return the text of a row without its roles."""
    return "".join([text for text, _ in row])


def shared_columns(old: Row, new: Row) -> int:
    """Return how many columns at the beginning of two rows are certainly equal: those of printable ASCII, one by one.

    The last of them is left out, since what follows it may be a mark on it.
    """
    columns = 0
    for (before, role), (text, other) in zip(old, new, strict=False):
        if role != other or not (is_plain(before) and is_plain(text)):
            break
        if before != text:
            short = before if len(before) < len(text) else text
            if before.startswith(short) and text.startswith(short):
                columns += len(short)
            else:
                columns += next(at for at, char in enumerate(short) if before[at] != text[at])
            break
        columns += len(text)
    return max(columns - 1, 0)


def from_column(row: Row, column: int) -> Row:
    """Return the row from a column on; what is before it is one character for each column."""
    for number, (text, role) in enumerate(row):
        if column < len(text):
            return ((text[column:], role), *row[number + 1 :])
        column -= len(text)
    return ()


def with_text(row: Row, column: int, text: str) -> Row | None:
    """Return the row with a text at a column, in the place of blanks without a role; None if there are others."""
    for number, (before, role) in enumerate(row):
        wide = width(before)
        if column < wide:
            after = before[column + len(text) :]
            if role or not before.isascii() or before[column:].lstrip(" ") != after.lstrip(" "):
                return None
            made = before[:column] + text + after
            return (*row[:number], (made, ""), *row[number + 1 :]) if len(made) == wide else None
        column -= wide
    return (*row, (text, "")) if column == 0 else None


def cells(row: Row, columns: int) -> list[Cell]:
    """Return the row column by column, cut off at the width of the terminal."""
    made: list[Cell] = []
    for text, role in row:
        if text.isascii() or not text.strip(DRAWN):
            shown = text if text.isprintable() else visible(text)
            made.extend(zip(shown, [role] * len(shown), strict=True))
            continue
        for cluster in clusters(visible(text)):
            columns_taken = width(cluster)
            if columns_taken == 0 and made:
                at = -2 if made[-1][0] == "" and len(made) > 1 else -1
                made[at] = (made[at][0] + cluster, made[at][1])
                continue
            made.append((cluster, role) if columns_taken else (" " + cluster, role))
            made.extend([("", role)] * (columns_taken - 1))
    if len(made) > columns:
        whole = made[columns][0] != ""
        del made[columns:]
        while made and not whole:  # a wide cluster does not fit by half
            whole = made[-1][0] != ""
            made[-1:] = []
    return made
