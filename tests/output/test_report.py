"""Reports of problems: the words at fault with their neighbours, and carets under them.

Modules: ``output.report``, ``output.exit_status``, ``values.problems``.
"""

from __future__ import annotations

import json
import shlex
import subprocess
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import Terminal, python
from wesperon import Command, CommandGroup, Form, Problems, Program, Refusal, one_of, slot
from wesperon.output.report import carets, report
from wesperon.values.problems import Problem


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
        (["mast", "wnd"], "desk mast --help shows all commands."),
        (["mst"], "desk --help shows all commands."),
        (["mast", "wind", "--asking=never"], "desk mast wind --help shows all values."),
    ):
        assert program.main(words) == 2
        assert capsys.readouterr().err.split("\n")[-2] == last


class Weigh(Form):
    hive = slot()
    keeper = slot()
    kilos = slot(float)
    tags = slot(many=True, named_only=True)


TEXTS = st.lists(st.sampled_from(["Linden", "Row", "Vera", "it's", "#2"]), min_size=2, max_size=3).map(" ".join)


@given(TEXTS, TEXTS, st.sampled_from(["hive", "keeper"]), st.booleans(), st.sets(st.sampled_from(["hive", "keeper"])))
def test_quotes_that_were_lost_are_put_back(hive: str, keeper: str, lost: str, joined: bool, named: set[str]) -> None:
    """What is advised gives values; where each text has its name, it gives those that were meant."""
    words, values = [], {"hive": hive, "keeper": keeper}
    for name, text in values.items():
        parts = text.split() if name == lost else [text]
        before = [f"--{name}={parts[0]}"] if joined else [f"--{name}", parts[0]]
        words += [*before, *parts[1:]] if name in named else parts
    with pytest.raises(Problems) as caught:
        Weigh.fill([*words, "--kilos=3"], asking="never")
    (problem,) = caught.value
    advised = shlex.split(problem.reason.partition("with quotes: ")[2])
    made = Weigh.fill(advised, asking="never")
    assert " ".join(advised) == " ".join([*words, "--kilos=3"])
    if len(named) == 2:
        assert (made.hive, made.keeper) == (hive, keeper)


def test_values_after_one_name_are_given_one_by_one() -> None:
    with pytest.raises(Problems, match="with the name before each: Oak Ida 3 --tags a --tags=b --tags=c"):
        Weigh.fill(["Oak", "Ida", "3", "--tags", "a", "b", "c"], asking="never")


def test_values_of_a_list_are_not_joined() -> None:
    class Tagged(Form):
        tags = slot(many=True)
        frames = slot(int)

    with pytest.raises(Problems) as caught:
        Tagged.fill(["a", "b", "3"], asking="never")
    assert "with quotes" not in str(caught.value)


class Bounded(Form):
    low = slot(int, default=3)
    high = slot(int, low=lambda so_far: so_far.low, default=9)
    which = slot(one_of(lambda so_far: range(so_far.high)), default=None)
    only = slot(applies=lambda so_far: so_far.low > 3, default="x")


@pytest.mark.parametrize("words", ["--low=x --high=1 --which=1 --only=y", "--low=4 --high=3 --which=5 --only=y"])
def test_what_depends_on_a_value_at_fault_is_not_judged(words: str) -> None:
    with pytest.raises(Problems) as caught:
        Bounded.fill(words.split(), asking="never")
    assert len(caught.value) == 1


def test_a_refusal_names_its_program_and_is_an_object_for_programs(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    def park() -> None:
        raise Refusal("the dome\x1b[2J is closed\nuntil four", 4)

    assert Program("desk", members=[park]).main(["park"]) == 4
    assert capsys.readouterr().err == "desk: the dome^[[2J is closed\nuntil four\n"
    monkeypatch.setenv("WESPERON_PROBLEMS", "json")
    assert Program("desk", members=[park]).main(["park"]) == 4
    (problem,) = json.loads(capsys.readouterr().err)
    assert (problem["slot"], problem["reason"]) == (None, "the dome\x1b[2J is closed\nuntil four")
