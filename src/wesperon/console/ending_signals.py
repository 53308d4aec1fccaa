"""Handle SIGTERM and SIGHUP while a console is open: leave it and call its ``on_leave`` callbacks.

A command that runs is interrupted first; consoles inside a console are left one after the other, the innermost first.
The same signal once more ends the process as it always does.
"""

from __future__ import annotations

from wesperon.system.interrupts import critical
from wesperon.system.nudge import Nudge
from wesperon.system.process_signals import BY_SIGNAL, SIGNALS, Holder
from wesperon.system.signals import signals

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.console.open_console import OpenConsole


class HeldConsole(Holder):
    """A console, as the signals of the process see it."""

    def __init__(self, console: OpenConsole) -> None:
        self.console = console
        #: Has a command hear of a signal while it waits.
        self.nudge = Nudge(self._pass_on) if hasattr(signals, "pthread_kill") else None
        self.bell = self.nudge.bell if self.nudge is not None else -1

    is_driver = False

    def _pass_on(self, numbers: bytes) -> None:
        SIGNALS.pass_on(self, numbers)

    def leave_by(self, number: int) -> bool:
        """Leave with the status that a shell shows for the signal."""
        self.console.leave(BY_SIGNAL + number)
        return True

    def is_at_work(self) -> bool:
        """Return True if a command runs, with no question on the console's own driver, which ends by itself."""
        driver = self.console.driver_in_use
        return bool(self.console.running) and (driver is None or not driver.depth)


@critical
def hold_signals(console: OpenConsole) -> Callable[[], None]:
    """Leave a console at a signal that ends the process. Return what ends that."""
    held = SIGNALS.hold()
    try:
        holder = HeldConsole(console)
        in_main = SIGNALS.open(holder)
    finally:
        SIGNALS.let_go(held)

    @critical
    def release() -> None:
        held = SIGNALS.hold()
        try:
            SIGNALS.close(holder, in_main=in_main)
            if holder.nudge is not None:
                holder.nudge.end()
        finally:
            SIGNALS.let_go(held)

    return release
