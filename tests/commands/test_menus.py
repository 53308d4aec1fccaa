"""Menus of commands: the way there and the way back, at any depth, in a card and in plain lines."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import CommandGroup, Program
from wesperon.testing import Session

RUN: list[str] = []


def command(name: str, questions: int) -> Any:
    """Return a command that asks so many questions, and says that it was run."""
    if questions == 0:
        made: Any = lambda: RUN.append(name)  # noqa: E731
    elif questions == 1:
        made = lambda first: RUN.append(f"{name} {first}")  # noqa: E731
    else:
        made = lambda first, second: RUN.append(f"{name} {first} {second}")  # noqa: E731
    made.__name__ = made.__qualname__ = name
    return made


TREE: dict[str, Any] = {"park": 0, "cool": 1, "dome": {"open": 2, "shutter": {"lift": 1, "drop": 0}}, "expose": 2}


def members(tree: dict[str, Any]) -> list[Any]:
    """Return the members of a program or group."""
    return [CommandGroup(n, n, members(of)) if isinstance(of, dict) else command(n, of) for n, of in tree.items()]


def walked(steps: list[int]) -> tuple[list[str], str]:
    """Return what a naive model types for some steps, back (-1) or a choice, and what is run at the end."""
    path: list[str] = []
    answers: list[str] = []
    typed: list[str] = []

    def here() -> Any:
        tree: Any = TREE
        for name in path:
            tree = tree[name]
        return tree

    while isinstance(tree := here(), dict) or len(answers) < tree:
        step = steps.pop(0) if steps else 0
        if step < 0 and (path or answers):
            typed.append("back")
            answers.pop() if answers else path.pop()
        elif isinstance(tree, dict):
            path.append([*tree][step % len(tree)])
            typed.append(path[-1])
        else:
            answers.append(f"v{step}")
            typed.append(answers[-1])
    return typed, " ".join([path[-1], *answers])


@pytest.mark.parametrize("plain", [False, True])
@given(st.lists(st.integers(-1, 3), max_size=12))
def test_the_way_back_leads_through_menus_and_questions(plain: bool, steps: list[int]) -> None:
    typed, wanted = walked([*steps])
    RUN.clear()
    program = Program("desk", members=members(TREE), default_command="menu")
    with Session(program, [], environment={"WESPERON_PLAIN": "1"} if plain else {}) as session:
        for text in typed:
            if text == "back" and not plain:
                session.press("shift-tab")
                session.press("ctrl-u")
            elif text[0] == "v" and not plain:
                session.press("ctrl-u")
                session.type(text)
                session.press("enter")
            else:
                session.type(text)
                session.press("enter")
        assert session.status == 0, (typed, session.screen)
    assert [wanted] == RUN
