"""Start-up: a whole run with all values given, against the same program on the raw argument list.

Run with ``make bench`` or ``python benchmarks/startup.py``. Both programs run in turn, in pairs, so that noise of the
machine falls on both; the figure is the median of the ratios of the pairs. Where valgrind is installed, the
instructions of one run of each are counted too, which are the same on every run. The budget for both is 1.20 for three
numbers of a script, 1.23 for those of a function (``BUDGETS``); a
program with more kinds loads more, and its figure is there to be seen.

The floor is the same for the raw program that also imports an empty package with as many modules, in as many folders,
as the run on Wesperon loads: what no library of that many files can do without.
"""

from __future__ import annotations

import os
import re
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

HERE = Path(__file__).parent
PAIRS = 60
#: The budget for values that a script fills, and for a function whose parameters they are.
BUDGETS = {"three ints": 1.20, "three ints of a function": 1.23}

#: Name: the program on Wesperon, the same on the raw list, the words.
CASES = {
    "three ints": (HERE / "three_ints.py", HERE / "three_ints_raw.py", ["4", "90", "5"]),
    "three ints of a function": (HERE / "three_ints_function.py", HERE / "three_ints_raw.py", ["4", "90", "5"]),
    "nightplan (str, int, 2 floats, time)": (
        HERE.parent / "examples" / "nightplan.py",
        HERE / "nightplan_raw.py",
        ["HOLLIN-051 Lantern Nebula", "4", "90", "5", "21:30"],
    ),
}


def seconds(program: Path, words: list[str]) -> float:
    """Return how long one run takes, as a whole process."""
    begin = time.perf_counter()
    subprocess.run([sys.executable, str(program), *words], check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - begin


def instructions(program: Path, words: list[str]) -> int:
    """Return how many instructions one run takes, as callgrind counts them.

    Raises FileNotFoundError without valgrind.
    """
    counter = ["valgrind", "--tool=callgrind", "--callgrind-out-file=/dev/null"]
    fixed = {**os.environ, "PYTHONHASHSEED": "0"}
    for _ in range(2):  # the first run compiles what has changed
        done = subprocess.run(
            [*counter, sys.executable, str(program), *words], check=True, capture_output=True, text=True, env=fixed
        )
    found = re.search(r"Collected : (\d+)", done.stderr)
    assert found is not None, done.stderr
    return int(found[1])


def with_empty_modules(raw: Path, names: list[str], folder: Path) -> Path:
    """Return the raw program, after the import of empty modules of these names; written to a folder."""
    moved = [name.replace("wesperon", "hollow", 1) for name in names if name.split(".")[0] == "wesperon"]
    parents = {name.rpartition(".")[0] for name in moved}
    for name in moved:
        place = folder.joinpath(*name.split("."))
        path = place / "__init__.py" if name in parents else place.with_suffix(".py")
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text("", encoding="utf-8")
    program = folder / raw.name
    imports = "".join(f"import {name}\n" for name in moved)
    program.write_text(f"{imports}{raw.read_text(encoding='utf-8')}", encoding="utf-8")
    subprocess.run([sys.executable, "-m", "compileall", "-q", str(folder)], check=True)
    return program


def counted(program: Path, raw: Path, words: list[str], added: list[str]) -> float:
    """Count the instructions of both programs and of the floor, and print them; the ratio, 0 without valgrind."""
    if shutil.which("valgrind") is None:
        print("  instructions: not counted, valgrind is not installed")
        return 0
    with tempfile.TemporaryDirectory() as folder:
        ours, theirs = instructions(program, words), instructions(raw, words)
        floor = instructions(with_empty_modules(raw, added, Path(folder)), words)
    ratio, millions = ours / theirs, f"{ours / 1e6:.2f} to {theirs / 1e6:.2f} million"
    print(f"  instructions: {ratio:.3f} times ({millions})")
    print(f"  floor, {len(added)} modules of which those of the package are empty: {floor / theirs:.3f} times")
    return ratio


def modules(program: Path, words: list[str]) -> set[str]:
    """Return what a run has imported."""
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
    """Measure and print; the status is 1 if a figure is over its budget."""
    is_over = False
    for name, (program, raw, words) in CASES.items():
        seconds(program, words), seconds(raw, words)
        pairs = [(seconds(program, words), seconds(raw, words)) for _ in range(PAIRS)]
        ratio = statistics.median(ours / theirs for ours, theirs in pairs)
        ours, theirs = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
        print(f"{name}: {ratio:.3f} times the raw list ({ours:.1f} ms, {theirs:.1f} ms)")
        added = sorted(modules(program, words) - modules(raw, words))
        print(f"  imported beyond the raw program: {', '.join(added)}")
        figure, budget = max(ratio, counted(program, raw, words, added)), BUDGETS.get(name)
        if budget is not None:
            print(f"  {name} are {'within' if figure <= budget else 'OVER'} {budget}")
            is_over = is_over or figure > budget
    return int(is_over)


if __name__ == "__main__":
    raise SystemExit(main())
