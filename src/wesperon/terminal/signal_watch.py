"""The signals of the process while a driver has its terminal: each leaves the terminal as it was found."""

from __future__ import annotations

import os

from wesperon.terminal.ports.signals import signals

TYPE_CHECKING = False
if TYPE_CHECKING:
    from types import FrameType
    from typing import Any

    from wesperon.terminal.guard import Guard
    from wesperon.terminal.tty_driver import TtyDriver

#: Signals that end the process, on which the terminal is given back first.
ENDING = tuple(getattr(signals, name) for name in ("SIGTERM", "SIGHUP", "SIGQUIT") if hasattr(signals, name))
#: The signal of another size of the terminal; 0 where there is none.
WINDOW_SIZE: int = getattr(signals, "SIGWINCH", 0)


class SignalWatch:
    """Handles signals for a driver between ``start`` and ``end``, if the terminal is the process's own.

    Those that somebody else handles are left to that one. In a thread, where no signal can be handled, a process of its
    own guards the terminal (``guard``).
    """

    def __init__(self, driver: TtyDriver) -> None:
        self.driver = driver
        self.handlers: dict[int, Any] = {}
        #: Whether a signal wants the process to stop, and whether one has had it go on.
        self.is_stopping = self.is_continued = False
        self._guard: Guard | None = None

    @property
    def hears_sizes(self) -> bool:
        """Whether a signal tells it of another size of the terminal."""
        return WINDOW_SIZE in self.handlers

    @property
    def has_news(self) -> bool:
        """Whether the process is to stop, or has gone on."""
        return self.is_stopping or self.is_continued

    def start(self) -> None:
        """Handle signals."""
        if not self.driver.port.is_own:
            return
        try:
            if WINDOW_SIZE:
                self._handle(WINDOW_SIZE, self._resized)
            for number in ENDING:
                if signals.getsignal(number) == signals.SIG_DFL:
                    self._handle(number, self._end)
            for name, handler in (("SIGTSTP", self._stop_soon), ("SIGCONT", self._go_on)):
                if hasattr(signals, name) and signals.getsignal(getattr(signals, name)) == signals.SIG_DFL:
                    self._handle(getattr(signals, name), handler)
        except ValueError:  # not in the main thread: only that one may handle signals
            if self._guard is None:
                from wesperon.terminal.guard import Guard

                driver = self.driver
                self._guard = Guard(driver.port.handles[0], driver.modes_off(), driver.hand_back)
            self._guard.arm()

    def ignore_sigint(self) -> None:
        """Ignore the signal of the keyboard until ``end``, or for good where the process ends then."""
        if not self.driver.port.is_own:
            return
        try:
            self._handle(signals.SIGINT, signals.SIG_IGN)
        except ValueError:  # not in the main thread, where no such signal arrives
            pass

    def end(self) -> None:
        """Handle none any more."""
        if self._guard is not None:
            self._guard.disarm()
        for number, handler in self.handlers.items():
            if handler is not None and not (self.driver.ends_process and number == signals.SIGINT):
                signals.signal(number, handler)
        self.handlers.clear()

    def close(self) -> None:
        """Have no guard any more."""
        if self._guard is not None:
            self._guard.end()

    def _handle(self, number: int, handler: Any) -> None:
        self.handlers[number] = signals.signal(number, handler)

    def _resized(self, number: int, frame: FrameType | None) -> None:
        self.driver.port.is_resized = True
        self.driver.port.wake()
        before = self.handlers.get(number)
        if callable(before):
            before(number, frame)

    def _end(self, number: int, frame: FrameType | None) -> None:
        """Give the terminal back and end by the same signal."""
        self.driver.abandon()
        signals.signal(number, signals.SIG_DFL)
        os.kill(os.getpid(), number)

    def _stop_soon(self, number: int, frame: FrameType | None) -> None:
        """Have the process stop where nothing is half drawn."""
        self.is_stopping = True
        self.driver.port.wake()

    def _go_on(self, number: int, frame: FrameType | None) -> None:
        """Take the terminal again at once, before anything is echoed: who had it may have changed its modes."""
        self.is_continued = True
        self.driver.retake()
        self.driver.port.wake()


def stop_process(*, only_self: bool) -> None:
    """Stop the process until SIGCONT, and the others of its group unless ``only_self``."""
    before = signals.getsignal(signals.SIGTSTP)
    signals.signal(signals.SIGTSTP, signals.SIG_DFL)
    if only_self:
        os.kill(os.getpid(), signals.SIGTSTP)
    else:
        os.killpg(0, signals.SIGTSTP)
    signals.signal(signals.SIGTSTP, before)
