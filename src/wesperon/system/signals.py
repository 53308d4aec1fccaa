"""The signals of the system, under ``signals``.

:mod:`signal` gives names to the numbers of ``_signal``, by means of :mod:`enum` and much that comes with it: a tenth of
the time until the first question is on the screen. Here the numbers will do; if there is no ``_signal``, the module
itself does as well, since its names are equal to the numbers.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    import signal as signals
    from collections.abc import Iterable
    from typing import Any
else:
    try:
        import _signal as signals
    except ImportError:
        import signal as signals

#: Signals that do not end a process by default, or that nothing can handle (POSIX, ``<signal.h>``).
HARMLESS = ("SIGCHLD", "SIGCLD", "SIGCONT", "SIGURG", "SIGWINCH", "SIGINFO", "SIGTSTP", "SIGTTIN", "SIGTTOU")
UNSTOPPABLE = ("SIGKILL", "SIGSTOP")
#: Signals of a fault of the process itself. A handler that returns would have the fault come again for ever, so they
#: are left alone: the process ends there and then.
FAULTS = ("SIGSEGV", "SIGBUS", "SIGFPE", "SIGILL")


def signals_to_handle() -> list[int]:
    """The numbers of all signals that can be handled and are no fault of the process itself."""
    if not hasattr(signals, "valid_signals"):
        return []
    left_out = {getattr(signals, name, 0) for name in (*UNSTOPPABLE, *FAULTS)}
    return sorted(int(number) for number in signals.valid_signals() if number not in left_out)


def ending_signals() -> list[int]:
    """Those of them that end a process by default, SIGINT among them."""
    harmless = {getattr(signals, name, 0) for name in HARMLESS}
    return [number for number in signals_to_handle() if number not in harmless]


def block(numbers: Iterable[int]) -> Any:
    """Have these signals wait in this thread, and Python handle those that it has noted; what ``unblock`` wants."""
    if not hasattr(signals, "pthread_sigmask"):
        return None
    return signals.pthread_sigmask(signals.SIG_BLOCK, [*numbers])


def unblock(blocked: Any) -> None:
    """Have signals come as before ``block``; what one that has come meanwhile raises is raised here."""
    if blocked is not None:
        signals.pthread_sigmask(signals.SIG_SETMASK, blocked)


__all__ = ["block", "ending_signals", "signals", "signals_to_handle", "unblock"]
