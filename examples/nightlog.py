"""The messages of a night in the pager: a long table under its heading, searched, marked, left.

python nightlog.py              the table
python nightlog.py --pick       the rows that were marked are printed
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta

from wesperon import page, run

MASTS = ("ridge", "valley", "dome", "gate")
SKY = ("clear", "thin cloud", "clear", "cloud from the west", "clear", "gusts", "clear")


def messages(count: int) -> Iterator[str]:
    """Yield a heading, and then a row for each message of the weather masts."""
    yield "time      mast    wind m/s   seeing   sky"
    begun = datetime(2031, 4, 17, 20, 30)
    for number in range(count):
        at = begun + timedelta(seconds=number * 8)
        mast, sky = MASTS[number % 4], SKY[(number * 5 + number // 9) % 7]
        wind, seeing = 3 + number * 37 % 89 / 10, 0.7 + number * 53 % 60 / 100
        yield f"{at:%H:%M:%S}  {mast:<8}{wind:>7.1f}    {seeing:>5.2f}    {sky}"


def show(count: int = 4_000, pick: bool = False) -> list[str] | None:
    """Show what the masts of Hollin Ridge said in a night."""
    return page(messages(count), heading=1, pick=pick) or None


if __name__ == "__main__":
    run(show)
