"""Kinds of dates, times and durations. Loaded only where a slot asks for one, since they need :mod:`datetime`.

Dates and times are written as RFC 3339 has them, and nothing else is taken, whatever the version of Python:

    date         2031-04-17; today, tomorrow, yesterday, in the user's language too; +3d, -2w from today
    time         21:30, with seconds and any part of one (21:30:15.25), and with a zone behind it (Z, +02:00)
    date-time    a date, T or a blank, and a time; or a date alone, which is its midnight

All digits are those of ASCII; letters may be small. What is finer than a microsecond is cut off. A zone may have
seconds, which RFC 3339 has not, so that every moment of Python can be written. Durations are numbers with their units:
``1h30m``, ``2.5h``, ``1d12h``, ``250ms``.
"""

from __future__ import annotations

from datetime import date, datetime, time, timedelta

from wesperon.context import current
from wesperon.values import Complaint, Generic, T, quoted, tell
from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any


class DateKind(Kind[T], Generic[T]):
    """A point in time, as RFC 3339 writes it."""

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
        self, made: type[T], normal: Callable[[str], str], wanted: str, example: str, placeholder: str
    ) -> None:
        self.made = made
        #: From a text to the one form that every version of Python reads; raises _Misplaced.
        self.normal = normal
        self.wanted, self.example, self.placeholder = wanted, example, placeholder

    def parse(self, text: str) -> T:
        """Return the moment; raises Complaint."""
        made: Any = self.made
        if made is not time and (day := day_of(text)) is not None:
            return made(day.year, day.month, day.day)  # type: ignore[no-any-return]
        try:
            return made.fromisoformat(self.normal(text))  # type: ignore[no-any-return]
        except ValueError as error:
            position = error.at if isinstance(error, _Misplaced) else None
            missed = tell(": there is no such day or time") if position is None else ""
            raise no_value(self, text, position, hint=missed) from None

    def first(self, low: T | None, now: float) -> T:
        """Today, at midnight; of a time of day the lowest one, else midnight."""
        made: Any = self.made
        if made is time:
            return low or made(0)  # type: ignore[return-value]
        today = date.fromtimestamp(now)
        return made(today.year, today.month, today.day)  # type: ignore[no-any-return]

    def format(self, value: T) -> str:
        """Return the shortest usual form that gives the same moment."""
        moment: Any = value
        text = str(moment.isoformat())
        if isinstance(value, (time, datetime)) and moment.tzinfo is None and not moment.microsecond:
            return text.removesuffix(":00") if not moment.second else text
        return text

    def validate(self, value: Any) -> T:
        """Return the moment itself; raises Complaint for anything else."""
        if type(value) is self.made:
            return value
        raise self.refused(value)


#: Units of durations, the longest first, in microseconds.
UNITS = {
    "w": 604_800_000_000, "d": 86_400_000_000, "h": 3_600_000_000, "m": 60_000_000, "s": 1_000_000, "ms": 1_000,
    "us": 1,
}  # fmt: skip


#: Units of days from today.
DAYS = {"d": 1, "w": 7}


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
        """Return the duration; raises Complaint at the first character that does not fit."""
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
        """Return the lowest duration, else none at all."""
        return timedelta(0) if low is None else low

    def format(self, value: timedelta) -> str:
        """Return the duration in units from days down, without those that are zero."""
        total = (value.days * 86_400 + value.seconds) * 1_000_000 + value.microseconds
        left = abs(total)
        parts = []
        for unit in ("d", "h", "m", "s", "ms", "us"):
            count, left = divmod(left, UNITS[unit])
            if count:
                parts.append(f"{count}{unit}")
        return ("-" if total < 0 else "") + ("".join(parts) or "0s")

    def validate(self, value: Any) -> timedelta:
        """Return the duration itself; raises Complaint for anything else."""
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
    """Return the number and the unit that begin at a place, and the place after them."""
    middle = at
    while middle < len(text) and (text[middle] in "0123456789" or (text[middle] == "." and "." not in text[at:middle])):
        middle += 1
    end = middle
    while end < len(text) and text[end].isalpha():
        end += 1
    return text[at:middle], text[middle:end], end


def day_of(text: str) -> date | None:
    """Return the day that a text names as people say it; None if it is no such text. Raises Complaint out of range."""
    folded, days = text.strip().lower(), None
    for away, words in (
        (0, ("today", tell("today"))),
        (1, ("tomorrow", tell("tomorrow"))),
        (-1, ("yesterday", tell("yesterday"))),
    ):
        if folded in words:
            days = away
    if folded[:1] in ("+", "-") and folded[-1:] in DAYS and 0 < len(folded[1:-1]) <= 6 and {*folded[1:-1]} <= {*DIGITS}:
        days = int(folded[:-1]) * DAYS[folded[-1]]
    if days is None:
        return None
    try:
        return date.fromtimestamp(current().clock.time()) + timedelta(days=days)
    except OverflowError:
        raise Complaint(tell("{text} is beyond all dates", text=quoted(text)), 0) from None


class _Misplaced(ValueError):
    """A character is not what has to be at its place."""

    def __init__(self, at: int) -> None:
        super().__init__(at)
        self.at = at


def _after(text: str, at: int, form: str) -> int:
    """Return the place after a part of a text that has a form, in which 0 is any digit; raises _Misplaced."""
    for place, wanted in enumerate(form, at):
        char = text[place : place + 1]
        if not char or (char not in DIGITS if wanted == "0" else char != wanted):
            raise _Misplaced(place)
    return at + len(form)


def _after_digits(text: str, at: int) -> int:
    """Return the place after one digit or more; raises _Misplaced."""
    at = _after(text, at, "0")
    while text[at : at + 1] and text[at] in DIGITS:
        at += 1
    return at


def _ends(text: str, at: int) -> None:
    if at < len(text):
        raise _Misplaced(at)


def _date(text: str) -> str:
    _ends(text, _after(text, 0, "0000-00-00"))
    return text


def _time(text: str, at: int = 0) -> str:
    """Return the time of day from a place to the end: ``partial-time`` of RFC 3339, or without seconds, and a zone."""
    end = _after(text, at, "00:00")
    if text.startswith("24", at):
        raise _Misplaced(at)
    made = text[at:end] + ":00"
    if text[end : end + 1] == ":":
        at, end = end, _after(text, end, ":00")
        made = made[:5] + text[at:end]
        if text[end : end + 1] == ".":
            at, end = end + 1, _after_digits(text, end + 1)
            made += "." + text[at:end][:6].ljust(6, "0")
    return made + _zone(text, end)


def _zone(text: str, at: int) -> str:
    """``time-offset`` of RFC 3339 from a place to the end, with seconds or without; nothing if there is none."""
    sign = text[at : at + 1]
    if not sign:
        return ""
    if sign in ("Z", "z"):
        _ends(text, at + 1)
        return "+00:00"
    if sign not in ("+", "-"):
        raise _Misplaced(at)
    end = _after(text, at + 1, "00:00")
    if text[end : end + 1] == ":":
        end = _after(text, end, ":00")
        if text[end : end + 1] == ".":
            end = _after(text, end, ".000000")
    _ends(text, end)
    for place in (at + 4, at + 7):  # an hour has 60 minutes; Python takes more
        if text[place : place + 1] > "5":
            raise _Misplaced(place)
    return text[at:end]


def _date_time(text: str) -> str:
    end = _after(text, 0, "0000-00-00")
    if end == len(text):
        return text + "T00:00:00"
    if text[end] not in ("T", "t", " "):
        raise _Misplaced(end)
    return f"{text[:end]}T{_time(text, end + 1)}"


DIGITS = "0123456789"

TIME = DateKind(time, _time, "a time of day", "21:30", "HH:MM")
DATE = DateKind(date, _date, "a date", "2031-04-17", "YYYY-MM-DD")
DATE_TIME = DateKind(datetime, _date_time, "a date and time", "2031-04-17T21:30", "DATETIME")

DURATION = DurationKind()
