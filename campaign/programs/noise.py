"""Output beside what is open: numbered lines of threads, logging, children and descriptors, each line a whole one.

A line is ``<SOURCE:NUMBER>``; a reader of the terminal finds each once, in order, and nothing else in its row.
"""

from __future__ import annotations

import logging
import os
import subprocess
import sys
import termios
import threading
import time
from collections.abc import Callable

from wesperon import Problems

#: How many lines each source has to say, and the longest pause between two of them, in seconds.
LINES, PAUSE = 40, 0.03
#: How long to wait until something is open, in seconds: before that the lines of two sources may tear each other.
OPENS = 5.0


def say_all(name: str) -> None:
    """Say all lines of one source, in the way that its name begins with."""
    logger = logging.getLogger(f"noise.{name}")
    for number in range(LINES):
        line = f"<{name}:{number}>"
        if name.startswith("out"):
            print(line)
        elif name.startswith("err"):
            print(line, file=sys.stderr)
        elif name.startswith("part"):
            print(f"<{name}:", end="")
            time.sleep(PAUSE / 10)
            print(f"{number}>")
        elif name.startswith("log"):
            logger.warning("%s", line)
        elif name.startswith("raw"):
            os.write(1, line.encode() + b"\n")
        elif name.startswith("bar"):
            print(f"loading\r<{name}:{number}>")
        time.sleep(PAUSE * (number % 4) / 4)
    print(f"<{name}:end>")


def is_raw() -> bool:
    """Return True if something is open: keys come one by one."""
    try:
        return not termios.tcgetattr(0)[3] & termios.ICANON
    except termios.error:
        return False


def child(name: str) -> subprocess.Popen[bytes]:
    """Return a child that says all lines of one source."""
    lines = f"for i in $(seq 0 {LINES - 1}); do echo '<{name}:'$i'>'; sleep 0.01; done; echo '<{name}:end>'"
    return subprocess.Popen(["sh", "-c", lines], stdin=subprocess.DEVNULL)


def begin(names: list[str]) -> None:
    """Have each source speak, from a thread of its own; ``child`` from a process, begun while something is open."""
    handler = logging.StreamHandler()
    logging.getLogger("noise").addHandler(handler)

    def run(name: str) -> None:
        end = time.monotonic() + OPENS
        while not is_raw() and time.monotonic() < end:
            time.sleep(0.01)
        time.sleep(0.1)
        if name.startswith("child"):
            child(name).wait()
        else:
            say_all(name)

    for name in names:
        if name == "mouse":  # no source, but a word of the program
            continue
        threading.Thread(target=run, args=(name,), daemon=True).start()


def tidy(function: Callable[[], object]) -> None:
    """Call the program's own function; what a user may do to it ends without a trace."""
    try:
        function()
    except (KeyboardInterrupt, Problems):
        print("<stopped>", flush=True)
