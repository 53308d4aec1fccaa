"""Where an interrupt from the keyboard (SIGINT) may be raised, and where it has to wait.

Python raises KeyboardInterrupt between any two steps of the main thread: also between a terminal that was taken and the
line that would give it back. To mask the signal does not help, since the system then gives it to another thread, and
the main thread raises it all the same. So the handler (``process_signals``) looks at where the main thread is: the
innermost function that has a mark decides.

    critical        nothing may come between its steps: the interrupt waits until it has returned
    waiting         it is at a question, which takes the interrupt as an event: no exception is raised
    interruptible   code of the program runs: KeyboardInterrupt is raised there, as everywhere in Python

A mark costs nothing when the function is called. Nothing has to be set back, so there is no moment between two states:
a function that is left has no say any more. Generators may be marked too.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from types import CodeType, FrameType
    from typing import Any, TypeVar

    F = TypeVar("F", bound=Callable[..., Any])

CRITICAL, WAITING, INTERRUPTIBLE = "critical", "waiting", "interruptible"
#: The mark of each function that has one, with its code, by the identity of that: code that looks the same is equal.
MARKS: dict[int, tuple[str, CodeType]] = {}


def critical(function: F) -> F:
    """Mark a function whose steps belong together."""
    MARKS[id(function.__code__)] = CRITICAL, function.__code__
    return function


def waiting(function: F) -> F:
    """Mark a function in which an interrupt is an event."""
    MARKS[id(function.__code__)] = WAITING, function.__code__
    return function


def interruptible(function: F) -> F:
    """Mark a function that calls code of the program."""
    MARKS[id(function.__code__)] = INTERRUPTIBLE, function.__code__
    return function


def mark_at(frame: FrameType | None) -> str:
    """Return the mark of the innermost function that has one; empty if none has."""
    while frame is not None:
        found = MARKS.get(id(frame.f_code))
        if found is not None:
            return found[0]
        frame = frame.f_back
    return ""
