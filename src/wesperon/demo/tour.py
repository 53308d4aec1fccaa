"""The demo played by a script: the same questions and the same keys as on a terminal, with no terminal at all."""

from __future__ import annotations

from wesperon import Command, Program
from wesperon.demo.commands import DEMO
from wesperon.editing.keys.events import Paste, Resize
from wesperon.screen.frame import row_text
from wesperon.terminal.scripted import Press, Scripted

ENTER = Press("enter")

#: What is typed: the sixth target, two filters, a number that is wrong at first, a note.
SCRIPT: list[str | Press | Paste | Resize] = [
    Press("down", 5), ENTER,
    Press("down", 3), Press("space"), Press("down"), Press("space"), ENTER,
    "3oo", ENTER, Press("backspace", 2), "00", ENTER,
    "first light", ENTER,
]  # fmt: skip

COLUMNS, ROWS = 76, 16


class Tour(Command):
    """Play the demo by itself: type the answers, and print each screen on the way. Needs no terminal."""

    def run(self) -> None:
        """Print the screens that the script went through, then what the demo prints."""
        driver = Scripted(SCRIPT, columns=COLUMNS, rows=ROWS)
        expose = DEMO.members["expose"].loaded
        record = expose.fill(["--asking=missing"], driver=driver)  # type: ignore[union-attr]
        print("The demo, played by a script. On a terminal, rows that end in < here are in reverse.")
        for number, frame in enumerate(driver.views, 1):
            print(f"-- screen {number} {'-' * (COLUMNS - len(str(number)) - 11)}")
            for row in frame.rows:
                mark = "  <" if any(role == "current" for _, role in row) else ""
                print(row_text(row).rstrip() + mark)
        print("-" * COLUMNS)
        Program("wesperon", members=[DEMO]).call(["demo", "expose", *record.words()])
