"""The demo played by a script: the same questions and the same keys as on a terminal, with no terminal at all."""

from __future__ import annotations

import io
from contextlib import redirect_stdout

from wesperon import Command, Program
from wesperon.demo.commands import DEMO
from wesperon.editing.keys.events import Paste, Resize
from wesperon.output.results import Told
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

    def run(self) -> Told:
        """Return the screens that the script went through, then what the demo prints."""
        driver = Scripted(SCRIPT, columns=COLUMNS, rows=ROWS)
        expose = DEMO.members["expose"].loaded
        record = expose.fill(["--asking=missing"], driver=driver)  # type: ignore[union-attr]
        lines = ["The demo, played by a script. On a terminal, rows that end in < here are in reverse."]
        screens = []
        for number, frame in enumerate(driver.views, 1):
            lines.append(f"-- screen {number} {'-' * (COLUMNS - len(str(number)) - 11)}")
            screens.append([row_text(row).rstrip() for row in frame.rows])
            marks = ["  <" if any(role == "current" for _, role in row) else "" for row in frame.rows]
            lines += [row + mark for row, mark in zip(screens[-1], marks, strict=True)]
        lines.append("-" * COLUMNS)
        with redirect_stdout(io.StringIO()) as printed:
            Program("wesperon", members=[DEMO]).call(["demo", "expose", *record.words()])
        return Told("\n".join(lines) + f"\n{printed.getvalue().rstrip()}", {"screens": screens, "result": record})
