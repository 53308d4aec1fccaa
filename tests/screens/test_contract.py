"""What every part promises: ``value``, ``show`` from anywhere, ``on_change`` for the user's changes alone, ``enabled``.

Modules: ``widgets.parts.part``, ``widgets.parts.arrangement``.
"""

from __future__ import annotations

import functools
import threading
from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from wesperon import (
    Button,
    Down,
    Field,
    Label,
    Listing,
    MessageView,
    Meter,
    Pager,
    Screen,
    Table,
    Tabs,
    Trend,
    any_of,
    one_of,
    slot,
)
from wesperon.testing import Session

#: For each part how it is made, what is shown, the value by then, keys that change it, and the value after those.
PARTS: dict[str, tuple[Callable[[], Any], Any, Any, list[str], Any]] = {
    "text": (lambda: Field(slot(str, "Part", low=0)), "abc", "abc", ["end", "x"], "abcx"),
    "number": (lambda: Field(slot(int, "Part")), 5, 5, ["up"], 6),
    "yes or no": (lambda: Field(slot(bool, "Part")), True, True, ["space"], False),
    "one": (lambda: Field(slot(one_of(["a", "b"]), "Part")), "a", "a", ["alt-down", "down", "enter"], "b"),
    "some": (lambda: Field(slot(any_of(["a", "b"]), "Part")), ("a",), ("a",), ["alt-down", "space", "enter"], ()),
    "date": (lambda: Field(slot(date, "Part")), date(2031, 4, 17), date(2031, 4, 17), ["up"], date(2031, 4, 18)),
    "path": (lambda: Field(slot(Path, "Part")), Path("a"), Path("a"), ["end", "x"], Path("ax")),
    "rows": (lambda: Field(slot(int, "Part", many=True)), (1, 2), (1, 2), ["3"], (1, 2, 3)),
    "lines": (lambda: Field(slot(str, "Part", lines=True)), "a\nb", "a\nb", ["ctrl-end", "x"], "a\nbx"),
    "button": (lambda: Button("Part"), "Press", "Press", ["enter"], "Press"),
    "label": (lambda: Label("Part"), "Other", "Other", [], "Other"),
    "listing": (lambda: Listing(["a", "b"]), ["x", "y"], "x", ["down"], "y"),
    "listing of several": (lambda: Listing(["a", "b"], several=True), ["x", "y"], (), ["space"], ("x",)),
    "table": (lambda: Table([["a", 1]], ["x", "y"]), [["b", 2], ["c", 3]], ["b", 2], ["down"], ["c", 3]),
    "messages": (MessageView, "hello", ("hello",), [], ("hello",)),
    "meter": (lambda: Meter("Part", total=10), 4, 4, [], 4),
    "trend": (lambda: Trend([1, 2]), 3, (1, 2, 3), [], (1, 2, 3)),
    "tab row": (lambda: Tabs(Label("a", title="A"), Label("b", title="B")), "B", "B", ["left"], "A"),
    "pager": (lambda: Pager("a\n" * 99), "b\n" * 99, [], [], []),
}


def from_thread(function: Callable[[], Any]) -> None:
    thread = threading.Thread(target=function)
    thread.start()
    thread.join()


@pytest.mark.parametrize("name", PARTS)
def test_what_is_shown_is_the_value_and_only_the_user_changes_are_told(name: str) -> None:
    make, shown, value, keys, changed = PARTS[name]
    for is_running in (False, True):
        part: Any = make()
        told: list[Any] = []
        part.on_change(told.append)
        if not is_running:
            part.show(shown)
            assert part.value == value
        with Session(Screen(Down(part, Button("Beside"))).run) as session:
            if is_running:
                from_thread(functools.partial(part.show, shown))
                assert session.screen
                assert part.value == value
            assert not told
            if keys:
                session.press(*keys)
                assert session.screen
                assert part.value == changed
                assert told
                assert told[-1] == changed


@pytest.mark.parametrize("how", ["thread", "later", "at once"])
@pytest.mark.parametrize("away", ["off", "hidden"])
@pytest.mark.parametrize("name", [name for name, row in PARTS.items() if row[3]])
def test_no_key_reaches_a_part_that_was_turned_off_or_hidden_while_it_had_the_focus(
    name: str, away: str, how: str
) -> None:
    make, shown, _, keys, _ = PARTS[name]
    part: Any = make()
    told: list[Any] = []
    part.show(shown)
    screen = Screen(Down(part, Button("Beside")), bindings={"f5": lambda: act()})

    def act() -> None:
        if away == "off":
            part.enabled = False
        else:
            part.hide(True)

    with Session(screen.run) as session:
        part.on_change(told.append)
        before = part.value
        if how == "thread":
            from_thread(act)
            session.press(keys[-1])
        elif how == "later":
            screen.call_later(0, act)
            session.press(keys[-1])
        else:
            session.press("f5", keys[-1])
        assert session.screen
        assert (part.value, told) == (before, [])
        assert session.focus == "Beside"


def test_no_key_reaches_a_part_on_a_page_that_another_one_has_replaced() -> None:
    field = Field(slot(str, "Part", low=0), title="A")
    told: list[Any] = []
    tabs = Tabs(field, Label("b", title="B"))
    with Session(Screen(Down(tabs, Button("Beside"))).run) as session:
        session.choose("Part")
        field.on_change(told.append)
        from_thread(lambda: tabs.show("B"))
        session.press("x")
        assert not told


@pytest.mark.parametrize(
    "around", [lambda part: Down(part, Label("x")), lambda part: Tabs(part, Label("b", title="B"))]
)
def test_a_group_is_hidden_and_shown_with_all_that_is_in_it(around: Callable[[Any], Any]) -> None:
    field, beside = Field(slot(str, "Part", low=0)), Field(slot(str, "Seeing", low=0))
    hidden = Field(slot(str, "Dimmed", low=0))
    group = around(Down(field, hidden, title="A"))
    hidden.hide(True)
    with Session(Screen(Down(group, beside)).run) as session:
        session.choose("Part")
        from_thread(lambda: group.hide(True))
        assert "Part" not in session.screen
        session.press("x")
        assert (session.focus, field.value, beside.value) == ("Seeing", None, "x")
        from_thread(lambda: group.hide(False))
        assert "Part" in session.screen
        assert "Dimmed" not in session.screen
