"""Work that asks on the way: written once, run by a driver that blocks or inside an event loop.

Such work is a generator. It yields ``Asked`` where a widget is to be run, and is sent the outcome; it yields something
that can be awaited, and is sent what came of it. What it returns is what ``play`` and ``play_async`` return.
"""

from __future__ import annotations

from wesperon.frozen import frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Awaitable, Generator
    from typing import Any, TypeVar

    from wesperon.terminal.driver import Driver
    from wesperon.widgets.widget import Widget

    R = TypeVar("R")
    Interaction = Generator["Asked | Awaitable[Any]", Any, R]


#: The event loop that runs: what keeps its tasks apart, and the task that has the terminal.
_turns: dict[Any, tuple[Any, list[Any]]] = {}


@frozen
class Asked:
    """A widget to be run by a driver."""

    driver: Driver
    widget: Widget


def play(steps: Interaction[R]) -> R:
    """Run the work to its end; each question blocks until it is answered."""
    try:
        step = next(steps)
        while True:
            try:
                value: Any = step.driver.run(step.widget) if isinstance(step, Asked) else _awaited(step)
            except BaseException as error:
                step = steps.throw(error)
            else:
                step = steps.send(value)
    except StopIteration as end:
        result: R = end.value
        return result


async def play_in_turn(steps: Interaction[R]) -> R:
    """Run the work once no other task of the loop has the terminal; a task may ask while it has it."""
    import asyncio

    loop, task = asyncio.get_running_loop(), asyncio.current_task()
    if loop not in _turns:
        _turns.clear()  # of loops that have ended
        _turns[loop] = (asyncio.Lock(), [])
    lock, holders = _turns[loop]
    if task in holders:
        return await play_async(steps)
    async with lock:
        holders.append(task)
        try:
            return await play_async(steps)
        finally:
            holders.remove(task)


async def play_async(steps: Interaction[R]) -> R:
    """Run the work to its end inside an event loop, whose other tasks go on meanwhile."""
    try:
        step = next(steps)
        while True:
            try:
                value: Any = await (step.driver.answer(step.widget) if isinstance(step, Asked) else step)
            except BaseException as error:
                step = steps.throw(error)
            else:
                step = steps.send(value)
    except StopIteration as end:
        result: R = end.value
        return result


def _awaited(awaitable: Awaitable[R]) -> R:
    import asyncio

    async def wait() -> R:
        return await awaitable

    return asyncio.run(wait())
