"""Clicks mean what was to be seen when the mouse was pressed, whatever keys came in the same burst."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.widgets.test_drawing import NAMES, SLOTS, widget_of
from wesperon import any_of, one_of
from wesperon.editing.keys.events import Mouse, typed
from wesperon.screen.frame import Frame, row_text
from wesperon.terminal.scripted import key_named
from wesperon.values.suggestions import Suggestions
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.menu import Menu
from wesperon.widgets.secret import Secret
from wesperon.widgets.suggestion_filter import SuggestionFilter
from wesperon.widgets.summary import Summary
from wesperon.widgets.widget import Answered

KEYS = st.sampled_from(["1", "4", "c", "backspace", "up", "down", "page-down", "end"])
LABELS = [f"choice {number}" for number in range(50)]


def press(widget: Any, name: str) -> None:
    """Press a key, by its character or its name."""
    widget.press(typed(name) if len(name) == 1 else key_named(name))


@settings(max_examples=60)
@given(st.lists(st.lists(KEYS, max_size=5), min_size=1, max_size=4), st.integers(3, 20), st.data())
def test_a_click_takes_the_choice_that_was_under_it(bursts: list[list[str]], rows: int, data: st.DataObject) -> None:
    for made in (one_of(LABELS), any_of(LABELS)):
        choices: Any = made.choices
        menu: Menu = Menu(choices, lambda at: at) if made.question == "menu" else Checkboxes(choices, lambda at: at)
        frame, shown = Frame(()), list[str]()
        for burst in bursts:
            frame = menu.view(40, rows)
            assert menu.view(40, rows) == frame, "drawing changes nothing"
            shown = [row_text(row) for row in frame.rows]
            for name in burst:
                press(menu, name)
        listed = [(at, text.replace("[ ]", "").strip()) for at, text in enumerate(shown) if "choice " in text]
        if not listed:
            continue
        row, label = data.draw(st.sampled_from(listed))
        needle, still_listed = menu.needle, LABELS.index(label) in menu.listed
        menu.press(frame.clicks.aimed(Mouse("left", "press", row, 3)))
        assert menu.needle == (needle if still_listed else "")
        if isinstance(menu, Checkboxes):
            assert {LABELS[at] for at in menu.marked} == {label}
        else:
            assert isinstance(menu.outcome, Answered)
            assert LABELS[menu.outcome.value] == label


@pytest.mark.parametrize("name", [*SLOTS, "summary"])
@given(
    keys=st.lists(st.sampled_from([*NAMES, "enter"]), max_size=8),
    button=st.sampled_from(["left", "middle", "right", "ctrl-left", "alt-wheel-up"]),
    action=st.sampled_from(["press", "release", "drag"]),
    place=st.tuples(st.integers(0, 9), st.integers(0, 39)),
)
def test_no_other_button_does_anything(
    name: str, keys: list[str], button: str, action: str, place: tuple[int, int]
) -> None:
    assume((button, action) != ("left", "press"))
    widget = Summary([("Frames", "12"), ("Night", "")], 6) if name == "summary" else widget_of(name)
    for key in keys:
        if widget.outcome is None:
            press(widget, key)
    before, outcome = widget.view(40, 10), widget.outcome
    widget.drawn()
    widget.press(before.clicks.aimed(Mouse(button, action, *place)))
    assert widget.view(40, 10) == before
    assert widget.outcome is outcome


@given(st.integers(0, 5))
def test_a_click_on_a_row_of_a_summary_opens_its_question(row: int) -> None:
    summary = Summary([("Frames", "12"), ("Night", "")], 6)
    frame = summary.view(40, 10)
    summary.drawn()
    shown = row_text(frame.rows[row]) if row < len(frame.rows) else ""
    summary.press(frame.clicks.aimed(Mouse("left", "press", row, 3)))
    wanted = {"Frames": Answered(0), "Night": Answered(1)}
    assert summary.outcome == next((value for label, value in wanted.items() if label in shown), summary.outcome)
    assert summary.outcome is not None or row >= len(frame.rows)


def test_a_click_moves_no_cursor_that_is_not_seen() -> None:
    for mask, wanted in (("", "abcX"), ("*", "Xabc")):
        secret = Secret(str, mask=mask)
        secret.view(20, 1)
        for name in "abc":
            press(secret, name)
        secret.view(20, 1)
        secret.drawn()
        secret.press(Mouse("left", "press", 0, 0))
        press(secret, "X")
        assert secret.text == wanted


TEXTS = st.lists(st.text("abAB x1", max_size=5), max_size=40)


@settings(max_examples=60)
@given(TEXTS, st.lists(st.text("abx1 ", min_size=1, max_size=3), min_size=1, max_size=4), st.integers(1, 5_000))
def test_suggestions_are_those_of_a_naive_search_key_by_key(texts: list[str], needles: list[str], times: int) -> None:
    many = [*texts, *["zz"] * times, *texts] if times > 4_000 else texts
    offers = SuggestionFilter(Suggestions(many))
    typed_so_far = ""
    for needle in needles:
        typed_so_far += needle
        offers.seek(typed_so_far)
        while offers.work():
            pass
        parts = typed_so_far.casefold().split()
        if parts:
            wanted = [at for at, text in enumerate(many) if all(part in text.casefold() for part in parts)]
            assert sorted(offers.search.hits) == wanted
