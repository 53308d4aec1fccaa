"""Bare threads for work of the library itself, which run no code of the program."""

from __future__ import annotations

import _thread

from wesperon.system.signals import signals

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable


def start_thread(function: Callable[..., object], *given: object) -> None:
    """Call a function with these arguments in a thread that gets no signals and that the end of the process ends.

    A signal that the system gives to another thread than the main one leaves the main thread asleep; so this one takes
    none. A thread begins with the mask of the one that starts it, hence the block around the start. Code of the program
    must not run there: a child that it started would have every signal blocked for good.
    """
    if not hasattr(signals, "pthread_sigmask"):
        _thread.start_new_thread(function, given)
        return
    before = signals.pthread_sigmask(signals.SIG_BLOCK, signals.valid_signals())
    try:
        _thread.start_new_thread(function, given)
    finally:
        signals.pthread_sigmask(signals.SIG_SETMASK, before)
