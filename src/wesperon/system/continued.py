"""Who wants to know that the process goes on after it was stopped (SIGCONT), while nothing reads keys.

The handler does what is done by default, which is nothing, and tells of it. So it gives way to any other: the owner of
the signals (``process_signals``) takes it for the default one, and a program that handles the signal itself is left
alone.
"""

from __future__ import annotations

import sys

from wesperon.system.signals import HEARERS, signals

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any, Protocol

    class Hearer(Protocol):
        """Who wants to know."""

        def continued(self) -> None:
            """Take note of it; called by a handler of a signal."""


def handle(number: int, frame: Any) -> None:
    """Tell those that want to know."""
    for hearer in HEARERS:
        hearer.continued()


#: Read by the owner of the signals.
handle.does_as_default = True  # type: ignore[attr-defined]


def begin_hearing(hearer: Hearer) -> bool:
    """Tell somebody from here on. Return False if the signal cannot be heard: in a thread, or if the program does."""
    if not hasattr(signals, "SIGCONT"):
        return False
    try:
        now = signals.getsignal(signals.SIGCONT)
        if now == signals.SIG_DFL:
            signals.signal(signals.SIGCONT, handle)
        elif now is not handle and not _is_owners(now):
            return False
    except ValueError:  # not in the main thread
        return False
    if hearer not in HEARERS:  # a process that was forked has it already
        HEARERS.append(hearer)
    return True


def _is_owners(handler: Any) -> bool:
    """Return True if a handler is that of the owner of the signals, who tells too."""
    owner = sys.modules.get("wesperon.system.process_signals")
    return owner is not None and handler == owner.SIGNALS._go_on


def end_hearing(hearer: Hearer) -> bool:
    """Tell somebody no more. Return False if the handler stays, since this is not the main thread."""
    try:
        if signals.getsignal(signals.SIGCONT) is handle:
            signals.signal(signals.SIGCONT, signals.SIG_DFL)
    except ValueError:  # not in the main thread
        return False
    if hearer in HEARERS:
        HEARERS.remove(hearer)
    return True
