"""The lines of a text that are picked: which one keys mark, which are marked, and what is shown of that before them."""

from __future__ import annotations

from wesperon.screen.layout import CURRENT_MARK
from wesperon.widgets.pager.needle import decoded

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Span
    from wesperon.widgets.pager.text_view import TextView

#: What is before a line, without and with its mark.
UNMARKED, MARKED = "[ ] ", "[x] "
#: The most pieces of one line whose text is handed on.
MOST_PIECES = 100


class Picks:
    """The lines that were marked, each by the number of its text and by where it begins."""

    #: The columns before a line.
    WIDTH = len(CURRENT_MARK) + len(MARKED)

    def __init__(self) -> None:
        self.marked: dict[tuple[int, int], str] = {}
        #: Where the line begins that keys mark.
        self.at: int | None = None

    @property
    def lines(self) -> list[str]:
        """The lines that are marked, in their order."""
        return [text for _, text in sorted(self.marked.items())]

    def current(self, view: TextView) -> int | None:
        """Return the line that keys mark: the first in sight, if the last one is out of sight; None if none is."""
        shown = [start for start, _ in view.rows(view.top, view.room)]
        if self.at not in shown:
            self.at = shown[0] if shown else None
        return self.at

    def move(self, view: TextView, by: int) -> None:
        """Go so many lines down, or up, and keep the line in sight."""
        at = self.current(view)
        for _ in range(abs(by)):
            following = None if at is None else view.order.after(at) if by > 0 else view.order.before(at)
            if following is None:
                break
            at = following
        self.at = at
        if at is None or (at, 0) in view.rows(view.top, view.room):
            return
        view.top = view.in_bounds(view.moved((at, 0), 0 if by < 0 else 1 - view.room))

    def toggle(self, view: TextView, number: int) -> None:
        """Mark the current line of the text of a number, or take its mark away, and go to the next."""
        at = self.current(view)
        if at is None:
            return
        if self.marked.pop((number, at), None) is None:
            self.marked[number, at] = line_at(view, at)
        self.move(view, 1)

    def forget(self, number: int) -> None:
        """Forget the marks in a text that has become another one."""
        self.at = None
        self.marked = {key: text for key, text in self.marked.items() if key[0] != number}

    def gutter(self, number: int, place: tuple[int, int]) -> list[Span]:
        """Return what is before a row of the text of a number: whether its line is current, and whether marked."""
        start, row = place
        if row:
            return [(" " * self.WIDTH, "")]
        current = (CURRENT_MARK, "current") if start == self.at else (" " * len(CURRENT_MARK), "")
        is_marked = (number, start) in self.marked
        return [current, (MARKED if is_marked else UNMARKED, "marked" if is_marked else "")]


def line_at(view: TextView, start: int) -> str:
    """Return the text of the line that the piece at an offset is a part of."""
    at: int | None = view.pieces.line_start(start)
    parts: list[bytes] = []
    while at is not None and len(parts) < MOST_PIECES:
        end, after = view.pieces.end(at)
        parts.append(view.source.data[at:end])
        at = after if after == end and after < len(view.source.data) else None
    return decoded(b"".join(parts))
