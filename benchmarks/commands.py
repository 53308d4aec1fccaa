"""A program of 100 commands in 20 files against one of a single command, and one completion against the interpreter.

Whole processes, in pairs; the figures are medians of ratios. The budgets are 1.3 and 3.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

PAIRS = 40

FILE = """
from wesperon import Command, slot
{classes}
"""
CLASS = """
class Command{number}(Command):
    target = slot()
    frames = slot(int, default=1)
    def run(self):
        print(self.target, self.frames)
"""
MAIN = """
from wesperon import Program
raise SystemExit(Program("desk", members=[{members}]).main())
"""


def seconds(argv: list[str], env: dict[str, str]) -> float:
    """Return how long a process takes."""
    begin = time.perf_counter()
    subprocess.run(argv, env=env, check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - begin


def compare(name: str, ours: list[str], theirs: list[str], budget: float, **variables: str) -> bool:
    """Measure and print one ratio; whether it is within its budget."""
    env = {**os.environ, **variables}
    seconds(ours, env), seconds(theirs, env)
    pairs = [(seconds(ours, env), seconds(theirs, env)) for _ in range(PAIRS)]
    ratio = statistics.median(a / b for a, b in pairs)
    a, b = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
    print(f"{name}: {ratio:.2f} times ({a:.1f} ms, {b:.1f} ms); {'within' if ratio <= budget else 'OVER'} {budget}")
    return ratio <= budget


def main() -> int:
    """Measure both; the status is 1 if one is over its budget."""
    with tempfile.TemporaryDirectory() as folder:
        for file in range(20):
            classes = "".join(CLASS.format(number=5 * file + number) for number in range(5))
            (Path(folder) / f"part{file}.py").write_text(FILE.format(classes=classes))
        for name, count in (("many", 100), ("one", 1)):
            members = ", ".join(f'("part{at // 5}:Command{at}", "The {at}th.")' for at in range(count))
            (Path(folder) / f"{name}.py").write_text(MAIN.format(members=members))
        subprocess.run([sys.executable, "-m", "compileall", "-q", folder], check=True)
        many, one = ([sys.executable, str(Path(folder) / f"{name}.py")] for name in ("many", "one"))
        words = ["command0", "x"]
        called = compare("100 commands in 20 files, against one", [*many, *words], [*one, *words], 1.3)
        bare = [sys.executable, "-c", "pass"]
        asked = [*many, "--", "command7", "--fr"]
        answered = compare("one completion, against the bare interpreter", asked, bare, 3, WESPERON_CANDIDATES="zsh")
    return 0 if called and answered else 1


if __name__ == "__main__":
    raise SystemExit(main())
