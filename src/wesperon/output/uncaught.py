"""What a call raises to a program, and nobody catches, is printed like all that is wrong, and ends the program.

A script that fills a form or walks a guide by a method needs no handler of its own: without a trace it ends with the
status that the error means. All other errors keep their trace (``sys.excepthook``); a function that the program has set
there stays, and so does that of the interactive interpreter.
"""

from __future__ import annotations

import sys

from wesperon.context import current
from wesperon.output.exit_status import interrupted, status_of
from wesperon.values.problems import Problems, Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from types import TracebackType

#: The attribute of an interrupt that stopped a question.
STOPPED = "stopped_questions"


def tell_uncaught(error: BaseException) -> None:
    """Print ``error`` if it gets to the top of the process."""
    if isinstance(error, KeyboardInterrupt):
        setattr(error, STOPPED, True)
    elif not isinstance(error, (Problems, Refusal)):
        return
    is_asked_for = current().environ.get("WESPERON_TRACE") == "1"
    if sys.excepthook is sys.__excepthook__ and current().is_process and not hasattr(sys, "ps1") and not is_asked_for:
        sys.excepthook = _end


def _end(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """Print what is wrong; raises SystemExit, from which the interpreter takes the status."""
    if isinstance(error, (Problems, Refusal)):
        raise SystemExit(status_of(error, [current().program_name]))
    if getattr(error, STOPPED, False):
        raise SystemExit(interrupted())
    sys.__excepthook__(kind, error, trace)
