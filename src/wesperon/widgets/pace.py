"""How fast a count grows, and how long it takes until it has reached its total.

What is measured is the time between changes, not between looks: of pieces that take ten seconds each, nine looks of ten
see nothing. The rate is that of the last changes, as many as ``KEPT``, thinned so that they span a part of the whole
time. A count that has not changed for longer than it usually does is slower than it was.

Nothing is said before ``LEAST_CHANGES`` and ``LEAST_SECONDS``. The time that is left runs down as a clock does, and is
drawn towards what the rate says, so that it does not jump.
"""

from __future__ import annotations

#: So many changes are kept, the first of them no older than this part of the whole time.
KEPT, SPAN = 32, 0.4
#: Nothing is known before so many changes, in so many seconds.
LEAST_CHANGES, LEAST_SECONDS = 3, 2.0
#: In how many seconds the time that is shown has come two thirds of the way to what the rate says.
DRAWN_IN = 3.0
#: The longest time that is shown, in seconds: 30 years.
LONGEST = 1e9


class Pace:
    """The pace of a count that is looked at from time to time; all times are in seconds."""

    def __init__(self, begun: float, count: float = 0) -> None:
        #: Each change: when it was seen, and the count since then.
        self._changes: list[tuple[float, float]] = [(begun, count)]
        self._begun = self._now = self._shown_at = begun
        self._left: float | None = None

    def look(self, now: float, count: float) -> None:
        """Take note of the ``count`` at a time."""
        self._now = max(now, self._now)
        changes = self._changes
        if count < changes[-1][1]:  # it was set back: what came before says nothing of what comes
            self._changes = [(self._now, count)]
            self._left = None
        elif count > changes[-1][1]:
            changes.append((self._now, count))
            if len(changes) > KEPT:
                recent = self._now - SPAN * (self._now - self._begun)
                # The oldest ones go, as long as what is left spans enough time; else every second one.
                if changes[1][0] <= recent:
                    del changes[0]
                else:
                    del changes[1:-1:2]

    @property
    def rate(self) -> float | None:
        """How much comes in a second; None before it is known, and while nothing comes."""
        changes = self._changes
        if len(changes) <= LEAST_CHANGES and self._now - self._begun < 2 * LEAST_SECONDS:
            return None
        (first, before), (last, count) = changes[0], changes[-1]
        if len(changes) < 2 or self._now - self._begun < LEAST_SECONDS or last <= first:
            return None
        seconds = last - first + max(self._now - last - self._usual, 0)
        return (count - before) / seconds

    @property
    def _usual(self) -> float:
        """The seconds between two changes."""
        changes = self._changes
        return (changes[-1][0] - changes[0][0]) / max(len(changes) - 1, 1)

    def left(self, now: float, total: float | None) -> float | None:
        """Return the seconds until the ``total`` is reached, never negative; None if that is not known."""
        self._now = max(now, self._now)
        passed, self._shown_at = max(self._now - self._shown_at, 0.0), self._now
        rate, (last, count) = self.rate, self._changes[-1]
        if total is None or rate is None or count > total or total - count > LONGEST * rate:
            self._left = None
            return None
        # Between two changes the time runs down, up to the one that is due: of what is late nothing is known.
        wanted = max((total - count) / rate - min(self._now - last, self._usual), 0.0)
        if self._left is None:
            self._left = wanted
        else:
            run_down = max(self._left - passed, 0.0)
            self._left = run_down + (wanted - run_down) * passed / (passed + DRAWN_IN)
        return self._left
