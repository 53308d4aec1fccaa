"""What those wait for that ask while a screen has the terminal: another thread, or other tasks of an event loop."""

from __future__ import annotations

from wesperon.context import PROCESS, current
from wesperon.frozen import later
from wesperon.terminal.seat.turn import LOOK, Asker

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable
    from typing import Any, TypeVar

    from wesperon.terminal.device import Device
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.widgets.widget import Outcome, Widget

    R = TypeVar("R")
else:
    asyncio = later("asyncio")


#: So many turns other tasks have after an event that has begun something in them: it may open a question at the last.
TURNS = 10


async def give_turns() -> None:
    """Let the other tasks of the event loop do what the last event has begun."""
    for _ in range(TURNS):
        await asyncio.sleep(0)


async def answer(driver: Any, widget: Widget, options: DriverOptions | None) -> Outcome:
    """Run a widget on a driver inside an event loop; see ``Driver.answer``."""
    if driver.stage is not None and driver.stage.is_over(widget):
        return await driver.stage.answer_over(widget)  # type: ignore[no-any-return]
    if not driver.is_lent_by_stage:
        await driver.seat.reserve()
    steps = driver.steps(widget, options)
    try:
        next(steps)
        while True:
            if driver.gives_way:
                driver.gives_way = False
                await give_turns()
                steps.send([])  # what they have opened is drawn, and has its place, before keys come to it
            else:
                steps.send(await driver.events())
    except StopIteration:
        pass
    finally:
        steps.close()
    assert widget.outcome is not None
    return widget.outcome


async def turn_comes(driver: Device) -> None:
    """Wait until the terminal can be taken without blocking; see ``Driver.turn_comes``."""
    stage: Any = driver.stage
    asker = Asker()
    while stage is not None and driver.stage is stage and stage.is_here and not driver.depth:
        holder = driver.seat.turn.holder
        if holder is not None and (holder.thread, holder.task) == (asker.thread, asker.task):
            break  # a screen that waits for this one would never begin
        await asyncio.sleep(LOOK)
    if not driver.is_lent_by_stage:
        await driver.seat.reserve()


def stage_elsewhere() -> Any:
    """Return the screen of another thread that has the terminal on which this one would ask; None if there is none."""
    driver = current().driver
    stages = PROCESS.stages[-1:] if driver is None else [getattr(driver, "stage", None)]
    return next((stage for stage in stages if stage is not None and not stage.is_here), None)


async def in_thread(function: Callable[[], R]) -> R:
    """Return what a function gives that waits for another thread, inside an event loop, whose tasks go on."""
    return await asyncio.to_thread(function)
