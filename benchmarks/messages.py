"""Messages of threads above an open line: how many a second, with a key typed now and then.

A console runs in a pseudo-terminal; two of its threads say 20,000 lines through a logging handler as fast as they can,
while keys are typed. Every line and every key must arrive; the budget is 10,000 lines a second.
"""

from __future__ import annotations

import os
import select
import sys
import tempfile
import time

import ptyprocess

LINES = 20_000
BUDGET = 10_000
PROGRAM = f"""
import logging, threading
from wesperon import Command, Console, Program, slot
class Note(Command):
    text = slot()
    def run(self):
        return "noted " + self.text[::-1]
console = Console(Program("desk", members=[Note]), history=False)
logger = logging.getLogger("mast")
logger.addHandler(console.handler())
logger.setLevel(logging.INFO)
def talk(name):
    for number in range({LINES // 2}):
        logger.info("%s says number %d of its messages", name, number)
threads = [threading.Thread(target=talk, args=(name,)) for name in "ab"]
threading.Timer(0.5, lambda: [thread.start() for thread in threads]).start()
raise SystemExit(console.run())
"""


def main() -> int:
    """Measure and print; the status is 1 if the figure is under its budget or something is lost."""
    with tempfile.TemporaryDirectory() as folder:
        child = ptyprocess.PtyProcess.spawn(
            [sys.executable, "-c", PROGRAM], dimensions=(30, 100), env={**os.environ, "XDG_CONFIG_HOME": folder}
        )
        seen, typed, begin, end = b"", "note ", 0.0, 0.0
        os.write(child.fd, typed.encode())
        while not (end and b"noted" in seen):
            if select.select([child.fd], [], [], 20)[0]:
                seen += os.read(child.fd, 1 << 16)
            else:
                break
            count = seen.count(b" says number ")
            if count and not begin:
                begin = time.perf_counter()
            if count and count < LINES and len(typed) < 60:
                char = chr(ord("a") + len(typed) % 26)
                os.write(child.fd, char.encode())
                typed += char
            if count >= LINES and not end:
                end = time.perf_counter()
                os.write(child.fd, b"\r")
        child.close(force=True)
    rate = LINES / (end - begin)
    kept = f"noted {typed[5:][::-1]}".encode() in seen
    verdict = "within" if rate >= BUDGET else "UNDER"
    print(f"{rate:,.0f} lines a second above an open line; {verdict} {BUDGET:,}; {len(typed) - 5} keys typed", end=" ")
    print("meanwhile, none lost" if kept else "meanwhile, some LOST")
    return 0 if rate >= BUDGET and kept else 1


if __name__ == "__main__":
    raise SystemExit(main())
