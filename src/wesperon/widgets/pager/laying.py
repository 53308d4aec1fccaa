"""A piece of a text as rows of the screen: broken at the width, or cut there and moved sideways.

Rows are kept, since a text that scrolls by one row shows all the others again.
"""

from __future__ import annotations

from wesperon.editing.graphemes import clusters
from wesperon.frozen import Frozen
from wesperon.screen.frame import row_text
from wesperon.screen.line_wrap import overlay, spread
from wesperon.screen.width import width
from wesperon.text.escape import is_plain
from wesperon.widgets.pager.needle import decoded
from wesperon.widgets.pager.source_colours import taken_out

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Row, Span
    from wesperon.screen.line_wrap import Marks
    from wesperon.screen.theme import Theme
    from wesperon.widgets.pager.needle import Needle
    from wesperon.widgets.pager.pieces import Pieces

#: The most pieces whose rows are kept.
KEPT = 500
#: Wider than any line: nothing is broken.
ENDLESS = 1 << 40


class Laid(Frozen):
    """A piece in rows.

    ``text`` is what it shows, ``rows`` its rows and ``starts`` the offsets in the text at which they begin; ``after``
    is where the next piece begins.
    """

    text: str
    rows: list[Row]
    starts: list[int]
    after: int

    def row_at(self, offset: int) -> int:
        """Return the row that has an offset of the text."""
        return max(sum(start <= offset for start in self.starts) - 1, 0)


class Layout:
    """Lays out the pieces of a text for a screen.

    Attributes:
        columns: the width of the rows
        is_broken: whether lines are broken at the width, or cut there
        left: the columns that are out of sight to the left, where lines are cut
        keeps_colours: whether the renditions in the text are its looks, or characters of it
        needle: what is marked in the text; None if nothing is

    """

    def __init__(self, pieces: Pieces, theme: Theme) -> None:
        self.pieces = pieces
        self.theme = theme
        self.columns = 1
        self.is_broken = True
        self.left = 0
        self.keeps_colours = True
        self.needle: Needle | None = None
        #: The rows of pieces by where these begin; of the last one, which may grow, with the size of the text.
        self._kept: dict[int, tuple[int, Laid]] = {}
        self._kept_for: object = None

    def forget(self) -> None:
        """Lay out everything again: the text has become another one."""
        self._kept.clear()

    def piece(self, start: int) -> Laid:
        """Return the rows of the piece that begins at an offset."""
        kept_for = (self.columns, self.is_broken, self.left, self.keeps_colours, self.needle, self.theme.colours)
        if kept_for != self._kept_for:
            self._kept.clear()
            self._kept_for = kept_for
        known = self._kept.get(start)
        size = len(self.pieces.data)
        if known is not None and (known[0] < 0 or known[0] == size):
            return known[1]
        end, after = self.pieces.end(start)
        laid = self._laid(self.pieces.data[start:end], after)
        if len(self._kept) >= KEPT:
            self._kept.clear()
        self._kept[start] = -1 if after > end or after < size else size, laid
        return laid

    def show_columns(self, text: str, start: int, end: int) -> None:
        """Move sideways, where lines are cut, so that a part of a line is in sight."""
        before, within = (width(row_text(spread(text[:at], ENDLESS, tabs=True)[0][0])) for at in (start, end))
        if before < self.left + (self.left > 0) or within >= self.left + self.columns:
            self.left = max(before - self.columns // 3, 0) if within >= self.columns else 0

    def _read(self, data: bytes) -> tuple[str, Marks]:
        text = decoded(data)
        return taken_out(text, self.theme) if self.keeps_colours else (text, ())

    def _laid(self, data: bytes, after: int) -> Laid:
        text, marks = self._read(data)
        if self.needle is not None:
            for start, end in self.needle.spans(text):
                marks = overlay(marks, start, end, "match")
        if self.is_broken:
            rows, starts = spread(text, self.columns, marks, tabs=True)
            return Laid(text, rows, starts, after)
        (row,), _ = spread(text, ENDLESS, marks, tabs=True)
        return Laid(text, [in_window(row, self.left, self.columns)], [0], after)


def in_window(row: Row, left: int, columns: int) -> Row:
    """Return the columns of a row that are in sight, with signs at its sides if there is more."""
    total = sum(width(text) for text, _ in row)
    first, last = left + (left > 0), left + columns - (total > left + columns)
    shown: list[Span] = [("<", "note")] if left > 0 and total > 0 else []
    shown += part(row, first, last)
    if total > left + columns:
        used = sum(width(text) for text, _ in shown)
        shown.append((" " * (columns - 1 - used) + ">", "note"))
    return tuple(shown)


def part(row: Row, first: int, last: int) -> list[Span]:
    """Return what a row has between two columns; of a wide character that does not fit, blanks."""
    kept: list[Span] = []
    column = 0
    for text, role in row:
        if column >= last:
            break
        if is_plain(text):
            piece = text[max(first - column, 0) : last - column]
            column += len(text)
        else:
            piece = ""
            for cluster in clusters(text):
                wide = width(cluster)
                if first <= column and column + wide <= last:
                    piece += cluster
                elif column < last and column + wide > first:
                    piece += " " * (min(column + wide, last) - max(column, first))
                column += wide
        if piece:
            kept.append((piece, role))
    return kept
