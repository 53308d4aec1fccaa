"""The first question on screen, whole process, against a script that calls the built-in line input.

Both run in a pseudo-terminal of their own, in turn; the time is from the start of the process to the moment when the
question is there to read, the figure the median of the ratios of the pairs. The budget is 2.2.
"""

from __future__ import annotations

import os
import statistics
import sys
import time

import ptyprocess

PAIRS = 40
BUDGET = 2.2
OURS = "from wesperon import fill, slot; fill(target=slot(ask='Target'))"
PLAIN = "input('Target ')"
MENU = "from wesperon import fill, one_of, slot; fill(target=slot(one_of(['Target', 'b', 'c']), 'Choose'))"
BARE = "print('Target')"
MENU_BUDGET = 3.0


def seconds(program: str) -> float:
    """How long a program takes to show its question."""
    begin = time.perf_counter()
    process = ptyprocess.PtyProcess.spawn([sys.executable, "-c", program])
    seen = b""
    while b"Target" not in seen:
        seen += os.read(process.fd, 4096)
    taken = time.perf_counter() - begin
    process.close(force=True)
    return taken


def compare(name: str, ours: str, theirs: str, budget: float) -> bool:
    """Measure and print one ratio; whether it is within its budget."""
    seconds(ours), seconds(theirs)
    pairs = [(seconds(ours), seconds(theirs)) for _ in range(PAIRS)]
    ratio = statistics.median(a / b for a, b in pairs)
    a, b = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
    print(f"{name}: {ratio:.2f} times ({a:.1f} ms, {b:.1f} ms); {'within' if ratio <= budget else 'OVER'} {budget}")
    return ratio <= budget


def main() -> int:
    """Measure both; the status is 1 if one is over its budget."""
    question = compare("first question, against the built-in line input", OURS, PLAIN, BUDGET)
    menu = compare("first menu, against the bare interpreter", MENU, BARE, MENU_BUDGET)
    return 0 if question and menu else 1


if __name__ == "__main__":
    raise SystemExit(main())
