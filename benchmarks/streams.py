"""Streams: a million lines through ``piped="stream"``, and JSON of a generator, in time and in memory.

The first against ``for line in sys.stdin`` with the same work, whole processes; the budget is 2.5 for texts. The second
is how much memory a process has taken at most for ten times as many rows; the budget is 1.1.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

ROUNDS = 7
LINES = 1_000_000
BUDGET, FLAT = 2.5, 1.1
OURS = """
from collections.abc import Iterator
from typing import Annotated
from wesperon import run, slot
def total(rows: Annotated[Iterator[{kind}], slot(piped="stream")]):
    count = 0
    for row in rows:
        count += {work}
    return count
run(total)
"""
RAW = """
import sys
count = 0
for row in sys.stdin:
    count += {work}
print(count)
"""
ROWS = """
import re, sys
from wesperon import Program
def rows():
    return ({{"number": number, "name": f"target {{number}}"}} for number in range({count}))
Program("desk", members=[rows], results=True).main(["rows", "--as=json"])
print(re.search(r"VmHWM:\\s+(\\d+)", open("/proc/self/status").read())[1], file=sys.stderr)
"""
SOURCE = Path(__file__).parent.parent / "src"


def run(program: str, lines: Path) -> tuple[float, str]:
    """Run a program on the lines. Return how long that took, and what it said on standard error."""
    environ = {**os.environ, "PYTHONPATH": str(SOURCE)}
    begin = time.perf_counter()
    with lines.open() as file:
        done = subprocess.run(
            [sys.executable, "-c", program], stdin=file, capture_output=True, check=True, text=True, env=environ
        )
    return time.perf_counter() - begin, done.stderr


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    is_over = False
    with tempfile.TemporaryDirectory() as folder:
        lines = Path(folder) / "lines"
        lines.write_text("".join(f"{number}\n" for number in range(LINES)))
        for kind, work, raw_work, budget in (
            ("str", "len(row)", 'len(row.rstrip("\\n"))', BUDGET),
            ("int", "row", "int(row)", None),
        ):
            ours, raw = OURS.format(kind=kind, work=work), RAW.format(work=raw_work)
            pairs = [(run(ours, lines)[0], run(raw, lines)[0]) for _ in range(ROUNDS)]
            ratio = statistics.median(a / b for a, b in pairs)
            verdict = "" if budget is None else f"; {'within' if ratio <= budget else 'OVER'} {budget}"
            print(f"{LINES:,} lines as {kind}: {ratio:.2f} times a loop over standard input{verdict}")
            is_over = is_over or (budget is not None and ratio > budget)
        few, many = (int(run(ROWS.format(count=count), lines)[1]) for count in (40_000, 400_000))
    print(f"memory for JSON of 400,000 rows: {many / few:.2f} times that for 40,000 ({many // 1024} MB)", end="; ")
    print(f"{'within' if many / few <= FLAT else 'OVER'} {FLAT}")
    return 1 if is_over or many / few > FLAT else 0


if __name__ == "__main__":
    raise SystemExit(main())
