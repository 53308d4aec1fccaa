"""What those wait for that ask while a screen has the terminal: another thread, or other tasks of an event loop."""

from __future__ import annotations

from wesperon.context import PROCESS, current
from wesperon.frozen import later
from wesperon.terminal.seat.turn import LOOK

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable
    from typing import Any, TypeVar

    from wesperon.terminal.device import Device

    R = TypeVar("R")
else:
    asyncio = later("asyncio")


#: So many turns other tasks have after an event that has begun something in them: it may open a question at the last.
TURNS = 10


async def give_turns() -> None:
    """Let the other tasks of the event loop do what the last event has begun."""
    for _ in range(TURNS):
        await asyncio.sleep(0)


async def stage_has_begun(driver: Device) -> None:
    """Wait until the screen of this thread that waits for its turn on a driver has that, or has ended."""
    stage: Any = driver.stage
    while driver.stage is stage and stage.is_here and not (driver.depth or driver.seat.turn.is_mine):
        await asyncio.sleep(LOOK)


def stage_elsewhere() -> Any:
    """Return the screen of another thread that has the terminal on which this one would ask; None if there is none."""
    driver = current().driver
    stages = PROCESS.stages[-1:] if driver is None else [getattr(driver, "stage", None)]
    return next((stage for stage in stages if stage is not None and not stage.is_here), None)


async def in_thread(function: Callable[[], R]) -> R:
    """Return what a function gives that waits for another thread, inside an event loop, whose tasks go on."""
    return await asyncio.to_thread(function)
