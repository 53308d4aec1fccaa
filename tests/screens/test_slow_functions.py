"""A function that takes its time is seen, and Ctrl-C stops it and nothing else: whatever calls it, in a loop or not.

Modules: ``terminal.slow_watch``, ``screens.stepping``.
"""

from __future__ import annotations

import time

import pytest

from tests.harness import CTRL_C, CTRL_D, ENTER, Terminal, python

PROGRAM = """
import asyncio, sys, time
from wesperon import *

def slow(value=None):
    if value in (None, "x", "z") or str(value).endswith("x"):
        said.show("begun")
        {blocks}

async def slow_coroutine():
    await asyncio.sleep(0.01)
    slow()

def checked(value):
    slow(value)

said = Label("waiting")
note = Field(slot(str, "Note", low=0))
note.on_change(slow)
held = Field(slot(str, "Held", low=0, check=checked))
listed = Listing(["a", "z"])
listed.on_change(slow)
button = Button("Press", slow)
later = Button("Later", lambda: screen.call_later(0.05, slow))
task = Button("Task", slow_coroutine)
screen = Screen(
    Down(said, {part}),
    menus={{"Menu": [MenuEntry("Entry", slow, keys="F7")]}},
    bindings={{"f6": slow}},
)

async def main():
    async def tick():
        while True:
            await asyncio.sleep(0.05)
    ticking = asyncio.create_task(tick())
    result = await screen.run_async()
    ticking.cancel()
    return result

print("left", {runs})
"""
#: What has the focus, and the keys that have the function called.
WAYS = {
    "typed": ("note", "x"),
    "checked": ("held", "x" + ENTER),
    "listed": ("listed", "\x1b[B"),
    "button": ("button", ENTER),
    "later": ("later", ENTER),
    "menu": ("note", "\x1b[21~" + ENTER + ENTER),
    "menu key": ("note", "\x1b[18~"),
    "binding": ("note", "\x1b[17~"),
    "coroutine": ("task", ENTER),
}
RUNS = {"in no loop": "screen.run()", "in a loop": "asyncio.run(main())"}


@pytest.mark.parametrize("blocks", ["time.sleep(60)", "while True: pass"])
@pytest.mark.parametrize("runs", RUNS)
@pytest.mark.parametrize("way", WAYS)
def test_what_takes_its_time_is_seen_and_stopped(way: str, runs: str, blocks: str) -> None:
    if way == "coroutine" and runs == "in no loop":
        pytest.skip("that is a fault of the program, which is told so")
    part, keys = WAYS[way]
    program = PROGRAM.format(blocks=blocks, part=part, runs=RUNS[runs])
    with Terminal(python("-c", program)) as terminal:
        terminal.see("waiting")
        for key in keys if keys.startswith("\x1b") is False else [keys]:
            terminal.type(key)
        terminal.see("Ctrl-C: stop that")
        assert "at work" in terminal.text()
        terminal.type(CTRL_C)
        terminal.see("was stopped")
        begun = time.monotonic()
        terminal.type(CTRL_D if way not in ("typed", "checked") else "\x7f" + CTRL_D)
        terminal.see("left None")
        assert time.monotonic() - begun < 5
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
