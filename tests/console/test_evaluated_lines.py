"""Consoles over a language: what is printed, where a text comes back, and what is whole.

Modules: ``console.evaluated_lines``.
"""

from __future__ import annotations

import asyncio
import io
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import BACKSPACE, CTRL_C, CTRL_D, Terminal, python
from wesperon import Command, Complaint, Console, Context, DeclarationError, Program
from wesperon.console.evaluated_lines import position_of

LANGUAGE = """
import sys
from wesperon import Complaint, Console
def evaluate(text):
    if "?" in text:
        raise Complaint("no question marks here", text.index("?"))
    if "!" in text:
        raise KeyError("loud")
    if "#" in text:
        error = SyntaxError("odd sign")
        row = text[:text.index("#")].count("\\n")
        error.lineno, error.offset = row + 1, text.split("\\n")[row].index("#") + 1
        raise error
    return None if text == "nothing" else text.upper()
console = Console(evaluate=evaluate, name="loud", history=False, whole=lambda text: text.count("(") <= text.count(")"))
sys.exit(console.run())
"""


class Shut(Command):
    """Shut the dome."""

    def run(self) -> None:
        """Say so."""
        print("shut")


def evaluated(text: str, evaluate: Any, **settings: Any) -> tuple[int, str]:
    """Return what a console over a language prints for piped lines, and its status."""
    out = io.StringIO()
    context = Context(stdin=io.StringIO(text), stdout=out, stderr=out, environ={})
    return Console(evaluate=evaluate, history=False, context=context, **settings).run(), out.getvalue()


def test_a_text_that_fails_comes_back_with_the_cursor_at_the_fault() -> None:
    with Terminal(python("-c", LANGUAGE), rows=30) as terminal:
        terminal.answer("loud", "lamp")
        terminal.see("LAMP")
        terminal.answer("loud", "who? me")
        terminal.see("no question marks here")
        terminal.quiet()
        terminal.type("\x7f\x1b[F now")  # the cursor is after the fault
        terminal.type("\r")
        terminal.see("WHO ME NOW")
        terminal.answer("loud", "(a")
        terminal.type("b # c)\r")
        terminal.see("odd sign")
        terminal.quiet()
        terminal.type("\x7f\r")
        terminal.see("B  C)")
        terminal.type("loud!\r")
        terminal.see("KeyError: 'loud'")
        terminal.type(":exit 7\r")
        assert terminal.end() == 7


NOISY = """
from wesperon import Console

def whole(text):
    print("asked about", text)
    return True

Console(evaluate=str.upper, whole=whole, name="noisy", history=False).run()
"""


def test_a_language_that_prints_while_it_is_asked_does_not_print_for_ever() -> None:
    """What it prints has the line drawn again, which asks nothing that is known."""
    with Terminal(python("-c", NOISY), rows=30) as terminal:
        terminal.see("noisy")
        terminal.quiet()
        terminal.type("ab")
        terminal.see("asked about ab")
        terminal.quiet()
        assert terminal.text().count("asked about ab") == 1
        terminal.type("\r")
        terminal.see("AB")


def test_what_comes_through_a_pipe_is_evaluated_and_a_fault_has_a_caret() -> None:
    def evaluate(text: str) -> Any:
        if "?" in text:
            raise Complaint("no question marks here", text.index("?"))
        return [text, text] if text == "twice" else None if text == "nothing" else len(text)

    status, out = evaluated("lamp\n\nnothing\n(\n)\na? b\n:exit 3\nnever\n", evaluate, whole=lambda text: text != "(")
    assert out == "4\n3\na? b\n ^\nno question marks here\n"
    assert status == 3
    assert evaluated("twice\n", evaluate)[1] == "twice\ntwice\n"
    assert evaluated("a?\n", evaluate)[0] == 1


def offering(start: int) -> Any:
    """Return a completion that says where its text begins."""
    return lambda text, cursor: (start, ["abc"])


def test_a_language_may_be_a_coroutine_function_and_its_own_functions_may_fail() -> None:
    async def evaluate(text: str) -> str:
        await asyncio.sleep(0)
        return text * 2

    def fails(*given: Any) -> Any:
        raise OSError("broken")

    for is_async in (False, True):
        out = io.StringIO()
        context = Context(stdin=io.StringIO("ab\nc\n"), stdout=out, stderr=out)
        console = Console(evaluate=evaluate, history=False, context=context, whole=fails, complete=fails)
        assert (asyncio.run(console.run_async()) if is_async else console.run()) == 0
        assert out.getvalue() == "abab\ncc\n"
        assert console.lines.candidates("ab", 2) == (2, [])
    pairs: Any = {"area(": "of a circle", "arc(": ""}
    for offered in (pairs, list(pairs.items()), (0, pairs)):
        noted = Console(evaluate=str, history=False, complete=lambda text, cursor, one=offered: one)  # type: ignore[misc]
        found = noted.lines.candidates("ar", 2)[1]
        assert [(one.text, one.note) for one in found] == list(pairs.items())
    names = Console(evaluate=str, history=False, complete=lambda text, cursor: ["area(", "arc("])
    assert names.lines.candidates("2 * ar", 6)[0] == 4
    for start, meant in ((-5, 0), (1, 1), (99, 2)):
        assert Console(evaluate=str, history=False, complete=offering(start)).lines.candidates("ab", 2)[0] == meant


def test_commands_of_a_program_follow_the_sign(tmp_path: Path) -> None:
    program = Program("desk", members=[Shut])
    assert evaluated("/shut\nshut\n/nope\n", str.title, program=program, sign="/")[1].startswith("shut\nShut\nnope\n")
    with pytest.raises(DeclarationError, match="needs a program, or evaluate"):
        Console()
    path = tmp_path / "texts"
    path.write_text("[1,\n2]\n# one\n:shut\n{a}\n")
    out = io.StringIO()
    console = Console(
        program,
        evaluate=lambda text: text.replace("\n", "|"),
        whole=lambda text: text.count("[") == text.count("]"),
        history=False,
        context=Context(stdout=out, stderr=out),
    )
    assert console.run_file(path) == 0
    assert out.getvalue() == "[1,|2]\n# one\nshut\n{a}\n"


@given(st.text(max_size=12), st.integers(-5, 20), st.integers(-5, 20))
def test_a_position_is_always_in_the_text(text: str, line: int, column: int) -> None:
    error = SyntaxError("x")
    error.lineno, error.offset = line, column
    at = position_of(error, text)
    assert at is not None
    assert 0 <= at <= len(text)
    rows = text.split("\n")
    if 1 <= line <= len(rows) and 1 <= column <= len(rows[line - 1]):
        assert at == len("\n".join(rows[: line - 1])) + (line > 1) + column - 1
    place = Complaint("x", column)
    assert position_of(place, text) == max(min(column, len(text)), 0)
    assert position_of(ValueError(), text) is None


def test_the_end_of_input_leaves() -> None:
    with Terminal(python("-c", LANGUAGE)) as terminal:
        terminal.see("loud")
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0


FAILING = """
from wesperon import Complaint, Console
def evaluate(text):
    if "bad" in text:
        raise Complaint("there is no bad star", text.index("bad"))
    return f"seen {text}"
Console(evaluate=evaluate, name="calc", history=False).run()
"""


@pytest.mark.parametrize("then", ["x", CTRL_C, BACKSPACE, "\x1b[A"])
def test_the_reason_of_an_error_stays_above_once_its_line_was_changed_or_dropped(then: str) -> None:
    with Terminal(python("-c", FAILING)) as terminal:
        terminal.answer("calc", "one bad two")
        terminal.see("there is no bad star")
        terminal.quiet()
        assert terminal.text().count("there is no bad star") == 1
        terminal.type(then)
        if then == "\x1b[A":  # nothing is recalled: the line stays as it is
            terminal.type(CTRL_D)
            terminal.type(CTRL_C)
        terminal.quiet()
        assert terminal.everything().count("there is no bad star") == 1
        terminal.type(CTRL_C)
        terminal.quiet()
        terminal.answer("calc", "good")
        terminal.see("seen good")
        terminal.quiet()  # the next line is open
        assert terminal.everything().count("there is no bad star") == 1
        rows = terminal.everything().split("\n")  # the reason stands where the text begins
        assert next(row for row in rows if "no bad" in row).index("there") == rows[0].index("one")
        terminal.type(CTRL_D)
        assert terminal.end() == 0
