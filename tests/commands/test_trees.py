"""Trees of commands: further names, headings, what is not listed, commands of other packages, texts as written.

Modules: ``commands.command_tree``, ``commands.listing``, ``commands.merged``, ``commands.entry_points``,
``commands.tree_secrets``, ``commands.pages``, ``output.paragraphs``, ``output.usage``.
"""

from __future__ import annotations

import contextlib
import io
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import Terminal, python
from wesperon import Command, CommandGroup, Console, Context, DeclarationError, Form, Problems, Program, run, slot
from wesperon.commands.listing import summaries
from wesperon.commands.tree_secrets import commands_with_secrets
from wesperon.output.help import help_page
from wesperon.output.paragraphs import paragraphs
from wesperon.screen.table import texts
from wesperon.screen.width import width
from wesperon.values.records import slots_of

NAMES = ["park", "expose", "list", "queue", "mast", "lens", "plan", "export"]
ALIASES = ["pk", "ex", "ls", "qu", "dir", "ln", "parking", "x-1"]


def made(name: str, **says: Any) -> type[Command]:
    def function(frames: int = 1) -> str:
        return f"{name} {frames}"

    return Command.from_function(function, name=name, **says)


def _group(**says: Any) -> CommandGroup:
    return CommandGroup("mast", **says)


@st.composite
def trees(draw: st.DrawFn) -> tuple[Program, dict[str, list[str]]]:
    """Return a program of commands and a group, and the words that mean each of its commands."""
    names = draw(st.lists(st.sampled_from(NAMES), min_size=2, max_size=6, unique=True))
    left = draw(st.permutations(ALIASES))
    of = {name: [left.pop() for _ in range(draw(st.integers(0, 2))) if left] for name in names}
    heading = st.sampled_from(["", "Queue", "Night"])
    outer, inner = names[0], names[1:]
    commands = [made(name, aliases=of[name], section=draw(heading)) for name in inner]
    group = CommandGroup(outer, "A group.", commands, aliases=of[outer])
    return Program("desk", members=[group, *commands]), {name: [name, *of[name]] for name in names}


def said(program: Program, *words: str) -> tuple[int, str, str]:
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        status = program.main(words, context=Context(stdout=out, stderr=err, environ={"COLUMNS": "80"}))
    return status, out.getvalue(), err.getvalue()


@given(trees(), st.data())
@settings(max_examples=40, deadline=None)
def test_a_further_name_means_what_the_name_means(
    tree: tuple[Program, dict[str, list[str]]], data: st.DataObject
) -> None:
    program, words = tree
    outer, *inner = words
    name = data.draw(st.sampled_from(inner))
    path = data.draw(st.sampled_from([[name], [outer, name]]))
    typed = [data.draw(st.sampled_from(words[one])) for one in path]
    typed = [word.upper() if data.draw(st.booleans()) else word for word in typed]
    assert program.invocation(typed).names == path
    assert said(program, *typed, "3") == (0, f"{name} 3\n", "")
    assert said(program, "help", *typed) == said(program, *path, "--help")
    begun = typed[-1][: data.draw(st.integers(1, 4))].lower()
    owner = program if len(path) == 1 else program.members[outer].loaded
    assert isinstance(owner, CommandGroup)
    meant = {found for found, known in words.items() if any(word.startswith(begun) for word in known)}
    meant &= {*owner.members}
    exact = next((found for found, known in words.items() if begun in known and found in meant), "")
    if exact or len(meant) == 1:
        assert program.find(begun, owner) == (exact or meant.pop())
    else:
        with pytest.raises(Problems, match="ambiguous"):
            program.find(begun, owner)
    page = said(program, "--help")[1]
    for found, known in words.items():
        assert page.count(f" {', '.join(known)}" + ("  A group.\n" if found == outer else "\n")) == 1
        assert f"desk {found}" + (f"\n  also called {', '.join(known[1:])}" if known[1:] else "") in program.contract()


LINES = st.lists(
    st.sampled_from([*NAMES, *ALIASES, "pa", "l", "li", "e", "help", "3", "--frames=2", "--help", "nope"]), max_size=3
)


@given(trees(), LINES)
@settings(max_examples=40, deadline=None)
def test_a_command_that_is_not_listed_changes_no_line_without_its_name(
    tree: tuple[Program, dict[str, list[str]]], words: list[str]
) -> None:
    program, _ = tree
    members = [member.loaded for member in program.members.values()]
    hidden = [made("listen", listed=False, aliases="parker"), made("exposure", listed=False)]
    more = Program("desk", members=[*hidden, *members])
    assert said(more, *words) == said(program, *words)
    for before, word in ((words[:-1], words[-1]), (words, "")) if words else (([], ""),):
        assert more.candidates(before, word) == program.candidates(before, word)
    assert said(more, "listen", "2") == (0, "listen 2\n", "")
    assert said(more, "parker", "2") == (0, "listen 2\n", "")
    assert "desk listen\n  also called parker\n  in no list\n" in more.contract()
    assert "listen" not in more.manual()


@given(st.data())
@settings(max_examples=40, deadline=None)
def test_a_slot_that_is_left_out_of_help_is_in_no_help_usage_and_completion(data: st.DataObject) -> None:
    names = data.draw(st.lists(st.sampled_from(["frames", "gain", "note", "mast"]), min_size=1, unique=True))
    says = {
        name: {"named_only": data.draw(st.booleans()), "section": data.draw(st.sampled_from(["", "Optics"]))}
        for name in names
    }
    make: Any = slot
    shown: dict[str, Any] = {name: make(int, default=1, **says[name]) for name in names}
    hidden = {"debug": slot(int, default=0, help=False, named_only=True), "trace": slot(int, default=0, help=False)}
    plain: Any = type("Plain", (Form,), dict(shown))
    full: Any = type("Full", (Form,), {**{name: make(int, default=1, **says[name]) for name in names}, **hidden})
    page = help_page(["desk"], None, slots_of(full), 100)
    assert page == help_page(["desk"], None, slots_of(plain), 100)
    assert all(page.count(f"--{name}=NUMBER  ") == 1 for name in names)
    program = Program("desk", default_command=Command.from_function(lambda: None, name="x"))
    assert program.page().count("desk") == 1
    assert full.fill(["--debug=3", "--trace", "4"]).debug == 3
    with pytest.raises(Problems):
        full.fill(["--deb=3"])
    before = io.StringIO()
    with pytest.raises(Problems, match="debug"), contextlib.redirect_stderr(before):
        full.fill(["--debug=x"])  # what was typed is named all the same


def test_what_help_leaves_out_but_must_be_given_is_in_the_usage() -> None:
    class Night(Form):
        first = slot(int, help=False, default=1)
        second = slot(int)
        token = slot(int, help=False, named_only=True)

    page = help_page(["desk"], None, slots_of(Night), 80)
    assert page.startswith("desk FIRST SECOND --token=NUMBER\n")
    assert "--first" not in page


WRITTEN = st.lists(
    st.sampled_from(
        [
            "",
            "",
            "plain words in a row",
            "- an item of a list",
            "  an example --all  # of it",
            "12. a number",
            "x" * 50,
            "é 天 word",
        ]
    ),
    max_size=9,
)


@given(WRITTEN, st.integers(8, 90), st.integers(0, 8))
def test_a_text_keeps_all_its_words_and_the_lines_of_lists_and_examples(
    lines: list[str], columns: int, margin: int
) -> None:
    lines = ["At the margin", "", *lines]
    text = "\n".join(" " * margin + line if line else "" for line in lines)
    rows = texts(paragraphs(text, columns, is_docstring=False))
    assert "".join("".join(rows).split()) == "".join(text.split())
    assert all(width(row) <= columns for row in rows)
    least = min((len(line) - len(line.lstrip()) for line in lines if line), default=0)
    for line in lines:
        if (columns >= 60 and line.lstrip() != line) or (line[:2] in ("- ", "12") and columns >= 60):
            assert line[least:] in rows


class Dome(Command):
    """Turn the dome.

    It goes:

    - to the left,
      or
    - to the right

    and it is
    slow.
    """

    section = "Outside"
    aliases = ("dm",)
    epilogue = """
    For a whole night:

      desk dome 12    # to the left
      desk dome -- -12
    """
    by = slot(int)

    def run(self) -> str:
        return f"dome {self.by}"


def test_the_page_of_a_command_has_its_texts_as_they_were_written() -> None:
    program = Program("desk", members=[Dome], epilogue="Read on:\n\n  - the guide\n  - the page of the dome")
    page = said(program, "help", "dm")[1]
    assert "- to the left,\n  or\n- to the right\n\nand it is slow.\n\nAlso: dm\n" in page
    assert page.endswith("For a whole night:\n\n  desk dome 12    # to the left\n  desk dome -- -12\n")
    assert said(program, "--help")[1].endswith("Read on:\n\n  - the guide\n  - the page of the dome\n")
    assert "\nOutside\n" in said(program, "--help")[1]
    out = io.StringIO()
    context = Context(stdin=io.StringIO("help\n"), stdout=out)
    assert Console(program, history=False, context=context).run() == 0
    assert "\nOutside\n  dome, dm  Turn the dome.\n" in out.getvalue()


def test_forms_and_functions_have_an_epilogue_too(capsys: pytest.CaptureFixture[str]) -> None:
    class Night(Form):
        epilogue = "At the end."
        frames = slot(int)

    def expose(frames: int) -> int:
        return frames

    with pytest.raises(SystemExit) as left:
        Night.fill(["--help"])
    assert left.value.code == 0
    assert capsys.readouterr().out.endswith("\nAt the end.\n")
    assert run(expose, ["--help"], epilogue="At the end.") == 0
    assert capsys.readouterr().out.endswith("\nAt the end.\n")


def test_the_menu_has_the_headings_and_takes_further_names() -> None:
    code = (
        "from tests.commands.test_trees import *\n"
        "program = Program('desk', members=[Dome, made('park', section='Mast'), made('halt')])\n"
        "raise SystemExit(program.main())"
    )
    with Terminal(python("-c", code), rows=20, columns=80) as terminal:
        terminal.see("Outside")
        terminal.see("Mast")
        terminal.type("dm\r")
        terminal.see("by")
        terminal.type("4\r")
        terminal.see("dome 4")
        assert terminal.end() == 0


@pytest.mark.parametrize(
    ("members", "reason"),
    [
        (lambda: [made("park"), made("list", aliases="park")], "park, a further name of list, is the name of another"),
        (lambda: [made("park", aliases="p"), made("list", aliases="p")], "p, a further name of list, is the name"),
        (lambda: [made("park", renamed_from="p"), made("list", aliases="p")], "p, a further name of list"),
        (lambda: [("desk:Park", "", {"alias": "p"})], "'alias' is not one of aliases, renamed_from, section, listed"),
        (lambda: [("desk:Park", "", {"section": 5})], "section=5: must be a text"),
        (lambda: [made("park", listed="no")], "listed='no': must be a bool"),
        (lambda: [made("park", aliases=5)], "aliases=5: must be names"),
        (lambda: [made("park", aliases=["a", "a b"])], "must be names, words without blanks"),
        (lambda: [made("park", aliases="")], "aliases='': must be names"),
        (lambda: [made("park", renamed_from=["-x"])], "do not begin with -"),
        (lambda: [_group(listed=1)], "listed=1: must be True or False"),
    ],
)
def test_names_that_clash_and_wrong_types_are_errors_at_declaration(members: Any, reason: str) -> None:
    with pytest.raises(DeclarationError, match=reason):
        Program("desk", members=members())


def test_a_member_that_is_not_loaded_may_have_the_same() -> None:
    place = ("tests.commands.test_trees:Dome", "Turn it.", {"aliases": ["tn", "dome-2"], "section": "Far"})
    program = Program("desk", members={"turn": place})
    assert "Far\n  turn, tn, dome-2  Turn it." in said(program, "--help")[1]
    assert said(program, "TN", "5") == (0, "dome 5\n", "")


def test_a_line_with_a_further_name_of_a_command_with_a_secret_is_not_kept() -> None:
    class Login(Command):
        aliases = "li"
        token = slot(secret="anywhere", named_only=True)

    program = Program("desk", members=[Login, made("park")])
    assert commands_with_secrets(program) == {"login", "li"}
    lines = Console(program, history=False).lines
    assert lines.is_private("park; li --token=abc")
    assert not lines.is_private("park 3")


# Commands of other packages ------------------------------------------------------------------------------------------

PACKAGE = """
import sys
from wesperon import Command, CommandGroup, slot
sys.loaded_by_test = getattr(sys, "loaded_by_test", []) + [__name__]
class Turn(Command):
    "Turn it."
    by = slot(int)
    def run(self):
        return f"turned by {self.by}"
Roof = CommandGroup("roof", "The roof", [Turn])
def shutter(wide: bool = False):
    "Open the shutter."
    return "wide" if wide else "narrow"
"""
POINTS = """
[desk.commands]
roof = roofs:Roof
shutter = roofs:shutter
broken = roofs.broken:Broken
missing = roofs:Nothing
gone = gone_module:Thing
odd = roofs
two words = roofs:shutter
bad\x1b[31mname = roofs:shutter
park = roofs:shutter
[desk.more]
late = roofs:shutter
"""


@pytest.fixture
def packaged(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    about = tmp_path / "desk_roof-1.2.dist-info"
    about.mkdir()
    (about / "METADATA").write_text(
        "Metadata-Version: 2.1\nName: desk-roof\nVersion: 1.2\nSummary: The roof of the desk\n"
    )
    (about / "entry_points.txt").write_text(POINTS)
    (tmp_path / "roofs").mkdir()
    (tmp_path / "roofs" / "__init__.py").write_text(PACKAGE)
    (tmp_path / "roofs" / "broken.py").write_text("import nothing_of_that_name\n")
    monkeypatch.syspath_prepend(str(tmp_path))
    monkeypatch.setattr(sys, "loaded_by_test", [], raising=False)
    yield
    for name in [name for name in sys.modules if name.partition(".")[0] == "roofs"]:
        del sys.modules[name]


def desk(*more: Any) -> Program:
    return Program("desk", members=[made("park"), *more, "entry-points:desk.commands"])


@pytest.mark.usefixtures("packaged")
def test_commands_of_other_packages_are_found_and_loaded_when_they_are_called() -> None:
    program = desk()
    assert said(program, "park") == (0, "park 1\n", "")
    page = said(program, "--help")[1]
    for line in ("roof  The roof of the desk", "gone  of desk-roof 1.2: there is no module gone_module"):
        assert line in page
    assert 'odd  of desk-roof 1.2: "roofs" is no place of a command' in page
    assert "park  of desk-roof 1.2: another command has this name" in page
    assert "two words  of desk-roof 1.2: no name of a command" in page
    assert "bad^[[31mname  of desk-roof 1.2: no name of a command" in page
    assert "\x1b" not in page
    assert program.candidates([], "sh")[0].text == "shutter"
    assert "roofs" not in sys.modules
    assert said(program, "roof", "turn", "3") == (0, "turned by 3\n", "")
    assert said(program, "shut", "--wide") == (0, "wide\n", "")
    assert sys.modules["roofs"]
    alone = Program("desk", members="entry-points:desk.more")
    assert said(alone, "late") == (0, "narrow\n", "")
    assert summaries(alone) == {"late": "The roof of the desk"}


@pytest.mark.usefixtures("packaged")
def test_a_command_of_another_package_that_does_not_work_is_told_and_passed_over() -> None:
    program = desk()
    cannot = "broken, a command of the package desk-roof 1.2, cannot be loaded: ModuleNotFoundError"
    status, out, err = said(program, "broken", "1")
    assert (status, out) == (1, "")
    assert cannot in err
    assert (
        "missing, a command of the package desk-roof 1.2, cannot be loaded: DeclarationError"
        in said(program, "missing")[2]
    )
    assert '"gone" is left out: of desk-roof 1.2: there is no module gone_module' in said(program, "gone")[2]
    status, out, err = said(program, "--help=all")
    assert status == 0
    assert cannot in err
    assert "desk roof turn BY" in out
    assert "desk shutter" in out
    assert cannot in program.contract()
    assert "[roof.turn]" in program.blank_answers()
    assert program.candidates(["broken"], "") == []
    assert said(program, "park", "2") == (0, "park 2\n", "")


def test_a_group_of_entry_points_that_nobody_has_is_empty() -> None:
    program = Program("desk", members=[made("park"), "entry-points:desk.nobody"])
    assert [*program.members] == ["park"]
    assert said(program, "par") == (0, "park 1\n", "")


# Consoles ------------------------------------------------------------------------------------------------------------

MODES = """
from wesperon import Command, Console, Program, slot, one_of
mode = ["watch"]
class Mode(Command):
    "Change the mode."
    to = slot(one_of(["watch", "setup"]))
    def run(self): mode[0] = self.to
class Say(Command):
    "Say a text."
    text = slot(rest=True, low=0)
    def run(self): return " | ".join(self.text)
program = Program("dome", members=[Mode, Say], bindings={"?": "list-candidates"})
raise SystemExit(Console(program, name=lambda: f"dome {mode[0]}", history=False).run())
"""


def test_a_label_changes_and_a_character_that_the_program_binds_is_typed_in_quotes_alone() -> None:
    with Terminal(python("-c", MODES), rows=24, columns=80) as terminal:
        terminal.see("dome watch")
        terminal.type("mode ?")
        terminal.see("setup")
        terminal.type("setup\r")
        terminal.see("dome setup")
        terminal.type("say 'what?' a\\? \"or?\"?\r")
        terminal.see("what? | a? | or?")
        terminal.type("\x1b[200~say why?\x1b[201~\r")
        terminal.see("why?")
        terminal.type("exit\r")
        assert terminal.end() == 0


def test_a_label_that_cannot_be_had_is_told_and_the_console_goes_on() -> None:
    code = MODES.replace('f"dome {mode[0]}"', "1 / 0").replace("'list-candidates'", "'help'")
    with Terminal(python("-c", code), rows=24, columns=80) as terminal:
        terminal.see("ZeroDivisionError")
        terminal.type("say 5\rexit\r")
        terminal.see("5")
        assert terminal.end() == 0


def test_a_question_types_a_character_that_is_bound_for_consoles() -> None:
    code = MODES.replace(
        "raise SystemExit(Console(",
        "ask = lambda: 0\nraise SystemExit(program.main(['say', '--asking=all']))\n(Console(",
    )
    with Terminal(python("-c", code), rows=24, columns=80) as terminal:
        terminal.see("text")
        terminal.type("why?\r\r")
        terminal.see("why?")
        assert terminal.end() == 0


def test_a_program_binds_characters_to_actions_that_there_are() -> None:
    with pytest.raises(DeclarationError, match='bindings: \\?: "helpp" is not an action'):
        Program("desk", bindings={"?": "helpp"})
