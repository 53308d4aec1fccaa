"""Sets of questions and guides in files: what they declare, what is wrong with them, and the ways through.

Modules: ``documents.question_set``, ``documents.slot_rules``, ``documents.choice_lists``, ``documents.faults``,
``guides.guide``, ``guides.flow``, ``guides.reader``.
"""

from __future__ import annotations

import contextlib
import io
import json
import os
import shutil
import subprocess
import sys
from datetime import date
from pathlib import Path
from typing import Any

import jsonschema
import pytest
import yaml
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.asking import ENTER
from tests.harness import CTRL_C, ROOT, Terminal
from tests.tables import tabled
from wesperon import DeclarationError, Form, Guide, Problems
from wesperon.documents.set_schema import set_schema
from wesperon.guides.guide import lint
from wesperon.guides.schema import guide_schema
from wesperon.testing import Press, Scripted, Session
from wesperon.tool.main import main
from wesperon.tool.preferences_schema import schema as preferences_schema
from wesperon.values.records import slots_of

PLAN = ROOT / "examples" / "nightplan.toml"
DOME = ROOT / "src" / "wesperon" / "demo" / "data" / "dome.toml"
WORDS = ["--target=HOLLIN-051", "--filters=Red,H-alpha", "--seconds=30", "--night=2031-04-17"]


def written(folder: Path, text: str, name: str = "set.toml") -> Path:
    path = folder / name
    path.write_text(text, encoding="utf-8")
    return path


def told(path: Path) -> list[str]:
    return [problem.sentence.replace(f"{path}", path.name) for problem in lint(path)]


def test_a_set_gives_the_form_that_a_program_would_declare() -> None:
    form = Form.from_file(PLAN)
    record: Any = form.fill(WORDS, asking="never")
    assert (record.target["label"], record.target["number"]) == ("Lantern Nebula", "HOLLIN-051")
    assert [entry if isinstance(entry, str) else entry["label"] for entry in record.filters] == ["Red", "H-alpha"]
    assert (record.seconds, record.guided, record.star, record.night) == (30.0, False, None, date(2031, 4, 17))
    assert form.fill(record.words(), asking="never") == record
    driver = Scripted(["wick", ENTER, Press("space"), ENTER, "9", ENTER, "2031-05-01", ENTER])
    assert form.fill([], driver=driver).seconds == 9.0
    with pytest.raises(Problems, match="star: does not apply"):
        form.fill([*WORDS, "--star=x"], asking="never")


def test_one_set_in_three_formats_is_one_set(tmp_path: Path) -> None:
    import tomllib

    tables = tomllib.loads(PLAN.read_text())
    shutil.copytree(PLAN.parent / "data", tmp_path / "data")
    native = json.loads(json.dumps(tables, default=str))
    forms = [
        Form.from_file(written(tmp_path, text, name))
        for text, name in [
            (PLAN.read_text(), "a.toml"),
            (json.dumps(native), "a.json"),
            (yaml.safe_dump(tables, sort_keys=False), "a.yaml"),
        ]
    ]
    records = [form.fill(WORDS, asking="never") for form in forms]
    assert len({str(record) for record in records}) == 1


def run(*words: str, stdin: str | None = None) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "wesperon", *words], capture_output=True, text=True, timeout=60, input=stdin,
        env={**os.environ, "PYTHONPATH": str(ROOT / "src")}, start_new_session=True,
    )  # fmt: skip


def test_the_tool_fills_a_set_and_prints_it_in_three_forms() -> None:
    done = run("fill", str(PLAN), *WORDS)
    assert json.loads(done.stdout) == {
        "target": "HOLLIN-051", "filters": ["Red", "H-alpha"], "seconds": 30.0, "guided": False, "star": None,
        "night": "2031-04-17",
    }  # fmt: skip
    assert run("fill", "--to=env", str(PLAN), *WORDS).stdout.splitlines()[1] == 'FILTERS="Red\\nH-alpha"'
    help_page = run("fill", str(PLAN), "--help")
    assert (help_page.returncode, "Seconds each: a number from 0.1 to 3600 s" in help_page.stdout) == (0, True)
    wrong = run("fill", str(PLAN), "--secnds=3", "--asking=never")
    assert (wrong.returncode, wrong.stdout) == (2, "")
    assert "nearest: --seconds" in wrong.stderr
    assert "--night=YYYY-MM-DD  Night of: a date" in wrong.stderr


@pytest.mark.parametrize("shell", ["sh", "bash", "zsh"])
@settings(max_examples=25, deadline=None)
@given(
    note=st.text(st.characters(blacklist_characters="\0", blacklist_categories=["Cs"]), min_size=1).filter(str.strip)
)
def test_a_shell_takes_the_assignments_as_they_were_meant(shell: str, note: str) -> None:
    if shutil.which(shell) is None:
        pytest.skip(f"{shell} is not installed")
    from wesperon import slot
    from wesperon.tool.fill import printed

    form: Any = type("One", (Form,), {"note": slot()})
    assignments = printed(form(note=note), "", "shell", "set_")
    script = f"eval {json.dumps('$1')}; printf '%s' \"$set_note\""
    done = subprocess.run([shell, "-c", script, shell, assignments], capture_output=True, check=True)
    assert done.stdout.decode() == note


def test_commands_of_a_set_are_filled_like_those_of_a_program(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = written(
        tmp_path,
        """
        [slots.site]
        default = "ridge"
        [commands.expose.slots.frames]
        kind = "integer"
        [commands.dome.commands.open]
    """,
    )
    assert main(["fill", str(path), "expose", "--site=desk", "3"]) == 0
    assert json.loads(capsys.readouterr().out) == {"command": "expose", "values": {"site": "desk", "frames": 3}}
    assert main(["fill", "--to", "shell", str(path), "dome", "open"]) == 0
    assert capsys.readouterr().out == "command='dome open'\nsite=ridge\n"
    assert main(["fill", str(path), "--asking=never"]) == 2
    assert list(slots_of(Form.from_file(path, "expose"))) == ["frames"]
    with pytest.raises(DeclarationError, match="nearest: expose"):
        Form.from_file(path, "expos")


@tabled
def test_choices_stand_in_a_data_file_and_edits_are_picked_up(tmp_path: Path, name: str, text: str) -> None:
    path = written(tmp_path, f'[slots.hue]\nkind = "one-of"\nchoices = {{ file = "{name}" }}')
    written(tmp_path, text, name)
    labels: Any = slots_of(Form.from_file(path))["hue"].kind
    assert list(labels.choices.labels()) == ["Red", "Blue"]
    written(tmp_path, text.replace("Blue", "Green"), name)
    labels = slots_of(Form.from_file(path))["hue"].kind
    assert list(labels.choices.labels()) == ["Red", "Green"]


SET = '[slots.n]\nkind = "integer"\n'


GUIDE = '[steps.a]\nask = "Lit?"\nkind = "boolean"\nnext = { yes = "b", no = "c" }\n[steps.b]\nends = true\n'


@tabled
def test_everything_that_is_wrong_with_a_file_is_told(
    tmp_path: Path, opened: Any, text: str, expected: list[str]
) -> None:
    path = written(tmp_path, text)
    found = told(path)
    for one in expected:
        assert any(one in sentence for sentence in found), found
    with pytest.raises(Problems):
        opened(path)


@tabled
def test_faults_have_their_lines_in_every_format(tmp_path: Path, name: str, text: str) -> None:
    found = told(written(tmp_path, text, name))
    if name == "b.toml":
        assert any(one.startswith("b.toml, line 1: x") for one in found)
    else:
        assert found[0].startswith(f"{name}, line 4: slots.n.low")


def test_what_is_wrong_is_told_from_the_top_of_the_file_down(tmp_path: Path) -> None:
    wrong = "[slots.n]\nkind = 3\n[choices]\na = []\n[slots.m]\nask = 3\n[commands.x]\nhelpp = 1\n"
    said = told(written(tmp_path, "descripton = 1\n" + wrong + "[slots.o]\nkind = 'x'\n"))
    lines = [int(line.partition("line ")[2].partition(":")[0]) for line in said]
    assert lines == sorted(lines)
    assert len(lines) >= 6


def test_lint_says_how_many_and_the_demo_has_none(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["lint", str(DOME), str(PLAN)]) == 0
    assert capsys.readouterr().out == "0 problems in 2 files\n"
    assert main(["lint", str(written(tmp_path, GUIDE))]) == 1
    assert "1 problem in 1 file" in capsys.readouterr().out
    assert main(["lint", str(tmp_path / "none.toml")]) == 1


VALIDATORS = [jsonschema.Draft202012Validator(schema) for schema in (set_schema(), guide_schema())]
WORDS_OF_FILES = [
    *"abc",
    "kind",
    "choices",
    "next",
    "says",
    "ask",
    "slots",
    "steps",
    "applies",
    "slot",
    "label",
    "file",
]
JSON_LIKE = st.recursive(
    st.none() | st.booleans() | st.integers(-3, 3) | st.floats(allow_nan=False) | st.text("abyes-o", max_size=6),
    lambda inner: st.lists(inner, max_size=3)
    | st.dictionaries(st.sampled_from(WORDS_OF_FILES), inner, max_size=4),
    max_leaves=20,
)  # fmt: skip


@settings(max_examples=120, deadline=None)
@given(JSON_LIKE, st.booleans())
def test_no_file_whatever_it_holds_is_more_than_wrong(
    tmp_path_factory: pytest.TempPathFactory, tables: Any, guide: bool
) -> None:
    top = {"steps" if guide else "slots": tables}
    path = written(tmp_path_factory.getbasetemp(), json.dumps(top), "any.json")
    found = lint(path)
    assert found or (Guide(path) if guide else Form.from_file(path))
    assert found or VALIDATORS[guide].is_valid(top), "the schema refuses what is read"


def test_the_examples_are_what_the_schemas_describe() -> None:
    import tomllib

    for path, schema in ((PLAN, set_schema()), (DOME, guide_schema())):
        jsonschema.Draft202012Validator.check_schema(schema)
        jsonschema.validate(json.loads(json.dumps(tomllib.loads(path.read_text()), default=str)), schema)
    for name, schema in (("set", set_schema()), ("guide", guide_schema()), ("preferences", preferences_schema())):
        assert json.loads((ROOT / "docs" / f"{name}.schema.json").read_text()) == schema


def test_a_large_file_is_read_in_reasonable_time_and_tells_its_first_faults(tmp_path: Path) -> None:
    lines = "\n".join(f'[slots.n{at}]\nkind = "intger"' for at in range(2_000))
    found = lint(written(tmp_path, lines))
    assert "line 2" in found[0].sentence
    steps = "\n".join(f'[steps.s{at}]\nsays = "x"\nnext = "s{at + 1}"' for at in range(5_000))
    chain = written(tmp_path, steps + "\n[steps.s5000]\nends = true", "chain.toml")
    assert Guide(chain).walk(asking="never").end == "s5000"
    for text in ("slots:\n  a:\n    applies: &x\n      all: [*x]", "slots: &x\n  a: *x", "steps: &x\n  a: {next: *x}"):
        assert told(written(tmp_path, text, "cycle.yaml"))
    padded = written(tmp_path, "# " + "x" * 10_000_000 + "\n" + SET, "large.toml")
    assert lint(padded) == []
    assert told(written(tmp_path, "[" * 100_000, "deep.json"))


# Ways through the guide of the demo ---------------------------------------------------------------------------------

ANSWERS = {
    "weather": "yes",
    "lamp": ["no", "yes"],
    "breaker": "out",
    "again": "yes",
    "sound": "a click",
    "parts": "relay,gloves",
}


def test_typed_answers_and_those_of_a_file_give_the_same_way(tmp_path: Path) -> None:
    guide = Guide(DOME)
    script: list[Any] = ["y", ENTER, "n", ENTER, Press("down"), ENTER, ENTER, "y", ENTER, "y", ENTER, "click", ENTER]
    typed = guide.walk(driver=Scripted([*script, Press("space"), Press("up"), Press("space"), ENTER, ENTER]))
    answers = written(tmp_path, json.dumps(ANSWERS), "answers.json")
    given = guide.walk(["--answers", str(answers)], asking="never")
    assert typed == given
    assert (given.end, given.outcome, given.says) == ("opens", "open", "The dome opens.")
    assert given.learned == ("breaker D2 was out", "the relay was changed")
    assert [name for name, _ in given.trail] == [
        "weather", "lamp", "breaker", "push", "again", "lamp", "sound", "parts", "change", "opens",
    ]  # fmt: skip
    assert given.answers["lamp"] is True


def test_conditions_ask_about_answers_and_about_what_was_learned(tmp_path: Path) -> None:
    guide = Guide(DOME)
    assert guide.walk(["--weather=no", "--wind=20"], asking="never").says == (
        "The dome is right: 20 m/s is too much. Wait until the lamp goes dark."
    )
    answers = written(tmp_path, json.dumps({**ANSWERS, "again": "no"}), "answers.json")
    assert guide.walk(["--answers", str(answers)], asking="never").end == "short"
    without = written(tmp_path, json.dumps({**ANSWERS, "parts": "relay"}), "answers.json")
    assert guide.walk(["--answers", str(without)], asking="never").end == "workshop"


@tabled
def test_what_is_wrong_or_missing_unattended_is_told(words: list[str], reason: str) -> None:
    with pytest.raises(Problems, match=reason):
        Guide(DOME).walk(words, asking="never")


def test_back_along_the_trail_and_what_was_learned_is_forgotten_with_it() -> None:
    script: list[Any] = ["y", ENTER, "n", ENTER, Press("down"), ENTER, Press("shift-tab"), Press("up"), ENTER, ENTER]
    walk = Guide(DOME).walk(driver=Scripted(script))
    assert (walk.end, walk.learned) == ("supply", ())


def test_a_guide_that_was_left_is_taken_up_again(tmp_path: Path) -> None:
    program = written(tmp_path, f"from wesperon import Guide\nprint(Guide({str(DOME)!r}).walk())\n", "dome.py")
    home = {"XDG_STATE_HOME": str(tmp_path / "state")}
    with Terminal([sys.executable, str(program)], env=home) as terminal:
        terminal.answer("Is the weather lamp", "y")
        terminal.answer("Is it lit", "n")
        terminal.see("What is D2")
        terminal.quiet()
        terminal.type(CTRL_C)
        terminal.end()
    with Terminal([sys.executable, str(program)], env=home) as terminal:
        terminal.see("2 saved answers")
        terminal.quiet()
        terminal.type("\r")
        terminal.see("What is D2")
        assert "Weather  Is the weather lamp on the panel dark?  yes" in terminal.text()
        terminal.quiet()
        terminal.type("\r")
        terminal.see("end='supply'")


def test_the_guide_in_plain_lines_goes_the_same_way() -> None:
    program = f"from wesperon import Guide; print(Guide({str(DOME)!r}).walk())"
    with Terminal([sys.executable, "-c", program], env={"WESPERON_PLAIN": "1"}, rows=60) as terminal:
        for label, text in [
            ("Is the weather lamp", "yes"), ("Is it lit", "back"), ("Is the weather lamp", "yes"), ("Is it lit", "no"),
            ("What is D2", "2"), ("Push D2 in", ""), ("Does D2 stay", "no"), ("Take the load off", ""),
            ("Push D2 in", ""),
        ]:  # fmt: skip
            terminal.see(label)
            terminal.wait(terminal.is_echoing)
            terminal.read(0.2)
            terminal.send(text.encode() + b"\n")
        terminal.see("end='short'")


def test_the_demo_goes_through_its_guide() -> None:
    with Session(lambda: main(["demo", "dome", "--weather=yes", "--lamp=yes"]), rows=40) as session:
        session.press("down", "down", "enter")
        assert "put the belt back" in session.screen
        session.press("enter")
        assert session.output == "The dome opens.\n\nFound on the way:\n  - the belt had come off\n"


@pytest.mark.parametrize("name", ["guide-files.md", "guide-branching.md"])
def test_the_files_in_the_documentation_are_right(tmp_path: Path, name: str) -> None:
    shutil.copytree(PLAN.parent / "data", tmp_path / "data")
    blocks = (ROOT / "docs" / name).read_text().split("```toml\n")[1:]
    assert blocks
    for block in blocks:
        if not block.startswith("# plan.toml"):  # which is wrong on purpose
            assert told(written(tmp_path, block.partition("```")[0])) == []


def test_the_shell_script_of_the_examples_gets_its_values_or_ends() -> None:
    path = {**os.environ, "PATH": f"{Path(sys.executable).parent}:{os.environ['PATH']}"}

    def plan(*words: str) -> tuple[int, str]:
        argv = ["sh", str(ROOT / "examples" / "nightplan.sh"), *words]
        done = subprocess.run(argv, env=path, capture_output=True, text=True, start_new_session=True)
        return done.returncode, done.stdout

    assert plan(*WORDS) == (0, "HOLLIN-051 through 2 filters, 30 s each, on 2031-04-17\n")
    assert plan("--asking=never") == (2, "")


def test_a_guide_that_leads_in_a_circle_ends_without_a_user(tmp_path: Path) -> None:
    path = written(
        tmp_path,
        '[steps.a]\nask = "On?"\nkind = "boolean"\nnext = { yes = "b", no = "c" }\n[steps.b]\nsays = "again"\n'
        'next = [{ when = { slot = "a" }, to = "d" }, { to = "c" }]\n[steps.d]\nsays = "and again"\nnext = "b"\n'
        "[steps.c]\nends = true\n",
    )
    with pytest.raises(Problems, match="loops and never ends"):
        Guide(path).walk(["--a=yes"], asking="never")


def test_a_guide_says_what_was_asked_and_its_end_once() -> None:
    with Terminal([sys.executable, "-m", "wesperon", "demo", "dome"], columns=78) as terminal:
        terminal.see("panel dark")
        terminal.quiet()
        terminal.type("n\r")
        terminal.see("Wind at the mast")
        terminal.quiet()
        terminal.type("20\r")
        assert terminal.end() == 0
        shown = " ".join(terminal.text().split())
        assert "Weather Is the weather lamp on the panel dark? no Wind Wind at the mast 20 m/s Wait" in shown
        assert shown.count("is too much") == 1
        assert "Found on the way: - the weather lamp is lit" in shown


@pytest.mark.parametrize(("given", "other"), [("a=1", "z"), ("b=1", None)])
def test_a_condition_on_pairs_compares_each_pair(given: str, other: str | None, tmp_path: Path) -> None:
    (tmp_path / "pairs.toml").write_text(
        '[slots.tags]\nkind = "pairs"\n[slots.other]\napplies = { slot = "tags", one_of = ["a=1", "c=2"] }\n'
    )
    declared = Form.from_file(tmp_path / "pairs.toml")
    words = ["--tags", given, *(["--other=z"] if other else [])]
    assert declared.fill(words, asking="never").other == other


@given(st.lists(st.sampled_from(["ls", "-l", "--", "--help", "--target=x", "--asking", "", "a b", "-h"]), max_size=5))
@settings(deadline=None, max_examples=30, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_a_set_hands_words_on_as_they_are(tmp_path: Path, words: list[str]) -> None:
    file = tmp_path / "wrap.toml"
    file.write_text("[slots.target]\n[slots.argv]\nrest = 'verbatim'\n")
    out = io.StringIO()
    with contextlib.redirect_stdout(out):
        status = main(["fill", "--to=json", str(file), "Lantern", "ls", *words])
    assert status == 0
    assert json.loads(out.getvalue()) == {"target": "Lantern", "argv": ["ls", *words]}
