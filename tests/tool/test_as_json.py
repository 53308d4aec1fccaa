"""``--as json`` before any command of the tool: what is printed is data, and says what the text says."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from wesperon import CommandGroup
from wesperon.tool.main import PROGRAM, main

EXAMPLES = Path(__file__).parents[2] / "examples"
#: A line for every command of the tool, with a key or an item that its data has.
LINES: dict[str, tuple[list[str], object]] = {
    "demo expose": (["HOLLIN-007", "Red", "3", "note"], "again"),
    "demo dome": (["--weather=no", "--wind=20", "--asking=never"], "learned"),
    "demo queue": ([], 0),
    "demo sum": (["90s", "1m"], "total"),
    "demo targets list": ([], 0),
    "demo targets show": (["HOLLIN-007"], "Name"),
    "demo instruments filters": ([], 0),
    "demo instruments cameras": ([], 0),
    "tour": ([], "screens"),
    "fill": ([str(EXAMPLES / "nightplan.toml"), "Lantern Nebula", "Red", "3", "2031-01-01"], "target"),
    "guide": (["GUIDE"], "end"),
    "lint": ([str(EXAMPLES / "nightplan.toml")], None),
    "split": (["--", "--frames", "12", "a b"], "words"),
    "completion": (["bash", "desk"], "script"),
    "keys": (["--list"], "actions"),
    "preferences show": ([], "preferences"),
    "preferences set": (["keys", "modal"], "file"),
    "preferences schema": ([], "properties"),
    "theme": (["dark"], "dark"),
    "history show": (["night desk"], None),
    "history export": (["night desk"], None),
    "history remove": (["night desk", "login"], "removed"),
    "history import": (["night desk", str(EXAMPLES / "nightplan.toml")], "added"),
    "answers": (["wesperon.demo.commands:Expose"], "file"),
}
#: What stays open, or writes a text as it is: nothing that is a result.
CONSOLES = {"demo desk", "page", "history look"}


def commands(group: CommandGroup, before: str = "") -> list[str]:
    """Return all commands of a group, and below it."""
    found = []
    for name, member in group.members.items():
        one = member.loaded
        found += commands(one, f"{before}{name} ") if isinstance(one, CommandGroup) else [before + name]
    return found


def test_every_command_of_the_tool_is_in_the_table() -> None:
    assert sorted({*commands(PROGRAM)} - CONSOLES) == sorted(LINES)


@pytest.mark.parametrize("command", sorted(LINES))
def test_every_command_prints_data(
    command: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    guide = tmp_path / "guide.toml"
    guide.write_text('start = "a"\n[steps.a]\nsays = "All is well."\nends = "done"\n')
    words, key = LINES[command]
    given = [str(guide) if word == "GUIDE" else word for word in words]
    assert main(["--as=json", *command.split(), *given]) == 0
    printed = capsys.readouterr().out
    data: Any = json.loads(printed)
    assert isinstance(data, (dict, list))
    if isinstance(key, str):
        assert key in data
    elif key is not None:
        assert data[0]


def test_faults_of_a_file_are_data_too(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (tmp_path / "plan.toml").write_text('[slots.frames]\nkind = "nothing"\n')
    assert main(["--as=json", "lint", str(tmp_path / "plan.toml")]) == 1
    (fault,) = json.loads(capsys.readouterr().out)
    assert fault["file"] == str(tmp_path / "plan.toml")
    assert "line 2" in fault["location"]
    assert '"nothing"' in fault["reason"]


def test_an_unknown_command_of_the_tool_is_shown(capsys: pytest.CaptureFixture[str]) -> None:
    """Its commands are loaded to know that none has a secret."""
    assert main(["--as=json", "nonsense"]) == 2
    assert '"nonsense" is not a command of wesperon' in capsys.readouterr().err
