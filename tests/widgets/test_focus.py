"""Where the focus is can be heard: the terminal's own cursor is there, and the current row of a list has a mark."""

from __future__ import annotations

from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import any_of, one_of
from wesperon.editing.keys.events import typed
from wesperon.screen.frame import Frame, row_text
from wesperon.terminal.scripted import key_named
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.menu import Menu
from wesperon.widgets.preferences import PREFERENCES
from wesperon.widgets.preferences_page import PreferencesPage
from wesperon.widgets.question import Question
from wesperon.widgets.summary import Summary
from wesperon.widgets.widget import Prompt, Widget

KEYS = st.lists(st.sampled_from(["b", "3", "x", "down", "up", "end", "page-down", "backspace", "home"]), max_size=8)
LABELS = [f"nebula {number}" for number in range(20)]


def lists(is_grouped: bool) -> list[Widget]:
    """Return one of each widget with a current row."""
    groups: Any = (lambda label: label[:8]) if is_grouped else None
    menu, boxes = one_of(LABELS, group=groups).choices, any_of(LABELS, group=groups).choices
    prompt = Prompt("Target", 6, "Which one?" if is_grouped else "")
    values = [(label, label * 3) for label in LABELS[:4]]
    page = PreferencesPage(
        {n: p.values()[0] for n, p in PREFERENCES.items()}, dict.fromkeys(PREFERENCES, ""), "", print
    )
    summary = Question(Prompt("", 0), Summary(values, 8))
    return [Question(prompt, Menu(menu, str)), Question(prompt, Checkboxes(boxes, str)), summary, page]


def check(frame: Frame, columns: int, typed_last: bool) -> None:
    """The cursor is on the mark of the current row, or after what was typed last."""
    assert frame.cursor is not None
    row, column = frame.cursor
    current = [at for at, shown in enumerate(frame.rows) if any("current" in role for _, role in shown)]
    text = row_text(frame.rows[row])
    if row not in current:
        assert typed_last or not current
        assert not text[column:].strip(), "after the end of what was typed"
    elif columns > 6:
        assert text[column : column + 2] == ": "


@settings(max_examples=60)
@given(KEYS, st.sampled_from([6, 12, 25, 39, 60, 120]), st.integers(1, 14), st.booleans())
def test_the_cursor_is_where_the_focus_is(keys: list[str], columns: int, rows: int, is_grouped: bool) -> None:
    for widget in lists(is_grouped):
        check(widget.view(columns, rows), columns, typed_last=False)
        for name in keys:
            widget.press(typed(name) if len(name) == 1 else key_named(name))
            check(widget.view(columns, rows), columns, typed_last=len(name) == 1 or name == "backspace")
