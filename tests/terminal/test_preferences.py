"""What a user prefers: where it is from, what is wrong in a file, how it is written, and the page of a program.

Modules: ``terminal.preferences``, ``terminal.preferred``, ``widgets.preferences_page``, ``tool.preferences``,
``widgets.preferences``.
"""

from __future__ import annotations

import json
import os
import subprocess
import tomllib
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import Terminal, python
from wesperon.files.toml_change import with_value
from wesperon.screen.themes import ROLES, THEMES
from wesperon.terminal.preferences import load, preferences_of
from wesperon.terminal.preferences_file import write_preferences
from wesperon.testing import Session
from wesperon.tool.main import main
from wesperon.tool.preferences_schema import schema
from wesperon.values import Complaint
from wesperon.widgets.preferences import PREFERENCES, SWITCHES
from wesperon.widgets.preferences_page import Chosen, PreferencesPage
from wesperon.widgets.widget import Answered

WORDS = st.text("abz 0#=\"'[]\\é\n\x7f", max_size=6)
VALUES = st.one_of(WORDS, st.booleans(), st.integers(), st.lists(WORDS, max_size=2), st.dictionaries(WORDS, WORDS))


def written(tmp_path: Path, text: str, name: str = "preferences.toml") -> str:
    """Return a file of preferences."""
    path = tmp_path / name
    path.write_text(text)
    return str(path)


def test_each_place_goes_before_those_before_it_and_says_so(tmp_path: Path) -> None:
    shared = written(tmp_path, 'keys = "modal"\nmouse = true\ntheme = "dark"\nsuggestions = "grid"\n', "a.toml")
    own = written(tmp_path, 'theme = "light"\nmouse = false\n', "b.toml")
    program = {"keys": "modeless", "theme": "colourless", "mouse": True}
    environ = {"WESPERON_THEME": "palette", "WESPERON_MOUSE": "1"}
    for places, theme, mouse, keys in (
        (([], {}, {}, {}), "palette", "no", "modeless"),
        (([], program, {}, {}), "colourless", "yes", "modeless"),
        (([shared], program, {}, {}), "dark", "yes", "modal"),
        (([shared, own], program, {}, {}), "light", "no", "modal"),
        (([shared, own], program, environ, {}), "palette", "yes", "modal"),
        (([shared, own], program, environ, {"theme": "dark"}), "dark", "yes", "modal"),
    ):
        held = preferences_of(*places)
        assert (held.values["theme"], held.values["mouse"], held.values["keys"]) == (theme, mouse, keys)
        assert held.faults == []
    assert held.origins["theme"] == "this run"
    assert held.origins["mouse"] == "WESPERON_MOUSE"
    assert held.origins["keys"] == f"{shared}, line 1"
    assert held.origins["suggestions"] == f"{shared}, line 4"
    assert held.origins["plain"] == "default"


def test_every_fault_has_its_file_its_line_and_the_nearest_name_and_everything_else_holds(tmp_path: Path) -> None:
    file = written(
        tmp_path,
        'kyes = "modal"\ntheme = "drak"\nmouse = 3\nplain = true\n\n[roles]\nfault = "bold"\nlabl = "cyan"\n'
        'note = "cyon"\n\n[bindings]\n"ctrl-t" = "undo"\n"ctrl-y" = "und"\n\n[bindings.modal.command]\nQ = "undo"\n'
        'Z = "und"\n[bindings.modal.comand]\nx = "undo"\n',
    )
    bindings, faults = load({}, {}, [file], {"keys": "modal"})
    for line, says in (
        (1, "nearest: keys"),
        (2, "nearest: dark"),
        (3, "mouse must be true or false"),
        (8, "nearest: label"),
        (9, "nearest: cyan"),
        (13, "nearest: undo"),
        (17, "nearest: undo"),
        (18, "no mode"),
    ):
        assert any(f"line {line}:" in fault and says in fault for fault in faults), (line, faults)
    assert len(faults) == 8
    held = preferences_of([file])
    assert held.values["plain"] == "yes"
    assert held.roles == {"fault": "bold"}
    assert bindings.keymap("insert").table["ctrl-t"] == "undo"
    assert bindings.keymap("command").table["Q"] == "undo"
    assert "Q" not in bindings.keymap("insert").table


def test_bindings_of_a_family_hold_in_that_family_only(tmp_path: Path) -> None:
    file = written(
        tmp_path,
        '[bindings.modeless]\n"ctrl-t" = "undo"\n[bindings.modal]\n"ctrl-t" = "redo"\n'
        '[bindings.modal.command]\n"g t" = { text = "tonight" }\n"j" = ""\n',
    )
    assert load({}, {}, [file])[0].keymap("insert").table["ctrl-t"] == "undo"
    modal, faults = load({}, {}, [file], {"keys": "modal"})
    assert faults == []
    assert modal.keymap("insert").table["ctrl-t"] == "redo"
    assert modal.keymap("command").table["g t"] == "text tonight"
    assert modal.keymap("command").table["j"] == ""
    file = written(tmp_path, '[bindings.modal.command]\nenter = "undo"\n"ctrl-j" = "undo"\n"ctrl-c" = ""\n')
    modal, faults = load({}, {}, [file], {"keys": "modal"})
    assert any("takes away the last key to stop asking" in fault for fault in faults)
    assert "interrupt" in modal.keymap("command").table.values()


@given(st.dictionaries(st.one_of(st.sampled_from([*PREFERENCES, "roles", "bindings"]), WORDS), VALUES, max_size=5))
@settings(max_examples=60, deadline=None)
def test_any_file_is_read_without_a_trace_and_what_the_schema_allows_has_no_fault(document: dict[str, Any]) -> None:
    import tempfile

    text = "\n".join(f"{json.dumps(name)} = {in_toml(value)}" for name, value in document.items())
    try:
        tomllib.loads(text)
    except ValueError:
        text = "[["
    with tempfile.TemporaryDirectory() as folder:
        file = written(Path(folder), text)
        bindings, faults = load({}, {}, [file], {"keys": "modal"})
    assert all("\x1b" not in fault and "\n" not in fault for fault in faults)
    assert any(name == "accept" for name in bindings.keymap("command").table.values())
    valid = jsonschema.Draft202012Validator(schema()).is_valid(document)
    if valid and text != "[[" and not document.get("bindings") and not document.get("roles"):
        assert faults == []


def in_toml(value: Any) -> str:
    """Return a value as TOML has it."""
    if isinstance(value, dict):
        return "{" + ", ".join(f"{json.dumps(key)} = {json.dumps(one)}" for key, one in value.items()) + "}"
    return json.dumps(value)


LINES = ["# a comment", "", 'keys = "modal"  # mine', "mouse = true", "[roles]", 'label = "cyan"', "[bindings]"]


@given(
    st.lists(
        st.sampled_from(
            ["# a comment", "", 'keys = "modal"  # mine', "mouse = true", "[roles]", 'label = "cyan"', "[bindings]"]
        ),
        unique=True,
        max_size=7,
    ),
    st.sampled_from([("theme",), ("keys",), ("roles", "label"), ("roles", "fault"), ("bindings", "ctrl-x e")]),
    WORDS,
)
@settings(max_examples=80, deadline=None)
def test_a_value_is_written_and_every_other_line_stays(rows: list[str], path: tuple[str, ...], value: str) -> None:
    text = "\n".join(rows)
    try:
        before = tomllib.loads(text)
    except ValueError:
        with pytest.raises(Complaint):
            with_value(text, path, json.dumps(value).replace("\x7f", "\\u007f"))
        return
    made = with_value(text, path, json.dumps(value).replace("\x7f", "\\u007f"))
    after = tomllib.loads(made)
    wanted: Any = json.loads(json.dumps(before))
    inner = wanted
    for part in path[:-1]:
        inner = inner.setdefault(part, {})
    inner[path[-1]] = value
    assert after == wanted
    kept = [row for row in rows if row.split("=")[0].strip() != path[-1]]
    assert [row for row in made.split("\n") if row in kept and row] == [row for row in kept if row]
    assert made.count("# mine") == text.count("# mine")


def test_the_tool_shows_what_holds_and_writes_it(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    assert main(["preferences", "set", "keys", "modal"]) == 0
    assert main(["preferences", "set", "mouse", "on", "--program", "night desk"]) == 0
    assert main(["preferences", "set", "roles.fault", "bold red"]) == 0
    assert main(["preferences", "set", "bindings.ctrl-t", "undo"]) == 0
    assert main(["preferences", "set", "bindings.modal.command.Q", "undo"]) == 0
    file = tmp_path / "wesperon" / "preferences.toml"
    assert tomllib.loads(file.read_text()) == {
        "keys": "modal",
        "roles": {"fault": "bold red"},
        "bindings": {"ctrl-t": "undo", "modal": {"command": {"Q": "undo"}}},
    }
    assert tomllib.loads((tmp_path / "night desk" / "preferences.toml").read_text()) == {"mouse": True}
    capsys.readouterr()
    assert main(["preferences", "--program", "night desk"]) == 0
    out = capsys.readouterr().out
    assert f"{file}, line 1" in out
    assert "roles.fault" in out
    assert "bindings.modal.command.Q" in out
    assert "night desk/preferences.toml, line 1" in out
    for words, says in (
        (["kyes", "modal"], "nearest: keys"),
        (["keys", "loud"], "must be one of modeless, modal"),
        (["roles.fualt", "bold"], "nearest: fault"),
        (["bindings.ctrl-t", "und"], "nearest: undo"),
        (["bindings.contrl-t", "undo"], "is not a key"),
    ):
        assert main(["preferences", "set", *words]) == 2
        assert says in capsys.readouterr().err
    file.write_text("keys = ")
    assert main(["preferences", "set", "keys", "modal"]) == 1
    assert "cannot be parsed" in capsys.readouterr().err
    assert file.read_text() == "keys = "
    assert main(["preferences", "schema"]) == 0
    assert json.loads(capsys.readouterr().out) == schema()
    assert write_preferences("", {"keys": "modal"})[0].startswith(str(file))
    assert main(["theme", "dark", "--toml"]) == 0
    assert tomllib.loads(capsys.readouterr().out)["roles"] == THEMES["dark"]
    assert main(["theme"]) == 0
    assert all(role in capsys.readouterr().out or role in ROLES for role in ROLES)
    assert set(SWITCHES) == {"mouse", "paging", "last_screen", "clipboard", "history_shared", "plain", "progress"}


def page(tried: list[dict[str, str]]) -> PreferencesPage:
    """Return the page of a program called desk."""
    values = {name: one.values()[0] for name, one in PREFERENCES.items()}
    return PreferencesPage(values, dict.fromkeys(values, "default"), "desk", lambda now: tried.append(dict(now)))


def test_the_page_shows_each_change_at_once_and_is_left_as_before_or_with_all_of_it() -> None:
    from wesperon.editing.keys.events import Key

    tried: list[dict[str, str]] = []
    made = page(tried)
    for name in ("down", "down", "right", "right", "left"):
        made.press(Key(name))
    assert tried == [{"theme": "dark"}, {"theme": "light"}, {"theme": "dark"}]
    frame = made.view(80, 24).text()
    assert "theme" in frame
    assert "dark *" in frame
    assert "Lantern Nebula" in frame
    made.press(Key("ctrl-g"))
    assert tried[-1] == {}
    assert made.outcome == Answered(Chosen({}, None))
    assert made.view(80, 24).rows == ()
    made = page([])
    for name in ("up", "right", "down", "right", "enter"):
        made.press(Key(name))
    assert made.outcome == Answered(Chosen({"keys": "modal"}, "desk"))
    for columns in range(1, 90, 7):
        for rows in range(1, 14):
            assert len(page([]).view(columns, rows).rows) <= rows


FORM = "from wesperon import Form, slot\nclass Plan(Form):\n    target = slot()\nprint(Plan.fill([]).target + '.')"


def test_the_page_opens_over_a_question_and_what_is_chosen_holds_and_is_kept(tmp_path: Path) -> None:
    environ = {"XDG_CONFIG_HOME": str(tmp_path)}
    with Terminal(python("-c", FORM), env=environ) as terminal:
        terminal.see("Enter: accept")
        terminal.type("lan")
        terminal.type("\x18p")
        terminal.see("opens_in")
        terminal.type("\x1b[C")
        terminal.see("modal *")
        terminal.type("\x1b[A\x1b[C\x1b[C\r")
        terminal.see("insert mode")
        terminal.type("\x1bxA!\r")
        terminal.see("la!.")
        assert terminal.end() == 0
    assert (tmp_path / "wesperon" / "preferences.toml").read_text() == 'keys = "modal"\n'
    with Terminal(python("-c", FORM), env=environ) as terminal:
        terminal.see("insert mode")
        terminal.type("x\r")
        assert terminal.end() == 0


def test_a_theme_of_the_environment_and_plain_lines_of_a_file_hold(tmp_path: Path) -> None:
    environ = {"XDG_CONFIG_HOME": str(tmp_path), "COLORTERM": "truecolor", "WESPERON_THEME": "dark"}
    with Terminal(python("-c", FORM), env=environ) as terminal:
        terminal.see("Enter: accept")
        assert b"38;2;111;195;192" in terminal.received
        terminal.type("x\r")
        assert terminal.end() == 0
    (tmp_path / "wesperon").mkdir()
    (tmp_path / "wesperon" / "preferences.toml").write_text("plain = true\n")
    with Terminal(python("-c", FORM), env={"XDG_CONFIG_HOME": str(tmp_path)}) as terminal:
        terminal.see("target")
        assert b"\x1b[" not in terminal.received
        terminal.type("x\r")
        assert terminal.end() == 0


def test_a_console_shows_the_page_and_goes_on_in_what_was_chosen() -> None:
    from wesperon import Console, Program

    def run() -> int:
        return Console(Program("desk"), history=False).run()

    with Session(run) as session:
        session.type("preferences")
        session.press("enter")
        session.see("opens_in")
        session.press("right")
        session.press("enter")
        session.see("insert mode")
        session.type("exit")
        session.press("enter")
        assert session.status == 0


@pytest.mark.parametrize("plain", [False, True])
def test_a_console_without_a_page_prints_what_holds(plain: bool, tmp_path: Path) -> None:
    code = "from wesperon import Console, Program; Console(Program('desk'), history=False).run()"
    environ = {"XDG_CONFIG_HOME": str(tmp_path), "WESPERON_PLAIN": "1" if plain else ""}
    if plain:
        with Terminal(python("-c", code), env=environ) as terminal:
            terminal.see("desk")
            terminal.type("preferences\r")
            terminal.see("plain  yes  (WESPERON_PLAIN)")
            terminal.type("exit\r")
            assert terminal.end() == 0
    else:
        done = subprocess.run(
            python("-c", code), input="preferences\n", capture_output=True, text=True, env={**os.environ, **environ}
        )
        assert "theme  palette  (default)" in done.stdout
        assert done.returncode == 0


@pytest.mark.parametrize("way", ["sync", "async"])
def test_the_page_is_left_with_the_console_below_it(way: str, tmp_path: Path) -> None:
    code = (
        "import asyncio, threading, sys\nfrom wesperon import Console, Program\n"
        "console = Console(Program('desk'), history=False)\n"
        "threading.Timer(2.0, lambda: console.leave(7)).start()\n"
        "sys.exit(asyncio.run(console.run_async()) if sys.argv[1] == 'async' else console.run())"
    )
    with Terminal(python("-c", code, way), env={"XDG_CONFIG_HOME": str(tmp_path)}) as terminal:
        terminal.see("Enter: run")
        terminal.quiet()
        terminal.type("\x18p")
        terminal.see("opens_in")
        terminal.type("\x1b[C")
        assert terminal.end() == 7
    assert not (tmp_path / "wesperon").exists()


def test_interrupting_the_page_leaves_it_and_the_question_stays(tmp_path: Path) -> None:
    with Terminal(python("-c", FORM), env={"XDG_CONFIG_HOME": str(tmp_path)}) as terminal:
        terminal.see("Enter: accept")
        terminal.type("lan")
        terminal.quiet()
        terminal.type("\x18p\x1b[C\x03tern\r")
        terminal.see("lantern.")
        assert terminal.end() == 0
