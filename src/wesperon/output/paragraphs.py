"""A text on a help page: paragraphs are laid out anew, lists and examples stay as they were written."""

from __future__ import annotations

import os

from wesperon.context import current
from wesperon.screen.width import wrap
from wesperon.text.escape import visible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.screen.frame import Row

#: The widest and the narrowest page.
WIDEST, NARROWEST = 100, 20
#: What an item of a list begins with, beside a number and a full stop or a bracket.
MARKS = ("-", "*", "+", "•")
#: The fewest columns that are left for a line beside its indent.
LEAST = 12


def page_columns() -> int:
    """Return the columns of a page on standard output: those of COLUMNS (POSIX, 8.3), else of the terminal, else 80."""
    context = current()
    wanted = context.environ.get("COLUMNS", "")
    try:
        columns = int(wanted) if wanted.isdecimal() else os.get_terminal_size(context.stdout.fileno()).columns  # type: ignore[union-attr]
    except (OSError, ValueError, AttributeError):
        columns = 0
    return max(min((columns or 80) - 1, WIDEST), NARROWEST)


def paragraphs(text: str | None, columns: int, *, is_docstring: bool = True) -> list[Row]:
    """Return a text in rows of ``columns``, an empty row before each paragraph.

    The first line of a docstring begins beside its quotes, so that its margin is that of the others.

    A paragraph with an indented line in it, or with an item of a list, stays in the lines in which it was written; a
    line that is too long goes on below the place where its words begin.
    """
    rows: list[Row] = []
    for block in _blocks(text or "", is_docstring=is_docstring):
        rows.append(())
        if any(_hanging(line) for line in block):
            for line in block:
                rows += [((part, ""),) for part in _kept(line, columns)]
        else:
            rows += lines(" ".join(word for line in block for word in line.split()), columns)
    return rows


def lines(text: str, columns: int, role: str = "") -> list[Row]:
    """Return a text, wrapped, in one role."""
    return [((line, role),) for line in wrap(visible(text), columns)]


def _blocks(text: str, *, is_docstring: bool) -> list[list[str]]:
    """Return the paragraphs, each in its lines, without the margin that they have in common."""
    written = [line.rstrip() for line in text.expandtabs().splitlines()]
    begins_beside_quotes = is_docstring and bool(written) and bool(written[0].strip())
    inside = written[1:] if begins_beside_quotes else written
    margin = min((len(line) - len(line.lstrip()) for line in inside if line), default=0)
    if begins_beside_quotes:
        written[0] = " " * margin + written[0].lstrip()
    blocks: list[list[str]] = [[]]
    for line in written:
        if line:
            blocks[-1].append(line[margin:])
        elif blocks[-1]:
            blocks.append([])
    return [block for block in blocks if block]


def _hanging(line: str) -> int:
    """Return where the words of a line begin that stays as it is: after its indent, and its mark in a list; else 0."""
    indent = len(line) - len(line.lstrip())
    mark, blank, rest = line[indent:].partition(" ")
    is_item = mark in MARKS or (mark[-1:] in (".", ")") and mark[:-1].isdecimal())
    return len(line) - len(rest.lstrip()) if is_item and blank else indent


def _kept(line: str, columns: int) -> Sequence[str]:
    """Return a line as it is; in several if it is too long."""
    hanging = min(_hanging(line), max(columns - LEAST, 0))
    shown = visible(line)
    first, *others = wrap(shown[hanging:], max(columns - hanging, 1)) or [""]
    if not others:
        return [shown[:hanging] + first]
    return [shown[:hanging] + first, *[" " * hanging + other for other in others]]
