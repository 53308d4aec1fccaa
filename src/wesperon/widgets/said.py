"""What stands under a value that is asked for: sentences in rows, candidates in columns."""

from __future__ import annotations

from wesperon.core.visible import visible
from wesperon.screen.width import cut, width, wrap

#: The most rows of what is said about a text.
MOST_SAID = 4


def bounded(text: str, columns: int) -> list[str]:
    """A sentence in rows, in no more than so many; none where it is empty."""
    if not text:
        return []
    rows = wrap(text[: MOST_SAID * columns + 1], columns)
    return rows if len(rows) <= MOST_SAID else [*rows[: MOST_SAID - 1], cut(rows[MOST_SAID - 1] + "....", columns)]


def shared_beginning(texts: list[str]) -> str:
    """The longest text that all of these begin with, in the letter case of the first."""
    first, last = min(texts, key=str.casefold), max(texts, key=str.casefold)
    at = 0
    while at < min(len(first), len(last)) and first[at].casefold() == last[at].casefold():
        at += 1
    return texts[0][:at]


def in_columns(texts: list[str], columns: int) -> list[str]:
    """The texts in rows, aligned in as many columns as fit, to be read downwards."""
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
