"""How many columns a text takes on the terminal. ASCII needs no table."""

from __future__ import annotations

from wesperon.editing.graphemes import clusters
from wesperon.editing.graphemes import columns_of as width
from wesperon.text.escape import is_plain, visible

#: Asks for the form of a character that is drawn as a picture; terminals differ on its width.
VARIATION_16 = "\ufe0f"

__all__ = ["cut", "head", "is_certain", "width", "wrap"]


def is_certain(cluster: str) -> bool:
    """Return True if every terminal agrees on the width of a cluster.

    They do for single characters of the older ranges, and for a letter with combining marks; they differ on emoji
    and on what is joined, so that the cursor must be placed again after these.
    """
    if len(cluster) == 1:
        return cluster < "\U0001f000"
    return cluster[0] < "\u0900" and VARIATION_16 not in cluster


def cut(text: str, columns: int) -> str:
    """Return the text, or as much of it as fits before ``...``; never wider than ``columns``."""
    if is_plain(text[: columns + 1]) and len(text) <= columns:
        return text
    text = visible(text[: 4 * columns + 16] if len(text) > 8 * columns + 64 else text)
    if width(text) <= columns:
        return text
    dots = "..." if columns > 3 else ""
    return head(text, columns - len(dots)) + dots


def head(text: str, columns: int) -> str:
    """As many clusters from the beginning of the text as fit into the columns."""
    if text.isascii():
        return text[: max(columns, 0)]
    kept, used = [], 0
    for cluster in clusters(text):
        used += width(cluster)
        if used > columns:
            break
        kept.append(cluster)
    return "".join(kept)


def wrap(text: str, columns: int) -> list[str]:
    """Return the text in rows no wider than ``columns``, broken at blanks if there are any; at least one row.

    Blanks at its beginning stay.
    """
    columns = max(columns, 1)
    rows: list[str] = []
    row = ""
    text = visible(text)
    bare = text.lstrip(" ")
    indent = " " * (len(text) - len(bare)) if bare else ""
    for word in bare.split(" "):
        joined = f"{row} {word}" if row else word if rows else indent + word
        if width(joined) <= columns:
            row = joined
            continue
        if row:
            rows.append(row)
        row = word
        while width(row) > columns:
            piece = head(row, columns)
            rows.append(piece or " ")  # one wide character in a single column is a blank, as half of it would be
            row = row[len(piece or next(iter(clusters(row)))) :]
    return [*rows, row]
