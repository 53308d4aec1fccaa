"""The pager, and the history as a page: ``pages.py WHAT [SOURCE OF NOISE]...``; prints what came of it."""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from campaign.programs import noise
from wesperon import page
from wesperon.editing.history_view import ListHistory
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.tty_driver import reach
from wesperon.widgets.history_page import HistoryPage

TEXTS = ["frame", "dome \x1b[31mred\x1b[m", "漢字", "\x1b[2J", "tab\tstop", "seeing " * 30, "a" * 300, ""]


def lines(count: int) -> Iterator[str]:
    """Yield lines, some of them late."""
    for number in range(count):
        if number % 97 == 96:
            time.sleep(0.02)
        yield f"{number} {TEXTS[number % len(TEXTS)]}"


def changing() -> Path:
    """Return a file that another thread changes."""
    import random
    import threading

    path = Path(tempfile.mkdtemp()) / "night.log"
    path.write_text("\n".join(lines(90)))

    def change() -> None:
        while True:
            time.sleep(random.random())
            if random.random() < 0.8:
                with path.open("a") as file:
                    file.write("more\n" * random.randrange(30))
            else:
                path.write_text("less\n" * random.randrange(30))

    threading.Thread(target=change, daemon=True).start()
    return path


def main() -> None:
    """Show it."""
    what, *names = sys.argv[1:]
    noise.begin(names)
    sources: dict[str, Any] = {
        "text": "\n".join(lines(300)),
        "lines": lines(4_000),
        "endless": lines(1 << 60),
        "file": changing(),
        "several": {"one": "\n".join(lines(60)), "two": lines(500), "three": ""},
    }
    result: object
    if what == "history":
        driver = reach()
        assert driver is not None
        texts = [text for text in TEXTS * 40 if text]
        result = driver.run(HistoryPage(ListHistory(texts)), DriverOptions({"mouse": "mouse" in names}))
    else:
        result = page(sources[what], heading=len(names) % 3, pick="pick" in names, follow="follow" in names)
    print(f"got {result!a}"[:200], flush=True)


if __name__ == "__main__":
    noise.tidy(main)
