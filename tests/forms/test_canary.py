"""Promise 6 as a law: a secret in any position of random lines is found in no output and no file."""

from __future__ import annotations

import io
import json
import os
import sys
import traceback
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import (
    Command,
    CommandGroup,
    Context,
    DeclarationError,
    Form,
    Problems,
    Program,
    Refusal,
    fill,
    one_of,
    slot,
)
from wesperon.output.report import report
from wesperon.scope import within
from wesperon.tool.main import main

CANARY = "Zq7hunterX"
#: What may be around the canary in its word; the second part is what no output may hold.
SECRETS = st.sampled_from(
    [CANARY, f"{CANARY} otter", f"'{CANARY}'", f"\x1b{CANARY}\u202e", f"{CANARY * 9}", f"{CANARY}é"]
)


def picky(text: str) -> str:
    raise ValueError(f"no {text!r} here, nor {text[:20]}")


class Login(Form):
    user = slot()
    frames = slot(int, short="f", default=1)
    seconds = slot(float, low=0.5, high=9, default=1.0)
    dome = slot(one_of(["open", "shut"]), named_only=True, default="open")
    odd = slot(picky, named_only=True, default=None)
    tags = slot(many=True, pattern="[a-z]+")
    dry_run = slot(bool, short="d", default=False)
    password = slot(secret=True, short="p")


class Anywhere(Form):
    pin = slot(int, secret="anywhere", high=999)
    keys = slot(secret="anywhere", many=True, most=1)
    note = slot(default="")


class Enter(Command):
    """Enter the dome."""

    password = slot(secret=True)
    frames = slot(int, default=1)

    def run(self) -> None:
        """Nothing."""


class Look(Command):
    """Look."""

    target = slot()

    def run(self) -> Any:
        """Refuse."""
        raise Refusal("closed")


PROGRAM = Program("desk", "1", members=[Enter, Look, CommandGroup("deep", members=[Enter])])
NAMES = [
    "--user", "--frames", "--frmes", "--secnds", "--dome", "--odd", "--tags", "--dry-run", "--password", "--passwrod",
    "--pin", "--keys", "--note", "-f", "-p", "-d", "-x", "-dp", "--no-dry-run", "--asking", "--unknown", "--pass",
]  # fmt: skip
PLAIN = ["enter", "entr", "look", "deep", "ann", "3", "x", "--", "-", "open", "", "--help-me", "--dry-run=maybe"]


#: Names whose values are shown: they are of slots that are no secret.
OPEN = {"--user", "--frames", "--dome", "--odd", "--tags", "--note", "--dry-run", "--no-dry-run"}


def shaped(secret: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    """Return a word with the secret in it."""
    names = st.sampled_from([name for name in NAMES if name not in OPEN])
    return st.one_of(
        secret,
        st.builds(lambda name, text: f"{name}={text}", names, secret),
        *(st.builds(f"{letters}{{}}".format, secret) for letters in ("-p", "-f", "-dp")),
    )


LINES = st.builds(
    lambda before, word, behind: [*before, word, *behind],
    st.lists(st.sampled_from([*NAMES, *PLAIN]), max_size=4),
    shaped(SECRETS),
    st.lists(st.sampled_from([*NAMES, *PLAIN]), max_size=3),
)


def is_clean(text: str) -> bool:
    """Return True if no part of the canary is in a text."""
    return not any(CANARY[at : at + 5] in text for at in range(len(CANARY) - 4))


def everything(problems: Problems) -> str:
    return "\n".join([str(problems), repr(problems), problems.json(), report(problems, ["desk"], None),
                      report(problems, ["desk"], 30), repr(problems.args)])  # fmt: skip


@settings(max_examples=150, deadline=None)
@given(form=st.sampled_from([Login, Anywhere]), words=LINES)
def test_no_message_about_a_form_holds_it(form: Any, words: list[str]) -> None:
    told = ""
    try:
        form.fill([*words, "--asking=never"])
    except Problems as problems:
        told = everything(problems)
    except SystemExit:
        pass
    assert is_clean(told), told


def test_after_two_hyphens_no_word_is_a_name_whose_value_is_shown() -> None:
    with pytest.raises(Problems) as caught:
        Login.fill(["--asking=never", "--", "ann", "3", "2", "x", f"--user={CANARY}"])
    assert is_clean(everything(caught.value))


@pytest.mark.parametrize("environ", [{}, {"WESPERON_PROBLEMS": "json"}, {"WESPERON_TRACE": "1"}, {"LANGUAGE": "de"}])
@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(words=LINES)
def test_nothing_that_a_program_prints_or_keeps_holds_it(
    environ: dict[str, str], words: list[str], tmp_path: Path
) -> None:
    homes = {"XDG_STATE_HOME": str(tmp_path / "state"), "XDG_CONFIG_HOME": str(tmp_path), "LANG": "de_DE.UTF-8"}
    given_environ = {**homes, "WESPERON_ASKING": "never", "WESPERON_LOG": f"all:{tmp_path / 'log'}", **environ}
    out, error = io.StringIO(), io.StringIO()
    with within(Context(stdout=out, stderr=error, stdin=io.StringIO(), environ=given_environ)):
        if "look" not in words:  # a command without a secret
            PROGRAM.main(words)
        try:
            fill(Login, words)
        except SystemExit:
            pass
    assert is_clean(out.getvalue() + error.getvalue()), error.getvalue()
    for path in tmp_path.rglob("*"):
        if path.is_file():
            assert is_clean(path.read_text()), path


SET = {
    "slots": {
        "user": {}, "frames": {"kind": "integer", "default": 1}, "password": {"secret": True, "env": "DESK_PASSWORD"},
        "keys": {"secret": "anywhere", "many": True},
    }
}  # fmt: skip


@pytest.mark.parametrize("how", ["json", "shell"])
@settings(max_examples=50, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(words=LINES)
def test_the_tool_keeps_it_too(how: str, words: list[str], tmp_path: Path) -> None:
    path = tmp_path / "set.json"
    path.write_text(json.dumps(SET))
    out, error = io.StringIO(), io.StringIO()
    with within(Context(stdout=out, stderr=error, stdin=io.StringIO(), environ={"WESPERON_ASKING": "never"})):
        status = main(["fill", f"--to={how}", str(path), *words])
    assert status == 0 or is_clean(out.getvalue()), out.getvalue()
    assert is_clean(error.getvalue()), error.getvalue()


def test_results_and_records_do_not_show_it(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    class Show(Command):
        """Give back what was filled in."""

        password = slot(secret=True, env="DESK_PASSWORD")
        keys = slot(secret="anywhere", many=True)
        how = slot(default="one", named_only=True)

        def run(self) -> Any:
            """Return the record, a list of records, a mapping."""
            return {"one": self, "several": [self, self], "mapping": {"who": self}}[self.how]

    monkeypatch.setenv("DESK_PASSWORD", CANARY)
    program = Program("desk", members=[Show], results=True)
    for how in ("one", "several", "mapping"):
        for form in ("text", "json"):
            assert program.main(["show", f"--keys={CANARY}", f"--how={how}", f"--as={form}"]) == 0
            told = capsys.readouterr()
            assert "***" in told.out, told.out
            assert is_clean(told.out + told.err), told.out
            if form == "json":
                json.loads(told.out)


def test_what_a_program_gives_itself_is_not_repeated() -> None:
    make: Any = Anywhere
    for wrong in (
        {"keys": CANARY},
        {"keys": [1]},
        {"keys": [CANARY, CANARY]},
        {"pin": CANARY},
        {"pin": 4711, "keys": {CANARY: 1}},
    ):
        with pytest.raises(Problems) as caught:
            make(**wrong)
        assert is_clean(everything(caught.value)), everything(caught.value)
        assert "4711" not in everything(caught.value)
    with pytest.raises(DeclarationError) as refused:
        slot(secret="anywhere", default=CANARY, high=3)
    assert is_clean(str(refused.value))


def test_a_blank_answers_file_does_not_hold_a_default_that_is_secret() -> None:
    class Kept(Form):
        password = slot(secret="anywhere", default=CANARY)
        keys = slot(secret="anywhere", many=True, default=(CANARY,))

    assert is_clean(Kept.blank_answers())
    assert is_clean(str(Kept.fill([], asking="never")))
    assert is_clean(repr(Kept.fill([], asking="never").words()))
    with pytest.raises(SystemExit):
        Kept.fill(["--help"])


def test_where_secrets_come_from_says_nothing_of_them(tmp_path: Path) -> None:
    (tmp_path / "a.json").write_text(json.dumps({"pin": CANARY, "keys": [CANARY, 5, {CANARY: 1}], "note": ["x"]}))
    (tmp_path / "b.toml").write_text(f'pin = "{CANARY}"\nkeys = "{CANARY} \'{CANARY}"\n')
    (tmp_path / "c.json").write_text('{"pin": "' + CANARY)
    for name in ("a.json", "b.toml", "c.json"):
        with pytest.raises(Problems) as caught:
            Anywhere.fill([f"--answers={tmp_path / name}", "--asking=never"])
        assert is_clean(everything(caught.value)), everything(caught.value)
    assert os.path.exists(tmp_path / "a.json")


def test_a_short_word_does_not_make_a_message_unreadable() -> None:
    with pytest.raises(Problems) as caught:
        Enter.fill(["1", "2", "--asking=never"])
    assert "1 word too many: 1 word expected" in str(caught.value)


def test_what_masking_costs_grows_with_the_line_and_no_faster() -> None:
    """Counted in calls: very many wrong words, and one that is huge."""

    def calls(*words: str) -> int:
        count = 0

        def note(frame: object, event: str, argument: object) -> None:
            nonlocal count
            count += event in ("call", "c_call")

        sys.setprofile(note)
        try:
            Enter.fill([*words, "--asking=never"])
        except Problems:
            pass
        finally:
            sys.setprofile(None)
        return count

    calls("x")
    few, many = (calls(*(f"--xq{number}abc" for number in range(size))) for size in (500, 1000))
    assert many < few * 2.3
    assert calls("z" * 1_000_000) < 50_000


@tabled
def test_hiding_takes_nothing_else_away(words: list[str], shown: str, tmp_path: Path) -> None:
    with pytest.raises(Problems) as caught:
        Login.fill([*words, CANARY, "--asking=never"])
    told = everything(caught.value)
    assert shown in told
    assert shown in report(caught.value, ["desk"], None)
    assert is_clean(told)


AFTER_SECRETS = st.builds(
    lambda name, before, after: ["look", *before, *name, *after],
    st.sampled_from(
        [
            [f"--password={CANARY}"],
            ["--password", CANARY],
            [f"--passwrd={CANARY}"],
            ["--pass", CANARY],
            [f"--password{CANARY}"],
            [f"--password{CANARY}={CANARY}"],
        ]
    ),
    st.lists(st.sampled_from(["north", "--target=x", "--other", "3", "look", "deep"]), max_size=3),
    st.lists(st.sampled_from(["north", "--target=x", "--other", "3"]), max_size=3),
)


@settings(max_examples=80, deadline=None)
@given(words=AFTER_SECRETS, as_json=st.booleans())
def test_a_secret_that_is_given_to_the_wrong_command_is_not_shown(words: list[str], as_json: bool) -> None:
    out, error = io.StringIO(), io.StringIO()
    environ = {"WESPERON_ASKING": "never", **({"WESPERON_PROBLEMS": "json"} if as_json else {})}
    with within(Context(stdout=out, stderr=error, stdin=io.StringIO(), environ=environ)):
        PROGRAM.main(words)
    assert is_clean(out.getvalue() + error.getvalue()), error.getvalue()


@given(secret=SECRETS, fails_later=st.booleans(), trace=st.sampled_from(["", "1"]))
@settings(max_examples=40, deadline=None)
def test_an_error_of_a_command_does_not_say_its_secret(secret: str, fails_later: bool, trace: str) -> None:
    class Fail(Command):
        """Fail at once, or in the midst of a result."""

        password = slot(secret="anywhere")

        def run(self) -> Any:
            """Raise an error that leads back to another."""

            def rows() -> Iterator[int]:
                yield 1
                try:
                    raise KeyError(self.password)
                except KeyError as error:
                    raise OSError(5, f"cannot open {self.password!r}", self.password) from error

            return rows() if fails_later else list(rows())

    said = io.StringIO()
    context = Context(stdout=said, stderr=said, environ={"WESPERON_TRACE": trace})
    try:
        status: Any = Program("desk", members=[Fail]).main(["fail", f"--password={secret}"], context=context)
        assert status == 1
    except BaseException as error:  # with the whole trace, or by SystemExit
        said.write("".join(traceback.format_exception(error)))
    assert said.getvalue()
    assert CANARY not in said.getvalue()
