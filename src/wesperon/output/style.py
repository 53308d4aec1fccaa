"""Emphasis and colour for a program's own messages, if the stream can show them."""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import later
from wesperon.screen.ecma48 import SGR_RESET, sgr
from wesperon.screen.frame import row_text
from wesperon.screen.renditions import rendition
from wesperon.screen.theme import colours_of
from wesperon.values import Complaint, DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable
    from typing import TextIO

    from wesperon.screen.frame import Row
    from wesperon.terminal import preferences
else:
    preferences = later("wesperon.terminal.preferences")


def styled(text: str, style: str, stream: TextIO | None = None) -> str:
    """``text`` with emphasis or colour for a terminal, or as it is if the stream cannot show them.

    ``style`` is words with blanks between: ``bold``, ``dim``, ``italic``, ``underline``, ``reverse``, and a colour: one
    of the sixteen (``red``, ``bright-red``), a number of the 256, or ``#`` and six hexadecimal digits; after ``on-`` it
    is that of the background. A colour that the terminal does not have gives way to the nearest. ``stream`` is where
    the text will be printed; ``None`` means standard output. Colours are left out if NO_COLOR is set, and everything if
    the stream is no terminal, or ``TERM`` is ``dumb``. Raises DeclarationError for a word that is no style.

    Example:
        >>> styled("late", "bold red", stream=io.StringIO())  # which is no terminal
        'late'

    """
    try:
        parameters = rendition(style, colours_of(current().environ))
    except Complaint as complaint:
        raise DeclarationError(complaint.reason) from None
    if not shows_styles(current().stdout if stream is None else stream):
        return text
    return f"{sgr(parameters)}{text}{SGR_RESET}" if parameters else text


def rendered(rows: Iterable[Row], stream: TextIO | None = None) -> str:
    """Rows of styled text as one text for a stream, with the roles of the theme if the stream can show them.

    ``stream`` is where the text will be printed; ``None`` means standard output.
    """
    if not shows_styles(current().stdout if stream is None else stream):
        return "\n".join([row_text(row).rstrip() for row in rows])
    roles = preferences.roles_for_output(current().environ, current().program_name)
    return "\n".join(
        [
            "".join([f"{sgr(roles[role])}{text}{SGR_RESET}" if roles.get(role) else text for text, role in row])
            for row in rows
        ]
    )


def shows_styles(stream: TextIO | None) -> bool:
    """Return True if a stream leads to a terminal that shows emphasis."""
    try:
        return stream is not None and stream.isatty() and current().environ.get("TERM", "dumb") != "dumb"
    except ValueError:  # closed
        return False
