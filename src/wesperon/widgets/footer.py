"""What is under a value that is asked for: sentences in rows, candidates in columns."""

from __future__ import annotations

from wesperon.frozen import remembered
from wesperon.screen.layout import MARGIN
from wesperon.screen.width import cut, width, wrap
from wesperon.text.escape import visible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Row

#: The most rows of what is said about a text.
MOST_SAID = 4


def wrap_limited(text: str, columns: int) -> list[str]:
    """Return a sentence wrapped into a few rows; no row if it is empty."""
    if not text:
        return []
    rows = wrap(text[: MOST_SAID * columns + 1], columns)
    return rows if len(rows) <= MOST_SAID else [*rows[: MOST_SAID - 1], cut(rows[MOST_SAID - 1] + "....", columns)]


def in_columns(texts: list[str], columns: int) -> list[str]:
    """Return the texts in rows, aligned in as many columns as fit, to be read downwards."""
    texts = [visible(text) for text in texts]
    cell = max(width(text) for text in texts) + 2
    across = max((columns + 2) // cell, 1)
    down = -(-len(texts) // across)
    rows = []
    for row in range(down):
        parts = [cut(text, columns) for text in texts[row::down]]
        padded = [part + " " * (cell - width(part)) for part in parts[:-1]] + parts[-1:]
        rows.append("".join(padded))
    return rows


@remembered(64)
def foot_row(keys: str, columns: int, said: str = "", more: str = "", first: int = 1) -> Row:
    """Return what the keys do, further keys, and after them what the value must be, or the position in a list.

    The parts of ``keys`` and ``more`` are three blanks apart, the most needed ones of ``keys`` first: if there is
    no room for all, its ``first`` ones are needed most, then ``said``, the second key, ``more``, and the last of
    ``keys``, which leaves. No part is shown without those that are needed more.
    """
    own, further, room = keys.split("   "), more.split("   ") if more else [], columns - 1
    order = [*own[:-1], *further, own[-1], said] if len(own) > 1 else [*own, *further, said]
    kept: list[str] = []
    for part in filter(None, dict.fromkeys([*own[:first], said, *own[1:2], *further, own[-1], *own[2:]])):
        if kept and width("   ".join([*kept, part])) > room:
            break
        kept.append(part)
    text = "   ".join([part for part in order if part in kept])
    margin = " " * MARGIN if width(text) + MARGIN <= room else ""
    return ((cut(margin + text, room), "foot"),)
