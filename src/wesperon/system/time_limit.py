"""A limit for a step that may never come to its end, such as a pattern over a text."""

from __future__ import annotations

import signal
import threading
from contextlib import contextmanager

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator


@contextmanager
def time_limit(seconds: float) -> Iterator[None]:
    """Raise TimeoutError inside after so many seconds, where an alarm can be: on POSIX, in the main thread."""
    if not hasattr(signal, "setitimer") or threading.current_thread() is not threading.main_thread():
        yield
        return

    def raise_timeout(number: int, frame: object) -> None:
        raise TimeoutError

    before = signal.signal(signal.SIGALRM, raise_timeout)
    left, again = signal.setitimer(signal.ITIMER_REAL, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_REAL, left, again)
        signal.signal(signal.SIGALRM, before)
