"""Who looks at the work that runs: one thread for all of it, as long as there is some.

It sleeps through the first second of a piece of work, and loads what shows it only then. From there on it looks as
often as ``board`` says. It ends ``LINGER`` seconds after the last piece: a program that does one short piece after the
other starts it once. A child that was forked has neither the thread nor the work.
"""

from __future__ import annotations

import _thread
import os
import time

from wesperon.frozen import later
from wesperon.system.signals import start_thread

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.work import board
    from wesperon.work.work import Work
else:
    board = later("wesperon.work.board")

#: How long work is not shown, in seconds: what is done by then would only flash.
AT_FIRST = 1.0
#: How long the thread waits for another piece of work before it ends, in seconds.
LINGER = 2.0


class Watch:
    """All work that runs by the clock of the process; there is one."""

    def __init__(self) -> None:
        self.works: list[Work] = []
        self._lock = _thread.allocate_lock()
        self._bell = _thread.allocate_lock()
        self._bell.acquire()
        self._has_thread = False

    def begin(self, work: Work) -> None:
        """Look at a piece of work from here on."""
        with self._lock:
            self.works.append(work)
            starts, self._has_thread = not self._has_thread, True
            if not starts and len(self.works) == 1:
                self.ring()
        if starts:
            start_thread(self._run)

    def end(self, work: Work) -> None:
        """Look at it no longer."""
        with self._lock:
            if work in self.works:
                self.works.remove(work)

    def ring(self) -> None:
        """Have the thread look at once."""
        try:
            self._bell.release()
        except RuntimeError:  # it rings already
            pass

    def forget(self) -> None:
        """Begin as a new process."""
        for work in self.works:
            work.forget()
        self.__init__()  # type: ignore[misc]

    def _run(self) -> None:
        """Look, and sleep until it is time again."""
        planned = 0.0
        while True:
            with self._lock:
                works = [*self.works]
            now = time.monotonic()
            due = [work for work in works if now - work.begun >= AT_FIRST]
            if due:
                seconds = board.BOARD.look(due, late=now - planned if planned else 0.0)
            elif works:
                seconds = max(AT_FIRST - (now - min(work.begun for work in works)), 0.001)
            else:
                seconds = LINGER
            planned = time.monotonic() + seconds if due else 0.0
            rung = self._bell.acquire(timeout=seconds)
            with self._lock:
                if not works and not rung and not self.works:
                    self._has_thread = False
                    return


WATCH = Watch()
if hasattr(os, "register_at_fork"):
    os.register_at_fork(after_in_child=WATCH.forget)
