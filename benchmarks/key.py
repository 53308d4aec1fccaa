"""One key typed in a plain line, bytes in to bytes out through a pseudo-terminal, against a raw echo loop.

Two child processes read keys from pseudo-terminals of their own: one runs a question, one reads a byte and writes it
back. Keys go to both in turn, each waits for its echo; the figure is the ratio of the medians. The budget is 5. A
third child has a text of 1,000 lines of Python open, with colours, the cursor in the middle of it; its budget is 3
times the plain line. A fourth one has the modal family of keys, in insert mode; its budget is that of the first. Also
counts the bytes that a key sends: the budget is 1 for an ASCII character at the end of the line.
"""

from __future__ import annotations

import os
import select
import statistics
import sys
import time

import ptyprocess

KEYS = 1500
BUDGET = 5.0
COLOURED_BUDGET = 3.0
OURS = "from wesperon import fill, slot; fill(note=slot())"
MODAL = "import os; os.environ['WESPERON_KEYS'] = 'modal'; " + OURS
#: The text is code as people write it, repeated up to its length; the cursor goes up to its middle.
COLOURED = """
import inspect, json
from wesperon import fill, slot
lines = (inspect.getsource(json.decoder) + inspect.getsource(json.encoder)).splitlines()
fill(["--asking", "all"], note=slot(lines=True, syntax="python", default="\\n".join((lines * 4)[:1000])))
"""
ECHO = """
import os, termios, tty
tty.setraw(0)
os.write(1, b"ready")
while True:
    os.write(1, os.read(0, 1))
"""


def start(program: str, ready: bytes) -> ptyprocess.PtyProcess:
    """Return a child that waits for keys."""
    child = ptyprocess.PtyProcess.spawn([sys.executable, "-c", program], dimensions=(24, 80))
    seen = b""
    while ready not in seen:
        seen += os.read(child.fd, 4096)
    time.sleep(0.2)
    return child


def settled(child: ptyprocess.PtyProcess) -> None:
    """Read until nothing comes any more."""
    while select.select([child.fd], [], [], 0.3)[0]:
        os.read(child.fd, 1 << 16)


def key(child: ptyprocess.PtyProcess, char: bytes) -> tuple[float, int]:
    """Return how long a key takes until its answer is there, and how many bytes that is."""
    begin = time.perf_counter()
    os.write(child.fd, char)
    answer = os.read(child.fd, 4096)
    return time.perf_counter() - begin, len(answer)


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    ours, echo = start(OURS, b"accept"), start(ECHO, b"ready")
    coloured, modal = start(COLOURED, b"accept"), start(MODAL, b"insert mode")
    os.write(coloured.fd, b"\x1b5\x1b0\x1b0\x1b[1;5A\x1b[F ")
    settled(coloured)
    times: tuple[list[float], ...] = ([], [], [], [])
    sizes = []
    for number in range(KEYS):
        char = b"abcdefgh "[number % 9 : number % 9 + 1]
        if number % 40 == 39:
            key(modal, b"\x15")
            key(ours, b"\x15")  # delete the line, so that it stays one row
            os.write(coloured.fd, b"\x1b4\x1b0\x7f")
            settled(coloured) if number % 200 == 199 else key(coloured, b"")
            continue
        # Each of the two families comes first in turn, so that the caches are as cold for one as for the other.
        first, last = (0, 3) if number % 2 else (3, 0)
        for place in (first, 1, last, 2):
            taken, size = key((ours, echo, coloured, modal)[place], char)
            times[place].append(taken)
            if place == 0:
                sizes.append(size)
    ratio = statistics.median(times[0]) / statistics.median(times[1])
    a, b, c, d = (statistics.median(column) * 1e6 for column in times)
    slower = c / a
    verdict = "within" if ratio <= BUDGET else "OVER"
    print(f"one key: {ratio:.2f} times a raw echo ({a:.0f} us, {b:.0f} us); {verdict} {BUDGET:g}")
    in_modes = d / b
    verdict = "within" if in_modes <= BUDGET else "OVER"
    print(f"in the modal family: {in_modes:.2f} times a raw echo ({d:.0f} us); {verdict} {BUDGET:g}")
    verdict = "within" if slower <= COLOURED_BUDGET else "OVER"
    print(f"in 1,000 lines with colours: {slower:.2f} times a plain line ({c:.0f} us); {verdict} {COLOURED_BUDGET:g}")
    print(f"bytes for one ASCII character at the end of a line: {statistics.median(sizes):g}, at most {max(sizes)}")
    for child in (ours, echo, coloured, modal):
        child.close(force=True)
    return 0 if max(ratio, in_modes) <= BUDGET and slower <= COLOURED_BUDGET and max(sizes) == 1 else 1


if __name__ == "__main__":
    raise SystemExit(main())
