"""The demo played by a script: the same questions and the same keys as on a terminal, with no terminal at all."""

from __future__ import annotations

from wesperon import Program
from wesperon.demo.commands import Demo
from wesperon.editing.events import Paste, Resize
from wesperon.screen.frame import row_text
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
    print("The demo, played by a script. On a terminal, rows that end in < here are in reverse.")
    for number, frame in enumerate(driver.views, 1):
        print(f"-- screen {number} {'-' * (COLUMNS - len(str(number)) - 11)}")
        for row in frame.rows:
            mark = "  <" if any(role == "current" for _, role in row) else ""
            print(row_text(row).rstrip() + mark)
    print("-" * COLUMNS)
    Program("wesperon", members=[Demo]).call(["demo", *record.words()])
