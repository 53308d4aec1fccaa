"""Growth: every list that the library takes, doubled again and again, and the exponent with which the work grows.

Run with ``make bench`` or ``python benchmarks/growth.py``. Work is counted in calls of functions (``sys.setprofile``),
which is the same on every run; the exponent is that of the last doubling. 1 is work in proportion; above 1.2 is a
fault. Where two lists are doubled at once, 2 is work in proportion to the product.
"""

from __future__ import annotations

import io
import json
import math
import sys
import tempfile
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from wesperon import (
    Command,
    Console,
    Context,
    Form,
    Problems,
    Program,
    any_of,
    at_most_one,
    exactly_one,
    needs,
    one_of,
    slot,
)
from wesperon.completion.candidates import candidates
from wesperon.editing.history_view import ListHistory
from wesperon.editing.keys.events import Action
from wesperon.testing import Paste, Press, Scripted
from wesperon.values.records import slots_of
from wesperon.widgets.line import Line

BUDGET = 1.2
SIZES = (500, 1000, 2000, 4000)
#: The same where two lists are doubled at once: in the product of both.
BUDGET_OF_TWO = 2.1
SIZES_OF_TWO = (50, 100, 200, 400)
FOLDER = Path(tempfile.mkdtemp())


class One(Form):
    """A form of one number."""

    frames = slot(int, default=1)


class Many(Form):
    """A form of very many numbers."""

    frames = slot(int, rest=True)


class Tags(Form):
    """A form of very many pairs."""

    tags = slot(dict[str, int], least=1)


def refused(work: Callable[[], object]) -> None:
    """Do something that may end in problems, and make their message."""
    try:
        work()
    except Problems as problems:
        str(problems), problems.json()


def answers(size: int, suffix: str) -> str:
    """Return a file of answers with so many keys that nobody knows."""
    path = FOLDER / f"{size}{suffix}"
    if suffix == ".json":
        path.write_text(json.dumps({f"key{number}": number for number in range(size)}))
    else:
        path.write_text("".join(f"key{number} = {number}\n" for number in range(size)))
    return str(path)


def form(size: int, kind: Any = str, **settings: Any) -> Any:
    """Return a form of so many slots."""
    return type("Wide", (Form,), {f"slot_{number}": slot(kind, **settings) for number in range(size)})


def ruled(size: int) -> Any:
    """Return a form of so many slots: each two exclude each other, and of each four two need each other."""
    slots: dict[str, Any] = {f"slot_{number}": slot(default=None, named_only=True) for number in range(size)}
    rules: dict[str, Any] = {f"one_{at}": at_most_one(f"slot_{at}", f"slot_{at + 1}") for at in range(0, size - 1, 2)}
    rules |= {f"both_{at}": needs(f"slot_{at}", f"slot_{at + 2}") for at in range(0, size - 2, 4)}
    return type("Ruled", (Form,), {**slots, **rules})


def one_rule(size: int) -> Any:
    """Return a form of so many slots of one rule."""
    slots: dict[str, Any] = {f"slot_{number}": slot(default=None, named_only=True) for number in range(size)}
    return type("Ruled", (Form,), {**slots, "which": exactly_one(*slots)})


def made(kind: Any) -> Any:
    """Return a form of one slot of a kind."""
    return type("Made", (Form,), {"target": slot(kind)})


def function(size: int) -> Any:
    """Return a function with very many parameters, which its docstring describes."""
    names = [f"value{number}" for number in range(size)]
    about = "".join(f"        {name}: one of many\n" for name in names)
    space: dict[str, Any] = {}
    exec(f"def f({', '.join(f'{name}: int' for name in names)}): ...", space)
    space["f"].__doc__ = f"Do it.\n\n    Arguments:\n{about}"
    return space["f"]


def labels(size: int) -> list[str]:
    """So many labels of choices."""
    return [f"HOLLIN-{number:05}" for number in range(size)]


def program(size: int) -> Program:
    """Return a program of so many commands."""
    return Program("desk", members=[type(f"Command{number}", (Command,), {}) for number in range(size)])


def command_file(size: int, rows: Callable[[int], str]) -> Callable[[], object]:
    """Return what runs a file of commands of so many rows."""
    path = FOLDER / f"{size}.desk"
    path.write_text("".join(rows(number) for number in range(size)))
    quiet = Context(stdout=io.StringIO(), stderr=io.StringIO(), environ={})
    console = Console(Program("desk", members=[Nothing]), history=False, context=quiet)
    return lambda: console.run_file(path)


class Nothing(Command):
    """Do nothing."""

    texts = slot(rest=True)

    def run(self) -> None:
        """Do nothing."""


CASES: dict[str, Callable[[int], Callable[[], object]]] = {
    "lines of a file of commands": lambda size: command_file(size, lambda number: f"nothing {number}\n"),
    "rows of one line of a file of commands": lambda size: command_file(
        size, lambda number: f"{'' if number else 'nothing '}'{number}\\'" if number % 2 else f"x{number} \\\n"
    ),
    "values that a file of commands begins with": lambda size: command_file(
        size, lambda number: f"[slots.a{number}]\ndefault = 'x'\n"
    ),
    "words of a rest": lambda size: lambda: Many.fill([str(number) for number in range(size)], asking="never"),
    "wrong words of a rest": lambda size: lambda: Many.fill([f"x{number}" for number in range(size)], asking="never"),
    "words too many": lambda size: lambda: One.fill([f"x{number}" for number in range(size)], asking="never"),
    "unknown names": lambda size: lambda: One.fill([f"--x{number}" for number in range(size)], asking="never"),
    "a name repeated": lambda size: lambda: One.fill(["--frames=1"] * size, asking="never"),
    "pairs": lambda size: lambda: Tags.fill([f"--tags=a{number}=1" for number in range(size)], asking="never"),
    "a pair repeated": lambda size: lambda: Tags.fill(["--tags=a=1"] * size, asking="never"),
    "rows of pairs at a question": lambda size: (
        lambda: Tags.fill(
            [], driver=Scripted([Paste("\n".join(f"a{number}=1" for number in range(size))), *[Press("enter")] * 2])
        )
    ),
    "parameters of a function": lambda size: lambda: Command.from_function(function(size)).blank_answers(),
    "functions of the answers": lambda size: lambda: form(size, int, high=lambda so_far: 5),
    "unknown keys in JSON": lambda size: lambda: One.fill([f"--answers={answers(size, '.json')}"], asking="never"),
    "unknown keys in TOML": lambda size: lambda: One.fill([f"--answers={answers(size, '.toml')}"], asking="never"),
    "slots, all missing": lambda size: lambda: form(size).fill([], asking="never"),
    "slots, all wrong": lambda size: lambda: form(size, int).fill(["x"] * size, asking="never"),
    "rules, all kept": lambda size: lambda: ruled(size).fill([], asking="never"),
    "rules, all broken": lambda size: (
        lambda: ruled(size).fill([f"--slot-{number}=x" for number in range(size)], asking="never")
    ),
    "slots of one rule, none given": lambda size: lambda: one_rule(size).fill([], asking="never"),
    "slots of one rule, all given": lambda size: (
        lambda: one_rule(size).fill([f"--slot-{number}=x" for number in range(size)], asking="never")
    ),
    "words of a replay": lambda size: (
        lambda: Many.fill([f"--frames={number}" for number in range(size)], asking="never").words()
    ),
    "values in order": lambda size: (
        lambda: Many.fill([f"--frames={number}" for number in range(size)], asking="never").in_order()
    ),
    "an ambiguous beginning": lambda size: lambda: form(size, default="").fill(["--slot"], asking="never"),
    "a choice among very many": lambda size: lambda: made(one_of(labels(size))).fill(["HOLLIN-0000x"], asking="never"),
    "a set of all choices": lambda size: (
        lambda: made(any_of(labels(size))).fill([",".join(labels(size))], asking="never")
    ),
    "an unknown command": lambda size: lambda: program(size).call(["zzz"]),
    "an ambiguous command": lambda size: lambda: program(size).call(["command"]),
    "help of a program": lambda size: lambda: program(size).page(),
    "candidates of a name": lambda size: lambda: candidates(slots_of(form(size)), [], "--slot"),
    "arguments that a count steps over": lambda size: lambda: stepped("move-argument-back", "ab " * size, size),
    "words that a count steps over": lambda size: lambda: stepped("move-word-back", "ab " * size, size),
    "entries that a count recalls": lambda size: lambda: stepped("recall-older", "", size, labels(size)),
    "a text typed": lambda size: (
        lambda: One.fill(["--asking=all"], driver=Scripted(["1" * (size // 4), Press("ctrl-u"), "5", Press("enter")]))
    ),
}


#: Two lists at once, each doubled: the work may grow with the product of what is really there, and mostly need not.
TWO: dict[str, Callable[[int], Callable[[], object]]] = {
    "unknown keys in TOML, and slots": lambda size: (
        lambda: form(size, default="").fill([f"--answers={answers(size, '.toml')}"], asking="never")
    ),
    "unknown names, and slots": lambda size: (
        lambda: form(size, default="").fill([f"--slto_{number}" for number in range(size)], asking="never")
    ),
    "names cut short, and slots": lambda size: (
        lambda: form(size, default="").fill([f"--slot-{number:03}=x" for number in range(size)], asking="never")
    ),
    "wrong words, and choices": lambda size: (
        lambda: made(any_of(labels(size))).fill([",".join(f"HOLIN-{number}" for number in range(size))], asking="never")
    ),
    "unknown lines of a console, and commands": lambda size: entered(size),
}


def entered(size: int) -> Callable[[], object]:
    """Return what reads so many lines that name no command, in a console of so many."""
    lines = io.StringIO("".join(f"comand-{number}\n" for number in range(size)))
    quiet = Context(stdin=lines, stdout=io.StringIO(), stderr=io.StringIO(), environ={})
    console = Console(program(size), history=False, context=quiet)
    return console.run


def stepped(action: str, text: str, count: int, entries: Sequence[str] = ()) -> None:
    """Do an action of a line with a count."""
    line = Line(str, default=text, past=ListHistory(entries))
    line.do(Action(action, count))


def calls(work: Callable[[], object]) -> int:
    """Return how many functions are called, those in C included."""
    count = 0

    def note(frame: object, event: str, argument: object) -> None:
        nonlocal count
        count += event in ("call", "c_call")

    sys.setprofile(note)
    try:
        refused(work)
    finally:
        sys.setprofile(None)
    return count


def main() -> int:
    """Measure and print; the status is 1 if anything grows faster than it may."""
    status = 0
    for name, case in CASES.items():
        refused(case(10))  # what is loaded the first time
        counts = [calls(case(size)) for size in SIZES]
        exponent = math.log2(counts[-1] / counts[-2])
        verdict = "within" if exponent <= BUDGET else "OVER"
        print(f"{name}: {exponent:.2f} ({', '.join(f'{count:,}' for count in counts)} calls); {verdict} {BUDGET}")
        status |= exponent > BUDGET
    for name, case in TWO.items():
        refused(case(10))
        counts = [calls(case(size)) for size in SIZES_OF_TWO]
        exponent = math.log2(counts[-1] / counts[-2])
        verdict = "within" if exponent <= BUDGET_OF_TWO else "OVER"
        print(
            f"{name}: {exponent:.2f} ({', '.join(f'{count:,}' for count in counts)} calls); {verdict} {BUDGET_OF_TWO}"
        )
        status |= exponent > BUDGET_OF_TWO
    return status


if __name__ == "__main__":
    raise SystemExit(main())
