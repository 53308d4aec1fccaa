"""The driver for event loops: a question is awaited while other tasks go on.

It waits by watching the terminal in the loop of :mod:`asyncio` that runs. If the terminal cannot be watched so, it
waits in a thread. A task that is cancelled gives the terminal back.
"""

from __future__ import annotations

import asyncio

from wesperon.context import current
from wesperon.terminal import tty_driver
from wesperon.terminal.tty_driver import TtyDriver, reach_port, wants_plain

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.terminal.preferred import DriverOptions
    from wesperon.widgets.widget import Outcome, Widget


def reach(program: str = "") -> TtyDriver | None:
    """Return a driver on the controlling terminal; ``None`` if there is none, or nobody at it.

    ``program`` is the name under which the user may prefer plain lines, in which questions block.
    """
    if wants_plain(current().environ, program):
        return tty_driver.reach(program)
    port = reach_port()
    return None if port is None else AsyncioDriver(port)


class AsyncioDriver(TtyDriver):
    """Runs widgets on a terminal inside an event loop."""

    async def answer(self, widget: Widget, options: DriverOptions | None = None) -> Outcome:
        """Show the widget and give it events until it has an outcome; its record stays on the screen."""
        if self.stage is not None and self.stage.is_over(widget):
            return await super().answer(widget, options)
        watch = LoopWatch(asyncio.get_running_loop(), lambda: self.seat.take_away(self))
        try:
            return await super().answer(widget, options)
        finally:
            watch.end()

    async def events(self) -> list[Any]:
        """Return the events that come next, as ``wait`` gives them."""
        while True:
            if self.is_ready:
                await asyncio.sleep(0)  # work that goes on for long brings one event after the other
                events = self.ready()  # only now: what has been taken is in nobody's hands until it is handled
                if events:
                    return events
                continue
            try:
                is_ready = await self._ready(self.waits)
                has_keys, is_woken = self.port.wait(0) if is_ready else (False, False)
            except OSError:
                self.is_gone = True
                continue
            events = self.collect(has_keys, is_woken)
            if events:
                return events

    async def _ready(self, seconds: float | None) -> bool:
        """Wait until the terminal has keys or is woken. Return True if that came in time."""
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


class LoopWatch:
    """Gives the terminal back if an event loop is closed while a question is open in it.

    Nothing runs in a loop that was stopped, and nobody is told that it is closed: the question would stay open, and the
    terminal as it is, for whatever the program does next. So ``close`` of the loop is called by way of this.
    """

    def __init__(self, loop: asyncio.AbstractEventLoop, give_back: Callable[[], object]) -> None:
        self.loop = loop
        self.close = loop.close

        def closing() -> None:
            self.end()
            give_back()
            self.close()

        self.closing = closing
        try:
            loop.close = closing  # type: ignore[method-assign]
        except AttributeError:  # a loop that takes no attributes: its end is not heard of
            pass

    def end(self) -> None:
        """Restore the event loop, unless another question is above this one."""
        if self.loop.__dict__.get("close") is self.closing:
            if getattr(self.close, "__self__", None) is self.loop:
                del self.loop.__dict__["close"]
            else:
                self.loop.close = self.close  # type: ignore[method-assign]
