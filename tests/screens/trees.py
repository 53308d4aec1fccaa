"""Random screens: trees of parts of every sort."""

from __future__ import annotations

import random
from typing import Any

from wesperon import (
    Across,
    Button,
    Down,
    Field,
    Label,
    Listing,
    MessageView,
    Meter,
    Table,
    Tabs,
    Trend,
    any_of,
    one_of,
    slot,
)
from wesperon.widgets.parts.part import Part

WORDS = ["Lantern", "漢字の名", "e\u0301clair", "dome", "a\x1b[2Jb", "👩‍👩‍👧", "", "x" * 90]
NAMES = ["Thimble", "Wicker", "Ladder", "漢", "Lantern"]


def wishes(rolled: random.Random) -> dict[str, Any]:
    """Return random keywords of a part."""
    given: dict[str, Any] = {}
    if rolled.random() < 0.4:
        given["title"] = rolled.choice(WORDS)
    if rolled.random() < 0.2:
        given["size"] = rolled.randint(1, 40)
    if rolled.random() < 0.3:
        given["weight"] = rolled.randint(0, 4)
    if rolled.random() < 0.2:
        given["least"] = rolled.randint(1, 12)
    if rolled.random() < 0.1:
        given["most"] = max(rolled.randint(1, 30), given.get("least", 1))
    if rolled.random() < 0.15:
        given["hide_below"] = rolled.randint(1, 15)
    return given


def leaf(rolled: random.Random) -> Part:
    """Return a random part that is no group."""
    place = wishes(rolled)
    word = rolled.choice(WORDS)
    sorts: list[Any] = [
        lambda: Label(word, **place),
        lambda: Button(rolled.choice(NAMES), lambda: None, default=rolled.random() < 0.3, **place),
        lambda: Field(slot(int, "Frames", low=1), value=12, **place),
        lambda: Field(slot(str, word.strip("\x1b") or "Note"), **place),
        lambda: Field(slot(one_of(NAMES), "Target"), **place),
        lambda: Field(slot(any_of(NAMES), "Filters"), **place),
        lambda: Field(slot(bool, "Guided"), value=True, **place),
        lambda: Field(slot(str, "Log", lines=True), value="a\nb", **place),
        lambda: Listing(NAMES, several=rolled.random() < 0.5, **place),
        lambda: Table([(word, n, n * 0.5) for n in range(rolled.randint(0, 60))], ["a", "b", word or "c"], **place),
        lambda: MessageView(**place),
        lambda: Meter(word, total=20, **place),
        lambda: Trend([rolled.random() for _ in range(40)], **place),
    ]
    made: Part = rolled.choice(sorts)()
    return made


def tree(rolled: random.Random, depth: int = 3) -> Part:
    """Return a random content."""
    roll = rolled.random()
    if depth == 0 or roll < 0.25:
        return leaf(rolled)
    parts = [tree(rolled, depth - 1) for _ in range(rolled.randint(1, 4))]
    if roll < 0.35:
        for number, part in enumerate(parts):
            part.title = f"tab {number}"
        return Tabs(*parts)
    sort = Across if rolled.random() < 0.5 else Down
    return sort(*parts, divided=rolled.random() < 0.3, **wishes(rolled))
