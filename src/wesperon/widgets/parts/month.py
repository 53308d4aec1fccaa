"""A month to pick a day from: weeks from Monday on, as ISO 8601 has them, the current day in reverse."""

from __future__ import annotations

import calendar
from datetime import date, timedelta

from wesperon.screen.frame import ClickMap, Frame

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.frame import Row

#: The columns of a day, and of a month.
DAY_COLUMNS = 3
COLUMNS = 7 * DAY_COLUMNS
#: By how many days the arrows go.
DAYS = {"left": -1, "right": 1, "up": -7, "down": 7}
#: By how many months the keys for pages go.
MONTHS = {"page-up": -1, "page-down": 1}


def moved(day: date, key: str) -> date:
    """Return the day that a key goes to; the same day for a key that goes nowhere, or beyond the calendar."""
    try:
        if key in DAYS:
            return day + timedelta(days=DAYS[key])
        if key in MONTHS:
            months = day.year * 12 + day.month - 1 + MONTHS[key]
            year, month = divmod(months, 12)
            return date(year, month + 1, min(day.day, calendar.monthrange(year, month + 1)[1]))
        if key == "home":
            return day.replace(day=1)
        if key == "end":
            return day.replace(day=calendar.monthrange(day.year, day.month)[1])
    except (OverflowError, ValueError):  # beyond the first year or the last one
        pass
    return day


def frame_of(day: date) -> Frame:
    """Return the month of a day, the cursor on it."""
    rows: list[Row] = [((f"{day.year:04}-{day.month:02}".center(COLUMNS), "title"),)]
    first = day.replace(day=1)
    last = calendar.monthrange(day.year, day.month)[1]
    cells: list[tuple[str, str]] = [("   ", "")] * first.weekday()
    for number in range(1, last + 1):
        role = "current" if number == day.day else "note" if (first.weekday() + number - 1) % 7 > 4 else ""
        cells.append((f"{number:>3}", role))
    cells += [("   ", "")] * (-len(cells) % 7)
    rows += [tuple(cells[at : at + 7]) for at in range(0, len(cells), 7)]
    place = first.weekday() + day.day - 1
    days = [0] * first.weekday() + [*range(1, last + 1)]
    hits = (None, *[tuple(days[at : at + 7]) for at in range(0, len(days), 7)])
    return Frame(tuple(rows), (1 + place // 7, place % 7 * 3 + 1), clicks=ClickMap(hits=hits))


def day_at(hit: object, column: int) -> int:
    """Return the day that a click hits, by what is in its row, and its column; 0 for none."""
    at = column // DAY_COLUMNS
    return hit[at] if isinstance(hit, tuple) and 0 <= at < len(hit) else 0
