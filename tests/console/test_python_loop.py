"""Python over a program's own objects: values, traces, blocks, completion without running anything, and leaving.

Modules: ``console.python_loop``.
"""

from __future__ import annotations

import asyncio
import time
import warnings
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.harness import Terminal, python
from tests.tables import tabled
from wesperon.console.python_loop import PythonLoop, tidy
from wesperon.values.problems import Refusal

INSIDE = """
import asyncio, sys
from wesperon import Command, Console, Program

class Inside(Command):
    '''Look inside.'''
    def run(self):
        return console.python({"dome": {"angle": 3}, "asyncio": asyncio, "console": console})

class Shut(Command):
    '''Shut the dome.'''
    def run(self):
        print("the dome is shut")

console = Console(Program("desk", members=[Inside, Shut]), history=False)
if "async" in sys.argv:
    async def main():
        async def tick():
            while True:
                await asyncio.sleep(0.2)
                console.say("tick")
        task = asyncio.ensure_future(tick())
        return await console.run_async()
    sys.exit(asyncio.run(main()))
sys.exit(console.run())
"""


class Dome:
    """An object whose attributes are not all harmless."""

    __slots__ = ("__dict__", "slit")

    ran: list[str] = []

    def __init__(self) -> None:
        self.angle = 3
        self.slit = [1, 2]

    @property
    def hot(self) -> int:
        """A property that is never to run."""
        self.ran.append("hot")
        return 1

    def turn(self) -> None:
        """A method."""

    def __getattr__(self, name: str) -> Any:
        self.ran.append(name)
        raise AttributeError(name)

    def __dir__(self) -> Any:
        self.ran.append("dir")
        return []


def loop(**names: Any) -> PythonLoop:
    """Return a loop that notes the statuses with which it is left."""
    left: list[int] = []
    made = PythonLoop(names, left.append)
    names["left"] = left
    return made


def value(made: PythonLoop, text: str) -> Any:
    """Return what a text comes to."""
    result = made.evaluate(text)
    return asyncio.run(result) if asyncio.iscoroutine(result) else result


def test_the_value_of_an_expression_is_printed_and_is_underscore_afterwards() -> None:
    made = loop(angle=20)
    assert value(made, "angle + 1") == "21"
    assert value(made, "_ * 2") == "42"
    assert value(made, "x = 5; x") == "5"
    assert value(made, "None") is None
    assert value(made, "_") == "5"
    assert value(made, "def f(a):\n    return a * 2\n") is None
    assert value(made, "f('é')") == "'éé'"
    assert value(made, "import asyncio\nawait asyncio.sleep(0, 'slept')") == "'slept'"
    assert value(made, "") is None


def test_a_trace_begins_with_what_was_typed() -> None:
    made = loop()
    value(made, "def f(a):\n    return a / 0\n")
    with pytest.raises(Refusal) as raised:
        value(made, "x = 1\nf(x)")
    assert raised.value.message == (
        '  File "<input 2>", line 2, in <module>\n    f(x)\n  File "<input 1>", line 2, in f\n'
        "ZeroDivisionError: division by zero"
    )
    with pytest.raises(Refusal, match="<input 3>"):
        value(made, "await f(1)")
    with pytest.raises(SyntaxError) as wrong:
        value(made, "1 + * 2")
    assert (wrong.value.lineno, wrong.value.offset) == (1, 5)
    with pytest.raises(Refusal):
        value(made, "eval('1 +')")  # this one is not about what was typed


@tabled
def test_a_block_ends_with_an_empty_line(text: str, whole: bool) -> None:
    assert loop().whole(text) is whole


def test_a_warning_of_the_language_is_told_when_the_text_is_run_and_not_while_it_is_typed() -> None:
    with warnings.catch_warnings(record=True) as told:
        warnings.simplefilter("always")
        made = loop()
        assert made.whole("1if 1 else 2")
        assert told == []
        made.evaluate("1if 1 else 2")
        assert told


def test_names_are_completed_without_running_anything() -> None:
    dome = Dome()
    made = loop(dome=dome, domes=[dome], other=Dome)
    assert made.complete("do", 2) == (0, ["dome", "domes"])
    assert made.complete("x = dome.", 9) == (9, ["angle", "hot", "ran", "slit", "turn"])
    assert made.complete("dome.slit.ap", 12) == (10, ["append"])
    assert made.complete("dome.hot.", 9) == (9, [])
    assert made.complete("dome.turn.__na", 14) == (10, ["__name__"])
    assert made.complete("other.tu", 8) == (6, ["turn"])
    assert made.complete("dome.nothing.x", 14)[1] == []
    assert "while" in made.complete("wh", 2)[1]
    assert Dome.ran == []


@given(
    st.recursive(
        st.integers() | st.text(max_size=5) | st.none(),
        lambda inner: st.lists(inner) | st.dictionaries(st.text(max_size=3), inner),
        max_leaves=30,
    )
)
def test_a_small_value_is_shown_so_that_it_can_be_read_back(value: Any) -> None:
    text = tidy(value, 40)
    assume("..." not in text)  # nested too deeply
    assert eval(text) == value


@pytest.mark.parametrize("value", [list(range(10**6)), "a" * 10**6, {n: [n] * 1000 for n in range(10**4)}, 10**4000])
def test_a_value_of_any_size_is_shown_in_bounds(value: Any) -> None:
    text = tidy(value, 80)
    assert len(text.split("\n")) <= 125
    assert len(text) < 40_000


def test_an_object_whose_own_text_fails_costs_nothing() -> None:
    class Bad:
        def __repr__(self) -> str:
            raise ValueError

    class Worse(Exception):
        def __str__(self) -> str:
            raise ValueError

    made = loop(bad=Bad(), Worse=Worse)
    assert "Bad" in value(made, "bad")
    with pytest.raises(Refusal, match="Worse"):
        value(made, "raise Worse()")


@pytest.mark.parametrize("way", ["sync", "async"])
def test_a_command_opens_it_an_interrupt_stops_an_evaluation_and_leaving_goes_back(way: str) -> None:
    with Terminal(python("-c", INSIDE, way), rows=40) as terminal:
        terminal.answer("desk", "inside")
        terminal.answer("python", "dome['angle'] + 1")
        terminal.see("4")
        terminal.answer("python", "print('forever') or [None for _ in iter(int, 1)]")
        terminal.see("\nforever")
        time.sleep(0.2)
        terminal.type("\x03")
        terminal.see("Interrupted.")
        terminal.answer("python", "await asyncio.sleep(0.3, 'slept')")
        terminal.see("'slept'")
        terminal.answer("python", "exit(0)")
        terminal.answer("desk", "inside")
        terminal.answer("python", "__import__('sys').stdin.closed")
        terminal.see("\nFalse")
        terminal.answer("python", "quit()")
        terminal.answer("desk", "shut")
        terminal.see("the dome is shut")
        if way == "async":
            terminal.see("tick")
        terminal.answer("desk", "exit 6")
        assert terminal.end() == 6
