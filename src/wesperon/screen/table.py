"""Tables: the one printer of everything that is in columns, from results to help pages to cards.

A table is rows of styled text, as a frame has them; who prints it, turns them into text. Two forms:

:func:`columns`    a heading and rows; each column as wide as it must be. If there is no room for that, the texts of
                   the widest ones are wrapped; if these would be too narrow to read, each row becomes entries
:func:`entries`    names right-aligned in a gutter, a wrapped text beside each, or below it if there is no room beside
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.frame import row_text
from wesperon.screen.width import cut, width, wrap

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.screen.frame import Row

#: Columns of the terminal between two of a table, and the fewest in which the texts of a column are wrapped.
BETWEEN, NARROWEST = 2, 14
#: Before a name, and before a text below its name.
MARGIN, INDENT = 2, 6


class Column(Frozen):
    """One column of a table: its heading, whether it is right-aligned, and the role of its cells."""

    heading: str = ""
    right: bool = False
    role: str = ""


def columns(of: Sequence[Column], cells: Sequence[Sequence[str]], limit: int | None = None) -> list[Row]:
    """Return the rows of a table with a heading, if any column has one.

    ``cells`` are one text for each column, row by row.

    ``limit`` is the width of the terminal; ``None`` means that any width will do. The last column is not filled up.
    """
    headings = [column.heading for column in of]
    lines = [headings, *cells] if any(headings) else list(cells)
    widths = [max((width(line[at]) for line in lines), default=0) for at in range(len(of))]
    if limit is not None and not _narrowed(widths, limit) and any(headings):
        return _apart(headings, cells, limit)
    made: list[Row] = []
    for number, line in enumerate(lines):
        wrapped = [wrap(text, room) if width(text) > room else [text] for text, room in zip(line, widths, strict=True)]
        for deep in range(max(map(len, wrapped), default=0)):
            row: list[tuple[str, str]] = []
            for at, (column, texts) in enumerate(zip(of, wrapped, strict=True)):
                text = texts[deep] if deep < len(texts) else ""
                gap = [(" " * (widths[at] - width(text)), "")]
                shown = [(text, "title" if number == 0 and any(headings) else column.role)]
                row += [(" " * BETWEEN, "")] if at else []
                row += gap + shown if column.right else shown + gap
            made.append(_stripped([span for span in row if span[0]]))
    return made


def _narrowed(widths: list[int], limit: int) -> bool:
    """Take columns from the widest until all fit. Return False if these would be too narrow to read."""
    surplus = sum(widths) + BETWEEN * (len(widths) - 1) - limit
    while surplus > 0:
        at = widths.index(max(widths))
        if widths[at] <= NARROWEST:
            return False
        others = sorted(widths)[-2] if len(widths) > 1 else 0
        taken = min(surplus, max(widths[at] - max(others, NARROWEST), 1))
        widths[at] -= taken
        surplus -= taken
    return True


def _apart(headings: Sequence[str], cells: Sequence[Sequence[str]], limit: int) -> list[Row]:
    """Return each row of a table as entries, an empty line between two."""
    made: list[Row] = []
    gutter = max(map(width, headings)) + MARGIN
    for line in cells:
        filled = [(heading, text) for heading, text in zip(headings, line, strict=True) if text]
        made += [*([()] if made else []), *entries(filled, limit, gutter=gutter)]
    return made


def entries(
    pairs: Sequence[tuple[str, str]],
    limit: int,
    *,
    gutter: int | None = None,
    most: int | None = None,
    role: str = "",
) -> list[Row]:
    """Names right-aligned in a gutter, the texts beside them, wrapped; below them if there is no room.

    ``gutter`` is the width of the gutter, margin included; ``None``: that of the widest name. ``most`` is the number of
    rows that one text may have; what is beyond it is cut. ``role`` is that of the texts.
    """
    widest = max((width(name) for name, _ in pairs), default=0)
    gutter = widest + MARGIN if gutter is None else gutter
    stacked = gutter + BETWEEN > limit // 2
    left = INDENT if stacked else gutter + BETWEEN
    made: list[Row] = []
    for name, text in pairs:
        texts = _limited(wrap(text, limit - left), most, limit - left)
        if stacked:
            made.append(((" " * MARGIN, ""), (cut(name, limit - MARGIN), "label")))
            made += [((" " * INDENT, ""), (line, role)) for line in texts]
            continue
        first, *others = texts
        gap = " " * (gutter - width(name))
        made.append(_stripped([(gap, ""), (name, "label"), (" " * BETWEEN, ""), (first, role)]))
        made += [((" " * left, ""), (line, role)) for line in others]
    return made


def _limited(lines: list[str], most: int | None, columns: int) -> list[str]:
    if most is None or len(lines) <= most:
        return lines
    return [*lines[: most - 1], cut(lines[most - 1] + "....", columns)]


def _stripped(row: list[tuple[str, str]]) -> Row:
    """Return the row without blanks at its end."""
    while row and not row[-1][0].strip():
        row.pop()
    if row:
        row[-1] = (row[-1][0].rstrip(), row[-1][1])
    return tuple(row)


def texts(rows: Sequence[Row]) -> list[str]:
    """Return the rows as plain text."""
    return [row_text(row).rstrip() for row in rows]
