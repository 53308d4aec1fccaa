"""Why a loop has left its iterator: by ``break`` or ``return``, or by an exception.

An exception that is on its way is seen by nobody until it is caught, but it leaves a *traceback* that names the frame
it has come through, and that is made before the iterators of the frame are dropped. It is one of the youngest objects
there are. If the frame is at the step that drops a value, the loop was left by a statement, whatever else is on its
way; if it is a generator that is closed while it waits, that is a ``break`` further out.
"""

from __future__ import annotations

import dis
import gc
import sys
from types import CodeType, GeneratorType, TracebackType

from wesperon.work.work import FAILED, STOPPED, outcome_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from types import FrameType
    from typing import Any

#: The generations of objects that are looked at, the youngest first.
YOUNG = (0, 1)


def left_by(frame: FrameType, items: Any) -> tuple[str, str]:
    """Return how the work ends whose loop over ``items``, in a ``frame``, has been left, and the reason to show."""
    if has_raised(items):
        return FAILED, ""
    if _is_cancelled():
        return STOPPED, ""
    if _drops_value(frame) or not (traces := _traces(frame)):
        return STOPPED, ""
    for generation in YOUNG:
        for made in gc.get_objects(generation):
            if isinstance(made, BaseException) and made.__traceback__ in traces:
                return outcome_of(made)
    return FAILED, ""


def has_raised(items: Any) -> bool:
    """Return True if what was iterated over is a generator that has raised: it has not come to its end."""
    return isinstance(items, GeneratorType) and items.gi_frame is None


def _traces(frame: FrameType) -> list[TracebackType]:
    for generation in YOUNG:
        found = [made for made in gc.get_objects(generation) if type(made) is TracebackType and made.tb_frame is frame]
        if found:
            return found
    return []


def _drops_value(frame: FrameType) -> bool:
    """Return True if a frame drops a value at this step, as at ``break`` and ``return`` in a loop."""
    code: CodeType = frame.f_code
    if not 0 <= frame.f_lasti < len(code.co_code):
        return False
    return dis.opname[code.co_code[frame.f_lasti]] == "POP_TOP"


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
