"""One key typed in a plain line, bytes in to bytes out through a pseudo-terminal, against a raw echo loop.

Child processes read keys from pseudo-terminals of their own: one runs a question, one reads a byte and writes it back.
Keys go to both in turn, each waits for its echo; the figure is the ratio of the medians, in both families of keys; the
budget is 3.2. Where valgrind is, the instructions of a key are counted too, from the byte that comes to the byte that
goes; the budget is 100,000. A text of 1,000 lines of Python with colours, the cursor in the middle of it, is measured
against the plain line; its budget is 3 times. Also counts the bytes that a key sends: the budget is 1 for an ASCII
character at the end of the line.
"""

from __future__ import annotations

import os
import re
import select
import shutil
import statistics
import sys
import tempfile
import time

import ptyprocess

KEYS = 1500
BUDGET = 3.2
INSTRUCTIONS = 100_000
COLOURED_BUDGET = 3.0
#: Keys before the count begins, which load what they need, and counted ones; together they fit into one row.
WARM, COUNTED = 30, 36
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


def start(command: list[str], ready: bytes) -> ptyprocess.PtyProcess:
    """Return a child that waits for keys."""
    child = ptyprocess.PtyProcess.spawn(command, dimensions=(24, 80), env={**os.environ, "PYTHONHASHSEED": "0"})
    seen = b""
    while ready not in seen:
        seen += os.read(child.fd, 4096)
    settled(child)
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


def letter(number: int) -> bytes:
    """Return the letter to type next."""
    return b"abcdefgh "[number % 9 : number % 9 + 1]


class Typist:
    """Types into a ``program``, which shows ``ready`` first; ``before`` is typed there before anything is measured.

    ``clear`` deletes what was typed, so that it stays one row.
    """

    def __init__(self, program: str, ready: bytes, before: bytes = b"", clear: bytes = b"") -> None:
        self.child = start([sys.executable, "-c", program], ready)
        self.clear = clear
        self.taken: list[float] = []
        self.sizes: list[int] = []
        if before:
            os.write(self.child.fd, before)
            settled(self.child)

    def key(self, number: int) -> None:
        """Type a letter and measure it; each so many, delete them instead."""
        if number % 40 == 39 and self.clear:
            os.write(self.child.fd, self.clear)
            settled(self.child)
            return
        taken, size = key(self.child, letter(number))
        self.taken.append(taken)
        self.sizes.append(size)


def compare(one: Typist, other: Typist) -> tuple[float, float]:
    """Return the medians of a key in two programs, typed in turn, so that the caches are as cold for both."""
    for number in range(KEYS):
        one.key(number)
        other.key(number)
    for typist in (one, other):
        typist.child.close(force=True)
    return statistics.median(one.taken), statistics.median(other.taken)


def instructions(program: str) -> float:
    """Return how many instructions a key takes, as callgrind counts them."""

    def counted(keys: int) -> int:
        with tempfile.TemporaryDirectory() as folder:
            path = os.path.join(folder, "counted")
            tool = ["valgrind", "--tool=callgrind", f"--callgrind-out-file={path}"]
            child = start([*tool, sys.executable, "-c", program], b"accept")
            for number in range(keys):
                key(child, letter(number))
            os.write(child.fd, b"\r")
            try:
                while True:
                    os.read(child.fd, 1 << 16)
            except OSError:  # it has ended
                child.wait()
            with open(path, encoding="utf-8") as file:
                found = re.search(r"^(?:totals|summary): (\d+)", file.read(), re.M)
        assert found is not None
        return int(found[1])

    return (counted(WARM + COUNTED) - counted(WARM)) / COUNTED


def verdict(figure: float, budget: float) -> str:
    """Return whether a figure is within its budget."""
    return f"{'within' if figure <= budget else 'OVER'} {budget:,g}"


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    is_within = True
    for name, program, ready in (("one key", OURS, b"accept"), ("in the modal family", MODAL, b"insert mode")):
        line = Typist(program, ready, clear=b"\x15")
        ours, echo = compare(line, Typist(ECHO, b"ready"))
        sizes = line.sizes
        ratio = ours / echo
        print(
            f"{name}: {ratio:.2f} times a raw echo ({ours * 1e6:.0f} us, {echo * 1e6:.0f} us); {verdict(ratio, BUDGET)}"
        )
        print(f"  bytes for an ASCII character at the end: {statistics.median(sizes):g}, at most {max(sizes)}")
        is_within &= ratio <= BUDGET and max(sizes) == 1
        if shutil.which("valgrind"):
            count = instructions(program)
            print(f"  {count:,.0f} instructions; {verdict(count, INSTRUCTIONS)}")
            is_within &= count <= INSTRUCTIONS
    long = Typist(COLOURED, b"accept", b"\x1b5\x1b0\x1b0\x1b[1;5A\x1b[F ", b"\x1b4\x1b0\x7f")
    coloured, plain = compare(long, Typist(OURS, b"accept", clear=b"\x15"))
    slower = coloured / plain
    print(
        f"in 1,000 lines with colours: {slower:.2f} times a plain line ({coloured * 1e6:.0f} us); {verdict(slower, 3)}"
    )
    return 0 if is_within and slower <= COLOURED_BUDGET else 1


if __name__ == "__main__":
    raise SystemExit(main())
