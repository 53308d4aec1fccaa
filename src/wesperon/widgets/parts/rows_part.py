"""Parts that show rows of which some are in sight: lists, tables, messages. What is not in sight costs nothing."""

from __future__ import annotations

from wesperon.screen.frame import ClickMap, Frame, fitted
from wesperon.text.messages import tell
from wesperon.widgets.parts.part import Part, scroll_cell
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, ClassVar

    from wesperon.editing.keys.events import Mouse
    from wesperon.screen.frame import Row

#: How many rows a list wants if nobody says more, and the least that it can do with.
WANTED_ROWS, LEAST_ROWS = 8, 2


class RowsPart(Part):
    """Rows, of which ``at`` is current; ``top`` is the first in sight.

    A part of its own defines ``count``, ``row``, and what Enter does (``enter``).
    """

    takes_focus = fills_down = rolls = True

    def __init__(self, **place: Any) -> None:
        super().__init__(**place)
        self.at = self.top = 0
        self._room = 1
        self._viewed = (0, 1)

    @property
    def count(self) -> int:
        """How many rows there are."""
        raise NotImplementedError

    def rows_in_sight(self, first: int, count: int, columns: int) -> Sequence[Row]:
        """Return so many rows from one on, no wider than the box."""
        raise NotImplementedError

    @property
    def heading_rows(self) -> int:
        """How many rows stay above the others."""
        return 0

    def heading(self, columns: int) -> Sequence[Row]:
        """Return these rows, of which the columns are those of the others."""
        return ()

    def enter(self) -> None:
        """Do what Enter does on the current row."""

    def moved(self) -> None:
        """Take note that another row is current, by the user's doing."""
        self.changed()

    # Keys ------------------------------------------------------------------------------------------------------------

    def go(self, at: int) -> None:
        """Make another row current."""
        before = self.at
        self.at = min(max(at, 0), max(self.count - 1, 0))
        self.top = max(min(self.top, self.at), self.at - self._room + 1, 0)  # as a view between two keys has it
        self.stale()
        if self.at != before:
            self.moved()

    def up(self) -> None:
        """To the row above."""
        self.go(self.at - self.action.times)

    def down(self) -> None:
        """To the row below."""
        self.go(self.at + self.action.times)

    def page_up(self) -> None:
        """Up by as many rows as are in sight."""
        self.go(self.at - max(self._room - 1, 1))

    def page_down(self) -> None:
        """Down by as many rows as are in sight."""
        self.go(self.at + max(self._room - 1, 1))

    def first(self) -> None:
        """To the first row."""
        self.go(0)

    def last(self) -> None:
        """To the last row."""
        self.go(self.count - 1)

    def wheel(self, by: int) -> None:
        """See ``Widget``."""
        self.go(self.at + 3 * by)

    def click(self, event: Mouse) -> None:
        """See ``Widget``: the row that is hit becomes current; a click on the current one is Enter."""
        if not isinstance(event.hit, int):
            return
        if event.hit == self.at:
            self.enter()
        else:
            self.go(event.hit)

    def status(self) -> str:
        """See ``Widget``."""
        if not self.count:
            return tell("empty")
        return tell("{at} of {count}", at=f"{self.at + 1:,}", count=f"{self.count:,}")

    # View ------------------------------------------------------------------------------------------------------------

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        heading = self.heading_rows
        return SizeHint(8, LEAST_ROWS + heading, 24, WANTED_ROWS + heading)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        count = self.count
        at = min(self.at, max(count - 1, 0))
        above = min(self.heading_rows, max(rows - 1, 0))
        room = max(rows - above, 1)
        top = max(min(self.top, at), at - room + 1, 0)
        top = max(min(top, count - room), 0)
        self._viewed = top, room
        has_bar = count > room > 2 and columns > 12
        wide = columns - 2 if has_bar else columns
        heading = [fitted(row, wide) for row in self.heading(wide)][:above]
        shown = [*self.rows_in_sight(top, min(room, count - top), wide)]
        if has_bar:
            shown = [
                (*fitted(row, wide), (" ", ""), scroll_cell(number, top, room, count))
                for number, row in enumerate(shown)
            ]
        hits = (*([None] * len(heading)), *range(top, top + len(shown)))
        cursor = (len(heading) + at - top, self.cursor_column(wide))
        return Frame((*heading, *shown), cursor if count else (0, 0), clicks=ClickMap(hits=hits))

    def cursor_column(self, columns: int) -> int:
        """Return where in its row the cursor is."""
        return 0

    def drawn(self) -> None:
        """See ``Widget``."""
        self.top, self._room = self._viewed

    LAYERS: ClassVar[tuple[str, ...]] = ("rows",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **dict.fromkeys(("move-up", "recall-older"), "up"),
        **dict.fromkeys(("move-down", "recall-newer"), "down"),
        **dict.fromkeys(("move-text-start", "move-line-start"), "first"),
        **dict.fromkeys(("move-text-end", "move-line-end"), "last"),
        "move-page-up": "page_up",
        "move-page-down": "page_down",
        "accept": "enter",
    }
