"""The programs of the guide on long output do what it says, on a terminal and without one."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from tests.harness import ROOT, Terminal, python

PAGE = ROOT / "docs" / "guide-long-output.md"
PROGRAMS = [part.partition("\n")[2] for part in PAGE.read_text().split("```")[1::2] if part.startswith("python")]
#: For each program: what is seen on a terminal, the keys, and what is on the screen in the end.
ON_A_TERMINAL = (
    ("HOLLIN-009  Thimble", "q", ""),
    ("frame   target", "Gq", ""),
    ("HOLLIN-102", " j \r", "queued: HOLLIN-102 Ladder Cluster"),
    ("seeing 8", "q", ""),
    ("", "", ""),
)


@pytest.mark.parametrize("number", range(len(PROGRAMS)))
def test_a_program_of_the_guide_runs_on_a_terminal(number: int, tmp_path: Path) -> None:
    path = tmp_path / "program.py"
    path.write_text(PROGRAMS[number])
    seen, keys, last = ON_A_TERMINAL[number]
    with Terminal(python(str(path)), rows=10) as terminal:
        terminal.see(seen)
        terminal.type(keys)
        assert terminal.end() == 0
        assert last in terminal.text()
        assert terminal.modes() == terminal.initial


@pytest.mark.parametrize("number", range(len(PROGRAMS)))
def test_a_program_of_the_guide_runs_without_a_terminal(number: int) -> None:
    made = subprocess.run([sys.executable, "-c", PROGRAMS[number]], capture_output=True, text=True, check=True)
    assert made.stderr == ""
    assert len(made.stdout.splitlines()) == (999, 5001, 3, 300, 0)[number]
