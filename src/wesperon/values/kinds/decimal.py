"""Decimal numbers, kept digit for digit."""

from __future__ import annotations

from wesperon.values import Complaint, Generic, T, quoted, tell
from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import number_fault

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any


class DecimalKind(Kind[T], Generic[T]):
    """Decimal numbers, kept digit for digit; finite ones only."""

    wanted = "a decimal number"
    example = "2.50"
    placeholder = "NUMBER"
    bounded = "value"
    has_steps = True
    takes_numbers = True
    question = "spin"

    def step_by(self, value: T, units: int, unit: Any = None) -> T:
        """See ``Kind``; the unit is 1."""
        number: Any = value
        make: Any = self.made
        return number + units * make(str(1 if unit is None else unit))  # type: ignore[no-any-return]

    def __init__(self, made: type[T]) -> None:
        self.made = made

    def parse(self, text: str) -> T:
        """Return the number; raises Complaint."""
        make: Any = self.made
        try:
            value = make(text)
        except ArithmeticError:
            raise number_fault(self, text, fraction=True) from None
        if not value.is_finite():
            raise Complaint(
                tell("{text} is not a finite number, such as {example}", text=quoted(text), example=self.example), 0
            )
        return value  # type: ignore[no-any-return]

    def format(self, value: T) -> str:
        """Return the digits, as many as there are."""
        return str(value)

    def validate(self, value: Any) -> T:
        """Return the number itself, or a whole number made one; raises Complaint for anything else."""
        make: Any = self.made
        if isinstance(value, int) and not isinstance(value, bool):
            return make(value)  # type: ignore[no-any-return]
        if not isinstance(value, self.made):
            raise self.refused(value)
        return self.parse(str(value))


def make(given: type[T], settings: Mapping[str, Any]) -> DecimalKind[T]:
    """Return the kind of :class:`decimal.Decimal`."""
    return DecimalKind(given)
