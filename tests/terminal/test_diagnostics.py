"""Diagnostics by area, turned on from outside.

Modules: ``terminal.diagnostics``.
"""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

from tests.harness import ROOT, Terminal, example

SCRIPT = """
import sys
from wesperon import *
class Expose(Command):
    target = slot()
    frames = slot(int, default=lambda answers: 2)
    def run(self): return 3
status = Program('desk', members=[Expose]).main()
print('logging' in sys.modules)
"""


def run(**variables: str) -> subprocess.CompletedProcess[str]:
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src"), **variables}
    argv = [sys.executable, "-c", SCRIPT, "expose", "hidden text"]
    return subprocess.run(argv, capture_output=True, text=True, env=env, check=True)


def test_nothing_is_said_or_loaded_unless_asked_for() -> None:
    done = run()
    assert (done.stdout, done.stderr) == ("3\nFalse\n", "")


def test_an_area_tells_what_happened_and_no_text(tmp_path: Path) -> None:
    told = run(WESPERON_LOG="argv, sources").stderr
    assert "wesperon.argv: 2 words; by slot: {'target': [2]}" in told
    assert "wesperon.sources: Expose filled: {'target': 'words', 'frames': 'default'}" in told
    assert "hidden" not in told
    assert "commands" not in told
    done = run(WESPERON_LOG="commands", WESPERON_LOG_FILE=str(tmp_path / "log"))
    assert done.stderr == ""
    assert "expose gave a int" in (tmp_path / "log").read_text()
    assert "'argw' is no area; there are argv" in run(WESPERON_LOG="argw").stderr


def test_the_terminal_tells_when_it_is_taken_and_given_back(tmp_path: Path) -> None:
    env = {"WESPERON_LOG": "terminal", "WESPERON_LOG_FILE": str(tmp_path / "log")}
    with Terminal(example("nightplan.py", "x", "2", "90", "5"), columns=70, env=env) as terminal:
        terminal.answer("First frame at", "21:30")
        assert terminal.end() == 0
    assert [line.partition(": ")[2] for line in (tmp_path / "log").read_text().splitlines()] == [
        "taken, 70 columns by 24 rows", "given back",
    ]  # fmt: skip
