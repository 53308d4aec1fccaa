"""Keys: one resolver for every widget and every family, and bindings that never take away the last way out.

Modules: ``editing.keys.resolver``, ``editing.keys.events``, ``editing.keys.modeless``, ``editing.keys.action_help``,
``editing.keys.macros``.
"""

from __future__ import annotations

from typing import Any

from hypothesis import example, given, settings
from hypothesis import strategies as st

from wesperon import any_of
from wesperon.editing.history_view import ListHistory, Recall
from wesperon.editing.keys.action_help import ACTIONS
from wesperon.editing.keys.bindings import Bindings, read_keys
from wesperon.editing.keys.events import Key, typed
from wesperon.editing.keys.family import Family, Mode
from wesperon.editing.keys.macros import Macros
from wesperon.editing.keys.modeless import MODELESS, TABLE
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.notice import Notice
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.summary import Summary
from wesperon.widgets.widget import Answered, Interrupted
from wesperon.widgets.yes_no import YesNo

CHOICES = any_of(["Red", "Green", "Blue"]).choices
WIDGETS: list[Any] = [
    lambda: Line(str, default="12"), lambda: SeveralLines(str, default="a\nb"), lambda: YesNo(str, default="yes"),
    lambda: Menu(CHOICES, CHOICES.check), lambda: Checkboxes(CHOICES, frozenset), lambda: Notice("one"),
    lambda: Summary([("Frames", "12")], 6),
]  # fmt: skip

#: A family with modes, as small as one can be: what a second family needs of the ground.
TINY = Family(
    "tiny",
    {
        "insert": Mode({"escape": "mode-command", "enter": "accept", "ctrl-c": "interrupt"}, shape="bar"),
        "command": Mode(
            {
                "i": "mode-insert", "d": "delete", "y": "copy", "w": "move-word-forward", "j": "move-down",
                "k": "move-up", "0": "move-line-start", "%": "move-bracket-match", "p": "paste", '"': "use-register",
                "enter": "accept", "ctrl-c": "interrupt",
            },
            types=False, counts=True, shape="block", label="command",
        ),
    },
    "insert",
    {"checkboxes": {"x": "toggle-mark"}},
    frozenset(("delete", "copy")),
)  # fmt: skip


def keys(text: str) -> list[Key]:
    return [Key(part) if len(part) > 1 else typed(part) for part in text.split(" ")]


def test_a_printable_key_is_bound_where_keys_type_nothing() -> None:
    boxes = Checkboxes(CHOICES, frozenset)
    boxes.bind(Bindings(TINY))
    boxes.press(typed("x"))
    assert boxes.marked == {0}
    assert read_keys("x") == ("", "x types a character: bind it with ctrl- or alt-, or after another key")
    assert read_keys("x", types=False) == ("x", "")
    assert boxes.pending == ""


def test_bindings_reach_every_widget_and_leave_alone_what_a_widget_does_not_do() -> None:
    bindings = Bindings()
    table = {"ctrl-x m": "toggle-mark", "ctrl-a": "move-line-end", "f5": "accept", "f6": "undo", "enter": "undo"}
    assert bindings.add(table, {}) == {}
    for make in WIDGETS:
        widget = make()
        widget.bind(bindings)
        widget.press(Key("f6"))
        widget.press(Key("f5"))
        assert isinstance(widget.outcome, Answered), widget
    boxes = Checkboxes(CHOICES, frozenset)
    boxes.bind(bindings)
    for key in keys("ctrl-x m"):
        boxes.press(key)
    assert boxes.marked == {0}
    boxes.press(Key("enter"))  # undo means nothing here: Enter is what it was
    assert boxes.outcome == Answered(frozenset({0}))


@settings(max_examples=80, deadline=None)
@example(
    first={"left": "move-char-back", "ctrl-c x": "interrupt"},
    second={"enter": "", "ctrl-c": ""},
)
@given(
    st.dictionaries(
        st.sampled_from([*TABLE, "f5", "f6", "ctrl-x q", "ctrl-c x"]),
        st.sampled_from([*ACTIONS, "", "nonesuch"]) | st.just({"text": "x"}),
        max_size=30,
    ),
    st.dictionaries(st.sampled_from(["enter", "ctrl-j", "ctrl-c", "ctrl-d", "alt-enter", "shift-enter", "ctrl-o"]),
                    st.sampled_from(["", "undo", "interrupt", "accept"])),
)  # fmt: skip
def test_whatever_is_bound_a_question_can_always_be_left(first: dict[str, Any], second: dict[str, Any]) -> None:
    bindings = Bindings()
    for table in (first, second):
        faults = bindings.add(table, {})
        assert set(faults) <= set(table)
    for make in WIDGETS:
        widget = make()
        assert leaves(make, bindings, Answered), widget
        assert leaves(make, bindings, Interrupted), widget


def test_recalling_the_next_entry_is_no_way_out_of_a_menu() -> None:
    bindings = Bindings()
    faults = bindings.add(dict.fromkeys(("enter", "ctrl-j", "alt-enter", "shift-enter"), ""), {})
    assert len(faults) == 1
    assert "bind another key to accept or" in next(iter(faults.values()))
    assert all(leaves(make, bindings, Answered) for make in WIDGETS)


def leaves(make: Any, bindings: Bindings, how: type) -> bool:
    """Return True if some key, or sequence, ends a widget so."""
    probe = make()
    for pressed in bindings.keymap("insert", probe.LAYERS, probe.known_actions()).table:
        widget = make()
        widget.bind(bindings)
        for key in keys(pressed):
            widget.press(key)
        if isinstance(widget.outcome, how):
            return True
    return False


def test_a_binding_that_takes_the_last_way_out_is_refused_with_the_reason() -> None:
    bindings = Bindings()
    faults = bindings.add({"ctrl-c": ""}, {})
    assert faults == {"ctrl-c": "takes away the last key to stop asking: bind another key to interrupt first"}
    assert bindings.add({"f9": "interrupt", "ctrl-c": "undo"}, {}) == {}
    assert bindings.keymap("insert").table["ctrl-c"] == "undo"
    faults = bindings.add({"f9": "undo"}, {})
    assert "stop asking" in faults["f9"]

    assert MODELESS.operators == frozenset()


def test_a_count_of_very_many_digits_is_bounded() -> None:
    line = Line(str, default="one")
    line.keep_draft()
    for key in [Key("alt-9"), *[typed("9")] * 5_000]:
        line.press(key)
    assert len(line.resolver.digits) < 10
    line.press(Key("left"))
    assert line.draft.cursor == 0


def test_a_walk_after_a_search_goes_through_all_entries() -> None:
    past = ListHistory(["alpha", "beta one", "beta two"])
    walk = Recall(past)
    entry = past.older(None, "beta two", begins=True, seen=())
    assert entry is not None
    walk.start(entry)
    shown = [walk.entry.text for _ in range(3) if walk.older("") and walk.entry]
    assert shown == ["beta one", "alpha"]
    for text in ("beta one", "beta two", None):
        assert walk.newer()
        assert (walk.entry and walk.entry.text) == text
    assert not walk.newer()


def test_keys_that_are_pressed_again_are_not_recorded_and_may_begin_a_recording() -> None:
    macros, keys = Macros(), [typed("a"), typed("b")]
    macros.begin()
    for key in macros.pressed_again(keys, 2):
        macros.note(key)
    assert macros.recording == []
    macros.note(keys[0])
    macros.note(keys[1])
    assert macros.end(beyond=1) == ("", [keys[0]])
    assert macros.last == [keys[0]]
    for _ in macros.pressed_again(keys, 1):
        macros.begin("q")
    macros.note(keys[1])
    assert macros.end(beyond=0) == ("q", [keys[1]])
