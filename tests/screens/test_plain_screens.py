"""A screen on a terminal that cannot move its cursor: everything can be answered and done there, one after the other.

Modules: ``screens.as_form``.
"""

from __future__ import annotations

import asyncio
import random
import threading
from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.screens.trees import WORDS, tree
from wesperon import (
    Across,
    Button,
    Command,
    Complaint,
    Down,
    Field,
    Label,
    Listing,
    MenuEntry,
    MessageView,
    Pager,
    Program,
    Refusal,
    Screen,
    Table,
    Tabs,
    any_of,
    ask,
    ask_async,
    choose,
    confirm,
    one_of,
    show_message,
    show_message_async,
    slot,
)
from wesperon.testing import Session


def typed(screen: Screen, *lines: str, is_async: bool = False) -> Session:
    """Return the session of a screen after lines were typed."""
    program = (lambda: asyncio.run(screen.run_async())) if is_async else screen.run
    with Session(program, environment={"TERM": "dumb"}, columns=70, rows=40) as session:
        for line in lines:
            assert session.is_open, session.error
            session.type(line).press("enter")
    return session


ANSWERS: list[tuple[Callable[[str], Any], str, Any]] = [
    (lambda title: Field(slot(str, title)), "dome", "dome"),
    (lambda title: Field(slot(int, title)), "12", 12),
    (lambda title: Field(slot(bool, title)), "y", True),
    (lambda title: Field(slot(one_of(["north", "south"]), title)), "2", "south"),
    (lambda title: Field(slot(any_of(["a", "b", "c"]), title)), "1,3", ("a", "c")),
    (lambda title: Field(slot(str, title, secret=True)), "moonstone", "moonstone"),
    (lambda title: Field(slot(int, title), value=7), "", 7),
    (lambda title: Listing(["north", "south"], title=title), "2", "south"),
    (lambda title: Listing(["same", "same", "other"], title=title), "3", "other"),
    (lambda title: Listing(["a", "b", "c"], several=True, title=title), "2-3", ("b", "c")),
]


@given(
    drawn=st.lists(
        st.tuples(st.sampled_from(ANSWERS), st.sampled_from(["", "tab", "off", "hidden", "label"])), max_size=6
    ),
    rounds=st.integers(1, 2),
)
def test_every_part_that_takes_a_value_is_asked_for_in_order(drawn: list[Any], rounds: int) -> None:
    made = [(make(f"Part{number}"), text, value, around) for number, ((make, text, value), around) in enumerate(drawn)]
    parts: list[Any] = []
    lines: list[str] = []
    for number, (part, text, _, around) in enumerate(made):
        if around == "tab":
            parts.append(Tabs(Label("other", title=f"Other{number}"), Down(part, title=f"Tab{number}")))
        elif around == "label":
            parts.append(Across(Label(f"label {number}"), part))
        else:
            part.enabled = around != "off"
            part.hide(around == "hidden")
            parts.append(part)
        if around not in ("off", "hidden"):
            lines.append(text)
    screen = Screen(Down(*parts, Button("Go", lambda: screen.close([part.value for part, *_ in made]))))
    again = ["Change an answer", *lines] * (rounds - 1) if lines else []
    session = typed(screen, *lines, *again, "Go")
    assert not session.is_open
    for (_, _, value, around), got in zip(made, session.result, strict=True):
        if around not in ("off", "hidden"):
            assert got == value


class Park(Command):
    """Park the telescope."""

    where = slot(str, "Where", default="")

    def run(self) -> str:
        return f"parked {self.where}"


def acting(function: Callable[..., Any], **more: Any) -> Callable[[], Screen]:
    """Return what makes a screen with a field and a button that calls a function of the screen."""

    def make() -> Screen:
        field = Field(slot(int, "Number"))
        screen = Screen(
            Down(field, Button("Act", lambda: function(screen)), Button("Quit", lambda: screen.close(field.value))),
            **more,
        )
        return screen

    return make


def raises(error: Exception) -> Callable[[Screen], None]:
    def act(screen: Screen) -> None:
        raise error

    return act


def dialog(screen: Screen) -> None:
    inner = Field(slot(int, "Inner"))
    screen.close(screen.dialog(Down(inner, Button("OK", lambda: screen.close_dialog(inner.value))), title="Within"))


def nested(screen: Screen) -> None:
    inner = Field(slot(int, "Inner"))
    other = Screen(Down(inner, Button("OK", lambda: other.close(inner.value))))
    screen.close(other.run())


def from_thread(screen: Screen) -> None:
    thread = threading.Thread(target=lambda: screen.call_later(0, lambda: screen.close("later")))
    thread.start()
    thread.join()


def async_screen() -> Screen:
    async def act() -> None:
        await asyncio.sleep(0)
        screen.close(await ask_async("How many?", int))

    screen = Screen(Down(Button("Act", act)))
    return screen


def failing_async_screen() -> Screen:
    async def act() -> None:
        await asyncio.sleep(0)
        raise RuntimeError("the mast is gone")

    screen = Screen(Down(Button("Act", act), Button("Quit", lambda: screen.close("left"))))
    return screen


def unfolding() -> Screen:
    more, many = Field(slot(bool, "More")), Field(slot(int, "How many"))
    first = Field(slot(int, "First"))
    first.hide(True)
    many.enabled = False

    def unfold(value: bool) -> None:
        many.enabled = value
        first.hide(not value)

    more.on_change(unfold)
    screen = Screen(Down(first, more, many, Button("Quit", lambda: screen.close((first.value, many.value)))))
    return screen


def refusing() -> Screen:
    low, high = Field(slot(int, "Low")), Field(slot(int, "High"))

    def go() -> None:
        if low.value > high.value:
            high.refuse(Complaint("must not be lower"))
        else:
            screen.close((low.value, high.value))

    screen = Screen(Down(low, high, Button("Go", go)))
    return screen


def with_pager() -> Screen:
    text = "\n".join(f"line {number}" for number in range(50))
    screen = Screen(Down(Pager(text, title="Night"), Label("after it"), Button("Quit", lambda: screen.close("left"))))
    return screen


def of_rows(make: Callable[[Callable[[Any], Any]], Any]) -> Callable[[], Screen]:
    def made() -> Screen:
        screen = Screen(make(lambda row: screen.close(row)))
        return screen

    return made


CASES: dict[str, tuple[Callable[[], Screen], list[str], Any, str]] = {
    "close": (acting(lambda screen: screen.close("done")), ["3", "Act"], "done", "Number"),
    "ask": (acting(lambda screen: screen.close(ask("How many?", int))), ["3", "Act", "5"], 5, "How many?"),
    "confirm": (acting(lambda screen: screen.close(confirm("Sure?"))), ["3", "Act", "y"], True, "Sure?"),
    "choose": (acting(lambda screen: screen.close(choose("Which?", ["a", "b"]))), ["3", "Act", "2"], "b", "Which?"),
    "message": (acting(lambda screen: show_message("the dome is shut")), ["3", "Act", "Quit"], 3, "the dome is shut"),
    "dialog": (acting(dialog), ["3", "Act", "5", "OK"], 5, "Within"),
    "screen in a screen": (acting(nested), ["3", "Act", "5", "OK"], 5, "Inner"),
    "refusal": (acting(raises(Refusal("the dome is shut"))), ["3", "Act", "Quit"], 3, "the dome is shut"),
    "error": (acting(raises(RuntimeError("gone"))), ["3", "Act", "Go on", "Quit"], 3, "RuntimeError: gone"),
    "error shown": (acting(raises(RuntimeError("gone"))), ["3", "Act", "Show where", "", "Quit"], 3, "raise error"),
    "thread": (acting(from_thread), ["3", "Act"], "later", "Number"),
    "later": (acting(lambda screen: screen.call_later(0, screen.close)), ["3", "Act"], None, "Number"),
    "what appears": (unfolding, ["y", "1", "4", "Quit"], (1, 4), "How many"),
    "what stays away": (unfolding, ["n", "Quit"], (None, None), "More"),
    "a field that is refused": (refusing, ["5", "3", "Go", "8", "Go"], (5, 8), "must not be lower"),
    "a menu": (
        lambda: acting(dialog, menus={"File": [{"More": [MenuEntry("Say", lambda: show_message("said"))]}]})(),
        ["3", "File: More: Say", "Quit"],
        3,
        "said",
    ),
    "a command": (
        acting(dialog, menus=Program("desk", members=[Park])),
        ["3", "Desk: Park", "home", "Quit"],
        3,
        "parked",
    ),
    "a long text": (with_pager, ["", "q", "Quit"], "left", "line 39"),
    "a list": (of_rows(lambda act: Listing(["a", "b"], title="Sites", action=act)), ["Sites", "b"], "b", "Sites"),
    "a table": (
        of_rows(lambda act: Table([[1, 2], [3, 4]], ["n", "m"], action=act)),
        ["Choose", "2"],
        [3, 4],
        "What next?",
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_what_is_done_on_a_screen_is_done_in_plain_lines(name: str) -> None:
    make, lines, result, seen = CASES[name]
    session = typed(make(), *lines)
    assert session.error is None
    assert session.result == result
    assert seen in session.screen + session.output


def test_coroutine_functions_are_awaited() -> None:
    assert typed(async_screen(), "Act", "5", is_async=True).result == 5
    session = typed(failing_async_screen(), "Act", "Go on", "Quit", is_async=True)
    assert (session.result, session.error) == ("left", None)


def test_an_error_that_ends_the_screen_is_raised() -> None:
    session = typed(acting(raises(RuntimeError("gone")))(), "3", "Act", "End")
    assert repr(session.error) == "RuntimeError('gone')"


def test_what_threads_show_is_printed() -> None:
    messages, said = MessageView(title="Mast"), Label("calm")

    def tell() -> None:
        messages.show("wind rises")
        said.show("windy")

    def act() -> None:
        thread = threading.Thread(target=tell)
        thread.start()
        thread.join()

    screen = Screen(Down(messages, said, Button("Act", act), Button("Quit", lambda: screen.close(said.value))))
    session = typed(screen, "Act", "Quit")
    assert session.result == "windy"
    assert "wind rises" in session.screen
    assert "windy" in session.screen


@pytest.mark.parametrize("environment", [{}, {"TERM": "dumb"}])
@pytest.mark.parametrize("is_async", [False, True])
def test_a_message_with_several_buttons_is_a_question_where_no_screen_runs(environment: Any, is_async: bool) -> None:
    """The first label is that of Enter, the last one what comes back if nobody says."""

    def show() -> str:
        if is_async:
            return asyncio.run(show_message_async("It is wet.\nClose?", buttons=["Close", "Wait", "Leave"]))
        return show_message("It is wet.\nClose?", buttons=["Close", "Wait", "Leave"])

    for keys, label in ((["enter"], "Close"), (["W", "a", "i", "t", "enter"], "Wait"), (["ctrl-d"], "Leave")):
        with Session(show, environment=environment) as session:
            assert "It is wet." in session.output
            session.press(*keys)
            assert session.result == label
    with Session(show, environment={"WESPERON_ASKING": "never"}) as session:
        assert session.result == "Leave"


@pytest.mark.parametrize("seed", range(12))
def test_any_screen_can_be_answered_and_left(seed: int) -> None:
    """Whatever is typed on the way, with no control character of its texts."""
    rolled = random.Random(seed)
    content = tree(rolled)
    screen = Screen(Down(content, Button("Quit!", lambda: screen.close("left"))), title=rolled.choice(WORDS))
    columns = rolled.choice([20, 80])
    with Session(screen.run, environment={"TERM": "dumb"}, rows=60, columns=columns) as session:
        for _ in range(60):
            if session.is_open:
                session.type(rolled.choice(["", "1", "2", "abc", "y", "1,2", "5", ".", " ", "x" * 100])).press("enter")
        for _ in range(60):
            if session.is_open:
                is_end = "What next?" in session.screen[-400:].replace("\n", "")
                session.type("Quit!" if is_end else rolled.choice(["1", "y", "."])).press("enter")
        assert not session.is_open, session.screen
        assert session.error is None
        assert not set(session.screen) & {"\x1b", "\x07"}
