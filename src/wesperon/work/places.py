"""The places where work is shown, by the standard error of its context.

    OwnRows       rows at the foot of the process's own terminal, above a console's line if one is open there
    StreamRows    the same on another terminal
    DriverRows    the same where a driver has a terminal of its own
    Lines         a line now and then: no terminal, or one that cannot move its cursor

Nothing but what is said and what has failed is shown if ``WESPERON_ASKING`` is ``never``, if the user prefers no
progress, and while the process is in the background.
"""

from __future__ import annotations

import os
import sys
from functools import partial
from time import sleep

from wesperon.scope import within
from wesperon.screen.theme import breaks_rows
from wesperon.system.streams import terminal_handle
from wesperon.terminal.foot_rows import FootRows
from wesperon.terminal.seat.holding import hold, let_go, show_work
from wesperon.terminal.seat.seat import OWN_SEAT
from wesperon.terminal.seat.turn import is_own_terminal
from wesperon.widgets.meter import line, rows_of
from wesperon.work.wanted import is_in_background, is_quiet, roles_of, wants_lines

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any

    from wesperon.context import Context
    from wesperon.screen.frame import Row
    from wesperon.terminal.device import Device
    from wesperon.work.shown import Shown
    from wesperon.work.work import Work

try:
    import fcntl
    import termios
except ImportError:  # a system without them
    pass

#: How often lines are looked for, in seconds; for how long at most a terminal is waited for that takes no text now.
LINES_EVERY, PATIENCE = 0.2, 1.0
#: The size of a terminal that says none.
COLUMNS, ROWS = 80, 24
#: How long the text may wait for room before the next try, in seconds.
ROOM_LOOK = 0.005


class Place:
    """Where work is shown."""

    #: After how many seconds it may have something new to show.
    looks_every = 0.0

    def __init__(self) -> None:
        #: How often it was put aside.
        self.asides = 0

    def show(self, shown: Sequence[Shown]) -> None:
        """Show how far the work is."""

    def say(self, shown: Shown, text: str) -> None:
        """Print lines that are safe to show, above what is shown."""
        stream: Any = shown.work.context.stderr
        try:
            if stream is not None:
                stream.write(text + "\n")
                stream.flush()
        except (OSError, ValueError):  # closed, full, or nobody reads it: the work goes on
            pass

    def clear(self) -> None:
        """Take away what is shown."""

    def was_stopped(self) -> None:
        """Begin below what others have shown meanwhile."""


class Lines(Place):
    """Lines on a stream that is no terminal."""

    looks_every = LINES_EVERY

    def show(self, shown: Sequence[Shown]) -> None:
        """Say how far each piece of work is, if that is due."""
        for one in shown:
            work = one.work
            standing = one.standing(work.clock.monotonic())
            if not self.asides and one.is_due(standing) and not is_quiet(work):
                with within(work.context):
                    text = line(standing)
                self.say(one, text)


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

    def clear(self) -> None:
        """Take the rows away."""
        self.foot.hide()

    def was_stopped(self) -> None:
        """Begin below what others have shown meanwhile."""
        self.foot.abandon()

    def rows(self, shown: Sequence[Shown]) -> tuple[Row, ...]:
        """Return the rows of the work that is not quiet."""
        return rows_for(shown, self._size()[0] - 1)

    def _size(self) -> tuple[int, int]:
        return size_of(self.handle)

    def _send(self, text: str) -> None:
        data = text.encode("utf-8", "replace")
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

    def __init__(self, handle: int, context: Context) -> None:
        super().__init__(handle, context)
        self._holds = False
        self._typed = 0

    def show(self, shown: Sequence[Shown]) -> None:
        """Show a row for each piece of work, and take the output of the process while there is one."""
        if is_in_background():
            self.foot.abandon()
            return
        loud = [one for one in shown if not is_quiet(one.work)] if not self.asides else []
        self._hold(any(one.work.capture for one in loud))
        if not self.is_gone and is_own_terminal(self.handle):
            self._look_for_enter()
            show_work(OWN_SEAT, self.foot, lambda columns: rows_for(loud, columns))

    def say(self, shown: Shown, text: str) -> None:
        """Print lines above what is open."""
        if hasattr(shown.work.context.stderr, "driver") or not OWN_SEAT.say(text):
            super(FootPlace, self).say(shown, text)

    def clear(self) -> None:
        """Take the rows away, and let the output of the process go where it does."""
        show_work(OWN_SEAT, self.foot, lambda columns: ())
        self._hold(False)

    def _hold(self, holds: bool) -> None:
        if holds != self._holds:
            self._holds = holds
            (hold if holds else let_go)(OWN_SEAT.capture)

    def _look_for_enter(self) -> None:
        """Take note of a line that the user has typed, which has moved the cursor a row down."""
        typed = typed_ahead(self.handle)
        if typed > self._typed:
            self.foot.entered(1)
        self._typed = typed


class DriverRows(Place):
    """Rows on the terminal of a driver, which is not that of the process."""

    def __init__(self, driver: Device) -> None:
        super().__init__()
        self.driver = driver

    def show(self, shown: Sequence[Shown]) -> None:
        """Show a row for each piece of work."""
        loud = [one for one in shown if not is_quiet(one.work)] if not self.asides else []
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


# Which place it is ---------------------------------------------------------------------------------------------------


def place_of(work: Work, places: dict[object, Place]) -> Place:
    """Return the place of a piece of work: one of those that there are, or a new one, which is put there."""
    context = work.context
    stream = context.stderr
    driver = getattr(stream, "driver", None)
    key: object = stream
    make: Callable[[], Place] = Lines
    if driver is not None and not driver.is_plain:
        key = "own" if driver.is_own else driver
        make = (lambda: OwnRows(driver.port.handle, context)) if driver.is_own else (lambda: DriverRows(driver))
    elif driver is None and (handle := _terminal_of(stream)) is not None and not wants_lines(context):
        is_own = is_own_terminal(handle)
        key = "own" if is_own else handle
        make = partial(OwnRows if is_own else FootPlace, handle, context)
    if key not in places:
        places[key] = make()
    return places[key]


def _terminal_of(stream: Any) -> int | None:
    """Return the descriptor of the terminal that a stream leads to; None if it leads to none."""
    try:
        return terminal_handle(stream) if stream is not None and stream.isatty() else None
    except (OSError, ValueError, AttributeError):  # closed, or no file: no terminal in either case
        return None


def rows_for(shown: Sequence[Shown], columns: int) -> tuple[Row, ...]:
    """Return the rows of several pieces of work, in the language of the first."""
    if not shown:
        return ()
    with within(shown[0].work.context):
        return rows_of([one.standing(one.work.clock.monotonic(), marks=True) for one in shown], max(columns, 1))
