"""The blocking driver: runs widgets on the controlling terminal of the process.

The terminal comes back as it was on every way out: return, exception, a signal that ends the process, a stop and what
follows it. What differs from system to system is in a port (``port``).
"""

from __future__ import annotations

import _thread
import os
import sys

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
from wesperon.system.interrupts import critical
from wesperon.system.process_signals import SIGNALS, stop_process
from wesperon.system.signals import signals
from wesperon.system.threads import start_thread
from wesperon.terminal.driver import Driver
from wesperon.terminal.inbox import Continued, Interrupt, Pause, Stop, TimeLeft, TimeOut
from wesperon.terminal.seat.seat import OWN_SEAT, Held, Seat
from wesperon.text.messages import tell
from wesperon.user_folders import preference_files

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

    from wesperon.editing.keys.events import Event
    from wesperon.terminal.decoder import Decoder
    from wesperon.terminal.feeder import Feeder
    from wesperon.terminal.ports.base import Port
    from wesperon.terminal.seat.guard import Guard
    from wesperon.widgets.widget import Growing

#: How long the answer to a question to the terminal itself may take, in seconds, and how many may stay away before no
#: more are asked.
REPORT_WAIT, MOST_UNANSWERED = 0.15, 2
#: Seconds without input after which a Ctrl-C ends a paste whose end is missing.
INTERRUPT, PASTE_PAUSE = b"\x03", 1.0
#: How many seconds before its end the timeout of a question is announced.
NOTICE = 10.0
#: How long no key must come for work that can wait, in seconds.
PAUSE = 0.1
#: How long the size of the terminal holds, in seconds, unless a signal says otherwise.
SIZE_HOLDS = 0.05
#: The longest wait at a time, in seconds: the system takes no longer ones.
LONGEST_WAIT = 3_600.0
#: After how many seconds the user is told that a key takes its time, and how often what was printed is shown then.
SLOW, SHOWN_EVERY = 0.3, 0.1
#: How long the terminal may take a last text when the process is ended by a signal, in seconds.
HURRY = 1.0


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

    def __init__(self, port: Port) -> None:
        context = current()
        #: The environment and the clock of who sits at the terminal.
        self.environ, self.clock = context.environ, context.clock
        self.port = port
        super().__init__(roles_for(self.environ), colours_of(self.environ), OWN_SEAT if port.is_own else Seat())
        self.holder = Held(self)
        self._decoder: Decoder | None = None
        #: Whether the terminal is gone, and whether the user is.
        self.is_gone = self.is_left = False
        #: Whether a signal wants the process to stop, and whether one has had it go on.
        self._is_stopping = self._is_continued = False
        self._guard: Guard | None = None
        #: Whether the terminal has the settings of this driver, or is about to; and whether it has them for certain.
        self._has_terminal = self._is_set = False
        #: Held while they are set: a handler of a signal may set them again while a thread gives them back.
        self._setting = _thread.RLock()
        self._feeders: list[Feeder] = []
        self._awaits_pause = False
        #: Whether children have the terminal as well.
        self._is_shared = False
        #: Whether the last key that typed took its time.
        self._is_slow = False
        #: The size, and until when it holds by the clock.
        self._size, self._sized_until = (80, 24), -1.0
        self.unanswered = 0
        self.read_at = 0.0
        self.since = 0.0

    @property
    def can_stop(self) -> bool:
        """Whether the key that suspends stops the process."""
        return self.is_own and hasattr(signals, "SIGTSTP")

    def close(self) -> None:
        """Close the terminal; the driver runs nothing any more."""
        if self._guard is not None:
            self._guard.end()
        self.port.close()

    def size(self) -> tuple[int, int]:
        """The size that the terminal says; 80 by 24 where it says none.

        Where a signal tells of another size, it is not asked for at each of several keys that come in a row.
        """
        if self.since > self._sized_until or self.port.is_resized:
            columns, rows = self.port.size()
            self._size = columns or 80, rows or 24
            hears = self.is_own and SIGNALS.hears_sizes
            self._sized_until = self.since + SIZE_HOLDS if hears else -1.0
        return self._size

    # The terminal ----------------------------------------------------------------------------------------------------

    @critical
    def enter(self) -> None:
        """Set the modes of the terminal: keys come one by one, and nothing is echoed."""
        self._take_port()
        self.send(self._modes_on())
        self._tell("taken, %d columns by %d rows", *self.size())

    @critical
    def hand_back(self) -> None:
        """Let the terminal be as it was found, for now or for good."""
        try:
            # Even where a write has failed before: it may have been the only one, and this is the last word.
            self.port.write(self.modes_off().encode())
        except OSError:
            self.is_gone = True
        finally:
            self._give_port_back()
        self.screen.painter.wraps = True
        self._tell("given back")

    @critical
    def take_again(self) -> None:
        """Set the modes again after ``hand_back``."""
        self._take_port()
        self.send(self._modes_on())

    def _take_port(self) -> None:
        """Remember the settings of the terminal, and set those that keys need."""
        with self._setting:
            self._has_terminal = True
            try:
                self.port.take()
            except OSError as error:
                if error.errno is None:  # the terminal is there, but cannot do what is needed
                    raise
                self.is_gone = True
            self._is_set = True

    def _give_port_back(self) -> None:
        """Set the settings that were there before."""
        with self._setting:
            self._is_set = False
            try:
                self.port.give_back()
            except OSError:
                self.is_gone = True
            self._has_terminal = False

    def put_aside(self) -> None:
        """Take the frame away and give the terminal back, since something is opened above it."""
        self.screen.hide(self.size()[0])
        self.hand_back()

    def come_back(self) -> None:
        """Take the terminal again, and begin below what another one has shown."""
        self.take_again()
        super().go_on_drawing()

    def go_on_drawing(self) -> None:
        """Begin below what others have shown; the settings were set again when the process went on."""
        self.send(self._modes_on())
        super().go_on_drawing()

    def give_back_at_once(self) -> None:
        """Leave what is drawn, and give the terminal back even if nobody reads it: the process ends."""
        if not self._has_terminal:
            return
        has_lock = self.screen.lock.acquire(timeout=HURRY)
        try:
            # What matters comes first: a terminal that nobody reads may not take the rest.
            self.port.write_at_once(self.modes_off().encode(), HURRY)
            text = self.screen.painter.abandon() if self.screen.painter.rows else ""
            said = "".join(f"{line}\r\n" for lines in self.inbox.take_said() for line in lines.split("\n"))
            self.port.write_at_once((text + said).encode("utf-8", "replace"), HURRY)
        except Exception:  # whatever it is, the settings are given back
            pass
        finally:
            if has_lock:
                self.screen.lock.release()
            try:
                self.port.give_back(at_once=True)
            except OSError:
                pass

    def watch(self, *, in_main: bool) -> None:
        """Have a guard give the terminal back if the process ends, where no signal can be handled."""
        self.port.heard = self._pass_on if in_main else None
        # A child of an earlier command has the terminal too, and may write into the frame at any moment.
        self._is_shared = in_main and _has_children()
        if in_main:
            return
        if self._guard is None:
            from wesperon.terminal.seat.guard import Guard

            # It says this once and for all: whatever may have been set until then.
            restored = MOUSE_OFF + CURSOR_SHAPES[""] + self.modes_off() if not self.is_plain else ""
            self._guard = Guard(self.port.handles[0], restored, self.give_back_at_once)
        self._guard.arm()

    def _pass_on(self, numbers: bytes) -> None:
        SIGNALS.pass_on(self.holder, numbers)

    def unwatch(self) -> None:
        """The terminal is given back."""
        if self._guard is not None:
            self._guard.disarm()

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

    def preference_files(self) -> list[str]:
        """The files that say what the user prefers."""
        return preference_files(self.options.program)

    def mouse_changed(self) -> None:
        """Tell the terminal whose the mouse is from here on."""
        if self.depth:
            self.send(MOUSE_ON if self.preferred.mouse else MOUSE_OFF)

    def edit_outside(self, text: str, syntax: object) -> str:
        """The text as the user's own editor leaves it; it has the whole terminal meanwhile."""
        from wesperon.terminal.external_editor import edited

        self.seat.lend(self)
        try:
            return edited(text, syntax, self.port.handles)
        finally:
            self.seat.take_back(self)

    # Events ----------------------------------------------------------------------------------------------------------

    def wait(self) -> list[Any]:
        """The events that come next."""
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

    def ready(self) -> list[Any]:
        """The events that are there without the terminal."""
        events: list[Any] = []
        if self._is_stopping or self._is_continued or SIGNALS.is_interrupted:
            self._hear_signals(events)
        if self.port.is_resized:
            self.port.is_resized = False  # before the size is asked for: it may change once more meanwhile
            self._sized_until = -1.0
            events.append(Resize(*self.size()))
        if self.inbox:
            events.extend(self.inbox.take())
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
        """Have the next wait end with a ``Pause`` if no key comes for a moment."""
        self._awaits_pause = awaits

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

    def collect(self, has_keys: bool, is_woken: bool) -> list[Any]:
        """The events that are there after a wait."""
        keys = self._read() if has_keys else []
        if keys and self._is_shared:
            self.screen.painter.forget_rows()  # wherever the cursor is now, the frame is drawn there in full
        events = [*self.ready(), *keys] if is_woken or not keys else keys
        decoder = self._decoder
        if not has_keys and not is_woken and decoder is not None and decoder.is_pending:
            events.extend(decoder.flush())
        elif not (has_keys or is_woken or events):
            event = self._time_passes()
            if event is not None:
                events.append(event)
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
        if self.is_own and SIGNALS.is_interrupted and SIGNALS.take_interrupt():
            events.append(Interrupt())

    def _time_passes(self) -> Any:
        """What it means that nothing has come; None if it means nothing yet."""
        if self._awaits_pause:
            self._awaits_pause = False
            return Pause()
        left = self.left
        if left is None or left > self.notice_at + 0.5:
            return None
        if left > 0:
            return TimeLeft(max(round(left), 1))
        self.is_left = True  # at its end for this question, and for all that follow
        return TimeOut()

    def hear_size(self) -> None:
        """Have the size looked at before anything is drawn; called by a handler of a signal."""
        self.port.is_resized = True
        self.port.wake()

    def stop_soon(self) -> None:
        """Have the process stop where nothing is half drawn; called by a handler of a signal."""
        self._is_stopping = True
        self.port.wake()

    def go_on(self) -> None:
        """Take the terminal again at once, before anything is echoed; called by a handler of a signal."""
        with self._setting:
            if not self._is_set:  # it is being taken, or given back, and the settings to go back to are not known
                return
            self._is_continued = True
            self.retake()
        self.port.wake()

    def has_input(self) -> bool:
        """Whether the terminal has something to read, or is gone."""
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
        return self._is_stopping or self._is_continued or (self.is_own and SIGNALS.is_interrupted)

    # Growing lists ---------------------------------------------------------------------------------------------------

    def feed(self, number: int, source: Growing, count: int) -> None:
        """Take from the source in a thread until it has ``count`` items, for as long as the widget is open."""
        from wesperon.terminal.feeder import Feeder

        for feeder in self._feeders:
            if feeder.source is source:
                feeder.want(count)
                return
        self._feeders.append(Feeder(number, source, count, self.inbox.post))

    def end_feeding(self) -> None:
        """Take no more: the widget has ended."""
        while self._feeders:
            self._feeders.pop().end()

    # A key that takes its time ---------------------------------------------------------------------------------------

    def before_press(self, event: Any) -> Any:
        """Have the user told if the key takes its time: a check may ask a database, or count all stars.

        A key that types is not watched, which would cost more than the key, unless the last one took its time.
        """
        if event.__class__ is Key and event.text and not self._is_slow:
            return None
        done = _thread.allocate_lock()
        done.acquire()
        said: list[bool] = []
        start_thread(self._watch_slow, done, said)
        return done, said

    def after_press(self, begun: Any) -> bool:
        """Say so no more. Return True if the user was told."""
        if begun is None:
            self._is_slow = self.clock.monotonic() - self.since > SLOW / 3
            return False
        done, said = begun
        done.release()
        if not said:
            return False
        with self.screen.lock:
            said.append(True)
            self.screen.aside = ""
            self.end_stop_key()
        return True

    def _watch_slow(self, done: Any, said: list[bool]) -> None:
        """Show, from a thread, that a key takes its time, and what is printed meanwhile."""
        if done.acquire(timeout=SLOW):
            return
        while True:
            self.port.nudge()
            with self.screen.lock:
                if done.acquire(blocking=False):
                    return
                if self.depth and (not self.is_own or OWN_SEAT.has_top(self)):
                    if not said:
                        said.append(True)
                        self.show_slow()
                        self.begin_stop_key()
                    self.show_meanwhile()
            if done.acquire(timeout=SHOWN_EVERY):
                return

    def begin_stop_key(self) -> None:
        """Have Ctrl-C interrupt the program, while nobody reads keys."""
        self.port.begin_interrupt_key()

    def end_stop_key(self) -> None:
        """Have Ctrl-C be a key again."""
        self.port.end_interrupt_key()

    def show_slow(self) -> None:
        """Say below the frame that a key takes its time, and how to stop that."""
        self.screen.aside = "  " + tell("being checked ...   Ctrl-C: stop that")
        self.screen.draw_again(*self.size())

    def show_meanwhile(self) -> None:
        """Show what was printed meanwhile, and the frame again below it."""
        if said := self.inbox.take_said():
            self.show(said)
            self.screen.draw_again(*self.size())

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
        """The events with the places of the mouse counted from the first row of the frame."""
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
        """The events of the bytes that are there."""
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
        events += decoder.feed(data)
        return events

    def _tell(self, message: str, *values: object) -> None:
        """Tell what happens to the terminal, if somebody wants to know."""
        if "WESPERON_LOG" in self.environ:
            from wesperon.terminal.diagnostics import area

            area("terminal").debug(message, *values)

    def _modes_on(self) -> str:
        return PASTE_ON + MOUSE_ON if self.preferred.mouse else PASTE_ON

    def modes_off(self) -> str:
        """What ends the modes of the terminal that are set by control sequences."""
        shape = CURSOR_SHAPES[""] if self.screen.painter.shape else ""
        mouse = MOUSE_OFF if self.preferred.mouse else ""
        return SGR_RESET + SHOW_CURSOR + WRAP_ON + shape + mouse + PASTE_OFF

    def retake(self) -> None:
        """Set the modes again that the driver needs, as far as the terminal is not somebody else's."""
        try:
            self.port.retake()
        except OSError:
            pass  # the terminal is somebody else's at the moment

    def suspend(self, *, only_self: bool) -> None:
        """Stop the process as the terminal would have, and take the terminal again when it goes on."""
        self.screen.abandon()
        self.seat.lend(self)
        stop_process(only_self=only_self)
        self.seat.take_back(self)
        self._is_continued = False
        super().go_on_drawing()


def _has_children() -> bool:
    """Whether the process has children now, as far as the system tells."""
    if not hasattr(os, "waitid"):
        return False
    try:
        os.waitid(os.P_ALL, 0, os.WEXITED | os.WNOHANG | os.WNOWAIT)
    except OSError:
        return False
    return True
