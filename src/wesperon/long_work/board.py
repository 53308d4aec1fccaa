"""Where work is shown: finds the place of each piece, and shows there what is new.

The place is that of standard error in the context of the work (``places``). All that is shown goes through here, from
three sides: the thread that looks now and then (``look``), the program (``say``, ``end``), and what takes the terminal
for itself meanwhile (``put_aside``). One lock holds them apart.
"""

from __future__ import annotations

import _thread
import os
import time

from wesperon.long_work.places import place_of
from wesperon.long_work.shown import Shown
from wesperon.long_work.wanted import in_force, is_in_background
from wesperon.long_work.work import FAILED, RUNNING
from wesperon.text.escape import visible_lines
from wesperon.widgets.work_texts import ended

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.long_work.places import Place
    from wesperon.long_work.work import Work

#: A change is shown after so many seconds at the soonest, and what showing costs is at most this part of the time.
SHOWN_EVERY, COST = 0.05, 0.0015
#: However slow the machine is, a change is shown after so many seconds.
SELDOM = 1.0


class Board:
    """All places where work is shown; there is one."""

    def __init__(self) -> None:
        self.lock = _thread.RLock()
        self.shown: dict[Work, Shown] = {}
        self.places: dict[object, Place] = {}

    def look(self, works: Sequence[Work], *, was_stopped: bool = False) -> float:
        """Show what is new. Return after how many seconds to look again."""
        begun = time.thread_time()
        seconds = SHOWN_EVERY
        with self.lock:
            for work in works:
                if work.state == RUNNING and work not in self.shown:
                    self._find(work)
            for place in {id(shown.place): shown.place for shown in [*self.shown.values()]}.values():
                if was_stopped:
                    place.was_stopped()
                self._update(place)
                seconds = max(seconds, place.looks_every)
        return min(max(seconds, (time.thread_time() - begun) / COST), SELDOM)

    def say(self, work: Work, text: str) -> None:
        """Print a text above the rows."""
        with self.lock:
            shown = self.shown.get(work) or Shown(work, place_of(work, self.places))
            shown.place.say(shown, visible_lines(text))

    def end(self, work: Work) -> None:
        """Leave a last line of a piece of work, and show the others."""
        with self.lock:
            shown = self.shown.pop(work, None) or Shown(work, place_of(work, self.places))
            place = shown.place
            self._update(place)
            if work.state == FAILED or not (shown.is_quiet or is_in_background(work.context)):
                standing = shown.standing(work.ended)
                text = in_force(work.context, ended, standing, work.state, work.reason)
                place.say(shown, place.marked(text) if work.state == FAILED else text)
            if not (place.stays or place.asides) and not any(other.place is place for other in self.shown.values()):
                self.places = {key: one for key, one in self.places.items() if one is not place}

    def put_aside(self, work: Work) -> None:
        """Take the rows away where a piece of work is shown, until ``come_back``."""
        with self.lock:
            place = place_of(work, self.places)
            place.asides += 1
            place.clear()

    def come_back(self, work: Work) -> None:
        """Show them again."""
        with self.lock:
            place = place_of(work, self.places)
            place.asides -= 1
            self._update(place)

    def reset_in_child(self) -> None:
        """Begin as a process that was forked, which shows nothing of its parent's."""
        self.lock = _thread.RLock()
        self.shown, self.places = {}, {}

    def _find(self, work: Work) -> None:
        work.is_shown = True
        self.shown[work] = Shown(work, place_of(work, self.places))

    def _update(self, place: Place) -> None:
        mine = [shown for shown in [*self.shown.values()] if shown.place is place]
        for shown in mine:
            shown.look()
        place.show(mine)


BOARD = Board()
if hasattr(os, "register_at_fork"):
    os.register_at_fork(after_in_child=BOARD.reset_in_child)
