"""The demo played by a script: the same questions and the same keys as on a terminal, with no terminal at all."""

from __future__ import annotations

from wesperon import Program
from wesperon.demo.commands import Demo
from wesperon.editing.events import Paste, Resize
from wesperon.terminal.scripted import Press, Scripted

ENTER = Press("enter")

#: What is typed: the sixth target, two filters, a number that is wrong at first, a note.
SCRIPT: list[str | Press | Paste | Resize] = [
    Press("down", 5), ENTER,
    Press("down", 3), Press("space"), Press("down"), Press("space"), ENTER,
    "3oo", ENTER, Press("delete", 2), "00", ENTER,
    "first light", ENTER,
]  # fmt: skip

COLUMNS, ROWS = 76, 16


def play() -> None:
    """Run the demo by the script; print each screen that it went through, then its result."""
    driver = Scripted(SCRIPT, columns=COLUMNS, rows=ROWS)
    record = Demo.fill(["--asking=missing"], driver=driver)
    for number, frame in enumerate(driver.frames, 1):
        print(f"-- screen {number} {'-' * (COLUMNS - len(str(number)) - 11)}")
        print(frame)
    print("-" * COLUMNS)
    Program("wesperon", members=[Demo]).call(["demo", *record.words()])
