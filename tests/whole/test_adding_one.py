"""Adding one, as CONTRIBUTING says it: an entry in a table, and all else follows from it."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

import pytest

from tests.harness import ROOT

FAMILY = """
from wesperon.editing.keys.family import Family, Mode
from wesperon.editing.keys.modeless import MODELESS

TABLE = {**MODELESS.modes[MODELESS.start].table, "f9": "move-line-start", "ctrl-a": "delete-char-back"}
DESK = Family("desk", {"plain": Mode(TABLE)}, "plain", MODELESS.layers)
"""
WITH_A_THIRD_FAMILY = """
from wesperon.editing.keys.families import FAMILIES
FAMILIES["desk"] = "desk_keys:DESK"
from wesperon import Context, Form, slot
from wesperon.testing import Press, Scripted
from wesperon.tool.main import main
class Plan(Form):
    target = slot(ask="Target")
keys = [*map(Press, "abc"), Press("f9"), Press("x"), Press("ctrl-a"), Press("y"), Press("enter")]
print(Plan.fill([], driver=Scripted(keys), keys="desk").target)
print(Plan.fill([], driver=Scripted(keys), context=Context(environ={"WESPERON_KEYS": "desk"})).target)
print(main(["preferences", "set", "keys", "desk"]), main(["preferences", "set", "bindings.desk.f8", "undo"]))
main(["preferences", "schema"])
"""
WITH_A_FOURTH_SHELL = """
import os
from wesperon.completion.shells import SHELLS, Shell
SHELLS["hush"] = Shell("on-tab FUNCTION for PROGRAM", "~/.hush/PROGRAM", lambda words, complete: [
    f"{one.text}!" for one in complete(list(words[:-1]), words[-1])
])
from wesperon.tool.main import main
main(["completion", "hush", "night-desk"])
from wesperon import Command, Context, Program
class Expose(Command):
    pass
context = Context(words=["--", "ex"], environ={"WESPERON_CANDIDATES": "hush"})
Program("night-desk", members=[Expose]).main(context=context)
"""


def ran(program: str, folder: Path) -> str:
    (folder / "desk_keys.py").write_text(FAMILY, encoding="utf-8")
    environ = {"HOME": str(folder), "PATH": "/usr/bin:/bin", "PYTHONPATH": str(folder)}
    done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, env=environ, check=False)
    assert done.stderr == ""
    return done.stdout


def places() -> list[tuple[str, str]]:
    """Return the rows of the table of CONTRIBUTING that says where what is done."""
    table = (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8").partition("## Where is it done?")[2]
    rows = re.findall(r"^\| (.+?) \| (.+) \|$", table.partition("\n## ")[0], re.MULTILINE)
    return [row for row in rows if row[0] not in ("question", "---")]


@pytest.mark.parametrize(("question", "answer"), places())
def test_what_is_said_to_be_done_somewhere_is_there(question: str, answer: str) -> None:
    quoted = re.findall(r"`([^`]+)`", answer)
    modules = [word for word in quoted if word.endswith(".py")]
    roots = (ROOT / "src" / "wesperon", ROOT / "benchmarks")
    found = [path for module in modules for root in roots for path in root.rglob(module.removeprefix("benchmarks/"))]
    assert {path.name for path in found} == {Path(module).name for module in modules}
    text = "".join(path.read_text(encoding="utf-8") for path in found)
    names = [word.rpartition(".")[2] for word in quoted if re.fullmatch(r"[A-Za-z_.]+", word) and word not in modules]
    assert not modules or [name for name in names if not re.search(rf"\b{name}\b", text)] == []


def test_a_third_family_is_a_module_and_an_entry(tmp_path: Path) -> None:
    said = ran(WITH_A_THIRD_FAMILY, tmp_path)
    assert said.startswith("yabc\nyabc\n")
    assert "0 0\n" in said
    assert '"desk"' in said.partition("0 0\n")[2]


def test_a_fourth_shell_is_an_entry(tmp_path: Path) -> None:
    said = ran(WITH_A_FOURTH_SHELL, tmp_path)
    assert said.splitlines() == [
        "# Completion of night-desk for hush; goes to ~/.hush/night-desk",
        "on-tab night_desk for night-desk",
        "expose!",
    ]
