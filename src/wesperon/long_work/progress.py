"""Work that is iterated over (``progress``), and work that is said (``working``).

A loop over ``progress(frames)`` gets its items from an iterator of C, ``itertools.chain``, whose one source comes from
a generator: that begins the work, hands the source on, and is resumed when the source has no more. How many have passed
is asked of the source from outside: an iterator over a list, a range and the like knows what is left. Any other is led
through ``itertools.compress``, whose selectors are one value repeated a known number of times: how many are left of
these tells.

Nobody tells an iterator why a loop has left it. It is dropped then, and the generator closed: from the frame that
drops it is read whether an exception is on its way (see ``_left_by``).
"""

from __future__ import annotations

import gc
import sys
import time
from itertools import chain, compress, repeat

from wesperon.frozen import later
from wesperon.long_work import leaving
from wesperon.long_work.watch import WATCH
from wesperon.long_work.work import DONE, RUNNING, STOPPED, Work, outcome_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import AsyncIterable, AsyncIterator, Callable, Generator, Iterable, Iterator
    from types import FrameType
    from typing import Any, Generic, TypeVar

    from wesperon import values

    Item = TypeVar("Item")

    class _Items(Generic[Item]):
        pass
else:
    values = later("wesperon.values")

    class _Items:
        def __class_getitem__(cls, item):
            return cls


#: More items than anybody iterates over.
ENDLESS = 1 << 62
#: What is iterated over by an iterator that knows how much is left, and does not change meanwhile.
SIZED = (range, tuple, dict, set, frozenset, str, bytes, bytearray)


def working(label: str, total: float | None = None, unit: str = "", *, capture: bool = True) -> Work:
    """Show that work goes on, and how far it is, until the end of a block: ``with working("Cooling") as work:``.

    Arguments:
        label: what the work is called
        total: how much there is to do, as far as that is known; ``work.total`` changes it
        unit: what is counted, such as ``"frames"``; ``"bytes"`` are shown in binary multiples
        capture: whether what is printed meanwhile is kept above the row

    Nothing is shown in the first second. From then on there is a row at the foot of the terminal that standard error
    leads to, or a line now and then if that is no terminal. ``work.add(n)`` counts, ``work.set(n)`` says how much is
    done; ``work.label`` may change; ``work.say(text)`` prints above the row, ``work.fail(reason)`` ends the work as one
    that has failed, as an exception does. Raises DeclarationError for a label or unit that is no text, or a total that
    is no number from 0.

    Example:
        >>> with working("Cooling", total=40, unit="degrees") as work:
        ...     for _ in range(4):
        ...         work.add(10)
        >>> work.count
        40

    """
    return Work(label, total, unit, capture=capture)


def progress(
    items: Iterable[Item] | AsyncIterable[Item],
    label: str = "",
    total: float | None = None,
    unit: str = "",
    *,
    capture: bool = True,
) -> Progress[Item]:
    """Iterate over ``items`` and show how far that is: ``for frame in progress(frames, "Stacking"):``.

    Arguments:
        items: what to iterate over, with ``for`` or with ``async for``
        label: what the work is called
        total: how many there are; the length of ``items`` if they have one
        unit: what they are, such as ``"frames"``; ``"bytes"`` are shown in binary multiples
        capture: whether what is printed meanwhile is kept above the row

    See ``working`` for what is shown, and for what else the work can be told: ``frames = progress(frames)`` has
    ``say``, ``label`` and all the others. A loop that is left by ``break`` has stopped, one left by an exception has
    failed. Raises DeclarationError for what cannot be iterated over, and as ``working`` does.

    Example:
        >>> sum(progress(range(5), "Adding"))
        10

    """
    return Progress(items, label, total, unit, capture=capture)


class Progress(Work, _Items["Item"]):
    """Work that is iterated over, once at a time."""

    def __init__(self, items: Any, label: str, total: float | None, unit: str, *, capture: bool) -> None:
        if total is None and hasattr(items, "__len__"):
            total = len(items)
        super().__init__(label, total, unit, capture=capture)
        self.items = items
        self.is_counted = True
        if not hasattr(items, "__iter__") and not hasattr(items, "__aiter__") and not hasattr(items, "__getitem__"):
            raise values.DeclarationError(f"progress() needs something to iterate over, got {items!r}")

    def __iter__(self) -> Iterator[Item]:
        if self.clock is not time:
            return self._step_by_step()
        return chain.from_iterable(self._source())

    def _source(self) -> Generator[Iterator[Item]]:
        """Begin, give what is iterated over, and end once it has no more."""
        source, given = _counted(self.items)
        self.begin()
        self._passed = lambda: max(given() - 1, 0)  # the last one that was given is being worked on
        try:
            yield source
        except GeneratorExit:
            if self._is_left():
                if leaving.has_raised(self.items):  # when it was asked for one more
                    self._passed = given
                _end_left(self)
            raise
        self._passed = given
        self.end(DONE)

    def _is_left(self) -> bool:
        """Return True if it has not ended already, as all work has that was shown when the interpreter ends."""
        return self.state == RUNNING and not sys.is_finalizing()

    def _step_by_step(self) -> Generator[Item]:
        """Iterate, and look at the clock after each item: it is one that a test sets."""
        self.begin()
        ended, reason = STOPPED, ""
        try:
            for item in self.items:
                yield item
                self.add(1)
            ended = DONE
        except GeneratorExit:
            if self._is_left():
                ended, reason = _left_by(_caller(2), self.items)
            raise
        except BaseException as error:
            ended, reason = outcome_of(error)
            raise
        finally:
            self.end(ended, reason)

    def __aiter__(self) -> AsyncIterator[Item]:
        return Steps(self)


class Steps:
    """Iterates over items inside an event loop."""

    def __init__(self, work: Progress[Any]) -> None:
        self.work = work
        self._has_given = False
        items = work.items
        self._is_async = hasattr(items, "__aiter__")
        self._source: Any = items.__aiter__() if self._is_async else iter(items)
        work.begin()

    def __aiter__(self) -> Steps:
        return self

    async def __anext__(self) -> Any:
        work = self.work
        if self._has_given:
            self._has_given = False
            work.add(1)
        try:
            item = await self._source.__anext__() if self._is_async else next(self._source)
        except (StopAsyncIteration, StopIteration):
            work.end(DONE)
            raise StopAsyncIteration from None
        except BaseException as error:
            work.end(*outcome_of(error))
            raise
        self._has_given = True
        return item

    def __del__(self) -> None:
        if self.work._is_left():
            _end_left(self.work)


def _counted(items: Any) -> tuple[Iterator[Any], Callable[[], float]]:
    """Return an iterator over items, and a function that returns how many it has given."""
    source = iter(items)
    if type(items) is list:
        # What is left says nothing if the list grows meanwhile; its iterator knows the place, until it has no more.
        reduce = source.__reduce__

        def passed() -> float:
            state: Any = reduce()
            return int(state[2]) if len(state) > 2 else len(items)

        return source, passed
    if type(items) in SIZED:
        number, left = len(items), source.__length_hint__
        return source, lambda: number - left()
    ticks: Any = repeat(True, ENDLESS)
    left = ticks.__length_hint__
    return compress(source, ticks), lambda: ENDLESS - left()


def _end_left(work: Progress[Any]) -> None:
    """End work whose loop was left by who has called who calls this; where a module is being loaded, a moment later."""
    frame = _caller(3)
    state, reason = _left_by(frame, work.items)
    if leaving.is_loading(frame):
        WATCH.end_soon(work, state, reason)
    else:
        work.end(state, reason)


def _caller(depth: int) -> FrameType | None:
    """Return the frame so far up the stack; None in a thread that runs no step of Python there."""
    try:
        return sys._getframe(depth)
    except ValueError:  # the stack ends before
        return None


def _left_by(frame: FrameType | None, items: Any) -> tuple[str, str]:
    """Return how work ends whose loop over ``items`` was left in a frame; with none, nobody has: it was dropped.

    What is young stays so meanwhile.
    """
    if frame is None:
        return STOPPED, ""
    was_enabled = gc.isenabled()
    gc.disable()
    try:
        return leaving.left_by(frame, items)
    finally:
        if was_enabled:
            gc.enable()
