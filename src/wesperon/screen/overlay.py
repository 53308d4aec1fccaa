"""One frame over another, as a menu or a dialog is over a screen, or below rows; and what a click hits then."""

from __future__ import annotations

from wesperon.editing.keys.events import Mouse
from wesperon.frozen import Frozen
from wesperon.screen.frame import Cell, Frame, Row, cells
from wesperon.screen.width import width
from wesperon.text.escape import is_plain

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Clicks


class Region(Frozen):
    """A box of a frame: its first row and column, its size, and the map of clicks in it."""

    row: int
    column: int
    rows: int
    columns: int
    clicks: Clicks


class Regions(Frozen):
    """The map of clicks of a frame of several boxes, of which later ones are over earlier ones; see ``ClickMap``.

    A click hits the number of a box, and the event as the widget in it gets it; ``None`` beside all of them.
    """

    regions: tuple[Region, ...]

    def moved(self, rows: int, columns: int) -> Regions:
        """Return the map for a frame in which all boxes are further down and to the right."""
        return Regions(
            tuple(
                [
                    Region(one.row + rows, one.column + columns, one.rows, one.columns, one.clicks)
                    for one in self.regions
                ]
            )
        )

    def aimed(self, event: Mouse) -> Mouse:
        """Return the event as the widget around the boxes gets it."""
        for number in range(len(self.regions) - 1, -1, -1):
            one = self.regions[number]
            row, column = event.row - one.row, event.column - one.column
            if 0 <= row < one.rows and 0 <= column < one.columns:
                inner = one.clicks.aimed(Mouse(event.name, event.action, row, column))
                return Mouse(event.name, event.action, event.row, event.column, (number, inner))
        return event


def overlay(below: Frame, above: Frame, row: int, column: int, columns: int, *, is_cut_out: bool = False) -> Frame:
    """Return a frame with another one, ``columns`` wide, over it, whose first row and column are at this place.

    The cursor is that of the upper frame, or none: what is below has no focus. The upper one takes every click. If it
    ``is_cut_out``, what is below is seen at the left of the upper rows, where these begin with blanks, and at their
    right, where they end.
    """
    rows = list(below.rows)
    rows += [()] * max(row + len(above.rows) - len(rows), 0)
    for at, over in enumerate(above.rows, row):
        first, last = (_blanks_before(over), min(_columns_of(over), columns)) if is_cut_out else (0, columns)
        if first >= last:
            continue
        under, end = rows[at], column + last
        left, right = clipped(under, 0, column + first), clipped(under, end, max(_columns_of(under) - end, 0))
        rows[at] = (*left, *clipped(over, first, last - first), *right)
    cursor = None if above.cursor is None else (above.cursor[0] + row, above.cursor[1] + column)
    clicks = Regions((Region(row, column, len(above.rows), columns, above.clicks),))
    return Frame(tuple(rows), cursor, above.shape, clicks=clicks)


def clipped(row: Row, first: int, columns: int) -> Row:
    """Return so many columns of a row from one on, filled with blanks; half a wide character is a blank."""
    if not all(is_plain(text) for text, _ in row):
        return _piece(cells(row, first + columns + 2), first, first + columns)
    made: list[tuple[str, str]] = []
    at, end = 0, first + columns
    for text, role in row:  # each character is a column
        if at >= end:
            break
        if (piece := text[max(first - at, 0) : end - at]) and at + len(text) > first:
            made.append((piece, role))
        at += len(text)
    if at < end and columns:
        made.append((" " * (end - max(at, first)), ""))
    return tuple(made)


def _blanks_before(row: Row) -> int:
    """Return with how many blanks a row begins that nothing draws."""
    found = 0
    for text, role in row:
        rest = text if role else text.lstrip(" ")
        found += len(text) - len(rest)
        if rest:
            break
    return found


def _columns_of(row: Row) -> int:
    """Return how many columns a row takes."""
    return sum([width(text) for text, _ in row])


def _piece(line: list[Cell], first: int, last: int) -> Row:
    """Return the columns of a row from ``first`` up to ``last``, filled with blanks.

    Half a wide character is a blank.
    """
    made: list[tuple[str, str]] = []
    for at in range(first, last):
        text, role = line[at] if at < len(line) else (" ", "")
        if not text:
            text = "" if at > first else " "  # the second half of what is before it, or of what was cut off
        elif at + 1 == last and at + 1 < len(line) and not line[at + 1][0]:
            text = " "
        if made and made[-1][1] == role:
            made[-1] = made[-1][0] + text, role
        else:
            made.append((text, role))
    return tuple([span for span in made if span[0]])


def with_rows_above(work: tuple[Row, ...], frame: Frame, rows: int) -> Frame:
    """Return a frame with rows of long ``work`` above it, as many as there is room for."""
    room = rows - len(frame.rows)
    work = work[: max(room, 0)]
    cursor = frame.cursor and (frame.cursor[0] + len(work), frame.cursor[1])
    current = None if frame.current is None else frame.current + len(work)
    return Frame((*work, *frame.rows), cursor, frame.shape, current, frame.clicks.moved(len(work), 0))
