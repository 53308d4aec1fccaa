"""Signals that end a process, while a console is open on its terminal: it is left, and its callbacks are called.

A command that runs is interrupted first. The same signal once more ends the process as it always does.
"""

from __future__ import annotations

import os

from wesperon.terminal.ports.signals import signals

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.console.console import Console

#: The signals, and what a shell adds to the number of one to say that it has ended a process.
ENDING = tuple(getattr(signals, name) for name in ("SIGTERM", "SIGHUP") if hasattr(signals, name))
BY_SIGNAL = 128


class EndingSignals:
    """Handles them for a ``console`` until ``close``, unless the program handles them itself."""

    def __init__(self, console: Console) -> None:
        self.console = console
        self._before: dict[int, Any] = {}
        for number in ENDING:
            try:
                if signals.getsignal(number) == signals.SIG_DFL:
                    self._before[number] = signals.signal(number, self._leave)
            except ValueError:  # not in the main thread, where no signal can be handled
                break

    def close(self) -> None:
        """Handle none any more."""
        while self._before:
            number, before = self._before.popitem()
            signals.signal(number, before)

    def _leave(self, number: int, frame: object) -> None:
        if self.console.leaves is not None:  # it is on the way out already
            signals.signal(number, signals.SIG_DFL)
            os.kill(os.getpid(), number)
            return
        driver = self.console.driver_in_use
        runs_command = driver is None or not driver.depth
        self.console.leave(BY_SIGNAL + number)
        if runs_command:
            os.kill(os.getpid(), signals.SIGINT)
