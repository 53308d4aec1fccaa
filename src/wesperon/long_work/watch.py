"""Who looks at the work that runs: one thread for all of it, as long as there is some.

It sleeps through the first second of a piece of work, and loads what shows it only then. From there on it looks as
often as ``board`` says. It ends ``LINGER`` seconds after the last piece: a program that does one short piece after the
other starts it once. A child that was forked has neither the thread nor the work.
"""

from __future__ import annotations

import _thread
import atexit
import os
import time

from wesperon.frozen import later
from wesperon.system.continued import begin_hearing, end_hearing
from wesperon.system.signals import start_thread

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.long_work import board
    from wesperon.long_work.work import Work
else:
    board = later("wesperon.long_work.board")

#: How long work is not shown, in seconds: what is done by then would only flash.
AT_FIRST = 1.0
#: What will have ended so soon is not shown any more, but for what has not by then: in seconds.
SOON, LATEST = 0.5, 2.0
#: How long the thread waits for another piece of work before it ends, in seconds.
LINGER = 2.0
#: Who looks so much later than planned, in seconds, may have been stopped: if a signal tells of it, the main thread is
#: given a moment to hear it; if none does, it is taken to be so, unless the process has computed for long.
LATE, LATE_UNHEARD = 0.1, 1.0
#: How long that moment is.
MOMENT = 0.02


class Watch:
    """All work that runs by the clock of the process; there is one."""

    def __init__(self) -> None:
        self.works: list[Work] = []
        self._left: list[tuple[Work, str, str]] = []
        # One that the same thread may take again: the collector of garbage may end a loop that was left, at any step.
        self._lock = _thread.RLock()
        self._ending = _thread.RLock()
        self._bell = _thread.allocate_lock()
        self._bell.acquire()
        self._has_thread = False
        #: Whether a signal tells that the process goes on after it was stopped, and whether it has.
        self.hears = self.is_continued = False

    def begin(self, work: Work) -> None:
        """Look at a piece of work from here on."""
        if not self.hears:
            self._hear()
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
        if self.hears and not self.works:
            self.hears = not end_hearing(self)

    def end_soon(self, work: Work, state: str, reason: str) -> None:
        """End a piece of work as soon as the thread looks: what would show its end is being loaded by who calls."""
        with self._lock:
            self._left.append((work, state, reason))
            self.ring()

    def _end_left(self) -> None:
        """End what has been left to be ended; what another thread ends is ended once this returns."""
        with self._ending:
            while self._left:
                work, state, reason = self._left.pop(0)
                work.end(state, reason)

    def ring(self) -> None:
        """Have the thread look at once."""
        try:
            self._bell.release()
        except RuntimeError:  # it rings already
            pass

    def continued(self) -> None:
        """Take note that the process goes on after it was stopped."""
        self.is_continued = True
        self.ring()

    def close(self) -> None:
        """End all work as far as it came: the process ends."""
        self._end_left()
        for work in [*self.works]:
            work.stop()

    def forget(self) -> None:
        """Begin as a new process."""
        for work in self.works:
            work.forget()
        self.__init__()  # type: ignore[misc]

    def _hear(self) -> None:
        """Hear of SIGCONT, if nobody else does; what this is called for first is that the process ends, too."""
        atexit.unregister(self.close)
        atexit.register(self.close)
        self.hears = begin_hearing(self)

    def _was_stopped(self, late: float, busy: float) -> bool:
        """Return True if the process was stopped since the last look."""
        if self.hears and late > LATE and not self.is_continued:
            time.sleep(MOMENT)
        if self.is_continued:
            self.is_continued = False
            return True
        return late > LATE_UNHEARD and time.process_time() - busy < late / 4 and not self.hears

    def _run(self) -> None:
        """Look, and sleep until it is time again."""
        planned = busy = 0.0
        while True:
            self._end_left()
            with self._lock:
                works = [*self.works]
            now = time.monotonic()
            due = [work for work in works if now - work.begun >= AT_FIRST and not ends_soon(work, now)]
            if due:
                seconds = board.BOARD.look(due, was_stopped=bool(planned) and self._was_stopped(now - planned, busy))
            elif works:
                seconds = min(max(AT_FIRST - (now - work.begun), SOON / 4) for work in works)
            else:
                seconds = LINGER
            planned, busy = (time.monotonic() + seconds, time.process_time()) if due else (0.0, 0.0)
            rung = self._bell.acquire(timeout=seconds)
            with self._lock:
                if not works and not rung and not self.works:
                    self._has_thread = False
                    return


def ends_soon(work: Work, now: float) -> bool:
    """Return True if a piece of work that has no row yet will have ended before anybody has read one.

    It does so if it goes on as it did, and is not shown by lines, which stay.
    """
    total, stream = work.total, work.context.stderr
    if work.is_shown or not total or stream is None or not stream.isatty():
        return False
    count, passed = work.count, now - work.begun
    return total >= count > 0 and passed * (total - count) / count < SOON and passed < LATEST


WATCH = Watch()
if hasattr(os, "register_at_fork"):
    os.register_at_fork(after_in_child=WATCH.forget)
