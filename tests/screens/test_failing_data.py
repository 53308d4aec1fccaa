"""Whatever objects and functions of the program raise while a screen is drawn, it goes on and says so in their place.

What was typed into other parts is kept.

Modules: ``widgets.parts.part``, ``widgets.parts.table``.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from wesperon import Button, Column, Down, Field, Listing, Screen, Table, any_of, ask, one_of, slot
from wesperon.testing import Session
from wesperon.widgets.parts.part import Part


class Rows:
    """Rows of which something fails from the call on that has a number."""

    def __init__(self, fails: str, good: int) -> None:
        self.fails, self.good, self.calls = fails, good, 0

    def check(self, what: str) -> None:
        if what == self.fails:
            self.calls += 1
            if self.calls > self.good:
                raise RuntimeError("the mast is gone")

    def __len__(self) -> int:
        self.check("len")
        return 40

    def rows(self, first: int, count: int) -> Any:
        self.check("rows")
        return [[number, Cell(self)] for number in range(first, first + count)]


class Cell:
    """A cell whose text may fail."""

    def __init__(self, of: Rows) -> None:
        self.of = of

    def __str__(self) -> str:
        self.of.check("str")
        return "calm"


class Fails(Part):
    """A part that cannot be drawn."""

    def view(self, columns: int, rows: int) -> Any:
        raise RuntimeError("the mast is gone")


def raised(*given: Any) -> Any:
    raise RuntimeError("the mast is gone")


class Fragile:
    """A function that fails from the call on that has a number."""

    def __init__(self, function: Callable[..., Any], good: int) -> None:
        self.function, self.good, self.calls = function, good, 0

    def __call__(self, *given: Any) -> Any:
        self.calls += 1
        return self.function(*given) if self.calls <= self.good else raised()


#: Where the program gives a function to a part; each is made with one that fails.
HOOKS: dict[str, Callable[[Callable[..., Any]], Any]] = {
    "check": lambda fragile: Field(slot(int, "Part", check=fragile(nothing))),
    "check of a text": lambda fragile: Field(slot(str, "Part", check=fragile(nothing), live=True)),
    "check of rows": lambda fragile: Field(slot(list[int], "Part", check=fragile(nothing))),
    "suggest": lambda fragile: Field(slot(str, "Part", suggest=fragile(sites))),
    "suggest list": lambda fragile: Field(slot(str, "Part", suggest=fragile(sites), suggest_as="list")),
    "suggest inline": lambda fragile: Field(slot(str, "Part", suggest=fragile(sites), suggest_as="inline")),
    "low": lambda fragile: Field(slot(int, "Part", low=fragile(lambda answers: 1))),
    "high": lambda fragile: Field(slot(int, "Part", high=fragile(lambda answers: 9))),
    "text": lambda fragile: Field(slot(int, "Part", text=fragile(str)), value=4),
    "syntax": lambda fragile: Field(slot(str, "Part", lines=True, syntax=fragile(lambda text: []))),
    "choices": lambda fragile: Field(slot(one_of(fragile(sites)), "Part")),
    "disabled": lambda fragile: Field(slot(one_of(["north", "south"], disabled=fragile(nothing)), "Part")),
    "disabled of several": lambda fragile: Field(slot(any_of(["north", "south"], disabled=fragile(nothing)), "Part")),
    "listing": lambda fragile: Listing(one_of(["north", "south"], disabled=fragile(nothing))),
    "kind": lambda fragile: Field(slot(fragile(int), "Part")),
    "column": lambda fragile: Table([[1, 2], [3, 4]], [Column("one", key=fragile(lambda row: row[0])), "two"]),
    "cell": lambda fragile: Table([[1], [2]], [Column("one", slot=slot(int, check=fragile(nothing)))], cells=True),
    "button": lambda fragile: Button("Part", fragile(lambda: None)),
    "change": lambda fragile: changing(Field(slot(str, "Part")), fragile(nothing)),
    "question": lambda fragile: Button("Part", lambda: asking(check=fragile(nothing))),
    "question low": lambda fragile: Button("Part", lambda: asking(int, low=fragile(lambda answers: 1))),
    "question of choices": lambda fragile: Button(
        "Part", lambda: asking(any_of(["north", "south"], disabled=fragile(nothing)))
    ),
}


def nothing(value: object) -> None:
    return None


def sites(*given: object) -> list[str]:
    return ["north", "south"]


def changing(field: Field, function: Callable[..., Any]) -> Field:
    field.on_change(function)
    return field


def asking(*kind: Any, **settings: Any) -> None:
    ask("Which site?", *kind, **settings)


DATA: dict[str, Callable[[], Any]] = {
    **{
        f"{what} after {good}": lambda what=what, good=good: Table(Rows(what, good), ["number", "note"])  # type: ignore[misc]
        for what in ("len", "rows", "str")
        for good in (0, 1, 3, 7)
    },
    "key": lambda: Table([[1, 2]], [Column("number", key=raised), Column("note", key=1)]),
    "disabled": lambda: Listing(one_of(["north", "south"], disabled=raised)),
    "view": Fails,
}


@pytest.mark.parametrize("name", DATA)
def test_what_fails_while_it_is_drawn_is_said_in_its_place_and_the_rest_goes_on(name: str) -> None:
    note = Field(slot(str, "Note"))
    part = DATA[name]()
    screen = Screen(Down(note, part, Button("Quit", lambda: screen.close(note.value))))
    seen = ""
    with Session(screen.run, rows=16) as session:
        for key in ("", "a", "b", "tab", "down", "page-down", "s", "end", "home", "up", "shift-tab"):
            session.press(*[key] if key else [])
            seen += session.screen
            if "This has failed" in session.screen:
                session.press("escape")
        session.press("alt-n", "end", "c", "alt-q")
    assert "the mast is gone" in seen or "Run..." in seen
    assert session.result == "abc"


KEYS = (
    *("4", "enter", "shift-tab", "a", "enter", "shift-tab", "backspace", "b", "enter", "down", "5", "page-down"),
    *("enter", "s", "end", "tab", "shift-tab", "home", "space", "up", "alt-down", "enter", "escape", "delete", "7"),
)


@pytest.mark.parametrize("name", HOOKS)
@pytest.mark.parametrize("good", [0, 1, 2, 5])
@pytest.mark.parametrize("keys", ["modeless", "modal"])
def test_a_function_of_the_program_that_fails_never_ends_the_screen(name: str, good: int, keys: str) -> None:
    """Nor the way out of it, by the keys of the program and from part to part."""
    note = Field(slot(str, "Note"))
    part = HOOKS[name](lambda function: Fragile(function, good))
    screen = Screen(Down(note, part), bindings={"f5": lambda: screen.close("left")})
    with Session(screen.run, rows=16, environment={"WESPERON_KEYS": keys}) as session:
        session.press("z", "tab")
        for key in KEYS:
            session.press(key)
            for _ in range(4):
                if "This has failed" in session.screen:
                    session.press("escape")
        assert "This has failed" not in session.screen, "it is said again and again"
        while session.is_open and "Which site?" in session.screen:
            session.press("ctrl-d")
        session.press("escape", "f5")  # in command mode a number waits for what it is to count
    assert session.result == "left"


def test_a_cell_that_fails_looks_like_what_is_wrong() -> None:
    table = Table([[1, 2], [3, 4]], [Column("number", key=raised), Column("note", key=1)])
    rows = table.view(60, 5).rows
    assert ("RuntimeError: the mast is gone", "reason") in [(text.strip(), role) for text, role in rows[2]]


@pytest.mark.parametrize(
    ("kind", "settings", "keys"),
    [
        (int, {"check": raised}, ["4", "enter"]),
        (any_of(["north", "south"], disabled=raised), {}, []),
        (int, {"low": raised}, []),
    ],
)
def test_what_a_question_in_a_dialog_raises_comes_where_it_was_asked(kind: Any, settings: Any, keys: list[str]) -> None:
    """And its dialog is closed."""
    caught: list[Exception] = []

    def act() -> None:
        try:
            ask("Which site?", kind, **settings)
        except Exception as error:
            caught.append(error)

    screen = Screen(Button("Ask", act), bindings={"f5": lambda: screen.close("left")})
    with Session(screen.run, rows=16) as session:
        session.press("enter", *keys).press("f5")
    assert session.result == "left"
    assert ["the mast is gone" in str(error) for error in caught] == [True]
