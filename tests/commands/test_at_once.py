"""Programs whose words say all: what runs a command at once does what the way through everything does.

Modules: ``commands.at_once``.
"""

from __future__ import annotations

import contextlib
import io
import sys
from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from wesperon import Command, CommandGroup, Complaint, Form, Problem, Problems, Program, Refusal, slot

CALLS: list[object] = []


def odd(text: str) -> int:
    """Return an odd number."""
    if int(text) % 2 == 0:
        raise ValueError("is even")
    return int(text)


class Expose(Command):
    """Expose."""

    target = slot()
    frames = slot(int, default=1, short="n", renamed_from="shots")
    guided = slot(bool, default=False)

    def run(self) -> object:
        CALLS.append(tuple(self))
        return [self.target, self.replay().partition(" expose ")[2], self.origins["frames"]]


class Sum(Command):
    """Add numbers."""

    renamed_from = "total"
    numbers = slot(odd, rest=True, least=1)

    def run(self) -> object:
        CALLS.append(self.numbers)
        return sum(self.numbers) + getattr(self.shared, "speed", 0)


class Window(Command):
    first = slot(int)
    last = slot(int)

    def check(self) -> None:
        CALLS.append("check")
        if self.last < self.first:
            raise Complaint("is before the first", slot="last")


class Log(Command):
    key = slot(secret=True, default="moonstone")
    name = slot(default="mast")

    def run(self) -> None:
        raise ValueError(f"no {self.name} for {self.key}")


class Note(Command):
    mark = slot(initial="last")

    def run(self) -> None:
        raise Problems([Problem("the log is full", "mark", "words", self.mark)])


def fails(how: str) -> object:
    """Fail."""
    CALLS.append(how)
    if how == "refuse":
        raise Refusal("the mast is iced up", 4)
    if how == "exit":
        raise SystemExit(7)
    if how == "problems":
        raise Problems([Problem("is full", "how", "words", how)], ["fails", how])
    known: dict[str, object] = {"tell": "two\nlines", "number": 2.5, "bytes": b"x", "list": ["a", 1], "é\x1b": None}
    return known[how]


class Shared(Form):
    speed = slot(int, default=3)


PROGRAMS: dict[str, Callable[[], Program]] = {
    "plain": lambda: Program(
        "desk", members=[Expose, Sum, Window, Log, Note, fails, CommandGroup("dome", members={"run": Sum, "in": fails})]
    ),
    "default": lambda: Program("desk", members=[Sum, fails], default_command=Expose),
    "shared": lambda: Program("desk", members=[Expose, CommandGroup("dome", members=[Sum], shared=Shared)]),
    "gate": lambda: Program("desk", members=[Expose], gate=lambda names, form, values: CALLS.append((names, form))),
    "whole names": lambda: Program("desk", members=[Expose, Sum], prefixes=False, version="2"),
    "settings": lambda: Program("desk", members=[Expose, Sum, Window], settings=True),
    "results": lambda: Program("desk", members=[Expose, Sum], results=True),
}
#: Lines that are right, for each program those that it has a command for; and words that any line may have beside.
RIGHT = {
    "expose": ["Lantern", "Lantern -n3 --guided", "--target=Lantern --fr=2", "-n 4 Lantern", "Lantern --shots=3"],
    "sum": ["3 5", "3", "4", "3 5 7"],
    "window": ["3 4", "4 3", "--last=4 --first=4"],
    "log": ["mast", "--name=mast"],
    "note": ["x"],
    "fails": ["refuse", "exit", "problems", "tell", "number", "bytes", "list", "other"],
    "dome run": ["3", "5 7"],
    "dome in": ["problems", "tell"],
    "dome sum": ["3 5", "--speed=4 3"],
    "total": ["3 5"],
    "exp": ["Lantern"],
    "": ["Lantern", "3 5", "--version"],
}
BESIDE = ["--speed=5", "--asking=never", "--version", "--help", "--as=json", "5", "--", "é\x1b", "help"]
LINES = [f"{name} {line}" for name, lines in RIGHT.items() for line in lines]


def outcome(program: Program, words: list[str], at_once: bool) -> tuple[Any, ...]:
    """Return all that can be seen of a run: what it says, its status, and what was called."""
    CALLS.clear()
    out, err = io.StringIO(), io.StringIO()
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("wesperon.commands.at_once.is_alone", lambda: at_once)
        patch.setattr(sys, "argv", ["/desk.py", *words])
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            try:
                status: object = program.main(words)
            except SystemExit as end:
                status = f"exit {end.code}"
    return status, out.getvalue(), err.getvalue(), list(CALLS)


@pytest.mark.parametrize("name", PROGRAMS)
@settings(max_examples=40)
@given(
    line=st.sampled_from(LINES),
    more=st.lists(st.sampled_from(BESIDE), min_size=1, max_size=2),
    asking=st.sampled_from(["never", "missing", "typo"]),
)
@example("", [], "never")
def test_a_command_that_is_run_at_once_does_what_it_does_on_the_long_way(
    name: str, line: str, more: list[str], asking: str
) -> None:
    program = PROGRAMS[name]()
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("WESPERON_ASKING", asking)
        patch.setattr("wesperon.forms.filling.FillOptions.reach", lambda self: None)  # nobody is there
        for words in [[*line.split(), *more]] if line else [one.split() for one in LINES]:
            assert outcome(program, words, at_once=True) == outcome(program, words, at_once=False), words


def test_most_lines_are_run_at_once(monkeypatch: pytest.MonkeyPatch) -> None:
    program = PROGRAMS["plain"]()
    monkeypatch.setattr(Program, "_steps", None)
    for words, said in {
        ("expose", "Lantern"): "Lantern\n--target=Lantern\ndefault\n",
        ("expose", "-n3", "--guided", "Lantern"): "Lantern\n--frames=3 --guided=yes --target=Lantern\nwords\n",
        ("sum", "3", "5"): "8\n",
        ("dome", "run", "7"): "7\n",
        ("fails", "tell"): "two\nlines\n",
    }.items():
        assert outcome(program, list(words), at_once=True)[:2] == (0, said)
