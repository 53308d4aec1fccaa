"""One piece of work as it is shown: its pace, and what was said of it already."""

from __future__ import annotations

from wesperon.long_work.wanted import is_quiet
from wesperon.widgets.pace import Pace
from wesperon.widgets.work_texts import Standing

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.long_work.places import Place
    from wesperon.long_work.work import Work


#: How often the rate and the time left change, in seconds.
TOLD_EVERY = 1.0


class Shown:
    """A piece of ``work`` at its ``place``."""

    def __init__(self, work: Work, place: Place) -> None:
        self.work = work
        self.place = place
        self.pace = Pace(work.begun)
        self.is_quiet = is_quiet(work)
        #: The rate and the time left as they are shown, and since when: they change once a second.
        self._told: tuple[float | None, float | None] = None, None
        self._told_at = 0.0
        #: The tenth that was said last, and the count; -1 if nothing was said.
        self.tenth, self.doubled = -1, -1.0

    def look(self) -> None:
        """Take note of how far the work is now."""
        if self.work.is_counted:
            self.pace.look(self.work.clock.monotonic(), self.work.count)

    def standing(self, now: float, *, marks: bool = False) -> Standing:
        """Return how far the work is; its label ``marks`` whose it is, as lines do that are printed there."""
        work = self.work
        count = work.count if work.is_counted else None
        total = work.total
        left = self.pace.left(now, total) if count is not None else None
        if now - self._told_at >= TOLD_EVERY or (left is None) != (self._told[1] is None):
            self._told, self._told_at = (self.pace.rate, left), now
        mark = getattr(work.context.stderr, "mark", "") if marks else ""
        return Standing(mark + work.label, count, total, work.unit, *self._told, max(now - work.begun, 0))

    def is_due(self, standing: Standing) -> bool:
        """Return True if a line is due: the first one, then one at each tenth, or each time the count has doubled."""
        share, count = standing.share, standing.count or 0
        is_first = self.tenth < 0
        tenth = 0 if share is None else int(share * 10 + 1e-9)
        is_more = tenth > self.tenth if share is not None else count >= max(2 * self.doubled, 1)
        if not is_first and not is_more:
            return False
        self.tenth, self.doubled = max(tenth, 0), count
        return is_first or share is None or share < 1  # that it is all is said at the end
