"""Values together: a form's own check, from whatever source the values come.

Modules: ``values.together``.
"""

from __future__ import annotations

import asyncio
import copy
import io
import pickle
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.asking import ENTER, typed
from tests.tables import tabled
from wesperon import (
    Command,
    Complaint,
    Context,
    DeclarationError,
    Form,
    Problems,
    Program,
    Refusal,
    fill,
    run,
    slot,
)
from wesperon.testing import Press, Scripted, Session


class Span(Form):
    first = slot(int, "First", env="FIRST")
    last = slot(int, "Last", env="LAST")
    note = slot(default="")

    def check(self) -> None:
        if self.last < self.first:
            raise Complaint(f"{self.last} is before {self.first}", slot=("last", "first"))


numbers = st.integers(0, 9)


@given(numbers, numbers, st.sets(st.sampled_from(["first", "last"])), st.sampled_from(["words", "env", "answers"]))
def test_a_check_holds_for_every_source(first: int, last: int, named: set[str], source: str) -> None:
    values = {"first": first, "last": last}
    words = [f"--{name}={values[name]}" for name in sorted(named)]
    rest = {name: value for name, value in values.items() if name not in named}
    environ: dict[str, str] = {}
    if source == "words":
        words += [f"--{name}={value}" for name, value in rest.items()]
    elif source == "env":
        environ = {name.upper(): str(value) for name, value in rest.items()}
    else:
        words += ["--answers=-"]
    stdin = io.StringIO("".join(f"{name} = {value}\n" for name, value in rest.items()))
    context = Context(words=words, environ=environ, stdin=stdin)
    try:
        record = Span.fill(asking="never", context=context)
    except Problems as problems:
        assert last < first
        (problem,) = problems
        assert (problem.slot, problem.reason) == ("last", f"{last} is before {first}")
        at_fault = {words[at].partition("=")[0] for at in problem.words}
        assert at_fault == {"--first", "--last"} if source == "words" else at_fault == {f"--{name}" for name in named}
    else:
        assert last >= first
        assert (record.first, record.last) == (first, last)
    if last < first:
        with pytest.raises(Problems) as caught:
            Span(first=first, last=last)
        assert [problem.slot for problem in caught.value] == ["last"]
    else:
        assert Span(first=first, last=last).origins["last"] == "given"


@given(st.lists(st.tuples(numbers, numbers), min_size=1, max_size=4))
def test_a_question_is_open_until_the_values_go_together(tries: list[tuple[int, int]]) -> None:
    """The cursor is at the slot that is named first; what was given before stays, and is taken again."""
    first, last = tries[0]
    keys = typed(str(first), str(last))
    for _, again in tries[1:]:
        if last < first:
            keys += [Press("backspace", 1), *typed(str(again))]
            last = again
    driver = Scripted([*keys, Press("ctrl-c")])
    if last < first:
        with pytest.raises(KeyboardInterrupt):
            Span.fill([], driver=driver)
        assert any(f"{last} is before {first}" in frame for frame in driver.frames)
    else:
        record = Span.fill([], driver=driver)
        assert (record.first, record.last) == (first, last)
        assert record.origins == {"first": "asked", "last": "asked", "note": "default"}


def test_on_the_command_line_there_are_carets_under_all_words_at_fault(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as caught:
        fill(Span, ["5", "--note=x", "--last=2"])
    assert caught.value.code == 2
    line, marks, reason = capsys.readouterr().err.splitlines()[:3]
    marked = {line[at] for at, mark in enumerate(marks) if mark == "^"}
    assert marked == set("5" + "2") or marked == set("5--last=2")
    assert "2 is before 5" in reason
    assert "--last" in reason


def test_a_value_that_a_word_gave_is_asked_for_if_it_is_named_first() -> None:
    class Other(Span):
        def check(self) -> None:
            if self.last < self.first:
                raise Complaint("too late", slot="first")

    driver = Scripted([*typed("2"), Press("backspace"), *typed("1")])
    record = Other.fill(["5"], driver=driver)
    assert (record.first, record.last) == (1, 2)
    assert record.origins["first"] == "asked"


def test_who_does_not_mend_it_gets_the_problem() -> None:
    driver = Scripted([*typed("5", "2"), Press("backspace"), Press("ctrl-d")])
    with pytest.raises(Problems, match=r"is missing|before"):
        Span.fill([], driver=driver)

    class Defaults(Form):
        first = slot(int)
        last = slot(int, default=1)

        def check(self) -> None:
            if self.last < self.first:
                raise ValueError("these are wrong")

    driver = Scripted([*typed("5"), Press("ctrl-d"), Press("ctrl-d"), Press("ctrl-d")])
    with pytest.raises(Problems):
        Defaults.fill([], driver=driver)


def test_a_default_that_stays_wrong_is_a_problem_and_not_asked_for_again() -> None:
    class Defaults(Form):
        first = slot(int)
        last = slot(int, default=1)

        def check(self) -> None:
            if self.last < self.first:
                raise Complaint("these are wrong", slot="last")

    driver = Scripted([*typed("5"), Press("ctrl-u"), Press("ctrl-d"), *typed("7")])
    with pytest.raises(Problems, match="these are wrong"):
        Defaults.fill([], driver=driver)


@pytest.mark.parametrize("named", [(), "first"])
def test_what_is_wrong_where_no_question_was_open_is_a_problem(named: Any) -> None:
    class Skipped(Form):
        first = slot(int)
        more = slot(applies=lambda so_far: so_far.first > 5)

        def check(self) -> None:
            raise Complaint("wrong", slot=named)

    with pytest.raises(Problems, match="wrong"):
        Skipped.fill(["1"], driver=Scripted(typed("7")))


def test_a_value_error_is_about_all_and_other_errors_are_the_programs() -> None:
    class Wrong(Form):
        how = slot()

        def check(self) -> None:
            if self.how == "value":
                raise ValueError
            if self.how == "refusal":
                raise Refusal("no", status=7)
            if self.how == "name":
                raise Complaint("x", slot="hwo")
            raise KeyError(self.how)

    with pytest.raises(Problems, match="these values do not go together"):
        Wrong.fill(["value"])
    with pytest.raises(Refusal, match="no"):
        Wrong.fill(["refusal"])
    with pytest.raises(DeclarationError, match=r"'hwo', which is no slot.*how"):
        Wrong.fill(["name"])
    with pytest.raises(KeyError):
        Wrong(how="key")


def test_the_last_look_comes_after_the_check_and_a_change_is_checked_again() -> None:
    mended = [*typed("5", "2"), Press("backspace"), *typed("7")]
    changed = [Press("home"), ENTER, Press("backspace"), *typed("9")]
    driver = Scripted([*mended, *changed, Press("backspace"), *typed("9"), Press("end"), ENTER])
    record = Span.fill([], driver=driver, review=True)
    assert (record.first, record.last) == (9, 9)
    assert sum("is before" in frame for frame in driver.frames) >= 2
    assert sum("note" in frame for frame in driver.frames) >= 2  # it is seen at the last look only


class Options(Form):
    low = slot(int, default=0)
    high = slot(int, default=9)

    def check(self) -> None:
        if self.high < self.low:
            raise Complaint("high is below low", slot="high")


class Show(Command):
    """Show a level."""

    level = slot(int)

    def check(self) -> None:
        if not self.shared.low <= self.level <= self.shared.high:
            raise Complaint(f"{self.level} is out of range", slot="level")

    def run(self) -> str:
        return f"level {self.level}"


class Ping(Command):
    """Answer."""

    def run(self) -> str:
        return "pong"


@tabled
def test_a_command_and_what_is_shared_with_it_are_checked_each(
    words: list[str], reason: str, capsys: pytest.CaptureFixture[str]
) -> None:
    program = Program("desk", members=[Show, Ping], shared=Options)
    for call in (program.main, lambda words: asyncio.run(_main(program, words))):
        status = call(words)
        captured = capsys.readouterr()
        assert status == (2 if reason else 0)
        assert reason in captured.err


async def _main(program: Program, words: list[str]) -> int:
    try:
        return await program.call_async(words)
    except Problems as problems:
        import sys

        print(problems, file=sys.stderr)
        return 2


def test_a_function_is_checked_by_another(capsys: pytest.CaptureFixture[str]) -> None:
    def together(values: Any) -> None:
        if values.last < values.first:
            raise Complaint("wrong way round", slot=["first", "last"])

    def span(first: int, last: int) -> str:
        return f"{first} to {last}"

    assert run(span, ["1", "2"], check=together) == 0
    with pytest.raises(SystemExit):
        run(span, ["2", "1"], check=together)
    program = Program("desk", members=[Command.from_function(span, check=together)])
    assert program.main(["span", "2", "1"]) == 2
    assert capsys.readouterr().err.count("wrong way round") == 2


def test_a_secret_is_not_in_what_a_check_says() -> None:
    class Keys(Form):
        key = slot(secret=True, env="KEY")
        other = slot(default="x")

        def check(self) -> None:
            raise Complaint(f"the key {self.key} is not that of {self.other}", slot="key")

    with pytest.raises(Problems) as caught:
        Keys.fill([], context=Context(words=[], environ={"KEY": "otter-canary"}))
    assert "otter" not in str(caught.value) + caught.value.json()
    with pytest.raises(Problems) as caught:
        Keys(key="otter-canary")
    assert "otter" not in str(caught.value) + caught.value.json()


def test_a_session_mends_what_does_not_go_together() -> None:
    with Session(lambda: print(repr(Span.fill([])))) as session:
        session.type("5")
        session.press("enter")
        session.type("2")
        session.press("enter")
        assert "2 is before 5" in session.screen
        session.press("backspace")
        session.type("8")
        session.press("enter")
        assert "Span(first=5, last=8, note='')" in session.output


def test_a_complaint_copies_and_pickles_with_its_slot() -> None:
    complaint = Complaint("no", 3, slot="a")
    for same in (copy.copy(complaint), pickle.loads(pickle.dumps(complaint))):
        assert (same.reason, same.position, same.slot) == ("no", 3, "a")
