"""What grows: items that an iterator of the program gives, taken when somebody wants them, and kept for all who look.

A list of choices or suggestions may be declared with a generator. It can be gone through only once, may take its time
for each item, and may never end; and the declaration may be used by several terminals and threads at once. So it has
one owner, with one lock: everybody else is a view of ``items``, which only grow. Costs:

    count, items        nothing
    pull(n)             what the iterator takes to give the items that are missing up to ``n``, one at a time under the
                        lock; who comes meanwhile waits and then finds them there
"""

from __future__ import annotations

from _thread import allocate_lock

from wesperon.values import DeclarationError, Generic, T, subscripted
from wesperon.values.calls import FAULTS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator


class PullSource(Generic[T]):
    """The items that have come from an iterator by now; further ones come with ``pull``."""

    if not TYPE_CHECKING:
        __class_getitem__ = subscripted

    def __init__(self, iterator: Iterator[T] | None, items: list[T] | None = None) -> None:
        self.items: list[T] = [] if items is None else items
        #: None once it has given all.
        self._iterator = iterator
        #: What it has raised, if it has: the items that came before remain.
        self.failure: Exception | None = None
        self._lock = allocate_lock()

    @property
    def count(self) -> int:
        """How many there are by now."""
        return len(self.items)

    @property
    def ended_early(self) -> str:
        """What the iterator has raised, in one line; empty if it has raised nothing."""
        return f"{type(self.failure).__name__}: {self.failure}".rstrip(": ") if self.failure is not None else ""

    @property
    def is_growing(self) -> bool:
        """Whether more may come."""
        return self._iterator is not None

    def pull(self, count: int | None = None) -> bool:
        """Take items until there are ``count``, or all of them; may block. Return True if more may come.

        What the iterator raises ends the items, and who shows them says so (:attr:`ended_early`): a question that could
        go on is not ended by it. An error that says that the iterator is wrong itself is raised here, each time.
        """
        items = self.items
        while self._iterator is not None and (count is None or len(items) < count):
            with self._lock:
                # Another thread may have been here while this one waited.
                if self._iterator is None or (count is not None and len(items) >= count):
                    break
                try:
                    items.append(next(self._iterator))
                except StopIteration:
                    self._iterator = None
                except Exception as error:
                    self._iterator, self.failure = None, error
        if isinstance(self.failure, (DeclarationError, *FAULTS)):
            raise self.failure
        return self._iterator is not None
