"""A thread that has the main thread see a signal which it slept through.

Python runs handlers of signals between two steps of the main thread. While that is inside a call of the system, only a
signal that is delivered to the main thread itself ends the call: one that the system gives to another thread, or that
comes in the last moment before the call, is seen when the call returns by itself, be it after an hour. The wake-up
descriptor tells of every signal at once; so this thread waits there, and sends the main thread one that does no harm.
"""

from __future__ import annotations

import _thread
import os
from time import sleep

from wesperon.system.signals import signals, start_thread

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

#: How long the main thread may take to see a signal by itself before it is nudged, again and again, in seconds.
PATIENCE = (0.02, 0.1, 0.5)
#: The signals that are not worth a nudge: the one that is sent, and those of children, which end no call that matters.
UNIMPORTANT = bytes(getattr(signals, name, 0) for name in ("SIGWINCH", "SIGCHLD"))


class Nudge:
    """Waits for numbers of signals at ``bell`` until ``end``; ``heard`` is called with them."""

    def __init__(self, heard: Callable[[bytes], object]) -> None:
        self.heard = heard
        self._main = _thread.get_ident()
        self._read_end, self.bell = os.pipe()
        os.set_blocking(self.bell, False)
        start_thread(self._wait)

    def end(self) -> None:
        """Nudge no more."""
        os.close(self.bell)  # the thread closes the other end

    def _wait(self) -> None:
        while numbers := os.read(self._read_end, 64):
            self.heard(numbers)
            if numbers.strip(UNIMPORTANT):
                for seconds in PATIENCE:
                    sleep(seconds)
                    try:
                        signals.pthread_kill(self._main, signals.SIGWINCH)
                    except (OSError, AttributeError):  # the main thread has ended
                        break
        os.close(self._read_end)
