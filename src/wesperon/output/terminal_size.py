"""How wide the terminal is, and what it can show, for a program's own output."""

from __future__ import annotations

import os

from wesperon.context import current
from wesperon.frozen import later

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping

    from wesperon.output import style
    from wesperon.screen import theme
else:
    style = later("wesperon.output.style")
    theme = later("wesperon.screen.theme")

#: What is said if there is no terminal: the size that most texts are made for.
COLUMNS, ROWS = 80, 24


class TerminalSize(tuple[int, int]):
    """Columns and rows."""

    @property
    def columns(self) -> int:
        """How many characters of one column fit in a row."""
        return self[0]

    @property
    def rows(self) -> int:
        """How many rows there are."""
        return self[1]

    @property
    def colours(self) -> int:
        """How many colours standard output shows; 0 if it shows none, or NO_COLOR is set."""
        context = current()
        return theme.colours_of(context.environ) if style.shows_styles(context.stdout) else 0

    def __repr__(self) -> str:
        return f"TerminalSize(columns={self.columns}, rows={self.rows})"


def terminal_size(low: int = 1, high: int | None = None) -> TerminalSize:
    """Return the size of the terminal that standard output leads to; it says how many colours are shown there, too.

    Where standard output leads elsewhere, the terminal of standard error or standard input counts, so that what goes
    through a pager fits as well; if there is none, 80 columns by 24 rows. ``COLUMNS`` and ``LINES`` of the
    environment come first, as POSIX has it (Base Definitions, 8.3). ``low`` and ``high`` bound the columns that are
    told, for a layout that cannot do with less, or that nobody could read if it were wider.

    Example:
        >>> with_room_for = terminal_size(low=40, high=100).columns
        >>> 40 <= with_room_for <= 100
        True

    """
    environ = current().environ
    columns, rows = _stated(environ, "COLUMNS"), _stated(environ, "LINES")
    if not (columns and rows):
        found = _found()
        columns, rows = columns or found[0], rows or found[1]
    columns = max(columns, low)
    return TerminalSize((columns if high is None else min(columns, max(high, low)), rows))


def is_terminal() -> bool:
    """Return True if standard output leads to a terminal."""
    stream = current().stdout
    try:
        return stream is not None and stream.isatty()
    except ValueError:  # closed
        return False


def _stated(environment: Mapping[str, str], name: str) -> int:
    text = environment.get(name, "")
    return int(text) if text.isascii() and text.isdigit() and len(text) < 7 else 0


def _found() -> tuple[int, int]:
    """Return the size of the first of the standard streams that leads to a terminal which knows its size."""
    context = current()
    for stream in (context.stdout, context.stderr, context.stdin):
        try:
            size = os.get_terminal_size(stream.fileno())  # type: ignore[union-attr]
        except (AttributeError, OSError, ValueError):  # no stream, no terminal, or closed
            continue
        if size.columns and size.lines:
            return size.columns, size.lines
    return COLUMNS, ROWS
