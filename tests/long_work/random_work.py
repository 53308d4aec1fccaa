"""A program that works by chance: ``random_work.py SEED``. What it printed and ended, it writes to a file as JSON.

Threads print numbered lines in every way that a program has, while pieces of work begin, go on, fail, stop and end in
others, inside each other and beside each other.
"""

from __future__ import annotations

import json
import logging
import random
import sys
import threading
import time

from wesperon import progress, working
from wesperon.long_work import watch, work
from wesperon.system.streams import STREAMS

#: Work is shown almost at once, so that a run takes a second.
watch.AT_FIRST = 0.05
setattr(work, "AT_FIRST", 0.05)  # noqa: B010
SEED, RESULT = int(sys.argv[1]), sys.argv[2]
ENDED: dict[str, tuple[str, int]] = {}
LINES: dict[str, int] = {}


def nap(chance: random.Random) -> None:
    """Take a moment."""
    time.sleep(chance.random() / 60)


def print_lines(name: str, chance: random.Random) -> None:
    """Print numbered lines."""
    logger = logging.getLogger(name)
    LINES[name] = chance.randint(3, 12)
    for number in range(LINES[name]):
        line = f"<{name}:{number}>"
        way = chance.choice(["print", "error", "pieces", "log", "several", "overwritten", "many"])
        if way == "print":
            print(line)
        elif way == "error":
            print(line, file=sys.stderr)
        elif way == "pieces":
            print(line[:5], end="", flush=chance.random() < 0.5)
            nap(chance)
            print(line[5:])
        elif way == "log":
            logger.warning("%s", line)
        elif way == "several":
            print(f"<{name}:", number, ">", sep="")
        elif way == "overwritten":
            print(f"load\r{line}")
        else:
            sys.stdout.writelines([line[:3], line[3:] + "\n"])
        nap(chance)


def do_work(name: str, chance: random.Random, depth: int = 0) -> None:
    """Do a piece of work, maybe with others inside."""
    total = chance.randint(1, 30)
    how = chance.choice(["done", "break", "raise", "fail", "with"])
    at = chance.randint(0, total - 1)
    if how in ("fail", "with"):
        with working(name, total=chance.choice([total, None])) as piece:
            for number in range(total):
                nap(chance)
                if how == "fail" and number == at:
                    piece.fail("by chance")
                piece.add()
                if number == at and depth < 2:
                    do_work(f"{name}.{number}", chance, depth + 1)
        ENDED[name] = ("failed", at) if how == "fail" else ("done", total)
        return
    items = range(total) if chance.random() < 0.5 else iter(range(total))
    try:
        for number in progress(items, name):
            nap(chance)
            if number == at:
                if depth < 2:
                    do_work(f"{name}.{number}", chance, depth + 1)
                if how == "break":
                    break
                if how == "raise":
                    raise OSError("by chance")
    except OSError:
        pass
    ENDED[name] = ("done", total) if how == "done" else ("stopped" if how == "break" else "failed", at)


def main() -> None:
    """Run all, and write what was done."""
    logging.basicConfig(format="%(message)s")
    chance = random.Random(SEED)
    # What is in the midst of a line when the first row comes is torn, as it is between threads at any time.
    shown = working("All").__enter__()
    end = time.monotonic() + 20
    while STREAMS["stdout"].taker is None and time.monotonic() < end:
        time.sleep(0.01)
    threads = [
        *(threading.Thread(target=print_lines, args=(f"p{n}", random.Random(SEED + n))) for n in range(3)),
        *(threading.Thread(target=do_work, args=(f"W{n}", random.Random(SEED - n))) for n in range(1, 3)),
    ]
    for thread in threads:
        thread.start()
    do_work("W0", chance)
    for thread in threads:
        thread.join()
    shown.end("stopped")
    ENDED["All"] = "stopped", -1
    with open(RESULT, "w", encoding="utf-8") as file:
        json.dump({"ended": ENDED, "lines": LINES}, file)


if __name__ == "__main__":
    main()
