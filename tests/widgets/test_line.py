"""What the keys of a line do, from the key to the text.

Modules: ``widgets.line``, ``widgets.line_actions``.
"""

from __future__ import annotations

import random
import sys
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon.editing.brackets import matching
from wesperon.editing.editor import STATEFUL_EDITS, Memory
from wesperon.editing.edits import CHANGES, DELETIONS, MOVES, SELECTING
from wesperon.editing.entry_actions import ENTRY_ACTIONS
from wesperon.editing.graphemes import snap_to_grapheme
from wesperon.editing.history_view import ListHistory
from wesperon.editing.keys.action_help import ACTIONS, LAYER_NAMES, OF_MODAL, layer_name
from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.events import Event, Key, Mouse, Paste, typed
from wesperon.editing.keys.macros import Macros
from wesperon.editing.keys.modal import MODAL
from wesperon.editing.keys.modeless import MODELESS, TABLE
from wesperon.editing.keys.resolver import KeyResolver, spoken
from wesperon.editing.modal.commands import NAMES
from wesperon.editing.modal.operators import OPERATORS
from wesperon.editing.text_state import TextState
from wesperon.screen.frame import row_text
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.scripted import key_named
from wesperon.testing import Press, Scripted
from wesperon.values import Complaint
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.history_page import HistoryPage
from wesperon.widgets.line import Line
from wesperon.widgets.line_actions import LINE_ACTIONS
from wesperon.widgets.modal_line import ACTIONS as MODAL_ACTIONS
from wesperon.widgets.notice import Notice
from wesperon.widgets.pager.moves import MOVES as PAGED
from wesperon.widgets.pager.pager import ASKED, Pager
from wesperon.widgets.parts.screen_widget import ScreenWidget
from wesperon.widgets.parts.simple_parts import Button
from wesperon.widgets.parts.table import Table
from wesperon.widgets.parts.tabs import TabRow
from wesperon.widgets.question import Question
from wesperon.widgets.secret import Secret
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.summary import Summary
from wesperon.widgets.widget import Answered, Prompt
from wesperon.widgets.yes_no import YesNo

PROMPT = Prompt("desk", 4)
PAST = ["expose HOLLIN-051 90", "note 'first light'", "queue", "expose HOLLIN-007 30"]


def keys(text: str) -> list[Key]:
    """Keys by name, with blanks between; what is not a key's name is typed."""
    made = []
    for name in text.split(" "):
        is_named = name in ("space", "enter", "up", "down", "left", "right", "home", "end", "tab", "escape") or (
            name.startswith(("ctrl-", "alt-", "shift-")) or name in ("backspace", "delete", "insert")
        )
        made += [Key(name, " " if name == "space" else "")] if is_named else [typed(char) for char in name]
    return made


def pressed(line: Line, text: str) -> str:
    for key in keys(text):
        line.press(key)
    draft = line.draft
    return f"{draft.text[: draft.cursor]}|{draft.text[draft.cursor :]}"


@tabled
def test_keys_do_what_hands_expect(script: str, result: str) -> None:
    assert pressed(Line(str), script) == result


@tabled
def test_earlier_entries_come_back(script: str, result: str) -> None:
    assert pressed(Line(str, past=ListHistory(PAST)), script) == result


def test_the_hint_and_the_search_are_seen() -> None:
    line = Line(str, past=ListHistory(PAST))
    pressed(line, "que")
    row = Question(PROMPT, line).view(60, 10).rows[0]
    assert row[-2:] == (("que", ""), ("ue", "hint"))
    pressed(line, "ctrl-u ctrl-r 05")
    frame = Question(PROMPT, line).view(60, 10)
    assert frame.text().splitlines()[:2] == ["  desk  expose HOLLIN-051 90", "        search  05"]
    assert ("05", "match") in frame.rows[0]
    assert frame.cursor == (1, 18)
    pressed(line, "zz")
    assert "no older entry contains it" in Question(PROMPT, line).view(60, 10).text()
    assert pressed(line, "enter") == "expose HOLLIN-|051 90"
    assert line.outcome == Answered("expose HOLLIN-051 90")


def test_a_line_accepted_to_be_gone_on_from_has_its_successor_ready() -> None:
    memory = Memory()
    line = Line(str, past=ListHistory(PAST), memory=memory)
    pressed(line, "alt-< ctrl-o")
    assert line.outcome == Answered("expose HOLLIN-051 90")
    assert Line(str, past=ListHistory(PAST), memory=memory).draft.text == "note 'first light'"


def test_pending_keys_are_shown() -> None:
    resolver = KeyResolver(Bindings().keymap, MODELESS.start, Macros())
    shown = []
    for key in keys("alt-1 2 ctrl-x"):
        assert resolver.press(key) is None
        shown.append(resolver.shown)
    assert shown == ["count 1", "count 12", "count 12   Ctrl-X ..."]
    assert spoken("ctrl-alt-page-up") == "Ctrl-Alt-Page Up"


@tabled
def test_the_cursor_goes_anywhere_in_several_lines(script: str, result: str) -> None:
    assert pressed(SeveralLines(str), script) == result


def test_enter_adds_a_line_or_accepts_as_the_program_says() -> None:
    def asked(script: str, **settings: Any) -> SeveralLines:
        line = SeveralLines(str, **settings)
        pressed(line, script)
        return line

    assert asked("a enter b alt-enter").outcome == Answered("a\nb")
    assert asked("a enter b ctrl-d").outcome == Answered("a\nb")
    assert asked("a left ctrl-d").outcome is None
    ends = {"is_whole": lambda text: text.endswith(";")}
    assert asked("a enter b; enter", **ends).outcome == Answered("a\nb;")
    assert asked("a; alt-enter b alt-enter", **ends).outcome == Answered("a;\nb")
    assert asked("enter", default="old\nnote").outcome == Answered("old\nnote")


@given(st.lists(st.sampled_from([*TABLE, "a", "é", "日", "enter", "(", "alt-3"]), max_size=25), st.integers(2, 40),
       st.integers(1, 9))  # fmt: skip
@example(["alt-<", "ctrl-u", "down", "alt-."], 2, 1)  # an entry that was emptied has no last word
def test_a_text_higher_than_the_terminal_scrolls_with_the_cursor_in_sight(
    names: list[str], columns: int, rows: int
) -> None:
    line = SeveralLines(str, default="one\ntwo 日本\nthree\tx\n\nfive" * 3, past=ListHistory(PAST))
    for names_of_one in names:
        for name in names_of_one.split(" "):
            line.press(typed(name) if len(name) == 1 else Key(name))
        if line.outcome is not None:
            break
        frame = Question(PROMPT, line).view(columns, rows)
        assert len(frame.rows) <= rows
        assert frame.cursor is not None
        assert 0 <= frame.cursor[0] < rows
        assert 0 <= frame.cursor[1] < columns


@pytest.mark.parametrize("kind", [Line, SeveralLines, Secret])
def test_random_keys_leave_every_line_whole(kind: type[Line]) -> None:
    rolled = random.Random(7)
    parts = [part for names in TABLE for part in names.split(" ")] + list("ab 1(é日")
    for _ in range(30):
        line = kind(str, past=ListHistory(PAST))
        for _ in range(150):
            name = rolled.choice(parts)
            event: Event = typed(name) if len(name) == 1 else Key(name)
            line.press(Paste("x\ny") if rolled.random() < 0.02 else event)
            frame = Question(PROMPT, line).view(rolled.choice((1, 20, 80)), rolled.choice((1, 3, 24)))
            draft = line.draft
            assert 0 <= draft.cursor <= len(draft.text)
            assert frame.rows
            if line.outcome is not None:
                break


def test_a_click_puts_the_cursor_there() -> None:
    line = SeveralLines(str, default="one\ntwo words\n日本")
    question = Question(PROMPT, line)
    for row, column, cursor in [(1, 12, 8), (0, 30, 3), (2, 10, 15), (2, 9, 14), (7, 1, 14)]:
        clicks = question.view(40, 10).clicks
        question.drawn()
        question.press(clicks.aimed(Mouse("left", "press", row, column)))
        assert line.draft.cursor == cursor


def test_a_note_stands_at_the_right_edge_while_there_is_room() -> None:
    line = Line(str)
    question = Question(Prompt("desk", 4, note="3 queued"), line)
    assert question.view(40, 5).rows[0][-1] == ("3 queued", "note")
    assert len("".join(text for text, _ in question.view(40, 5).rows[0])) == 39
    pressed(line, "x" * 25)
    assert question.view(40, 5).rows[0][-1] == ("x" * 25, "")


def test_a_prompt_may_have_several_lines_and_the_cursor_a_shape() -> None:
    line = Line(str)
    question = Question(Prompt("desk", 4, "dome open\n4 degrees"), line)
    assert question.view(40, 9).text().splitlines()[:3] == ["  desk  dome open", "        4 degrees", ""]
    pressed(line, "insert")
    assert question.view(40, 9).shape == "underline"


def test_a_text_is_checked_while_it_is_typed_where_that_is_wanted() -> None:
    def even(text: str) -> str:
        if len(text) % 2:
            raise Complaint("an even length is wanted", 0)
        return text

    line = Line(even, live=True)
    pressed(line, "abc")
    assert "an even length" in Question(PROMPT, line).view(60, 5).text()
    assert line.draft.cursor == 3
    pressed(line, "enter")
    assert line.draft.cursor == 3
    pressed(line, "x")
    assert "an even length" not in Question(PROMPT, line).view(60, 5).text()


def test_a_secret_shows_nothing_or_a_mask_and_leaves_no_trace() -> None:
    memory = Memory()
    shown = Secret(str, memory=memory)
    hidden = Secret(str, mask="", memory=memory)
    for line in (shown, hidden):
        line.press(Paste("moonstone\n"))
        pressed(line, "alt-backspace ctrl-y ctrl-x (")
        assert [line.press(key_named(name)) for name in ("ctrl-x", "ctrl-e")] == [None, None]
        assert "moon" not in Question(PROMPT, line).view(60, 5).text()
    assert Question(PROMPT, shown).view(60, 5).rows[0][-1][0] == "*" * 9
    assert Question(PROMPT, hidden).view(60, 5).cursor == (0, 8)
    assert "Nothing is shown" in Question(PROMPT, hidden).view(60, 5).text()
    pressed(hidden, "enter")
    assert hidden.outcome == Answered("moonstone")
    assert "moon" not in repr(vars(hidden.editor)) + repr(vars(hidden.memory)) + repr(vars(memory))


def test_every_act_is_described_and_there_and_every_key_has_one() -> None:
    there = {*MOVES, *DELETIONS, *CHANGES, *STATEFUL_EDITS, *SELECTING, *ENTRY_ACTIONS, *LINE_ACTIONS, *Line.ACTIONS}
    there |= {*Checkboxes.ACTIONS, *YesNo.ACTIONS, *Summary.ACTIONS, *Notice.ACTIONS}
    there |= {*Pager.ACTIONS, *ASKED, *PAGED, *HistoryPage.ACTIONS}
    there |= {*ScreenWidget.ACTIONS, *Table.ACTIONS, *TabRow.ACTIONS, *Button.ACTIONS}
    assert set(ACTIONS) - OF_MODAL == there - OF_MODAL
    elsewhere = {"use-register", "mode-insert", *OPERATORS, *MODAL_ACTIONS}
    assert OF_MODAL - elsewhere == NAMES - {"move-line-start", "move-bracket-match"}
    assert set(TABLE.values()) <= there
    assert {action for layer in MODELESS.layers.values() for action in layer.values()} <= there
    assert set(LAYER_NAMES) - {"one-line"} == set(MODELESS.layers)
    assert all(layer_name(layer) for layer in MODAL.layers)


def test_what_a_program_binds_is_done() -> None:
    driver = Scripted([Press("f5"), Press("ctrl-x"), "t", Press("ctrl-t"), Press("enter")])
    bindings: dict[str, object] = {
        "f5": lambda draft: TextState(draft.text + "now", 0),
        "Ctrl-X t": {"text": "(x)"},
        "ctrl-t": "move-text-end",
    }
    assert driver.run(Line(str), DriverOptions({"bindings": bindings})) == Answered("(x)now")


@given(st.text(st.sampled_from("()[]a"), max_size=12), st.integers(0, 12))
def test_brackets_belong_together_both_ways(text: str, cursor: int) -> None:
    pair = matching(text, min(cursor, len(text)))
    if pair is not None:
        assert matching(text, pair[1]) in ((pair[1], pair[0]),)


HUGE = 200_000


@pytest.mark.parametrize("lines", [False, True])
@pytest.mark.parametrize("piece", ["a", "a\t", "ab\n", "日本", "e\u0301", "\x1b[A", "👩\u200d🚀"])
def test_a_key_in_a_huge_text_costs_what_is_in_sight(piece: str, lines: bool) -> None:
    """Counted in calls, which a slow machine does not change; and what is shown is the text around the cursor."""
    calls = []
    for size in (HUGE // 4, HUGE):
        line: Line = (SeveralLines if lines and piece != "ab\n" else Line)(str)
        line.press(Paste(piece * (size // len(piece))))
        line.view(60, 8)
        count = 0

        def note(frame: object, event: str, argument: object) -> None:
            nonlocal count
            count += event in ("call", "c_call")

        sys.setprofile(note)
        for key in (
            typed("x"),
            typed("é"),
            Key("left"),
            Key("backspace"),
            Key("home"),
            typed("y"),
            Key("end"),
            typed("z"),
        ):
            line.press(key)
            frame = line.view(60, 8)
        sys.setprofile(None)
        calls.append(count)
        assert frame.cursor is not None
        assert "z" in row_text(frame.rows[frame.cursor[0]])
        line.press(Key("home"))
        assert "y" in row_text(line.view(60, 8).rows[0]) or "\n" in piece
    assert calls[1] < calls[0] * 1.2 + 200, calls


@given(st.integers(0, 1 << 16), st.sampled_from(["ab日", "a\u0301b", "x\ty", "é"]), st.integers(10, 60))
@settings(deadline=None, max_examples=30)
def test_a_click_in_a_huge_line_finds_the_character_under_it(at: int, piece: str, columns: int) -> None:
    text = piece * (40_000 // len(piece))
    line = Line(str, default=text)
    line.keep_draft()
    at = snap_to_grapheme(text, min(at, len(text)))
    line.editor.move(at)
    frame = line.view(columns, 5)
    assert frame.cursor is not None
    line.press(Mouse("left", "press", *frame.cursor))
    assert line.draft.cursor == at


def test_a_count_recalls_in_one_go(monkeypatch: pytest.MonkeyPatch) -> None:
    """Ten thousand entries are passed without showing each, and without a new set of what was seen for each."""
    sets: set[int] = set()
    shown: list[str] = []

    class Past(ListHistory):
        def older(self, place: Any, needle: str, *, begins: bool, seen: Any) -> Any:
            sets.add(id(seen))
            return super().older(place, needle, begins=begins, seen=seen)

        def hint(self, beginning: str) -> str:
            shown.append(beginning)
            return ""

    line = Line(str, past=Past([f"entry {number}" for number in range(12_000)]))
    assert pressed(line, "alt-9 9 9 9 up") == "entry 2001|"
    assert pressed(line, "alt-9 9 9 9 down") == "|"
    assert pressed(line, "alt-5 0 0 0 ctrl-p alt-- ctrl-p") == "entry 7001|"
    assert len(sets) <= 3
    assert len(shown) <= 4
