"""Why a loop has left its iterator: by ``break`` or ``return``, or by an exception.

An exception that is on its way is seen by nobody until it is caught, but it leaves a *traceback*, one of the youngest
objects that there are. It names the frame that it has come through, which is the one that drops the iterator, or a
generator that has just ended with it. An exception that was caught and kept has a traceback too; that is held by the
exception, and the exception by what keeps it, while what is on its way is held by nothing that the collector of
garbage can see.

If the frame is at the step that drops a value, the loop was left by a statement, whatever else is on its way; if it is
a generator that waits at its ``yield``, it is closed, since a loop further out was left.
"""

from __future__ import annotations

import gc
import sys
from opcode import opname

from wesperon.long_work.work import FAILED, STOPPED, outcome_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from types import FrameType
    from typing import Any

try:
    raise ValueError
except ValueError as raised:
    #: The types of what is looked at here; the module ``types``, which has them too, loads more than all of this.
    TRACE: type[Any] = type(raised.__traceback__)
    FRAME: type[Any] = type(raised.__traceback__.tb_frame)  # type: ignore[union-attr]
GENERATOR: type[Any] = type(_ for _ in "")
#: The generations of objects that are looked at, the youngest first, and what is looked for there.
YOUNG = (0, 1)
WANTED = (TRACE, BaseException)
#: The module whose handler raises nothing but interrupts.
SIGNALS = "wesperon.system.process_signals"
#: How the file names of the system's own loader begin, and the names of what is asked here whether it loads a module.
LOADER, PACKAGE = "<frozen importlib", "wesperon."
#: The mark of the code of generators (``inspect.CO_GENERATOR``).
OF_GENERATOR = 0x20
#: Steps of a frame (:mod:`dis`): it drops a value, as at ``break`` and ``return`` in a loop; waits at a ``yield``;
#: forgets an exception that was caught, and with it a generator expression in which the exception had come.
DROPS, WAITS, CAUGHT = ("POP_TOP",), ("YIELD_VALUE", "RESUME"), ("POP_EXCEPT",)


def left_by(frame: FrameType, items: Any) -> tuple[str, str]:
    """Return how the work ends whose loop over ``items``, in a ``frame``, has been left, and the reason to show.

    Nothing may be collected meanwhile, so that what is young stays so.
    """
    if has_raised(items) or _step(frame) in CAUGHT:
        return FAILED, ""
    if _is_cancelled() or _step(frame) in DROPS or (_is_generator(frame) and _step(frame) in WAITS):
        return STOPPED, ""
    # All other objects are let go of at once: what another thread drops meanwhile would not end there.
    young = [made for generation in YOUNG for made in gc.get_objects(generation) if issubclass(type(made), WANTED)]
    traces = [made for made in young if type(made) is TRACE and (made.tb_frame is frame or _has_ended(made.tb_frame))]
    errors: list[BaseException] = [made for made in young if type(made) is not TRACE]
    del young
    for error in errors:
        if error.__traceback__ in traces and error is not sys.exc_info()[1] and not _is_kept(error, errors):
            return outcome_of(error)
    # An exception that C code has raised is made when it is caught, so its traceback may be there alone.
    held = [*[error.__traceback__ for error in errors], *[trace.tb_next for trace in traces]]
    loose = [trace for trace in traces if trace not in held]
    return (FAILED, "") if loose and not any(map(_is_interrupt, loose)) else (STOPPED, "")


def is_loading(frame: FrameType | None) -> bool:
    """Return True if a frame runs while a module is loaded that something of Wesperon needs.

    Then the collector of garbage has dropped the loop, and what shows the end of work may be loaded by half.
    """
    loads = False
    while frame is not None:
        if frame.f_code.co_filename.startswith(LOADER):
            loads = True
        elif loads and frame.f_globals.get("__name__", "").startswith(PACKAGE):
            return True
        else:
            loads = False
        frame = frame.f_back
    return False


def _is_interrupt(trace: Any) -> bool:
    """Return True if an exception was raised by the handler of SIGINT that is there while a console is open."""
    while trace.tb_next is not None:
        trace = trace.tb_next
    return bool(trace.tb_frame.f_globals.get("__name__") == SIGNALS)


def _is_kept(error: BaseException, errors: list[BaseException]) -> bool:
    """Return True if an exception is held by more than the list of ``errors``: somebody has caught it."""
    return any(holder is not errors and type(holder) is not FRAME for holder in gc.get_referrers(error))


def has_raised(items: Any) -> bool:
    """Return True if what was iterated over is a generator that has raised: it has not come to its end."""
    return isinstance(items, GENERATOR) and items.gi_frame is None


def _is_generator(frame: FrameType) -> bool:
    return bool(frame.f_code.co_flags & OF_GENERATOR)


def _has_ended(frame: FrameType) -> bool:
    """Return True if a frame is that of a generator that does not run."""
    return _is_generator(frame) and frame.f_back is None


def _step(frame: FrameType) -> str:
    """Return the name of the step that a frame is at."""
    code = frame.f_code.co_code
    return opname[code[frame.f_lasti]] if 0 <= frame.f_lasti < len(code) else ""


def _is_cancelled() -> bool:
    """Return True if this is a task of an event loop that somebody has cancelled."""
    if "asyncio" not in sys.modules:
        return False
    from asyncio import current_task, get_running_loop

    try:
        get_running_loop()
    except RuntimeError:
        return False
    task = current_task()
    return task is not None and task.cancelling() > 0
