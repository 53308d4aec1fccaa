"""The pager shows what a naive one shows, whatever the text, the size and the keys.

Modules: ``widgets.pager.pager``, ``widgets.pager.text_view``, ``widgets.pager.laying``, ``widgets.pager.moves``,
``widgets.pager.searching``, ``widgets.pager.scan``, ``widgets.pager.order``.
"""

from __future__ import annotations

import random

import pytest

from tests.pager.naive import Naive
from wesperon.editing.keys.events import typed
from wesperon.terminal.scripted import key_named
from wesperon.widgets.pager import scan
from wesperon.widgets.pager.pager import Pager
from wesperon.widgets.pager.whole_text import WholeText

ALPHABET = ["ab", "frame ", "Dome", "x", "\t", "漢", "é", "\x01", " ", "0123456789" * 3]
NEEDLES = ["frame", "Dome", "dome", "x", "漢", "zz", "ab", "é", "9012"]


class Driven:
    """The pager and the model, side by side."""

    def __init__(self, rolled: random.Random, text: str, heading: int) -> None:
        self.rolled = rolled
        lines = text.split("\n")
        if lines[-1] == "":
            lines.pop()
        self.size = rolled.randint(12, 60), rolled.randint(3, 14)
        self.naive = Naive(lines, *self.size, heading)
        self.pager = Pager([WholeText("night.log", text.encode())], heading=heading, limited=lambda step: step())
        self.done: list[str] = []
        self.pager.view(*self.size)
        self.pager.drawn()

    def press(self, *names: str) -> None:
        """Press keys, and let the pager do what takes its time."""
        for name in names:
            self.pager.press(typed(name) if len(name) == 1 else key_named(name))
            self.pager.view(*self.size)
            while self.pager.work():
                pass
        self.done.append(" ".join(names))

    def compare(self) -> None:
        """Raise AssertionError if the two show different rows."""
        frame = self.pager.view(*self.size)
        self.pager.drawn()
        rows = ["".join(text for text, role in row if role != "bar").rstrip() for row in frame.rows[:-1]]
        while rows and not rows[-1]:
            rows.pop()
        wanted = [row.rstrip() for row in self.naive.screen()]
        while wanted and not wanted[-1]:
            wanted.pop()
        assert rows == wanted, "\n".join([str(self.size), *self.done, "shown", *rows, "wanted", *wanted])

    def step(self) -> None:
        """Do the same with both."""
        naive, rolled = self.naive, self.rolled
        room = naive.room
        moves: dict[str, int] = {
            "down": 1,
            "j": 1,
            "up": -1,
            "k": -1,
            "space": room,
            "page-down": room,
            "b": -room,
            "d": max(room // 2, 1),
            "u": -max(room // 2, 1),
            "end": 1 << 30,
            "home": -(1 << 30),
        }
        kind = rolled.randrange(8)
        if kind <= 3:
            key = rolled.choice(list(moves))
            self.press(key)
            naive.move(moves[key])
        elif kind == 4:
            line = rolled.randint(1, len(naive.lines) + 5)
            self.press(*str(line), "G")
            naive.go(line - 1)
        elif kind == 5:
            needle, back = rolled.choice(NEEDLES), rolled.random() < 0.4
            self.press("?" if back else "/", *needle, "enter")
            naive.search(needle, back=back)
        elif kind == 6 and naive.needle:
            key = rolled.choice("nN")
            back = self.pager.search.back == (key == "n")
            self.press(key)
            naive.again(back=back)
        elif kind == 7 and rolled.random() < 0.5:
            self.size = rolled.randint(12, 60), rolled.randint(3, 14)
            self.pager.view(*self.size)
            naive.resize(*self.size)
            self.done.append(str(self.size))
        elif naive.needle:
            key = rolled.choice("oo+-")
            if key == "o":
                naive.around = None if naive.around is not None else 0
            else:
                naive.around = max((naive.around or 0) + (1 if key == "+" else -1), 0)
            self.press(key)


@pytest.mark.parametrize("seed", range(24))
def test_any_text_and_any_keys_show_the_same_rows(seed: int, monkeypatch: pytest.MonkeyPatch) -> None:
    rolled = random.Random(seed)
    monkeypatch.setattr(scan, "SLICE", rolled.choice([7, 64, 1 << 19]))
    monkeypatch.setattr(scan, "MATCHED", rolled.choice([7, 64, 1 << 16]))
    lines = ["".join(rolled.choices(ALPHABET, k=rolled.randrange(14))) for _ in range(rolled.randrange(1, 120))]
    text = "\n".join(lines) + rolled.choice(["", "\n"])
    driven = Driven(rolled, text, rolled.choice([0, 0, 1, 2]))
    driven.compare()
    for _ in range(60):
        driven.step()
        driven.compare()
