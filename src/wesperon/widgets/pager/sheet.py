"""What the pager draws: the heading, the rows in sight with what is before them, the scroll bar, the last row."""

from __future__ import annotations

from wesperon.screen.frame import ClickMap, Frame
from wesperon.widgets.pager.foot import number_width, with_bar
from wesperon.widgets.pager.picks import Picks

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Row
    from wesperon.widgets.pager.foot import Foot
    from wesperon.widgets.pager.text_view import TextView
    from wesperon.widgets.typed_row import TypedRow

#: Columns between the number of a line and the line.
BETWEEN = 2


class Sheet:
    """A text on a screen of so many ``columns`` and ``rows``.

    ``picks`` are the lines that are picked in it, None if none can be, ``number`` is that of the text among several;
    ``has_numbers``: those of lines are shown. ``typed`` is what is typed in the last row.
    """

    def __init__(
        self,
        view: TextView,
        columns: int,
        rows: int,
        *,
        picks: Picks | None,
        number: int,
        has_numbers: bool,
        typed: TypedRow | None,
    ) -> None:
        self.view = view
        self.columns = columns
        self.rows = rows
        self.picks = picks
        self.number = number
        self.has_numbers = has_numbers
        self.typed = typed
        self.has_foot = rows > 1 or typed is not None
        numbers = number_width(view) + BETWEEN if has_numbers else 0
        gutter = numbers + (Picks.WIDTH if picks is not None else 0)
        #: The pieces and rows of the heading; the text view has the room below it.
        self.heading = view.fit(max(columns - gutter, 1), rows - self.has_foot)

    def frame(self, foot: Foot | None) -> Frame:
        """Return the frame; without a ``foot``, the rows that may stay on the screen."""
        view, heading = self.view, self.heading
        shown = view.rows(view.top, view.room)
        made: list[Row] = [
            *[titled(self._row(place)) for place in heading],
            *with_bar([self._row(place) for place in shown], view, shown, self.columns),
        ]
        if foot is None:
            return Frame(tuple(made))
        made += [()] * (len(heading) + view.room - len(made))
        hits = (*[None for _ in heading], *[start for start, _ in shown])
        if not self.has_foot:
            return Frame(tuple(made), clicks=ClickMap(hits=hits))
        del made[max(self.rows - 1, 0) :]
        if self.typed is not None:
            row, cursor = self.typed.view(self.columns)
            return Frame((*made, row), (len(made), cursor))
        row = foot.row(view, shown, self.columns)
        # The cursor is where reading goes on: a screen reader begins there.
        current = view.hit if self.picks is None else self.picks.at
        places = [at for at, (start, _) in enumerate(shown, len(heading)) if start == current]
        return Frame((*made, row), (places[0] if places else len(heading), 0), clicks=ClickMap(hits=hits))

    def _row(self, place: tuple[int, int]) -> Row:
        """Return a row with what is before it."""
        view, (start, number) = self.view, place
        before = [] if self.picks is None else self.picks.gutter(self.number, place)
        if self.has_numbers:
            is_first = number == 0 and view.pieces.is_line_start(start)
            found = view.numbers.number(start) if is_first else None
            before.append((f"{'' if found is None else found:>{number_width(view)}}" + " " * BETWEEN, "note"))
        row = view.row(place)
        return (*before, *row) if before else row


def titled(row: Row) -> Row:
    """Return a row of the heading as one."""
    return tuple([(text, role or "title") for text, role in row])
