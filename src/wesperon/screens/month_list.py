"""The month that a field for a date lets down, to pick a day from: by keys, or with the mouse."""

from __future__ import annotations

from datetime import date

from wesperon.context import current
from wesperon.screen.frame import Frame
from wesperon.screen.width import width
from wesperon.screens.labelled import CLOSED_MARK
from wesperon.values import MISSING
from wesperon.widgets.parts import month
from wesperon.widgets.widget import WHEEL

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.editing.keys.events import Mouse

#: The keys that let the month down, take its day, and close it.
OPEN, TAKE, CLOSE = "alt-down", "enter", "escape"
#: What turning the wheel up and down means.
PAGES = {-1: "page-up", 1: "page-down"}


class MonthList:
    """The month of a field; ``day`` is current in it."""

    def __init__(self) -> None:
        self.day = date.min
        #: In which column of the field the mark is that lets the month down.
        self.mark_at = 0

    def begin(self, value: Any) -> None:
        """Have the day of a ``value`` current, else today."""
        has_day = value is not MISSING and value is not None
        self.day = value if has_day else date.fromtimestamp(current().clock.time())

    def go(self, key: str) -> None:
        """Go to another day by a ``key``."""
        self.day = month.moved(self.day, key)

    def key_of(self, event: Mouse, *, is_open: bool) -> str | None:
        """Return the key that means what an ``event`` of the mouse does here, empty for none; None if it is elsewhere.

        A click on a day makes that one current. ``is_open``: the month is let down.
        """
        is_press = event.action == "press"
        is_click = is_press and event.name == "left"
        if not is_open:
            return OPEN if is_click and event.row == 0 and event.column >= self.mark_at else None
        if is_press and event.name in WHEEL:
            return PAGES[WHEEL[event.name]]
        if is_click and event.hit is None:  # beside the days
            return CLOSE
        picked = month.day_at(event.hit, event.column) if is_click else 0
        if picked:
            self.day = self.day.replace(day=picked)
        return TAKE if picked else ""

    def marked(self, frame: Frame, columns: int) -> Frame:
        """Return what the field shows in so many ``columns``, with the mark that lets the month down."""
        first = frame.rows[0] if frame.rows else ()
        self.mark_at = sum(width(text) for text, _ in first)
        if self.mark_at + len(CLOSED_MARK) > columns:
            self.mark_at = columns
            return frame
        rows = ((*first, (CLOSED_MARK, "hint")), *frame.rows[1:])
        return Frame(rows, frame.cursor, frame.shape, clicks=frame.clicks)

    def frame(self) -> Frame:
        """Return the month."""
        return month.frame_of(self.day)
