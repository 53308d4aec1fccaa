"""A signal that another thread got is seen by a main thread that sleeps.

Modules: ``system.nudge``.
"""

from __future__ import annotations

import signal
import threading
import time
from types import FrameType

import pytest

from wesperon.system.nudge import Nudge


class Seen(Exception):
    """The main thread has run the handler."""


def test_a_main_thread_that_sleeps_sees_a_signal_that_another_thread_got() -> None:
    def see(number: int, frame: FrameType | None) -> None:
        raise Seen

    before = signal.signal(signal.SIGUSR1, see)
    sized = signal.signal(signal.SIGWINCH, lambda number, frame: None)
    heard: list[bytes] = []
    nudge = Nudge(heard.append)
    woken = signal.set_wakeup_fd(nudge.bell)
    stop = threading.Event()
    other = threading.Thread(target=stop.wait, args=(60,))
    other.start()

    def send() -> None:
        time.sleep(0.2)
        assert other.ident is not None
        signal.pthread_kill(other.ident, signal.SIGUSR1)

    sender = threading.Thread(target=send)
    sender.start()
    try:
        with pytest.raises(Seen):
            time.sleep(60)
        assert b"".join(heard)[:1] == bytes((signal.SIGUSR1,))
    finally:
        stop.set()
        signal.set_wakeup_fd(woken)
        nudge.end()
        signal.signal(signal.SIGUSR1, before)
        sender.join()
        time.sleep(0.7)  # the last nudge
        signal.signal(signal.SIGWINCH, sized)
