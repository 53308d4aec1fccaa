"""Work that asks on the way: written once, run by a driver that blocks or inside an event loop.

Such work is a generator. It yields ``Asked`` where a widget is to be run, and is sent the outcome; it yields something
that can be awaited, and is sent what came of it. What it returns is what ``play`` and ``play_async`` return.
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.system.interrupts import interruptible, waiting

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Awaitable, Callable, Generator
    from typing import Any, TypeVar

    from wesperon.terminal.driver import Driver
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.widgets.widget import Widget

    R = TypeVar("R")
    Interaction = Generator["Asked | TurnAwaited | Awaitable[Any]", Any, R]


class Asked(Frozen):
    """A widget to be run by a driver, with the options of the program."""

    driver: Driver
    widget: Widget
    options: DriverOptions


class TurnAwaited(Frozen):
    """Inside an event loop: go on once the terminal of a driver can be taken without blocking.

    This is a step of its own, awaited in the task itself, since the turn belongs to a task.
    """

    driver: Driver


@waiting
def play(steps: Interaction[R]) -> R:
    """Run the work to its end; each question blocks until it is answered."""
    try:
        step = next(steps)
        while True:
            try:
                if isinstance(step, Asked):
                    value: Any = step.driver.run(step.widget, step.options)
                elif isinstance(step, TurnAwaited):  # a question that blocks waits for its turn as it is opened
                    value = None
                else:
                    value = awaited(step)
            except BaseException as error:
                step = steps.throw(error)
            else:
                step = steps.send(value)
    except StopIteration as end:
        result: R = end.value
        return result


async def play_async(steps: Interaction[R]) -> R:
    """Run the work to its end inside an event loop, whose other tasks go on meanwhile."""
    try:
        step = next(steps)
        while True:
            try:
                value: Any = None
                if isinstance(step, TurnAwaited):
                    await step.driver.turn_comes()
                elif isinstance(step, Asked):
                    value = await step.driver.answer(step.widget, step.options)
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


@interruptible
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


@interruptible
def awaited(awaitable: Awaitable[R]) -> R:
    """Run an awaitable in a new event loop and return its result."""
    import asyncio

    async def wait() -> R:
        return await awaitable

    return asyncio.run(wait())
