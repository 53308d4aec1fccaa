"""Where a thread asks while a screen of another one has the terminal."""

from __future__ import annotations

from wesperon.context import PROCESS, current
from wesperon.frozen import later

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable
    from typing import Any, TypeVar

    R = TypeVar("R")
else:
    asyncio = later("asyncio")


def stage_elsewhere() -> Any:
    """Return the screen of another thread that has the terminal on which this one would ask; None if there is none."""
    driver = current().driver
    stages = PROCESS.stages[-1:] if driver is None else [getattr(driver, "stage", None)]
    return next((stage for stage in stages if stage is not None and not stage.is_here), None)


async def in_thread(function: Callable[[], R]) -> R:
    """Return what a function gives that waits for another thread, inside an event loop, whose tasks go on."""
    return await asyncio.to_thread(function)
