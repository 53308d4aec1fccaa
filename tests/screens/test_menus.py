"""Menus inside menus, on a screen of any size: what is current is in sight, and a click means what it hits.

Modules: ``screens.menu_bar``.
"""

from __future__ import annotations

from functools import partial
from itertools import count
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from wesperon import Label, MenuEntry, Screen
from wesperon.editing.keys.events import Mouse
from wesperon.screens.menu_bar import MenuBar
from wesperon.testing import Session

NAMES = st.recursive(
    st.just(None),
    lambda inner: st.dictionaries(st.sampled_from("abcdefgh"), inner, min_size=1, max_size=9),
    max_leaves=25,
)
MENUS = st.lists(st.dictionaries(st.sampled_from("abcdefgh"), NAMES, min_size=1, max_size=9), min_size=1, max_size=6)
KEYS = st.lists(st.sampled_from(["down", "down", "up", "right", "right", "left"]), min_size=1, max_size=12)


def menus_of(drawn: list[Any], called: list[str]) -> dict[str, Any]:
    """Return menus whose labels all are different, and each a word of its own."""
    numbers = count()

    def entries(inner: dict[str, Any]) -> list[Any]:
        made: list[Any] = []
        for letter, more in inner.items():
            label = f"{letter * (next(numbers) % 5 + 1)}{next(numbers):03}"
            entry = MenuEntry(label, partial(called.append, label), keys=letter * 3 if letter < "d" else "")
            made.append(entry if more is None else {label: entries(more)})
        return made

    return {f"T{number}": entries(inner) for number, inner in enumerate(drawn)}


@given(drawn=MENUS, keys=KEYS, columns=st.integers(20, 90), rows=st.integers(5, 14), choice=st.integers(0, 8))
def test_what_is_open_is_in_sight_and_can_be_clicked(
    drawn: list[Any], keys: list[str], columns: int, rows: int, choice: int
) -> None:
    called: list[str] = []
    bar = MenuBar(menus_of(drawn, called))
    screen = Screen(Label(""), menus=bar)
    with Session(screen.run, columns=columns, rows=rows) as session:
        session.press("f10", "down", *keys)
        opened = bar.open_menus()
        entries = {entry[0] if isinstance(entry, tuple) else entry.label: entry for entry in opened[-1]}
        labels = list(entries)
        current = labels[bar.path[-1]]
        shown = session.screen.split("\n")
        assert any(current in row for row in shown), (current, session.screen)
        in_sight = [label for label in labels if any(label in row for row in shown)]
        assert len(in_sight) == min(len(labels), rows - 2)
        label = in_sight[choice % len(in_sight)]
        row = next(number for number, text in enumerate(shown) if label in text)
        session.stage.put([Mouse("left", "press", row, shown[row].index(label))], 10)
        if isinstance(entries[label], tuple):
            assert bar.open_menus()[-1] is entries[label][1]
            assert called == []
        else:
            assert called == [label]
            assert bar.path == []
