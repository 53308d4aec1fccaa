"""Rows of long work on a terminal: at its foot, or above the line of a console."""

from __future__ import annotations

import atexit
import os
import sys
from time import sleep

from wesperon.long_work.places import Place
from wesperon.long_work.wanted import in_force, is_in_background, roles_of
from wesperon.screen.theme import breaks_rows
from wesperon.screen.width import width
from wesperon.terminal.foot_rows import FootRows
from wesperon.terminal.seat.holding import hold, let_go, reset_in_child, show_work
from wesperon.terminal.seat.rows_turn import RowsTurn
from wesperon.terminal.seat.seat import OWN_SEAT
from wesperon.terminal.seat.turn import is_own_terminal
from wesperon.widgets.meter import rows_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.context import Context
    from wesperon.long_work.shown import Shown
    from wesperon.screen.frame import Row
    from wesperon.terminal.device import Device

try:
    import fcntl
    import termios
except ImportError:  # a system without them
    pass

#: For how long at most a terminal is waited for that takes no text now, in seconds.
PATIENCE = 1.0
#: The size of a terminal that says none.
COLUMNS, ROWS = 80, 24
#: Characters of a terminal: those of the locale, of which ASCII is a part in any case.
ENCODING = "utf-8" if sys.getfilesystemencoding() == "ascii" else sys.getfilesystemencoding()
#: How long the text may wait for room before the next try, in seconds.
ROOM_LOOK = 0.005


class FootPlace(Place):
    """Rows at the foot of the terminal of a ``handle``, on which nothing else is open."""

    def __init__(self, handle: int, context: Context) -> None:
        super().__init__()
        self.handle = handle
        self.foot = FootRows(self._send, self._size, roles_of(context), breaks=breaks_rows(context.environ))
        #: Whether the terminal is there, and takes what is written.
        self.is_gone = False

    def show(self, shown: Sequence[Shown]) -> None:
        """Show a row for each piece of work."""
        rows = self.rows(shown)
        if not self.asides and not self.is_gone:
            self.foot.show(rows)

    def say(self, shown: Shown, text: str) -> None:
        """Print lines above the rows."""
        if self.is_gone or not self.foot.rows:
            super().say(shown, text)
        else:
            self.foot.say(text)

    def marked(self, text: str) -> str:
        """Return a line as one that says what has failed."""
        return self.foot.rendered(((text, "reason"),))

    def clear(self) -> None:
        """Take the rows away."""
        self.foot.hide()

    def was_stopped(self) -> None:
        """Begin below what others have shown meanwhile."""
        self.foot.abandon()

    def rows(self, shown: Sequence[Shown]) -> tuple[Row, ...]:
        """Return the rows of the work that is not quiet."""
        return rows_for([one for one in shown if not one.is_quiet], self._size()[0] - 1)

    def _size(self) -> tuple[int, int]:
        return size_of(self.handle)

    def _send(self, text: str) -> None:
        # In the characters of the locale, as ``ports.charset`` sends them.
        data = text.encode(ENCODING, "replace")
        waited = 0.0
        while data and not self.is_gone:
            try:
                data = data[os.write(self.handle, data) :]
            except BlockingIOError:  # a child has set the terminal so
                sleep(ROOM_LOOK)
                waited += ROOM_LOOK
                self.is_gone = waited > PATIENCE
            except OSError:  # there is no terminal any more
                self.is_gone = True


class OwnRows(FootPlace):
    """Rows on the terminal of the process: at its foot, or above the line of a console that is open there.

    What is printed to the standard streams meanwhile comes above them. Another question takes them away while it is
    open.
    """

    stays = True

    def __init__(self, handle: int, context: Context) -> None:
        # While a question is open the descriptors of the standard streams lead elsewhere.
        super().__init__(os.dup(handle), context)
        self._holds = False
        self._turn = RowsTurn(handle)
        atexit.register(self._turn.linger)
        self._typed = typed_ahead(handle)
        self.foot.entered = self._entered
        self.foot.is_away = is_in_background
        self.foot.others = self._turn

    def show(self, shown: Sequence[Shown]) -> None:
        """Show a row for each piece of work, and take the output of the process while there is one."""
        if is_in_background():
            self.foot.abandon()
            return
        loud = [one for one in shown if not one.is_quiet] if not self.asides else []
        self._hold(any(one.work.capture for one in shown if not one.is_quiet), waits=bool(self.asides))
        if loud and not self._turn.take():
            loud = []  # another process has its rows there, and is told of what is printed below them
        if not self.is_gone and is_own_terminal(self.handle):
            show_work(OWN_SEAT, self.foot, self._turn, lambda columns: rows_for(loud, columns))
            if shown and not loud and not self.asides:
                OWN_SEAT.foot = self.foot
        if not loud:
            self._turn.end()

    def say(self, shown: Shown, text: str) -> None:
        """Print lines above what is open."""
        if hasattr(shown.work.context.stderr, "driver") or not OWN_SEAT.say(text):
            self._turn.begin_writing()
            try:
                super(FootPlace, self).say(shown, text)
                columns = self._size()[0]
                self._turn.tell_of(sum(max(-(-width(line) // columns), 1) for line in text.split("\n")))
            finally:
                self._turn.end_writing()

    def clear(self) -> None:
        """Take the rows away, and let the output of the process go where it does, whole lines at a time."""
        show_work(OWN_SEAT, self.foot, self._turn, lambda columns: ())
        self._turn.end()
        self._hold(self._holds, waits=True)

    def _hold(self, holds: bool, *, waits: bool) -> None:
        """Take the output of the process, or let it go where it does; it does meanwhile, too, if that ``waits``."""
        if holds != self._holds:
            self._holds = holds
            (hold if holds else let_go)(OWN_SEAT.capture)
        if holds:
            OWN_SEAT.capture.holds = not waits

    def _entered(self) -> int:
        """Return 1 if the user has typed a line, which has moved the cursor a row down, or several at once."""
        before, self._typed = self._typed, typed_ahead(self.handle)
        return int(self._typed > before)


if hasattr(os, "register_at_fork"):
    os.register_at_fork(after_in_child=lambda: reset_in_child(OWN_SEAT))


class DriverRows(Place):
    """Rows on the terminal of a driver, which is not that of the process."""

    def __init__(self, driver: Device) -> None:
        super().__init__()
        self.driver = driver

    def show(self, shown: Sequence[Shown]) -> None:
        """Show a row for each piece of work."""
        loud = [one for one in shown if not one.is_quiet] if not self.asides else []
        self.driver.show_work(rows_for(loud, self.driver.size()[0] - 1))

    def clear(self) -> None:
        """Take the rows away."""
        self.driver.show_work(())


def size_of(handle: int) -> tuple[int, int]:
    """Return the columns and rows of a terminal; 80 by 24 if it says none."""
    try:
        columns, rows = os.get_terminal_size(handle)
    except (OSError, ValueError):  # there is no terminal any more
        columns = rows = 0
    return columns or COLUMNS, rows or ROWS


def typed_ahead(handle: int) -> int:
    """Return how many characters of whole lines wait at a terminal, where the system tells (``FIONREAD``)."""
    try:
        return int.from_bytes(fcntl.ioctl(handle, termios.FIONREAD, bytes(4)), sys.byteorder)
    except (NameError, OSError, AttributeError):  # another system, or the terminal is gone
        return 0


def rows_for(shown: Sequence[Shown], columns: int) -> tuple[Row, ...]:
    """Return the rows of several pieces of work, in the language of the first."""
    if not shown:
        return ()
    standings = [one.standing(one.work.clock.monotonic(), marks=True) for one in shown]
    return in_force(shown[0].work.context, rows_of, standings, max(columns, 1))
