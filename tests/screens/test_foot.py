"""What the foot of a screen says of keys is true: in every part, dialog, state and family of keys.

Modules: ``widgets.parts.screen_widget``, ``screens.field``.
"""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import Across, Button, Down, Field, Label, Listing, MenuEntry, Screen, Table, Tabs, any_of, one_of, slot
from wesperon.testing import Session
from wesperon.widgets.parts.levels import KEYS_OF_SCREEN

PARTS: dict[str, Any] = {
    "text": lambda: Field(slot(str, "Note")),
    "suggested": lambda: Field(slot(str, "Note", suggest=["ash", "axis", "bow"])),
    "lines": lambda: Field(slot(str, "Note", lines=True)),
    "number": lambda: Field(slot(int, "Note", step=2)),
    "one": lambda: Field(slot(one_of(["ash", "axis", "bow"]), "Note")),
    "any": lambda: Field(slot(any_of(["ash", "axis", "bow"]), "Note")),
    "date": lambda: Field(slot(date, "Note")),
    "path": lambda: Field(slot(Path, "Note")),
    "yes or no": lambda: Field(slot(bool, "Note")),
    "secret": lambda: Field(slot(str, "Note", secret=True)),
    "rows": lambda: Field(slot(list[str], "Note")),
    "pairs": lambda: Field(slot(dict[str, int], "Note")),
    "list": lambda: Listing(["ash", "axis", "bow"], title="Note"),
    "table": lambda: Table([["ash"], ["bow"]], ["wood"], title="Note"),
    "tabs": lambda: Tabs(Down(Field(slot(int, "Inner")), title="First"), Down(Label("two"), title="Second")),
    "button": lambda: Button("Note", lambda: None),
}
KEYS = st.sampled_from(
    [
        *("a", "b", "1", "space", "left", "right", "up", "down", "home", "end", "escape", "alt-down", "enter"),
        *("backspace", "/", "i", "ctrl-r", "tab", "shift-tab"),
    ]
)


def told(foot: str) -> list[str]:
    """Return the keys that a foot names, in their order."""
    named = [one.partition(": ")[0].strip() for one in foot.split("   ") if ": " in one]
    return [key for keys in named for key in keys.split(" or ")]


@settings(max_examples=300)
@given(
    st.sampled_from(sorted(PARTS)),
    st.sampled_from(["modeless", "modal"]),
    st.booleans(),
    st.lists(KEYS, max_size=6),
    st.sampled_from(["Tab: next", "Escape: back", "Ctrl-D: "]),
)
def test_each_key_in_the_foot_is_named_once_and_does_what_is_said(
    part: str, family: str, is_dialog: bool, keys: list[str], said: str
) -> None:
    made = PARTS[part]()
    content = Down(made, Label("inside"), Field(slot(str, "Other")))
    screen = Screen(Down(Button("Open", lambda: screen.dialog(content))) if is_dialog else content)

    def is_inside() -> bool:
        return session.is_open and screen.running is not None and screen.running.top.content is content

    def focused() -> Any:
        assert screen.running is not None
        return screen.running.focused

    with Session(screen.run, environment={"WESPERON_KEYS": family}, columns=120) as session:
        if is_dialog:
            session.press("enter")
        for key in keys:
            if is_inside():
                session.press(key)
        if is_inside():
            foot = session.screen.split("\n")[-1]
            named = told(foot)
            assert len(named) == len(set(named)), foot
            was_open, focus = getattr(made, "is_open", False), focused()
            if said in foot:
                session.press(said.partition(":")[0].lower())
                if said == "Tab: next":
                    assert is_inside()
                    assert focused() is not focus, foot
                elif was_open:
                    assert not made.is_open, foot
                else:
                    assert not is_inside(), foot
        if session.is_open:
            session.press("ctrl-c")


def test_a_menu_bar_says_nothing_of_keys_that_are_its_own() -> None:
    screen = Screen(Down(Field(slot(str, "Note"))), menus={"Night": [MenuEntry("Begin", lambda: None)]})
    with Session(screen.run) as session:
        for keys in (("f10",), ("enter",)):
            session.press(*keys)
            assert "Tab: " not in session.screen
            assert "F1: " not in session.screen
        assert "Escape: back   Ctrl-D: leave" in session.screen
        session.press("ctrl-d")
        assert not session.is_open


CONTENT = [f"{number}" * 78 for number in range(9)]


@given(
    st.integers(0, 3),
    st.lists(st.sampled_from(["right", "left", "down", "up", "enter"]), max_size=8),
    st.sampled_from([40, 80]),
)
def test_beside_a_menu_the_screen_is_seen(at: int, keys: list[str], columns: int) -> None:
    entries: list[Any] = [MenuEntry("Begin", None), {"More": [MenuEntry("Wide", None), MenuEntry("Shut it", None)]}]
    screen = Screen(Down(*[Label(row) for row in CONTENT]), menus={f"Menu {one}": entries for one in range(4)})
    with Session(screen.run, columns=columns) as session:
        before = session.screen.split("\n")
        session.press("f10", *["right"] * at, "enter", *keys)
        for row, was in zip(session.screen.split("\n")[1:10], before[1:10], strict=True):
            assert row[: len(row) - len(row.lstrip("0123456789"))] == was[: len(row) - len(row.lstrip("0123456789"))]
            assert not row.startswith(" ")
            assert len(row) == len(was)
        session.press("ctrl-d")


@pytest.mark.parametrize("before", [[], ["escape"], ["b"], ["b", "escape", "escape"]])
@pytest.mark.parametrize("family", ["modeless", "modal"])
@pytest.mark.parametrize("part", sorted(PARTS))
def test_keys_of_the_screen_that_go_together_do_what_they_do_whatever_part_has_the_focus(
    part: str, family: str, before: list[str]
) -> None:
    made = PARTS[part]()
    screen = Screen(Across(made, Label("beside"), divided=True))

    def rule() -> int:
        return session.screen.splitlines()[-2].index("│")

    with Session(screen.run, environment={"WESPERON_KEYS": family}, columns=80, rows=12) as session:
        for key in before:
            session.press(key)
        place, text = rule(), made.text
        for number, key in enumerate(["right", "down", "right"]):
            session.press("ctrl-x")
            assert "Ctrl-X" in session.screen.splitlines()[-1]
            session.press(key)
            assert rule() == place + number + 1
        session.press("ctrl-x", "left")
        session.press("ctrl-x", "up")
        assert (rule(), made.text) == (place + 1, text)
        session.press("ctrl-x", "p")
        assert "opens_in" in session.screen


@pytest.mark.parametrize("family", ["modeless", "modal"])
@pytest.mark.parametrize("part", sorted(PARTS))
def test_ctrl_d_leaves_a_screen_whatever_part_has_the_focus(part: str, family: str) -> None:
    screen = Screen(Down(PARTS[part]()))
    with Session(screen.run, environment={"WESPERON_KEYS": family}, columns=120) as session:
        assert "Ctrl-D: leave" in session.screen
        session.press("ctrl-d")
        assert not session.is_open
    assert session.result is None


@given(st.lists(st.sampled_from(["j", "k", "h", "l", "G", "ctrl-f", "ctrl-b"]), max_size=12), st.booleans())
def test_a_table_is_moved_by_letters_where_letters_are_commands(keys: list[str], cells: bool) -> None:
    pages = {"ctrl-f": "page-down", "ctrl-b": "page-up"}
    arrows = {"j": "down", "k": "up", "h": "left", "l": "right", "G": "end"} | pages
    found = []
    for pressed in (keys, [arrows[key] for key in keys]):
        table = Table([[one, two] for one in "abcdefgh" for two in "xyzuvw"], ["one", "two"], cells=cells)
        with Session(Screen(Down(table)).run, environment={"WESPERON_KEYS": "modal"}) as session:
            session.press(*pressed)
            found.append((session.screen, table.value))
            session.press("ctrl-d")
    assert found[0] == found[1]


@pytest.mark.parametrize("rows", range(4, 26))
def test_f1_shows_what_every_key_does_page_by_page_however_low_the_screen_is(rows: int) -> None:
    def reload() -> None:
        """Read the queue again."""

    content = Across(Field(slot(str, "Name")), Field(slot(str, "Log", lines=True)), divided=True)
    screen = Screen(content, menus={"Dome": [MenuEntry("Open")]}, bindings={"f5": reload, "f6": lambda: None})
    with Session(screen.run, columns=70, rows=rows) as session:
        before, shown = session.screen, ""
        for _ in range(20):
            if session.press("f1").screen == before:
                break
            shown += session.screen
        assert session.screen == before
        wanted = ["F10: the menus", "Ctrl-X and an arrow: the rule", "F5: Read the queue again.", *KEYS_OF_SCREEN]
        assert [text for text in wanted if text not in shown] == []
        session.press("f1").type("a")
        assert "a" in session.screen
        assert "F10: the menus" not in session.screen
