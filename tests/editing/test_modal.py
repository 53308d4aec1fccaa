"""The modal family: compared with a reference editor, and what holds after any keys.

Modules: ``editing.keys.modal``, ``editing.modal.commands``, ``editing.modal.modal_text``, ``editing.modal.motions``,
``editing.modal.operators``, ``editing.modal.places``, ``editing.modal.selection``, ``editing.modal.sentences``,
``editing.modal.text_objects``, ``editing.modal.visual``, ``widgets.modal_line``.
"""

from __future__ import annotations

import subprocess
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.editing import reference_editor
from tests.editing.reference_editor import compare, press
from tests.harness import Terminal, python
from tests.tables import tabled
from wesperon import DeclarationError, Form, one_of, slot
from wesperon.editing.edits import line_end, line_start
from wesperon.editing.history_view import ListHistory
from wesperon.editing.keys import modal
from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.events import Key, Paste
from wesperon.editing.keys.modal import MODAL
from wesperon.terminal.preferences import load
from wesperon.testing import Press, Scripted
from wesperon.values.candidate import Candidate
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.modal_line import key_of
from wesperon.widgets.secret import Secret
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.widget import Answered
from wesperon.widgets.yes_no import YesNo

KEYS = [*"hlwWeEbB0^$|%fFtT;,dcygxXDCsSYiaIARr~pP.u\"jk23ab(é vV'`mqJoO<>sn/", "\x1b", "\x16", "\r"]


def line(text: str = "", **settings: Any) -> Line:
    """A line with these keys, in command mode, the cursor on the first character; several lines if it has line ends."""
    made = SeveralLines(str, **settings) if "\n" in text else Line(str, **settings)
    made.bind(Bindings(MODAL))
    made.editor.put(text)
    made.editor.move(0)
    press(made, "\x1b")
    return made


def spans_of(made: Line) -> list[tuple[int, int]]:
    """Return what is selected in visual mode."""
    return [] if made.modal is None else made.modal.spans


@pytest.mark.skipif(reference_editor.EDITOR is None, reason="there is no reference editor here")
@pytest.mark.parametrize("lines", [False, True])
@pytest.mark.parametrize("seed", [1, 2, 3])
def test_random_commands_do_what_they_do_in_the_reference_editor(seed: int, lines: bool) -> None:
    assert compare(400, seed, lines=lines) == []


def test_enter_accepts_several_lines_in_command_mode_and_lines_open_below_and_above() -> None:
    made = SeveralLines(str)
    made.bind(Bindings(MODAL))
    assert made.foot().startswith("Escape Enter: accept")
    press(made, "one\x1b")
    assert made.foot().startswith("Enter: accept")
    press(made, "otwo\x1bOhalf\x1bggyyGp2k>>")
    assert made.text == "one\n    half\ntwo\none"
    press(made, "ggdGithree\x1b")
    made.press(Key("enter"))
    assert made.outcome == Answered("three")


@given(st.text("ab (é_.\u0301\n", max_size=8), st.lists(st.sampled_from(KEYS), max_size=40))
@settings(max_examples=80)
def test_in_command_mode_the_cursor_is_on_a_character_after_any_keys(text: str, keys: list[str]) -> None:
    made = line(text)
    for key in keys:
        made.press(key_of(key))
        if made.outcome is not None:
            return
        assert 0 <= made.draft.cursor <= len(made.text)
        assert all(0 <= start <= end <= len(made.text) for start, end in spans_of(made))
        if made.resolver.mode == "command" and not made.resolver.is_pending:
            start, end = line_start(made.text, made.draft.cursor), line_end(made.text, made.draft.cursor)
            assert made.draft.cursor < end or start == end
    for _ in range(3):
        made.press(Key("escape"))
    assert made.resolver.mode == "command"
    made.press(Key("enter"))
    assert made.outcome == Answered(made.text)


@given(
    st.text("ab c", min_size=1, max_size=8),
    st.lists(st.sampled_from(["x", "dw", "ccq\x1b", "Ab\x1b", "~", "p", "Rzz\x1b"]), max_size=8),
)
def test_every_change_is_one_step_that_can_be_undone_and_done_again(text: str, commands: list[str]) -> None:
    made = line(text)
    made.editor.undo_steps.clear()
    texts = [made.text]
    for command in commands:
        press(made, command)
        if made.text != texts[-1]:
            texts.append(made.text)
    for earlier in reversed(texts[:-1]):
        press(made, "u")
        assert made.text == earlier
    for later in texts[1:]:
        made.press(Key("ctrl-r"))
        assert made.text == later


def test_registers_keep_what_was_taken_and_capitals_add_to_them() -> None:
    made = line("one two")
    press(made, '"ayw')
    press(made, '"Aye')
    press(made, "D")
    press(made, '"ap')
    assert made.text == "one one"
    press(made, '$"bp')
    assert made.text == "one one"
    press(made, "p")
    assert made.text == "one oneone two"


@tabled
def test_objects_are_taken_from_anywhere_in_them(text: str, keys: str, left: str) -> None:
    made = line(text)
    press(made, keys)
    assert made.text == left


@tabled
def test_what_is_selected_is_what_a_command_acts_on(text: str, keys: str, left: str) -> None:
    made = line(text)
    press(made, keys)
    assert made.text == left
    assert made.resolver.mode == "command"


def test_a_selection_is_shown_and_the_mode_with_it() -> None:
    made = line("lantern nebula")
    press(made, "wv")
    made.press(Key("right"))
    assert made.mode_label == "visual mode"
    frame = made.view(80, 5)
    assert ("ne", "selected") in [(text, role) for text, role in frame.rows[0]]
    press(made, "\x1b")
    assert all(role != "selected" for _, role in made.view(80, 5).rows[0])


def test_an_operator_that_is_left_does_nothing_and_what_waits_is_shown() -> None:
    made = line("lantern nebula")
    press(made, "2d")
    assert "delete" in made.pending
    press(made, "\x1b")
    assert made.pending == ""
    press(made, "w")
    assert made.text == "lantern nebula"
    assert Bindings().add({"ctrl-t": "mode-command"}, {})["ctrl-t"].endswith("is an action of the modal family of keys")
    press(made, "df")
    assert "character" in made.pending
    press(made, "b")
    assert made.text == "lantern ula"


def test_a_default_is_kept_by_escape_and_replaced_by_the_first_character() -> None:
    for keys, text in (("x", "x"), ("\x1bx", "pla"), ("\x1bAs", "plans")):
        made = Line(str, default="plan")
        made.bind(Bindings(MODAL))
        press(made, keys)
        assert made.text == text


def test_a_text_that_was_pasted_in_insert_mode_is_part_of_the_insertion() -> None:
    made = line("ac")
    press(made, "a")
    made.press(Paste("bb"))
    press(made, "\x1bu")
    assert made.text == "ac"


def test_every_key_of_the_family_has_a_description_and_operators_are_the_tables() -> None:
    from wesperon.editing.keys.action_help import ACTIONS

    for mode in MODAL.modes.values():
        assert set(mode.table.values()) <= set(ACTIONS)
    assert MODAL.operators == set(modal.OPERATORS.values())


def test_the_mode_shows_in_the_foot_line_and_in_the_shape_of_the_cursor() -> None:
    code = "from wesperon import fill, slot; print(fill(target=slot()).target + '.')"
    with Terminal(python("-c", code), env={"WESPERON_KEYS": "modal"}) as terminal:
        terminal.see("insert mode   Enter: accept")
        assert b"\x1b[6 q" in terminal.received
        terminal.quiet()
        terminal.type("lantern nebula")
        terminal.type("\x1bbD")  # Escape and the next key in one piece
        terminal.see("command mode")
        assert b"\x1b[2 q" in terminal.received
        terminal.type("2Xa?\x1b0~R")
        terminal.see("replace mode")
        terminal.type("M\x1b\r")
        terminal.see("LMnte ?.")
        assert terminal.received.rstrip().endswith(b".") or b"\x1b[0 q" in terminal.received
        assert terminal.end() == 0


def test_who_says_which_family_it_is_and_in_which_order(tmp_path: Path) -> None:
    path = tmp_path / "preferences.toml"
    path.write_text('keys = "modal"\n[bindings]\n"ctrl-t" = "delete-line-end"\n')
    for program, environ, name in (
        ({}, {}, "modal"),
        ({"keys": "modeless"}, {}, "modal"),
        ({}, {"WESPERON_KEYS": "modeless"}, "modeless"),
    ):
        bindings, faults = load({}, {}, [str(path)], program, environ)
        assert (bindings.family.name, faults) == (name, [])
    assert load({}, {}, [], {"keys": "modal"})[0].family.name == "modal"
    path.write_text('keys = "modall"\n')
    bindings, faults = load({}, {}, [str(path)], None, {"WESPERON_KEYS": "loud"})
    assert bindings.family.name == "modeless"
    assert "line 1" in faults[0]
    assert "nearest: modal" in faults[0]
    assert "WESPERON_KEYS" in faults[1]

    class Plan(Form):
        target = slot()

    script: list[Any] = ["lantern", Press("escape"), "x", Press("enter")]
    assert Plan.fill([], keys="modal", driver=Scripted(script)).target == "lanter"
    with pytest.raises(DeclarationError, match="not one of 'modeless', 'modal'"):
        Plan.fill([], keys="loud", driver=Scripted(["x", Press("enter")]))


def test_what_is_looked_for_is_typed_and_escape_goes_back_to_command_mode() -> None:
    made = line("", past=ListHistory(["expose one", "queue", "expose two"]))
    press(made, "/one")
    assert made.editor.finder is not None
    assert made.shown.text == "expose one"
    press(made, "\x1b")
    assert made.editor.finder is None
    assert (made.text, made.resolver.mode) == ("expose one", "command")
    press(made, "0cwqueue\x1b")
    assert made.text == "queue one"
    again = line("", past=ListHistory(["expose one", "queue", "expose two"]))
    press(again, "kkj")
    assert again.text == "expose two"
    press(again, "-")
    assert (again.text, again.draft.cursor) == ("queue", 0)


WIDGETS: list[Any] = [
    lambda: Line(str, past=ListHistory(["one two"]), complete=lambda text, at: (0, [Candidate("a"), Candidate("b")])),
    lambda: SeveralLines(str, past=ListHistory(["one\ntwo"])),
    lambda: Secret(str, twice=True, mask="*"),
    lambda: YesNo(str),
    lambda: Menu(one_of(list("abcdef")).choices, str),
]


MORE_KEYS = [*KEYS, *"/?*=n#_mq@`'VGHML+-(){}\\N", "enter", "tab", "up", *(f"ctrl-{key}" for key in "wutdroavn")]


@given(st.sampled_from(WIDGETS), st.lists(st.sampled_from(MORE_KEYS), max_size=50))
@settings(max_examples=60, deadline=None)
def test_any_keys_leave_every_widget_whole(make: Any, keys: list[str]) -> None:
    widget = make()
    widget.bind(Bindings(MODAL))
    for key in keys:
        widget.press(Key(key) if len(key) > 1 else key_of(key))
        if widget.outcome is not None:
            return
        frame = widget.view(20, 3)
        assert len(frame.rows) <= 3


BLOCK = "abcd\nefgh\nij\nklmn"


@tabled
def test_blocks_marks_searches_macros_and_keys_of_insert_mode(text: str, keys: str, left: str) -> None:
    made = line(text)
    for char in keys:
        made.press(key_of(char))
    assert made.text == left


def test_h_m_and_l_go_to_the_lines_that_are_shown() -> None:
    made = line("\n".join(f"  {number}" for number in range(50)))
    for _ in range(30):
        made.press(Key("down"))
    rows = made.view(20, 9).rows
    made.drawn()
    first, last = (int(rows[at][0][0]) for at in (0, -1))
    for keys, number in (("H", first), ("L", last), ("M", (first + last) // 2), ("3H", first + 2), ("2L", last - 1)):
        press(made, keys)
        made.view(20, 9)
        made.drawn()
        assert made.text[line_start(made.text, made.draft.cursor) : line_end(made.text, made.draft.cursor)] == (
            f"  {number}"
        )
        assert made.text[made.draft.cursor] != " "


def test_keys_of_one_line_take_from_the_history_as_the_line_of_a_shell_does() -> None:
    past = ListHistory(["expose one", "queue", "expose two three"])
    made = line("say", past=past)
    press(made, "$_!\x1b")
    assert made.text == "say three!"
    made = line("", past=past)
    press(made, "2_\x1b")
    assert made.text == "two"
    made = line("", past=past)
    press(made, "/exp\r")
    assert (made.text, made.outcome) == ("expose two three", None)
    press(made, "n")
    assert made.text == "expose one"
    press(made, "N")
    assert made.text == "expose two three"
    press(made, "nn")
    assert made.modal is not None
    assert made.modal.commands.failed
    made.press(Key("enter"))
    assert made.outcome == Answered("expose one")


def test_candidates_are_listed_and_put_in_and_typing_goes_on() -> None:
    made = line("say ab", complete=lambda text, at: (4, [Candidate("abc"), Candidate("abd")]))
    press(made, "$=")
    assert [one.text for one in made.editor.candidates] == ["abc", "abd"]
    assert made.resolver.mode == "command"
    press(made, "*x\x1b")
    assert made.text == "say abc abd x"
    made = line("say ab", complete=lambda text, at: (4, [Candidate("abc")]))
    press(made, "$\\x\x1b")
    assert made.text == "say abc x"


@pytest.mark.parametrize("make", [Menu, Checkboxes])
def test_menus_are_moved_in_by_letters_and_filtered_after_a_slash(make: Any) -> None:
    made = make(one_of(["red", "green", "blue", "grey"]).choices, str)
    made.bind(Bindings(MODAL))
    for keys, at in (("j", 1), ("jj", 3), ("k", 2), ("gg", 0), ("G", 3), ("2k", 1)):
        for key in keys:
            made.press(key_of(key))
        assert made.current == at, keys
    for key in "/gre\r":
        made.press(key_of(key))
    assert list(made.listed) == [1, 3]
    assert made.outcome is None
    for key in "gGn":
        made.press(key_of(key))
    assert made.current in (1, 3)
    made.press(Key("enter"))
    assert isinstance(made.outcome, Answered)


def test_a_text_opens_in_the_mode_that_the_user_prefers() -> None:
    bindings = Bindings(MODAL)
    bindings.start_mode = "command"
    made = Line(str, default="plan")
    made.bind(bindings)
    press(made, "x")
    assert (made.text, made.resolver.mode) == ("pla", "command")


def test_the_family_is_loaded_only_where_it_is_chosen() -> None:
    code = (
        "import sys\nfrom wesperon import Form, slot\nfrom wesperon.testing import Scripted, Press\n"
        "class Plan(Form):\n    target = slot()\n    note = slot(lines=True)\n"
        "Plan.fill([], driver=Scripted(['a', Press('enter'), 'b', Press('ctrl-d')]), keys=sys.argv[1])\n"
        "print(sorted(name for name in sys.modules if 'modal' in name and 'modeless' not in name))"
    )
    loaded = {
        keys: subprocess.run(python("-c", code, keys), capture_output=True, text=True, check=True).stdout
        for keys in ("modeless",)
    }
    assert loaded == {"modeless": "[]\n"}


def test_a_secret_is_typed_twice_in_texts_of_their_own_and_nothing_of_it_stays() -> None:
    for first, second in (("abc", "abcd\x1bx"), ("abc\x1b", "abc"), ("xabc\x1b0x", "abc\x1byyp$x\x1bu")):
        made = Secret(str, twice=True, mask="*")
        made.bind(Bindings(MODAL))
        for keys in (first, "\r", second):
            for key in keys:
                made.press(key_of(key))
        if second.endswith("u"):
            made.press(key_of("u"))
            assert made.text == "abc"
        made.press(Key("enter"))
        assert made.outcome == Answered("abc")
        assert made.modal is not None
        assert made.modal.commands.editor is made.editor
        assert (made.text, made.memory.ring, made.memory.registers) == ("", [], {})


def test_keys_that_play_themselves_come_to_an_end() -> None:
    class Counted(Line):
        pressed = 0

        def press(self, event: Any) -> None:
            self.pressed += 1
            assert self.pressed < 30_000, "it plays on and on"
            super().press(event)

    for played in ("0~@a", "0~@a@a", "0~2@b"):
        made = Counted(str)
        made.bind(Bindings(MODAL))
        made.editor.put("lantern")
        made.memory.registers.update({"a": played, "b": "@a@a"})
        press(made, "\x1b99@a")
        assert made.text.lower() == "lantern"
        assert made.memory.macros.depth == 0


class NaiveHistory:
    """Earlier entries as a hand knows them: a place among them, or the line that was being typed (the end)."""

    def __init__(self, entries: list[str]) -> None:
        self.entries = entries
        self.at = len(entries)
        self.needle, self.back = "", True

    @property
    def text(self) -> str:
        return self.entries[self.at] if self.at < len(self.entries) else ""

    def do(self, keys: str) -> None:
        """Do what some keys do."""
        if keys.endswith("k"):
            self.at = max(self.at - (int(keys[:-1] or 1)), 0)
        elif keys.endswith("j"):
            self.at = min(self.at + int(keys[:-1] or 1), len(self.entries))
        elif keys == "G":
            self.at = 0
        elif keys[0] in "/?":
            self.needle, self.back = keys[1], keys[0] == "/"
            self._find(self.back, here=True)
        else:
            self._find(self.back == (keys == "n"), here=False)

    def _find(self, back: bool, *, here: bool) -> None:
        if here and (self.text[:1] == self.needle if back else self.needle in self.text):
            return
        places = range(self.at - 1, -1, -1) if back else range(self.at + 1, len(self.entries))
        found = next((at for at in places if self.needle and self.needle in self.entries[at]), None)
        if found is not None:
            self.at = found


@given(
    st.lists(st.text("abc", min_size=1, max_size=4), unique=True, max_size=6),
    st.lists(st.sampled_from(["k", "j", "2k", "2j", "G", "/a\r", "/b\r", "?a\r", "n", "N", "?c\r"]), max_size=12),
)
@settings(max_examples=120, deadline=None)
def test_recalling_and_searching_in_command_mode_do_what_a_naive_model_does(
    entries: list[str], commands: list[str]
) -> None:
    made, model = line("", past=ListHistory(entries)), NaiveHistory(entries)
    for keys in commands:
        made.editor.move(0)
        for key in keys:
            made.press(key_of(key))
        model.do(keys)
        assert made.text == model.text, (keys, made.text, model.text)
        assert made.resolver.mode == "command"
