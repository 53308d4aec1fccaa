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

    class Shower(Protocol):
        """A driver that can tell the user."""

        @property
        def open_widgets(self) -> int:
            """How many widgets are open on it."""

        def tell_slow(self, act: Act) -> None:
            """Show that an act takes its time, and what is printed meanwhile, if it is still being done."""


#: After how many seconds the user is told that something takes its time, and how often what was printed is shown then.
SLOW, SHOWN_EVERY = 0.3, 0.1
#: How long the thread stays after the last act, in seconds.
LINGER = 1.0


class Act:
    """Something that a ``driver`` is doing, which may take its time; used for one thing after the other."""

    __slots__ = ("acts", "began", "driver", "is_said", "is_seen", "widgets")

    def __init__(self, driver: Shower) -> None:
        self.driver = driver
        #: When it began, whether it is an action of the program rather than a check, and how many widgets were open.
        self.began = 0.0
        self.acts = False
        self.widgets = 0
        #: Whether the thread has looked at it as something slow, and whether the user has been told.
        self.is_seen = self.is_said = False

    def begin(self, *, acts: bool) -> None:
        """Have the thread look at it from here on."""
        self.began = monotonic()
        self.acts = acts
        self.widgets = self.driver.open_widgets
        self.is_seen = self.is_said = False
        WATCH.acts.append(self)
        if not WATCH.runs:
            WATCH.start()

    def end(self) -> None:
        """Have the thread look at it no more; who has ``is_seen`` may have been told this very moment."""
        WATCH.acts.remove(self)


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
                if now - act.began >= SLOW:
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
