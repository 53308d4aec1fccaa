"""Putting a context in force for a while, in the thread or task that does so.

While a context with standard streams of its own is in force somewhere, ``sys.stdout`` and ``sys.stderr`` are routed:
what a command prints with :func:`print` goes to the streams of the context that it runs in, everything else where it
went before.
"""

from __future__ import annotations

import sys
from contextlib import contextmanager
from contextvars import ContextVar
from threading import Lock

from wesperon.context import PROCESS, Context

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Generator
    from typing import Any

#: The context in force; None for that of the process.
CURRENT: ContextVar[Context | None] = ContextVar("wesperon", default=None)
#: Held while the standard streams are routed, or no longer.
_ROUTING = Lock()


@contextmanager
def within(context: Context) -> Generator[Context]:
    """Put a context in force in this thread and task, until the end of the block."""
    before = CURRENT.get()
    if context is (before or PROCESS):
        yield context
        return
    routed = [name for name in ("stdout", "stderr") if name in context.own]
    for name in routed:
        _route(name)
    CURRENT.set(context)
    try:
        yield context
    finally:
        CURRENT.set(before)
        for name in routed:
            _unroute(name)


class Router:
    """Stands in for a standard stream: everything goes to that of the context in force.

    ``original`` is the stream that it replaces, ``users`` the number of contexts in force that need it.
    """

    def __init__(self, name: str, original: Any) -> None:
        self.name = name
        self.original = original
        self.users = 0

    @property
    def target(self) -> Any:
        """The stream that is meant here and now."""
        context: Context | None = CURRENT.get()
        while context is not None and context is not PROCESS:
            if self.name in context.own:
                return context.own[self.name]
            context = context.parent
        return self.original

    def __getattr__(self, name: str) -> Any:
        return getattr(self.target, name)

    def write(self, text: str) -> int:
        """Write a text; the number of its characters."""
        written: int = self.target.write(text)
        return written

    def flush(self) -> None:
        """Have everything that was written arrive."""
        self.target.flush()


def _route(name: str) -> None:
    with _ROUTING:
        stream: Any = getattr(sys, name)
        if not isinstance(stream, Router):
            stream = Router(name, stream)
            setattr(sys, name, stream)
        stream.users += 1


def _unroute(name: str) -> None:
    with _ROUTING:
        stream: Any = getattr(sys, name)
        if isinstance(stream, Router):
            stream.users -= 1
            if not stream.users:
                setattr(sys, name, stream.original)
