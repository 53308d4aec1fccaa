"""The last line of work that was never shown while it ran: it has failed, or was done before there was a row of it."""

from __future__ import annotations

from wesperon.long_work.wanted import in_force, is_in_background, is_quiet
from wesperon.long_work.work import FAILED
from wesperon.widgets.work_texts import Standing, ended

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.long_work.work import Work


def say_ended(work: Work) -> None:
    """Print how a piece of work has ended, and how far it came."""
    if work.state == FAILED or not (is_quiet(work) or is_in_background(work.context)):
        count = work.count if work.is_counted else None
        standing = Standing(work.label, count, work.total, work.unit, seconds=work.seconds)
        print_line(work, in_force(work.context, ended, standing, work.state, work.reason))


def print_line(work: Work, text: str) -> None:
    """Print lines that are safe to show on the standard error of a piece of work."""
    context = work.context
    try:
        context.print(text, error=True)
        if context.stderr is not None:
            context.stderr.flush()
    except (OSError, ValueError):  # closed, full, or nobody reads it: the work goes on
        pass
