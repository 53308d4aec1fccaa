"""The painter of the full screen: frames that fill the alternate screen, with the interface of the inline painter.

What differs: the first row of the frame is that of the screen, so that every row can be reached without scrolling; what
is to be put above the frame waits until the screen is left; a change of size draws everything again; and rows that have
moved up or down together are moved by the terminal, so that a list of a screen's height costs a row when it scrolls.

Few bytes are sent. Between two changes the cursor goes the shortest of all ways, or what is there is written again if
that is shorter; rows are written from the top or from the bottom, whichever leaves the cursor nearer to its place;
blanks are erased where they are many. ``tests/screen/test_least_bytes.py`` compares that with the least possible.
"""

from __future__ import annotations

import re
from itertools import groupby
from operator import itemgetter, ne

from wesperon.screen.ecma48 import (
    ALTERNATE_OFF,
    ALTERNATE_ON,
    CR,
    CUP_HOME,
    ED,
    EL,
    NEXT_ROW,
    NO_MARGINS,
    SAVE_CURSOR,
    cha,
    cub,
    cud,
    cuf,
    cup,
    cuu,
    decstbm,
    dl,
    ech,
    il,
)
from wesperon.screen.frame import Frame, cells, from_column, shared_columns, with_text
from wesperon.screen.painter import Painter
from wesperon.screen.row_changes import BLANK, are_alike, filled, is_one_by_one, joined, runs

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence
    from typing import Protocol

    from wesperon.screen.frame import Cell, Row

    class Kept(Protocol):
        """Where lines wait."""

        def add(self, lines: Iterable[str]) -> None:
            """Keep lines."""

        def lines(self) -> Sequence[str]:
            """Return the lines that are kept."""

        def clear(self) -> None:
            """Keep them no longer."""


#: So many blanks at least are erased rather than written: at the end of a row, and before something in it.
LEAST_ERASED, LEAST_ERASED_INSIDE = 4, 12
BLANKS = " " * LEAST_ERASED_INSIDE
#: Blanks that are stepped over at the least that this takes.
STEPS, STEP = re.compile(" {5,}"), " " * 4
MANY_BLANKS = re.compile(f"({BLANKS} *)")
#: The screen is emptied and drawn again only if the changes alone are so many times longer: it may be seen empty.
MORE = 1.25
#: The least rows that must have moved together, for their movement to be less than writing them.
LEAST_MOVED = 3
#: More rows than any screen has: none of them is below what is there already.
EVERY_ROW = 1 << 30


class FullScreenPainter(Painter):
    """Draws frames on the alternate screen."""

    least_at_once = 256

    def __init__(self, look: dict[str, str], kept: Kept) -> None:
        super().__init__(look)
        #: What is to be put above the frame.
        self.kept = kept
        self._is_on = False
        #: Where the cursor is to be in the end.
        self._goal: tuple[int, int] | None = None

    def before_start(self) -> str:
        """See ``Painter``; ``leave_screen`` may be called while ``start`` is not sent yet, and goes back to here."""
        return SAVE_CURSOR

    def start(self, columns: int) -> str:
        """Return the text that switches to the alternate screen and empties it."""
        self.forget(columns)
        self._is_on = True
        return ALTERNATE_ON + CUP_HOME + ED

    def forget(self, columns: int) -> None:
        """Take the screen as empty, the cursor in its first row and column."""
        super().forget(columns)
        self.depth = EVERY_ROW

    def paint(self, frame: Frame, columns: int, height: int) -> str:
        """Return the text that turns the last frame into this one; see ``Painter``."""
        self._goal = frame.cursor
        if columns == self.columns and height == self.height and not self.is_stale and len(self.rows) == height:
            self._scroll(frame.rows[:height])
        return super().paint(frame, columns, height)

    def _scroll(self, rows: Sequence[Row]) -> None:
        """Let the terminal move the rows that are further up or down in the next frame, if many are."""
        first, last, by = moved(self.rows, rows)
        if not by:
            return
        self._plain()
        region = slice(first, last + 1)
        kept, kept_cells = self.rows[region], self.cells[region]
        empty: list[Row] = [()] * abs(by)
        empty_cells: list[list[Cell]] = [[] for _ in empty]
        if by < 0:
            self.rows[region], self.cells[region] = [*kept[-by:], *empty], [*kept_cells[-by:], *empty_cells]
        else:
            self.rows[region], self.cells[region] = [*empty, *kept[:-by]], [*empty_cells, *kept_cells[:-by]]
        self.out.append(decstbm(first, last) + cup(first) + (dl(-by) if by < 0 else il(by)) + NO_MARGINS + CUP_HOME)
        self.at_row, self.at_column = 0, 0

    def _rows(self, rows: tuple[Row, ...], columns: int) -> int:
        """See ``Painter``; all rows of the screen are there, the empty ones too."""
        if columns != self.columns or self.is_stale:
            self._restart(columns)
        lacking = len(rows) - len(self.rows)
        self.rows += [()] * lacking
        self.cells += [[] for _ in range(lacking)]
        rows += ((),) * (len(self.rows) - len(rows))
        changed = [at for at, row in enumerate(rows) if self.rows[at] is not row and self.rows[at] != row]
        if len(changed) < 2:
            for at in changed:
                self._row(at, rows[at])
            return len(changed)
        end = next((at + 1 for at in range(len(rows) - 1, -1, -1) if rows[at]), 0)
        emptied = [at for at in changed if at >= end]
        if len(emptied) > 1:
            changed = changed[: -len(emptied)]
        elif self._turns_back(changed):
            changed.reverse()
        since, place = len(self.out), self._place()
        for at in changed:
            self._row(at, rows[at])
        if len(emptied) > 1:
            self._move(emptied[0], 0)
            self._plain()
            self.out.append(ED)
            for at in emptied:
                self.rows[at], self.cells[at] = (), []
        self._begin_empty(min([*changed, *emptied]), since, place)
        return len(changed) + len(emptied)

    def _begin_empty(self, first: int, since: int, place: tuple[int, int | None, str]) -> None:
        """Erase all rows from one on and write them, if that is far less than what was sent for them instead."""
        size = sum(map(len, self.out[since:]))
        texts = ["".join([text for text, _ in row]) for row in self.rows[first:]]
        if size <= MORE * sum([len(text.replace(" ", "")) for text in texts]):
            return
        sent, now = self.out[since:], self._place()
        del self.out[since:]
        self._go_to(place)
        self._move(first, 0)
        self._plain()
        self.out.append(ED)
        for at in range(first, len(self.rows)):
            row = self.cells[at]
            self._change(at, row, filled(row), len(row))
        if size <= MORE * sum(map(len, self.out[since:])):
            self.out[since:] = sent
            self._go_to(now)

    def _place(self) -> tuple[int, int | None, str]:
        """Return where the cursor is, and the rendition in force."""
        return self.at_row, self.at_column, self.role_on

    def _go_to(self, place: tuple[int, int | None, str]) -> None:
        """Be where the cursor was, since what has moved it is not sent."""
        self.at_row, self.at_column, self.role_on = place

    def _turns_back(self, changed: Sequence[int]) -> bool:
        """Return True if the cursor has less far to go when the last of these rows is written first."""
        first, last = changed[0], changed[-1]
        goal = first if self._goal is None else self._goal[0]
        return (self.at_row != last) + (first != goal) < (self.at_row != first) + (last != goal)

    def _row(self, index: int, row: Row) -> None:
        """See ``Painter``."""
        if index == self.at_row and self._append(row):
            return
        changed = self._replace_texts(index, row)
        after, changed = (self.cells[index], changed) if changed is not None else self._replace_columns(index, row)
        first, length = changed.find(1), len(self.cells[index])
        if first < 0:
            return
        self._move(index, first)
        since, place = len(self.out), self._place()
        self._change(index, after, changed, length)
        size = sum(map(len, self.out[since:]))
        if size <= len(EL) + 1:
            return
        text = "".join([text for text, _ in row])
        if len(text) != length:
            text = "".join([cluster for cluster, _ in self.cells[index]])
        rest = text[first:].rstrip()
        # It may be shorter to erase the rest of the row and write it, with steps over its blanks.
        if size > len(EL) + len(rest) - rest.count(" ") and size > len(EL) + len(STEPS.sub(STEP, rest)):
            sent, now = self.out[since:], self._place()
            del self.out[since:]
            self._go_to(place)
            self._plain()
            self.out.append(EL)
            self._change(index, after, bytes(first) + filled(after[first:]), length)
            if sum(map(len, self.out[since:])) >= size:
                self.out[since:] = sent
                self._go_to(now)

    def _replace_columns(self, index: int, row: Row) -> tuple[list[Cell], bytes]:
        """Put a row in the place of another; return its columns, and which of them differ, each 1 or 0.

        There are as many as either row has. None differs once the terminal has moved the rest of the row.
        """
        old = self.cells[index]
        same = min(shared_columns(self.rows[index], row), len(old), self.columns)
        rest = cells(from_column(row, same), self.columns - same)
        new = [*old[:same], *rest] if same else rest
        self.rows[index], self.cells[index] = row, new
        if old and self._shift(index, old, new, same):
            return new, b""
        length = max(len(old), len(new))
        before = old + [BLANK] * (length - len(old)) if len(old) < length else old
        after = new + [BLANK] * (length - len(new)) if len(new) < length else new
        return after, bytes(same) + bytes(map(ne, before[same:], after[same:]))

    def _replace_texts(self, index: int, row: Row) -> bytes | None:
        """Put texts in the place of others of the same length, and return the columns that differ, each 1 or 0.

        None if more than that has changed, or a character does not take one column: nothing is done then.
        """
        shown, before, after = self.cells[index], self.rows[index], row
        whole, column = len(shown), 0
        if not (is_one_by_one(before, whole) and is_one_by_one(row, whole)):
            return None
        if not are_alike(before, after):
            before, after = joined(before), joined(row)
            if not are_alike(before, after):
                return None
        changed = bytearray(whole)
        for (old, _), (text, role) in zip(before, after, strict=True):
            end = column + len(text)
            if old is not text and old != text:
                changed[column:end] = map(ne, old, text)
                shown[column:end] = [(char, role) for char in text]
            column = end
        self.rows[index] = row
        return bytes(changed)

    def _change(self, index: int, after: list[Cell], changed: bytes, length: int) -> None:
        """Write the columns of a row that are ``changed``, each 1 or 0; after so many columns it is empty."""
        end = next((at + 1 for at in range(len(after) - 1, -1, -1) if after[at] != BLANK), 0)
        blank = changed.find(1, end)
        erases = blank >= 0 and changed.rfind(1) - blank + 1 >= LEAST_ERASED
        if erases:
            changed = changed[:end]
        stop = -1
        for start, stop, text in runs(after, changed):
            self._move(index, start)
            if text:
                self._put_ascii(text, after[start][1], start)
            else:
                self._write(after[start:stop], start)
        # A cluster on whose width terminals disagree may have put something behind the end.
        if erases or (self.at_column is None and stop == length < self.columns):
            at = self.at_column if index == self.at_row else None
            if at is None or not end <= at <= blank:
                self._move(index, end)
            self._plain()
            self.out.append(EL)

    def _write(self, run: list[Cell], column: int) -> None:
        """See ``Painter``; many blanks are erased."""
        text = "".join([cluster for cluster, _ in run])
        roles = {role for _, role in run}
        if len(roles) > 1:
            for _, part in groupby(run, itemgetter(1)):
                cells = [*part]
                self._write(cells, column)
                column += len(cells)
        elif len(text) != len(run) or not text.isascii():
            super()._write(run, column)
        else:
            self._put_ascii(text, run[0][1], column)

    def _put_ascii(self, text: str, role: str, column: int) -> None:
        """Write an ASCII text in one role; many blanks in it are erased if that is none."""
        if role or BLANKS not in text:
            self._put(text, role, column)
            return
        for part in MANY_BLANKS.split(text):
            if part.startswith(BLANKS):
                self._move(self.at_row, column)
                self._plain()
                self.out.append(ech(len(part)))
            elif part:
                self._put(part, "", column)
            column += len(part)

    def _put(self, text: str, role: str, column: int) -> None:
        """Write an ASCII text in one role."""
        if self.at_column != column:
            self._move(self.at_row, column)
        if role != self.role_on:
            self._rendition(role)
        self.out.append(text)
        end = column + len(text)
        self.at_column = end if end < self.columns else None

    def _move(self, row: int, column: int | None) -> None:
        """Move the cursor to a place, the shortest way."""
        if column is None:
            super()._move(row, None)
        elif row == self.at_row and self.at_column is not None and 0 <= column - self.at_column < 10:
            if column != self.at_column:
                self.out.append(self._forward(row, self.at_column, column))
                self.at_column = column
        else:
            self.out.append(self._way(row, column))
            self.at_row, self.at_column = row, column

    def _way(self, row: int, column: int) -> str:
        """Return the shortest way to a place."""
        down = row - self.at_row
        along = cud(down) if down > 0 else cuu(-down) if down < 0 else ""
        at = self.at_column
        if at == column:
            way = along
        else:
            first = NEXT_ROW * down if down > 0 else along + CR
            way = first + self._forward(row, 0, column)
            other = along + cha(column)
            if len(other) < len(way):
                way = other
            if at is not None:
                other = along + (self._forward(row, at, column) if column > at else cub(at - column))
                if len(other) < len(way):
                    way = other
        other = cup(row, column)
        return other if len(other) < len(way) else way

    def _forward(self, row: int, column: int, goal: int) -> str:
        """Return what brings the cursor forward in a row, up to a place before which all is as it should be."""
        if column == goal:
            return ""
        steps = cuf(goal - column)
        if goal - column >= len(steps):
            return steps
        shown = (self.cells[row] if row < len(self.cells) else [])[column:goal]
        shown += [BLANK] * (goal - column - len(shown))
        if all(role == self.role_on and cluster.isascii() and cluster for cluster, role in shown):
            return "".join([cluster for cluster, _ in shown])
        return steps

    def echo(self, text: str) -> str | None:
        """See ``Painter``; there may be more in the row, if the columns that the text takes are blank."""
        at, column = self.at_row, self.at_column
        if self.is_stale or not self.shown or at >= len(self.rows) or column is None:
            return None
        row, shown = self.rows[at], self.cells[at]
        end = column + len(text)
        made = with_text(row, column, text)
        if made is None or end >= self.columns or column > len(shown):
            return None
        if any(cell != BLANK for cell in shown[column:end]):
            return None
        self.rows[at] = made
        shown[column:end] = [(char, "") for char in text]
        self.at_column = end
        return text

    def _put_cursor(self, cursor: tuple[int, int] | None) -> None:
        """See ``Painter``; where it is not shown it can stay where it is."""
        if cursor is None:
            self._show(False)
        else:
            super()._put_cursor(cursor)

    def finish(self, frame: Frame, columns: int) -> str:
        """Return what leaves the alternate screen, with what has waited and the last frame below what was there."""
        text = self._left()
        below = Painter(self.look)
        text += " " * columns + CR + EL if frame.rows else ""
        below.forget(columns)
        self.forget(columns)
        return text + below.finish(frame, columns)

    def above(self, lines: list[str], columns: int) -> str:
        """Nothing yet: the lines are put out when the screen is left."""
        self.kept.add(lines)
        return ""

    def hide(self, columns: int) -> str:
        """Return the text that leaves the alternate screen for a while."""
        text = self._left()
        self.forget(columns)
        return text

    def abandon(self) -> str:
        """Return the text that leaves the alternate screen, with what has waited."""
        return self.hide(self.columns)

    def leave_screen(self) -> str:
        """See ``Painter``; what has waited waits on."""
        return ALTERNATE_OFF if self._is_on else ""

    def held(self) -> str:
        """See ``Painter``; to leave the screen once more leads back to the place below these lines."""
        lines = self.kept.lines()
        return "".join([line + NEXT_ROW for line in lines]) + SAVE_CURSOR if lines else ""

    def note_left(self) -> None:
        """See ``Painter``."""
        super().note_left()
        self._is_on = False

    def note_shown(self) -> None:
        """See ``Painter``."""
        self.kept.clear()

    def resized(self, columns: int, height: int, found: tuple[int, int] | None, breaks: bool) -> None:
        """Nothing is to be found out, since the first row is that of the screen; the next frame is drawn in full."""
        self.is_stale = True

    def _restart(self, columns: int) -> None:
        """Empty the screen, for another width."""
        self.forget(columns)
        self.out.append(CUP_HOME + ED)

    def _left(self) -> str:
        """Return what goes back to the other screen, with what has waited.

        A frame that is half drawn, since a signal has come, is not drawn any more.
        """
        self.out.clear()
        return self._ended() + self.leave_screen() + self.held()


def moved(old: Sequence[Row], new: Sequence[Row]) -> tuple[int, int, int]:
    """Return the first and last row of a region that moved, and by how many rows, down if it is positive.

    It is the movement that most rows of it made, if that puts more rows right than are right already; by 0 if none
    does. Each row is looked at a few times, however high the screen is.
    """
    count = min(len(old), len(new))
    first = next((at for at in range(count) if old[at] != new[at]), count)
    last = next((at for at in range(count - 1, first - 1, -1) if old[at] != new[at]), first - 1)
    if last - first < LEAST_MOVED:
        return 0, 0, 0
    places = {old[at]: at for at in range(first, last + 1)}
    ways: dict[int, int] = {}
    for at in range(first, last + 1):
        before = places.get(new[at], at)
        ways[at - before] = ways.get(at - before, 0) + 1
    right = sum(old[at] == new[at] for at in range(first, last + 1))
    by = max(ways, key=ways.__getitem__, default=0)
    gained = sum(old[at - by] == new[at] for at in range(max(first, first + by), min(last, last + by) + 1))
    return (first, last, by) if by and gained >= right + LEAST_MOVED else (0, 0, 0)
