"""Rows of long work on the terminal of the process, and what is printed while they are there.

The descriptors stay as they are: what a child writes there is nobody's. Of the streams of :mod:`sys`, and of those that
were there before, whole lines go above the rows.
"""

from __future__ import annotations

import _thread

from wesperon.system.interrupts import critical
from wesperon.system.original_streams import hook, unhook

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    from wesperon.screen.frame import Row
    from wesperon.terminal.foot_rows import FootRows
    from wesperon.terminal.seat.capture import Capture
    from wesperon.terminal.seat.rows_turn import RowsTurn
    from wesperon.terminal.seat.seat import OwnSeat


@critical
def hold(capture: Capture) -> None:
    """Take what is printed to the streams, until ``let_go``."""
    is_first = not capture._users
    capture.open()
    if is_first:  # no commands are run in this thread: a console that is opened later says which one has them
        capture._thread = 0
    capture._flush()
    with capture._deciding:
        capture.holds = True
        for stream in capture._streams:
            hook(stream)


@critical
def let_go(capture: Capture) -> None:
    """Have it go where it did, a line that has no end yet too."""
    with capture._deciding:
        capture.holds = False
        for stream in capture._streams:
            unhook(stream)
    capture.close()


def reset_in_child(seat: OwnSeat) -> None:
    """Forget the rows of the process that this one was forked from, and locks that a thread of it may have had."""
    seat.foot = None
    seat._changing = _thread.RLock()
    capture = seat._capture
    if capture is not None:
        capture.holds = False
        capture._deciding, capture._using = _thread.RLock(), _thread.RLock()


def show_work(seat: OwnSeat, foot: FootRows, turn: RowsTurn, rows_for: Callable[[int], Sequence[Row]]) -> None:
    """Show the rows of long work above what is on top, or at the foot of the terminal if nothing is open.

    ``rows_for`` returns them for a number of columns; none end that. While another process asks on the terminal they
    stay as they are, and are shown again below what that leaves.
    """
    with seat._changing:
        if seat._open:
            top = seat._open[-1][0]
            top.show_work(rows_for(top.size()[0] - 1))
            return
        rows = rows_for(foot.size()[0] - 1)
        seat.foot = foot if rows else None
        if foot.is_shown(rows):
            return
        if seat.processes._handle >= 0:  # a question of ours is about to be opened
            foot.show(rows)
        elif turn.begin_drawing():
            foot.show(rows)
            turn.end_drawing()
        else:
            foot.abandon()
