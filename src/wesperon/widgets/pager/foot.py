"""What the pager says in its last row: what was said or is wrong, else what the keys do and which part is in sight."""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.layout import foot_row
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Row
    from wesperon.widgets.pager.text_view import TextView

    #: Pieces by where they begin, each with a row of it.
    Shown = list[tuple[int, int]]

FOOT = "Space: on   q: leave   /: search   F1: all keys"
FOOT_OF_PICKS = "Space: mark   Enter: accept   q: leave   /: search   F1: all keys"
FOOT_OF_HELP = "q: back"
#: So narrow a screen has no scroll bar.
LEAST_FOR_BAR = 20
#: The least width of the numbers of lines.
LEAST_NUMBER = 4
#: How many keys are needed more than where the text is.
FIRST = 2
#: The columns between these keys and the part in sight, and around them.
LEAST_BESIDE = 6
#: The columns that the name of a text has at most.
MOST_NAMED = 20


class Foot(Frozen):
    """What the row says.

    ``fault`` is what is wrong, ``said`` what was said last, ``keys`` what the keys do; ``number`` of ``count`` is which
    text of several is shown; ``searches``: hits are marked in it; ``marked`` is how many lines are.
    """

    fault: str
    said: str
    keys: str
    number: int = 1
    count: int = 1
    searches: bool = False
    marked: int = 0

    def row(self, view: TextView, shown: Shown, columns: int) -> Row:
        """Return the row for a text, of which ``shown`` are the pieces and rows in sight."""
        said = self.fault or self.said
        if said:
            return ((cut("  " + said, max(columns - 1, 1)), "reason" if self.fault else "note"),)
        parts = self.position(view, shown)
        first = "   ".join(self.keys.split("   ")[:FIRST])
        room = columns - width(first) - LEAST_BESIDE
        while len(parts) > 1 and width("  ".join(parts)) > room:  # the name of the text goes first
            del parts[0]
        return foot_row(self.keys, columns, "  ".join(parts), first=FIRST)

    def position(self, view: TextView, shown: Shown) -> list[str]:
        """Return which part of which text is in sight, in words."""
        parts = []
        if view.source.name:
            parts.append(end_of(visible(view.source.name), MOST_NAMED))
        if self.count > 1:
            parts.append(tell("{number} of {count}", number=self.number, count=self.count))
        if shown:
            parts += in_sight(view, shown[0][0], shown[-1][0])
        elif view.around is None:
            parts.append(tell("empty") if view.source.is_whole else tell("nothing yet"))
        if self.searches:
            parts.append(hits_of(view))
        if self.marked:
            parts.append(tell("{count} marked", count=f"{self.marked:,}"))
        return parts


def end_of(name: str, columns: int) -> str:
    """Return a name, or as much of its end as fits."""
    if width(name) <= columns:
        return name
    while width(name) > columns - 3:
        name = name[1:]
    return "..." + name


def in_sight(view: TextView, first: int, last: int) -> list[str]:
    """Return the numbers of the lines in sight, as far as they are known, and the share of the text up to the last."""
    size = len(view.source.data)
    after = view.layout.piece(last).after
    numbers = view.numbers.number(first), view.numbers.number(last)
    parts = []
    if numbers[0] is not None and numbers[1] is not None:
        total = view.numbers.number(size) if view.source.is_whole else None
        if total is not None:
            total -= view.source.data[size - 1 : size] == b"\n"
        of = "" if total is None else tell(" of {count}", count=f"{total:,}")
        parts.append(f"{numbers[0]:,}-{numbers[1]:,}{of}")
    if view.source.is_whole:
        parts.append(tell("end") if after >= size else f"{after * 100 // max(size, 1)}%")
    return parts


def hits_of(view: TextView) -> str:
    """Return which hit was found last, and how many there are by now: a plus sign says that there may be more."""
    hits = view.hits
    if hits is None:
        return ""
    count = f"{len(hits.starts):,}"
    if hits.is_full or not (hits.is_done and view.source.is_whole):
        count += "+"
    if view.hit is not None and hits.at > view.hit:
        return tell("hit {number} of {count}", number=f"{hits.rank(view.hit):,}", count=count)
    return tell("{count} hits", count=count)


def number_width(view: TextView) -> int:
    """Return the columns of the longest number in sight, by what is known of the text."""
    known = view.numbers.number(view.top[0] if view.top is not None else 0)
    return LEAST_NUMBER if known is None else max(len(str(known + view.room)), LEAST_NUMBER)


def with_bar(rows: list[Row], view: TextView, shown: Shown, columns: int) -> list[Row]:
    """Return the rows with a scroll bar in the last column, as far as they leave it free.

    It says what is in sight by bytes. Rows that are full stay as they are: a text that is as wide as the screen is not
    broken for it.
    """
    if not shown or columns < LEAST_FOR_BAR or len(shown) < view.room or not view.source.is_whole:
        return rows
    size, count = max(len(view.source.data), 1), len(rows)
    first = min(shown[0][0] * count // size, count - 1)
    last = min(max(-(-view.layout.piece(shown[-1][0]).after * count // size), first + 1), count)
    if (first, last) == (0, count):
        return rows
    made = []
    for at, row in enumerate(rows):
        free = columns - 1 - sum(width(text) for text, _ in row)
        made.append((*row, (" " * free, ""), (" ", "bar")) if free >= 0 and first <= at < last else row)
    return made
