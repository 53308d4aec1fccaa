"""Reports of problems: the words at fault with their neighbours, and carets under them."""

from __future__ import annotations

import subprocess
from pathlib import Path

import pytest

from tests.harness import Terminal, python
from wesperon import Command, CommandGroup, Program, slot
from wesperon.output.report import carets, report
from wesperon.values.problems import Problem, Problems


def test_of_a_long_line_the_words_at_fault_are_shown_with_their_neighbours() -> None:
    words = [f"word{number}" for number in range(200)]
    problems = Problems([Problem("is wrong", None, "words", words[100], words=(100,))], words)
    line, marks, *_ = report(problems, ["desk"], 80).splitlines()
    assert line == "desk ... word99 word100 word101 ..."
    assert line[marks.index("^") : marks.rindex("^") + 1] == "word100"


def test_carets_stand_under_their_columns() -> None:
    assert carets([(5, 7), (1, 2), (6, 9)]) == " ^   ^^^^"
    assert carets([(3, 3)]) == ""


NIGHT = """from datetime import time
from wesperon import fill, slot
fill(target=slot(), frames=slot(int), seconds=slot(int), pause=slot(int), first=slot(time, "First frame at"))
"""
SAID = """\
nightplan.py Lantern 4x5 90 --puase 5
                     ^^^    ^^^^^^^
  --frames  "4x5" is not a whole number, such as 12
   --puase  is unknown; nearest: --pause
Missing:
  --first=HH:MM  First frame at: a time of day
nightplan.py --help shows all values."""
WORDS = ["Lantern", "4x5", "90", "--puase", "5"]


def test_the_line_the_reasons_what_is_missing_and_where_to_read_more(tmp_path: Path) -> None:
    script = tmp_path / "nightplan.py"
    script.write_text(NIGHT)
    done = subprocess.run(
        python(str(script), *WORDS), capture_output=True, text=True, check=False, stdin=subprocess.DEVNULL
    )
    assert done.stderr.rstrip("\n") == SAID
    with Terminal(python(str(script), *WORDS, "--asking=never"), rows=30) as terminal:
        assert terminal.end() == 2
        lines = terminal.lines()
        assert "\n".join(lines).rstrip().replace(" --asking=never", "") == SAID
        row = terminal.screen.buffer[0]
        at = lines[0].index("4x5")
        assert row[at].fg != row[at - 2].fg or row[at].bold != row[at - 2].bold or row[at].underscore
        assert terminal.screen.buffer[2][13].fg != terminal.screen.buffer[6][0].fg
    with Terminal(python(str(script), *WORDS, "--asking=never"), env={"WESPERON_PLAIN": "1"}, rows=30) as terminal:
        assert terminal.end() == 2
        assert terminal.lines()[:6] == [
            "nightplan.py: 3 problems",
            'word 2, --frames: "4x5" is not a whole number, such as 12',
            "word 4: --puase is unknown; nearest: --pause",
            "Missing:",
            "  --first=HH:MM  First frame at: a time of day",
            "nightplan.py --help shows all values.",
        ]


class Wind(Command):
    """The wind."""

    speed = slot(int)


def test_the_last_line_names_the_page_that_helps(capsys: pytest.CaptureFixture[str]) -> None:
    program = Program("desk", members=[CommandGroup("mast", members=[Wind])])
    for words, last in (
        (["mast", "wind", "x"], "desk mast wind --help shows all values."),
        (["mast", "wnd"], "desk --help shows all commands."),
        (["mast", "wind", "--asking=never"], "desk mast wind --help shows all values."),
    ):
        assert program.main(words) == 2
        assert capsys.readouterr().err.split("\n")[-2] == last
