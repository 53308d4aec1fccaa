"""What a word may become, listed below its line."""

from __future__ import annotations

from wesperon.screen.layout import in_columns
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values.candidate import INLINE, LIST

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.screen.frame import Row
    from wesperon.values.candidate import Candidate


def candidate_rows(candidates: Sequence[Candidate], columns: int, style: str, most: int) -> list[Row]:
    """Return the candidates in at most ``most`` rows; a list if any has a note, unless ``style`` says otherwise."""
    if style == INLINE:
        return []
    if style == LIST or (not style and any(one.note for one in candidates)):
        return _list(candidates, columns, most)
    rows = in_columns([one.shown or one.text for one in candidates], columns)
    if len(rows) > most:
        rows[most - 1 :] = [tell("and more: type on")]
    return [((row, "note"),) for row in rows]


def _list(candidates: Sequence[Candidate], columns: int, most: int) -> list[Row]:
    shown = candidates if len(candidates) <= most else candidates[: most - 1]
    labels = [cut(visible(one.shown or one.text), columns) for one in shown]
    gutter = min(max(map(width, labels)), 2 * columns // 3)
    rows: list[Row] = []
    for label, one in zip(labels, shown, strict=True):
        gap = max(gutter - width(label), 0) + 2
        room = columns - width(label) - gap
        note = ((" " * gap, ""), (cut(visible(one.note), room), "note")) if one.note and room > 3 else ()
        rows.append(((label, ""), *note))
    if len(shown) < len(candidates):
        rows.append(((cut(tell("and {count} more: type on", count=len(candidates) - len(shown)), columns), "note"),))
    return rows
