"""What ``progress`` costs a loop of steps of a microsecond, against the bare loop in the same process.

Pieces of both loops run in turn, ``PIECE`` steps each; over ``progress`` they are pieces of one loop. The first million
steps are not shown, the others are. The figure has two factors, both of processor time, which a loaded machine changes
least: the median ratio of two pieces, and all that other threads have computed meanwhile, by what the loop itself has.
Budgets: 1.01 on a pseudo-terminal that is read at once, for a range, a list and a generator, and 1.01 if nothing is to
be shown (``WESPERON_ASKING=never``). Also counted: the modules that are loaded while work takes less than a second,
which are none, and how often a second a change is drawn.
"""

from __future__ import annotations

import os
import select
import subprocess
import sys
import tempfile

import ptyprocess

BUDGET = 1.01
#: The most redraws in a second, and how one begins: with the synchronised update of the terminal.
MOST_DRAWN, DRAWN = 20, b"\x1b[?2026h"
#: How many steps a piece has, and how many pairs of pieces there are.
PIECE, PIECES = 20_000, 300

LOOP = """
import statistics, sys, time
from itertools import islice
from wesperon import progress
PIECE, PIECES, MANY = {piece}, {pieces}, int(sys.argv[1])
STEPS = PIECE * PIECES

def step(many):
    x = 0
    for i in range(many):
        x += i

def timed(items):
    begun = time.thread_time()
    for item in items:
        step(MANY)
    return time.thread_time() - begun

bare, ours = iter({items}), iter(progress({items}, "Stacking"))
plain, ratios = [], []
begun = time.monotonic()
for number in range(PIECES):
    plain.append(timed(islice(bare, PIECE)))
    ratios.append(timed(islice(ours, PIECE)) / plain[-1])
total = time.process_time() - time.thread_time()
seconds = time.monotonic() - begun
own = sum(plain) * (1 + statistics.median(ratios))
with open(sys.argv[2], "w") as file:
    print(statistics.median(ratios), 1 + total / own, sum(plain) / STEPS, seconds, file=file)
"""
SHORT = """
import sys, time
from wesperon import progress
before = set(sys.modules)
end = time.monotonic() + 0.9
for item in progress(iter(int, 1)):
    if time.monotonic() > end:
        break
print(*sorted(set(sys.modules) - before))
"""
#: How often the loop in a step goes round, so that a step takes a microsecond.
CALIBRATE = """
import time
def step(many):
    x = 0
    for i in range(many):
        x += i
many, took = 0, 0.0
while took < 1e-6:
    many += 1
    best = 1.0
    for _ in range(5):
        begun = time.perf_counter()
        for item in range(20_000):
            step(many)
        best = min(best, time.perf_counter() - begun)
    took = best / 20_000
print(many)
"""


def measure(name: str, items: str, environment: dict[str, str]) -> bool:
    """Print the figure of one way; whether it is within the budget."""
    many = subprocess.run([sys.executable, "-c", CALIBRATE], capture_output=True, text=True, check=True).stdout.strip()
    with tempfile.NamedTemporaryFile() as file:
        script = LOOP.format(piece=PIECE, pieces=PIECES, items=items)
        child = ptyprocess.PtyProcess.spawn(
            [sys.executable, "-c", script, many, file.name], env={**os.environ, **environment}
        )
        seen = b""
        while True:
            select.select([child.fd], [], [])
            try:
                seen += os.read(child.fd, 1 << 16)
            except OSError:
                break
        child.wait()
        loop, others, step, seconds = map(float, file.read().split())
    ratio = loop * others
    drawn = seen.count(DRAWN) / seconds
    fits = ratio <= BUDGET and drawn <= MOST_DRAWN
    print(
        f"{name}: {ratio:.4f} times (the loop {loop:.4f}, other threads {others:.4f}), steps of {step * 1e6:.2f} us, "
        f"{drawn:.1f} redraws a second; "
        f"{'within' if fits else 'OVER'} {BUDGET} and {MOST_DRAWN}"
    )
    return fits


def main() -> int:
    """Print the figures; the status is 1 if one is over its budget."""
    usual = {"TERM": "xterm-256color", "WESPERON_ASKING": ""}
    fits = [
        measure("a range, shown", "range(STEPS)", usual),
        measure("a list, shown", "[None] * STEPS", usual),
        measure("a generator, shown", "(None for _ in range(STEPS))", usual),
        measure("a range, not shown", "range(STEPS)", {**usual, "WESPERON_ASKING": "never"}),
    ]
    loaded = subprocess.run([sys.executable, "-c", SHORT], capture_output=True, text=True, check=True).stdout.split()
    print(f"modules loaded by work of 0.9 s: {len(loaded)} {' '.join(loaded)}; {'OVER' if loaded else 'within'} 0")
    return 0 if all(fits) and not loaded else 1


if __name__ == "__main__":
    sys.exit(main())
