"""How long work is shown: a row for each piece of it.

A row is made of parts in a fixed order (``PARTS``). Of those that the terminal has no room for the last ones are left
out, in all rows alike, so that each part is a column. The bar takes what is left, up to ``WIDEST_BAR``; it is drawn
with the two roles ``bar`` and ``bar-rest`` on blanks, and nothing but the share says how far it is to who sees neither.

    label     right-aligned, as in a card
    bar       only with a total
    share     the same in percent
    count     of the total, if there is one
    rate      once it is known
    left      once it is known; else for how long the work has gone on
"""

from __future__ import annotations

from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.widgets.work_texts import counted, left_of, rate_of, share_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.screen.frame import Row
    from wesperon.widgets.work_texts import Standing

#: The parts of a row in the order in which they are taken in.
PARTS = ("label", "bar", "share", "count", "rate", "left")
#: The columns of a bar; a label takes no more than this part of the row.
NARROWEST_BAR, WIDEST_BAR, LABEL_PART = 4, 24, 3
#: From this width on there are two blanks between two parts.
WIDE = 50


def rows_of(standings: Sequence[Standing], columns: int) -> tuple[Row, ...]:
    """Return a row for each piece of work, no wider than ``columns``."""
    texts = [_texts(standing, columns) for standing in standings]
    widths = [max((width(row[number]) for row in texts), default=0) for number in range(len(PARTS))]
    has_bar = any(standing.share is not None for standing in standings)
    widths[PARTS.index("bar")] = NARROWEST_BAR if has_bar else 0
    gap = 2 if columns >= WIDE else 1
    used = 0
    shown: list[int] = []
    for number, wide in enumerate(widths):
        if not wide:
            continue
        if shown and used + gap + wide > columns:
            break
        widths[number] = wide = min(wide, columns)
        used += gap * bool(shown) + wide
        shown.append(number)
    if PARTS.index("bar") in shown:
        widths[PARTS.index("bar")] += min(columns - used, WIDEST_BAR - NARROWEST_BAR)
    return tuple(_row(standing, row, widths, shown, " " * gap) for standing, row in zip(standings, texts, strict=True))


def _texts(standing: Standing, columns: int) -> tuple[str, ...]:
    """Return the parts of a row as texts, each empty if there is nothing to say; that of the bar always is."""
    label = cut(visible(standing.label.partition("\n")[0]), max(columns // LABEL_PART, 8))
    return label, "", share_of(standing), counted(standing), rate_of(standing), left_of(standing)


def _row(standing: Standing, texts: Sequence[str], widths: Sequence[int], shown: Sequence[int], gap: str) -> Row:
    spans: list[tuple[str, str]] = []
    for number in shown:
        wide = widths[number]
        text = cut(texts[number], wide)
        if spans:
            spans.append((gap, ""))
        if PARTS[number] == "bar":
            spans += bar(standing.share, wide)
        else:
            room = " " * (wide - width(text))
            spans.append((room + text, "label" if PARTS[number] == "label" else ""))
    while spans and not spans[-1][0].strip() and not spans[-1][1]:
        spans.pop()
    return tuple(spans)


def bar(share: float | None, columns: int) -> list[tuple[str, str]]:
    """Return a bar of so many ``columns`` as spans; blanks if the share is not known."""
    if share is None:
        return [(" " * columns, "")]
    full = int(share * columns + 1e-9)
    return [(" " * cells, role) for cells, role in ((full, "bar"), (columns - full, "bar-rest")) if cells]
