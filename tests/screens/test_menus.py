"""Menus inside menus, on a screen of any size: what is current is in sight, and a click means what it hits.

Modules: ``screens.menu_bar``.
"""

from __future__ import annotations

import re
from functools import partial
from itertools import count
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Button, Down, Field, Label, Listing, MenuEntry, Screen, Table, slot
from wesperon.editing.keys.events import Mouse
from wesperon.screens.menu_bar import MenuBar
from wesperon.testing import Session
from wesperon.values import DeclarationError

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


@pytest.mark.parametrize("made", [partial(Button, "Do"), partial(Listing, ["one"]), partial(Table, [[1]], ["A"])])
@pytest.mark.parametrize("keys", ["F8", "ctrl-f5", "Alt-9"])
def test_the_key_of_an_entry_does_the_same_and_says_why_it_cannot(made: Any, keys: str) -> None:
    done: list[str] = []
    reasons = ["", "the dome is closed"]
    menus = {
        "Dome": [
            MenuEntry("Turn", lambda: done.append("turn"), keys="f7", off=lambda: reasons[0]),
            {"More": [MenuEntry("Park", lambda: done.append("park"), keys=keys, marked=True)]},
        ]
    }
    with Session(Screen(Down(made(), Field(slot(str, "Name"))), menus=menus).run, rows=20) as session:
        session.press("f7", keys.lower(), "tab", "f7", keys.lower())
        assert done == ["turn", "park"] * 2
        reasons.reverse()
        session.press("f7").see("the dome is closed").press(keys.lower())
        assert done == ["turn", "park"] * 2, "the menus are under a dialog"
        session.press("enter", keys.lower())
        assert done == ["turn", "park"] * 2 + ["park"]


def test_a_reason_that_fails_is_a_fault_that_is_shown() -> None:
    done: list[str] = []
    menus = {"Dome": [MenuEntry("Turn", lambda: done.append("turn"), keys="f7", off=lambda: f"{1 / 0}")]}
    with Session(Screen(Button("Do"), menus=menus).run, rows=20) as session:
        session.press("f7").see("division by zero").press("enter")
        assert session.is_open
    assert done == []


@pytest.mark.parametrize("key", ["ctrl-d", "f1", "f10"])
def test_what_a_key_does_on_every_screen_no_entry_takes(key: str) -> None:
    menus = {"Dome": [MenuEntry("Quit", lambda: screen.close(1), keys=key)]}
    screen = Screen(Button("Do"), menus=menus)
    with Session(screen.run, rows=20) as session:
        session.press(key)
        assert session.is_open == (key != "ctrl-d")
    assert session.result is None


@pytest.mark.parametrize(
    ("entry", "said"),
    [
        (MenuEntry("More", [MenuEntry("Red")]), "a menu in a menu is a mapping, {'More': [...]}"),  # type: ignore[arg-type]
        (MenuEntry("More", keys=8), "must be a text"),  # type: ignore[arg-type]
        (MenuEntry("More", off=8), "must be the reason, or a function that returns it"),
        (MenuEntry("More", marked="yes"), "must be true or false, or a function of it"),
    ],
)
def test_a_wrong_entry_is_refused_where_it_is_given(entry: MenuEntry, said: str) -> None:
    with pytest.raises(DeclarationError, match=re.escape(said)):
        Screen(Button("Do"), menus={"Dome": [entry]})
