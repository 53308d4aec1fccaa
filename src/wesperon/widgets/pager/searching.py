"""The search of the pager: what is looked for, how far the search has come, and what is said about it."""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.values import quoted
from wesperon.widgets.pager.needle import Needle
from wesperon.widgets.pager.scan import Hits, Scan
from wesperon.widgets.work_texts import BYTES, amount

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.widgets.pager.text_view import TextView


class Searching:
    """One search at a time, in the text that is shown; ``limited`` limits the time of a step (``needle.Limited``)."""

    def __init__(self, limited: Any) -> None:
        self.limited = limited
        self.needle: Needle | None = None
        self.back = False
        #: What is wrong, or has come out: shown until the next key.
        self.fault = ""
        #: The search that goes on, if one does, the text that it is in, and how many hits it has still to find.
        self.scan: Scan | None = None
        self._view: TextView | None = None
        self._left = 0

    @property
    def is_on(self) -> bool:
        """Whether a search goes on."""
        return self.scan is not None

    def begin(self, view: TextView, needle: Needle, *, back: bool) -> None:
        """Look for another text, from the part in sight on: what is in sight counts, if the search goes on."""
        self.needle, self.back = needle, back
        view.hit = None
        view.top = view.place
        self.adopt(view)
        self.further(view, back=back)

    def adopt(self, view: TextView) -> None:
        """Mark in a text what is looked for, and collect its hits."""
        if view.layout.needle is not self.needle:
            view.layout.needle = self.needle
            view.hit = None
            view.hits = None if self.needle is None else Hits(view.pieces, self.needle, self.limited, view.begin)
        elif view.hits is None and self.needle is not None:
            view.hits = Hits(view.pieces, self.needle, self.limited, view.begin)
        if self.needle is None:
            view.around = None

    def further(self, view: TextView, *, back: bool, times: int = 1) -> None:
        """Look for the next hit, or the one that is so many ``times`` further."""
        if self.needle is None:
            self.fault = tell("nothing was searched for yet: / searches")
            return
        self.adopt(view)
        if self.scan is not None and self._view is view and self.scan.back == back:
            self._left += max(times, 1)
            return
        shown = view.rows(view.top, view.room)
        if view.hit is not None and any(start == view.hit for start, _ in shown):
            start = view.hit if back else view.pieces.end(view.hit)[1]
        else:
            start = view.place[0]
        self.scan = Scan(view.pieces, self.needle, start, self.limited, back=back, begin=view.begin)
        self._view, self._left = view, max(times, 1)

    def stop(self) -> None:
        """Search no more."""
        self.scan = self._view = None

    def drop(self, view: TextView) -> None:
        """Mark nothing any more."""
        self.stop()
        self.needle = None
        self.adopt(view)

    def step(self) -> bool:
        """Look through one slice. Return True if the view changed."""
        scan, view = self.scan, self._view
        if scan is None or view is None:
            return False
        if scan.needle.is_slow:
            self.refuse(view)
            return True
        if scan.hit is not None:
            self._show(view, scan.hit)
            return True
        before = scan.at
        try:
            found = scan.step()
        except TimeoutError:
            self.refuse(view)
            return True
        if found and scan.hit is not None:
            self._left -= 1
            start = scan.hit if scan.back else view.pieces.end(scan.hit)[1]
            view.hit = scan.hit
            if self._left:
                self.scan = Scan(view.pieces, scan.needle, start, self.limited, back=scan.back, begin=view.begin)
            else:
                self._show(view, view.hit)
            return True
        if not scan.has_reached_end or (scan.at != before and self.lacks):
            return True
        if scan.back or view.source.is_whole:
            self.fault = self._nothing(scan, view)
            self.stop()
            if view.hit is not None:
                view.show(view.hit)
            return True
        return False

    def _show(self, view: TextView, hit: int) -> None:
        """Show a hit, which ends the search. If only hits are shown, all of them have to be known first."""
        if view.around is None or not self.collect(view):
            self.stop()
            view.settle()
            view.show(hit)

    def collect(self, view: TextView) -> bool:
        """Collect hits in one slice more of a text. Return False if there is nothing to look through."""
        if view.hits is None or view.hits.is_done:
            return False
        try:
            view.hits.step()
        except TimeoutError:
            self.refuse(view)
        return True

    @property
    def how_far(self) -> str:
        """How much of the text the search has come through: a share, or an amount where nobody knows the whole."""
        scan, view = self.scan, self._view
        if scan is None or view is None:
            return ""
        size = len(view.source.data)
        passed = size - scan.at if scan.back else scan.at
        if view.source.is_whole or scan.back:
            return f"{passed * 100 // max(size, 1)}%"
        return amount(passed, BYTES)

    @property
    def lacks(self) -> bool:
        """Whether it can only go on when more of the text has come."""
        return self.scan is not None and not self.scan.back and self.scan.has_reached_end

    def refuse(self, view: TextView) -> None:
        """Search no more for a pattern that takes too long."""
        text = quoted(self.needle.text) if self.needle is not None else ""
        self.drop(view)
        self.fault = tell("the pattern {text} takes too long on a line here, and is searched no more", text=text)

    def _nothing(self, scan: Scan, view: TextView) -> str:
        """Return that nothing more is found."""
        text = quoted(scan.needle.text)
        if scan.back and view.hit is None:
            return tell("no line before contains {text}", text=text)
        if scan.back:
            return tell("no further line before contains {text}", text=text)
        if view.hit is None:
            return tell("no line from here on contains {text}", text=text)
        return tell("no further line contains {text}", text=text)
