"""Work by chance, with noise beside it: ``works.py [SOURCE OF NOISE]...``; it takes no keys."""

from __future__ import annotations

import random
import sys
import threading
import time

from campaign.programs import noise
from wesperon import progress, working
from wesperon.long_work import watch, work
from wesperon.system.streams import STREAMS

#: Work is shown almost at once.
watch.AT_FIRST = 0.05
setattr(work, "AT_FIRST", 0.05)  # noqa: B010


def do(name: str, depth: int = 0) -> None:
    """Do a piece of work, maybe with others inside, and leave it in any way."""
    total, how = random.randint(1, 25), random.choice(["done", "break", "raise", "fail", "aside"])
    at = random.randrange(total)
    try:
        for number in progress(range(total) if random.random() < 0.5 else iter(range(total)), name):
            time.sleep(random.random() / 30)
            if number != at:
                continue
            if depth < 2:
                do(f"{name}.{number}", depth + 1)
            if how == "break":
                break
            if how == "raise":
                raise OSError
            with working(name + "!", unit="bytes") as inner:
                inner.add(1 << random.randrange(40))
                if how == "fail":
                    inner.fail("by chance")
                if how == "aside":
                    with inner.aside():
                        time.sleep(0.05)
    except OSError:
        pass


def main() -> None:
    """Do all, and end with a line that is expected."""
    with working("All"):
        end = time.monotonic() + 10
        while STREAMS["stdout"].taker is None and time.monotonic() < end:
            time.sleep(0.01)
        threads = [
            *(threading.Thread(target=noise.say_all, args=(name,)) for name in sys.argv[1:]),
            *(threading.Thread(target=do, args=(f"W{number}",)) for number in range(3)),
        ]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    print("<done>", flush=True)


if __name__ == "__main__":
    noise.tidy(main)
