"""The recipes of the guide on long work are run, on a terminal and with none, and do what they are for."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from tests.harness import HOMES, ROOT, Terminal, python

PAGE = ROOT / "docs" / "guide-long-work.md"
#: Each recipe by a part of its text; what it leaves on the screen; and what is typed.
RECIPES = {
    "in progress(range(240)": ["Stacking: done, 240 frames in "],
    '"Nights"': ["Nights: done, 3 in ", "Stacking the third night: done, 120 frames in "],
    "Copying {plate.name}": [],
    "urlopen": ["3145728"],
    "REDUCE": ["this is on the terminal itself"],
    "reduce_plate": ["plate 3 is overexposed", "plate 7 is overexposed"],
    "Session": [],
}


def programs() -> list[str]:
    """Return the programs of the page."""
    parts = PAGE.read_text().split("```")[1::2]
    return [part.partition("\n")[2] for part in parts if part.startswith("python\n")]


@pytest.mark.parametrize("recipe", RECIPES)
def test_a_recipe_does_what_it_is_for(recipe: str, tmp_path: Path) -> None:
    (text,) = [text for text in programs() if recipe in text]
    program = tmp_path / "recipe.py"
    program.write_text(text)
    with Terminal(python(str(program))) as terminal:
        assert terminal.end() == 0
        shown = terminal.everything()
        assert terminal.modes() == terminal.initial
    for line in RECIPES[recipe]:
        assert line in shown
    assert "Traceback" not in shown
    assert not [row for row in shown.splitlines() if "%" in row], "no row is left"
    done = subprocess.run(
        [sys.executable, str(program)],
        capture_output=True, text=True, env={**HOMES, "PYTHONPATH": str(ROOT), "PATH": "/usr/bin:/bin"},
        stdin=subprocess.DEVNULL, start_new_session=True, check=True,
    )  # fmt: skip
    for line in RECIPES[recipe]:
        assert line in done.stdout + done.stderr


def test_a_job_of_a_console_has_its_row_above_the_line(tmp_path: Path) -> None:
    (text,) = [text for text in programs() if "Console(Program" in text]
    program = tmp_path / "desk.py"
    program.write_text(text.replace("sleep(0.05)", "sleep(0.1)"))
    with Terminal(python(str(program))) as terminal:
        terminal.see("Enter: run")
        terminal.type("cool &\r")
        terminal.see("[1] Cooling")
        terminal.type("sta")
        terminal.wait(lambda: terminal.lines()[3].split()[:2] == ["desk", "sta"], "the line below the row")
        *_, row, _, foot = terminal.text().splitlines()
        assert row.startswith("[1] Cooling")
        assert foot.startswith("  Enter: run")
        terminal.type("ck\r")
        terminal.wait(
            lambda: terminal.text().splitlines()[-1].startswith("[1] ") or "Stacking" in terminal.text(), "rows"
        )
        terminal.see("[1] Cooling: done, 40 degrees in ")
        terminal.see("[1] the camera is ready")
        terminal.see("Stacking: done, 60 frames in ")
        terminal.see("Enter: run")
        assert not [row for row in terminal.text().splitlines() if "%" in row]
        terminal.type("\x04")
        assert terminal.end() == 0
