"""The ``wesperon`` command, the demo, the examples, and the pages and messages they print.

Modules: ``demo.commands``, ``demo.desk``, ``tool.main``, ``tool.keys``.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tomllib
from pathlib import Path

import pytest

from tests.harness import EXAMPLES, ROOT, Terminal, python
from tests.tables import tabled
from tests.terminal.test_tty import DETACHED
from wesperon import Form, Problems, Program, any_of, one_of, slot, split
from wesperon.argv import convert, read_words
from wesperon.demo import commands as demo
from wesperon.demo.commands import DEMO
from wesperon.output.help import help_page
from wesperon.output.report import report
from wesperon.screen.width import width
from wesperon.values.records import slots_of
from wesperon.values.words import split_words


def wesperon(*words: str) -> subprocess.CompletedProcess[str]:
    """Return the command with no terminal."""
    argv = [sys.executable, "-c", DETACHED, "-m", "wesperon", *words]
    return subprocess.run(argv, stdin=subprocess.DEVNULL, capture_output=True, text=True, timeout=60)


def test_split_shows_what_arrived() -> None:
    done = wesperon("split", "--", "--frames", "12", "HOLLIN-051", "Lantern", "Nebula", "seconds=9.5", "-v", "", "yes")
    assert done.returncode == 0
    lines = done.stdout.splitlines()
    assert lines[2] == "  words  9"
    assert [line.split() for line in lines[4:14]] == [
        ["word", "name", "value", "looks", "like"],
        ["1", "--frames", "frames", "a", "name,", "its", "value", "follows"],
        ["2", "12", "frames", "12", "a", "whole", "number"],
        ["3", "HOLLIN-051", "HOLLIN-051", "text"],
        ["4", "Lantern", "Lantern", "text"],
        ["5", "Nebula", "Nebula", "text"],
        ["6", "seconds=9.5", "seconds", "9.5", "a", "number"],
        ["7", "-v", "v", "a", "name,", "its", "value", "follows"],
        ["8", "v", "nothing"],
        ["9", "yes", "yes", "yes", "or", "no"],
    ]
    assert "Words 3 to 5 are all text" in done.stdout
    assert "'HOLLIN-051 Lantern Nebula'" in done.stdout


def test_split_without_a_declaration() -> None:
    found = split(["a", "--x", "1", "--y=2", "z=3", "-5", "--", "--w=1"])
    assert (len(found), found.named, found.plain) == (8, {"x": "1", "y": "2", "z": "3"}, ["a", "-5", "--w=1"])
    assert found.words[:2] == ["a", "--x"]
    assert found.program == sys.argv[0]
    assert "\x1b" not in str(split(["\x1b[31m\u202e"]))


def test_the_demo_without_a_terminal_says_what_is_missing() -> None:
    done = wesperon("demo", "--target=HOLLIN-051")
    assert done.returncode == 2
    assert done.stderr.splitlines()[0].endswith("3 values are missing")


def test_the_demo_with_all_values_prints_its_card_and_the_line_again() -> None:
    words = ["demo", "expose", "HOLLIN-051", "Red,H-alpha", "300", "first light"]
    done = wesperon(*words)
    assert done.returncode == 0
    line = done.stdout.splitlines()[-1]
    assert line.endswith(
        "demo expose '--target=HOLLIN-051 Lantern Nebula' --filters=Red,H-alpha --seconds=300 '--note=first light'"
    )
    again = subprocess.run(["sh", "-c", line], capture_output=True, text=True, check=True)
    assert again.stdout == done.stdout


def test_a_target_that_cannot_be_seen_is_refused_with_the_reason() -> None:
    done = wesperon("demo", "expose", "Old Ember", "Red", "300", "x")
    assert "not one of the 8 choices; nearest: HOLLIN-077 Old Ember" in done.stderr
    assert (
        "cannot be chosen: it rises to 12 degrees only"
        in wesperon("demo", "expose", "HOLLIN-077", "Red", "300", "x").stderr
    )


@tabled
def test_the_night_desk_answers(words: list[str], data: str, out: str) -> None:
    argv = [sys.executable, "-m", "wesperon", "demo", *words]
    done = subprocess.run(argv, input=data, capture_output=True, text=True, check=True)
    assert out in done.stdout.splitlines()


def test_callers_of_the_demo_can_rely_on_its_contract() -> None:
    """What changes here may break a line that somebody has written down."""
    contract = Program("wesperon", members=[DEMO]).contract() + "\n"
    assert contract == (ROOT / "tests" / "demo.contract").read_text()


def test_the_examples_of_the_demo_parse() -> None:
    commands = [member.loaded for member in DEMO.members.values()]
    examples = [example for command in commands if isinstance(command, type) for example in command.examples]
    assert len(examples) >= 3
    for example in examples:
        words = [word for word, _ in split_words(example)]
        call = Program("wesperon", members=[DEMO]).invocation(words)
        assert call.command is not None
        reading = read_words(slots_of(call.command), words, command=frozenset(call.indices))
        assert convert(slots_of(call.command), reading)
        assert reading.problems == []


def test_a_blank_answers_file_is_one_that_can_be_filled_in(tmp_path: Path) -> None:
    blank = wesperon("answers", "wesperon.demo.commands:Expose").stdout
    assert "# Seconds each: a number from 0.1 to 3600 s" in blank
    assert tomllib.loads(blank) == {"target": "", "filters": "", "seconds": "", "note": ""}
    filled = blank.replace('target = ""', 'target = "HOLLIN-051"').replace('filters = ""', 'filters = ["Red"]')
    (tmp_path / "a.toml").write_text(filled.replace('seconds = ""', "seconds = 30"))
    record = demo.Expose.fill([f"--answers={tmp_path / 'a.toml'}"], asking="never")
    assert (record.target.number, record.seconds, record.note) == ("HOLLIN-051", 30.0, "")
    assert "there is no form, program or function at nowhere:X" in wesperon("answers", "nowhere:X").stderr


def test_the_tour_plays_the_demo_with_no_terminal() -> None:
    done = wesperon("tour")
    assert (done.returncode, done.stderr) == (0, "")
    assert "[x] H-alpha" in done.stdout
    assert '"3oo" is not a number' in done.stdout
    assert "--seconds=300" in done.stdout.splitlines()[-1]


def test_without_a_command_a_listing_comes_and_status_2() -> None:
    done = wesperon()
    assert (done.returncode, done.stdout) == (2, "")
    assert "split  Show which words arrived" in done.stderr
    with Terminal(python("-m", "wesperon")) as terminal:
        terminal.see("tour")
        terminal.quiet()
        terminal.type("\x03")
        assert terminal.end() == -2


class Many(Form):
    target = slot(one_of([f"HOLLIN-{number:03}" for number in range(40)]), "Target", short="t")
    filters = slot(any_of(["Red", "Blue"]), "Which of the filters of the wheel shall be used?", default=["Red"])
    seconds = slot(float, low=0.1, high=3600, unit="s", help="how long each frame is exposed: 露出時間")
    guided = slot(bool, default=True)
    notes = slot(str, rest=True)


@pytest.mark.parametrize("columns", [20, 30, 40, 80, 100])
def test_a_help_page_fits_and_tells_everything(columns: int) -> None:
    page = help_page(["plan"], "Plan a night.\n\nOf any length.", slots_of(Many), columns)
    assert all(width(line) <= columns for line in page.splitlines())
    flat = " ".join(page.split())
    for told in (
        "Plan a night.",
        "one of HOLLIN-000",
        "28 more",
        "if left out: Red",
        "from 0.1 to 3600 s",
        "露出時間",
        "if left out: yes",
    ):
        assert told in flat
    if columns == 80:
        assert page.startswith("plan TARGET FILTERS SECONDS [NOTES...] [--no-guided]\n")
        assert "-t --target=CHOICE" in page


@pytest.mark.parametrize(("variable", "widest"), [("30", 29), ("64", 63), ("", 79), ("x", 79), ("100000", 100)])
def test_a_page_is_as_wide_as_the_environment_says(
    variable: str, widest: int, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("COLUMNS", variable)
    with pytest.raises(SystemExit):
        Many.fill(["--help"])
    widths = [width(line) for line in capsys.readouterr().out.splitlines()]
    assert widest - 20 < max(widths) <= widest


@pytest.mark.parametrize("columns", [20, 33, 80, None])
@tabled
def test_a_report_fits_and_its_carets_stand_under_the_words(words: list[str], columns: int | None) -> None:
    with pytest.raises(Problems) as caught:
        Many.fill(words, asking="never")
    text = report(caught.value, ["plan"], columns)
    assert "\x1b" not in text
    assert "\u202e" not in text
    lines = text.splitlines()
    if columns:
        assert all(width(line) <= columns for line in lines)
    if set(lines[1]) <= {" ", "^"} and "..." not in lines[0]:
        at = lines[1].index("^")
        before = next(place for place in range(len(lines[0])) if width(lines[0][:place]) == at)
        first = min(place for problem in caught.value for place in problem.words)
        assert lines[0][before:].startswith(
            (words[first][:8], "'" + words[first][:8], words[first].partition("=")[2][:8])
        )


@pytest.mark.parametrize("path", sorted(EXAMPLES.glob("*.py")), ids=lambda path: path.name)
def test_every_example_runs_and_says_what_it_is(path: object) -> None:
    """With no terminal an example ends with a status, and its help page tells what it wants."""
    argv = [sys.executable, "-c", DETACHED, str(path)]
    bare = subprocess.run(argv, stdin=subprocess.DEVNULL, capture_output=True, text=True, timeout=60)
    assert bare.returncode in (0, 2)
    assert "Traceback" not in bare.stderr
    if "fill(" in Path(str(path)).read_text():
        page = subprocess.run([*argv, "--help"], capture_output=True, text=True, timeout=60, check=True)
        assert "Always\n" in page.stdout
        assert Path(str(path)).read_text().partition("\n")[0].strip('"') in page.stdout


def programs(page: Path) -> list[str]:
    """Return the blocks of Python on a page that stand by themselves."""
    blocks = [block.partition("\n")[2] for block in page.read_text().split("```")[1::2] if block.startswith("python\n")]
    return [block for block in blocks if "import" in block]


@pytest.mark.parametrize(
    "page",
    [ROOT / "README.md", *(ROOT / "docs" / f"guide-{name}.md" for name in ("values", "asking", "commands"))],
    ids=lambda p: p.name,
)
def test_the_programs_of_the_documentation_run_as_printed(page: Path) -> None:
    assert programs(page)
    for program in programs(page):
        done = subprocess.run(
            [sys.executable, "-c", DETACHED, "-c", program, "--help"],
            capture_output=True, text=True, timeout=60, env={**os.environ},
        )  # fmt: skip
        assert (done.returncode, done.stderr) == (0, "")


def test_the_first_program_of_the_readme_is_short() -> None:
    assert len(programs(ROOT / "README.md")[0].strip().splitlines()) <= 10


@tabled
def test_what_is_after_two_hyphens_is_a_value_of_a_set(words: list[str], out: str, tmp_path: Path) -> None:
    path = tmp_path / "log.toml"
    path.write_text(
        'name = "log"\nversion = "1.2"\n[slots.note]\nkind = "text"\n[slots.tags]\nkind = "text"\nmany = true\n'
    )
    done = wesperon("fill", str(path), *words)
    assert (done.stdout, done.returncode) == (out, 0)


def test_the_night_desk_of_the_demo_is_a_service() -> None:
    with Terminal([str(Path(sys.executable).parent / "wesperon"), "demo", "desk"], rows=50) as terminal:
        terminal.see("[1] started: cool -20")
        terminal.see("the mast has measured nothing yet")
        terminal.see("Enter: run")
        terminal.type("slew HOLLIN-051\r")
        terminal.see("[2] the dome is at 60 degrees")
        terminal.type("park\r")
        terminal.see("the dome is parked")
        terminal.see("[2] failed after")
        terminal.type("inside\r")
        terminal.see("python")
        terminal.type("observatory.dome\r")
        terminal.see("\n0")
        terminal.see("mast: wind of 4 m/s")
        terminal.type("\x04")
        terminal.type("run data/faulty.desk HOLLIN-007\r")
        terminal.see("data/faulty.desk")
        terminal.type("exit 3\r")
        assert terminal.end() == 3
    tool = str(Path(sys.executable).parent / "wesperon")
    alone = f"import os; os.setsid(); os.execv({tool!r}, ['wesperon', 'demo', 'desk'])"
    done = subprocess.run([sys.executable, "-c", alone], stdin=subprocess.DEVNULL, capture_output=True, timeout=60)
    assert done.returncode == 2


def test_the_exposure_of_the_demo_shows_how_far_it_is() -> None:
    tool = str(Path(sys.executable).parent / "wesperon")
    with Terminal([tool, "demo", "expose", "HOLLIN-051", "Red,H-alpha", "300", "first light"]) as terminal:
        terminal.see("Exposing in ")
        terminal.see(" of 600 s")
        terminal.see("Exposing: done, 600 s in ")
        assert terminal.end() == 0
        assert "%" not in terminal.text()
