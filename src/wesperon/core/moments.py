"""Kinds of times. Loaded only where a slot asks for one, since they need :mod:`datetime`."""

from __future__ import annotations

from datetime import time

from wesperon.core.kinds import Kind
from wesperon.core.lean import Complaint, quoted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class Clock(Kind[time]):
    """A time of day in the forms of ISO 8601, such as ``21:30`` or ``21:30:15``."""

    wanted = "a time of day"
    example = "21:30"
    placeholder = "HH:MM"
    bounded = "value"

    def read(self, text: str) -> time:
        """The time; raises Complaint."""
        try:
            return time.fromisoformat(text)
        except ValueError:
            position = next((at for at, c in enumerate(text) if not (c.isdigit() or c in ":.,+-TtZz")), 0)
            raise Complaint(f"{quoted(text)} is not {self.wanted}, such as {self.example}", position) from None

    def text(self, value: time) -> str:
        """The shortest ISO 8601 form that gives the same time."""
        text = value.isoformat()
        return text.removesuffix(":00") if value.utcoffset() is None and len(text) == len("21:30:00") else text

    def admit(self, value: Any) -> time:
        """The time itself; raises Complaint for anything else."""
        if isinstance(value, time):
            return value
        raise self.refused(value)


CLOCK = Clock()
