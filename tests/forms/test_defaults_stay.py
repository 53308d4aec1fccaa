"""Whoever presses nothing but Enter gets the defaults, in every layout and on every terminal, an empty text too.

Modules: ``forms.questions``, ``screens.field``.
"""

from __future__ import annotations

from datetime import date, timedelta
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import Button, Down, Field, Form, Screen, any_of, one_of, slot
from wesperon.testing import Session

KINDS: list[tuple[Any, list[Any]]] = [
    (str, ["", "dome", "a b", "  ", "dôme", "a,b"]),
    (str | None, [None]),
    (int, [0, -6, 12]),
    (float, [0.0, 1.5]),
    (bool, [True, False]),
    (Decimal, [Decimal("1.50")]),
    (timedelta, [timedelta(0), timedelta(seconds=90)]),
    (date, [date(2031, 2, 3)]),
    (Path, [Path(), Path("raw")]),
    (one_of(["a", "b", ""], label=lambda value: value or "none"), ["a", ""]),
    (any_of(["a", "b"]), [(), ("a",), ("a", "b")]),
    (list[str], [[], ["a"], ["a", "b c"]]),
    (dict[str, int], [{}, {"a": 1}]),
]
SLOTS = st.sampled_from(KINDS).flatmap(lambda kind: st.tuples(st.just(kind[0]), st.sampled_from(kind[1])))
#: What ends several lines on a terminal that cannot move its cursor is no Enter, so they are not among these.
EXTRA: st.SearchStrategy[dict[str, Any]] = st.sampled_from(
    [{}, {}, {"live": True}, {"suggest": ["a", "b"]}, {"secret": True}]
)


@st.composite
def declared(draw: st.DrawFn) -> Any:
    kind, default = draw(SLOTS)
    declare: Any = slot
    return declare(kind, default=default, **(draw(EXTRA) if kind is str else {}))


@pytest.mark.parametrize("layout", ["card", "screen"])
@pytest.mark.parametrize("term", ["xterm", "dumb"])
@settings(max_examples=12)
@given(one=declared(), two=declared())
def test_enter_gives_the_defaults(layout: Any, term: str, one: Any, two: Any) -> None:
    form: Any = type("Plan", (Form,), {"one": one, "two": two})
    with Session(lambda: form.fill([], asking="all", layout=layout), environment={"TERM": term}) as session:
        for _ in range(12):
            if session.is_open:
                session.press("enter")
        if session.is_open:
            session.choose("Accept")
        assert not session.is_open, session.screen
    assert session.result is not None, session.error
    assert (session.result.one, session.result.two) == (one.default, two.default)


@given(declared())
def test_a_field_that_was_only_visited_keeps_its_default_and_has_no_complaint(one: Any) -> None:
    field = Field(one)
    screen = Screen(Down(Button("Above", lambda: None), field, Button("Take", lambda: screen.close(field.value))))
    with Session(screen.run) as session:
        session.press("tab", "tab", "shift-tab", "enter").choose("Take")
    assert session.result == one.default
    assert field.check() is None
