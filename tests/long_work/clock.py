"""A clock that a test sets."""

from __future__ import annotations


class Clock:
    """Stands still until time passes by."""

    def __init__(self) -> None:
        self.now = 1000.0

    def time(self) -> float:
        """Return the seconds since the epoch."""
        return self.now

    def monotonic(self) -> float:
        """Return the seconds since something."""
        return self.now

    def pass_by(self, seconds: float) -> None:
        """Let some time pass."""
        self.now += seconds
