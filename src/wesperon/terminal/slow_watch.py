"""Who sees that something takes its time: one thread for all terminals of the process, while keys are being handled.

It looks a few times a second at what is being done, and ends a moment after the last key: where nobody types there is
no thread, and a key costs no more than an entry in a list.
"""

from __future__ import annotations

import _thread
import os
from time import monotonic

from wesperon.system.signals import start_thread

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Protocol

    from wesperon.widgets.widget import Widget

    class Shower(Protocol):
        """A driver that can tell the user."""

        def tell_slow(self, act: Act) -> None:
            """Show that an act takes its time, and what is printed meanwhile, if it is still being done."""


#: After how many seconds the user is told that something takes its time, and how often what was printed is shown then.
SLOW, SHOWN_EVERY = 0.3, 0.1
#: How long the thread stays after the last act, in seconds.
LINGER = 1.0


class Act:
    """Something that a ``driver`` is doing for a ``widget``, which may take its time; used for one after the other.

    Who does it writes as little as can be, since most keys take none: the thread looks at the clock.
    """

    __slots__ = ("driver", "is_said", "is_seen", "number", "open_inside", "seen", "seen_at", "widget")

    def __init__(self, driver: Shower) -> None:
        self.driver = driver
        self.widget: Widget | None = None
        #: Another one for each thing that is done; that of the one that the thread saw last, and when it did first.
        self.number = self.seen = 0
        self.seen_at = 0.0
        #: How many widgets are open that this has opened.
        self.open_inside = 0
        #: Whether the thread has looked at it as something slow, and whether the user has been told.
        self.is_seen = self.is_said = False

    def is_slow(self, now: float) -> bool:
        """Return True if it has been done for long; called by the thread alone."""
        if self.seen != self.number:
            self.seen, self.seen_at = self.number, now
        return now - self.seen_at >= SLOW - SHOWN_EVERY


class SlowWatch:
    """The acts of all drivers, and the thread that looks at them; there is one, :data:`WATCH`."""

    def __init__(self) -> None:
        #: What is being done now. To append to a list, and to remove from it, is one step of the interpreter.
        self.acts: list[Act] = []
        self.runs = False
        self._bell = _thread.allocate_lock()
        self._bell.acquire()

    def start(self) -> None:
        """Start the thread."""
        self.runs = True
        start_thread(self._run)

    def of(self, driver: Shower) -> Act | None:
        """Return the innermost act of a driver; None if it does nothing."""
        return next((act for act in reversed(self.acts) if act.driver is driver), None)

    def end_soon(self) -> None:
        """Have the thread end at once, if nothing is being done."""
        if self.runs and not self.acts:
            try:
                self._bell.release()
            except RuntimeError:  # it rings already
                pass

    def _run(self) -> None:
        left = LINGER
        while left > 0 or not self._ends():
            acts = [*self.acts]
            left = LINGER if acts else left - SHOWN_EVERY
            now = monotonic()
            for act in acts:
                if act.is_slow(now):
                    act.driver.tell_slow(act)
            if self._bell.acquire(timeout=SHOWN_EVERY) and not self.acts:
                left = 0.0

    def _ends(self) -> bool:
        """Return True if nothing is being done; who begins something from here on starts another thread."""
        self.runs = False
        if self.acts:
            self.runs = True
        return not self.runs


WATCH = SlowWatch()
if hasattr(os, "register_at_fork"):
    os.register_at_fork(after_in_child=WATCH.__init__)  # type: ignore[misc]
