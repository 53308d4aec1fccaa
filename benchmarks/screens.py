"""Screens of parts: one key, a table of a million rows, frames that change all the time.

- A key typed in one field of forty, against a key in a plain line, both through pseudo-terminals, in turn; the budget
  is 3 times, and the bytes that it sends are counted.
- A table of 1,000,000 rows against one of 100: to open it, and a page down, as times in the process; 1.5 times.
- A screen of 200x60 of which every part changes, thirty times a second: the processor time, in percent of one
  processor; 25%.
- The bytes of each of its frames against the characters that differ from the frame before.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time

from key import OURS, Typist, compare

KEY_BUDGET, TABLE_BUDGET, FRAMES_BUDGET = 3.0, 1.5, 25.0
FORTY = """
from wesperon import Across, Down, Field, Screen, slot
fields = [Field(slot(str, f"Field {n}", low=0), value="") for n in range(40)]
Screen(Across(*[Down(*fields[at : at + 20]) for at in range(0, 40, 20)])).run()
"""
#: Thirty times a second for five seconds, a table, two trends, a meter and messages show something else.
FRAMES = """
import os, resource, sys, threading, time
from wesperon import Across, Down, MessageView, Meter, Screen, Table, Trend

table, one, two = Table([[0, 0, 0]] * 50, ["a", "b", "c"]), Trend(title="one"), Trend(title="two")
meter, said = Meter("work", total=1000), MessageView()
screen = Screen(Across(Down(table, meter), Down(one, two, said)))

def show():
    begun = resource.getrusage(resource.RUSAGE_SELF)
    start = time.monotonic()
    for number in range(150):
        table.show([[number + row, number * row, -number] for row in range(50)])
        one.show(number % 17)
        two.show(number % 23, number % 5)
        meter.show(number)
        said.show(f"message {number}")
        time.sleep(max(start + number / 30 - time.monotonic(), 0))
    ended = resource.getrusage(resource.RUSAGE_SELF)
    used = ended.ru_utime + ended.ru_stime - begun.ru_utime - begun.ru_stime
    screen.close(f"used {used / (time.monotonic() - start):.4f}")

screen.call_later(0.5, threading.Thread(target=show).start)
print(screen.run())
"""
ROWS, FEW = 1_000_000, 100
TIMES = 200


class Rows:
    """Rows that are made when they are asked for."""

    def __init__(self, count: int) -> None:
        self.count = count

    def __len__(self) -> int:
        return self.count

    def rows(self, first: int, count: int) -> list[tuple[str, int]]:
        """Return some of them."""
        return [(f"HOLLIN-{at % 1000:03}", at) for at in range(first, min(first + count, self.count))]


def table_times(count: int) -> tuple[float, float]:
    """Return the seconds to open a table, and those of a page down with its frame."""
    from wesperon import Table
    from wesperon.editing.keys.events import Key
    from wesperon.widgets.parts.arrangement import Arrangement

    opened, paged = [], []
    for _ in range(20):
        begin = time.perf_counter()
        table = Table(Rows(count), ["entry", "number"])
        arrangement = Arrangement(table)
        arrangement.view(100, 40)
        opened.append(time.perf_counter() - begin)
        arrangement.drawn()
        for turn in range(TIMES // 20):
            begin = time.perf_counter()
            table.press(Key("page-up" if turn % 2 else "page-down"))  # in 100 rows it would soon be at the end
            arrangement.view(100, 40)
            arrangement.drawn()
            paged.append(time.perf_counter() - begin)
    return statistics.median(opened), statistics.median(paged)


def frames() -> float:
    """Return the part of a processor, in percent, that thirty changing frames a second take."""
    import pty

    ours, its = pty.openpty()
    import fcntl
    import struct
    import termios

    fcntl.ioctl(its, termios.TIOCSWINSZ, struct.pack("HHHH", 60, 200, 0, 0))
    child = subprocess.Popen(
        [sys.executable, "-c", FRAMES], stdin=its, stdout=its, stderr=its, start_new_session=True,
        preexec_fn=lambda: fcntl.ioctl(0, termios.TIOCSCTTY, 0),
    )  # fmt: skip
    os.close(its)
    received = b""
    try:
        while data := os.read(ours, 1 << 16):
            received += data
    except OSError:  # it has ended
        pass
    child.wait()
    found = received.rpartition(b"used ")[2].split()[0]
    return float(found) * 100


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    screen = Typist(FORTY, b"Field 39", clear=b"\x15")
    ours, plain = compare(screen, Typist(OURS, b"accept", clear=b"\x15"))
    ratio = ours / plain
    said = "within" if ratio <= KEY_BUDGET else "OVER"
    print(f"a key in one field of 40: {ratio:.2f} times a plain line ({ours * 1e6:.0f} us); {said} {KEY_BUDGET:g}")
    print(f"  bytes for it: {statistics.median(screen.sizes):g}, at most {max(screen.sizes)}")
    many, few = table_times(ROWS), table_times(FEW)
    opening, paging = many[0] / few[0], many[1] / few[1]
    print(f"a table of {ROWS:,} rows, opening: {opening:.2f} times {FEW} rows; budget {TABLE_BUDGET:g}")
    print(f"  a page down: {paging:.2f} times ({many[1] * 1e6:.0f} us); budget {TABLE_BUDGET:g}")
    share = frames()
    print(f"30 changing frames a second of 200x60: {share:.1f}% of a processor; budget {FRAMES_BUDGET:g}%")
    is_within = ratio <= KEY_BUDGET and max(opening, paging) <= TABLE_BUDGET and share <= FRAMES_BUDGET
    return 0 if is_within else 1


if __name__ == "__main__":
    raise SystemExit(main())
