"""Figures on a screen: how far long work is, and numbers over time."""

from __future__ import annotations

from collections import deque
from math import isfinite, isnan

from wesperon.screen.frame import Frame
from wesperon.screen.width import width
from wesperon.text.escape import visible
from wesperon.values import DeclarationError
from wesperon.widgets.meter import rows_of
from wesperon.widgets.parts.checked import checked_count, checked_number, checked_text
from wesperon.widgets.parts.part import Part
from wesperon.widgets.widget import SizeHint
from wesperon.widgets.work_texts import Standing

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable
    from typing import Any

#: Characters that fill a cell from below, by eighths.
EIGHTHS = " ▁▂▃▄▅▆▇█"
#: How many numbers are kept if nobody says otherwise.
KEPT = 1_000


class Meter(Part):
    """How far long work is: a bar, the share, the count.

    ``label`` is what is being done, ``total`` how much there is to do, ``unit`` what is counted. ``show(count)`` or
    ``show(count, total)`` says how far it is; ``show(work)`` that work of :func:`working` or :func:`progress` is, now.
    The other keywords are those of every part.

    Example:
        >>> meter = Meter("Stacking", total=20, unit="frames")
        >>> meter.show(5)
        >>> meter.value
        5

    """

    def __init__(self, label: str = "", *, total: float | None = None, unit: str = "", **place: Any) -> None:
        super().__init__(**place)
        if total is not None and not checked_number("total", total) >= 0:
            raise DeclarationError(f"total={total!r}: must be 0 or more")
        self.label, self.total = visible(checked_text("label", label)), total
        self.unit = checked_text("unit", unit)
        self.counted: float = 0

    @property
    def value(self) -> float:
        """How much is done."""
        return self.counted

    def receive(self, count: Any = 0, total: float | None = None, *more: Any) -> None:
        """See ``Part``."""
        if hasattr(count, "count") and hasattr(count, "total"):
            self.label, self.total, count = visible(count.label), count.total, count.count
        self.counted = count
        self.total = self.total if total is None else total
        self.stale()

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        return SizeHint(8, 1, 50, 1)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        return Frame(rows_of([Standing(self.label, self.counted, self.total, self.unit, seconds=None)], columns)[:rows])


class Trend(Part):
    """Numbers over time, the newest at the right edge, as columns of blocks.

    ``values`` are those at first; ``show(number)`` adds one, ``show(*numbers)`` several. ``low`` and ``high`` bound the
    scale, which else follows what is in sight; ``unit`` is after the newest number. The last ``keeps`` are kept. Where
    a number is not one (``nan``) there is a gap.
    The other keywords are those of every part.

    Example:
        >>> wind = Trend([3.1, 4.0], unit="m/s")
        >>> wind.show(5.2)
        >>> wind.value
        (3.1, 4.0, 5.2)

    """

    adds = True

    def __init__(
        self,
        values: Iterable[float] = (),
        *,
        low: float | None = None,
        high: float | None = None,
        unit: str = "",
        keeps: int = KEPT,
        **place: Any,
    ) -> None:
        super().__init__(**place)
        if not hasattr(values, "__iter__"):
            raise DeclarationError(f"values={values!r}: must be numbers, such as a list of them")
        kept = checked_count("keeps", keeps, 1, "how many numbers")
        self.numbers: deque[float] = deque([checked_number("values", value) for value in values], maxlen=kept)
        for name, bound in (("low", low), ("high", high)):
            if bound is not None and not isfinite(checked_number(name, bound)):
                raise DeclarationError(f"{name}={bound!r}: must be a finite number")
        if low is not None and high is not None and low >= high:
            raise DeclarationError(f"low={low!r}, high={high!r}: the high bound must be above the low one")
        self.low, self.high = low, high
        self.unit = visible(checked_text("unit", unit))

    @property
    def value(self) -> tuple[float, ...]:
        """The numbers that are kept, the oldest first."""
        return tuple(self.numbers)

    def receive(self, *numbers: float) -> None:
        """See ``Part``."""
        self.numbers.extend([checked_number("show()", number) for number in numbers])
        self.stale()

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        return SizeHint(8, 1, 24, 2)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        said = f"{self.numbers[-1]:.3g} {self.unit}".strip() if self.numbers else ""
        room = columns - width(said) - 1 if rows == 1 else columns
        if room < 1:
            return Frame((((said[:columns], ""),),))
        seen = [*self.numbers][-room:]
        high_rows = max(rows - (rows > 1), 1)
        drawn = self._columns(seen, high_rows)
        made = []
        for row in range(high_rows):
            text = "".join([column[row] for column in drawn]).rjust(room)
            made.append(((text, "bar-line"),))
        if rows > 1:
            return Frame((*made, ((self._scale(seen, said, columns), "note"),)))
        return Frame(((*made[0], (" " + said, "")),))

    def _bounds(self, seen: list[float]) -> tuple[float, float]:
        finite = [number for number in seen if isfinite(number)]
        low = min(finite, default=0) if self.low is None else self.low
        high = max(finite, default=1) if self.high is None else self.high
        return low, high if high > low else low + max(abs(low), 1)

    def _columns(self, seen: list[float], rows: int) -> list[str]:
        """Return a column of cells for each number, from top to bottom."""
        low, high = self._bounds(seen)
        full, half = rows * 8, high / 2 - low / 2  # halves: the whole may be too large for a number
        drawn: dict[int, str] = {}
        made = []
        for number in seen:
            if isnan(number):
                eighths = 0
            elif number <= low:
                eighths = 1
            else:
                eighths = full if number >= high else round((number / 2 - low / 2) / half * full) or 1
            column = drawn.get(eighths)
            if column is None:
                cells = [EIGHTHS[min(max(eighths - 8 * row, 0), 8)] for row in range(rows)]
                column = drawn[eighths] = "".join(reversed(cells))
            made.append(column)
        return made

    def _scale(self, seen: list[float], said: str, columns: int) -> str:
        low, high = self._bounds(seen)
        text = f"{low:.3g} - {high:.3g} {self.unit}".strip()
        gap = columns - width(text) - width(said)
        return f"{text}{' ' * gap}{said}" if gap > 1 else said.rjust(columns)[:columns]
