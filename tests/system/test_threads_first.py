"""Threads that are the first to use the library, all at once, while its modules load slowly."""

from __future__ import annotations

import random
import re

import pytest

from tests.harness import Terminal, python

FIRST = """
import importlib.machinery, sys, threading, time, traceback
class Slowly:
    '''Loads each module as a slow disk would: for a while it is there and empty.'''
    def find_spec(self, name, path, target=None):
        if name.partition(".")[0] not in ("wesperon", "asyncio"):
            return None
        spec = importlib.machinery.PathFinder.find_spec(name, path, target)
        if spec is not None and hasattr(spec.loader, "exec_module"):
            load = spec.loader.exec_module
            def slowly(module):
                time.sleep(0.005)
                load(module)
            spec.loader.exec_module = slowly
        return spec
sys.meta_path.insert(0, Slowly())
sys.setswitchinterval(1e-5)
import wesperon
from wesperon import Command, Form, Guide, Program, slot

class Note(Form):
    note = slot(ask="Note")
    count = slot(int, default=1)
class Say(Command):
    text = slot()
    def run(self): return f"said {self.text}"
def add(a: int, b: int = 2): return a + b
desk = Program("desk", members=[Say])

def ended(call, *given, **named):
    try:
        return call(*given, **named)
    except SystemExit as end:
        return end.code
    except wesperon.Problems:
        return 2
def in_loop():
    import asyncio
    return asyncio.run(Note.fill_async([], resume=False)).note
WHAT = {
    "asks": lambda: Note.fill([], resume=False).note == "x",
    "asks in a loop": lambda: in_loop() == "x",
    "reads words": lambda: Note.fill(["one", "--count", "2"]).count == 2,
    "calls a function": lambda: wesperon.run(add, ["1"]) == 0,
    "runs a program": lambda: desk.main(["say", "x"]) == 0,
    "refuses a name": lambda: ended(Note.fill, ["--cuont", "1"]) == 2,
    "refuses a command": lambda: desk.main(["syy", "x"]) == 2,
    "shows help": lambda: ended(Note.fill, ["--help"]) == 0,
    "styles": lambda: bool(wesperon.styled("x", "bold")) and bool(wesperon.terminal_size()),
}
gate, failed = threading.Event(), []
def attempt(name, delay):
    gate.wait()
    time.sleep(delay)
    try:
        if not WHAT[name]():
            failed.append(name)
    except BaseException:
        failed.append(name + traceback.format_exc())
delays = [float(text) for text in sys.argv[1:]]
threads = [threading.Thread(target=attempt, args=given, daemon=True) for given in zip(WHAT, delays)]
for thread in threads: thread.start()
gate.set()
for thread in threads: thread.join()
print("failed:", failed or "none", flush=True)
print("all told")
"""


@pytest.mark.parametrize("seed", range(4))
def test_threads_that_come_first_all_get_what_they_ask_for(seed: int) -> None:
    """Whatever each of them loads, and whatever part of it another one is loading."""
    luck = random.Random(seed)
    delays = [str(luck.choice([0, luck.uniform(0, 0.4)])) for _ in range(9)]
    with Terminal(python("-c", FIRST, *delays), rows=60, columns=160, history=2_000) as terminal:
        typed = 0
        while "all told" not in terminal.everything():
            terminal.read(0.05)
            shown = terminal.everything()
            if shown.rstrip().endswith("Ctrl-C: stop") and len(re.findall("Note +x", shown)) == typed:
                terminal.type("x\r")
                typed += 1
        assert terminal.everything().partition("failed: ")[2].startswith("none")
        assert terminal.end() == 0
