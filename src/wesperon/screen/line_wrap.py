"""A text being edited, in rows: long lines break at the width, and only the rows in sight are made.

``spread`` breaks one line into rows and tells at which offset each begins; ``column_in`` finds an offset in its row
again, ``offset_in`` a column. A ``WrappedText`` holds which part of a text of many lines is in sight: as long as the
cursor is in it, that part stays. Rows are kept, so that a key costs the line that it changed, whatever the length of
the text.

Marks say which stretches of a line have which role: start, end, role, in order and not overlapping.
"""

from __future__ import annotations

from wesperon.editing.graphemes import clusters, snap_to_grapheme
from wesperon.screen.width import head, width
from wesperon.text.escape import is_plain, shown

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    from wesperon.screen.frame import Row

    Mark = tuple[int, int, str]
    Marks = tuple[Mark, ...]

#: Columns between two tab stops, where tabs are blanks; elsewhere a tab is shown as a control character.
TAB = 8
#: The most lines whose rows are kept.
KEPT = 500
#: Of longer lines only the part around the cursor is put into rows.
LONG = 20_000


def spread(text: str, columns: int, marks: Marks = (), tabs: bool = False) -> tuple[list[Row], list[int]]:
    """Return one line wrapped at ``columns``, and the offsets at which its rows begin; at least one row.

    Characters that would act on the terminal appear in their visible form.
    """
    if not is_plain(text):
        return _spread_clusters(text, columns, marks, tabs)
    starts = list(range(0, max(len(text), 1), columns))
    if not marks:
        return [((text[start : start + columns], ""),) for start in starts], starts
    return [_marked(text, start, min(start + columns, len(text)), marks) for start in starts], starts


def overlay(marks: Marks, start: int, end: int, role: str) -> Marks:
    """Return the marks with one more on top of them."""
    if start >= end:
        return marks
    kept: list[Mark] = []
    for first, last, under in marks:
        if first < start:
            kept.append((first, min(last, start), under))
        if last > end:
            kept.append((max(first, end), last, under))
    return tuple(sorted([*kept, (start, end, role)]))


def column_in(text: str, start: int, cursor: int, columns: int, tabs: bool = False) -> int:
    """Return the column of an offset in the row that begins at ``start``."""
    piece = text[start:cursor]
    if is_plain(piece):
        return len(piece)
    used = 0
    for cluster in clusters(piece):
        used += max(width(_seen(cluster, used, columns, tabs)), 1)
    return used


def offset_in(text: str, start: int, end: int, column: int, columns: int, tabs: bool = False) -> int:
    """Return the offset of the cluster that is in a column of the row between two offsets; its end if none does."""
    used, at = 0, start
    for cluster in clusters(text[start:end]):
        used += max(width(_seen(cluster, used, columns, tabs)), 1)
        if used > column:
            break
        at += len(cluster)
    return at


def _marked(text: str, start: int, end: int, marks: Marks) -> Row:
    """Return a stretch of plain text with the roles that its marks give it."""
    row: list[tuple[str, str]] = []
    at = start
    for first, last, role in marks:
        first, last = max(first, at), min(last, end)
        if first >= last:
            continue
        if at < first:
            row.append((text[at:first], ""))
        row.append((text[first:last], role))
        at = last
    if at < end or not row:
        row.append((text[at:end], ""))
    return tuple(row)


def _spread_clusters(text: str, columns: int, marks: Marks, tabs: bool) -> tuple[list[Row], list[int]]:
    rows: list[list[tuple[str, str]]] = [[]]
    starts = [0]
    used = offset = place = 0
    for cluster in clusters(text):
        seen = _seen(cluster, used, columns, tabs)
        taken = max(width(seen), 1)
        if used + taken > columns and used:
            rows.append([])
            starts.append(offset)
            used = 0
            seen = _seen(cluster, used, columns, tabs)
            taken = max(width(seen), 1)
        while place < len(marks) and marks[place][1] <= offset:
            place += 1
        role = marks[place][2] if place < len(marks) and marks[place][0] <= offset else ""
        row = rows[-1]
        if row and row[-1][1] == role:
            row[-1] = (row[-1][0] + seen, role)
        else:
            row.append((seen, role))
        used += taken
        offset += len(cluster)
    return [tuple(row) for row in rows], starts


def _seen(cluster: str, used: int, columns: int, tabs: bool) -> str:
    """Return what is shown for a cluster that begins in a column: a tab goes to the next stop."""
    if tabs and cluster == "\t":
        return " " * min(TAB - used % TAB, max(columns - used, 1))
    return head("".join([shown(char) for char in cluster]), columns) or " "


class WrappedText:
    """Which part of a text of many lines is in sight."""

    def __init__(self, *, tabs: bool = False) -> None:
        self.tabs = tabs
        #: Of what was drawn last: the line and the row of it at the top, what is in each row, the columns, and where
        #: the part of a very long line begins that is shown of it, by the number of the line.
        self.top = (0, 0)
        self._sight: list[tuple[int, int, int, str]] = []
        self._columns = 1
        self._bases: dict[int, int] = {}
        #: The same of what was made last, which is drawn or not.
        self._viewed: tuple[tuple[int, int], list[tuple[int, int, int, str]], int, dict[int, int]]
        self._viewed = self.top, self._sight, 1, {}
        #: What was shown last: the text of each line, its marks and its rows.
        self._rows: dict[int, tuple[str, Marks, tuple[list[Row], list[int]]]] = {}
        self._kept: dict[tuple[str, Marks, int], tuple[list[Row], list[int]]] = {}

    def drawn(self) -> None:
        """Note that the rows that were made last are on the screen."""
        self.top, self._sight, self._columns, self._bases = self._viewed

    def view(
        self,
        lines: Sequence[str],
        at: tuple[int, int],
        columns: int,
        room: int,
        marks: Callable[[int], Marks],
    ) -> tuple[list[Row], tuple[int, int]]:
        """Return at most ``room`` rows of the lines, and the row and column of the cursor among them.

        ``at`` is the cursor's line and its offset there; ``marks`` gives those of the line of a number.
        """
        before = self._rows if columns == self._viewed[2] else {}
        now = self._rows = {}
        bases: dict[int, int] = {}
        line, offset = at

        def laid(number: int) -> tuple[list[Row], list[int]]:
            found = now.get(number)
            if found is None:
                text, roles = lines[number], marks(number)
                if len(text) > LONG:
                    wanted = offset if number == line else 0
                    text, roles, bases[number] = self._part(text, roles, wanted, columns * room)
                found = before.get(number)
                if found is None or found[0] is not text or found[1] is not roles:
                    found = text, roles, self._laid(text, roles, columns)
                now[number] = found
            return found[2]

        starts = laid(line)[1]
        offset -= bases.get(line, 0)
        row = next(number for number in range(len(starts) - 1, -1, -1) if starts[number] <= offset)
        top = self._keep_in_sight((line, row), room, laid, len(lines))
        rows, sight = self._from(top, len(lines), room, laid)
        if len(rows) < room and top != (0, 0):
            last = len(lines) - 1
            top = _back((last, len(laid(last)[0]) - 1), room - 1, laid)
            rows, sight = self._from(top, len(lines), room, laid)
        self._viewed = top, sight, columns, bases
        here = next(place for place, (number, sub, _, _) in enumerate(sight) if (number, sub) == (line, row))
        return rows, (here, column_in(now[line][0], starts[row], offset, columns, self.tabs))

    def locate(self, row: int, column: int) -> tuple[int, int] | None:
        """Return the line and the offset there that are at a place of the part in sight, as it was shown last."""
        if not 0 <= row < len(self._sight):
            return None
        number, sub, start, text = self._sight[row]
        below = self._sight[row + 1] if row + 1 < len(self._sight) else None
        end = below[2] if below and below[:2] == (number, sub + 1) else len(text)
        return number, self._bases.get(number, 0) + offset_in(text, start, end, column, self._columns, self.tabs)

    def _part(self, text: str, marks: Marks, offset: int, area: int) -> tuple[str, Marks, int]:
        """Return the part of a very long line around an offset, a few rows of it, with its marks, and where it begins.

        In the cursor's line the offset is the cursor's; of other lines it is the beginning: to know where the rows of
        such a line break, all of it would have to be read.
        """
        step = max(area // 2, 1)
        base = snap_to_grapheme(text, max(offset // step * step - step, 0))
        part = text[base : base + 10 * step]
        end = len(part)
        kept = [(max(a - base, 0), min(b - base, end), role) for a, b, role in marks if b > base and a < base + end]
        return part, tuple(kept), base

    @property
    def in_sight(self) -> tuple[int, int]:
        """The first and the last line that were in sight last; all of them before anything was shown."""
        return (self._sight[0][0], self._sight[-1][0]) if self._sight else (0, 1 << 30)

    @property
    def height(self) -> int:
        """The rows that were in sight last; at least 2."""
        return max(len(self._sight), 2)

    def _laid(self, text: str, marks: Marks, columns: int) -> tuple[list[Row], list[int]]:
        key = (text, marks, columns)
        found = self._kept.get(key)
        if found is None:
            if len(self._kept) >= KEPT:
                self._kept.clear()
            found = self._kept[key] = spread(text, columns, marks, self.tabs)
        return found

    def _keep_in_sight(
        self, cursor: tuple[int, int], room: int, laid: Callable[[int], tuple[list[Row], list[int]]], count: int
    ) -> tuple[int, int]:
        """Return the top row, moved as little as needed to keep the cursor visible."""
        number, sub = self.top
        if number >= count or cursor < (number, sub):
            return cursor
        sub = min(sub, len(laid(number)[0]) - 1)
        first, rows = number, -sub
        while number < cursor[0] and rows <= room:
            rows += len(laid(number)[0])
            number += 1
        if number < cursor[0] or rows + cursor[1] >= room:
            return _back(cursor, room - 1, laid)
        return (first, sub)

    def _from(
        self,
        top: tuple[int, int],
        count: int,
        room: int,
        laid: Callable[[int], tuple[list[Row], list[int]]],
    ) -> tuple[list[Row], list[tuple[int, int, int, str]]]:
        """Return the rows from a top row on, and what is in each: line, row of the line, offset, text of the line."""
        rows: list[Row] = []
        sight: list[tuple[int, int, int, str]] = []
        number, sub = top
        while number < count and len(rows) < room:
            made, starts = laid(number)
            text = self._rows[number][0]
            if len(made) == 1:  # most lines are one row
                rows.append(made[0])
                sight.append((number, 0, 0, text))
            else:
                for at in range(sub, min(len(made), sub + room - len(rows))):
                    rows.append(made[at])
                    sight.append((number, at, starts[at], text))
            number, sub = number + 1, 0
        return rows, sight


def _back(cursor: tuple[int, int], rows: int, laid: Callable[[int], tuple[list[Row], list[int]]]) -> tuple[int, int]:
    """Return the row ``rows`` rows above that of the cursor, or the first of all."""
    number, sub = cursor
    while rows > sub and number > 0:
        rows -= sub + 1
        number -= 1
        sub = len(laid(number)[0]) - 1
    return (number, max(sub - rows, 0))
