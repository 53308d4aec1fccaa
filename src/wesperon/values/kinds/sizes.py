"""Sizes in bytes: a number, with a unit after it.

    10K  4M  1.5G  2T       multiples of 1024, as most tools have them; KiB, MiB ... (IEC 80000-13) mean the same
    10kB  4MB  1.5GB        multiples of 1000 (SI)
    512  512B               bytes

Letter case is forgiven. A fraction is taken if it comes to whole bytes.
"""

from __future__ import annotations

from fractions import Fraction

from wesperon.values import Complaint, quoted, tell
from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

LETTERS = "kmgtpe"
#: Each unit in small letters, with its bytes.
UNITS = {"": 1, "b": 1}
for _power, _letter in enumerate(LETTERS, 1):
    UNITS |= {_letter: 1024**_power, f"{_letter}ib": 1024**_power, f"{_letter}b": 1000**_power}

DIGITS = "0123456789"
#: More digits than any size has.
MOST_DIGITS = 30
#: How many decimals a size is written with at most; else in a smaller unit.
DECIMALS = 3


class SizeKind(Kind[int]):
    """A number of bytes."""

    wanted = "a size"
    example = "512, 10K, 1.5G"
    placeholder = "SIZE"
    bounded = "value"
    beyond = ("too small", "too large")
    has_steps = True
    question = "spin"

    def parse(self, text: str) -> int:
        """Return the bytes; raises Complaint at the first character that does not fit."""
        end = 0
        while end < len(text) and (text[end] in DIGITS or (text[end] == "." and "." not in text[:end])):
            end += 1
        number = text[:end]
        if not number.strip(".") or len(number) > MOST_DIGITS:
            raise no_value(self, text, 0)
        unit = text[end:].strip().lower()
        if unit not in UNITS:
            raise no_value(self, text, end)
        size = Fraction(number if number[-1] != "." else number + "0") * UNITS[unit]
        if size.denominator != 1:
            raise Complaint(tell("{text} is no whole number of bytes", text=quoted(text)), 0)
        return int(size)

    def format(self, value: int) -> str:
        """Return the size in the largest unit in which it has three decimals at most."""
        for power in range(len(LETTERS), 0, -1):
            count, left = divmod(value * 10**DECIMALS, 1024**power)
            if value >= 1024**power and not left:
                whole, decimals = divmod(count, 10**DECIMALS)
                return f"{whole}.{decimals:03}".rstrip("0").rstrip(".") + LETTERS[power - 1].upper()
        return str(value)

    def validate(self, value: Any) -> int:
        """Return the bytes; raises Complaint for anything but a whole number from 0."""
        if isinstance(value, int) and not isinstance(value, bool) and value >= 0:
            return value
        raise self.refused(value)

    def step_by(self, value: int, units: int, unit: Any = None) -> int:
        """See ``Kind``; the unit is the one in which the size is a whole number."""
        if unit is None:
            unit = 1
            while value and value % (unit * 1024) == 0 and unit < UNITS["e"]:
                unit *= 1024
        return max(value + units * int(unit), 0)


SIZE = SizeKind()
