"""A line typed into a console or an answer, split into words by the quoting rules of the POSIX shell.

It knows blanks, backslashes, single and double quotes (Shell Command Language, 2.2 Quoting), and nothing else of a
shell: no expansion, no operators. ``text.quoting`` writes words by the same rules.
"""

from __future__ import annotations

from wesperon.text.quoting import join
from wesperon.values import Complaint, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.slots import Slot

#: Characters that keep their meaning after a backslash in double quotes.
_ESCAPED_IN_DOUBLE = '$`"\\\n'
_BLANKS = " \t\n"


def line_of(slot: Slot[Any], value: Any) -> str:
    """Return the text of a slot's value; if the slot takes several, their texts as words of a line.

    Raises DeclarationError for a value of a kind of the program's own without ``text=``.
    """
    return join(slot.shape.words(slot, value)) if slot.shape.splits else slot.format(value)


def split_words(line: str) -> list[tuple[str, int]]:
    """Return the words of a line, each with the offset at which it begins.

    Raises Complaint at a quote that is never closed.
    """
    words: list[tuple[str, int]] = []
    piece: list[str] = []
    start: int | None = None
    at = 0
    while at < len(line):
        char = line[at]
        if char in _BLANKS:
            if start is not None:
                words.append(("".join(piece), start))
                piece, start = [], None
            at += 1
            continue
        if char == "\\" and line[at + 1 : at + 2] == "\n":  # the line goes on with the next one
            at += 2
            continue
        if start is None:
            start = at
        if char in "'\"":
            at = _quoted(line, at, piece)
        elif char == "\\" and at + 1 < len(line):
            piece.append(line[at + 1])
            at += 2
        else:
            piece.append(char)
            at += 1
    if start is not None:
        words.append(("".join(piece), start))
    return words


def open_quote(part: str, mark: str = "") -> str:
    """Return the quote character still open at the end of ``part``.

    ``mark`` is the one open before it. Empty if none is.
    """
    at = 0
    while at < len(part):
        char = part[at]
        if char == "\\" and mark != "'":
            at += 1
        elif char == mark:
            mark = ""
        elif not mark and char in "'\"":
            mark = char
        at += 1
    return mark


def _quoted(line: str, opening: int, piece: list[str]) -> int:
    """Add what is between the quote at ``opening`` and its partner to ``piece``; the offset after it."""
    mark = line[opening]
    at = opening + 1
    while at < len(line):
        char = line[at]
        if char == mark:
            return at + 1
        if char == "\\" and mark == '"' and line[at + 1 : at + 2] and line[at + 1] in _ESCAPED_IN_DOUBLE:
            at += 1
            if line[at] != "\n":
                piece.append(line[at])
        else:
            piece.append(char)
        at += 1
    raise Complaint(
        tell("the quote {mark} is never closed: close it, or write \\{mark} for the character", mark=mark), opening
    )
