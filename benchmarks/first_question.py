"""The first question on screen, whole process, against a script that calls the built-in line input.

Counted in instructions, as callgrind counts them, which is the same on every run: our process ends at the first write
of a frame, the other one when its line is read. That needs valgrind. The budget is 2.2.

The same in time, without a budget, since its spread is as large as what would be left of it: both run in a
pseudo-terminal of their own, in turn, from the start of the process to the moment when the question is there to read;
the figure is the median of the ratios of the pairs.
"""

from __future__ import annotations

import os
import re
import shutil
import statistics
import sys
import tempfile
import time
from pathlib import Path

import ptyprocess

PAIRS = 40
BUDGET = 2.2
OURS = "from wesperon import fill, slot; fill(target=slot(ask='Target'))"
PLAIN = "input('Target ')"
MENU = "from wesperon import fill, one_of, slot; fill(target=slot(one_of(['Target', 'b', 'c']), 'Choose'))"
BARE = "print('Target')"
MENU_BUDGET = 3.0
#: Ends the process at the first write that has the question in it.
UNTIL_FRAME = """
import os
write = os.write
def last(handle, data):
    if b"Target" in data:
        os._exit(0)
    return write(handle, data)
os.write = last
"""


def seconds(program: str) -> float:
    """Return how long a program takes to show its question."""
    begin = time.perf_counter()
    process = ptyprocess.PtyProcess.spawn([sys.executable, "-c", program])
    seen = b""
    while b"Target" not in seen:
        seen += os.read(process.fd, 4096)
    taken = time.perf_counter() - begin
    process.close(force=True)
    return taken


def compare(name: str, ours: str, theirs: str, budget: float | None = None) -> bool:
    """Measure and print one ratio; whether it is within its budget, if it has one."""
    seconds(ours), seconds(theirs)
    pairs = [(seconds(ours), seconds(theirs)) for _ in range(PAIRS)]
    ratio = statistics.median(a / b for a, b in pairs)
    a, b = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
    is_within = budget is None or ratio <= budget
    verdict = "" if budget is None else f"; {'within' if is_within else 'OVER'} {budget}"
    print(f"{name}: {ratio:.2f} times ({a:.1f} ms, {b:.1f} ms){verdict}")
    return is_within


def instructions(program: str) -> int:
    """Return how many instructions a program takes in a pseudo-terminal, where it gets a line if it reads one."""
    with tempfile.TemporaryDirectory() as folder:
        script, counted = Path(folder) / "script.py", Path(folder) / "counted"
        script.write_text(program, encoding="utf-8")
        environ = {**os.environ, "PYTHONHASHSEED": "0", "XDG_CONFIG_HOME": folder, "XDG_STATE_HOME": folder}
        command = ["valgrind", "--tool=callgrind", f"--callgrind-out-file={counted}", sys.executable, str(script)]
        child = ptyprocess.PtyProcess.spawn(command, env=environ)
        child.write(b"x\r")
        try:
            while True:
                os.read(child.fd, 1 << 16)
        except OSError:  # it has ended
            child.wait()
        found = re.search(r"(?m)^(?:summary|totals): (\d+)", counted.read_text())
    assert found is not None
    return int(found[1])


def count() -> bool:
    """Count the instructions until the first frame, and print them; whether they are within the budget."""
    if shutil.which("valgrind") is None:
        print("instructions until the first frame: valgrind is not installed")
        return True
    for program in (UNTIL_FRAME + OURS, PLAIN):
        instructions(program)  # compiles what has changed
    ours, plain = instructions(UNTIL_FRAME + OURS), instructions(PLAIN)
    verdict = "within" if ours / plain <= BUDGET else "OVER"
    told = f"{ours / plain:.3f} times ({ours / 1e6:.1f} to {plain / 1e6:.1f} million)"
    print(f"first question in instructions, until its first frame: {told}; {verdict} {BUDGET}")
    return ours / plain <= BUDGET


def main() -> int:
    """Measure all; the status is 1 if one is over its budget."""
    counted = count()
    compare("first question, against the built-in line input", OURS, PLAIN)
    menu = compare("first menu, against the bare interpreter", MENU, BARE, MENU_BUDGET)
    return 0 if menu and counted else 1


if __name__ == "__main__":
    raise SystemExit(main())
