"""Opening a menu of 100,000 choices against one of 100, and pasting 1 MB into a line.

In one process, in pairs, with no terminal: from the declaration of the kind to the first frame. The budgets are twice,
and one second.
"""

from __future__ import annotations

import statistics
import time

from wesperon import one_of
from wesperon.editing.keys.events import Paste
from wesperon.terminal.scripted import Scripted
from wesperon.values.kinds.choices import OneOf
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Prompt

PAIRS = 30
BUDGET = 2.0
MANY, FEW = list(range(100_000)), list(range(100))


def opened(numbers: list[int]) -> float:
    """Return how long it takes to declare and open a menu."""
    begin = time.perf_counter()
    kind: OneOf[int] = one_of(numbers, lambda number: f"HOLLIN-{number:06}")
    Scripted().run(Question(Prompt("Target", 6), Menu(kind.choices, kind.choices.check)))
    return time.perf_counter() - begin


def pasted(size: int) -> float:
    """Return how long it takes to paste a text into an open line and show it."""
    begin = time.perf_counter()
    Scripted([Paste("x" * size)]).run(Question(Prompt("Note", 4), Line(str)))
    return time.perf_counter() - begin


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    opened(MANY), opened(FEW)
    pairs = [(opened(MANY), opened(FEW)) for _ in range(PAIRS)]
    ratio = statistics.median(a / b for a, b in pairs)
    a, b = (statistics.median(column) * 1e6 for column in zip(*pairs, strict=True))
    verdict = "within" if ratio <= BUDGET else "OVER"
    print(f"menu of 100,000 against 100: {ratio:.2f} times ({a:.0f} us, {b:.0f} us); {verdict} {BUDGET:g}")
    paste = statistics.median(pasted(1_000_000) for _ in range(10))
    print(f"pasting 1 MB into a line: {paste * 1000:.1f} ms; {'within' if paste < 1 else 'OVER'} 1 s")
    return 0 if ratio <= BUDGET and paste < 1 else 1


if __name__ == "__main__":
    raise SystemExit(main())
