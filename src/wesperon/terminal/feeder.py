"""Taking from a growing list in a thread, as far as the widget wants: what is in sight, and a screen more.

The list has one lock and is shared by all who look at it (``values.pull_source``); a feeder is one terminal's own. So
an endless list costs no more than what is seen of it.
"""

from __future__ import annotations

import threading
import time
from contextvars import copy_context

from wesperon.terminal.inbox import Failed, Grown

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.widgets.widget import Growing

#: How often the screen shows that more has come, in seconds.
SHOWN_EVERY = 0.05


class Feeder:
    """Takes from a ``source`` until it has as many items as are wanted; ``post`` gets the events about that."""

    def __init__(self, number: int, source: Growing, wanted: int, post: Callable[[Any], object]) -> None:
        self.number = number
        self.source = source
        self.post = post
        self._wanted = wanted
        self._has_ended = False
        self._more = threading.Condition()
        # It runs code of the program, so it is a thread like others: with its context, and with its signals.
        threading.Thread(target=copy_context().run, args=(self._run,), daemon=True).start()

    def want(self, count: int) -> None:
        """Ask for so many; the feeder goes on until it has them."""
        with self._more:
            self._wanted = max(self._wanted, count)
            self._more.notify()

    def end(self) -> None:
        """Take no more."""
        with self._more:
            self._has_ended = True
            self._more.notify()

    def _run(self) -> None:
        source, shown = self.source, 0.0
        try:
            # One by one: a source may take a second for each, and what is there is shown meanwhile.
            while self._goes_on() and source.pull(source.count + 1):
                now = time.monotonic()
                if now - shown > SHOWN_EVERY or source.count >= self._wanted:
                    shown = now
                    self._tell()
        except Exception as error:
            self.post(Failed(error))
            return
        self._tell()

    def _tell(self) -> None:
        if not self._has_ended:
            self.post(Grown(self.number, self.source.count))

    def _goes_on(self) -> bool:
        """Wait until more is wanted. Return False at the end."""
        with self._more:
            while not self._has_ended and self.source.count >= self._wanted:
                self._more.wait()
            return not self._has_ended
