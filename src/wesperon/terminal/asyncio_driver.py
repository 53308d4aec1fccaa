"""The driver for event loops: a question is awaited while other tasks go on.

It waits by watching the terminal in the loop of :mod:`asyncio` that runs. If the terminal cannot be watched so, it
waits in a thread. A task that is cancelled gives the terminal back.
"""

from __future__ import annotations

import asyncio

from wesperon.context import current
from wesperon.terminal import tty_driver
from wesperon.terminal.tty_driver import TURN_EVERY, TtyDriver, reach_port, wants_plain

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.keys.events import Event
    from wesperon.widgets.widget import Outcome, Widget


def reach(program: str = "") -> TtyDriver | None:
    """A driver on the controlling terminal; ``None`` if there is none, or nobody at it.

    ``program`` is the name under which the user may prefer plain lines, in which questions block.
    """
    if wants_plain(current().environ, program):
        return tty_driver.reach(program)
    port = reach_port()
    return None if port is None else AsyncioDriver(port)


class AsyncioDriver(TtyDriver):
    """Runs widgets on a terminal inside an event loop."""

    async def answer(self, widget: Widget) -> Outcome:
        """Show the widget and give it events until it has an outcome; its record stays on the screen."""
        await self.turn_comes()
        turns = self.turns(widget)
        try:
            for _ in turns:
                self.queue = await self.events()
        finally:
            turns.close()
        assert widget.outcome is not None
        return widget.outcome

    async def turn_comes(self) -> None:
        """Wait until no other process asks on the terminal."""
        while not self.depth and not self.port.claim():
            await asyncio.sleep(TURN_EVERY)

    async def events(self) -> list[Event]:
        """The events that come next, as ``wait`` gives them."""
        while not (self.is_gone or self.is_left or self.told or self.has_grown):
            if not await self._ready(self.waits):
                return self.collect(False, False) or self.wait()
            events = self.collect(*self.port.wait(0))
            if events:
                return events
        return self.wait()

    async def _ready(self, seconds: float | None) -> bool:
        """Wait until the terminal has keys or is woken; whether that came in time."""
        loop = asyncio.get_running_loop()
        if not self.port.handles:
            return await self._ready_in_thread(loop, seconds)
        ready: asyncio.Future[None] = loop.create_future()

        def now() -> None:
            if not ready.done():
                ready.set_result(None)

        for handle in self.port.handles:
            loop.add_reader(handle, now)
        try:
            await asyncio.wait_for(ready, seconds)
        except TimeoutError:
            return False
        finally:
            for handle in self.port.handles:
                loop.remove_reader(handle)
        return True

    async def _ready_in_thread(self, loop: asyncio.AbstractEventLoop, seconds: float | None) -> bool:
        waiting = loop.run_in_executor(None, self.port.wait, seconds)
        try:
            return any(await asyncio.shield(waiting))
        except asyncio.CancelledError:
            self.port.wake()  # so that the thread ends too
            raise
