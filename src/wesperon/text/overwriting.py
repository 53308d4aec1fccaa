"""What a terminal shows of a line in which the cursor has gone back: a bar that some library draws again and again.

A carriage return starts the line again, what comes then is written over what was there, and EL erases (ECMA-48,
8.3.41); SGR belongs to the character after it. Nothing else moves the cursor here, so the row is a list of cells.
"""

from __future__ import annotations

#: The control sequences that are obeyed: erase to the end of the line, from its start, all of it.
ERASING = {"\x1b[K": "end", "\x1b[0K": "end", "\x1b[1K": "start", "\x1b[2K": "all"}
#: How long such a sequence may be.
LONGEST = 24


def last_state(line: str) -> str:
    """Return what is left of a line without its end, as a terminal would show it; a line without CR is as it was."""
    line = line.rstrip("\r")
    if "\r" not in line:
        return line
    cells: list[str] = []
    column, at, before = 0, 0, ""
    while at < len(line):
        char = line[at]
        if char == "\x1b" and (sequence := _sequence(line, at)):
            at += len(sequence)
            if sequence in ERASING:
                _erase(cells, column, ERASING[sequence])
            else:
                before += sequence
            continue
        at += 1
        if char == "\r":
            column = 0
            continue
        cells[column : column + 1] = [before + char]
        before = ""
        column += 1
    return "".join(cells).rstrip(" ") + before


def _erase(cells: list[str], column: int, part: str) -> None:
    if part != "start":
        del cells[column if part == "end" else 0 :]
    if part == "all":
        cells.extend(" " * column)
    if part == "start":
        cells[: column + 1] = " " * min(column + 1, len(cells))


def _sequence(line: str, at: int) -> str:
    """Return the control sequence that begins at a place, if it is EL or SGR; else an empty text."""
    if line[at + 1 : at + 2] != "[":
        return ""
    for end in range(at + 2, min(at + LONGEST, len(line))):
        if line[end] in "Km":
            return line[at : end + 1]
        if line[end] not in "0123456789;":
            return ""
    return ""
