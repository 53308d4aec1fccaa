"""The painter: turns frames into the bytes that make an inline part of the screen equal to them.

Whatever is known about the terminal's screen lives here: the rows drawn last and the place of the cursor, both
counted from the first row of the frame, since where that row is on the screen is not known. The theory:

- A frame is drawn below what is on the screen already and touches nothing above its first row.
- Rows that are equal to those of the last frame are skipped; of the others the columns from the first to the last
  difference are written, then the rest of the row is erased if it was longer. If the rest of a row has only moved,
  the terminal moves it.
- The cursor moves by the shortest of the sequences that lead there. A new row at the bottom is entered by a line
  feed, which scrolls where needed; no other movement scrolls.
- After a character in the last column the terminal may or may not have wrapped; after a cluster on whose width
  terminals disagree the column is unknown. The next movement is then an absolute one.
- When the size changes, rows are erased from the first one down and drawn again. Where that one is then, depends on
  the terminal: some cut rows that have become too long, others break them, and the cursor moves with its character.
  The column where it is found tells which. A terminal that becomes lower drops rows at its bottom, and pushes others
  out at its top so that the cursor stays; one that becomes higher may bring them back. The row where the cursor is
  found tells how many. While no cursor is shown it rests in the first row, where all agree.
- While a frame is shown the terminal cuts rows that are too long. It may have become narrower already and not said so:
  a row that it breaks would move all that is below it.
- Between two frames the rendition is always the default one, so plain text typed at the end of a row is one byte.
"""

from __future__ import annotations

from wesperon.screen.ecma48 import (
    CR,
    CUP_HOME,
    CURSOR_SHAPES,
    ED,
    EL,
    HIDE_CURSOR,
    NEXT_ROW,
    SGR_RESET,
    SHOW_CURSOR,
    SYNC_OFF,
    SYNC_ON,
    WRAP_OFF,
    WRAP_ON,
    cha,
    cub,
    cud,
    cuf,
    cuu,
    dch,
    ich,
    sgr,
)
from wesperon.screen.frame import Frame, cells, from_column, shared_columns
from wesperon.screen.width import is_certain, width
from wesperon.text.escape import is_plain

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Cell, Row

#: Equal columns between two differences that are written again rather than stepped over.
GAP = 4
#: Columns after a change from which on it is cheaper to have the terminal move them than to write them again.
SHIFTED = 5
#: The fewest blanks between a text and a note after it, which is shown only if there is room for them.
LEAST_GAP = 2


class Painter:
    """Draws frames on a terminal of which only this inline part is known."""

    #: From so many bytes on a change of several rows is shown in one go, where the terminal can do that.
    least_at_once = 1

    def __init__(self, look: dict[str, str]) -> None:
        self.look = look
        self.columns = self.height = 0
        self.rows: list[Row] = []
        self.cells: list[list[Cell]] = []
        self.at_row = 0
        self.at_column: int | None = 0
        self.depth = 1
        #: Rows of earlier frames that the terminal has pushed out at its top: it may bring them back.
        self.pushed = 0
        #: Whether the terminal may have changed what it shows of the frame.
        self.is_stale = False
        self.shown = self.wraps = True
        self.shape = ""
        #: Whether the cursor may have a shape that is not the terminal's own.
        self.is_shaped = False
        self.role_on = ""
        self.out: list[str] = []

    def start(self, columns: int) -> str:
        """Return the text that brings the cursor to the first column, on a row of its own if something is before it.

        A row of blanks as wide as the terminal wraps if, and only if, the cursor was not in the first column.
        """
        self.forget(columns)
        return " " * columns + CR + EL

    def paint(self, frame: Frame, columns: int, height: int) -> str:
        """Return the text that turns the last frame into this one, on a terminal of this size."""
        self.height = height
        wrap = WRAP_OFF if self.wraps else ""
        self.wraps = False
        changed = self._rows(frame.rows[: max(height, 1)], columns)
        self._put_cursor(frame.cursor)
        self._shape(frame.shape)
        text = self._taken()
        return wrap + (SYNC_ON + text + SYNC_OFF if changed > 1 and len(text) >= self.least_at_once else text)

    def echo(self, text: str) -> str | None:
        """Return the text that puts a plain ``text`` at the cursor; None if a frame has to be painted.

        A part of the row that has no role ends there and becomes longer. Blanks that follow, up to a note at the right
        edge, become fewer; nothing else of the last frame changes.
        """
        at, column = self.at_row, self.at_column
        if self.is_stale or not self.shown or at >= len(self.rows) or column is None:
            return None
        row, shown = self.rows[at], self.cells[at]
        after: Row = ()
        end = column + len(text)
        if column != len(shown) and len(row) > 2:
            (gap, role), note = row[-2:]
            left = len(gap) - len(text)
            if role or gap.strip() or left < LEAST_GAP or column != len(shown) - width(note[0]) - len(gap):
                return None
            row, after = row[:-2], ((gap[:left], ""), note)
        elif column != len(shown) or end >= self.columns:
            return None
        if not row or row[-1][1]:
            return None
        self.rows[at] = (*row[:-1], (row[-1][0] + text, ""), *after)
        shown[column:end] = [(char, "") for char in text]
        self.at_column = end
        return text

    def finish(self, frame: Frame, columns: int) -> str:
        """Return the text that leaves a last frame on the screen and the cursor in the first column below it.

        Nothing is known about the screen afterwards: ``start`` comes next.
        """
        self._rows(frame.rows, columns)
        if frame.rows:
            self._move(len(frame.rows) - 1, 0)
            self.out.append(NEXT_ROW)
        else:
            self._move(0, 0)
        text = self._ended()
        self.forget(columns)
        return text

    def above(self, lines: list[str], columns: int) -> str:
        """Return the text that puts finished lines above the frame, for good.

        The next ``paint`` draws the frame below them.

        The lines are safe to show; the terminal itself breaks those that are too long.
        """
        self._restart(columns)
        self.pushed = 0
        if self.wraps or not lines:
            return self._taken() + "".join([line + NEXT_ROW for line in lines])
        return self._taken() + WRAP_ON + "".join([line + NEXT_ROW for line in lines]) + WRAP_OFF

    def hide(self, columns: int) -> str:
        """Return the text that takes the frame away, for another program to have the terminal; ``start`` comes next."""
        self._restart(columns)
        self.pushed = 0
        return self._ended()

    def clear(self, columns: int) -> str:
        """Return the text that empties the screen; the next ``paint`` draws the frame at its top."""
        self.forget(columns)
        return CUP_HOME + ED

    def before_start(self) -> str:
        """Return the text that makes sure that the screen can be left from the moment on that ``start`` is called."""
        return ""

    def leave_screen(self) -> str:
        """Return the text that goes back to the screen that was there before, if that is another one; nothing else."""
        return ""

    def held(self) -> str:
        """Return the text of the lines that wait for the screen to be left."""
        return ""

    def note_left(self) -> None:
        """Take note that a text is out which leaves the terminal as programs expect it, and another screen.

        Until then such a text may be wanted again, by a signal.
        """
        self.is_shaped = False

    def note_shown(self) -> None:
        """Take note that the text of ``held`` is out: the lines are kept no longer."""

    def abandon(self) -> str:
        """Return the text that leaves everything as it is, with the cursor in the first column below it."""
        self.out.append(NEXT_ROW * max(len(self.rows) - self.at_row, 1) if self.rows else CR)
        text = self._ended()
        self.forget(self.columns)
        return text

    def resized(self, columns: int, height: int, found: tuple[int, int] | None, breaks: bool) -> None:
        """Update ``at_row`` after a resize from the reported cursor position; the next frame is drawn in full.

        ``found`` is the row and column of the screen where the cursor is now, ``None`` where the terminal does not say;
        ``breaks`` whether it is taken to break long rows where the column does not tell.
        """
        self.is_stale = True
        if not self.rows:
            return
        if self.at_column is not None and columns < self.columns and found is not None:
            broken, cut = self.at_column % columns, min(self.at_column, columns - 1)
            if broken != cut and found[1] in (broken, cut):
                breaks = found[1] == broken
            if breaks:
                above = sum(max(-(-len(row) // columns), 1) for row in self.cells[: self.at_row])
                self.at_row = above + self.at_column // columns
        row = height - 1 if found is None else found[0]
        if self.at_row > row:  # the first rows are out of reach
            self.pushed += self.at_row - row
            self.at_row = row
        elif found is not None and self.pushed:  # some of them may be back
            back = min(self.pushed, row - self.at_row)
            self.pushed -= back
            self.at_row += back

    def forget_rows(self) -> None:
        """Draw all rows again, since what their roles look like has changed."""
        self.is_stale = True

    def forget(self, columns: int) -> None:
        """Take the cursor's row, from its first column, as the first row of the next frame."""
        self.columns = columns
        self.rows, self.cells = [], []
        self.at_row, self.at_column = 0, 0
        self.depth, self.pushed, self.is_stale = 1, 0, False
        self.out.clear()

    def _taken(self) -> str:
        self._plain()
        text = "".join(self.out)
        self.out.clear()
        return text

    def _restart(self, columns: int) -> None:
        """Erase everything that was drawn, for another size."""
        up = cuu(self.at_row) if self.at_row else ""
        drawn, pushed = bool(self.rows), self.pushed
        self.forget(columns)
        self.pushed = pushed
        if drawn:  # not all of the screen at once: some terminals would keep a copy of it above
            self.out.append(CR + up + EL + cuf(1) + ED + CR)

    def _rows(self, rows: tuple[Row, ...], columns: int) -> int:
        """Make the rows on the screen equal to these; the number of rows that were not."""
        if columns != self.columns or self.is_stale:
            self._restart(columns)
        changed = 0
        for place, row in enumerate(rows):
            if place >= len(self.rows) or (self.rows[place] is not row and self.rows[place] != row):
                self._row(place, row)
                changed += 1
        if len(self.rows) > len(rows):
            self._move(len(rows), 0)
            self._plain()
            self.out.append(ED)
            changed += len(self.rows) - len(rows)
            del self.rows[len(rows) :], self.cells[len(rows) :]
        return changed

    def _row(self, index: int, row: Row) -> None:
        """Write what differs in one row."""
        if index < len(self.rows) and index == self.at_row and self._append(row):
            return
        if index < len(self.rows):
            old = self.cells[index]
            same = min(shared_columns(self.rows[index], row), len(old), self.columns)
            new = (
                [*old[:same], *cells(from_column(row, same), self.columns - same)] if same else cells(row, self.columns)
            )
            self.rows[index], self.cells[index] = row, new
        else:
            old, same, new = [], 0, cells(row, self.columns)
            self.rows.append(row)
            self.cells.append(new)
        self._move(index, None)
        if old and self._shift(index, old, new, same):
            return
        column, end = same, len(new)
        while column < end:
            column = _difference(old, new, column)
            stop = _agreement(old, new, column)
            if column < stop:
                self._write(new[column:stop], column)
            column = stop
        if end < self.columns and (len(old) > end or self.at_column is None):
            self._move(index, end)
            self._plain()
            self.out.append(EL)

    def _append(self, row: Row) -> bool:
        """Write the rest of the cursor's row, if all that changed is that text was added at its end."""
        before, old = self.rows[self.at_row], self.cells[self.at_row]
        if not before or len(before) != len(row) or before[:-1] != row[:-1] or self.at_column != len(old):
            return False
        (was, role), (text, other) = before[-1], row[-1]
        added = text[len(was) :]
        end = len(old) + len(added)
        if role != other or end >= self.columns or not (is_plain(text) and text.startswith(was)):
            return False
        if role != self.role_on:
            self._rendition(role)
        self.out.append(added)
        self.rows[self.at_row], self.at_column = row, end
        old.extend([(char, role) for char in added])
        return True

    def _shift(self, index: int, old: list[Cell], new: list[Cell], same: int) -> bool:
        """Let the terminal move the rest of a row, if that is all that changed and saves bytes.

        The first ``same`` columns are known to be equal.
        """
        longer = len(new) - len(old)
        if not longer or min(len(old), len(new)) - same < SHIFTED:
            return False
        column = _difference(old, new, same)
        rest = min(len(old), len(new)) - column - SHIFTED
        if rest < 0 or len(new) >= self.columns or len(old) >= self.columns:
            return False
        if (new[column + longer :] != old[column:]) if longer > 0 else (old[column - longer :] != new[column:]):
            return False
        if any(not cluster.isascii() for cluster, _ in [*old[column:], *new[column:]]):
            return False  # terminals may disagree on the columns that these take
        self._move(index, column)
        if longer > 0:
            self.out.append(ich(longer))
            self._write(new[column : column + longer], column)
        else:
            self._plain()
            self.out.append(dch(-longer))
        return True

    def _write(self, run: list[Cell], column: int) -> None:
        """Write a run of columns in the cursor's row."""
        for cluster, role in run:
            column += 1
            if cluster == "":
                if self.at_column == column - 1:  # the column that the wide cluster before has taken
                    self.at_column = column
                continue
            if self.at_column != column - 1:
                self._move(self.at_row, column - 1)
            if role != self.role_on:
                self._rendition(role)
            self.out.append(cluster)
            self.at_column = column if column < self.columns and is_certain(cluster) else None
        if column >= self.columns:
            self.at_column = None

    def _rendition(self, role: str) -> None:
        """Switch to the rendition of a role."""
        parameters = self.look.get(role, "")
        before = self.look.get(self.role_on, "")
        self.role_on = role
        if parameters == before:
            return
        if before:
            self.out.append(sgr("0;" + parameters) if parameters else SGR_RESET)
        else:
            self.out.append(sgr(parameters))

    def _plain(self) -> None:
        """Switch to the default rendition."""
        self._rendition("")

    def _move(self, row: int, column: int | None) -> None:
        """Move the cursor to a place of the frame; to any column of the row where ``column`` is None."""
        if row >= self.depth:
            self._plain()
            self.out.append(NEXT_ROW * (row - self.at_row))
            self.at_column = 0
            self.depth = row + 1
        elif row > self.at_row:
            self.out.append(cud(row - self.at_row))
        elif row < self.at_row:
            self.out.append(cuu(self.at_row - row))
        self.at_row = row
        if column is not None and self.at_column != column:
            self.out.append(self._along(column))
            self.at_column = column

    def _along(self, column: int) -> str:
        """Return the shortest movement along the row to a column."""
        if column == 0:
            return CR
        absolute = cha(column)
        if self.at_column is None:
            return absolute
        steps = column - self.at_column
        relative = cuf(steps) if steps > 0 else cub(-steps)
        return relative if len(relative) <= len(absolute) else absolute

    def _put_cursor(self, cursor: tuple[int, int] | None) -> None:
        """Show the cursor at its place, or hide it and let it rest in the first row."""
        if cursor is None:
            self._show(False)
            self._move(0, 0)
            return
        row, column = cursor
        if row != self.at_row or column != self.at_column or row >= len(self.rows):
            self._move(min(row, max(len(self.rows) - 1, 0)), min(column, max(self.columns - 1, 0)))
        self._show(True)

    def _show(self, shown: bool) -> None:
        if shown != self.shown:
            self.out.append(SHOW_CURSOR if shown else HIDE_CURSOR)
            self.shown = shown

    def _ended(self) -> str:
        """Return the text so far, and what leaves the terminal as programs expect it."""
        self._show(True)
        self._shape("")
        text = self._taken() + ("" if self.wraps else WRAP_ON)
        self.wraps = True
        return text

    def _shape(self, shape: str) -> None:
        if shape != self.shape:
            self.out.append(CURSOR_SHAPES[shape])
            self.shape = shape
            self.is_shaped = self.is_shaped or bool(shape)


def _difference(old: list[Cell], new: list[Cell], column: int) -> int:
    """Return the first column from here on that differs, or the end of the new row."""
    shared = min(len(old), len(new))
    while column < shared and old[column] == new[column]:
        column += 1
    return column


def _agreement(old: list[Cell], new: list[Cell], column: int) -> int:
    """Return the end of the run of differing columns from here on, short stretches of equal ones included."""
    end = stop = column
    shared = min(len(old), len(new))
    while end < len(new):
        if end >= shared or old[end] != new[end]:
            stop = end + 1
        elif end - stop >= GAP:
            break
        end += 1
    while stop < len(new) and new[stop][0] == "":
        stop += 1
    return stop
