"""The operators of the modal family, and what else makes another text of lines: pure functions.

What an operator acts on is a :class:`Span`: characters between two offsets, or whole lines. A block of columns is a
span for each of its rows (``selection``).
"""

from __future__ import annotations

from wesperon.editing.edits import line_end
from wesperon.editing.modal.sentences import ENDS
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

#: By how many blanks lines are shifted.
SHIFT = 4


class Span(Frozen):
    """What an operator acts on.

    ``start`` and ``end`` are offsets; of whole ``lines`` the start of the first and the end of the last, without its
    line end. ``cursor`` is where the cursor goes if the text stays. ``is_large``: what is deleted is kept with the
    large ones.
    """

    start: int
    end: int
    cursor: int
    lines: bool = False
    is_large: bool = False


def shifted_forward(text: str) -> str:
    """Lines with more blanks before them; empty ones stay empty."""
    return "\n".join([" " * SHIFT + row if row else row for row in text.split("\n")])


def shifted_back(text: str) -> str:
    """Lines with fewer blanks before them."""
    return "\n".join([row[min(len(row) - len(row.lstrip(" ")), SHIFT) :] for row in text.split("\n")])


#: The operators, each with what it makes of a text; None for those that take it away or copy it.
OPERATORS: dict[str, Callable[[str], str] | None] = {
    "delete": None,
    "change": None,
    "copy": None,
    "toggle-case": str.swapcase,
    "lowercase": str.lower,
    "uppercase": str.upper,
    "shift-forward": shifted_forward,
    "shift-back": shifted_back,
}
#: The most characters of a text that is put in several times.
MOST_CHARS = 5_000_000
SHIFTS = ("shift-forward", "shift-back")
#: Commands that are an operator and a motion in one.
SHORT: dict[str, tuple[str, str]] = {
    "delete-char": ("delete", "move-column-forward"),
    "delete-char-before": ("delete", "move-column-back"),
    "delete-to-line-end": ("delete", "move-line-last-char"),
    "change-to-line-end": ("change", "move-line-last-char"),
    "change-char": ("change", "move-column-forward"),
    "change-line": ("change", "move-line-whole"),
    "copy-line": ("copy", "move-line-whole"),
}


def bounded(count: int, text: str) -> int:
    """``count``, bounded by how long the text becomes."""
    return max(min(count, MOST_CHARS // max(len(text), 1)), 1)


def joined(text: str, at: int, times: int, *, with_blanks: bool) -> tuple[str, int] | None:
    """Return the text with the next lines at the end of the one of an offset, and where the last joint is.

    Return None without any.

    With blanks, those that begin a line give way to one, to two after the end of a sentence, to none before ``)``;
    without, lines are joined as they are.
    """
    if line_end(text, at) == len(text):
        return None
    row = text[text.rfind("\n", 0, at) + 1 : line_end(text, at)]
    has_text = bool(row)
    for _ in range(times):
        end = line_end(text, at)
        if end == len(text):
            break
        tail = text[end + 1 :].lstrip(" \t") if with_blanks else text[end + 1 :]
        following = tail[: line_end(tail, 0)]
        joint = _joint(row, following) if with_blanks and has_text else ""
        row, has_text, at = following, has_text or bool(following), end
        text = text[:end] + joint + tail
    return text, at


def _joint(row: str, following: str) -> str:
    """Return what is put between two rows that are joined."""
    if not following or following[0] == ")":
        return ""
    ends = row.removesuffix(" ")[-1:] in tuple(ENDS)
    return " " * (ends + (not row.endswith(" ")))
