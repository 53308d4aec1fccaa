"""What is shown of a text of several lines: all of it, or as much as there is room for; pairs in two columns."""

from __future__ import annotations

from wesperon.editing.line_index import LineIndex
from wesperon.screen.line_wrap import spread
from wesperon.screen.width import cut
from wesperon.text.messages import tell
from wesperon.widgets.line_view import LineView

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any

    from wesperon.editing.text_state import TextState
    from wesperon.screen.frame import Row
    from wesperon.screen.line_wrap import Mark

#: The most rows that stay on the screen of an accepted text.
RECORDED = 8
#: Of a text of more lines, only their number is looked at to find its size.
MANY = 200
#: The widest column of names that values are aligned beside, and what is shown between the two for a ``=``.
WIDEST, BETWEEN = 24, " = "


class SeveralLinesView(LineView):
    """Draws the lines of a text one below the other."""

    most_rows = 1_000_000
    has_tabs = True

    def __init__(self, syntax: Any = None) -> None:
        super().__init__(syntax)
        self.index: LineIndex = LineIndex()

    def lines(self, text: str) -> list[str]:
        """See ``LineView``."""
        self.index.replace(text)
        return self.index.lines

    def line_and_offset(self, at: int) -> tuple[int, int]:
        """See ``LineView``."""
        return self.index.line_of(min(at, len(self.index.text)))

    def offset(self, line: int, offset: int) -> int:
        """See ``LineView``."""
        lines = self.index.lines
        if line >= len(lines):  # the text has changed since it was shown
            return len(self.index.text)
        return sum(len(one) + 1 for one in lines[:line]) + min(offset, len(lines[line]))

    def count(self, shown: TextState, spans: Callable[[], Sequence[Mark]], trail: str, columns: int) -> int:
        """Return the rows that the whole text would have; of a long one, the number of its lines."""
        lines = self.lines(shown.text)
        if len(lines) > MANY:
            return len(lines)
        return sum(-(-(2 * len(line) if not line.isascii() else len(line) + 1) // columns) or 1 for line in lines)

    def record(self, text: str, columns: int) -> list[Row]:
        """Return the first rows of an accepted text, and how many more lines there are."""
        rows: list[Row] = []
        lines = text.rstrip("\n").split("\n")
        coloured = self.marks_of(text)
        for number, line in enumerate(lines):
            rows.extend(spread(line[: RECORDED * columns], columns, coloured(number), tabs=True)[0])
            if len(rows) > RECORDED or (len(rows) == RECORDED and number + 1 < len(lines)):
                more = len(lines) - number
                rest = tell("... {count} more lines", count=more) if more > 1 else "..."
                return [*rows[: RECORDED - 1], ((cut(rest, columns), "note"),)]
        return rows


class PairsView(SeveralLinesView):
    """Draws name-value pairs in two columns, as long as there are several and not very many."""

    def lines(self, text: str) -> list[str]:
        """See ``LineView``."""
        lines = super().lines(text)
        if not self._is_aligned:
            return lines
        column = self._column()
        parts = [line.partition("=") for line in lines]
        return [name.ljust(column) + BETWEEN + value if sign else name for name, sign, value in parts]

    def line_and_offset(self, at: int) -> tuple[int, int]:
        """See ``LineView``."""
        line, offset = super().line_and_offset(at)
        if self._is_aligned:
            name = self.index.lines[line].find("=")
            if 0 <= name < offset:
                offset += max(self._column() - name, 0) + len(BETWEEN) - 1
        return line, offset

    def offset(self, line: int, offset: int) -> int:
        """See ``LineView``."""
        rows = self.index.lines
        if self._is_aligned and line < len(rows):
            name = rows[line].find("=")
            if 0 <= name < offset:
                offset = max(offset - max(self._column() - name, 0) - len(BETWEEN) + 1, name)
        return super().offset(line, offset)

    @property
    def _is_aligned(self) -> bool:
        return 1 < len(self.index.lines) <= MANY

    def _column(self) -> int:
        """Return the width of the column of names."""
        names = [len(row.partition("=")[0]) for row in self.index.lines if "=" in row]
        return max((name for name in names if name <= WIDEST), default=0)
