"""One program shows a screen on each of several terminals at once, each with its own focus, dialogs and printed lines.

Modules: ``screens.screen``, ``screens.running``.
"""

from __future__ import annotations

import asyncio
import fcntl
import os
import pty
import select
import struct
import termios
import threading
import time
from collections.abc import Callable
from typing import Any

import pyte
import pytest

from wesperon import Button, Down, Field, Label, Screen, ask, ask_async, slot
from wesperon.terminal.asyncio_driver import AsyncioDriver
from wesperon.terminal.ports.posix import PosixPort
from wesperon.terminal.tty_driver import TtyDriver


class Visitor:
    """A terminal that is not the process's own, and what is on it."""

    def __init__(self, driver: Callable[[PosixPort], TtyDriver]) -> None:
        self.handle, self.end = pty.openpty()
        fcntl.ioctl(self.end, termios.TIOCSWINSZ, struct.pack("HHHH", 16, 60, 0, 0))
        self.modes = termios.tcgetattr(self.end)
        self.driver = driver(PosixPort(self.end))
        self.screen = pyte.Screen(60, 16)
        self.stream = pyte.ByteStream(self.screen)

    def type(self, text: str) -> None:
        os.write(self.handle, text.encode())

    def read(self) -> bool:
        if not select.select([self.handle], [], [], 0)[0]:
            return False
        self.stream.feed(os.read(self.handle, 1 << 16))
        return True

    @property
    def text(self) -> str:
        return "\n".join(self.screen.display)

    async def see(self, text: str) -> None:
        end = time.monotonic() + 20
        while text not in self.text:
            assert time.monotonic() < end, self.text
            if not self.read():
                await asyncio.sleep(0.005)

    def close(self) -> None:
        assert termios.tcgetattr(self.end) == self.modes
        self.driver.close()
        os.close(self.handle)


def desk(name: str, action: Callable[[Screen, Label], Any]) -> Screen:
    """Return a screen of its own for each visitor."""
    said = Label("nothing asked")
    note = Field(slot(str, "Note", low=0), value="")
    buttons = [Button("Ask", lambda: action(screen, said)), Button("Done", lambda: screen.close(note.value))]
    screen = Screen(Down(note, said, *buttons), title=name)
    return screen


async def visit(first: Visitor, second: Visitor) -> None:
    """Use both screens at the same time."""
    await first.see("north")
    await second.see("south")
    first.type("clear\t\r")
    await first.see("How many?")
    second.type("wind\t\r")  # its focus is its own, and so is its dialog
    await second.see("How many?")
    second.type("7\r")
    await second.see("got 7")
    assert "How many?" in first.text
    first.type("3\r")
    await first.see("got 3")
    assert "wind" in second.text
    assert "clear" not in second.text
    for one in (second, first):
        one.type("\t\r")


def test_two_screens_in_one_event_loop() -> None:
    async def action(screen: Screen, said: Label) -> None:
        said.show(f"got {await ask_async('How many?', int)}")

    visitors = Visitor(AsyncioDriver), Visitor(AsyncioDriver)

    async def serve() -> list[Any]:
        screens = [desk(name, lambda s, said: action(s, said)) for name in ("north", "south")]
        runs = [screen.run_async(driver=one.driver) for screen, one in zip(screens, visitors, strict=True)]
        *results, _ = await asyncio.wait_for(asyncio.gather(*runs, visit(*visitors)), 60)
        return results

    assert asyncio.run(serve()) == ["clear", "wind"]
    for one in visitors:
        one.close()


@pytest.mark.parametrize("round_", range(2))
def test_two_screens_in_threads(round_: int) -> None:
    def action(screen: Screen, said: Label) -> None:
        said.show(f"got {ask('How many?', int)}")

    visitors = Visitor(TtyDriver), Visitor(TtyDriver)
    results: dict[str, Any] = {}

    def serve(name: str, one: Visitor) -> None:
        results[name] = desk(name, action).run(driver=one.driver)

    threads = [
        threading.Thread(target=serve, args=(name, one), daemon=True)
        for name, one in zip(("north", "south"), visitors, strict=True)
    ]
    for thread in threads:
        thread.start()
    asyncio.run(visit(*visitors))
    for thread in threads:
        thread.join(20)
    assert results == {"north": "clear", "south": "wind"}
    for one in visitors:
        one.close()
