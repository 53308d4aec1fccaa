"""Emphasis and colour for a program's own messages, if the stream can show them."""

from __future__ import annotations

from wesperon.context import current
from wesperon.screen.ecma48 import SGR_RESET, sgr
from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable
    from typing import TextIO

    from wesperon.screen.frame import Row

#: The words of a style and their parameters of SGR (ECMA-48, 8.3.117).
WORDS = {"bold": "1", "dim": "2", "italic": "3", "underline": "4", "reverse": "7"}
COLOURS = ("black", "red", "green", "yellow", "blue", "magenta", "cyan", "white")


def styled(text: str, style: str, stream: TextIO | None = None) -> str:
    """``text`` with emphasis or colour for a terminal, or as it is if the stream cannot show them.

    ``style`` is words with blanks between: ``bold``, ``dim``, ``italic``, ``underline``, ``reverse``, and a colour of
    the sixteen (``red``, ``bright-red``), after ``on-`` for the background. ``stream`` is where the text will be
    printed; ``None`` means standard output. Colours are left out if NO_COLOR is set, and everything if the stream
    is no terminal, or ``TERM`` is ``dumb``. Raises DeclarationError for a word that is no style.
    """
    parameters = [_parameter(word) for word in style.split()]
    if not shows_styles(current().stdout if stream is None else stream):
        return text
    if current().environ.get("NO_COLOR"):
        parameters = [number for number in parameters if len(number) == 1]
    return f"{sgr(';'.join(parameters))}{text}{SGR_RESET}" if parameters else text


def rendered(rows: Iterable[Row], stream: TextIO | None = None) -> str:
    """Rows of styled text as one text for a stream, with the roles of the theme if the stream can show them.

    ``stream`` is where the text will be printed; ``None`` means standard output.
    """
    from wesperon.screen.frame import row_text
    from wesperon.screen.theme import roles_for

    if not shows_styles(current().stdout if stream is None else stream):
        return "\n".join([row_text(row).rstrip() for row in rows])
    roles = roles_for(current().environ)
    return "\n".join(
        [
            "".join([f"{sgr(roles[role])}{text}{SGR_RESET}" if roles.get(role) else text for text, role in row])
            for row in rows
        ]
    )


def shows_styles(stream: TextIO | None) -> bool:
    """Whether a stream leads to a terminal that shows emphasis."""
    try:
        return stream is not None and stream.isatty() and current().environ.get("TERM", "dumb") != "dumb"
    except ValueError:  # closed
        return False


def _parameter(word: str) -> str:
    if word in WORDS:
        return WORDS[word]
    name = word.removeprefix("on-")
    behind = name != word
    bright = name.startswith("bright-")
    name = name.removeprefix("bright-")
    if name not in COLOURS:
        from wesperon.text.spelling import suggestion

        raise DeclarationError(f"{word!r} is no style{suggestion(word, [*WORDS, *COLOURS])}")
    return str(30 + COLOURS.index(name) + 10 * behind + 60 * bright)
