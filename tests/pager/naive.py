"""A pager that anybody can check by reading: all rows of all lines in one list, and a place in it."""

from __future__ import annotations

import wcwidth

#: The share of the room that is above a hit which was out of sight.
ABOVE_HIT = 3


def seen(char: str) -> str:
    """Return a character as it is shown; no tab."""
    if char < " " or char == "\x7f":
        return "^" + chr(ord(char) ^ 0x40)
    return char


def broken(line: str, columns: int) -> list[tuple[int, str]]:
    """Return the rows of a line, each with the offset at which it begins."""
    rows = [(0, "")]
    used = 0
    for at, char in enumerate(line):
        shown = seen(char) if char != "\t" else " " * min(8 - used % 8, max(columns - used, 1))
        wide = max(wcwidth.wcswidth(shown), 1)
        if used + wide > columns and used:
            used = 0
            rows.append((at, ""))
            if char == "\t":
                shown = " " * min(8, columns)
                wide = len(shown)
        rows[-1] = (rows[-1][0], rows[-1][1] + shown)
        used += wide
    return rows


class Naive:
    """The model; ``lines`` is the text, ``heading`` how many of its lines stay in sight."""

    def __init__(self, lines: list[str], columns: int, rows: int, heading: int = 0) -> None:
        self.lines = lines
        self.heading = heading
        self.needle = ""
        self.around: int | None = None
        self.hit: int | None = None
        self.resize(columns, rows)
        self.top = (min(heading, len(lines)), 0)

    def resize(self, columns: int, rows: int) -> None:
        """Have another size."""
        self.columns = columns
        headed = [row for line in self.lines[: self.heading] for row in broken(line, columns)]
        self.headed = [text for _, text in headed][: max(rows - 2, 0)]
        self.room = max(rows - 1 - len(self.headed), 1)

    def hits(self) -> list[int]:
        """Return the numbers of the lines that have the needle."""
        if not self.needle:
            return []
        folds = self.needle == self.needle.lower()
        lines = enumerate(self.lines[self.heading :], self.heading)
        return [at for at, line in lines if self.needle in (ascii_lower(line) if folds else line)]

    def rows(self) -> list[tuple[int, int, str]]:
        """Return all rows that can be shown: line, offset and text of each."""
        shown = range(self.heading, len(self.lines))
        if self.around is not None:
            hits = self.hits()
            shown = [at for at in shown if any(abs(at - hit) <= self.around for hit in hits)]  # type: ignore[assignment]
        return [(at, offset, text) for at in shown for offset, text in broken(self.lines[at], self.columns)]

    def settle(self) -> int:
        """Return the index of the top row, after it has been put in bounds."""
        rows = self.rows()
        if not rows:
            return 0
        line, offset = self.top
        lines = sorted({at for at, _, _ in rows})
        if line not in lines:
            line = next((at for at in lines if at > line), lines[-1])
            offset = 0
        index = max(number for number, row in enumerate(rows) if row[0] == line and row[1] <= offset)
        bounded = max(min(index, len(rows) - self.room), 0)
        # As long as it does not move, the place is that of the text, wherever rows begin at another width.
        self.top = (line, offset) if bounded == index else rows[bounded][:2]
        return bounded

    def move(self, by: int) -> None:
        """Move by rows."""
        rows = self.rows()
        if rows:
            index = min(max(self.settle() + by, 0), len(rows) - 1)
            self.top = rows[index][:2]
            self.settle()

    def go(self, line: int) -> None:
        """Go to a line, from 0; to the end if there is none."""
        if line >= len(self.lines):
            self.move(1 << 30)
        else:
            self.top = (line, 0)
            self.settle()

    def search(self, needle: str, *, back: bool = False) -> bool:
        """Look for another text. Return False if there is none."""
        rows, index = self.rows(), self.settle()
        line = rows[index][0] if rows else self.top[0]
        self.needle, self.hit = needle, None
        return self._find(line, back)

    def again(self, *, back: bool = False) -> bool:
        """Look for the next line with a hit."""
        rows, index = self.rows(), self.settle()
        shown = {at for at, _, _ in rows[index : index + self.room]}
        if self.hit is None or self.hit not in shown:
            return self._find(rows[index][0] if rows else self.top[0], back)
        return self._find(self.hit if back else self.hit + 1, back)

    def _find(self, line: int, back: bool) -> bool:
        """Look from a line on, or before it."""
        found = [at for at in self.hits() if (at < line if back else at >= line)]
        if not found:
            if self.hit is not None:
                self.show(self.hit)
            return False
        self.hit = found[-1] if back else found[0]
        self.show(self.hit)
        return True

    def show(self, line: int) -> None:
        """Bring the first match in a line into sight."""
        rows = self.rows()
        folds = self.needle == self.needle.lower()
        text = ascii_lower(self.lines[line]) if folds else self.lines[line]
        at = text.find(self.needle)
        wanted = [number for number, row in enumerate(rows) if row[0] == line and row[1] <= at]
        if not wanted:  # in the heading
            return
        index = self.settle()
        if not index <= wanted[-1] < index + self.room:
            self.top = rows[max(wanted[-1] - self.room // ABOVE_HIT, 0)][:2]
            self.settle()

    def screen(self) -> list[str]:
        """Return the rows that are to be seen, without the foot."""
        index = self.settle()
        return [*self.headed, *[text for _, _, text in self.rows()[index : index + self.room]]]


def ascii_lower(text: str) -> str:
    """Return a text with the capitals of ASCII as small letters."""
    return "".join(char.lower() if char.isascii() else char for char in text)
