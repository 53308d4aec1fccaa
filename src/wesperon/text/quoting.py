"""Words and lines by the quoting rules of the POSIX shell (Shell Command Language, 2.2 Quoting).

:func:`quote` and :func:`join` write words so that any POSIX shell splits them the same way again;
:func:`split_words` reads a line of words typed into a console or an answer. It knows blanks, backslashes, single and
double quotes, and nothing else of a shell: no expansion, no operators.
"""

from __future__ import annotations

from wesperon.ground import Complaint, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

#: Characters that no shell treats specially anywhere in a word.
_SAFE = frozenset("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789_@%+:,./-")
#: Characters that keep their meaning after a backslash in double quotes.
_ESCAPED_IN_DOUBLE = '$`"\\\n'
_BLANKS = " \t\n"


def quote(word: str) -> str:
    """The word, in single quotes where a shell would not take it as it is."""
    # "=" is safe inside a word, and special at its start in one common shell.
    if word and _SAFE.issuperset(word[1:].replace("=", "")) and word[0] in _SAFE:
        return word
    return "'" + word.replace("'", "'\\''") + "'"


def join(words: Iterable[str]) -> str:
    """The words as a line."""
    return " ".join([quote(word) for word in words])


def split_words(line: str) -> list[tuple[str, int]]:
    """The words of a line, each with the offset at which it begins.

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
        if start is None:
            start = at
        if char in "'\"":
            at = _quoted(line, at, piece)
        elif char == "\\" and at + 1 < len(line):
            if line[at + 1] != "\n":
                piece.append(line[at + 1])
            at += 2
        else:
            piece.append(char)
            at += 1
    if start is not None:
        words.append(("".join(piece), start))
    return words


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
