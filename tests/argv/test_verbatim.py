"""Words that are kept as they are, as a wrapper hands them on.

Modules: ``argv.option_words``.
"""

from __future__ import annotations

from typing import Annotated, Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Command, Context, DeclarationError, Form, Problems, Program, one_of, run, slot
from wesperon.completion.candidates import candidates
from wesperon.values.records import slots_of


class Nice(Form, named_only=True):
    """A wrapper: names of its own, then a command."""

    adjustment = slot(int, default=10, short="n")
    verbose = slot(bool, default=False, short="v")
    argv = slot(rest="verbatim")


class On(Form):
    """A wrapper with a position before the command."""

    host = slot()
    port = slot(int, default=22, short="p", named_only=True)
    argv = slot(rest="verbatim")


INNER = st.lists(
    st.sampled_from(["ls", "-l", "--", "--help", "--verbose", "-n", "5", "", "a b", "-", "--argv=x", "-v"]), max_size=5
)


@given(st.sampled_from([[], ["-n", "5"], ["-n5", "-v"], ["--adjustment=5"], ["--verbose"]]), st.booleans(), INNER)
def test_from_the_first_word_on_all_are_kept(before: list[str], ends: bool, inner: list[str]) -> None:
    if not ends and inner and inner[0] != "-" and inner[0][:1] == "-":
        inner = ["ls", *inner]
    record = Nice.fill([*before, *(["--"] if ends else []), *inner], asking="never")
    assert record.argv == tuple(inner)
    assert record.adjustment == (5 if any("5" in word for word in before) else 10)
    assert record.verbose == bool({"-v", "--verbose"} & {*before})
    assert Nice.fill(record.words(), asking="never") == record


@given(st.sampled_from([["-p", "5"], []]), st.sampled_from([["-p5"], []]), INNER)
def test_a_position_before_it_is_filled_from_left_to_right(
    before: list[str], between: list[str], inner: list[str]
) -> None:
    if before and between:
        between = []
    words = [*before, "dome", *between, "ls", *inner]
    record = On.fill(words, asking="never")
    assert (record.host, record.argv) == ("dome", ("ls", *inner))
    assert record.port == (5 if before or between else 22)
    with pytest.raises(Problems, match="host: is given 2 times"):
        On.fill(["dome", "--host=other", "ls"], asking="never")
    named = On.fill(["--host=dome", "ls", *inner], asking="never")
    assert named.argv == ("ls", *inner)


def test_what_is_no_name_before_it_is_a_problem() -> None:
    for words in (["-x", "ls"], ["--nothing", "ls"], ["-5", "ls"]):
        with pytest.raises(Problems, match="is unknown"):
            Nice.fill(words, asking="never")
    assert Nice.fill(["--", "-5"], asking="never").argv == ("-5",)


def test_as_the_first_slot_it_has_an_expression() -> None:
    class Expression(Form):
        words_ = slot(rest="verbatim")

    assert Expression.fill(["(", "-f", "x", ")"], asking="never").words_ == ("(", "-f", "x", ")")


class Run(Command):
    """Run a command."""

    dry = slot(bool, default=False, short="d")
    image = slot()
    argv = slot(rest="verbatim")

    def run(self) -> str:
        """Say what would run."""
        return f"{self.image}: {' '.join(self.argv)}{' (dry)' if self.dry else ''}"


def test_in_a_program_names_of_all_commands_are_the_inner_ones_too(capsys: pytest.CaptureFixture[str]) -> None:
    class Shared(Form):
        loud = slot(bool, default=False, short="l")

    program = Program("desk", members=[Run], shared=Shared)
    assert program.main(["run", "-d", "base", "-l", "ls", "--help", "-d", "--loud", "--", "-l"]) == 0
    assert capsys.readouterr().out == "base: ls --help -d --loud -- -l (dry)\n"
    assert program.main(["run", "--help"]) == 0
    page = capsys.readouterr().out
    assert page.startswith("desk run [--dry] IMAGE [ARGV...]\n")
    assert "every word from here on, as it is" in page
    assert "the rest, as it is" in program.contract()


def test_a_starred_parameter_may_be_one(capsys: pytest.CaptureFixture[str]) -> None:
    def later(minutes: int, *argv: Annotated[str, slot(rest="verbatim")]) -> str:
        return f"{minutes} {list(argv)}"

    run(later, ["5", "ls", "--help", "-l"])
    assert capsys.readouterr().out == "5 ['ls', '--help', '-l']\n"


def test_completion_inside_is_of_what_it_suggests_or_of_paths() -> None:
    class Wrapped(Form):
        dry = slot(bool, default=False)
        argv = slot(rest="verbatim", suggest=["list", "load"])

    slots = slots_of(Wrapped)
    assert [one.text for one in candidates(slots, [], "--d")] == ["--dry"]
    assert [one.text for one in candidates(slots, ["list"], "--d")] == []
    assert [one.text for one in candidates(slots, ["list", "--dry"], "l")] == ["list", "load"]
    assert any(one.text == "tests/" for one in candidates(slots_of(Nice), ["ls", "-n"], "te"))


@pytest.mark.parametrize(
    ("body", "reason"),
    [
        ({"argv": lambda: slot(int, rest="verbatim")}, "rest='verbatim' keeps words as they are"),
        ({"argv": lambda: slot(rest="verbatim", named_only=True)}, "rest='verbatim' keeps words as they are"),
        ({"argv": lambda: slot(rest="verbatim", piped=True)}, "rest='verbatim' keeps words as they are"),
        ({"argv": lambda: slot(rest="verbatim", default=("ls",))}, "no line could say that there are no texts"),
        ({"argv": lambda: slot(rest="verbatim"), "last": lambda: slot()}, "last is after argv"),
        (
            {"argv": lambda: slot(rest="all")},  # type: ignore[call-overload]
            "rest='all': must be True, False or 'verbatim'",
        ),
    ],
)
def test_what_cannot_keep_words_is_refused(body: dict[str, Any], reason: str) -> None:
    with pytest.raises(DeclarationError, match=reason):
        type("Wrong", (Form,), {name: make() for name, make in body.items()})


def test_a_form_of_kept_words_alone_has_no_names() -> None:
    class Words(Form):
        words_ = slot(rest="verbatim")

    for words in (["-f", "one"], ["nohelp"], ["-h", "one"], ["one", "--help"], ["--askings", "x"], ["-1", "+", "2"]):
        assert Words.fill(words, context=Context(environ={"WESPERON_ASKING": "never"})).words_ == tuple(words)
        assert Words.fill(["--asking=never", *words]).words_ == tuple(words)
    assert Words.fill(["--", "-f"], asking="never").words_ == ("-f",)
    for words in (["--help"], ["-h"], ["--asking", "never", "--help"]):
        with pytest.raises(SystemExit):
            Words.fill(words)


@given(
    st.lists(st.sampled_from(["-q", "--loud", "--colour", "3"]), max_size=3),
    st.sampled_from(["true", "false", "yes", "no", "on", "off", "never"]),
)
def test_a_command_called_true_is_no_value_of_the_switch_before_it(before: list[str], word: str) -> None:
    """Where the kept words begin it is the first of them; before a position that is open it is a problem."""

    class Run(Form):
        quiet = slot(bool, default=False, short="q")
        loud = slot(bool, default=False)
        colour = slot(one_of(["always", "never"]), default="never", alone="always", repeats="last")
        level = slot(int)
        argv = slot(rest="verbatim", least=1)

    words = [*before, word, "-q", "--"]
    if before.count("3") == 1:
        assert Run.fill(words).argv == (word, "-q", "--")
    elif not before.count("3") and before:
        with pytest.raises(Problems):
            Run.fill(words)
