"""How often a switch is given: ``-vvv`` is 3. Loaded where a slot is one."""

from __future__ import annotations

from wesperon.values import Complaint, quoted, tell
from wesperon.values.kind import BOOL, IntKind, Shape

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.values.slots import Slot

#: The text of a name that says no: what was counted before is forgotten.
NO = "no"


class CountShape(Shape):
    """A whole number: each name alone adds one, a name with a number so many, the name that says no goes back to 0."""

    repeats = counts = True

    def __init__(self) -> None:
        super().__init__(takes_text=False)

    def parse(self, slot: Slot[Any], texts: Sequence[str]) -> Any:
        """See ``Shape``; the bounds are those of the sum."""
        total = 0
        for text in texts:
            total = 0 if text == NO else total + slot.kind.parse(text.strip())
        return slot.checked(total, str(total))

    def parse_word(self, slot: Slot[Any], text: str) -> Any:
        """See ``Shape``."""
        return slot.kind.parse(text.strip())

    def validate(self, slot: Slot[Any], value: Any) -> Any:
        """See ``Shape``; a document may say yes or no."""
        return super().validate(slot, int(value) if isinstance(value, bool) else value)

    def names(self, slot: Slot[Any]) -> tuple[str, ...]:
        """See ``Shape``; the dots say that it may be repeated (POSIX, Base Definitions, 12.1)."""
        yes, *no = super().names(slot)
        return f"{yes}...", *no

    def none(self, slot: Slot[Any]) -> Any:
        """See ``Shape``."""
        return 0


class CountKind(IntKind):
    """A number of times; yes is once."""

    wanted = "a number of times"
    example = "2"
    shape = CountShape()

    def parse(self, text: str) -> int:
        """Return the number of times; raises Complaint."""
        try:
            return super().parse(text)
        except Complaint as complaint:
            try:
                return int(BOOL.parse(text))
            except Complaint:
                reason = tell("{text} is no number of times, nor yes or no", text=quoted(text))
                raise Complaint(reason, complaint.position) from None


COUNT = CountKind()


def count(slot: Slot[Any]) -> None:
    """Have a switch count how often it is given; how many there may be are the bounds."""
    slot.kind, slot.shape, slot.many = COUNT, COUNT.shape, False
    slot.low, slot.high, slot.least, slot.most = slot.least, slot.most, 0, None
