"""What is typed ahead in forms, consoles and the pager means what it means key by key, as on screens."""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import Any

import pytest

from tests.screens.test_bursts import cut
from wesperon import (
    Complaint,
    Console,
    Form,
    Problems,
    Program,
    any_of,
    ask,
    choose,
    confirm,
    one_of,
    page,
    slot,
)
from wesperon.testing import Session


class Plan(Form):
    """Questions of most kinds, and a check that asks."""

    note = slot(str, "Note")
    frames = slot(int, "Frames", low=1)
    target = slot(one_of(["ab", "ba", "bb", "north"]), "Target")
    filters_ = slot(any_of(["red", "green", "yellow"]), "Filters")
    rows = slot(str, "Rows", many=True, least=1)
    pairs = slot(dict[str, int], "Pairs", least=1)
    text = slot(str, "Text", lines=True, low=0)
    dry = slot(bool, "Dry")
    code = slot(str, "Code", secret=True, twice=True)

    def check(self) -> None:
        """Doubt some notes."""
        if self.note.startswith("b") and not confirm("Really?"):
            raise Complaint("something else")


def filled() -> Any:
    try:
        return tuple(Plan.fill([], review=True))
    except (Problems, KeyboardInterrupt) as error:
        return type(error).__name__


def console() -> Any:
    got: list[Any] = []

    def ab(n: int) -> None:
        print("ab", n)

    def ba() -> None:
        got.extend([ask("Name"), choose("Which", ["ab", "ba", "north"])])

    def by(note: str = "x") -> None:
        got.append((note, confirm("Sure?")))
        page("\n".join(f"row {number}" for number in range(60)))

    def an() -> None:
        got.append(filled())

    try:
        return Console(Program("desk", members=[ab, ba, by, an])).run(), got
    except KeyboardInterrupt:
        return "stopped", got


def paged() -> Any:
    text = "\n".join(f"row {number} {'ab'[number % 2] * (number % 90)}" for number in range(200))
    try:
        return page({"one": text, "two": "a\nb\n" * 100}, heading=1), page(text, pick=True)
    except KeyboardInterrupt:
        return "stopped"


COMMON = [
    *("tab", "up", "down", "left", "right", "backspace", "home", "end", "delete"),
    *("ctrl-a", "ctrl-e", "ctrl-w", "ctrl-u", "ctrl-y", "f1", "escape", "ctrl-g"),
]
FORM = [
    *("b 1 enter", "a enter", "y enter", "n enter", "1 2 enter", "x enter", "down enter", "space down space enter"),
    *("r enter enter", "k = 1 enter enter", "k enter 2 enter enter", "l enter m escape enter", "p w enter p w enter"),
]
LINES = [
    *("a b space 3 enter", "a b enter", "b a enter n m enter down enter", "b y enter y enter space q", "a n enter"),
    *("up up enter", "ctrl-r a enter", "a tab tab enter", "ctrl-x h down enter enter", "h e l p space a b enter"),
]
READING = [
    *("space", "b", "G", "1 2 0 G", "/ r o w enter", "n", "N", "o", "+", "w", "#", "c", "m a", "' a", "' '", "] space"),
    *("[ space", "f1 space", "f1 space q", "5 0 %", "g g", "right", "e", "enter", "q"),
]


def typed(chance: random.Random, steps: list[str], count: int) -> list[str]:
    """Return the keys of some steps, with a few others among them."""
    keys = [key for _ in range(count) for key in chance.choice(steps).split(" ")]
    for _ in range(chance.randint(0, 4)):
        keys.insert(chance.randrange(len(keys)), chance.choice(COMMON))
    return keys


def played(program: Callable[[], Any], bursts: list[list[str]], keys: str) -> tuple[str, Any]:
    """Return the screen that bursts of keys lead to, and what the program gave back."""
    with Session(program, environment={"WESPERON_KEYS": keys}) as session:
        for burst in bursts:
            if session.stage.has_ended:
                break
            session.press(*burst)
        shown = session.screen
    return shown, session.result


@pytest.mark.parametrize("keys", ["modeless", "modal"])
@pytest.mark.parametrize("seed", range(10))
@pytest.mark.parametrize(
    ("program", "steps"),
    [(filled, FORM), (console, [*LINES, *FORM]), (paged, READING)],
    ids=["form", "console", "pager"],
)
def test_what_is_typed_ahead_means_what_it_means_key_by_key(
    program: Callable[[], Any], steps: list[str], seed: int, keys: str
) -> None:
    chance = random.Random(seed)
    pressed = typed(chance, steps, 14)
    if program is paged:  # it stops a search that is not done yet, and its hits are marked no more if it is
        pressed = [key for key in pressed if key not in ("escape", "ctrl-g")]
    assert played(program, cut(pressed, chance), keys) == played(program, [[key] for key in pressed], keys)
