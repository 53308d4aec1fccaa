"""Drawing changes nothing: what a widget shows, and what its keys do, is the same however often it was viewed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

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
SIZES = st.tuples(st.integers(10, 90), st.integers(2, 30))


def widget_of(name: str) -> Widget:
    SLOTS[name].name = name
    return question(Ask(SLOTS[name]), 6)


@settings(max_examples=200)
@given(st.sampled_from(sorted(SLOTS)), st.lists(st.tuples(st.sampled_from(NAMES), st.lists(SIZES, max_size=2))), SIZES)
def test_views_of_any_size_leave_the_widget_as_it_was(
    name: str, keys: list[tuple[str, list[tuple[int, int]]]], size: tuple[int, int]
) -> None:
    plain, viewed = widget_of(name), widget_of(name)
    for key, others in keys:
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
