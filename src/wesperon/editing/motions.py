"""Motions: how far an operator goes, as a range of the text.

A motion leads from the cursor to another offset. The range between them is by character, with or without the character
at its far end (*inclusive*, *exclusive*), or by line, as POSIX has it for ``vi``. ``MOTIONS`` names every movement that
can be a motion.
"""

from __future__ import annotations

from wesperon.editing.brackets import matching
from wesperon.editing.edits import MOVES, line_end, line_start
from wesperon.editing.graphemes import after
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

EXCLUSIVE, INCLUSIVE, LINEWISE = "exclusive", "inclusive", "linewise"


class TextRange(Frozen):
    """A stretch of a text between two offsets; ``linewise``: it holds whole lines, line ends included."""

    start: int
    end: int
    linewise: bool = False


class Motion(Frozen):
    """A movement as a motion: one step of it, and of which kind the range is."""

    step: Callable[[str, int], int]
    kind: str = EXCLUSIVE


def _line_up(text: str, at: int) -> int:
    return line_start(text, max(line_start(text, at) - 1, 0))


def _line_down(text: str, at: int) -> int:
    return min(line_end(text, at) + 1, len(text))


def _to_bracket(text: str, at: int) -> int:
    pair = matching(text, at)
    return at if pair is None else pair[1]


#: Every motion by the name of its movement.
MOTIONS: dict[str, Motion] = {
    **{name: Motion(step) for name, step in MOVES.items()},
    "move-up": Motion(_line_up, LINEWISE),
    "move-down": Motion(_line_down, LINEWISE),
    "move-line-whole": Motion(_line_down, LINEWISE),
    "move-bracket-match": Motion(_to_bracket, INCLUSIVE),
}


def range_of(text: str, cursor: int, name: str, count: int = 1) -> TextRange:
    """The range from the cursor along a motion, ``count`` steps of it; empty if the motion leads nowhere.

    Of ``move-line-whole`` the count is the number of lines.
    """
    motion = MOTIONS[name]
    there = cursor
    for _ in range(count - (name == "move-line-whole")):
        further = motion.step(text, there)
        if further == there:
            break
        there = further
    start, end = min(cursor, there), max(cursor, there)
    if motion.kind == LINEWISE:
        if there == cursor and name != "move-line-whole":
            return TextRange(cursor, cursor)
        return TextRange(line_start(text, start), min(line_end(text, end) + 1, len(text)), True)
    return TextRange(start, after(text, end) if motion.kind == INCLUSIVE and start < end else end)
