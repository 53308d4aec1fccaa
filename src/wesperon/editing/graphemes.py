"""Where one character ends, as the reader sees characters: grapheme clusters (Unicode Standard Annex 29).

In ASCII text every character is a cluster of its own, and no table is loaded for it.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable


def clusters(text: str) -> Iterable[str]:
    """Return the clusters of a text, in order."""
    if text.isascii():
        return text
    from wcwidth import iter_graphemes

    return iter_graphemes(text)


def after(text: str, at: int) -> int:
    """Return the offset of the end of the cluster that begins at ``at``; the end of the text if there is none."""
    if at + 1 >= len(text) or (text[at].isascii() and text[at + 1].isascii()):
        return min(at + 1, len(text))
    from wcwidth import iter_graphemes

    return at + len(next(iter(iter_graphemes(text, at))))


def before(text: str, at: int) -> int:
    """Return the offset of the beginning of the cluster that ends at ``at``; 0 if there is none."""
    if at <= 1 or (text[at - 1].isascii() and text[at - 2].isascii()):
        return max(at - 1, 0)
    from wcwidth import grapheme_boundary_before

    return int(grapheme_boundary_before(text, at))


def snap_to_grapheme(text: str, at: int) -> int:
    """Return the nearest offset at or after ``at`` where a cluster ends: a cursor never is inside one."""
    if at <= 0 or at >= len(text) or (text[at - 1].isascii() and text[at].isascii()):
        return min(max(at, 0), len(text))
    from wcwidth import grapheme_boundary_before

    # The last boundary before the next character is ``at`` itself, unless it lies inside a cluster.
    start = int(grapheme_boundary_before(text, at + 1))
    return at if start == at else after(text, start)


def columns_of(text: str) -> int:
    """Return the columns that a text takes; it holds no control characters (see ``text.escape``)."""
    if text.isascii():
        return len(text)
    from wcwidth import wcswidth

    return max(int(wcswidth(text)), 0)
