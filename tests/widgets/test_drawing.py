"""Drawing changes nothing: what a widget shows, and what its keys do, is the same however often it was viewed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import any_of, one_of, slot
from wesperon.editing.keys.events import Key
from wesperon.forms.questions import Ask, question
from wesperon.widgets.widget import Widget

ROWS = [f"row {number}" for number in range(40)]
SLOTS: dict[str, Any] = {
    "text": slot(suggest=["one", "two", "three"]),
    "number": slot(int, low=1),
    "switch": slot(bool),
    "menu": slot(one_of(ROWS)),
    "groups": slot(one_of(ROWS, group=lambda label: label[-1])),
    "checkboxes": slot(any_of(ROWS)),
    "lines": slot(lines=True, syntax="python"),
    "rows": slot(dict[str, int]),
    "secret": slot(secret=True),
    "path": slot(Path),
}
NAMES = [
    "up",
    "down",
    "left",
    "end",
    "home",
    "page-down",
    "page-up",
    "tab",
    "ctrl-r",
    "backspace",
    "alt-enter",
    *"ab1=",
]
SIZES = st.tuples(st.integers(10, 90), st.integers(2, 30) | st.integers(2, 6))


def widget_of(name: str) -> Widget:
    SLOTS[name].name = name
    return question(Ask(SLOTS[name]), 6)


@pytest.mark.parametrize("name", SLOTS)
@settings(max_examples=40)
@given(data=st.data(), size=SIZES)
def test_views_of_any_size_leave_the_widget_as_it_was(name: str, data: st.DataObject, size: tuple[int, int]) -> None:
    plain, viewed = widget_of(name), widget_of(name)
    for key in data.draw(st.lists(st.sampled_from(["down"] * 6 + NAMES), max_size=20)):
        others = data.draw(st.lists(SIZES, max_size=2))
        event = Key(key, key if len(key) == 1 else "")
        for other in others:
            viewed.view(*other)
        assert plain.view(*size) == viewed.view(*size)
        plain.drawn()
        viewed.drawn()
        for other in others:
            viewed.view(*other)
        plain.press(event)
        viewed.press(event)
        if plain.outcome is not None:  # it is shown no more
            break
    assert plain.view(*size) == viewed.view(*size)
    assert plain.outcome == viewed.outcome
