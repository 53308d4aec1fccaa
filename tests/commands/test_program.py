"""Programs with groups, shared slots, a gate, members in files of their own, and what they print.

Modules: ``commands.program``, ``commands.command_tree``, ``commands.function_command``, ``commands.lookup``,
``commands.invocation``, ``commands.contract``, ``commands.pages``.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
from collections.abc import Iterator, Mapping
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any, ClassVar, NamedTuple

import pytest

from tests.harness import ROOT, Terminal, python
from tests.tables import tabled
from wesperon import Command, CommandGroup, DeclarationError, Form, Problems, Program, Refusal, one_of, slot, styled
from wesperon.screen.width import width
from wesperon.testing import Press, Scripted
from wesperon.values.records import slots_of

said: list[Any] = []


class Options(Form):
    site = slot(default="ridge", short="s")
    loud = slot(bool, short="l", default=False)


class Add(Command):
    """Add a target."""

    examples = ("targets add HOLLIN-051", "--site valley targets add 'HOLLIN 051' --height 20")
    target = slot()
    height = slot(int, default=30, low=0)

    def run(self) -> None:
        said.append((self.target, self.height, self.shared.site, self.shared.loud))


class Remove(Command):
    """Remove a target."""

    target = slot()

    def run(self) -> None:
        Add(target=self.target, height=0).run()


class Depth(Form):
    depth = slot(int, default=1)


def gate(path: tuple[str, ...], command: type[Command], values: Mapping[str, Any]) -> None:
    if values["site"] == "closed":
        raise Refusal("the site is closed", status=3)


TARGETS = CommandGroup(
    "targets", "The catalogue of targets.", [Add, Remove, CommandGroup("old", "Old ones.", [Add], shared=Depth)]
)
PROGRAM = Program(
    "desk", "1.0", "The night desk.", [TARGETS, ("tests.lazy_member:Lazy", "Loaded late.")], shared=Options, gate=gate
)


@tabled
def test_words_lead_to_a_command_in_the_tree(words: list[str], expected: object) -> None:
    said.clear()
    assert PROGRAM.call(words) == 0
    assert said == [expected]


@tabled
def test_what_does_not_lead_to_a_command_is_told(
    words: list[str], status: int, err: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert PROGRAM.main([*words, "--asking=never"]) == status
    assert err in capsys.readouterr().err


def test_a_member_in_a_file_of_its_own_is_imported_only_when_called(capsys: pytest.CaptureFixture[str]) -> None:
    sys.modules.pop("tests.lazy_member", None)
    program = Program("desk", members=[TARGETS, ("tests.lazy_member:Lazy", "Loaded late.")], shared=Options)
    assert program.call(["targets", "add", "x"]) == 0
    assert program.call(["--help"]) == 0
    assert "lazy  Loaded late." in capsys.readouterr().out
    assert "tests.lazy_member" not in sys.modules
    assert program.main(["lazy"]) == 0
    assert capsys.readouterr().out == "7\n"  # a number is a result like any other
    assert "tests.lazy_member" in sys.modules
    with pytest.raises(DeclarationError, match="no command, function or group at"):
        Program("desk", members=["tests.lazy_member:Nobody"]).call(["nobody"])


def test_missing_words_are_asked_for_level_by_level() -> None:
    said.clear()
    driver = Scripted([Press("enter"), Press("enter"), "x", Press("enter")])
    assert PROGRAM.call([], driver) == 0
    assert said == [("x", 30, "ridge", False)]
    assert "targets  The catalogue of targets." in driver.frames[0]


@pytest.mark.parametrize(("default_command", "out"), [("help", "desk COMMAND [ARGUMENT...]"), (Add, "x")])
def test_a_call_with_no_words_does_what_the_program_says(
    default_command: Any, out: str, capsys: pytest.CaptureFixture[str]
) -> None:
    said.clear()
    program = Program("desk", members=[Add], shared=Options, default_command=default_command)
    assert program.call([], Scripted(["x", Press("enter")])) == 0
    assert out in capsys.readouterr().out + str(said)


def test_a_bare_call_opens_the_console() -> None:
    assert (
        Program("desk", members=[Add], shared=Options, default_command="console").call(
            [], Scripted(["exit", Press("enter")])
        )
        == 0
    )


def test_settings_and_answers_stand_in_tables_by_command_path(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    said.clear()
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    (tmp_path / "desk").mkdir()
    (tmp_path / "desk" / "settings.toml").write_text('site = "valley"\n[targets.add]\nheight = 12\n[lazy]\nx = 1\n')
    program = Program("desk", members=[TARGETS, "tests.lazy_member:Lazy"], shared=Options, settings=True)
    assert program.call(["targets", "add", "x"]) == 0
    assert said == [("x", 12, "valley", False)]
    (tmp_path / "answers.json").write_text('{"targets": {"add": {"target": "y", "hieght": 1}}}')
    with pytest.raises(Problems, match=r'"hieght" is unknown; nearest: height'):
        program.call(["targets", "add", f"--answers={tmp_path / 'answers.json'}", "--asking=never"])


def test_a_group_that_stands_for_a_command_has_its_values_in_its_own_table(tmp_path: Path) -> None:
    said.clear()
    (tmp_path / "a.toml").write_text("[deep]\nheight = 7\n[deep.add]\nheight = 8\n")
    program = Program("desk", members=[CommandGroup("deep", members=[Add], default_command=Add)], shared=Options)
    for words in (["deep", "--target=x"], ["deep", "add", "x"]):
        assert program.call([*words, f"--answers={tmp_path / 'a.toml'}", "--asking=never"]) == 0
    assert [height for _, height, _, _ in said] == [7, 8]


def test_the_line_of_a_command_holds_its_path_and_the_shared_values() -> None:
    lines = []

    class Show(Command):
        target = slot()

        def run(self) -> None:
            lines.append(self.replay())

    Program("desk", members=[CommandGroup("deep", members=[Show])], shared=Options).call(["-l", "deep", "show", "a b"])
    assert lines[0].endswith("deep show --loud=yes '--target=a b'")


def test_names_that_clash_in_the_tree_are_refused() -> None:
    class Clash(Command):
        site = slot()

    with pytest.raises(DeclarationError, match="site"):
        Program("desk", members=[CommandGroup("deep", members=[Clash])], shared=Options)
    for wrong in ([5], ["nowhere"], [Add, Add]):
        with pytest.raises(DeclarationError):
            Program("desk", members=wrong)
    with pytest.raises(DeclarationError):
        Program("desk", default_command="nothing")


@pytest.mark.parametrize("columns", [30, 80])
def test_pages_show_the_tree_and_the_examples_parse(columns: int) -> None:
    manual = PROGRAM.manual(columns)
    assert all(width(line) <= columns for line in manual.splitlines())
    flat = " ".join(manual.split())
    for told in ("targets The catalogue", "With every command", "desk targets add TARGET [HEIGHT]", "For example"):
        assert told in flat
    for example in Add.examples:
        said.clear()
        assert PROGRAM.call(subprocess.run(
            ["sh", "-c", f"printf '%s\\n' {example}"], capture_output=True, text=True, check=True
        ).stdout.splitlines()) == 0  # fmt: skip
        assert said[0][0] in ("HOLLIN-051", "HOLLIN 051")


def test_the_pages_of_the_whole_tree_come_at_once(capsys: pytest.CaptureFixture[str]) -> None:
    assert PROGRAM.call(["--help=all"]) == 0
    out = capsys.readouterr().out
    for line in (
        "desk COMMAND [ARGUMENT...]",
        "desk targets COMMAND [ARGUMENT...]",
        "desk targets old add TARGET [HEIGHT]",
        "desk lazy",
    ):
        assert line in out.splitlines()


class Frame(NamedTuple):
    target: str
    seconds: float


class Row(Form):
    target = slot()
    ok = slot(bool)


def numbers() -> Iterator[int]:
    yield from range(3)


@tabled
def test_a_result_is_printed_in_a_sensible_form(
    result: Any, text: str, data: object, capsys: pytest.CaptureFixture[str]
) -> None:
    class Give(Command):
        def run(self) -> Any:
            return result() if callable(result) else result

    program = Program("desk", members=[Give], results=True)
    assert program.call(["give"]) == 0
    assert capsys.readouterr().out == text
    assert program.call(["give", "--as", "json"]) == 0
    assert json.loads(capsys.readouterr().out) == data


FAILING = (
    "from wesperon import *\n"
    "class Park(Command):\n"
    "    def run(self):\n"
    "        raise ZeroDivisionError('no flats\\x1b[31m')\n"
    "raise SystemExit(Program('desk', members=[Park]).main(['park']))\n"
)


@pytest.mark.parametrize("trace", ["", "1"])
def test_an_unexpected_error_is_one_line_and_a_trace_on_request(trace: str) -> None:
    env = {**os.environ, "WESPERON_TRACE": trace, "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run([sys.executable, "-c", FAILING], capture_output=True, text=True, env=env)
    assert done.returncode == 1
    if trace:
        assert "Traceback" in done.stderr
    else:
        assert done.stderr.splitlines() == [
            "desk: ZeroDivisionError: no flats^[[31m", "WESPERON_TRACE=1 in the environment shows the whole trace.",
        ]  # fmt: skip


def test_problems_for_programs_are_json() -> None:
    script = "from wesperon import *; fill(frames=slot(int))"
    env = {**os.environ, "WESPERON_PROBLEMS": "json", "PYTHONPATH": str(ROOT / "src")}
    argv = [sys.executable, "-c", script, "4x5", "--asking=never"]
    done = subprocess.run(argv, capture_output=True, text=True, env=env)
    assert done.returncode == 2
    assert [(p["slot"], p["text"], p["position"], p["words"]) for p in json.loads(done.stderr)] == [
        ("frames", "4x5", 1, [0])
    ]


def test_emphasis_is_shown_where_it_can_be() -> None:
    assert styled("x", "bold red") == "x"
    with pytest.raises(DeclarationError, match="nearest: red"):
        styled("x", "redd")
    script = "from wesperon import styled; print(styled('loud', 'bold on-bright-blue') + styled('end', 'red'))"
    with Terminal(python("-c", script)) as terminal:
        assert terminal.end() == 0
        assert b"\x1b[1;104mloud\x1b[m\x1b[31mend\x1b[m" in terminal.received
    with Terminal(python("-c", script), env={"NO_COLOR": "1"}) as terminal:
        assert terminal.end() == 0
        assert b"\x1b[1mloud\x1b[mend" in terminal.received


def test_a_choice_of_a_shared_slot_may_hold_several_words() -> None:
    class Sites(Form):
        site = slot(one_of(["far ridge", "valley"]), default="valley")

    said.clear()
    Program("desk", members=[Add], shared=type("Both", (Sites, Options), {})).call(["--site", "far ridge", "add", "x"])
    assert said == [("x", 30, "far ridge", False)]


def test_a_program_of_one_command_takes_its_words_by_position(capsys: pytest.CaptureFixture[str]) -> None:
    class Only(Command):
        target = slot()
        seconds = slot(float)

        def run(self) -> str:
            return f"{self.target} for {self.seconds}"

    program = Program("desk", default_command=Only)
    assert program.main(["HOLLIN-051", "3"]) == 0
    assert capsys.readouterr().out == "HOLLIN-051 for 3.0\n"
    assert program.main(["HOLLIN-051", "3", "4"]) == 2
    assert "1 word too many" in capsys.readouterr().err


def test_a_declaration_is_never_changed_by_its_use() -> None:
    """Promise 8: a form that is shared by two programs, by a group and filled alone stays what it was."""

    class Options(Form):
        site = slot(default="ridge")
        frames = slot(int, default=1)

    class Look(Command):
        """Look."""

        target = slot()
        seen: ClassVar[list[object]] = []

        def run(self) -> None:
            self.seen.append((self.target, self.shared.site, self.shared.frames))

    before = {name: dict(one.__dict__) for name, one in {**slots_of(Options), **slots_of(Look)}.items()}
    one = Program("one", members=[Look], shared=Options)
    other = Program("other", members=[CommandGroup("deep", members=[Look], shared=Options)])
    for _ in range(2):
        assert one.call(["look", "x", "--site=valley"]) == 0
        assert other.call(["deep", "--frames=3", "look", "y"]) == 0
        assert tuple(Options.fill(["valley", "3"], asking="never")) == ("valley", 3)
        with pytest.raises(Problems):
            one.call(["look", "x", "valley"])
        one.page(), one.contract(), one.manual(), one.blank_answers()
    assert Look.seen[:2] == [("x", "valley", 1), ("y", "ridge", 3)]
    assert {name: dict(one.__dict__) for name, one in {**slots_of(Options), **slots_of(Look)}.items()} == before


def test_the_gate_looks_before_anything_is_asked() -> None:
    """Once before every command, with the names that lead to it, its class and what is known; it may refuse."""
    seen: list[Any] = []

    def look(path: tuple[str, ...], command: type[Command], values: Any) -> None:
        seen.append((path, command, dict(values)))
        if values.site == "closed":
            raise Refusal("the site is closed", status=3)

    class Plan(Command):
        target = slot()
        frames = slot(int)
        seconds = slot(float, default=2.5)
        total = slot(float, default=lambda plan: plan.frames * plan.seconds)

        def run(self) -> None:
            seen.append("ran")

    group = CommandGroup("night", "The night.", [Plan])
    program = Program("desk", members=[group], shared=Options, gate=look)
    known = {"site": "ridge", "loud": False, "target": "x", "seconds": 2.5}
    driver = Scripted(["7", Press("enter")])
    assert program.call(["night", "plan", "x"], driver) == 0
    assert seen == [(("night", "plan"), Plan, known), "ran"]
    seen.clear()
    closed = Scripted([])
    with pytest.raises(Refusal):
        program.call(["night", "plan", "--site=closed"], closed)
    assert not closed.frames
    assert len(seen) == 1
    seen.clear()
    assert program.call(["night", "plan", "x", "7"]) == 0
    assert seen[0][2] == {**known, "frames": 7, "total": 17.5}
    assert seen[1:] == ["ran"]
    seen.clear()
    with pytest.raises(Problems):
        program.call(["night", "plan", "x", "many", "--asking=never"])
    assert not seen


@pytest.mark.parametrize("body", ["    password = slot(secret='anywhere')\n", "    x = undefined\n"])
@tabled
def test_a_command_that_is_not_loaded_yet_may_have_a_secret(
    words: list[str], body: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    """So it is loaded before a wrong line is repeated; where it cannot be, nothing is that may be one."""
    name = f"late_{abs(hash((body, *words)))}"
    (tmp_path / f"{name}.py").write_text(
        f"from wesperon import Command, slot\n\n\nclass Enter(Command):\n{body}\n    def run(self): ...\n"
    )
    monkeypatch.syspath_prepend(str(tmp_path))
    program = Program("desk", members={"enter": (f"{name}:Enter", "Come in.")}, shared=Options)
    assert program.main([*words, "--asking=never"]) == 2
    assert "hunter" not in "".join(capsys.readouterr())


class Aim(Command):
    """Aim the telescope."""

    filter = slot(one_of(["red", "blue"], aliases={"red": ["r", "rot"]}.get))
    reason = slot(applies=lambda answers: answers.filter == "red")
    part = slot(one_of(lambda answers: [answers.filter, "all"]))

    def run(self) -> None:
        pass


class Track(Command):
    frames = slot(int, default=3)

    def run(self) -> None:
        pass


def test_a_contract_holds_everything_that_callers_rely_on() -> None:
    group = CommandGroup("aim", members=[Aim], default_command="help")
    contract = Program("desk", members=[group], default_command=Track, settings=True, prefixes=False).contract()
    assert contract.splitlines() == [
        "desk",
        "  names and commands are written in full",
        "  values from the settings file",
        "  with no command: track",
        "    position 1; --frames; a whole number; default 3",
        "",
        "desk aim",
        "  with no command: help",
        "",
        "desk aim aim",
        "  position 1; --filter; one of red (r, rot), blue; required",
        "  by name; --reason; text; only where it applies; required",
        "  position 2; --part; one of choices that depend on the answers before; required",
    ]


@tabled
def test_a_name_before_its_command_is_what_is_wrong(words: list[str], said: str) -> None:
    program = Program("desk", members=[Track, Aim])
    with pytest.raises(Problems) as caught:
        program.call(words)
    assert [problem.reason for problem in caught.value] == [said]
    (problem,) = caught.value
    assert words[problem.words[0]] == problem.text


def test_help_and_the_name_of_a_command_are_its_page(capsys: pytest.CaptureFixture[str]) -> None:
    """Unless the program has a command of that name; an unknown one is told."""

    def expose(target: str) -> None:
        """Open the shutter."""

    def help_() -> str:
        return "own"

    ground = CommandGroup("ground", members=[expose], default_command=expose)
    program = Program("desk", members=[CommandGroup("sky", members=[expose]), ground])
    for names in ([], ["sky"], ["sky", "expose"], ["ground"], ["ground", "expose"]):
        assert program.main(["help", *names]) == 0
        page = capsys.readouterr().out
        assert program.main([*names, "--help"]) == program.main([*names, "-h"]) == 0
        assert capsys.readouterr().out == page * 2
    assert program.main(["help", "sky", "expos"]) == 0  # names are cut as elsewhere
    assert program.main(["help", "earth"]) == 2
    assert capsys.readouterr().err.startswith(
        'desk help earth\n          ^^^^^\n      "earth" is not a command of desk'
    )
    assert [one.text for one in program.candidates(["help", "sky"], "")] == ["expose"]
    assert not program.candidates(["help", "sky", "expose"], "")
    hiding = Program("desk", members=[expose], shared=type("Keys", (Form,), {"word": slot(secret=True)}))
    assert hiding.main(["help", "earth", "x"]) == 2
    assert capsys.readouterr().err.startswith("desk help earth '***'")  # the word help is no secret
    assert Program("desk", members={"help": help_, "sky": expose}).main(["help"]) == 0
    assert capsys.readouterr().out == "own\n"


class Place(Form):
    site = slot(default="ridge")


class Reckon(Command):
    n = slot(int, default=2)

    def work(self, times: int) -> str:
        return f"{times * self.n} at {self.shared.site}"

    def run(self) -> str:
        with ProcessPoolExecutor(1) as pool:
            return ", ".join(pool.map(self.work, [1, 2]))


@pytest.mark.parametrize("results", [True, False])
def test_a_command_with_shared_values_works_in_other_processes(
    results: bool, capfd: pytest.CaptureFixture[str]
) -> None:
    program = Program("desk", members=[Reckon], shared=Place, results=results)
    assert program.call(["reckon", "3", "--site=hill"]) == 0
    assert capfd.readouterr().out == "3 at hill, 6 at hill\n"


def test_bounds_that_depend_on_others_hold_for_starred_parameters() -> None:
    class Sum(Form):
        least = slot(int, named_only=True, default=1)
        numbers = slot(int, rest=True, low=lambda so_far: so_far.least)

    assert Sum.fill(["3", "4"], asking="never").numbers == (3, 4)
    with pytest.raises(Problems, match="too low: must be at least 4"):
        Sum.fill(["3", "4", "--least=4"], asking="never")
