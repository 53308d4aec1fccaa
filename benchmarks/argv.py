"""100,000 words through a ``rest`` of ``int``, against ``list(map(int, words))``; and how time grows with the words.

In one process, in pairs; the figure is the median of the ratios. The budget is 4 times; growth is to be linear.
"""

from __future__ import annotations

import statistics
import time

from wesperon import Form, slot

PAIRS = 15
BUDGET = 4.0


class Sum(Form):
    """Numbers to add up."""

    numbers = slot(int, rest=True)


def ours(words: list[str]) -> float:
    """Return how long a form takes for the words."""
    begin = time.perf_counter()
    record = Sum.fill(words, asking="never")
    taken = time.perf_counter() - begin
    assert len(record.numbers) == len(words)
    return taken


def theirs(words: list[str]) -> float:
    """Return how long the bare conversion takes."""
    begin = time.perf_counter()
    numbers = list(map(int, words))
    taken = time.perf_counter() - begin
    assert len(numbers) == len(words)
    return taken


def main() -> int:
    """Measure and print; the status is 1 if the figure is over its budget."""
    words = [str(number) for number in range(100_000)]
    ours(words), theirs(words)
    pairs = [(ours(words), theirs(words)) for _ in range(PAIRS)]
    ratio = statistics.median(a / b for a, b in pairs)
    a, b = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
    verdict = "within" if ratio <= BUDGET else "OVER"
    print(f"100,000 words: {ratio:.2f} times the bare conversion ({a:.1f} ms, {b:.1f} ms); {verdict} {BUDGET:g}")
    for count in (1_000, 10_000, 100_000, 1_000_000):
        many = [str(number) for number in range(count)]
        each = statistics.median(ours(many) for _ in range(5)) / count * 1e9
        print(f"  {count:>9,} words: {each:.0f} ns each")
    return 0 if ratio <= BUDGET else 1


if __name__ == "__main__":
    raise SystemExit(main())
