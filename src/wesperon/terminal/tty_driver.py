"""The blocking driver: runs widgets on the controlling terminal of the process.

The terminal comes back as it was on every way out: return, exception, a signal that ends the process, a stop and what
follows it. What differs from system to system is in a port (``port``).
"""

from __future__ import annotations

import _thread
import os
import sys

from wesperon.context import current
from wesperon.screen.ecma48 import (
    CURSOR_SHAPES,
    MOUSE_OFF,
    MOUSE_ON,
    PASTE_OFF,
    PASTE_ON,
    SGR_RESET,
    SHOW_CURSOR,
    WRAP_ON,
)
from wesperon.screen.theme import is_plain
from wesperon.system.interrupts import critical
from wesperon.system.process_signals import SIGNALS
from wesperon.system.signals import signals, stop_process
from wesperon.terminal.ports import posix
from wesperon.terminal.seat.seat import OWN_SEAT, Held
from wesperon.terminal.slow_watch import WATCH, Act
from wesperon.terminal.tty_events import TtyEvents
from wesperon.text.messages import tell
from wesperon.user_folders import preference_files
from wesperon.values import Complaint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    from wesperon.terminal.feeder import Feeder
    from wesperon.terminal.ports.base import Port
    from wesperon.terminal.seat.guard import Guard
    from wesperon.widgets.widget import Growing, Widget

#: How long the terminal may take a last text when the process is ended by a signal, in seconds.
HURRY = 1.0


def reach(program: str = "") -> TtyDriver | None:
    """Return a driver on the controlling terminal; ``None`` if there is none, or nobody at it.

    ``program`` is the name under which the user may prefer plain lines.
    """
    port = reach_port()
    if port is not None and wants_plain(current().environ, program):
        from wesperon.terminal.plain_driver import PlainDriver

        return PlainDriver(port)
    return None if port is None else TtyDriver(port)


def wants_plain(environment: Mapping[str, str], program: str) -> bool:
    """Return True if questions are to be plain lines, as the environment or else the user's files say."""
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
    """Return the terminal of this system."""
    if sys.platform == "win32":
        from wesperon.terminal.ports import windows

        return windows.reach()
    if sys.getfilesystemencoding() == "utf-8":
        return posix.reach()
    from wesperon.terminal.ports import charset

    return charset.reach()


class TtyDriver(TtyEvents):
    """Runs widgets on a terminal; the driver closes it."""

    is_terminal = True
    knows_pauses = True
    echoes = True

    def __init__(self, port: Port) -> None:
        super().__init__(port)
        self.holder = Held(self)
        self._guard: Guard | None = None
        #: Whether the terminal has the settings of this driver, or is about to; and whether it has them for certain.
        self._has_terminal = self._is_set = False
        #: Held while they are set: a handler of a signal may set them again while a thread gives them back.
        self._setting = _thread.RLock()
        self._feeders: list[Feeder] = []
        #: What may be used for the next thing that may take its time.
        self._spare: Act | None = None

    @property
    def can_stop(self) -> bool:
        """Whether the key that suspends stops the process."""
        return self.is_own and hasattr(signals, "SIGTSTP")

    def close(self) -> None:
        """Close the terminal; the driver runs nothing any more."""
        if self._guard is not None:
            self._guard.end()
        self.port.close()

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
            self.port.write((self.screen.painter.leave_screen() + self.modes_off()).encode())
            self.screen.painter.note_left()
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
            self._sized_until = -1.0  # while it was somebody else's no signal told this driver of another size
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
        self.show_said()  # what was printed before comes before what is asked now
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
            painter = self.screen.painter
            self.port.write_at_once((painter.leave_screen() + self.modes_off()).encode(), HURRY)
            painter.note_left()
            text = painter.abandon() if painter.rows else painter.held()
            said = "".join(f"{line}\r\n" for lines in [*self.inbox.unshown] for line in lines.split("\n"))
            self.port.write_at_once((text + said).encode("utf-8", "replace"), HURRY)
        except Exception:  # whatever it is, the settings are given back
            pass
        finally:
            if has_lock:
                self.screen.lock.release()
            try:
                self.port.give_back(at_once=True)
            except OSError:  # the terminal is gone, and its settings with it
                pass

    def watch(self, *, in_main: bool) -> None:
        """Start a guard that gives the terminal back if the process ends, where no signal can be handled."""
        self.port.heard = self._pass_on if in_main else None
        # A child of an earlier command has the terminal too, and may write into the frame at any moment.
        self._is_shared = in_main and _has_children()
        if in_main:
            return
        if self._guard is None:
            from wesperon.terminal.seat.guard import Guard

            # It says this once and for all: whatever may have been set until then.
            restored = MOUSE_OFF + CURSOR_SHAPES[""] + self.modes_off() if not self.is_plain else ""
            self._guard = Guard(self.port.handle, restored, self.give_back_at_once)
        self._guard.arm()

    def _pass_on(self, numbers: bytes) -> None:
        SIGNALS.pass_on(self.holder, numbers)

    def unwatch(self) -> None:
        """Tidy up after the terminal was given back."""
        if self._guard is not None:
            self._guard.disarm()

    def fill_screen(self, *, is_nested: bool) -> None:
        """See ``Device``; a guard has to know."""
        super().fill_screen(is_nested=is_nested)
        if self._guard is not None:
            self._guard.note_screen(is_alternate=True)

    def empty_screen(self) -> None:
        """See ``Device``."""
        if self._guard is not None:
            self._guard.note_screen(is_alternate=False)

    def is_lent(self) -> bool:
        """Return True if another program reads the keys one by one, as editors and pagers do."""
        return self.port.is_taken()

    def preference_files(self) -> list[str]:
        """Return the files that say what the user prefers."""
        return preference_files(self.options.name)

    def mouse_changed(self) -> None:
        """Tell the terminal whose the mouse is from here on."""
        if self.depth:
            self.send(MOUSE_ON if self.preferred.mouse else MOUSE_OFF)

    def edit_outside(self, text: str, syntax: object) -> str:
        """Return the text as the user's own editor leaves it; it has the whole terminal meanwhile."""
        from wesperon.terminal.external_editor import edited

        self.seat.lend(self)
        try:
            return edited(text, syntax, self.port.handle)
        finally:
            self.seat.take_back(self)

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

    # What takes its time ---------------------------------------------------------------------------------------------

    def guarded(self, widget: Widget, event: Any, act: Callable[[Any], object]) -> None:
        """See ``Device``: a check may ask a database, or count all stars."""
        doing, self._spare = self._spare or Act(self), None
        doing.widget = widget
        doing.number += 1
        WATCH.acts.append(doing)
        if not WATCH.runs:
            WATCH.start()
        try:
            act(event)
        except KeyboardInterrupt:
            if not self._is_told(doing):
                raise
            stopped = tell("the action was stopped") if widget.acts else tell("the check was stopped")
            widget.refuse(Complaint(stopped))  # what was typed is still there
        except BaseException:
            self._is_told(doing)
            raise
        else:
            WATCH.acts.remove(doing)
            if doing.is_seen or doing.open_inside:
                self._unsay_slow(doing)
            else:
                self._spare = doing

    def _is_told(self, doing: Act) -> bool:
        """Return True if the user was told that something took its time, which has ended before its end."""
        WATCH.acts.remove(doing)
        return doing.is_seen and self._unsay_slow(doing)

    def begin_widget(self) -> None:
        """See ``Device``: while it is open the user is told nothing of what has opened it."""
        super().begin_widget()
        doing = WATCH.of(self)
        if doing is not None:
            doing.open_inside += 1
            self._unsay_slow(doing)

    def finish_widget(self) -> None:
        """See ``Device``."""
        super().finish_widget()
        doing = WATCH.of(self)
        if doing is not None and doing.open_inside:  # in an event loop another one may have opened it
            doing.open_inside -= 1
        if not self.open_widgets:
            WATCH.end_soon()

    @property
    def is_told_of_stopping(self) -> bool:
        """Whether the user has been told that Ctrl-C stops what is being done."""
        return any(act.is_said for act in WATCH.acts if act.driver is self)

    def _unsay_slow(self, doing: Act) -> bool:
        """Say no more that something takes its time. Return True if the user was told."""
        with self.screen.lock:
            if not doing.is_said:
                return False
            doing.is_said = False
            self.screen.aside = ""
            self.end_stop_key()
        return True

    def tell_slow(self, act: Act) -> None:
        """Show, from a thread, that something takes its time, and what is printed meanwhile."""
        if act.open_inside or (self.is_own and not OWN_SEAT.has_top(self)):  # what it has opened waits, not it
            return
        self.port.nudge()
        with self.screen.lock:
            act.is_seen = True  # first: who ends it looks at this after it is no more among the acts
            is_on_top = not act.open_inside and (not self.is_own or OWN_SEAT.has_top(self))
            if act not in WATCH.acts or not self.depth or self.is_aside or not is_on_top:
                return
            if not act.is_said:
                act.is_said = True
                self.begin_stop_key()
                self.show_slow(bool(act.widget and act.widget.acts))
            self.show_meanwhile()

    def begin_stop_key(self) -> None:
        """Let Ctrl-C interrupt the program, while nobody reads keys."""
        self.port.begin_interrupt_key()

    def end_stop_key(self) -> None:
        """Make Ctrl-C a key again."""
        self.port.end_interrupt_key()

    def show_slow(self, acts: bool) -> None:
        """Say below the frame that a key takes its time, by a check or an action, and how to stop that."""
        said = tell("at work ...   Ctrl-C: stop that") if acts else tell("being checked ...   Ctrl-C: stop that")
        self.screen.aside = "  " + said
        self.screen.draw_again(*self.size())

    def show_meanwhile(self) -> None:
        """Show what was printed meanwhile, and the frame again below it."""
        if said := self.inbox.pop_said():
            self.show(said)
            self.screen.draw_again(*self.size())

    def _modes_on(self) -> str:
        return PASTE_ON + MOUSE_ON if self.preferred.mouse else PASTE_ON

    def modes_off(self) -> str:
        """Return what ends the modes of the terminal that are set by control sequences."""
        shape = CURSOR_SHAPES[""] if self.screen.painter.is_shaped else ""
        mouse = MOUSE_OFF if self.preferred.mouse else ""
        return SGR_RESET + SHOW_CURSOR + WRAP_ON + shape + mouse + PASTE_OFF

    def retake(self) -> None:
        """Set the modes again that the driver needs, as far as the terminal is not somebody else's."""
        try:
            self.port.retake()
        except OSError:
            pass  # the terminal is somebody else's at the moment

    def go_on(self) -> None:
        """Take the terminal again at once, before anything is echoed; called by a handler of a signal."""
        with self._setting:
            if not self._is_set:  # it is being taken, or given back, and the settings to go back to are not known
                return
            self._is_continued = True
            self.retake()
        self.port.wake()

    def suspend(self, *, only_self: bool) -> None:
        """Stop the process as the terminal would have, and take the terminal again when it goes on."""
        self.screen.abandon()
        self.seat.lend(self)
        stop_process(only_self=only_self)
        self.seat.take_back(self)
        self._is_continued = False
        super().go_on_drawing()


def _has_children() -> bool:
    """Return True if the process has children now, as far as the system tells."""
    if not hasattr(os, "waitid"):
        return False
    try:
        os.waitid(os.P_ALL, 0, os.WEXITED | os.WNOHANG | os.WNOWAIT)
    except OSError:  # no child at all (ECHILD)
        return False
    return True
