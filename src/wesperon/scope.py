"""Putting a context in force for a while, in the thread or task that does so.

While a context with standard streams of its own is in force somewhere, ``sys.stdout`` and ``sys.stderr`` are routed:
what a command prints with :func:`print` goes to the streams of the context that it runs in, everything else where it
went before.
"""

from __future__ import annotations

from contextlib import contextmanager
from contextvars import ContextVar

from wesperon.context import PROCESS, Context
from wesperon.system.streams import STREAMS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Generator
    from typing import Any

#: The context in force; None for that of the process.
CURRENT: ContextVar[Context | None] = ContextVar("wesperon", default=None)
#: The context that is in force where none was put in force, as in a new thread; the last one counts.
ELSEWHERE: list[Context] = [PROCESS]


@contextmanager
def within(context: Context) -> Generator[Context]:
    """Put a context in force in this thread and task, until the end of the block."""
    before = CURRENT.get()
    if context is (before or ELSEWHERE[-1]):
        yield context
        return
    routed = [stream for name, stream in STREAMS.items() if name in context.own]
    for stream in routed:
        stream.route = own_stream
        stream.use()
    CURRENT.set(context)
    try:
        yield context
    finally:
        CURRENT.set(before)
        for stream in routed:
            stream.release()


@contextmanager
def everywhere_else(context: Context) -> Generator[None]:
    """Put a context in force in all threads but this one, unless they put one in force themselves; for tests."""
    before = CURRENT.get()
    CURRENT.set(before or PROCESS)
    ELSEWHERE.append(context)
    try:
        yield
    finally:
        ELSEWHERE.remove(context)
        CURRENT.set(before)


def own_stream(name: str) -> Any:
    """Return the stream of this name that the context in force has; None if it is that of the process."""
    context: Context | None = CURRENT.get()
    while context is not None and context is not PROCESS:
        if name in context.own:
            return context.own[name]
        context = context.parent
    return None
