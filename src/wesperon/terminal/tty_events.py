"""What comes from a terminal: keys and clicks, sizes, signals, and time that passes.

Each is an event, and all leave by :meth:`TtyEvents.wait` (blocking) or by ``ready`` and ``collect`` (an event loop,
which waits in its own way in between). ``ready`` gives what is there without the terminal, ``collect`` what a wait has
brought.

A terminal tells where its cursor is only if it is asked, and answers among the keys: that is done after a change of
size and for each click, and the keys that come meanwhile are events like others.
"""

from __future__ import annotations

from wesperon.context import current
from wesperon.editing.keys.events import Closed, Mouse, Position, Resize
from wesperon.frozen import later
from wesperon.screen.ecma48 import DSR_POSITION
from wesperon.screen.theme import breaks_rows, colours_of, roles_for
from wesperon.system.process_signals import SIGNALS
from wesperon.terminal.driver import Driver
from wesperon.terminal.inbox import Continued, Failed, Interrupt, Pause, Stop, TimeLeft, TimeOut
from wesperon.terminal.seat.seat import OWN_SEAT, Seat

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.editing.keys.events import Event
    from wesperon.terminal import alarm as alarm_events
    from wesperon.terminal.decoder import Decoder
    from wesperon.terminal.ports.base import Port
else:
    alarm_events = later("wesperon.terminal.alarm")

#: How long the answer to a question to the terminal itself may take, in seconds, and how many may stay away before no
#: more are asked.
REPORT_WAIT, MOST_UNANSWERED = 0.15, 2
#: Seconds without input after which a Ctrl-C ends a paste whose end is missing.
INTERRUPT, PASTE_PAUSE = b"\x03", 1.0
#: How long after an Escape the rest of a sequence may come that it was the beginning of, in seconds.
LATEST = 1.0
#: How many seconds before its end the timeout of a question is announced.
NOTICE = 10.0
#: How long no key must come for work that can wait, in seconds.
PAUSE = 0.1
#: How long the size of the terminal holds, in seconds, unless a signal says otherwise.
SIZE_HOLDS = 0.05
#: The longest wait at a time, in seconds: the system takes no longer ones.
LONGEST_WAIT = 3_600.0


class TtyEvents(Driver):
    """A driver on a ``port``, as far as it listens; what it does to the terminal is in ``tty_driver``."""

    def __init__(self, port: Port) -> None:
        context = current()
        #: The environment and the clock of who sits at the terminal.
        self.environ, self.clock = context.environ, context.clock
        self.port = port
        super().__init__(roles_for(self.environ), colours_of(self.environ), OWN_SEAT if port.is_own else Seat())
        self._decoder: Decoder | None = None
        #: Whether the terminal is gone, and whether the user is.
        self.is_gone = self.is_left = False
        #: Whether a signal wants the process to stop, and whether one has had it go on.
        self._is_stopping = self._is_continued = False
        self._awaits_pause = False
        #: Whether children have the terminal as well.
        self._is_shared = False
        #: The size, and until when it holds by the clock.
        self._size, self._sized_until = (80, 24), -1.0
        self.unanswered = 0
        self.read_at = 0.0
        self.since = 0.0

    def size(self) -> tuple[int, int]:
        """Return the size that the terminal says; 80 by 24 where it says none.

        Where a signal tells of another size, it is not asked for at each of several keys that come in a row.
        """
        if self.since > self._sized_until or self.port.is_resized:
            columns, rows = self.port.size()
            self._size = columns or 80, rows or 24
            hears = self.is_own and SIGNALS.hears_sizes
            self._sized_until = self.since + SIZE_HOLDS if hears else -1.0
        return self._size

    def wake(self) -> None:
        """Wake ``wait``, which returns soon."""
        self.port.wake()

    def send(self, text: str) -> None:
        """Write a text to the terminal, all of it."""
        if text and not self.is_gone:
            try:
                self.port.write(text.encode("utf-8", "replace"))
            except OSError:
                self.is_gone = True

    # Events ----------------------------------------------------------------------------------------------------------

    def wait(self) -> list[Any]:
        """Return the events that come next."""
        while True:
            events = self.ready()
            if events:
                return events
            try:
                has_keys, is_woken = self.port.wait(self.waits)
            except OSError:
                self.is_gone = True
            else:
                events = self.collect(has_keys, is_woken)
                if events:
                    return events

    @property
    def is_ready(self) -> bool:
        """Whether events are there without the terminal."""
        return bool(self._has_signals or self.port.is_resized or self.inbox or self.is_gone or self.is_left)

    def ready(self) -> list[Any]:
        """Return the events that are there without the terminal."""
        events: list[Any] = []
        if self._has_signals:
            self._hear_signals(events)
        if self.port.is_resized:
            self.port.is_resized = False  # before the size is asked for: it may change once more meanwhile
            self._sized_until = -1.0
            events.append(Resize(*self.size()))
        if self.inbox:
            events.extend(self.inbox.pop_all())
        if self.is_gone:
            events.append(Closed())
        elif self.is_left:
            events.append(TimeOut())
        return events

    @property
    def waits(self) -> float | None:
        """The seconds to wait for events: a lone ESC is the Escape key when nothing follows it soon."""
        decoder = self._decoder
        if decoder is not None and decoder.is_pending:
            return decoder.timeout
        if self._awaits_pause:
            return PAUSE
        if (alarm := self.alarm) is not None:
            until = alarm - float(self.clock.monotonic())
            return min(max(until, 0), LONGEST_WAIT)
        if self.options.timeout is None:
            return None
        left = self.left
        if not left:
            return left
        # Near the end the time that is left is shown, a second at a time.
        seconds = left - self.notice_at if left > self.notice_at else left % 1 or 1
        return min(max(seconds, 0.001), LONGEST_WAIT)

    @property
    def left(self) -> float | None:
        """The seconds of timeout that are left; None if there is no end to it."""
        timeout = self.options.timeout
        if timeout is None:
            return None
        left = self.since + timeout - self.clock.monotonic()
        return left if left > 0.001 else 0  # what no system can wait for is over

    @property
    def notice_at(self) -> float:
        """How many seconds before the end the user is warned."""
        return min(NOTICE, (self.options.timeout or 0) / 2)

    def begin(self) -> None:
        """Count the time from here on."""
        self.since = self.clock.monotonic()
        self.screen.notice = ""

    def await_pause(self, awaits: bool) -> None:
        """Make the next wait end with a ``Pause`` if no key comes for a moment."""
        self._awaits_pause = awaits

    def listen(self) -> None:
        """Make the decoder for what comes from the terminal."""
        self._decoder = self.decoder

    def expect_commands(self, expects: bool) -> None:
        """Tell the decoder whether keys may be commands."""
        from wesperon.terminal.decoder import OPENERS, OPENERS_OF_COMMANDS

        self.decoder.openers = OPENERS_OF_COMMANDS if expects else OPENERS

    @property
    def decoder(self) -> Decoder:
        """What makes events of bytes; made before the first of them comes."""
        if self._decoder is None:
            from wesperon.terminal.decoder import Decoder

            self._decoder = Decoder()
        return self._decoder

    def collect(self, has_keys: bool, is_woken: bool) -> list[Any]:
        """Return the events that are there after a wait."""
        keys: list[Any] = self._read() if has_keys else []
        if keys and self._is_shared:
            self.screen.painter.forget_rows()  # wherever the cursor is now, the frame is drawn there in full
        events: list[Any] = [*self.ready(), *keys] if is_woken or not keys else keys
        decoder = self._decoder
        if not has_keys and not is_woken and decoder is not None and decoder.is_pending:
            events.extend(decoder.flush())
        elif not (has_keys or is_woken or events):
            event = self._time_passes()
            if event is not None:
                events.append(event)
        if not keys and (alarm := self.alarm) is not None and self.clock.monotonic() >= alarm:
            events.insert(0, alarm_events.Alarm())  # also if something wakes it all the time
        for event in events:
            if isinstance(event, Mouse):
                return self._in_frame(events)
        return events

    def _hear_signals(self, events: list[Any]) -> None:
        """Add what the signals want that have come."""
        if self._is_stopping:
            events.append(Stop(True))
        elif self._is_continued:
            events.append(Continued())
        self._is_stopping = self._is_continued = False
        if not self.is_own:
            return
        if (error := SIGNALS.pop_raised()) is not None:
            events.append(Failed(error))
        if SIGNALS.pop_interrupt():
            events.append(Interrupt())

    def _time_passes(self) -> Any:
        """Return what it means that nothing has come; None if it means nothing yet."""
        if self._awaits_pause:
            self._awaits_pause = False
            return Pause()
        left = self.left
        if left is None or left > self.notice_at + 0.5:
            return None
        if left > 0:
            return TimeLeft(max(round(left), 1))
        self.is_left = True
        return TimeOut()

    def hear_size(self) -> None:
        """Ask for the size before anything is drawn; called by a signal handler."""
        self.port.is_resized = True
        self.port.wake()

    def stop_soon(self) -> None:
        """Stop the process once nothing is half drawn; called by a signal handler."""
        self._is_stopping = True
        self.port.wake()

    def has_input(self) -> bool:
        """Return True if the terminal has something to read, or is gone."""
        if self.inbox:
            return True
        try:
            has_keys, _ = self.port.wait(0)  # what the bell was rung for is in the inbox, or known otherwise
        except OSError:
            self.is_gone = True
        return self.is_gone or has_keys or bool(self.inbox) or self.port.is_resized or self._has_signals

    @property
    def _has_signals(self) -> bool:
        """Whether a signal has come that the loop is to hear of."""
        is_signalled = self.is_own and (SIGNALS.is_interrupted or SIGNALS.raised)
        return bool(self._is_stopping or self._is_continued or is_signalled)

    # The size of the screen and the place of the cursor --------------------------------------------------------------

    def resize(self, columns: int, rows: int) -> None:
        """Find out where the cursor is after a change of size; the events that come meanwhile wait."""
        events, found = self._find_cursor()
        self.inbox.put_back(events)
        place = (found.row, found.column) if found else None
        self._tell("now %d columns by %d rows; the cursor is found at %s", columns, rows, place)
        self.screen.painter.resized(columns, rows, place, breaks_rows(self.environ))

    def _find_cursor(self) -> tuple[list[Event], Position | None]:
        """Ask the terminal where its cursor is; the events that came meanwhile, and the answer if there is one."""
        events: list[Event] = []
        # The answer would be part of a text that is being pasted.
        if self.unanswered >= MOST_UNANSWERED or self.decoder.is_pasting:
            return events, None
        self.decoder.reports += 1
        self.send(DSR_POSITION)
        end = self.clock.monotonic() + REPORT_WAIT
        found: Position | None = None
        while found is None and not self.is_gone and (left := end - self.clock.monotonic()) > 0:
            try:
                has_keys = self.port.wait(left)[0]
            except OSError:
                self.is_gone = True
                break
            if has_keys:
                events.extend(self._read())
                found = next((event for event in events if isinstance(event, Position)), None)
        self.unanswered = self.unanswered + 1 if found is None else 0
        return events, found

    def _in_frame(self, events: list[Any]) -> list[Any]:
        """Return the events with the places of the mouse counted from the first row of the frame."""
        more, found = self._find_cursor()
        placed: list[Any] = []
        for event in [*events, *more]:
            if not isinstance(event, Mouse):
                placed.append(event)
            elif found is not None:
                row = event.row - found.row + self.screen.painter.at_row
                placed.append(Mouse(event.name, event.action, row, event.column))
        return placed

    def _read(self) -> list[Event]:
        """Return the events of the bytes that are there."""
        decoder = self._decoder or self.decoder
        is_pasting = decoder.is_pasting
        try:
            data = self.port.read_paste() if is_pasting else self.port.read_keys()
        except OSError:
            data, self.is_gone = b"", True
        events: list[Event] = []
        self.begin()
        now = self.since
        if is_pasting and data == INTERRUPT and now - self.read_at > PASTE_PAUSE:
            events += decoder.break_off()
        if decoder.has_escaped and now - self.read_at > LATEST:
            decoder.has_escaped = False
        self.read_at = now
        events += decoder.feed(data)
        return events

    def _tell(self, message: str, *values: object) -> None:
        """Tell what happens to the terminal, if somebody wants to know."""
        if "WESPERON_LOG" in self.environ:
            from wesperon.terminal.diagnostics import area

            area("terminal").debug(message, *values)
