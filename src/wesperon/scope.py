"""Putting a context in force for a while, in the thread or task that does so.

While a context with standard streams of its own is in force somewhere, ``sys.stdout`` and ``sys.stderr`` are routed:
what a command prints with :func:`print` goes to the streams of the context that it runs in, everything else where it
went before.
"""

from __future__ import annotations

from contextvars import ContextVar

from wesperon.context import PROCESS, Context
from wesperon.system.streams import STREAMS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.system.streams import StandardStream

#: The context in force; None for that of the process.
CURRENT: ContextVar[Context | None] = ContextVar("wesperon", default=None)
#: The context that is in force where none was put in force, as in a new thread; the last one counts.
ELSEWHERE: list[Context] = [PROCESS]


class within:  # noqa: N801, which is called as a function is
    """Put a context in force in this thread and task, until the end of the block.

    A class, since ``contextlib`` with all that it loads costs a start 12 million instructions.
    """

    def __init__(self, context: Context) -> None:
        self.context = context
        self._routed: list[StandardStream] = []

    def __enter__(self) -> Context:
        self._before = CURRENT.get()
        self._is_new = self.context is not (self._before or ELSEWHERE[-1])
        if self._is_new:
            self._routed = [stream for name, stream in STREAMS.items() if name in self.context.parts]
            for stream in self._routed:
                stream.route = own_stream
                stream.use()
            CURRENT.set(self.context)
        return self.context

    def __exit__(self, *error: object) -> None:
        if self._is_new:
            CURRENT.set(self._before)
            for stream in self._routed:
                stream.release()


class everywhere_else:  # noqa: N801
    """Put a context in force in all threads but this one, unless they put one in force themselves; for tests."""

    def __init__(self, context: Context) -> None:
        self.context = context

    def __enter__(self) -> None:
        self._before = CURRENT.get()
        CURRENT.set(self._before or PROCESS)
        ELSEWHERE.append(self.context)

    def __exit__(self, *error: object) -> None:
        ELSEWHERE.remove(self.context)
        CURRENT.set(self._before)


def own_stream(name: str) -> Any:
    """Return the stream of this name that the context in force has; None if it is that of the process."""
    context: Context | None = CURRENT.get()
    while context is not None and context is not PROCESS:
        if name in context.parts:
            return context.parts[name]
        context = context.parent
    return None
