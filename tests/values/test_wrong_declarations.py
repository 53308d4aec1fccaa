"""Nothing wrong is taken in silence: declarations and calls that people try, each with the message that it gives.

Modules: ``values.examination``, ``values.argument_types``.
"""

from __future__ import annotations

import contextlib
import io
import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from wesperon import Console, DeclarationError, Problems, Program, Refusal, slot
from wesperon.text import advice
from wesperon.values.records import slots_of

#: Code and the message of its DeclarationError, one pair a line.
WRONG: list[tuple[str, str]] = json.loads(Path(__file__).with_name("wrong_declarations.json").read_text())
PRELUDE = """
import enum, re
from collections.abc import Iterator
from datetime import date
from typing import Annotated, Any, Literal, Optional, Union
from wesperon import *
class A(Command):
    def run(self): pass
"""


def run(code: str, names: dict[str, Any]) -> dict[str, Any]:
    """Run code after the prelude, with annotations as they are; what it has named."""
    for text in (PRELUDE, code):
        exec(compile(text, "program.py", "exec", dont_inherit=True), names)
    return names


def test_the_table_is_long() -> None:
    assert len(WRONG) >= 200
    assert len({code for code, _ in WRONG}) == len(WRONG)


def said(code: str) -> str:
    """Return the message of the DeclarationError of some code; any other error is raised again."""
    try:
        run(code, {"__name__": "m"})
    except DeclarationError as error:
        return re.sub(" at 0x[0-9a-f]+", " at 0x", str(error))
    return "nothing is said"


def test_what_is_wrong_says_what_to_write() -> None:
    """The error is one of ours, with this message; it is no accident inside of the library, and nothing is printed."""
    shown = io.StringIO()
    with contextlib.redirect_stdout(shown):
        assert [(code, said(code)) for code, _ in WRONG] == [(code, message) for code, message in WRONG]
    assert shown.getvalue() == ""


def pairs(table: dict[str, tuple[str, ...]]) -> Iterator[tuple[str, str]]:
    """Return each word of a table with its sentence."""
    return ((word, sentence) for sentence, words in table.items() for word in words)


def test_every_natural_word_has_its_advice() -> None:
    """At slots, programs and filling; and no word stands twice, so that each has one meaning."""
    for table in (advice.SLOT, advice.PROGRAM, advice.CONSOLE, advice.FILL, advice.PROGRAM_METHODS):
        words = [word for word, _ in pairs(table)]
        assert len(set(words)) == len(words), [word for word in words if words.count(word) > 1]
    for word, sentence in pairs(advice.SLOT):
        with pytest.raises(DeclarationError, match=re.escape(f"slot() has no keyword {word!r}: {sentence}")):
            slot(int, **{word: 1})  # type: ignore[call-overload]
    for word, sentence in pairs(advice.PROGRAM):
        with pytest.raises(DeclarationError, match=re.escape(sentence)):
            Program("x", **{word: 1})  # type: ignore[arg-type]
    for word, sentence in pairs(advice.PROGRAM_METHODS):
        with pytest.raises(AttributeError, match=re.escape(sentence)):
            getattr(Program("x"), word)


NIGHT = """
class Night(Form):
    frames = slot(list[int])
    gains = slot(tuple[float, ...])
    lens = slot(Literal["wide", "narrow"], default="wide")
    delay = slot(Optional[int], default=None)
    level = slot(int | None, default=None)
    marks = slot(Annotated[list[str], "said elsewhere"])
class Own(Form):
    frames = slot(list[int], default=[1, 2])
class Annotated_(Form):
    frames: int = slot(default=2)
    dry: bool = slot(default=False)
    names: list[str] = slot(least=1)
    wide: Slot[int] = slot(int, default=1)
"""


def test_a_slot_takes_what_a_parameter_takes() -> None:
    names = run(NIGHT, {"__name__": "m"})
    form = names["Night"]
    night = form.fill(["--frames=3", "--frames=45", "--gains=1.5", "--lens=narrow", "--delay=4", "--marks=a"])
    assert (night.frames, night.gains, night.lens) == ([3, 45], (1.5,), "narrow")
    assert (night.delay, night.level, night.marks) == (4, None, ["a"])
    assert form.fill(night.words()) == night
    assert hash(form.fill(night.words())) == hash(night)
    assert form(**{name: getattr(night, name) for name in slots_of(form)}) == night
    names["Own"].fill([]).frames.append(3)  # each record has a list of its own
    assert names["Own"].fill([]).frames == [1, 2]
    plan = names["Annotated_"].fill(["--names=x", "--frames=5", "--dry"])
    assert (plan.frames, plan.dry, plan.names, plan.wide) == (5, True, ["x"], 1)
    with pytest.raises(Problems, match="1 word too many"):
        names["Annotated_"].fill(["5", "x", "1", "yes"])  # a switch has no position, whoever says its kind


@pytest.mark.parametrize("status", [0, 1, 255])
def test_a_status_is_that_of_a_refusal(status: int, capsys: pytest.CaptureFixture[str]) -> None:
    def stop() -> None:
        raise Refusal("", status)

    assert Program("x", members=[stop]).main(["stop"]) == status
    assert capsys.readouterr() == ("", "")


@pytest.mark.parametrize("status", [-1, 256, 300])
def test_a_status_that_none_can_be_is_reported(status: int, capsys: pytest.CaptureFixture[str]) -> None:
    def stop() -> None:
        raise Refusal("stopped", status)

    assert Program("x", members=[stop]).main(["stop"]) == 1
    assert capsys.readouterr().err.splitlines()[1].startswith(f"{status} is not an exit status")


def test_a_filled_record_takes_nothing_more_but_a_command_may_keep_what_it_does() -> None:
    names = run("class F(Form):\n    a = slot()\nclass B(Command):\n    a = slot()", {"__name__": "m"})
    record, command = names["F"](a="x"), names["B"](a="x")
    with pytest.raises(AttributeError, match="zz cannot be set: a filled record stays as it is, and F declares no zz"):
        record.zz = 3
    with pytest.raises(AttributeError, match="a is read-only"):
        record.a = "y"
    command.done = 3
    assert command.done == 3


def test_paths_may_be_paths(tmp_path: Path) -> None:
    console = Console(Program("desk"), history=tmp_path / "own.txt", first_file=tmp_path / "first.desk")
    assert (console.history.path, console.first_file) == (str(tmp_path / "own.txt"), str(tmp_path / "first.desk"))
