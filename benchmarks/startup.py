"""Start-up: a whole run with all values given, against the same program on the raw argument list.

Run with ``make bench`` or ``python benchmarks/startup.py``. Both programs run in turn, in pairs, so that noise of the
machine falls on both; the figure is the median of the ratios of the pairs. The budget is 1.25.
"""

from __future__ import annotations

import statistics
import subprocess
import sys
import time
from pathlib import Path

HERE = Path(__file__).parent
PAIRS = 60
BUDGET = 1.25

#: Name: the program on Wesperon, the same on the raw list, the words.
CASES = {
    "nightplan (str, int, 2 floats, time)": (
        HERE.parent / "examples" / "nightplan.py",
        HERE / "nightplan_raw.py",
        ["HOLLIN-051 Lantern Nebula", "4", "90", "5", "21:30"],
    ),
    "three ints": (HERE / "three_ints.py", HERE / "three_ints_raw.py", ["4", "90", "5"]),
}


def seconds(program: Path, words: list[str]) -> float:
    """How long one run takes, as a whole process."""
    begin = time.perf_counter()
    subprocess.run([sys.executable, str(program), *words], check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - begin


def modules(program: Path, words: list[str]) -> set[str]:
    """What a run has imported."""
    code = (
        "import runpy, sys, io, contextlib\n"
        "sys.argv = sys.argv[1:]\n"
        "with contextlib.redirect_stdout(io.StringIO()):\n"
        "    runpy.run_path(sys.argv[0], run_name='__main__')\n"
        "print('\\n'.join(sys.modules))\n"
    )
    done = subprocess.run(
        [sys.executable, "-c", code, str(program), *words], check=True, capture_output=True, text=True
    )
    return set(done.stdout.split())


def main() -> int:
    """Measure and print; the status is 1 where a figure is over its budget."""
    status = 0
    for name, (program, raw, words) in CASES.items():
        seconds(program, words), seconds(raw, words)
        pairs = [(seconds(program, words), seconds(raw, words)) for _ in range(PAIRS)]
        ratio = statistics.median(ours / theirs for ours, theirs in pairs)
        ours, theirs = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
        verdict = "within" if ratio <= BUDGET else "OVER"
        print(f"{name}: {ratio:.3f} times the raw list ({ours:.1f} ms, {theirs:.1f} ms); {verdict} {BUDGET}")
        added = sorted(modules(program, words) - modules(raw, words))
        print(f"  imported beyond the raw program: {', '.join(added)}")
        status |= ratio > BUDGET
    return status


if __name__ == "__main__":
    raise SystemExit(main())
