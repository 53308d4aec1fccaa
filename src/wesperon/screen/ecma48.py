"""Control functions that are sent to a terminal, under their names in ECMA-48 (5th edition).

Private modes are those that terminals share beyond the standard; their numbers follow ``?``.
"""

from __future__ import annotations

#: Control sequence introducer.
CSI = "\x1b["
#: Carriage return: to column 1 of the row.
CR = "\r"
#: Line feed after a carriage return: to column 1 of the next row, scrolling at the bottom.
NEXT_ROW = "\r\n"
#: Erase in display, from the cursor to the end.
ED = CSI + "J"
#: Erase in line, from the cursor to the end.
EL = CSI + "K"
#: Select graphic rendition: everything back to default.
SGR_RESET = CSI + "m"

#: Device status report, active position: the terminal answers with CPR, ``CSI row ; column R``.
DSR_POSITION = CSI + "6n"

#: DECTCEM: the cursor is shown, or hidden.
SHOW_CURSOR = CSI + "?25h"
HIDE_CURSOR = CSI + "?25l"
#: DECSCUSR, set cursor style: none is the terminal's own.
CURSOR_SHAPES = {"": CSI + "0 q", "block": CSI + "2 q", "underline": CSI + "4 q", "bar": CSI + "6 q"}
#: Cursor to the first row and column; with ED after it, the screen is empty.
CUP_HOME = CSI + "H"
#: The alternate screen, which has no rows scrolled out of sight; the other one comes back as it was, cursor included.
ALTERNATE_ON, ALTERNATE_OFF = CSI + "?1049h", CSI + "?1049l"
#: DECSC: the place of the cursor is kept, which ALTERNATE_OFF goes to, also where the screen was left already.
SAVE_CURSOR = "\x1b7"
#: The mouse is reported, presses and releases, in the form that has no upper bound (SGR).
MOUSE_ON = CSI + "?1000h" + CSI + "?1006h"
MOUSE_OFF = CSI + "?1006l" + CSI + "?1000l"
#: Operating system command, and its end: string terminator.
OSC, ST = "\x1b]", "\x1b\\"
#: Whether a character after the last column goes to the next row, or replaces the one there (DECAWM).
WRAP_ON = CSI + "?7h"
WRAP_OFF = CSI + "?7l"
#: Bracketed paste: pasted text arrives between two marks.
PASTE_ON = CSI + "?2004h"
PASTE_OFF = CSI + "?2004l"
#: Synchronised output: the terminal shows what comes between in one go.
SYNC_ON = CSI + "?2026h"
SYNC_OFF = CSI + "?2026l"


def decstbm(first: int, last: int) -> str:
    """DECSTBM, set top and bottom margins: rows of the screen, counted from 0; the cursor goes to the first row."""
    return f"{CSI}{first + 1};{last + 1}r"


#: The margins are those of the screen again; where the cursor is then, terminals disagree.
NO_MARGINS = CSI + "r"


def cup(row: int, column: int = 0) -> str:
    """CUP, cursor position: to a row and column, counted from 0; a parameter of 1 is left out."""
    at_row = str(row + 1) if row else ""
    return f"{CSI}{at_row};{column + 1}H" if column else f"{CSI}{at_row}H"


def il(rows: int) -> str:
    """IL, insert line: empty rows at the cursor, what is below moves down, out of the margins at their end."""
    return f"{CSI}{rows}L"


def dl(rows: int) -> str:
    """DL, delete line: what is below moves up, empty rows come in at the end of the margins."""
    return f"{CSI}{rows}M"


def cuu(rows: int) -> str:
    """CUU, cursor up: same column."""
    return f"{CSI}{rows}A" if rows != 1 else CSI + "A"


def cud(rows: int) -> str:
    """CUD, cursor down: same column, never scrolls."""
    return f"{CSI}{rows}B" if rows != 1 else CSI + "B"


def cuf(columns: int) -> str:
    """CUF, cursor forward."""
    return f"{CSI}{columns}C" if columns != 1 else CSI + "C"


def cub(columns: int) -> str:
    """CUB, cursor backward; one column is a backspace."""
    return f"{CSI}{columns}D" if columns > 3 else "\b" * columns


def ich(columns: int) -> str:
    """ICH, insert character: blanks at the cursor, what is after it moves to the right."""
    return f"{CSI}{columns}@" if columns != 1 else CSI + "@"


def ech(columns: int) -> str:
    """ECH, erase character: blanks from the cursor on, which stays."""
    return f"{CSI}{columns}X"


def dch(columns: int) -> str:
    """DCH, delete character: what is after moves to the left."""
    return f"{CSI}{columns}P" if columns != 1 else CSI + "P"


def cha(column: int) -> str:
    """CHA, cursor character absolute: to a column, counted from 0 here and from 1 on the wire."""
    return f"{CSI}{column + 1}G" if column else CR


def sgr(parameters: str) -> str:
    """SGR, select graphic rendition."""
    return f"{CSI}{parameters}m"
