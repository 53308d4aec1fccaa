"""The driver of a session: a program in one thread, a test in another, and one of them at work at a time.

What the program prints, what its questions leave on the screen, and the question that is open make up the screen, as
they would on a terminal; no escape sequence has to be read back for that.
"""

from __future__ import annotations

import asyncio
import re
import threading
import time

from wesperon.editing.keys.events import Closed, Key, Paste, Resize
from wesperon.screen.frame import row_text
from wesperon.screen.theme import UNCOLOURED
from wesperon.terminal.alarm import Alarm
from wesperon.terminal.driver import Driver
from wesperon.terminal.inbox import Grown, Leave, Said
from wesperon.terminal.plain_driver import PlainAsking

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Generator, Sequence
    from typing import Any

    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Frame, Row
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.widgets.widget import Outcome, Widget

#: How often a session inside an event loop looks for events, in seconds.
POLLED = 0.005


#: How long a test waits until what was shown from outside is on the screen, in seconds.
SHOWN_WITHIN = 0.2
#: A control sequence (ECMA-48, 5.4), such as one for a colour.
SEQUENCE = re.compile(r"\x1b\[[0-?]*[ -/]*[@-~]")


class SessionDriver(Driver):
    """Runs the widgets of a program on the events that a test puts in."""

    is_terminal = True

    def __init__(self, columns: int, rows: int) -> None:
        super().__init__(UNCOLOURED, 0)
        self.columns, self.rows = columns, rows
        self.turn = threading.Condition()
        #: Whether the program waits for an event, has ended, and whether the terminal is gone.
        self.is_waiting = False
        self.has_ended = False
        self.is_closed = False
        self.coming: list[Event] = []
        #: What is above the open question for good, and that question.
        self.text = self._unfinished = ""
        self.frame: Frame | None = None
        self.is_over = False
        #: The rows of long work, each time that they changed.
        self.work_shown: list[str] = []

    def size(self) -> tuple[int, int]:
        """Return the size that the test has set."""
        return self.columns, self.rows

    def wait(self) -> list[Any]:
        """Return the events that the test puts in next."""
        with self.turn:
            self.is_waiting = True
            self.turn.notify_all()
            end = None if self.options.timeout is None else time.monotonic() + self.options.timeout
            while not self._has_news():
                # A clock that the test sets tells nobody that it has gone on.
                self.turn.wait(POLLED if self.alarm is not None else end and max(end - time.monotonic(), 0))
                if end is not None and time.monotonic() > end:
                    self.has_timed_out = True  # which ends this question, and leaves the terminal
                    break
            return self._taken() or [Closed()]

    async def events(self) -> list[Any]:
        """Return the events that the test puts in next, while the other tasks of the event loop go on."""
        end = None if self.options.timeout is None else time.monotonic() + self.options.timeout
        with self.turn:
            self.is_waiting = True
            self.turn.notify_all()
        while not self._has_news():
            await asyncio.sleep(POLLED)
            if end is not None and time.monotonic() > end:
                self.has_timed_out = True
                break
        with self.turn:
            return self._taken() or [Closed()]

    def _has_news(self) -> bool:
        return bool(self.coming or self.is_closed or self.inbox or self._is_due())

    def _is_due(self) -> bool:
        woken = self.woken
        if woken is not None and woken.has_news:  # whatever the clock says, which may be one that stands still
            return True
        alarm = self.alarm
        return alarm is not None and self.clock.monotonic() >= alarm

    def _taken(self) -> list[Any]:
        self.is_waiting = False
        events: list[Any] = self.inbox.pop_all()
        if not events:
            events, self.coming = self.coming, []
        if not events and self._is_due():
            events = [Alarm()]
        return events or ([Closed()] if self.is_closed else [])

    def wake(self) -> None:
        """Let the program go on, since something was said."""
        with self.turn:
            self.turn.notify_all()

    def look_at(self, frame: Frame) -> None:
        """Keep the frame; the last one of a question stays."""
        self.frame = frame

    def steps(self, widget: Widget, options: DriverOptions | None = None) -> Generator[None, list[Any], None]:
        """Run the widget; what it leaves on the screen is above the next."""
        try:
            yield from super().steps(widget, options)
        finally:
            if widget.is_full_screen and not widget.shares_screen:
                self.frame = None
        if self.frame is not None and not widget.shares_screen:
            self.write("".join(row_text(row).rstrip() + "\n" for row in self.frame.rows))
            self.frame = None

    def send(self, text: str) -> None:
        """Nothing: the screen is made of frames."""

    def show_work(self, rows: Sequence[Row]) -> None:
        """Show rows of long work: they are part of the screen while nothing is open, or a line of a console is."""
        if tuple(rows) == self.work:
            return
        self.work = tuple(rows)
        if rows:
            self.work_shown.append("\n".join([row_text(row).rstrip() for row in rows]))
        if self.depth and self.shows_work:
            self.inbox.post(Grown(-1, 0))

    def show(self, said: list[str]) -> None:
        """Show lines above the open question."""
        self.write("".join(f"{line}\n" for line in said))

    def write(self, text: str) -> None:
        """Show a text above the open question, without its colours."""
        self.text += SEQUENCE.sub("", text)

    def print(self, text: str) -> None:
        """Show what the program prints; a screen of parts hears of each whole line too."""
        if self.stage is not None:
            *lines, self._unfinished = (self._unfinished + SEQUENCE.sub("", text)).split("\n")
            if lines:
                self.stage.hear(lines)
        self.write(text)

    def clear(self) -> None:
        """See ``Driver``."""
        self.text = ""
        super().clear()

    def lines(self) -> list[str]:
        """Return the last rows, as many as the terminal has, blanks at their ends taken off."""
        lines: list[str] = []
        for line in self.text.split("\n"):
            line = line.expandtabs().rstrip()
            lines += [line[at : at + self.columns] for at in range(0, max(len(line), 1), self.columns)]
        if self.frame is not None:
            lines[-1:] = [lines[-1], *self.frame.text().split("\n")] if lines[-1] else self.frame.text().split("\n")
        else:
            if not lines[-1]:
                del lines[-1]
            lines += [row_text(row).rstrip() for row in self.work]
        return lines[-self.rows :]

    # For the test's thread ---------------------------------------------------------------------------------------

    def put(self, events: list[Event], seconds: float) -> None:
        """Put events in, once the program waits for some, and wait until it waits again or has ended."""
        self.settle(seconds)
        if not events:
            return
        with self.turn:
            if self.has_ended:
                raise AssertionError("the program has ended, and takes no more keys; its screen:\n" + self.shown())
            for event in events:
                if isinstance(event, Resize):
                    self.columns, self.rows = event.columns, event.rows
            self.coming += events
            self.is_waiting = False
            self.turn.notify_all()
        self.settle(seconds)

    def settle(self, seconds: float) -> None:
        """Wait until the program waits for an event, or has ended; raises AssertionError if it does neither."""
        with self.turn:
            if not self.turn.wait_for(lambda: self.has_ended or (self.is_waiting and not self.coming), seconds):
                raise AssertionError(
                    f"the program neither asks nor ends within {seconds:g} s; its screen:\n{self.shown()}"
                )
            # What the test itself has shown is seen; who goes on showing is not waited for.
            self.turn.wait_for(lambda: self.has_ended or (self.is_waiting and not self._has_news()), SHOWN_WITHIN)

    def shown(self) -> str:
        """Return the screen as one text."""
        return "\n".join(self.lines())


class PlainSessionDriver(PlainAsking, SessionDriver):
    """The same on a terminal where questions are plain lines."""

    def send(self, text: str) -> None:
        """Show a text."""
        self.write(text)

    async def answer(self, widget: Widget, options: DriverOptions | None = None) -> Outcome:
        """Run the widget; in plain lines, questions block."""
        return self.run(widget, options)

    def _line(self, prompt: str, hides: bool) -> str | None:
        self.send(prompt)
        typed = ""
        while True:
            for at, event in enumerate(events := self.wait(), 1):
                if isinstance(event, (Said, Leave)):
                    if isinstance(event, Leave):
                        self.is_gone = True
                        return None
                    self.show([event.text])
                    continue
                name = getattr(event, "name", "")
                typed += event.text if isinstance(event, (Key, Paste)) else ""
                if name == "backspace":
                    typed = typed[:-1]
                ends = name in ("enter", "ctrl-j") or (isinstance(event, Paste) and "\n" in typed)
                if not (ends or name in ("ctrl-c", "ctrl-d") or isinstance(event, Closed)):
                    continue
                self.coming = [*events[at:], *self.coming]
                line, _, rest = typed.partition("\n")
                if rest:
                    self.coming.insert(0, Paste(rest))
                is_over = isinstance(event, Closed)
                self.is_left = is_over and not self.is_closed
                self.is_gone = self.is_gone or (is_over and self.is_closed)
                if name == "ctrl-c":
                    raise KeyboardInterrupt
                if (name == "ctrl-d" and typed) or not (ends or name == "ctrl-d" or is_over or self.is_gone):
                    continue
                self.send(("" if hides else line) + "\n" * ends)
                return line if ends else None
