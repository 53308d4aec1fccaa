"""How often a switch is given.

Modules: ``values.kinds.counts``.
"""

from __future__ import annotations

import json
import tomllib
from pathlib import Path
from typing import Annotated

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.asking import ENTER, ask
from wesperon import Context, DeclarationError, Form, Problems, run, slot


class Tool(Form):
    """A tool that says more the more it is asked to."""

    verbose = slot(bool, many=True, short="v", short_no="m", env="TOOL_VERBOSE")
    quiet = slot(bool, default=False, short="q")
    files = slot(rest=True)


LETTERS = st.sampled_from(["-v", "-vv", "-qv", "-vqv", "-m", "-vmv", "-vvqmq", "-mvv"])
NAMES = ["--verbose", "--verb", "--verbose=2", "--verbose=yes", "--verbose=0", "--no-verbose"]
WORDS = LETTERS | st.sampled_from(NAMES)


def counted(words: list[str]) -> int:
    """Return how often it is said, the naive way."""
    total = 0
    for word in words:
        name, _, number = word.partition("=")
        if word == "--no-verbose":
            total = 0
        elif number:
            total += {"yes": 1}.get(number) or int(number if number.isdecimal() else 0)
        elif name.startswith("--"):
            total += 1
        else:
            *before, after = name.split("m")
            total = after.count("v") + (0 if before else total)
    return total


@given(st.lists(WORDS, max_size=8))
def test_words_add_up(words: list[str]) -> None:
    record = Tool.fill([*words, "file"], asking="never")
    assert record.verbose == counted(words)
    assert type(record.verbose) is int
    assert record.files == ("file",)
    assert Tool.fill(record.words(), asking="never") == record


@given(st.sampled_from([("3", 3), ("yes", 1), ("no", 0), ("0", 0), (" 2 ", 2)]))
def test_every_source_takes_a_number_or_yes_or_no(said: tuple[str, int]) -> None:
    text, times = said
    assert Tool.fill([], asking="never", context=Context(environ={"TOOL_VERBOSE": text})).verbose == times


def test_files_and_questions_take_a_number(tmp_path: Path) -> None:
    answers = tmp_path / "answers.json"
    for said, times in ((3, 3), (True, 1), ("no", 0), ("2", 2)):
        answers.write_text(json.dumps({"verbose": said}))
        assert Tool.fill([f"--answers={answers}"], asking="never").verbose == times
    declared = tmp_path / "tool.toml"
    declared.write_text('[slots.loud]\nkind = "boolean"\nmany = true\nshort = "l"\nmost = 3\n')
    assert tomllib.loads(declared.read_text())
    assert Form.from_file(declared).fill(["-lll"], asking="never").loud == 3
    assert ask(slot(bool, "How loud?", many=True), "2", ENTER)[0] == 2


@given(st.integers(0, 6))
def test_the_sum_is_bounded(times: int) -> None:
    class Bounded(Form):
        loud = slot(bool, many=True, short="l", least=1, most=3, default=1)

    words = ["-" + "l" * times] if times else []
    if 1 <= times <= 3 or not times:
        assert Bounded.fill(words, asking="never").loud == (times or 1)
    else:
        with pytest.raises(Problems, match=f'"{times}" is too high: must be from 1 to 3'):
            Bounded.fill(words, asking="never")


def test_a_parameter_is_one_by_its_annotation(capsys: pytest.CaptureFixture[str]) -> None:
    def plan(loud: Annotated[int, slot(bool, many=True, short="l")] = 0) -> int:
        return loud

    run(plan, ["-lll"])
    run(plan, [])
    assert capsys.readouterr().out == "3\n0\n"
    with pytest.raises(DeclarationError):
        type("Wrong", (Form,), {"value": slot(list[bool])})
    with pytest.raises(DeclarationError):
        type("Wrong", (Form,), {"value": slot(bool, rest=True)})


def test_all_of_them_count_whatever_the_class_says() -> None:
    class Last(Form, repeats="last"):
        loud = slot(bool, many=True, short="l")

    assert Last.fill(["-lll", "--loud=2"], asking="never").loud == 5
    with pytest.raises(DeclarationError, match="repeats='last' says that one value counts"):
        type("Wrong", (Form,), {"loud": slot(bool, many=True, repeats="last")})


def test_help_says_that_it_may_be_repeated(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit):
        Tool.fill(["--help"])
    assert "-v --verbose... -m --no-verbose " in capsys.readouterr().out
