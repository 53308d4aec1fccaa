"""The blocking driver: runs widgets on the controlling terminal of the process.

The terminal comes back as it was on every way out: return, exception, a signal that ends the process, a stop and what
follows it. What differs from system to system is in a port (``port``).
"""

from __future__ import annotations

import sys
from time import sleep

from wesperon.context import current
from wesperon.editing.keys.events import Closed, Key, Mouse, Position, Resize
from wesperon.screen.ecma48 import (
    CURSOR_SHAPES,
    DSR_POSITION,
    MOUSE_OFF,
    MOUSE_ON,
    PASTE_OFF,
    PASTE_ON,
    SGR_RESET,
    SHOW_CURSOR,
    WRAP_ON,
)
from wesperon.screen.theme import colours_of, roles_for
from wesperon.terminal.driver import Driver
from wesperon.terminal.ports.signals import allow_interrupts, block_interrupts, signals
from wesperon.terminal.signal_watch import SignalWatch, stop_process
from wesperon.text.messages import tell_many
from wesperon.user_folders import preference_files

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from types import TracebackType
    from typing import Self

    from wesperon.editing.keys.events import Event
    from wesperon.terminal.decoder import Decoder
    from wesperon.terminal.ports.base import Port
    from wesperon.widgets.widget import Growing, Widget

#: How long the answer to a question to the terminal itself may take, in seconds, and how many may stay away before no
#: more are asked.
REPORT_WAIT, MOST_UNANSWERED = 0.15, 2
#: Seconds without input after which a Ctrl-C ends a paste whose end is missing.
INTERRUPT, PASTE_PAUSE = b"\x03", 1.0
#: How many seconds before its end the timeout of a question is announced.
NOTICE = 10.0
#: How long no key must come for work that can wait, in seconds.
PAUSE = 0.1
#: How often the screen shows that more has come, in seconds.
GROWS_EVERY = 0.05
#: How long the size of the terminal holds, in seconds, unless a signal says otherwise.
SIZE_HOLDS = 0.05
#: How often is tried whether another process has given the terminal back, in seconds.
TURN_EVERY = 0.05
#: The key that stops the process until SIGCONT.
SUSPEND = "ctrl-z"


def reach(program: str = "") -> TtyDriver | None:
    """A driver on the controlling terminal; ``None`` if there is none, or nobody at it.

    ``program`` is the name under which the user may prefer plain lines.
    """
    port = reach_port()
    if port is not None and wants_plain(current().environ, program):
        from wesperon.terminal.plain_driver import PlainDriver

        return PlainDriver(port)
    return None if port is None else TtyDriver(port)


def is_plain(environment: Mapping[str, str]) -> bool:
    """Whether the environment wants plain lines, or the terminal cannot move its cursor."""
    said = environment.get("WESPERON_PLAIN", "0").lower()
    return environment.get("TERM") == "dumb" or said not in ("", "0", "no", "off", "false")


def wants_plain(environment: Mapping[str, str], program: str) -> bool:
    """Whether questions are to be plain lines, as the environment or else the user's files say."""
    if sys.platform == "win32":
        return False
    if is_plain(environment):
        return True
    files = () if environment.get("WESPERON_PLAIN") else preference_files(program)
    if not files:
        return False
    from wesperon.terminal.preferences import preferences_of

    return preferences_of(files).values["plain"] == "yes"


def reach_port() -> Port | None:
    """The terminal of this system."""
    if sys.platform == "win32":
        from wesperon.terminal.ports import windows

        return windows.reach()
    from wesperon.terminal.ports import posix

    return posix.reach()


def breaks_rows(environment: Mapping[str, str]) -> bool:
    """Whether the terminal is one that breaks rows which have become too long for it, as most do."""
    if "TMUX" in environment:
        return True
    return "XTERM_VERSION" not in environment and "STY" not in environment


class TtyDriver(Driver):
    """Runs widgets on a terminal; the driver closes it."""

    is_terminal = True
    knows_pauses = True

    @property
    def is_own(self) -> bool:
        """Whether its terminal is that of the process, where everything that the process prints goes too."""
        return self.port.is_own

    def __init__(self, port: Port) -> None:
        context = current()
        #: The environment and the clock of who sits at the terminal.
        self.environ, self.clock = context.environ, context.clock
        super().__init__(roles_for(self.environ), colours_of(self.environ))
        self.port = port
        self._decoder: Decoder | None = None
        self.is_gone = False
        self.is_left = False
        self.watch = SignalWatch(self)
        #: The size, and until when it holds by the clock.
        self._size, self._sized_until = (80, 24), -1.0
        self.unanswered = 0
        self.read_at = 0.0
        self.since = 0.0

    def __enter__(self) -> Self:
        """Take the terminal, once no other process asks; an interrupt meanwhile is raised once it is given back."""
        while not self.depth and not self.port.claim():
            sleep(TURN_EVERY)
        blocked = block_interrupts()
        try:
            super().__enter__()
        except BaseException:
            allow_interrupts(blocked)
            raise
        try:
            allow_interrupts(blocked)
            return self  # within, since an interrupt may come right here
        except BaseException:
            super().__exit__(None, None, None)
            raise

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """Give the terminal back; an interrupt that comes meanwhile is raised afterwards."""
        blocked = block_interrupts()
        try:
            super().__exit__(kind, error, trace)
        finally:
            allow_interrupts(blocked)

    def close(self) -> None:
        """Close the terminal; the driver runs nothing any more."""
        self.watch.close()
        self.port.close()

    def size(self) -> tuple[int, int]:
        """The size that the terminal says; 80 by 24 where it says none.

        Where a signal tells of another size, it is not asked for at each of several keys that come in a row.
        """
        if self.since > self._sized_until or self.port.is_resized:
            columns, rows = self.port.size()
            self._size = columns or 80, rows or 24
            self._sized_until = self.since + SIZE_HOLDS if self.watch.hears_sizes else -1.0
        return self._size

    def enter(self) -> None:
        """Take the terminal: keys come one by one, and nothing is echoed."""
        self.watch.start()
        try:
            self.port.take()
            self.send(self._modes_on())
            self._tell("taken, %d columns by %d rows", *self.size())
        except BaseException:
            self.leave()
            raise

    def leave(self) -> None:
        """Give the terminal back."""
        self.hand_back()
        self.port.release()
        self._tell("given back")
        self.watch.end()

    def ignore_sigint(self) -> None:
        """Ignore the signal of the keyboard until the terminal is given back, or for good."""
        self.watch.ignore_sigint()

    def is_lent(self) -> bool:
        """Whether another program reads the keys one by one, as editors and pagers do."""
        return self.port.is_taken()

    def wake(self) -> None:
        """Have ``wait`` return soon."""
        self.port.wake()

    def send(self, text: str) -> None:
        """Write a text to the terminal, all of it."""
        if text and not self.is_gone:
            try:
                self.port.write(text.encode("utf-8", "replace"))
            except OSError:
                self.is_gone = True

    def wait(self) -> list[Event]:
        """The events that come next; none if something was told meanwhile."""
        events: list[Event] = []
        while not events and not self.told and not self.has_grown:
            if self.is_gone or self.is_left:
                return [Closed()]
            events = self.collect(*self.port.wait(self.waits))
        return events

    @property
    def waits(self) -> float | None:
        """The seconds to wait for events: a lone ESC is the Escape key when nothing follows it soon."""
        decoder = self._decoder
        if decoder is not None and decoder.is_pending:
            return decoder.timeout
        if self.wants_pause:
            return PAUSE
        left = self.left
        if left is None:
            return None
        # Near the end the time that is left is shown, a second at a time.
        return left - self.notice_at if left > self.notice_at else left % 1 or 1

    @property
    def left(self) -> float | None:
        """The seconds of timeout that are left; None if there is no end to it."""
        timeout = self.options.timeout
        return None if timeout is None else max(self.since + timeout - self.clock.monotonic(), 0)

    @property
    def notice_at(self) -> float:
        """How many seconds before the end the user is warned."""
        return min(NOTICE, (self.options.timeout or 0) / 2)

    def begin(self) -> None:
        """Count the time from here on."""
        self.since = self.clock.monotonic()
        self.notice = ""

    def listen(self) -> None:
        """Have a decoder for what comes from the terminal."""
        self._decoder = self.decoder

    @property
    def decoder(self) -> Decoder:
        """What makes events of bytes; made before the first of them comes."""
        if self._decoder is None:
            from wesperon.terminal.decoder import Decoder

            self._decoder = Decoder()
        return self._decoder

    def count_down(self) -> bool:
        """Say how much time is left, if that is near its end; whether there is any."""
        left = self.left
        if left is None or left <= 0:
            return False
        self.notice = tell_many(
            "  No answer? This ends in {count} second.",
            "  No answer? This ends in {count} seconds.",
            max(round(left), 1),
        )
        return True

    def collect(self, has_keys: bool, is_woken: bool) -> list[Event]:
        """The events that are there after a wait."""
        keys = self._read() if has_keys else []
        events: list[Event] = []
        if self.watch.is_stopping or self.watch.is_continued:
            events.append(self._stop_or_go_on())
        if self.port.is_resized:
            self.size()
            self.port.is_resized = False
            events.append(Resize(*self.size()))
        events.extend(keys)
        decoder = self._decoder
        if not has_keys and not is_woken and decoder is not None and decoder.is_pending:
            events.extend(decoder.flush())
        elif not (has_keys or is_woken or events):
            if self.wants_pause:
                self.is_pause = self.has_grown = True
            elif self.count_down():
                self.has_grown = True
            else:  # timeout is at its end, for this question and for all that follow
                self.is_left = True
        for event in events:
            if isinstance(event, Mouse):
                return self._in_frame(events)
        return events

    def has_input(self) -> bool:
        """Whether the terminal has something to read, or is gone."""
        has_keys, is_woken = self.port.wait(0)
        if is_woken:
            self.wake()  # for the one who waits
        return self.is_gone or has_keys or is_woken

    def feed_from(self, supply: Growing, widget: Widget) -> None:
        """Take from the supply in a thread, for as long as the widget is open."""
        import threading
        from contextvars import copy_context

        supply.lock = threading.Lock()

        def draw() -> None:
            shown = 0.0
            try:
                while widget.outcome is None and supply.pull():
                    if self.clock.monotonic() - shown > GROWS_EVERY:
                        shown = self.clock.monotonic()
                        self._grow()
            except Exception as error:
                self.failed.append(error)
            self.fed = [one for one in self.fed if one is not supply]
            self._grow()

        threading.Thread(target=copy_context().run, args=(draw,), daemon=True).start()

    def _grow(self) -> None:
        self.has_grown = True
        if self.depth:
            self.wake()

    def preference_files(self) -> list[str]:
        """The files that say what the user prefers."""
        return preference_files(self.options.program)

    def mouse_changed(self) -> None:
        """Tell the terminal whose the mouse is from here on."""
        self.send(MOUSE_ON if self.options.mouse else MOUSE_OFF)

    def edit_outside(self, text: str, syntax: object) -> str:
        """The text as the user's own editor leaves it; it has the whole terminal meanwhile."""
        from wesperon.terminal.external_editor import edited

        if self.stray is not None:
            self.stray.end()
        self.hand_back()
        try:
            return edited(text, syntax, self.port.handles)
        finally:
            self._take_again()
            if self.stray is not None:
                self.stray.begin()

    def resize(self, columns: int, rows: int) -> None:
        """Find out where the cursor is after a change of size; the events that come meanwhile wait."""
        events, found = self._find_cursor()
        self.queue += events
        place = (found.row, found.column) if found else None
        self._tell("now %d columns by %d rows; the cursor is found at %s", columns, rows, place)
        self.painter.resized(columns, rows, place, breaks_rows(self.environ))

    def _find_cursor(self) -> tuple[list[Event], Position | None]:
        """Ask the terminal where its cursor is; the events that came meanwhile, and the answer if there is one."""
        events: list[Event] = []
        if self.unanswered >= MOST_UNANSWERED:
            return events, None
        self.decoder.reports += 1
        self.send(DSR_POSITION)
        end = self.clock.monotonic() + REPORT_WAIT
        found: Position | None = None
        while found is None and not self.is_gone and (left := end - self.clock.monotonic()) > 0:
            if self.port.wait(left)[0]:
                events.extend(self._read())
                found = next((event for event in events if isinstance(event, Position)), None)
        self.unanswered = self.unanswered + 1 if found is None else 0
        return events, found

    def _in_frame(self, events: list[Event]) -> list[Event]:
        """The events with the places of the mouse counted from the first row of the frame."""
        more, found = self._find_cursor()
        placed: list[Event] = []
        for event in [*events, *more]:
            if not isinstance(event, Mouse):
                placed.append(event)
            elif found is not None:
                row = event.row - found.row + self.painter.at_row
                placed.append(Mouse(event.name, event.action, row, event.column))
        return placed

    def _read(self) -> list[Event]:
        """The events of the bytes that are there; the key that suspends is obeyed here, as a terminal does."""
        decoder = self.decoder
        try:
            data = self.port.read() if decoder.is_pasting else self.port.read_keys()
        except OSError:
            data, self.is_gone = b"", True
        events: list[Event] = []
        self.begin()
        now = self.since
        if decoder.is_pasting and data == INTERRUPT and now - self.read_at > PASTE_PAUSE:
            events += decoder.break_off()
        self.read_at = now
        for event in decoder.feed(data):
            if isinstance(event, Key) and event.name == SUSPEND and self.port.is_own and hasattr(signals, "SIGTSTP"):
                self._suspend()
                event = Resize(*self.size())
            events.append(event)
        return events

    def _tell(self, message: str, *values: object) -> None:
        """Tell what happens to the terminal, if somebody wants to know."""
        if "WESPERON_LOG" in self.environ:
            from wesperon.terminal.diagnostics import area

            area("terminal").debug(message, *values)

    def _modes_on(self) -> str:
        return PASTE_ON + MOUSE_ON if self.options.mouse else PASTE_ON

    def modes_off(self) -> str:
        """What ends the modes of the terminal that are set by control sequences."""
        shape = CURSOR_SHAPES[""] if self.painter.shape else ""
        mouse = MOUSE_OFF if self.options.mouse else ""
        return SGR_RESET + SHOW_CURSOR + WRAP_ON + shape + mouse + PASTE_OFF

    def abandon(self) -> None:
        """Leave what is drawn as it is, and hand the terminal back."""
        self.send(self.painter.abandon())
        self.hand_back()

    def hand_back(self) -> None:
        """Let the terminal be as it was found, for now or for good."""
        self.send(self.modes_off())
        self.painter.wraps = True
        try:
            self.port.give_back()
        except OSError:
            self.is_gone = True
        self.port.release()

    def _take_again(self) -> None:
        while not self.port.claim():
            sleep(TURN_EVERY)
        try:
            self.port.take()
        except OSError:
            self.is_gone = True
        self.send(self._modes_on())

    def retake(self) -> None:
        """Set the modes again that the driver needs, as far as the terminal is not somebody else's."""
        try:
            self.port.retake()
        except OSError:
            pass  # the terminal is somebody else's at the moment

    def _stop_or_go_on(self) -> Event:
        """Do what the signals want that have come: stop, and draw what is open again once the process goes on."""
        if self.watch.is_stopping:
            self._suspend(only_self=True)
        else:
            self.send(self.painter.abandon() + self._modes_on() + self.painter.start(self.size()[0]))
        self.watch.is_stopping = self.watch.is_continued = False
        return Resize(*self.size())

    def _suspend(self, *, only_self: bool = False) -> None:
        """Stop the process as the terminal would have, and take the terminal again when it goes on.

        ``only_self``: not the other processes of its group.
        """
        self.abandon()
        stop_process(only_self=only_self)
        self._take_again()
        self.watch.is_continued = False
        self.send(self.painter.start(self.size()[0]))
