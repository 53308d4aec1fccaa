"""Bindings of the user's own, and of the program's.

Modules: ``editing.keys.bindings``, ``editing.keys.families``.
"""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.harness import ENTER, Terminal, example, python
from tests.tables import tabled
from wesperon import DeclarationError
from wesperon.editing.keys.bindings import Bindings, read_keys
from wesperon.editing.keys.events import Key
from wesperon.terminal.preferences import load
from wesperon.values.candidate import Candidate
from wesperon.widgets.line import Line


@tabled
def test_keys_are_written_in_any_order_and_case(written: str, read: str) -> None:
    assert read_keys(written) == (read, "")


@tabled
def test_a_table_of_bindings_is_checked(table: dict[str, object], faults: dict[str, str]) -> None:
    found = Bindings().add(table, {"tonight": lambda draft: draft})
    assert list(found) == list(faults)
    for key, reason in faults.items():
        assert reason in found[key]


def test_a_key_hides_the_sequences_that_begin_with_it() -> None:
    bindings = Bindings()
    assert bindings.add({"ctrl-x": "undo"}, {}) == {}
    assert bindings.hidden()["ctrl-x ctrl-e"] == "ctrl-x"


@tabled
def test_faults_of_a_file_name_line_key_and_the_nearest_right_name(
    text: str | bytes, told: list[str], tmp_path: Path
) -> None:
    path = tmp_path / "preferences.toml"
    path.write_bytes(text if isinstance(text, bytes) else text.encode())
    bindings, faults = load({}, {}, [str(path)])
    assert len(faults) == len(told)
    assert all(part in fault and str(path) in fault for part, fault in zip(told, faults, strict=True))
    assert (bindings.keys.get("ctrl-t") == "undo") == ("ctrl-t" in str(text) and "parsed" not in told[0])


def test_a_program_s_own_bindings_are_right_from_the_start() -> None:
    with pytest.raises(DeclarationError, match="ctrl-t: "):
        load({"ctrl-t": "undoo"}, {}, [])


def test_a_file_of_the_user_s_own_is_obeyed_and_its_faults_are_told_once(tmp_path: Path) -> None:
    for name, text in [
        ("wesperon", '[bindings]\n"f5" = { text = "Lantern" }\n"ctrl-x l" = "nonesuch"\n"f6" = "delete-text-whole"\n'),
        ("nightplan", '[bindings]\n"f6" = { text = " Nebula" }\n"ctrl-t" = "uppercase-word"\n'),
    ]:
        (tmp_path / name).mkdir()
        (tmp_path / name / "preferences.toml").write_text(text)
    with Terminal(example("nightplan.py"), env={"XDG_CONFIG_HOME": str(tmp_path)}, columns=160) as terminal:
        terminal.see("Target")
        terminal.quiet()
        terminal.see('line 3: ctrl-x l: "nonesuch" is not an action')
        terminal.type("\x1b[15~\x1b[17~\x1bb\x14" + ENTER)
        terminal.see("Frames")
        assert "Target  Lantern NEBULA" in terminal.text()
        assert terminal.text().count("not an action") == 1


def test_the_list_of_keys_has_the_user_s_own(tmp_path: Path) -> None:
    (tmp_path / "wesperon").mkdir()
    (tmp_path / "wesperon" / "preferences.toml").write_text('[bindings]\n"f5" = "undo"\n"ctrl-x" = "redo"\n')
    env = {"XDG_CONFIG_HOME": str(tmp_path)}
    with Terminal(python("-m", "wesperon", "keys", "--list"), env=env, rows=500, columns=100) as terminal:
        assert terminal.end() == 0
        assert "Ctrl-_, Ctrl-X Ctrl-U, F5" in terminal.text()
        assert "Ctrl-X Ctrl-E cannot be typed: Ctrl-X is bound" in terminal.text()


def test_the_list_of_keys_of_the_modal_family_has_its_commands() -> None:
    with Terminal(python("-m", "wesperon", "keys", "--list"), env={"WESPERON_KEYS": "modal"}, rows=600) as terminal:
        assert terminal.end() == 0
        text = terminal.text()
    assert "In menus, checkboxes and the last look, command mode" in text
    for action, key in (("move-word-start-forward", "w"), ("append-last-word", "_"), ("insert-register", "Ctrl-R")):
        assert f"{action:26}  {key}" in text


def test_keys_are_shown_as_they_are_pressed() -> None:
    with Terminal(python("-m", "wesperon", "keys"), columns=100) as terminal:
        modes = terminal.initial
        terminal.see("does")
        for sent, row in [
            ("\x1b[1;5C", "^[[1;5C           Ctrl-Right        move-word-forward: to the end of the word after"),
            ("x", 'x                 x                 types "x"'),
            ("\x1b", "^[                Escape            makes of the next key the same with Alt"),
            ("\x1b[99~", "^[[99~            no key            nothing"),
            ("\x18", "^X                Ctrl-X            begins Ctrl-X Backspace"),
        ]:
            terminal.type(sent)
            terminal.see(row)
        terminal.type("\x03\x03")
        assert terminal.end() == 0
        assert terminal.modes() == modes


def test_a_user_says_how_what_a_word_may_become_is_shown(tmp_path: Path) -> None:
    path = tmp_path / "preferences.toml"
    path.write_text('suggestions = "inline"\n')
    bindings, faults = load({}, {}, [str(path)])
    assert faults == []
    line = Line(str, complete=lambda text, cursor: (0, [Candidate("expose"), Candidate("export")]))
    line.bind(bindings)
    for key in ("tab", "tab", "tab"):
        line.press(Key(key))
    assert line.text == "export"
