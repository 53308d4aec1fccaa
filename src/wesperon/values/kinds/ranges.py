"""Ranges of whole numbers: ``1-5,8`` is the numbers from 1 to 5, and 8."""

from __future__ import annotations

from wesperon.values import Complaint, tell
from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

DIGITS = frozenset("0123456789")
#: More digits than a number of a range has.
MOST_DIGITS = 18


class RangesKind(Kind["tuple[range, ...]"]):
    """A tuple of ranges, in the order in which they are written."""

    wanted = "ranges of numbers"
    example = "1-5,8"
    placeholder = "RANGES"

    def parse(self, text: str) -> tuple[range, ...]:
        """Return the ranges, the last number of each included; raises Complaint at the first that is none."""
        found = []
        at = 0
        for part in text.split(","):
            first, hyphen, last = (one.strip() for one in part.partition("-"))
            last = last if hyphen else first
            if not (first and last and {*first, *last} <= DIGITS and max(len(first), len(last)) <= MOST_DIGITS):
                raise no_value(self, text, at)
            if int(first) > int(last):
                raise Complaint(tell("{first} is after {last}: write {last}-{first}", first=first, last=last), at)
            found.append(range(int(first), int(last) + 1))
            at += len(part) + 1
        return tuple(found)

    def format(self, value: tuple[range, ...]) -> str:
        """Return the ranges, with commas between them."""
        return ",".join([f"{one[0]}-{one[-1]}" if len(one) > 1 else str(one[0]) for one in value])

    def validate(self, value: Any) -> tuple[range, ...]:
        """Return the ranges as a tuple; raises Complaint for anything but some that are not empty, in steps of 1."""
        given = value if isinstance(value, (tuple, list)) else ()
        if given and all(isinstance(one, range) and len(one) and one.step == 1 and one.start >= 0 for one in given):
            return tuple(given)
        raise self.refused(value)


RANGES = RangesKind()
