"""The dialogs of the examples, each led in every way: on a terminal, in plain lines, with nobody there, and so on."""

from __future__ import annotations

import os
import subprocess
from pathlib import Path

import pytest

from tests.harness import BACKSPACE, DOWN, ENTER, HOMES, ROOT, Terminal, python
from tests.tables import tabled
from wesperon.testing import Session

DIALOGS = ROOT / "examples" / "dialogs"
CTRL_U = "\x15"
#: The names that the kit has for keys which a terminal sends as more than a character.
KEYS = {DOWN: "down", BACKSPACE: "backspace", CTRL_U: "ctrl-u", ENTER: "enter"}
#: Those that are consoles, whose files are of commands; and how such a file is run.
CONSOLES = {"catalogue": ".run", "dome": "run"}
#: Those whose questions nobody else can answer.
ASKING = ("kiosk",)


def alone(name: str, words: list[str], folder: Path, stdin: str = "") -> subprocess.CompletedProcess[str]:
    """Run a dialog with nobody there."""
    environment = {key: value for key, value in os.environ.items() if not key.startswith("WESPERON")}
    return subprocess.run(
        python(str(DIALOGS / f"{name}.py"), *words), input=stdin, cwd=folder, capture_output=True, text=True,
        timeout=60, env={**environment, **HOMES}, start_new_session=True,
    )  # fmt: skip


@tabled
def test_a_dialog_is_led_in_every_way(
    name: str,
    keys: list[str],
    lines: list[str],
    end: str,
    alone_: str,
    alone_end: str,
    answers: str,
    answers_end: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    script = DIALOGS / f"{name}.py"
    places = [tmp_path / way for way in ("kit", "plain", "terminal", "alone", "file")]
    for place in places:
        place.mkdir()

    monkeypatch.chdir(places[0])
    with Session(script) as session:
        for key in keys:
            session.press(KEYS[key]) if key in KEYS else session.type(key)
        assert (session.is_open, session.status) == (False, 0)
        assert end in session.output
    monkeypatch.chdir(places[1])
    with Session(script, environment={"WESPERON_PLAIN": "1"}) as session:
        for line in lines:
            session.type(line).press("enter")
        assert (session.is_open, session.status) == (False, 0)
        assert end in session.output
    monkeypatch.chdir(places[2])
    with Terminal(python(str(script)), rows=24, columns=100) as terminal:
        for key in keys:
            terminal.quiet()
            terminal.type(key)
        terminal.see(end)
        assert terminal.end() == 0

    if name in CONSOLES:
        assert isinstance(alone_, str)
        ran = alone(name, [], places[3], alone_)
        (places[4] / "night.txt").write_text(answers)
        filed = alone(name, [], places[4], f"{CONSOLES[name]} night.txt\n")
    else:
        ran = alone(name, list(alone_), places[3])
        (places[4] / "answers.toml").write_text(answers)
        command = {"modules": ["add"], "menus": ["expose"]}.get(name, [])
        filed = alone(name, [*command, "--answers=answers.toml"], places[4])
    for run, wanted in ((ran, alone_end), (filed, answers_end)):
        assert run.returncode == (2 if name in ASKING else 0), run.stderr
        assert wanted in (run.stderr if name in ASKING else run.stdout)


def test_a_visitor_who_leaves_in_the_middle_is_forgotten() -> None:
    with Session(DIALOGS / "kiosk.py", ["--patience=0.4"]) as session:
        session.press("enter")
        assert "How many seats?" in session.screen
        session.see("close the desk")
        session.type("close").press("enter")
        assert session.status == 0


def test_the_wizard_asks_forty_questions() -> None:
    with Session(DIALOGS / "commissioning.py") as session:
        for _ in range(8):
            session.type("y").press("enter", "enter").type("30").press("enter")
            session.type("n").press("enter").type("more").press("enter")
        assert session.output == "The telescope is ready. 41 questions, 8 notes.\n"
