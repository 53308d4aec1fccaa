"""Streams of values: what a slot with ``piped="stream"`` holds."""

from __future__ import annotations

from wesperon.values import Generic, T, subscripted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Iterator
    from typing import Any

    from wesperon.values.slots import Slot


class Stream(Generic[T]):
    """An iterator of converted values; ``items`` are all of them where they are known beforehand, else None.

    ``read`` gives them for a slot, if they are still to come.
    """

    if not TYPE_CHECKING:
        __class_getitem__ = subscripted

    def __init__(
        self,
        values: Iterable[T],
        items: tuple[T, ...] | None = None,
        read: Callable[[Slot[Any]], Iterator[T]] | None = None,
    ) -> None:
        self._values = iter(values)
        self.items = items
        self._read = read
        #: What is raised in place of an error, in a script that says itself what is wrong and ends.
        self.instead: Callable[[Exception], BaseException] | None = None

    def read_by(self, slot: Slot[Any]) -> Stream[T]:
        """Return the stream; its values are read and checked by ``slot``, as the answers before it have decided."""
        if self._read is not None:
            self._values = self._read(slot)
        return self

    def __iter__(self) -> Iterator[T]:
        # What is between a loop and the values would be called once for each of them.
        return self._values if self.instead is None else self._guarded()

    def _guarded(self) -> Iterator[T]:
        try:
            yield from self._values
        except Exception as error:
            assert self.instead is not None
            raise self.instead(error) from None

    def __next__(self) -> T:
        try:
            return next(self._values)
        except StopIteration:
            raise
        except Exception as error:
            if self.instead is None:
                raise
            raise self.instead(error) from None

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Stream) and self.items is not None and self.items == other.items

    def __hash__(self) -> int:
        return hash(self.items)

    def __repr__(self) -> str:
        return "<a stream of values>" if self.items is None else f"<a stream of {self.items!r}>"


def stream_of(values: tuple[T, ...]) -> Stream[T]:
    """Return the stream of values that are all known."""
    return Stream(values, values)
