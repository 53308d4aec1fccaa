"""Many consoles in one process: what each of 1,000 takes that waits for a line, in one event loop.

Each has a driver of its own, so that nothing is shared but the program. The budget is 40 kB each (Linux, ``VmRSS``),
and no thread.
"""

from __future__ import annotations

import asyncio
import gc
import re
import threading
from pathlib import Path
from typing import Any

from wesperon import Command, Console, Program, slot
from wesperon.testing import Scripted

CONSOLES = 1_000
BUDGET = 40.0


class Light(Command):
    """Light a lamp."""

    frames = slot(int)

    def run(self) -> int:
        """Return the frames."""
        return self.frames


class Idle(Scripted):
    """A terminal on which nobody types."""

    async def events(self) -> Any:
        """Wait for ever."""
        await asyncio.Event().wait()


def memory() -> int:
    """Return the memory of this process, in kB."""
    gc.collect()
    found = re.search(r"VmRSS:\s+(\d+)", Path("/proc/self/status").read_text())
    assert found is not None
    return int(found[1])


async def opened(program: Program, count: int) -> list[asyncio.Task[int]]:
    """Open so many consoles, each in a task that waits for its first line."""
    tasks = [asyncio.create_task(Console(program, driver=Idle([])).run_async()) for _ in range(count)]
    for _ in range(20):
        await asyncio.sleep(0)
    return tasks


async def measure() -> float:
    """Return how many kB a console takes."""
    program = Program("desk", members=[Light])
    first = await opened(program, 10)  # what is loaded, and made once, is not theirs
    before = memory()
    tasks = await opened(program, CONSOLES)
    each = (memory() - before) / CONSOLES
    for task in (*first, *tasks):
        task.cancel()
    await asyncio.gather(*first, *tasks, return_exceptions=True)
    return each


def main() -> int:
    """Measure and print; the status is 1 if it is over its budget."""
    each = asyncio.run(measure())
    is_within = each <= BUDGET and threading.active_count() == 1
    verdict = "within" if is_within else "OVER"
    print(f"{CONSOLES:,} consoles that wait: {each:.1f} kB each; {verdict} {BUDGET:g}, no thread")
    return 0 if is_within else 1


if __name__ == "__main__":
    raise SystemExit(main())
