"""The places where work is shown, by the standard error of its context.

    OwnRows       rows at the foot of the process's own terminal, above a console's line if one is open there
    StreamRows    the same on another terminal
    DriverRows    the same where a driver has a terminal of its own
    Lines         a line now and then: no terminal, or one that cannot move its cursor

Nothing but what is said and what has failed is shown if ``WESPERON_ASKING`` is ``never``, if the user prefers no
progress, and while the process is in the background.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.long_work.last_line import print_line
from wesperon.long_work.wanted import in_force, is_in_background, wants_lines
from wesperon.system.streams import terminal_handle
from wesperon.terminal.seat.turn import is_own_terminal
from wesperon.widgets.work_texts import line

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.long_work import rows
    from wesperon.long_work.shown import Shown
    from wesperon.long_work.work import Work
else:
    rows = later("wesperon.long_work.rows")

#: How often lines are looked for, in seconds.
LINES_EVERY = 0.2


class Place:
    """Where work is shown."""

    #: After how many seconds it may have something new to show.
    looks_every = 0.0
    #: Whether it is kept when no work is shown there.
    stays = False

    def __init__(self) -> None:
        #: How often it was put aside.
        self.asides = 0

    def show(self, shown: Sequence[Shown]) -> None:
        """Show how far the work is."""

    def say(self, shown: Shown, text: str) -> None:
        """Print lines that are safe to show, above what is shown."""
        print_line(shown.work, text)

    def marked(self, text: str) -> str:
        """Return a line as one that says what has failed."""
        return text

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
            if not (self.asides or one.is_quiet) and one.is_due(standing) and not is_in_background(work.context):
                self.say(one, in_force(work.context, line, standing))


# Which place it is ---------------------------------------------------------------------------------------------------


def place_of(work: Work, places: dict[object, Place]) -> Place:
    """Return the place of a piece of work: one of those that there are, or a new one, which is put there."""
    context = work.context
    stream = context.stderr
    driver = getattr(stream, "driver", None)
    if driver is not None and not driver.is_plain:
        key: object = "own" if driver.is_own else driver
        if key not in places:
            places[key] = rows.OwnRows(driver.port.handle, context) if driver.is_own else rows.DriverRows(driver)
    elif driver is None and (handle := _terminal_of(stream)) is not None and not wants_lines(context):
        is_own = is_own_terminal(handle)
        key = "own" if is_own else handle
        if key not in places:
            places[key] = (rows.OwnRows if is_own else rows.FootPlace)(handle, context)
    else:
        key = stream
        if key not in places:
            places[key] = Lines()
    return places[key]


def _terminal_of(stream: Any) -> int | None:
    """Return the descriptor of the terminal that a stream leads to; None if it leads to none."""
    try:
        return terminal_handle(stream) if stream is not None and stream.isatty() else None
    except (OSError, ValueError, AttributeError):  # closed, or no file: no terminal in either case
        return None
