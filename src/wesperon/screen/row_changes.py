"""What differs between two rows of a full screen, column by column, and which columns are written in one run."""

from __future__ import annotations

import re
from itertools import groupby
from operator import itemgetter

from wesperon.screen.ecma48 import cuf
from wesperon.screen.frame import DRAWN
from wesperon.text.escape import is_plain

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator

    from wesperon.screen.frame import Cell, Row

#: What a column shows where nothing was written.
BLANK: Cell = (" ", "")
#: Columns that are written in one run, each 1, with few equal ones between them; and those.
RUN, GAP = re.compile(b"\\x01(?:\\x00{0,4}\\x01)*"), re.compile(b"\\x00+")
#: A text of characters each of which takes one column.
ONE_BY_ONE = re.compile(f"[ -~{DRAWN}]*")


def is_one_by_one(row: Row, columns: int) -> bool:
    """Return True if a row has so many columns, and each of its characters certainly takes one."""
    text = "".join([text for text, _ in row])
    return len(text) == columns and (is_plain(text) or ONE_BY_ONE.fullmatch(text) is not None)


def are_alike(one: Row, other: Row) -> bool:
    """Return True if two rows have the same roles in the same places."""
    return [(len(text), role) for text, role in one] == [(len(text), role) for text, role in other]


def joined(row: Row) -> Row:
    """Return the same row with as few spans as it needs."""
    return tuple([("".join([text for text, _ in spans]), role) for role, spans in groupby(row, itemgetter(1))])


def filled(row: list[Cell]) -> bytes:
    """Return 1 for each column that shows something, and 0 for each other one."""
    return bytes(map(BLANK.__ne__, row))


def runs(after: list[Cell], changed: bytes) -> Iterator[tuple[int, int, str]]:
    """Yield the first column, and the one after the last, of each run of columns to be written, and its text.

    The text is empty if it is not ASCII in one role. Few equal columns between two differences are written again, where
    that is shorter than to step over them, as it is in such a text.
    """
    for found in RUN.finditer(changed):
        first, end = found.span()
        text = _ascii(after[first:end])
        if not text and 0 in found[0]:
            for gap in GAP.finditer(changed, first, end):
                if not _is_cheap(after, *gap.span()):
                    stop = _end(after, gap.start())
                    yield first, stop, _ascii(after[first:stop])
                    first = gap.end()
            text = _ascii(after[first:end])
        yield first, _end(after, end), text


def _ascii(run: list[Cell]) -> str:
    """Return the text of a run if it is ASCII in one role; else nothing."""
    role = run[0][1]
    text = "".join([cluster for cluster, other in run if other == role])
    return text if len(text) == len(run) and text.isascii() else ""


def _end(after: list[Cell], stop: int) -> int:
    """Return where a run ends: not within a wide cluster."""
    while stop < len(after) and not after[stop][0]:
        stop += 1
    return stop


def _is_cheap(after: list[Cell], first: int, stop: int) -> bool:
    """Return True if columns between two that are written cost less than a step over them."""
    role = after[first][1]
    if role not in (after[first - 1][1], after[stop][1]):
        return False
    size = 0
    for cluster, other in after[first:stop]:
        if other != role:
            return False
        size += len(cluster.encode())
    return size <= len(cuf(stop - first))
