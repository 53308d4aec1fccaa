"""Slots that go together: given, left out, asked for; from every source.

Modules: ``values.rules``, ``argv.rivals``, ``forms.related``, ``documents.rule_tables``.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from itertools import product
from pathlib import Path
from typing import Annotated, Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.asking import BACK, CTRL_D, DOWN, ENTER, UP
from wesperon import (
    Command,
    Context,
    DeclarationError,
    Form,
    Problems,
    Program,
    all_or_none,
    at_least_one,
    at_most_one,
    exactly_one,
    fill,
    needs,
    one_of,
    run,
    slot,
)
from wesperon.completion.candidates import candidates
from wesperon.testing import Press, Scripted, Session
from wesperon.values.records import slots_of

#: Each rule, and whether it holds for which of its slots are given.
SORTS: dict[Any, Callable[[Sequence[bool]], bool]] = {
    exactly_one: lambda given: sum(given) == 1,
    at_most_one: lambda given: sum(given) <= 1,
    at_least_one: any,
    all_or_none: lambda given: len({*given}) == 1,
    needs: lambda given: given[1] or not given[0],
}
#: Sorts of members: how each is declared, the words that give it, and its value then.
MEMBERS: dict[str, tuple[Callable[[], Any], Callable[[str], list[str]], Any]] = {
    "text": (lambda: slot(default=None, named_only=True, env="ENV"), lambda name: [f"--{name}=x"], "x"),
    "number": (lambda: slot(int, default=None, named_only=True, env="ENV"), lambda name: [f"--{name}", "5"], 5),
    "switch": (lambda: slot(bool, default=False, env="ENV"), lambda name: [f"--{name}"], True),
    "count": (lambda: slot(bool, many=True), lambda name: [f"--{name}", f"--{name}"], 2),
    "several": (lambda: slot(many=True), lambda name: [f"--{name}=a", f"--{name}=b"], ("a", "b")),
    "choice": (lambda: slot(one_of(["u", "v"]), default=None, named_only=True), lambda name: [f"--{name}=v"], "v"),
}
NAMES = ["dome", "mast", "lamp", "desk"]


@st.composite
def forms(draw: st.DrawFn) -> tuple[Any, dict[str, str], list[tuple[Any, list[str]]]]:
    """Return a form with rules, the sort of each slot, and the rules."""
    sorts = {name: draw(st.sampled_from(sorted(MEMBERS))) for name in NAMES}
    body: dict[str, Any] = {name: MEMBERS[sort][0]() for name, sort in sorts.items()}
    for name, one in body.items():
        one.env = one.env and f"RULE_{name.upper()}"
    rules = []
    for at in range(draw(st.integers(1, 3))):
        sort = draw(st.sampled_from([*SORTS]))
        size = 2 if sort is needs else draw(st.integers(2, 4))
        names = draw(st.permutations(NAMES))[:size]
        rules.append((sort, names))
        body[f"rule{at}"] = sort(*names)
    return type("Desk", (Form,), body), sorts, rules


def named(record: Any, sorts: dict[str, str]) -> set[str]:
    """Return the slots that a record has a value for; a number may be 0, a count of 0 is none."""
    empty = {"switch": (False,), "count": (0,), "several": ((),)}
    return {name for name in NAMES if getattr(record, name) not in (None, *empty.get(sorts[name], ()))}


def holds(rules: list[tuple[Any, list[str]]], given: set[str]) -> bool:
    """Return True if all rules hold for the slots that are given."""
    return all(SORTS[sort]([name in given for name in names]) for sort, names in rules)


@settings(deadline=None)
@given(forms(), st.sets(st.sampled_from(NAMES)))
def test_words_are_taken_if_and_only_if_every_rule_holds(drawn: Any, given_names: set[str]) -> None:
    form, sorts, rules = drawn
    words = [word for name in NAMES if name in given_names for word in MEMBERS[sorts[name]][1](name)]
    values = {name: MEMBERS[sorts[name]][2] for name in given_names}
    if not holds(rules, given_names):
        with pytest.raises(Problems):
            form.fill(words, asking="never")
        with pytest.raises(Problems):
            form(**values)
        return
    record = form.fill(words, asking="never")
    assert record == form(**values)
    assert form.fill(record.words(), asking="never") == record
    for at, (sort, names) in enumerate(rules):
        found = [name for name in names if name in given_names]
        expected = {
            exactly_one: found[0] if found else None,
            at_most_one: found[0] if found else None,
            at_least_one: tuple(found),
            all_or_none: bool(found),
            needs: names[0] in found,
        }[sort]
        assert getattr(record, f"rule{at}") == expected
    assert "rule0" not in record.origins
    assert len([*record]) == len(NAMES)


@settings(deadline=None)
@given(forms(), st.sets(st.sampled_from(NAMES)), st.sets(st.sampled_from(NAMES)))
def test_an_earlier_source_rules_out_the_later_ones(drawn: Any, by_word: set[str], by_env: set[str]) -> None:
    form, sorts, rules = drawn
    by_env -= {name for name, sort in sorts.items() if slots_of(form)[name].env is None}
    words = [word for name in NAMES if name in by_word for word in MEMBERS[sorts[name]][1](name)]
    environ = {f"RULE_{name.upper()}": {"number": "5", "switch": "yes"}.get(sorts[name], "x") for name in by_env}
    excluded = {
        name
        for sort, names in rules
        if sort in (exactly_one, at_most_one)
        for name in names
        if {*names} & by_word - {name}
    }
    taken = by_word | (by_env - by_word - excluded)
    try:
        record = form.fill(words, asking="never", context=Context(environ=environ))
    except Problems:
        assert not holds(rules, taken)
        return
    assert holds(rules, taken)
    assert named(record, sorts) == taken


#: Keys that people press in questions and menus.
KEYS = st.lists(
    st.sampled_from([ENTER, ENTER, ENTER, DOWN, UP, BACK, CTRL_D, "5", "u", " ", Press("space")]), max_size=30
)


@settings(deadline=None)
@given(forms(), st.sets(st.sampled_from(NAMES)), KEYS, st.sampled_from(["missing", "all"]))
def test_what_is_asked_for_makes_every_rule_hold(drawn: Any, by_word: set[str], keys: Any, asking: str) -> None:
    form, sorts, rules = drawn
    words = [word for name in NAMES if name in by_word for word in MEMBERS[sorts[name]][1](name)]
    driver = Scripted([*keys, *[CTRL_D] * 12])
    try:
        record = form.fill(words, asking=asking, driver=driver)
    except Problems:
        return
    given_names = named(record, sorts)
    assert holds(rules, given_names)
    # What was given is dropped only by who is asked about it, since another rule wanted what excludes it.
    excluding = [{*names} for sort, names in rules if sort in (exactly_one, at_most_one)]
    for name in by_word - given_names:
        assert len(rules) > 1
        assert any(name in names and names & given_names for names in excluding)
    assert form.fill(record.words(), asking="never") == record


def is_filled(screen: str) -> bool:
    """Return True if a question for several values has one already."""
    return screen.partition("Empty row")[0].split()[-1:] == ["5"] and "Empty row" in screen


@settings(deadline=None)
@given(forms(), st.sets(st.sampled_from(NAMES)))
def test_the_first_keys_are_enough_for_what_can_be_mended(drawn: Any, by_word: set[str]) -> None:
    """Who accepts the first choice of each menu, and answers each question, is never asked without end."""
    form, sorts, rules = drawn
    assume(len(rules) == 1)
    excludes = [names for sort, names in rules if sort in (exactly_one, at_most_one)]
    assume(not any(len({*names} & by_word) > 1 for names in excludes))
    words = [word for name in NAMES if name in by_word for word in MEMBERS[sorts[name]][1](name)]
    with Session(form, words, columns=70) as session:
        for _ in range(12):
            if not session.is_open:
                break
            if "[ ]" in session.screen:
                session.press("space")
            elif "Up Down: move" not in session.screen and not is_filled(session.screen):
                session.type("5")
            session.press("enter")
        assert not session.is_open, session.screen
    record = session.result
    assert holds(rules, named(record, sorts))


class Search(Form):
    """Search in notes."""

    pattern = slot(default=None, ask="Pattern")
    expressions = slot(many=True, short="e", named_only=True, ask="Patterns")
    pattern_file = slot(Path, default=None, short="f", named_only=True, help="a file with a pattern in each line")
    source = exactly_one("pattern", "expressions", "pattern_file", ask="Where are the patterns?")
    count = slot(bool, default=False, short="c")
    quiet = slot(bool, default=False, short="q")
    output = at_most_one("count", "quiet")
    files = slot(rest=True)


@pytest.mark.parametrize(
    ("words", "source", "files"),
    [
        (["Lantern", "one"], "pattern", ("one",)),
        (["-e", "Lantern", "one", "two"], "expressions", ("one", "two")),
        (["one", "-f", "patterns"], "pattern_file", ("one",)),
        (["--pattern=x", "one"], "pattern", ("one",)),
        (["--", "-e", "-f"], "pattern", ("-f",)),
        (["-e", "x", "--no-count", "-q", "one"], "expressions", ("one",)),
    ],
)
def test_a_position_steps_aside(words: list[str], source: str, files: tuple[str, ...]) -> None:
    record = Search.fill(words, asking="never")
    assert (record.source, record.files) == (source, files)
    assert Search.fill(record.words(), asking="never") == record


def test_of_positions_that_exclude_each_other_the_first_takes_the_word() -> None:
    class Where(Form):
        dome = slot(default=None)
        mast = slot(default=None)
        lamp = slot(default=None)
        place = at_most_one("dome", "mast")

    record = Where.fill(["a", "b"], asking="never")
    assert [*record] == ["a", None, "b"]
    assert [*Where.fill(["--mast=x", "b"], asking="never")] == [None, "x", "b"]
    with pytest.raises(Problems, match="3 words given, 2 expected"):
        Where.fill(["a", "b", "c"], asking="never")


def test_before_words_that_are_kept_as_they_are_a_position_steps_aside_too() -> None:
    class Within(Form):
        seconds = slot(float, default=None)
        until = slot(default=None, named_only=True)
        how_long = exactly_one("seconds", "until")
        argv = slot(rest="verbatim")

    assert [*Within.fill(["5", "ls", "-l"], asking="never")] == [5.0, None, ("ls", "-l")]
    assert [*Within.fill(["--until=dawn", "5", "-l"], asking="never")] == [None, "dawn", ("5", "-l")]


@pytest.mark.parametrize(
    ("words", "said"),
    [
        ([], ["exactly one of these is needed: --pattern=TEXT or --expressions=TEXT or --pattern-file=PATH"]),
        (["-e", "x", "-f", "y"], ["excludes --pattern-file: give only one of them"]),
        (["-cq", "x"], ["excludes --quiet: give only one of them"]),
        (["-cq"], ["excludes --quiet: give only one of them", "exactly one of these is needed"]),
    ],
)
def test_unattended_one_problem_names_them_all(words: list[str], said: list[str]) -> None:
    with pytest.raises(Problems) as caught:
        Search.fill(words, asking="never")
    reasons = [problem.reason for problem in caught.value]
    assert len(reasons) == len(said)
    assert all(reason.startswith(one) for reason, one in zip(reasons, said, strict=True))


def test_carets_are_under_all_words_of_a_conflict() -> None:
    with pytest.raises(Problems) as caught:
        Search.fill(["-e", "x", "one", "-f", "y"], asking="never")
    assert [problem.words for problem in caught.value] == [(1, 4)]


def test_help_usage_and_contract_say_what_goes_together() -> None:
    with Session(Search, ["--help"], columns=90) as session:
        page = session.output
    assert page.startswith(
        "search PATTERN|--expressions=TEXT...|--pattern-file=PATH [FILES...] [--count|--quiet]\n"
    ) or ("PATTERN|--expressions=TEXT...|--pattern-file=PATH [FILES...] [--count|--quiet]" in " ".join(page.split()))
    assert "exactly one of these: --pattern, --expressions, --pattern-file" in " ".join(page.split())
    assert "at most one of these: --count, --quiet" in page

    class Ask(Command, Search):
        def run(self) -> None:
            pass

    contract = Program("desk", members=[Ask]).contract()
    assert "  exactly one of these: --pattern, --expressions, --pattern-file\n" in contract + "\n"


def test_completion_offers_nothing_that_is_ruled_out() -> None:
    slots = slots_of(Search)
    assert [one.text for one in candidates(slots, ["-e", "x"], "--p")] == []
    assert [one.text for one in candidates(slots, ["-e", "x"], "--e")] == ["--expressions="]
    assert [one.text for one in candidates(slots, ["-q"], "--c")] == []
    assert [one.text for one in candidates(slots, ["--no-quiet"], "--c")] == ["--count"]


def test_which_one_is_asked_first_and_then_its_value() -> None:
    with Session(Search, [], columns=70) as session:
        assert "Where are the patterns?" in session.screen
        assert "a file with a pattern" in session.screen
        session.press("down", "down", "enter").type("patterns").press("enter")
        assert session.result.source == "pattern_file"
        assert session.result.pattern_file == Path("patterns")


def test_another_choice_on_going_back_puts_the_old_answer_aside() -> None:
    with Session(Search, [], columns=70) as session:
        session.press("enter").type("Lantern").press("enter")
        assert session.result.pattern == "Lantern"
    with Session(Search, [], columns=70) as session:
        session.press("enter").type("Lantern").press("shift-tab", "down", "enter").type("x").press("enter", "enter")
        assert (session.result.pattern, session.result.expressions) == (None, ("x",))
    with Session(Search, [], columns=70) as session:
        session.press("enter").type("Lantern").press("shift-tab", "down", "enter", "shift-tab", "up", "enter")
        assert "Lantern" in session.screen
        session.press("enter")
        assert session.result.pattern == "Lantern"


def test_the_chosen_one_may_not_stay_empty() -> None:
    with Session(Search, [], columns=70) as session:
        session.press("enter", "enter")
        assert "a value is required" in session.screen
        session.type("x").press("enter")
        assert session.result.pattern == "x"


def test_what_is_given_with_others_has_them_asked_for() -> None:
    class Login(Form):
        user = slot(default=None, named_only=True)
        group = slot(default=None, named_only=True)
        both = all_or_none("user", "group")
        depth = slot(int, default=None, named_only=True)
        deep = slot(bool, default=False)
        deeper = needs("depth", "deep")

    with Session(Login, ["--group=desk", "--depth=3"], columns=70) as session:
        session.type("Mira").press("enter")
        record = session.result
    assert [*record] == ["Mira", "desk", 3, True]
    with pytest.raises(Problems) as caught:
        Login.fill(["--group=desk"], asking="never")
    assert [(one.slot, one.reason, one.missing) for one in caught.value] == [("user", "is needed with --group", True)]
    with Session(Login, ["--asking=all", "--depth=3", "--deep"], columns=70) as session:
        assert "Give user and group" in session.screen
        session.type("n").press("enter")
        assert [*session.result] == [None, None, 3, True]


def test_functions_of_answers_read_the_choice() -> None:
    class Plan(Form):
        dome = slot(default=None, named_only=True)
        mast = slot(default=None, named_only=True)
        where = exactly_one("dome", "mast")
        height = slot(int, applies=lambda so_far: so_far.where == "mast")

    assert Plan.fill(["--dome=x"], asking="never").height is None
    assert Plan.fill(["--mast=x", "--height=3"], asking="never").height == 3
    with Session(Plan, [], columns=70) as session:
        session.press("down", "enter").type("north").press("enter").type("12").press("enter")
        assert [*session.result] == [None, "north", 12]
    with pytest.raises(DeclarationError, match="reads where"):

        class Wrong(Form):
            early = slot(default=lambda so_far: so_far.where)
            dome = slot(default=None, named_only=True)
            mast = slot(default=None, named_only=True)
            where = exactly_one("dome", "mast")


def test_a_member_that_does_not_apply_is_neither_given_nor_offered() -> None:
    class Plan(Form):
        indoors = slot(bool, default=False)
        lamp = slot(default=None, named_only=True)
        desk = slot(default=None, named_only=True)
        mast = slot(default=None, applies=lambda so_far: not so_far.indoors)
        where = exactly_one("lamp", "desk", "mast")

    with Session(Plan, ["--indoors"], columns=70) as session:
        assert "mast" not in session.screen
        assert "desk" in session.screen
        session.press("enter").type("x").press("enter")
        assert session.result.where == "lamp"


def test_a_function_and_a_script_have_rules_too(capsys: pytest.CaptureFixture[str]) -> None:
    def search(pattern: str | None = None, *files: str, pattern_file: str | None = None) -> str:
        return f"{pattern} {pattern_file} {files}"

    rules = [exactly_one("pattern", "pattern_file")]
    run(search, ["--pattern-file=x", "one"], rules=rules)
    run(search, ["x", "one"], rules=rules)
    assert capsys.readouterr().out == "None x ('one',)\nx None ('one',)\n"
    program = Program("desk", members=[Command.from_function(search, rules=rules)])
    assert program.main(["search", "--asking=never"]) == 2
    assert "one of these is needed" in capsys.readouterr().err
    with pytest.raises(DeclarationError, match="rules="):
        Command.from_function(search, rules="pattern")  # type: ignore[arg-type]
    made = fill(["--b=3"], a=slot(default=None), b=slot(int, default=None), which=exactly_one("a", "b"))
    assert (made.which, [*made]) == ("b", [None, 3])


def test_rules_are_inherited_and_replaced_like_slots() -> None:
    class Wide(Search):
        expressions = slot(many=True, short="e", named_only=True)
        output = None

    assert Wide.fill(["-e", "x", "-cq"], asking="never").source == "expressions"
    with pytest.raises(Problems, match="excludes"):
        Wide.fill(["-e", "x", "-f", "y"], asking="never")

    class Both(Search):
        source = at_least_one("pattern", "expressions")  # type: ignore[assignment]

    assert Both.fill(["a", "-e", "x", "-f", "y"], asking="never").source == ("pattern", "expressions")
    with pytest.raises(Problems, match="excludes"):
        Search.fill(["-cq", "x"], asking="never")  # the base stays as it is


def test_shared_slots_go_together() -> None:
    class Shared(Form):
        dome = slot(default=None)
        mast = slot(default=None)
        where = exactly_one("dome", "mast")

    class Go(Command):
        frames = slot(int, default=None)
        deep = slot(bool, default=False)
        deeper = needs("frames", "deep")

        def run(self) -> None:
            print(self.shared.dome, self.shared.mast, self.frames, self.deeper)

    program = Program("desk", members=[Go], shared=Shared)
    for words, output in (
        (["--dome=x", "go"], "x None None False\n"),
        (["go", "--mast=y", "3", "--deep"], "None y 3 True\n"),
    ):
        with Session(program, words, columns=70) as session:
            assert session.output == output
    for words in (["go"], ["--dome=x", "--mast=y", "go"], ["--dome=x", "go", "3"]):
        with Session(program, words, environment={"WESPERON_ASKING": "never"}) as session:
            assert session.status == 2


def test_a_rule_is_read_only_and_pickled_with_its_record() -> None:
    import pickle

    record = Search.fill(["x"], asking="never")
    assert pickle.loads(pickle.dumps(record)).source == "pattern"
    for name in ("source", "files"):
        with pytest.raises(AttributeError):
            setattr(record, name, "x")
    assert repr(Search.source) == "<exactly_one of pattern, expressions, pattern_file>"


def test_a_last_look_shows_what_was_chosen() -> None:
    with Session(lambda: Search.fill([], review=True), [], columns=70) as session:
        session.press("enter").type("x").press("enter")
        assert "expressions" not in session.screen.split("Enter")[0].splitlines()[-1]
        session.press("enter")
        assert session.result.pattern == "x"


def test_files_declare_rules(tmp_path: Path) -> None:
    declared = tmp_path / "search.toml"
    declared.write_text(
        'rules = [{ exactly_one = ["pattern", "patterns"], name = "source", ask = "Which?" },'
        ' { needs = ["deep", "patterns"] }]\n'
        '[slots.pattern]\n[slots.patterns]\nmany = true\n[slots.deep]\nkind = "boolean"\n'
        '[slots.note]\napplies = { slot = "source", is = "patterns" }\n'
    )
    form = Form.from_file(declared)
    assert form.fill(["x"], asking="never").source == "pattern"
    assert [*form.fill(["--patterns=x", "--note=n", "--deep"], asking="never")] == [None, ("x",), True, "n"]
    with pytest.raises(Problems, match="one of these is needed"):
        form.fill([], asking="never")
    for wrong, said in (
        ('[{ exactly_one = ["pattern", "pattrn"] }]', 'unknown slot: "pattrn"; nearest: pattern, patterns'),
        ('[{ exactly_one = ["pattern"] }]', "name two slots, or more"),
        ('[{ name = "x" }]', "a rule is one of exactly_one, at_most_one"),
        ('[{ needs = ["pattern", "deep", "note"] }]', "two names"),
        ('[{ exactly_one = ["pattern", "deep"], name = "note" }]', "note is declared already"),
        ('["pattern"]', "must be a table"),
        ("3", "must be a list"),
    ):
        text = declared.read_text()
        declared.write_text(
            f"rules = {wrong}\n" + text[text.index("[slots.pattern]") :].partition("[slots.note]")[0] + "[slots.note]\n"
        )
        with pytest.raises(Problems, match="rules") as caught:
            Form.from_file(declared)
        assert said in str(caught.value)
        declared.write_text(text)


@pytest.mark.parametrize(
    ("make", "said"),
    [
        (lambda: exactly_one("a"), "exactly_one('a'): name two slots, or more"),
        (lambda: needs("a", "a"), "name two slots"),
        (lambda: exactly_one("a", 3), "names of slots are texts"),  # type: ignore[arg-type]
        (lambda: exactly_one("a", "b", ask=3), "exactly_one(ask=3): must be a text"),  # type: ignore[arg-type]
    ],
)
def test_what_cannot_be_is_refused_where_it_is_declared(make: Callable[[], Any], said: str) -> None:
    with pytest.raises(DeclarationError) as caught:
        make()
    assert said in str(caught.value)


@pytest.mark.parametrize(
    ("member", "said"),
    [
        (slot(), "b may be left out, so it needs default=None"),
        (slot(default="x"), "b may be left out"),
        (slot(bool), "b may be left out, so it needs default=False"),
        (slot(bool, default=True), "b may be left out, so it needs default=False"),
        (slot(initial=None), "b may be left out"),
        (slot(many=True, least=1), "b may be left out, so it needs no values"),
        (slot(default=lambda so_far: None), "b may be left out"),  # type: ignore[arg-type,return-value]
        (None, "there is no slot b"),
    ],
)
def test_members_can_be_left_out(member: Any, said: str) -> None:
    body: dict[str, Any] = {"a": slot(default=None), "which": exactly_one("a", "b")}
    with pytest.raises(DeclarationError) as caught:
        type("Wrong", (Form,), {**body, **({"b": member} if member else {})})
    assert said in str(caught.value)


def test_a_rule_cannot_have_the_name_of_a_method() -> None:
    for name in ("check", "fill", "words"):
        with pytest.raises(DeclarationError, match="cannot be called"):
            type("Wrong", (Form,), {"a": slot(default=None), "b": slot(default=None), name: at_most_one("a", "b")})


def test_answers_files_name_members(tmp_path: Path) -> None:
    answers = tmp_path / "answers.json"
    for given_names in product([False, True], repeat=2):
        values = {name: "x" for name, is_in in zip(("pattern", "pattern_file"), given_names, strict=True) if is_in}
        answers.write_text(json.dumps(values))
        if sum(given_names) == 1:
            assert Search.fill([f"--answers={answers}"], asking="never").source in values
        else:
            with pytest.raises(Problems):
                Search.fill([f"--answers={answers}"], asking="never")
    answers.write_text('{"source": "pattern"}')
    with pytest.raises(Problems, match="source"):
        Search.fill([f"--answers={answers}", "x"], asking="never")


def test_annotations_beside_rules() -> None:
    class Plan(Form):
        a: str | None = slot(default=None)  # type: ignore[assignment]
        b: Annotated[int | None, "x"] = slot(int, default=None)  # type: ignore[assignment]
        which: str | None = exactly_one("a", "b")  # type: ignore[assignment]

    assert Plan.fill(["--b=3"], asking="never").which == "b"


def test_of_a_secret_it_is_said_where_it_may_come_from() -> None:
    class Login(Form, named_only=True):
        user = slot(default=None)
        password = slot(default=None, secret=True, env="PW")
        login = all_or_none("user", "password")

    for words, environ, said in (
        (["--user=Mira"], {}, "password: is needed with --user; it may come from PW in the environment"),
        ([], {"PW": "hush"}, "user: is needed with --password"),
    ):
        with pytest.raises(Problems) as caught:
            Login.fill(words, asking="never", context=Context(environ=environ))
        assert said in str(caught.value)
        assert "hush" not in str(caught.value)
        assert "--password=TEXT" not in str(caught.value)


class Place(Form, named_only=True):
    """Where to look."""

    dome = slot(bool, default=False, env="PLACE_DOME")
    mast = slot(default=None, env="PLACE_MAST")
    where = exactly_one("dome", "mast")
    frames = slot(int)


def test_a_word_rules_out_the_environment_and_the_environment_itself_may_conflict() -> None:
    for words, environ, found in (
        (["--mast=x"], {"PLACE_DOME": "yes"}, [False, "x", 1]),
        (["--dome"], {"PLACE_MAST": "y"}, [True, None, 1]),
        ([], {"PLACE_MAST": "y"}, [False, "y", 1]),
        (["--no-dome"], {"PLACE_MAST": "y"}, [False, "y", 1]),
    ):
        context = Context(environ=environ)
        assert [*Place.fill([*words, "--frames=1"], asking="never", context=context)] == found
    with pytest.raises(Problems, match="excludes"):
        Place.fill(["--frames=1"], asking="never", context=Context(environ={"PLACE_DOME": "1", "PLACE_MAST": "y"}))


def test_what_is_not_chosen_has_no_value_wherever_it_was_from() -> None:
    with Session(Place, [], columns=70) as session:
        session.press("enter", "shift-tab", "down", "enter").type("north").press("enter").type("3").press("enter")
        assert [*session.result] == [False, "north", 3]
    with Session(Place, ["--asking=all"], columns=70, environment={"PLACE_MAST": "y"}) as session:
        assert ": mast" in session.screen  # as the environment has it
        session.press("up", "enter").type("3").press("enter")
        assert [*session.result] == [True, None, 3]
