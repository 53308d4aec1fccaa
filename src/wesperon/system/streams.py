"""The standard streams of the process, as long as something of ours has to do with them.

There is one stream of ours for each of ``sys.stdout`` and ``sys.stderr``. It is made once and never freed: the built-in
``print`` holds the stream that it writes to without owning it, so a stream of ours that went away while another thread
prints would take the interpreter with it. It is in :mod:`sys` only while somebody uses it, and never in the place of a
stream that somebody else has put there meanwhile; if it is used where somebody has kept it, it does what the original
one does.

A text goes, in this order: to the stream of the context in force (``scope``), to what takes the output while a question
is open (``terminal.seat.capture``), to the original stream.
"""

from __future__ import annotations

import _thread
import os
import sys

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any, Protocol

    class Taker(Protocol):
        """What takes the output of the process while something is open on its terminal."""

        def write(self, stream: StandardStream, text: str) -> None:
            """Take a text that was written to a stream."""

        def flush(self, stream: StandardStream) -> None:
            """Flush the original stream."""

        def handle(self, number: int) -> int:
            """Return a descriptor that leads where this one led before."""


class StandardStream:
    """Stands in for ``sys.stdout`` or ``sys.stderr``; what it does not do itself the stream in force does.

    ``original`` is the stream that it replaces; ``taker`` takes what is written, if something does.
    """

    def __init__(self, name: str) -> None:
        self.name = name
        self.original: Any = None
        self.taker: Taker | None = None
        #: Gives the stream of the context in force, if that has one of its own (``scope``).
        self.route: Callable[[str], Any] | None = None
        self._users = 0
        self._lock = _thread.allocate_lock()
        #: The threads that are inside the original stream.
        self._inside: set[int] = set()

    def use(self) -> None:
        """Put it into :mod:`sys`, until ``release`` was called as often; a stream that came after it stays there."""
        with self._lock:
            self._users += 1
            current = getattr(sys, self.name)
            if self._users == 1 and current is not self:
                # The original one stays referenced, here or by :mod:`sys`, for the same reason as this one.
                self.original = current
                setattr(sys, self.name, self)

    def release(self) -> None:
        """Give the original stream back to :mod:`sys`, unless somebody uses this one, or has put another there."""
        with self._lock:
            self._users -= 1
            if not self._users and getattr(sys, self.name) is self:
                setattr(sys, self.name, self.original)

    @property
    def target(self) -> Any:
        """The stream that is meant here and now, what takes output left aside."""
        found = None if self.route is None else self.route(self.name)
        return self.original if found is None else found

    def __getattr__(self, name: str) -> Any:
        return getattr(self.target, name)

    def write(self, text: str) -> int:
        """Write a text; the number of its characters."""
        taker, target = self.taker, self.target
        if target is not self.original:
            routed: int = target.write(text)
            return routed
        if not isinstance(text, str):
            raise TypeError(f"write() argument must be str, not {type(text).__name__}")
        if taker is not None:
            taker.write(self, text)
        else:
            self.write_original(text)
        return len(text)

    def is_inside(self, thread: int) -> bool:
        """Return True if a thread is writing to the original stream."""
        return thread in self._inside

    def write_original(self, text: str, *, flush: bool = False) -> None:
        """Write a text where it would go without this stream."""
        thread = _thread.get_ident()
        # The original may be a stream of the program's own that hands on to this one, which it found in sys.
        stream = getattr(sys, f"__{self.name}__") if self.is_inside(thread) else self.original
        if stream is None:  # the process began without it; print() says nothing either
            return
        self._inside.add(thread)
        try:
            stream.write(text)
            if flush:
                stream.flush()
        finally:
            self._inside.discard(thread)

    def writelines(self, lines: Iterable[str]) -> None:
        """Write several texts."""
        for line in lines:
            self.write(line)

    def flush(self) -> None:
        """Write everything that waits."""
        taker, target = self.taker, self.target
        if target is None:
            return
        if taker is None or target is not self.original:
            target.flush()
        else:
            taker.flush(self)

    def isatty(self) -> bool:
        """Return True if it leads to a terminal, which a question that is open does not change."""
        target = self.target
        if target is None:
            return False
        if self.taker is not None and target is self.original:
            try:
                return os.isatty(self.taker.handle(target.fileno()))
            except (OSError, ValueError, AttributeError):  # closed, or no file: no terminal in either case
                return False
        return bool(target.isatty())

    def __iter__(self) -> Any:
        return iter(self.target)

    def __enter__(self) -> StandardStream:
        return self

    def __exit__(self, *error: object) -> None:
        self.target.close()


STDOUT, STDERR = StandardStream("stdout"), StandardStream("stderr")
#: Both, by their names in :mod:`sys`.
STREAMS = {"stdout": STDOUT, "stderr": STDERR}


def terminal_handle(stream: Any) -> int:
    """Return the descriptor of a stream, or of the terminal that it led to before a question was open.

    Raises OSError, ValueError or AttributeError for a stream that has none.
    """
    number: int = stream.fileno()
    taker = STDOUT.taker or STDERR.taker
    return number if taker is None else taker.handle(number)
