"""What is given to a part or a screen is either taken, and can be shown, or refused where it is given, with its name.

Modules: ``widgets.parts.checked``.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from wesperon import (
    Across,
    Button,
    Column,
    Complaint,
    Console,
    DeclarationError,
    Down,
    Field,
    Form,
    Label,
    Listing,
    MenuEntry,
    MessageView,
    Meter,
    Pager,
    Program,
    Screen,
    Table,
    Tabs,
    Trend,
    any_of,
    one_of,
    page,
    show_message,
    show_work,
    slot,
)
from wesperon.testing import Session

WRONG: list[Any] = [
    *(None, 5, -1, 2.5, "x", "", b"x", True, float("nan"), (1, 2), 10**30, "a\x1b[31m\n", object(), print, slot(int)),
    *([], [1], {}, {"a": 1}, ["a", "b"], [["a"]], {1, 2}, lambda: 5, lambda: None),
]
GIVEN: dict[str, Callable[[Any], Any]] = {
    "Button label": Button,
    "Button action": lambda given: Button("a", given),
    "Button default": lambda given: Button("a", default=given),
    "Label text": Label,
    "Field slot": Field,
    "Field value": lambda given: Field(slot(int, "N"), value=given),
    "Listing choices": Listing,
    "Listing several": lambda given: Listing(["a"], several=given),
    "Listing action": lambda given: Listing(["a"], action=given),
    "Table rows": lambda given: Table(given, ["a"]),
    "Table row": lambda given: Table([given], ["a"]),
    "Table cell": lambda given: Table([[given]], ["a"]),
    "Table columns": lambda given: Table([["a"]], given),
    "Table cells": lambda given: Table([["a"]], ["a"], cells=given),
    "Table sorts": lambda given: Table([["a"]], ["a"], sorts=given),
    "Column heading": lambda given: Table([["a"]], [Column(given)]),
    "Column width": lambda given: Table([["a"]], [Column("a", width=given)]),
    "Column right": lambda given: Table([["a"]], [Column("a", right=given)]),
    "Pager source": Pager,
    "MessageView keeps": lambda given: MessageView(keeps=given),
    "Meter label": Meter,
    "Meter total": lambda given: Meter(total=given),
    "Meter unit": lambda given: Meter(unit=given),
    "Trend values": Trend,
    "Trend low": lambda given: Trend([1], low=given),
    "Trend unit": lambda given: Trend([1], unit=given),
    "Trend keeps": lambda given: Trend([1], keeps=given),
    "Tabs part": lambda given: Tabs(Label("a", title="A"), given),
    "Across part": Across,
    "Across divided": lambda given: Across(Label("a"), Label("b"), divided=given),
    "Down part": lambda given: Down(Label("a"), given),
    **{
        name: lambda given, name=name: Label("a", **{name: given})  # type: ignore[misc]
        for name in ("title", "size", "weight", "least", "most", "hide_below")
    },
    "Screen content": Screen,
    "Screen title": lambda given: Screen(Label("a"), title=given),
    "Screen menus": lambda given: Screen(Label("a"), menus=given),
    "menu": lambda given: Screen(Label("a"), menus={"Dome": given}),
    "menu entry": lambda given: Screen(Label("a"), menus={"Dome": [given]}),
    "MenuEntry action": lambda given: Screen(Label("a"), menus={"Dome": [MenuEntry("Open", given)]}),
    "bindings": lambda given: Screen(Label("a"), bindings=given),
    "binding": lambda given: Screen(Label("a"), bindings={"f5": given}),
}


def nested(given: Any) -> Any:
    return given if isinstance(given, Screen) else Screen(given)


@pytest.mark.parametrize("name", GIVEN)
def test_an_argument_is_shown_or_refused_where_it_is_given(name: str) -> None:
    refused = (DeclarationError, Complaint) if name == "Field value" else DeclarationError
    for wrong in WRONG:
        try:
            part = GIVEN[name](wrong)
        except refused:
            continue
        with Session(nested(part).run, rows=12) as session:
            session.press("tab", "down", "right")
            assert session.screen, wrong


def test_a_flag_is_true_or_false_and_a_size_no_flag() -> None:
    for flag in ("several", "cells", "sorts", "divided", "default"):
        name = next(name for name in GIVEN if name.endswith(flag))
        with pytest.raises(DeclarationError, match=f"{flag}='no': must be True or False"):
            GIVEN[name]("no")
    with pytest.raises(DeclarationError, match="size=True: must be a number of cells, 1 or more"):
        Label("a", size=True)


REFUSED: dict[str, tuple[Callable[[Any], Any], list[Any]]] = {
    "message": (lambda given: show_message("t", buttons=given), [None, 5, "OK", [1], b"x"]),
    "work": (lambda given: show_work("W", given), [None, 5, "x", [1]]),
    "page heading": (lambda given: page("a", heading=given), [None, "1", 2.5, -1, True]),
    "page pick": (lambda given: page("a", pick=given), [None, "no", 1]),
    "page follow": (lambda given: page("a", follow=given), [None, "no", 1]),
    "background": (lambda given: Console(Program("desk", members=[print_nothing]), background=given), [None, "1", -1]),
    "least": (lambda given: any_of(["a"], least=given), [None, "1", 2.5, -1]),
    "most": (lambda given: any_of(["a"], most=given), ["1", 2.5, -1]),
    "aliases": (lambda given: slot(one_of(["a"], aliases=lambda one: given)).parse("b"), [5, object()]),
    "late choices": (lambda given: Later.fill([given]), ["nothing", "number", "text"]),
}


def print_nothing() -> None:
    """Do nothing."""


def given_late(answers: Any) -> Any:
    return {"nothing": None, "number": 5, "text": "abc"}[answers.sort]


class Later(Form):
    """Choices that a function gives, which may be none."""

    sort = slot(str, "Sort")
    which: Any = slot(one_of(given_late), "Which", default="a")


@pytest.mark.parametrize("name", REFUSED)
def test_what_is_none_of_its_sort_is_refused_by_its_name(name: str) -> None:
    call, given = REFUSED[name]
    for wrong in given:
        with pytest.raises(DeclarationError):
            call(wrong)


def test_what_ends_the_work_in_its_thread_ends_the_program_that_waits_for_it() -> None:
    def work(at: Any) -> None:
        raise SystemExit(7)

    with Session(Screen(Button("Work", lambda: show_work("Stacking", work))).run) as session:
        session.press("enter")
        assert session.stage.has_ended
        assert session.status == 7


@pytest.mark.parametrize("seconds", ["soon", None, float("nan"), 10**400, 1j])
def test_what_is_no_number_of_seconds_is_refused_where_it_is_given(seconds: Any) -> None:
    with pytest.raises(DeclarationError, match="number of seconds"):
        Screen(Label("calm")).call_later(seconds, lambda: None)
