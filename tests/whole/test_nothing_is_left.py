"""Whatever was asked, nothing is left of it in the process: no descriptor is open that was not, and no thread runs.

Modules: ``terminal.reached``.
"""

from __future__ import annotations

import time

import pytest

from tests.harness import CTRL_C, ENTER, Terminal, python

PROGRAM = """
import asyncio, gc, os, signal, sys, threading, time
from wesperon import *

class Plan(Form):
    note = slot(str, "Note", default="dry")

def screen():
    made = Screen(Down(Label("Sky"), Button("Well", lambda: made.close(1))))
    return made

def times_out():
    try:
        return ask("Sky?", timeout=0.05)
    except Problems:
        return None

def stopped(function):
    try:
        return function()
    except KeyboardInterrupt:
        return None

def boom():
    raise ZeroDivisionError("away")

def failing():
    made = Screen(Button("Well", boom))
    try:
        made.run()
    except ZeroDivisionError:
        pass

def park():
    pass

def count():
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # typed too late
    gc.collect()
    time.sleep(0.3)  # a thread that ends is there for a moment
    kept = [os.readlink(one.path) for one in os.scandir("/proc/self/fd") if os.path.lexists(one.path)]
    signal.signal(signal.SIGINT, signal.default_int_handler)
    return sorted(kept), threading.active_count()

text = "line\\n" * 100
with open(sys.argv[0] + ".txt", "w") as file:
    file.write(text)

def act():
    return {call}

for _ in range(3):
    act()
before = count()
for _ in range(5):
    act()
for _ in range(5):
    after = count()
    if after == before:
        break
print("counted", before == after)
print(before, after)
"""
CALLS = {
    "ask('Sky?')": "a" + ENTER,
    "asyncio.run(ask_async('Sky?'))": "a" + ENTER,
    "confirm('Sky?')": "y" + ENTER,
    "choose('Sky?', ['dark', 'dim'])": ENTER,
    "show_message('Sky?')": ENTER,
    "Plan.fill([], asking='all')": ENTER,
    "Plan.fill([], asking='all', layout='screen')": ENTER,
    "Plan.fill([], asking='all', review='always')": ENTER,
    "asyncio.run(Plan.fill_async([], asking='all'))": ENTER,
    "asyncio.run(Plan.fill_async([], asking='all', layout='screen'))": ENTER,
    "screen().run()": ENTER,
    "asyncio.run(screen().run_async())": ENTER,
    "failing()": ENTER + "\x1be",
    "stopped(screen().run)": CTRL_C,
    "stopped(lambda: ask('Sky?'))": CTRL_C,
    "stopped(lambda: page(text))": CTRL_C,
    "page(text)": "q",
    "page(open(sys.argv[0] + '.txt', 'rb'))": "q",
    "page(__import__('pathlib').Path(sys.argv[0] + '.txt'))": "q",
    "asyncio.run(page_async(text))": "q",
    "list(progress(range(3), 'Frames'))": "",
    "show_work('Frames', lambda work: None)": "",
    "times_out()": "",
    "Console(Program('desk', members=[park])).run()": "exit" + ENTER,
    "asyncio.run(Console(Program('desk', members=[park])).run_async())": "exit" + ENTER,
}


@pytest.mark.parametrize("call", CALLS)
def test_nothing_is_left_open(call: str, tmp_path: object) -> None:
    path = f"{tmp_path}/program.py"
    with open(path, "w", encoding="utf-8") as file:
        file.write(PROGRAM.replace("{call}", call))
    with Terminal(python(path), rows=12) as terminal:
        end = time.monotonic() + 30
        while "counted" not in terminal.text() and time.monotonic() < end:
            if CALLS[call] and terminal.is_raw():
                terminal.type(CALLS[call])
            terminal.read(0.05)
        terminal.see("counted True")
