"""``Generic`` and ``T`` for the type checker, without importing :mod:`typing` when a program starts.

A type checker sees the real ones; at run time ``Generic[T]`` is only a base class that accepts the brackets.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Generic, TypeVar

    T = TypeVar("T")
else:
    T = None

    class Generic:
        """Stands in for :class:`typing.Generic`: ``Name[int]`` is ``Name``."""

        __slots__ = ()

        def __class_getitem__(cls, item):
            """Give the class itself back, whatever stands in the brackets."""
            return cls


__all__ = ["Generic", "T"]
