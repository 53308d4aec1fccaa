"""A search in a history of 1,000,000 entries, and opening it.

Each search is one step of the search as the needle is typed, in its worst case: the needle is nowhere, or only
if no entry is, or every entry that has it has been shown already. The baseline is one pass of ``mmap.find`` over the
same file for bytes that are nowhere. The budget is 2. Opening may cost no more than opening an empty history, which
is given as a ratio too.
"""

from __future__ import annotations

import mmap
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from wesperon.history.file_format import HEADER, encoded, status_line, time_line
from wesperon.history.history_file import History
from wesperon.terminal.scripted import key_named
from wesperon.widgets.history_page import HistoryPage

ENTRIES = 1_000_000
ROUNDS = 9
BUDGET = 2.0
NOWHERE = "no such target"


def written(path: Path, text: Callable[[int], str]) -> str:
    """Return a history of so many entries, an hour apart, each with its time and status."""
    with path.open("wb") as file:
        file.write(HEADER)
        for number in range(ENTRIES):
            moment = tuple(time.gmtime(1_500_000_000 + 3_600 * (number % 90_000)))
            file.write(encoded(text(number)) + time_line(moment) + status_line(0))
    return str(path)


def seconds(work: Callable[[], object]) -> float:
    """Return how long something takes."""
    begin = time.perf_counter()
    work()
    return time.perf_counter() - begin


def opened(path: str) -> None:
    """Open a history as a console does, a thousand times."""
    for _ in range(1_000):
        History(path)


def page_of(path: str, needle: str = "", up: int = 0) -> None:
    """Open the page of a history as a console does, draw it, filter it, go up."""
    page = HistoryPage(History(path))
    page.view(120, 40)
    if needle:
        page.paste(needle)
    for _ in range(up):
        page.press(key_named("up"))
    page.view(120, 40)


def compare(name: str, ours: Callable[[], object], theirs: Callable[[], object], budget: float) -> bool:
    """Measure and print one ratio; whether it is within its budget."""
    pairs = [(seconds(ours), seconds(theirs)) for _ in range(ROUNDS)]
    ratio = statistics.median(a / b for a, b in pairs)
    a, b = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
    print(f"{name}: {ratio:.2f} times ({a:.1f} ms, {b:.1f} ms); {'within' if ratio <= budget else 'OVER'} {budget:g}")
    return ratio <= budget


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    with tempfile.TemporaryDirectory() as folder:
        different = written(
            Path(folder) / "different.txt", lambda n: f"expose HOLLIN-{n:06} {n % 900} --note 'frame {n}'"
        )
        few = written(Path(folder) / "few.txt", lambda n: f"expose HOLLIN-{n % 40:03} {90 + n % 7}")
        empty = str(Path(folder) / "empty.txt")
        History(empty).add_plain([])
        with open(different, "rb") as file:
            whole = mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ)
        print(f"{ENTRIES:,} entries, {len(whole) >> 20} MiB")
        history, repeated = History(different), History(few)
        oldest = history.oldest()
        assert oldest is not None
        shown = frozenset(f"expose HOLLIN-{n % 40:03} {90 + n % 7}" for n in range(280))

        def passed() -> int:
            return whole.find(NOWHERE.encode())

        with open(few, "rb") as file:
            fewer = mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ)
        good = [
            compare(
                "a needle that stands nowhere",
                lambda: history.older(None, NOWHERE, begins=False, seen=()),
                passed,
                BUDGET,
            ),
            compare(
                "the same, towards newer entries",
                lambda: history.newer(oldest, NOWHERE, begins=False, seen=()),
                passed,
                BUDGET,
            ),
            compare(
                "a needle of the digits of times only",
                lambda: history.older(None, "2017-09", begins=False, seen=()),
                passed,
                BUDGET,
            ),
            compare(
                "a beginning that no entry has",
                lambda: history.older(None, NOWHERE, begins=True, seen=()),
                passed,
                BUDGET,
            ),
            compare(
                "every entry has it and has been shown",
                lambda: repeated.older(None, "HOLLIN", begins=False, seen=shown),
                lambda: fewer.find(NOWHERE.encode()),
                BUDGET,
            ),
            compare(
                "Up, where all few texts have been shown",
                lambda: repeated.older(None, "", begins=True, seen=shown),
                lambda: fewer.find(NOWHERE.encode()),
                BUDGET,
            ),
            compare(
                "opening the page of the history",
                lambda: page_of(different),
                passed,
                BUDGET,
            ),
            compare(
                "the same of few distinct texts",
                lambda: page_of(few),
                lambda: fewer.find(NOWHERE.encode()),
                BUDGET,
            ),
            compare(
                "the page, filtered by what no entry holds",
                lambda: page_of(different, NOWHERE),
                passed,
                BUDGET,
            ),
            compare(
                "the page, a screen up",
                lambda: page_of(few, up=30),
                lambda: fewer.find(NOWHERE.encode()),
                BUDGET,
            ),
            compare(
                "opening it, against an empty one (a thousand times)",
                lambda: opened(different),
                lambda: opened(empty),
                1.5,
            ),
        ]
        hint = statistics.median(seconds(lambda: History(different).hint("expose no")) for _ in range(ROUNDS))
        print(f"a hint that is not found: {hint * 1000:.2f} ms")
    return 0 if all(good) else 1


if __name__ == "__main__":
    raise SystemExit(main())
