"""Percentages: ``25%`` or ``25`` is a share of 0.25."""

from __future__ import annotations

from decimal import Decimal, InvalidOperation

from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class PercentKind(Kind[float]):
    """A share, written in percent; bounds are shares too."""

    wanted = "a percentage"
    example = "25%"
    placeholder = "PERCENT"
    bounded = "value"
    has_steps = True
    takes_numbers = True
    question = "spin"

    def parse(self, text: str) -> float:
        """Return the share; raises Complaint."""
        number = text.removesuffix("%").rstrip()
        try:
            share = float(Decimal(number) / 100)
        except (InvalidOperation, ValueError):
            share = float("nan")
        if share - share != 0:
            raise no_value(self, text, 0)
        return share

    def format(self, value: float) -> str:
        """Return the digits that give the same share, and the sign."""
        return f"{(Decimal(repr(value)) * 100).normalize():f}%"

    def validate(self, value: Any) -> float:
        """Return the share; raises Complaint for anything but a finite number."""
        if isinstance(value, (int, float)) and not isinstance(value, bool) and value - value == 0:
            return float(value)
        raise self.refused(value)

    def step_by(self, value: float, units: int, unit: Any = None) -> float:
        """See ``Kind``; the unit is a hundredth."""
        return round(value + units * (0.01 if unit is None else unit), 12)


PERCENT = PercentKind()
