"""The blocking driver: runs widgets on the controlling terminal of the process.

The terminal is opened by its own name, so that standard input and output may lead elsewhere. It comes back as it was on
every way out: return, exception, a signal that ends the process, a stop and what follows it.
"""

from __future__ import annotations

import os
import select
import signal
import termios
import time

from wesperon.editing.events import Closed, Key, Position, Resize
from wesperon.screen.ecma48 import DSR_POSITION, PASTE_OFF, PASTE_ON, SGR_RESET, SHOW_CURSOR
from wesperon.screen.look import look_for
from wesperon.terminal.driver import Driver
from wesperon.terminal.keys import Decoder

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from types import FrameType
    from typing import Any

    from wesperon.editing.events import Event

#: The name of the controlling terminal (POSIX, Base Definitions, 10.1).
PATH = "/dev/tty"
#: How long an ESC may wait for the rest of a sequence, in seconds.
ESCAPE_WAIT = 0.05
#: How long the answer to a question to the terminal itself may take, in seconds, and how many may stay away before no
#: more are asked.
REPORT_WAIT, MOST_UNANSWERED = 0.15, 2
#: Signals that end the process, on which the terminal is given back first.
ENDING = (signal.SIGTERM, signal.SIGHUP, signal.SIGQUIT)
#: The key that stops the process until it is told to go on.
SUSPEND = Key("ctrl-z")
#: The most bytes read at a time.
CHUNK = 1 << 16


def reach() -> Blocking | None:
    """A driver on the controlling terminal; ``None`` where there is none, or nobody at it.

    A process in the background has no right to ask: with job control it would be stopped for it, and without, which
    shells show by ignoring the signals of the keyboard (POSIX, Shell Command Language, 2.11), nobody would expect it.
    """
    if signal.getsignal(signal.SIGINT) is signal.SIG_IGN and signal.getsignal(signal.SIGQUIT) is signal.SIG_IGN:
        return None
    try:
        handle = os.open(PATH, os.O_RDWR | os.O_NOCTTY | os.O_CLOEXEC)
    except OSError:
        return None
    try:
        termios.tcgetattr(handle)
        in_front = os.tcgetpgrp(handle) == os.getpgrp()
    except (OSError, termios.error):
        in_front = False
    if not in_front:
        os.close(handle)
        return None
    return Blocking(handle)


def breaks_rows(environment: Mapping[str, str]) -> bool:
    """Whether the terminal is one that breaks rows which have become too long for it, as most do."""
    if "TMUX" in environment:
        return True
    return "XTERM_VERSION" not in environment and "STY" not in environment


class Blocking(Driver):
    """Runs widgets on a terminal that is open for reading and writing; the driver closes it."""

    def __init__(self, handle: int) -> None:
        super().__init__(look_for(os.environ))
        self.handle = handle
        self.decoder = Decoder()
        self.modes: list[Any] = []
        self.handlers: dict[int, Any] = {}
        self.wake: tuple[int, int] | None = None
        self.is_gone = False
        self.is_left = False
        self.unanswered = 0

    def close(self) -> None:
        """Close the terminal; the driver runs nothing any more."""
        os.close(self.handle)

    def size(self) -> tuple[int, int]:
        """The size that the terminal says; 80 by 24 where it says none."""
        try:
            columns, rows = os.get_terminal_size(self.handle)
        except OSError:
            columns, rows = 0, 0
        return columns or 80, rows or 24

    def enter(self) -> None:
        """Take the terminal: keys come one by one, and nothing is echoed."""
        self.modes = termios.tcgetattr(self.handle)
        self._listen()
        try:
            self._set_modes()
            self.send(PASTE_ON)
            self._tell("taken, %d columns by %d rows", *self.size())
        except BaseException:
            self.leave()
            raise

    def leave(self) -> None:
        """Give the terminal back."""
        self._give_back()
        self._tell("given back")
        for number, handler in self.handlers.items():
            if not (self.ends_process and number == signal.SIGINT):
                signal.signal(number, handler)
        self.handlers.clear()
        if self.wake:
            for end in self.wake:
                os.close(end)
            self.wake = None

    def hush(self) -> None:
        """Ignore the signal of the keyboard until the terminal is given back, or for good."""
        try:
            self._handle(signal.SIGINT, signal.SIG_IGN)
        except ValueError:  # not in the main thread, where no such signal arrives
            pass

    def send(self, text: str) -> None:
        """Write a text to the terminal, all of it."""
        data = text.encode("utf-8", "replace")
        while data and not self.is_gone:
            try:
                data = data[os.write(self.handle, data) :]
            except BlockingIOError:
                select.select([], [self.handle], [])
            except OSError:
                self.is_gone = True

    def wait(self) -> list[Event]:
        """The events that come next; a lone ESC is the Escape key when nothing follows it soon."""
        events: list[Event] = []
        while not events:
            if self.is_gone or self.is_left:
                return [Closed()]
            watched = [self.handle, self.wake[0]] if self.wake else [self.handle]
            waited = ESCAPE_WAIT if self.decoder.is_pending else self.patience
            ready, _, _ = select.select(watched, [], [], waited)
            if self.wake and self.wake[0] in ready:
                os.read(self.wake[0], CHUNK)
                events.extend(self._resize())
            if self.handle in ready:
                events.extend(self._read())
            elif not ready and self.decoder.is_pending:
                events.extend(self.decoder.flush())
            elif not ready:  # patience is at its end, for this question and for all that follow
                self.is_left = True
        return events

    def _resize(self) -> list[Event]:
        """Find out where the cursor is after a change of size; the events that came meanwhile, and the resize."""
        events: list[Event] = []
        columns, rows = self.size()
        if columns < self.painter.columns and self.unanswered < MOST_UNANSWERED:
            self.decoder.reports += 1
            self.send(DSR_POSITION)
            end = time.monotonic() + REPORT_WAIT
            found: int | None = None
            while found is None and not self.is_gone and (left := end - time.monotonic()) > 0:
                if select.select([self.handle], [], [], left)[0]:
                    events.extend(self._read())
                    found = next((event.column for event in events if isinstance(event, Position)), None)
            self.unanswered = self.unanswered + 1 if found is None else 0
            self._tell("narrowed to %d columns; the cursor is found in column %s", columns, found)
            self.painter.resized(columns, found, breaks_rows(os.environ))
        return [*events, Resize(columns, rows)]

    def _read(self) -> list[Event]:
        """The events of the bytes that are there; the key that suspends is obeyed here, as a terminal does."""
        try:
            data = os.read(self.handle, CHUNK)
        except BlockingIOError:
            return []
        except OSError:
            data = b""
        if not data:
            self.is_gone = True
        events: list[Event] = []
        for event in self.decoder.feed(data):
            if event == SUSPEND:
                self._suspend()
                event = Resize(*self.size())
            events.append(event)
        return events

    def _tell(self, message: str, *values: object) -> None:
        """Tell what happens to the terminal, where somebody wants to know."""
        if "WESPERON_LOG" in os.environ:
            from wesperon.terminal.diagnostics import area

            area("terminal").debug(message, *values)

    def _set_modes(self) -> None:
        """Modes in which every key arrives at once and as it is (POSIX, Base Definitions, 11.2)."""
        modes = termios.tcgetattr(self.handle)
        modes[0] &= ~(termios.BRKINT | termios.ICRNL | termios.INLCR | termios.IGNCR | termios.ISTRIP | termios.IXON)
        modes[3] &= ~(termios.ECHO | termios.ICANON | termios.IEXTEN | termios.ISIG)
        modes[6] = list(modes[6])
        modes[6][termios.VMIN], modes[6][termios.VTIME] = 1, 0
        termios.tcsetattr(self.handle, termios.TCSADRAIN, modes)

    def _give_back(self) -> None:
        self.send(SGR_RESET + SHOW_CURSOR + PASTE_OFF)
        try:
            termios.tcsetattr(self.handle, termios.TCSADRAIN, self.modes)
        except (OSError, termios.error):
            self.is_gone = True

    def _listen(self) -> None:
        """Have signals noticed while the terminal is taken, where this is allowed and nobody else listens."""
        read_end, write_end = os.pipe()
        os.set_blocking(write_end, False)
        os.set_blocking(read_end, False)
        self.wake = (read_end, write_end)
        try:
            self._handle(signal.SIGWINCH, self._resized)
            for number in ENDING:
                if signal.getsignal(number) is signal.SIG_DFL:
                    self._handle(number, self._end)
        except ValueError:  # not in the main thread: only that one may handle signals
            pass

    def _handle(self, number: int, handler: Any) -> None:
        self.handlers[number] = signal.signal(number, handler)

    def _resized(self, number: int, frame: FrameType | None) -> None:
        if self.wake:
            try:
                os.write(self.wake[1], b"r")
            except BlockingIOError:
                pass  # the pipe is full of the same news
        before = self.handlers.get(number)
        if callable(before):
            before(number, frame)

    def _end(self, number: int, frame: FrameType | None) -> None:
        """Give the terminal back and end by the same signal."""
        self.send(self.painter.abandon())
        self._give_back()
        signal.signal(number, signal.SIG_DFL)
        os.kill(os.getpid(), number)

    def _suspend(self) -> None:
        """Stop the process as the terminal would have, and take the terminal again when it goes on."""
        self.send(self.painter.abandon())
        self._give_back()
        before = signal.getsignal(signal.SIGTSTP)
        signal.signal(signal.SIGTSTP, signal.SIG_DFL)
        os.killpg(0, signal.SIGTSTP)
        signal.signal(signal.SIGTSTP, before)
        self._set_modes()
        self.send(PASTE_ON + self.painter.start(self.size()[0]))
