"""Output of threads above an open line: how many lines a second pass, and what a key takes meanwhile.

Four threads of a console print as fast as they may, 10,000 lines a second in all for three seconds; keys are typed all
the time, each as soon as the one before it is on the screen. Every line and every key must arrive. The figure for keys
is the middle one, against the same keys with nobody printing.
"""

from __future__ import annotations

import os
import select
import statistics
import sys
import time

import ptyprocess

#: Lines a second, from so many threads, for so many seconds.
RATE, THREADS, SECONDS = 10_000, 4, 3.0
PROGRAM = f"""
import sys, threading, time
from wesperon import Command, Console, Program

class Go(Command):
    def run(self): print("gone")

console = Console(Program("desk", members=[Go]), history=False)

def work(name):
    while not console.driver_in_use or not console.driver_in_use.depth:
        time.sleep(0.01)
    begin, number = time.perf_counter(), 0
    while number < {int(RATE * SECONDS / THREADS)}:
        due = (time.perf_counter() - begin) * {RATE / THREADS}
        while number < due:
            print(f"<{{name}}{{number}}>")
            number += 1
        time.sleep(0.001)
    print(f"end of {{name}} after {{time.perf_counter() - begin:.2f}} s")

if "storm" in sys.argv:
    for name in "abcd":
        threading.Thread(target=work, args=(name,), daemon=True).start()
console.run()
"""


def run(*words: str) -> tuple[list[float], bytes]:
    """Type for some seconds; what each key took, in seconds, and everything that came."""
    child = ptyprocess.PtyProcess.spawn([sys.executable, "-c", PROGRAM, *words], dimensions=(24, 80))
    seen = b""
    while b"desk" not in seen:
        seen += os.read(child.fd, 1 << 16)
    taken, end = [], time.perf_counter() + SECONDS
    number = 0
    while time.perf_counter() < end or (words and seen.count(b"end of ") < THREADS):
        char = b"QZ"[number % 2 : number % 2 + 1]
        number += 1
        begin, before = time.perf_counter(), len(seen)
        os.write(child.fd, char if number % 40 else b"\x15")
        while char not in seen[before:] and number % 40:
            seen += os.read(child.fd, 1 << 16)
        if number % 40:
            taken.append(time.perf_counter() - begin)
        pause = time.perf_counter() + 0.01
        while (left := pause - time.perf_counter()) > 0:
            if select.select([child.fd], [], [], left)[0]:
                seen += os.read(child.fd, 1 << 16)
    child.close(force=True)
    return taken, seen


def main() -> int:
    """Measure and print; the status is 1 if a line is lost."""
    quiet, _ = run()
    taken, seen = run("storm")
    count = int(RATE * SECONDS / THREADS)
    missing = sum(f"<{name}{number}>".encode() not in seen for name in "abcd" for number in range(0, count, 97))
    ended = [part.split(b" s")[0].decode() for part in seen.split(b"end of ")[1:]]
    print(f"{THREADS * count:,} lines, {missing} of those looked for missing; threads ended: {', '.join(ended)} s")
    a, b = statistics.median(taken) * 1000, statistics.median(quiet) * 1000
    print(f"a key: {a:.1f} ms, nobody printing {b:.2f} ms; the slowest {max(taken) * 1000:.0f} ms; {len(taken)} keys")
    return int(missing > 0)


if __name__ == "__main__":
    raise SystemExit(main())
