"""What the pager says in its last row: which part of the text is in sight, what goes on, and what the keys do."""

from __future__ import annotations

from wesperon.screen.layout import foot_row
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Row
    from wesperon.widgets.pager.pager import Pager
    from wesperon.widgets.pager.text_view import TextView

FOOT = "Space: on   /: search   F1: all keys   q: leave"
FOOT_OF_PICKS = "Space: mark   Enter: accept   /: search   F1: all keys   q: leave"
FOOT_OF_HELP = "q: back"
#: So narrow a screen has no scroll bar.
LEAST_FOR_BAR = 20
#: The least width of the numbers of lines.
LEAST_NUMBER = 4
#: The columns that the name of a text has at most.
MOST_NAMED = 30


def number_width(view: TextView) -> int:
    """Return the columns of the longest number in sight, by what is known of the text."""
    place = view.top[0] if view.top is not None else 0
    known = view.numbers.number(place)
    return LEAST_NUMBER if known is None else max(len(str(known + view.room)), LEAST_NUMBER)


def row_width(row: Row) -> int:
    """Return the columns that a row takes."""
    return sum(width(text) for text, _ in row)


def bar(first: int, last: int, size: int, rows: int) -> tuple[int, int]:
    """Return which rows of the scroll bar say what is in sight: the bytes from ``first`` to ``last`` of ``size``."""
    begin = min(first * rows // max(size, 1), rows - 1)
    end = max(-(-last * rows // max(size, 1)), begin + 1)
    return begin, min(end, rows)


def foot_of(pager: Pager, view: TextView, columns: int, fault: str) -> Row:
    """Return the last row: what is wrong or was said last, else the keys and the part in sight."""
    said = pager.message or view.source.said
    if fault or said:
        return ((cut("  " + (fault or said), max(columns - 1, 1)), "reason" if fault else "note"),)
    if pager.help is not None:
        keys = tell(FOOT_OF_HELP)
    elif doing := _doing(pager, view):
        keys = doing
    else:
        keys = tell(FOOT_OF_PICKS if pager.picks else FOOT)
    return foot_row(keys, columns, "  ".join(position(pager, view)))


def _doing(pager: Pager, view: TextView) -> str:
    """Return what goes on, and how it is stopped; empty if nothing does."""
    if pager.search.is_on:
        scan = pager.search.scan
        size = len(view.source.data)
        done = 0 if scan is None or not size else (size - scan.at if scan.back else scan.at) * 100 // size
        return tell("searching, {share}%   Ctrl-C: stop", share=done)
    if pager.goes_to_end:
        return tell("reading to the end   Ctrl-C: stop")
    if pager.seeks_line:
        return tell("counting lines   Ctrl-C: stop")
    if view.follows:
        return tell("following the end   Ctrl-C: stop")
    return ""


def position(pager: Pager, view: TextView) -> list[str]:
    """Return which part of which text is in sight, in words."""
    parts = []
    if view.source.name:
        parts.append(cut(visible(view.source.name), MOST_NAMED))
    if len(pager.views) > 1 and pager.help is None:
        parts.append(tell("{number} of {count}", number=pager.number + 1, count=len(pager.views)))
    shown = view.rows(view.top, view.room)
    if shown:
        parts += _in_sight(view, shown[0][0], shown[-1][0])
    else:
        parts.append(tell("empty") if view.source.is_whole else tell("nothing yet"))
    needle, hits = pager.search.needle, view.hits
    if needle is not None and hits is not None:
        more = "+" if not (hits.is_done and view.source.is_whole) or hits.is_full else ""
        count = f"{len(hits.starts):,}{more}"
        if view.hit is not None and hits.at > view.hit:
            parts.append(tell("hit {number} of {count}", number=f"{hits.rank(view.hit):,}", count=count))
        else:
            parts.append(tell("{count} hits", count=count))
    if pager.picked:
        parts.append(tell("{count} marked", count=len(pager.picked)))
    return parts


def _in_sight(view: TextView, first: int, last: int) -> list[str]:
    """Return the numbers of the lines in sight, as far as they are known, and the share of the text up to the last."""
    size = len(view.source.data)
    after = view.layout.piece(last).after
    numbers = view.numbers.number(first), view.numbers.number(last)
    parts = []
    if numbers[0] is not None and numbers[1] is not None:
        total = view.numbers.number(size) if view.source.is_whole else None
        of = ""
        if total is not None:
            ends = view.source.data[size - 1 : size] == b"\n"
            of = tell(" of {count}", count=f"{total - ends:,}")
        parts.append(f"{numbers[0]:,}-{numbers[1]:,}{of}")
    if view.source.is_whole:
        parts.append(tell("end") if after >= size else f"{after * 100 // max(size, 1)}%")
    return parts
