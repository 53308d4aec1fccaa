"""Descriptors that belong to an object: they are closed with it, whatever exception takes it away.

Python raises what a handler of a signal raises after any call has returned, and so between the call that opens a file
and the line that takes down its number: nobody would close it then. Here no step of the interpreter is between: the
numbers go from the system into a list inside one call.
"""

from __future__ import annotations

import os
from itertools import chain, starmap

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: What is below the numbers of a list, so that taking one after the other comes to an end.
BOTTOM = None


class Descriptors:
    """Open descriptors, closed by ``close``, and where that does not happen, when nobody has the object any more."""

    def __init__(self) -> None:
        self._all: list[Any] = [BOTTOM]

    def open(self, path: str, flags: int) -> int:
        """Open a file and return its descriptor. Raises OSError."""
        self._all.extend(starmap(os.open, [(path, flags)]))
        return int(self._all[-1])

    def pipe(self) -> tuple[int, int]:
        """Return both ends of a new pipe, of which the second is written to. Neither waits. Raises OSError."""
        self._all.extend(chain.from_iterable(starmap(os.pipe, [()])))
        ends = self._all[-2:]
        for end in ends:
            os.set_blocking(end, False)
        return ends[0], ends[1]

    def add(self, *handles: int) -> None:
        """Take over descriptors that are open."""
        self._all.extend(handles)

    def close(self) -> None:
        """Close all of them, even those of which the system says that they cannot be closed (POSIX, close)."""
        while self._all:
            try:
                any(map(os.close, iter(self._all.pop, BOTTOM)))
            except OSError:  # it is closed all the same, or was already
                continue
        self._all = [BOTTOM]

    def __del__(self) -> None:
        self.close()
