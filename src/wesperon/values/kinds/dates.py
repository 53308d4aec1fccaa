"""Kinds of dates, times and durations. Loaded only where a slot asks for one, since they need :mod:`datetime`.

Dates and times are written in the forms of ISO 8601, durations as numbers with their units: ``1h30m``, ``2.5h``,
``1d12h``, ``250ms``.
"""

from __future__ import annotations

from datetime import date, datetime, time, timedelta

from wesperon.values import Complaint, Generic, T, quoted, tell
from wesperon.values.kind import Kind

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any


class DateKind(Kind[T], Generic[T]):
    """A point in time, in ISO 8601."""

    beyond = ("too early", "too late")
    step_kind = "duration"

    bounded = "value"
    has_steps = True
    question = "spin"

    def step_by(self, value: T, units: int, unit: Any = None) -> T:
        """See ``Kind``; the unit is a day, of a time of day a minute."""
        moment: Any = value
        if isinstance(value, time):
            away = (timedelta(minutes=1) if unit is None else unit) * units
            return (datetime.combine(date(2000, 1, 2), value) + away).timetz()  # type: ignore[return-value]
        return moment + (timedelta(days=1) if unit is None else unit) * units  # type: ignore[no-any-return]

    def __init__(
        self, made: type[T], parse: Callable[[str], T], wanted: str, example: str, placeholder: str, letters: str
    ) -> None:
        self.made = made
        self.convert = parse
        self.wanted, self.example, self.placeholder = wanted, example, placeholder
        #: The characters, beside digits, that may be in such a text.
        self.letters = letters

    def parse(self, text: str) -> T:
        """The moment; raises Complaint."""
        try:
            return self.convert(text)
        except ValueError as error:
            position = next((at for at, char in enumerate(text) if not (char.isdigit() or char in self.letters)), None)
            reason = tell(
                "{text} is not {wanted}, such as {example}",
                text=quoted(text),
                wanted=self.wants,
                example=self.example,
            )
            if "range" in str(error):
                reason += f" ({error})"
            raise Complaint(reason, position) from None

    def first(self, low: T | None, now: float) -> T:
        """Today, at midnight; of a time of day the lowest one, else midnight."""
        made: Any = self.made
        if made is time:
            return low or made(0)  # type: ignore[return-value]
        today = date.fromtimestamp(now)
        return made(today.year, today.month, today.day)  # type: ignore[no-any-return]

    def format(self, value: T) -> str:
        """The shortest usual form that gives the same moment."""
        moment: Any = value
        text = str(moment.isoformat())
        if isinstance(value, (time, datetime)) and moment.tzinfo is None and not moment.microsecond:
            return text.removesuffix(":00") if not moment.second else text
        return text

    def validate(self, value: Any) -> T:
        """The moment itself; raises Complaint for anything else."""
        if type(value) is self.made:
            return value
        raise self.refused(value)


#: Units of durations, the longest first, in microseconds.
UNITS = {
    "w": 604_800_000_000, "d": 86_400_000_000, "h": 3_600_000_000, "m": 60_000_000, "s": 1_000_000, "ms": 1_000,
    "us": 1,
}  # fmt: skip


class DurationKind(Kind[timedelta]):
    """A length of time: numbers with units, the whole perhaps after a minus sign."""

    wanted = "a duration"
    beyond = ("too short", "too long")
    example = "1h30m"
    placeholder = "DURATION"
    bounded = "value"
    has_steps = True
    question = "spin"

    def step_by(self, value: timedelta, units: int, unit: Any = None) -> timedelta:
        """See ``Kind``; the unit is a minute, of a duration that has seconds a second."""
        if unit is None:
            unit = timedelta(seconds=1) if value.seconds % 60 or value.microseconds else timedelta(minutes=1)
        return value + unit * units  # type: ignore[no-any-return]

    def parse(self, text: str) -> timedelta:
        """The duration; raises Complaint at the first character that does not fit."""
        at = 1 if text[:1] in ("-", "+") else 0
        total = 0
        if at == len(text):
            raise self._fault(text, at)
        while at < len(text):
            number, unit, following = _part(text, at)
            if not number.strip("."):
                raise self._fault(text, at)
            if unit not in UNITS:
                raise self._fault(text, following - len(unit), unit)
            whole, _, fraction = number.partition(".")
            if len(whole) > 18 or len(fraction) > 18:
                raise Complaint(tell("{text} is too long, or too precise, for a duration", text=quoted(text)), at)
            total += int(whole or "0") * UNITS[unit]
            total += (int(fraction or "0") * UNITS[unit] + 10 ** len(fraction) // 2) // 10 ** len(fraction)
            at = following
            while text[at : at + 1] == " ":
                at += 1
        try:
            return timedelta(microseconds=-total if text[0] == "-" else total)
        except OverflowError:
            raise Complaint(tell("{text} is too long for a duration", text=quoted(text)), 0) from None

    def first(self, low: timedelta | None, now: float) -> timedelta:
        """The lowest duration, else none at all."""
        return timedelta(0) if low is None else low

    def format(self, value: timedelta) -> str:
        """The duration in units from days down, without those that are zero."""
        total = (value.days * 86_400 + value.seconds) * 1_000_000 + value.microseconds
        left = abs(total)
        parts = []
        for unit in ("d", "h", "m", "s", "ms", "us"):
            count, left = divmod(left, UNITS[unit])
            if count:
                parts.append(f"{count}{unit}")
        return ("-" if total < 0 else "") + ("".join(parts) or "0s")

    def validate(self, value: Any) -> timedelta:
        """The duration itself; raises Complaint for anything else."""
        if isinstance(value, timedelta):
            return value
        raise self.refused(value)

    def _fault(self, text: str, at: int, unit: str = "") -> Complaint:
        hint = ""
        if unit:
            hint = tell(": {unit} is not a unit", unit=quoted(unit))
        elif at >= len(text) and text[:1].strip("-+"):
            hint = tell(": a unit is missing")
        units = f"; units are {', '.join(UNITS)}"
        return Complaint(
            tell(
                "{text} is not {wanted}, such as {example}{hint}{units}",
                text=quoted(text),
                wanted=self.wants,
                example=self.example,
                hint=hint,
                units=units,
            ),
            at,
        )


def _part(text: str, at: int) -> tuple[str, str, int]:
    """The number and the unit that begin at a place, and the place after them."""
    middle = at
    while middle < len(text) and (text[middle] in "0123456789" or (text[middle] == "." and "." not in text[at:middle])):
        middle += 1
    end = middle
    while end < len(text) and text[end].isalpha():
        end += 1
    return text[at:middle], text[middle:end], end


TIME = DateKind(time, time.fromisoformat, "a time of day", "21:30", "HH:MM", ":.,+-TZtz")
DATE = DateKind(date, date.fromisoformat, "a date", "2031-04-17", "YYYY-MM-DD", "-Ww")
DATE_TIME = DateKind(
    datetime, datetime.fromisoformat, "a date and time", "2031-04-17T21:30", "DATETIME", "-:.,+TWZtwz "
)

DURATION = DurationKind()
