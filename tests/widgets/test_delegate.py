"""A widget around another one: everything reaches the inner widget, and what that wants comes out.

Modules: ``widgets.delegate``.
"""

from __future__ import annotations

import pytest

from wesperon import Form, slot
from wesperon.editing.keys.events import typed
from wesperon.terminal.scripted import Press, Scripted, key_named
from wesperon.widgets.delegate import Delegate
from wesperon.widgets.line import Line
from wesperon.widgets.question import Question
from wesperon.widgets.widget import BACK, CLEAR_SCREEN, EDIT_OUTSIDE, HELP, PREFERENCES, Prompt, Widget

#: What a widget that reads keys does with them: nobody calls it from outside.
OF_KEYS = {
    *(
        "handle",
        "do",
        "want",
        "type",
        "paste",
        "click",
        "wheel",
        "resolver",
        "layers",
        "known_actions",
        "go_back",
        "show_help",
    ),
    *("interrupt", "end", "show_preferences", "clear_screen"),
}


def test_every_member_of_a_widget_is_handed_on() -> None:
    members = {name for name, one in vars(Widget).items() if name[0] != "_" and (callable(one) or hasattr(one, "fget"))}
    assert members - OF_KEYS <= set(vars(Delegate))


@pytest.mark.parametrize(
    ("keys", "wanted"),
    [
        ("ctrl-x ctrl-e", EDIT_OUTSIDE),
        ("ctrl-x p", PREFERENCES),
        ("ctrl-l", CLEAR_SCREEN),
        ("shift-tab", BACK),
        ("f1", HELP),
    ],
)
def test_what_a_field_wants_is_returned_once_by_what_is_around_it(keys: str, wanted: object) -> None:
    question = Question(Prompt("Target", 6), Line(str))
    returned = [question.press(typed(key) if len(key) == 1 else key_named(key)) for key in keys.split()]
    assert returned[-1] is wanted
    assert not any(returned[:-1])
    assert question.press(typed("x")) is None


def test_what_recorded_keys_want_is_wanted_when_they_are_played() -> None:
    line = Line(str)
    for key in ("ctrl-x", "(", "ctrl-l", "ctrl-x", ")", "ctrl-x"):
        line.press(typed(key) if len(key) == 1 else key_named(key))
    assert line.press(typed("e")) is CLEAR_SCREEN


def test_a_card_keeps_what_is_for_it() -> None:
    class Plan(Form):
        target = slot(help="what to look at")
        frames = slot(int)

    driver = Scripted(["a", Press("enter"), Press("shift-tab"), Press("f1"), Press("enter"), "3", Press("enter")])
    plan = Plan.fill([], driver=driver)
    assert (plan.target, plan.frames) == ("a", 3)
    assert any("what to look at" in frame for frame in driver.frames)
