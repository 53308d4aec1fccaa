"""Work that asks on the way: written once, run by a driver that blocks or inside an event loop.

Such work is a generator. It yields ``Asked`` where a widget is to be run, and is sent the outcome; it yields something
that can be awaited, and is sent what came of it. What it returns is what ``play`` and ``play_async`` return.
"""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Awaitable, Callable, Generator
    from typing import Any, TypeVar

    from wesperon.terminal.driver import Driver
    from wesperon.widgets.widget import Widget

    R = TypeVar("R")
    Interaction = Generator["Asked | Awaitable[Any]", Any, R]


class Asked(Frozen):
    """A widget to be run by a driver."""

    driver: Driver
    widget: Widget


def play(steps: Interaction[R]) -> R:
    """Run the work to its end; each question blocks until it is answered."""
    try:
        step = next(steps)
        while True:
            try:
                value: Any = step.driver.run(step.widget) if isinstance(step, Asked) else awaited(step)
            except BaseException as error:
                step = steps.throw(error)
            else:
                step = steps.send(value)
    except StopIteration as end:
        result: R = end.value
        return result


class Turn:
    """Whose turn it is to use one terminal, among the tasks of an event loop; a task may take it again while it has it.

    There is one for each driver that a program hands over, and one for the terminal of each context.
    """

    def __init__(self) -> None:
        #: The event loop, its lock, and the tasks that hold it.
        self._loop: Any = None
        self._lock: Any = None
        self._holders: list[Any] = []

    async def play(self, steps: Interaction[R]) -> R:
        """Run the work to its end, once no other task uses the terminal."""
        import asyncio

        loop, task = asyncio.get_running_loop(), asyncio.current_task()
        if loop is not self._loop:  # another one, which has ended, may have left something
            self._loop, self._lock, self._holders = loop, asyncio.Lock(), []
        if task in self._holders:
            return await play_async(steps)
        async with self._lock:
            self._holders.append(task)
            try:
                return await play_async(steps)
            finally:
                self._holders.remove(task)


async def play_in_turn(steps: Interaction[R], driver: Driver | None = None) -> R:
    """Run the work to its end, once no other task uses the terminal of the driver; that of the context without one."""
    owner: Any = current() if driver is None else driver
    if owner.turn is None:
        owner.turn = Turn()
    made: R = await owner.turn.play(steps)
    return made


async def play_async(steps: Interaction[R]) -> R:
    """Run the work to its end inside an event loop, whose other tasks go on meanwhile."""
    try:
        step = next(steps)
        while True:
            try:
                if isinstance(step, Asked):
                    value: Any = await step.driver.answer(step.widget)
                else:
                    value = await _stopped_by_key(step)
            except BaseException as error:
                step = steps.throw(error)
            else:
                step = steps.send(value)
    except StopIteration as end:
        result: R = end.value
        return result


async def _stopped_by_key(awaitable: Awaitable[R]) -> R:
    """Await what a command does; an interrupt from the keyboard ends that, and is raised as KeyboardInterrupt."""
    import asyncio
    import signal

    async def work() -> R:
        return await awaitable

    loop, task = asyncio.get_running_loop(), asyncio.ensure_future(work())
    hits: list[bool] = []

    def stop() -> None:
        hits.append(True)
        task.cancel()

    before = signal.getsignal(signal.SIGINT)
    if before is signal.SIG_IGN:
        return await task
    try:
        loop.add_signal_handler(signal.SIGINT, stop)
    except (ValueError, RuntimeError, NotImplementedError):  # not in the main thread, or not on this system
        return await task
    try:
        return await task
    except asyncio.CancelledError:
        if hits:
            raise KeyboardInterrupt from None
        raise
    finally:
        loop.remove_signal_handler(signal.SIGINT)
        signal.signal(signal.SIGINT, before)


def call_interruptibly(function: Callable[[], R]) -> R:
    """Call what blocks the event loop so that an interrupt stops it; the loop's own handler would only note it."""
    import signal

    before = signal.getsignal(signal.SIGINT)
    if before is signal.SIG_IGN:  # as for a process in the background: it stays so
        return function()
    try:
        signal.signal(signal.SIGINT, signal.default_int_handler)
    except ValueError:  # not in the main thread, where no interrupt comes
        return function()
    try:
        return function()
    finally:
        signal.signal(signal.SIGINT, before)


def awaited(awaitable: Awaitable[R]) -> R:
    """What comes of something to be awaited, in an event loop of its own."""
    import asyncio

    async def wait() -> R:
        return await awaitable

    return asyncio.run(wait())
