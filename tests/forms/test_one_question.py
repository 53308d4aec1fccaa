"""One question in the middle of a program, in all the places where it may be asked; menus by key.

Modules: ``forms.one_question``, ``widgets.key_menu``.
"""

from __future__ import annotations

import asyncio
import itertools
import sys
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.asking import CTRL_C, CTRL_D, DOWN, ENTER
from tests.harness import Terminal
from wesperon import (
    Command,
    Complaint,
    Console,
    Context,
    DeclarationError,
    Form,
    Problems,
    Program,
    ask,
    ask_async,
    confirm,
    confirm_async,
    fill,
    one_of,
    run,
    slot,
)
from wesperon.testing import Paste, Press, Scripted, Session


def with_keys(*keys: Any, **environ: str) -> Context:
    """Return a context in which these keys answer."""
    return Context(driver=Scripted(keys), environ=environ)


def asked(program: Any, *keys: Any, **environ: str) -> Any:
    """Return what a program gives if these keys answer."""
    from wesperon.scope import within

    with within(with_keys(*keys, **environ)):
        return program()


def test_the_value_is_converted_and_checked_as_that_of_a_slot() -> None:
    assert asked(lambda: ask("Target?"), "Lantern", ENTER) == "Lantern"
    assert asked(lambda: ask("Frames?", int, low=1, high=9), "12", ENTER, Press("backspace"), ENTER) == 1
    assert asked(lambda: ask("Which?", one_of(["red", "blue"])), DOWN, ENTER) == "blue"
    assert asked(lambda: ask("Frames?", int, initial=3), ENTER) == 3
    assert asked(lambda: ask("Frames?", int, env="FRAMES"), FRAMES="7") == 7


def test_to_confirm_begins_with_neither() -> None:
    assert asked(lambda: confirm("Go on?"), "y", ENTER) is True
    assert asked(lambda: confirm("Go on?"), "n", ENTER) is False
    assert asked(lambda: confirm("Go on?"), ENTER, "no", ENTER) is False  # Enter on neither is no answer
    assert asked(lambda: confirm("Go on?", initial=True), ENTER) is True


def test_nobody_there_is_unattended_or_a_problem_that_names_the_question() -> None:
    for environ in ({"WESPERON_ASKING": "never"},):
        with Session(
            lambda: (ask("Frames?", int, unattended=3), confirm("Go?", unattended=True)), [], environment=environ
        ) as s:
            assert s.result == (3, True)
        with Session(lambda: ask("Frames?", int), [], environment=environ) as session:
            assert isinstance(session.error, Problems) or session.status == 2
            assert "Frames?: is missing: must be a whole number" in session.errors + str(session.error)


def test_who_is_there_and_gives_no_answer_is_not_unattended() -> None:
    with pytest.raises(Problems, match=r"Frames\?: is missing"):
        asked(lambda: ask("Frames?", int, unattended=3), CTRL_D)
    with pytest.raises(KeyboardInterrupt):
        asked(lambda: ask("Frames?", int, unattended=3), CTRL_C)


def test_a_time_out_is_unattended() -> None:
    code = "from wesperon import ask; print('got', ask('Frames?', int, unattended=3, timeout=0.3))"
    with Terminal([sys.executable, "-c", code]) as terminal:
        terminal.see("Frames?")
        terminal.see("got 3")
        assert terminal.end() == 0


def test_in_an_event_loop_the_other_tasks_go_on() -> None:
    async def program() -> Any:
        return await ask_async("Frames?", int), await confirm_async("Go?")

    assert asked(lambda: asyncio.run(program()), "3", ENTER, "y", ENTER) == (3, True)


def test_inside_a_command_a_console_and_a_check_it_is_where_the_rest_is() -> None:
    class Close(Command):
        """Close the dome."""

        def run(self) -> str:
            return "closed" if confirm("Really close it?") else "left open"

    for program, begin in (
        (Program("desk", members=[Close]), ["close"]),
        (Console(Program("desk", members=[Close])), []),
    ):
        with Session(program, begin, columns=60) as session:
            if not begin:
                session.type("close").press("enter")
            assert "Really close it?" in session.screen
            session.type("n").press("enter")
            assert "left open" in session.screen + session.output

    class Plan(Form):
        frames = slot(int, "Frames")

        def check(self) -> None:
            if self.frames > 100 and not confirm("So many?"):
                raise Complaint("too many", slot="frames")

    with Session(Plan, [], columns=60) as session:
        session.type("300").press("enter")
        assert "So many?" in session.screen
        session.type("n").press("enter")
        assert "too many" in session.screen
        session.press("backspace", "backspace").press("enter")
        assert session.result.frames == 3


def test_the_answer_is_in_no_record_and_no_file(tmp_path: Any) -> None:
    with Session(lambda: ask("Frames?", int), [], environment={"XDG_STATE_HOME": str(tmp_path)}) as session:
        session.type("12")
        session.press("ctrl-c")
    assert [*tmp_path.rglob("*unfinished*/*")] == []


@pytest.mark.parametrize("name", ["default", "short", "rest", "named_only", "alone", "applies"])
def test_keywords_about_words_are_refused(name: str) -> None:
    with pytest.raises(DeclarationError, match=f"{name}= is not for a single question"):
        ask("Frames?", int, **{name: 3})  # type: ignore[call-overload]
    with pytest.raises(DeclarationError, match="no keyword"):
        ask("Frames?", int, lowe=3)  # type: ignore[call-overload]
    with pytest.raises(DeclarationError, match="must be a question"):
        ask("", int)
    with pytest.raises(Problems, match="too low"):
        ask("Frames?", int, low=3, unattended=1)


YNAQ = one_of(["yes", "no", "all", "quit"], by_key=True)


@pytest.mark.parametrize("keys", ["modeless", "modal"])
@pytest.mark.parametrize(("typed", "value"), [("n", "no"), ("A", "all"), ("q", "quit")])
def test_by_key_the_first_letter_accepts_at_once(typed: str, value: str, keys: str) -> None:
    class Merge(Form):
        what = slot(YNAQ, "Take it?")

    assert Merge.fill([], driver=Scripted([Press(typed)]), keys=keys).what == value
    assert Merge.fill([], driver=Scripted([DOWN, ENTER]), keys=keys).what == "no"


def test_by_key_nothing_filters_and_a_paste_accepts_nothing() -> None:
    class Merge(Form):
        what = slot(YNAQ, "Take it?")

    driver = Scripted([Paste("quit"), Press("x"), ENTER])
    assert Merge.fill([], driver=driver).what == "yes"
    assert "First letter: choose" in driver.frames[0]
    assert Merge.fill(["quit"], asking="never").what == "quit"
    with Session(Merge, [], environment={"WESPERON_PLAIN": "1"}) as session:
        session.type("q").press("enter")
        assert session.result.what == "quit"


@pytest.mark.parametrize("labels", [["no", "none"], ["Yes", "yellow"], [" a", "b"]])
def test_by_key_each_has_a_letter_of_its_own(labels: list[str]) -> None:
    with pytest.raises(DeclarationError, match="no letter of their own"):
        one_of(labels, by_key=True)


def test_the_question_stays_beside_the_answer_at_every_width() -> None:
    question = "The record of the night is there already: replace it?"
    for columns in (80, 30, 20):
        with Session(lambda: ask(question, YNAQ), [], columns=columns) as session:
            session.type("n")
            assert " ".join(session.screen.split()) == f"{question} no"


def asking(*_: object) -> Any:
    return ask("Really?", int, unattended=3)


PLACES: list[dict[str, Any]] = [
    {"kind": lambda text: asking()}, {"kind": int, "check": asking}, {"kind": int, "default": asking},
    {"kind": int, "low": asking}, {"kind": int, "applies": asking}, {"kind": one_of(asking)},
    {"kind": str, "suggest": asking},
]  # fmt: skip


@pytest.mark.parametrize("place", PLACES, ids=lambda place: str([*place][-1]))
def test_in_what_reads_or_bounds_one_value_a_question_is_a_fault_of_the_program(place: dict[str, Any]) -> None:
    make: Any = slot
    form: Any = type("Night", (Form,), {"first": slot(int, default=1), "value": make(**place)})
    words = [] if "default" in place else ["--value=3"]
    if "suggest" in place:
        found = Program("desk", default_command=type("Do", (Command,), {**form.__dict__, "run": lambda self: None}))
        assert found.candidates(["--value"], "") == []
        return
    with pytest.raises(DeclarationError, match=r"ask in check\(self\), or in run\(self\)"):
        form.fill(words, asking="never")


def test_a_function_a_command_a_listener_and_a_check_may_ask() -> None:
    def expose() -> int:
        return int(asking())

    seen: list[object] = []

    class Night(Form):
        frames = slot(int, default=1)

        def check(self) -> None:
            seen.append(asking())

    assert run(expose, []) == 0
    assert Program("desk", members=[expose]).main(["expose"]) == 0
    Night.fill([])
    Night(frames=2)
    assert seen == [3, 3]


@given(st.lists(st.integers(0, 3), min_size=1, max_size=6))
@settings(deadline=None)
def test_a_check_asks_the_same_question_for_the_same_values_once(typed: list[int]) -> None:
    """The check refuses all but the last number that is typed; each number is asked about once."""
    asked: list[int] = []

    class Night(Form):
        frames = slot(int, "Frames")

        def check(self) -> None:
            if not confirm("Really?"):
                asked.append(self.frames)
            times.append(self.frames)
            if len(times) < len(typed):
                raise Complaint("not yet", slot="frames")

    times: list[int] = []
    with Session(Night, []) as session:
        seen: set[int] = set()
        for number in typed:
            session.press("ctrl-u").type(str(number)).press("enter")
            if number not in seen:
                session.type("n").press("enter")
            seen.add(number)
        assert session.result is not None
        assert session.screen.count("Really?") == len(seen)
    assert times == typed


@pytest.mark.parametrize(
    "asks", [lambda: ask("Frames?", int, low=1, unattended=3), lambda: fill([], frames=slot(int, default=3))]
)
def test_an_interrupt_is_one_wherever_it_comes_while_a_question_is_made(asks: Any) -> None:
    """Also in ``__set_name__``, where Python 3.11 makes RuntimeError of whatever comes."""
    for number in itertools.count(1):
        left = [number]

        def trace(frame: Any, event: str, arg: object, left: list[int] = left) -> Any:
            if "wesperon" in frame.f_code.co_filename and frame.f_code.co_name == "__set_name__":
                left[0] -= 1
                if not left[0]:
                    raise KeyboardInterrupt
            return trace

        before = sys.gettrace()
        sys.settrace(trace)
        try:
            asks()
        except KeyboardInterrupt:
            continue
        finally:
            sys.settrace(before)
        break
    assert number > 3
