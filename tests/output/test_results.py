"""What a command returns, as it is printed.

Modules: ``output.results``, ``output.result_formats``, ``output.result_texts``.
"""

from __future__ import annotations

import csv
import io
import json
import os
import pwd
import re
import sys
from datetime import date, timedelta
from decimal import Decimal
from enum import Enum
from pathlib import Path, PurePosixPath
from typing import Any

import pytest
import yaml
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import Command, Context, Form, Program, Refusal, slot, styled
from wesperon.output.results import show, table
from wesperon.output.style import shows_styles
from wesperon.scope import within
from wesperon.user_folders import folder
from wesperon.values.kinds.registry import find_kind


class Lamp(Enum):
    RED = "red"
    WHITE = "white"


VALUES = (
    st.timedeltas(min_value=timedelta(0), max_value=timedelta(days=9))
    | st.dates()
    | st.decimals(allow_nan=False, allow_infinity=False, places=3, max_value=10**6, min_value=0)
    | st.sampled_from(Lamp)
    | st.just(PurePosixPath("logs/a.txt"))
)


@given(st.lists(VALUES, min_size=1, max_size=5))
def test_a_value_is_printed_as_its_kind_reads_it_again(values: list[Any]) -> None:
    for value in values:
        row = table([{"value": value, "next": "x"}], None)[-1]
        printed = "".join(text for text, _ in row).strip().split("  ")[0]
        kind: Any = find_kind(type(value), {})
        assert kind.parse(printed) == value


@given(st.lists(VALUES, min_size=1, max_size=5))
def test_a_result_that_is_a_value_is_its_text(values: list[Any]) -> None:
    out = io.StringIO()
    with within(Context(stdout=out)):
        for value in values:
            show(value)
        show(values)
    lines = out.getvalue().splitlines()
    texts = [find_kind(type(value), {}).format(value) for value in values]  # type: ignore[union-attr]
    assert lines == texts * 2


def test_numbers_and_durations_are_right_aligned(capsys: pytest.CaptureFixture[str]) -> None:
    show([{"name": "a", "each": timedelta(minutes=5), "n": 7}, {"name": "b", "each": timedelta(seconds=90), "n": 12}])
    assert capsys.readouterr().out.split("\n") == ["name   each   n", "a        5m   7", "b     1m30s  12", ""]


def test_json_has_the_texts_of_kinds_and_arrays_of_series(capsys: pytest.CaptureFixture[str]) -> None:
    class Exposure(Form):
        each = slot(timedelta)
        night = slot(date)
        lamp = slot(Lamp)
        gains = slot(Decimal, many=True)

    made = Exposure(
        each=timedelta(seconds=90), night=date(2031, 4, 17), lamp=Lamp.RED, gains=(Decimal("1.5"), Decimal(2))
    )
    show(made, form="json")
    assert json.loads(capsys.readouterr().out) == {
        "each": "1m30s", "night": "2031-04-17", "lamp": "red", "gains": ["1.5", "2"],
    }  # fmt: skip


HOSTILE = "a\x1b]0;t\x07b\x9b2Jc\u202ed\x1b[31mred\x1b[0m\tx\x1b[2J"


class OnTerminal(io.StringIO):
    def isatty(self) -> bool:
        return True


class Hostile(Command):
    """Give back what would act on a terminal."""

    how = slot(default="text")

    def run(self) -> Any:
        return {"text": HOSTILE, "list": [HOSTILE, 5], "card": {HOSTILE: HOSTILE}, "table": [{"a": HOSTILE}],
                "other": Other()}[self.how]  # fmt: skip


class Other:
    def __str__(self) -> str:
        return HOSTILE


@pytest.mark.parametrize("how", ["text", "list", "card", "table", "other"])
@pytest.mark.parametrize("form", ["text", "json", "csv", "yaml"])
def test_a_result_does_nothing_to_a_terminal_but_styles(how: str, form: str) -> None:
    stream = OnTerminal()
    with within(Context(stdout=stream, environ={"TERM": "xterm"})):
        status = Program("desk", members=[Hostile], results=True).main(["hostile", how, "--as", form])
    told = stream.getvalue()
    if form == "csv" and how in ("text", "list", "other"):
        assert (status, told) == (1, "")  # it is no table
        return
    assert status == 0
    rest = re.sub(r"\x1b\[[0-9;]*m", "", told)
    assert not re.search(r"[\x00-\x08\x0b-\x1f\x7f-\x9f\u202e]", rest), told
    assert "red" in told
    if form == "json":
        json.loads(told)


@given(st.recursive(st.none() | st.booleans() | st.floats() | st.text(), lambda inner: st.lists(inner, max_size=3)
                    | st.dictionaries(st.text(), inner, max_size=3)))  # fmt: skip
@settings(deadline=None)
def test_json_is_json_whatever_it_holds(value: Any) -> None:
    for encoding in ("utf-8", "ascii", "latin-1"):
        raw = io.BytesIO()
        stream = io.TextIOWrapper(raw, encoding=encoding)
        with within(Context(stdout=stream)):
            show([value], form="json")
        stream.flush()
        found = json.loads(raw.getvalue().decode(encoding), parse_constant=lambda name: pytest.fail(name))
        if not isinstance(value, float) and "nan" not in repr(value) and "inf" not in repr(value):
            assert found == [value]


@pytest.mark.parametrize("encoding", ["ascii", "latin-1"])
def test_an_encoding_without_a_character_is_no_crash(encoding: str) -> None:
    raw, error = io.BytesIO(), io.BytesIO()
    out = io.TextIOWrapper(raw, encoding=encoding, write_through=True)
    err = io.TextIOWrapper(error, encoding=encoding, write_through=True)
    with within(Context(stdout=out, stderr=err, environ={})):
        program = Program("日desk", "é1", "Ünicode 日本", members=[Hostile], results=True)
        for words in (
            ["--help"],
            ["--version"],
            ["hostile", "--help"],
            ["hostile", "list"],
            ["日本"],
            ["hostile", "--é"],
        ):
            program.main(words)
    assert b"\\u65e5desk" in raw.getvalue()
    assert b"\\u65e5\\u672c" in error.getvalue()


def test_versions_are_shown_as_text(capsys: pytest.CaptureFixture[str]) -> None:
    assert Program("de\x1b[2Jsk", "1\x1b]0;x\x07", members=[Hostile]).main(["--version"]) == 0
    assert capsys.readouterr().out == "de^[[2Jsk 1^[]0;x^G\n"


class Tty(io.StringIO):
    """A stream that says it is a terminal."""

    def isatty(self) -> bool:
        return True


@pytest.mark.parametrize(("environ", "shown"), [({}, False), ({"TERM": "dumb"}, False), ({"TERM": "xterm"}, True)])
def test_styles_are_for_terminals_that_say_what_they_are(environ: dict[str, str], shown: bool) -> None:
    with within(Context(environ=environ, stdout=Tty())):
        assert shows_styles(Tty()) is shown
        assert ("\x1b" in styled("dome", "bold")) is shown


@pytest.mark.parametrize("base", ["relative", "./here", ""])
def test_a_relative_folder_of_the_user_is_ignored(base: str, tmp_path: Path) -> None:
    """As the XDG Base Directory Specification has it."""
    environ = {"XDG_STATE_HOME": base, "XDG_CONFIG_HOME": base, "HOME": str(tmp_path)}
    with within(Context(environ=environ)):
        assert folder("state", "desk") == f"{tmp_path}/.local/state/desk"
        assert folder("config", "desk") == f"{tmp_path}/.config/desk"
    for home in ("", "relative"):  # nothing is written into the root, or below the working folder
        with within(Context(environ={**environ, "HOME": home})):
            assert folder("state", "desk") == f"{pwd.getpwuid(os.getuid()).pw_dir}/.local/state/desk"


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.text(max_size=5) | st.floats(allow_nan=False),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=3), inner, max_size=3),
    max_leaves=8,
)


@given(st.lists(JSON, max_size=4))
def test_a_series_is_the_same_json_as_a_list_and_comes_as_it_is_made(items: list[Any]) -> None:
    def printed(result: Any) -> str:
        out = io.StringIO()
        with within(Context(stdout=out)):
            show(result, form="json")
        return out.getvalue()

    assert printed(iter(items)) == printed(items)
    out = io.StringIO()
    seen: list[int] = []
    with within(Context(stdout=out)):
        show((seen.append(out.tell()) or number for number in range(9)), form="json")  # type: ignore[func-returns-value]
    assert seen == sorted(seen)
    assert seen[-1] > seen[2] > 0


def printed(result: Any, form: str, encoding: str = "utf-8") -> str:
    raw = io.BytesIO()
    stream, errors = io.TextIOWrapper(raw, encoding=encoding, newline=""), io.StringIO()
    with within(Context(stdout=stream, stderr=errors)):
        show(result, form=form)
    stream.flush()
    assert errors.getvalue() in ("", "no rows\n")
    return raw.getvalue().decode(encoding)


CELLS = st.text(max_size=6) | st.integers() | st.booleans() | st.none() | st.lists(st.integers(), max_size=2) | VALUES


@given(st.lists(st.fixed_dictionaries({"target": CELLS, "a, b": CELLS}), max_size=4))
def test_csv_is_read_again_as_the_texts_of_the_cells(rows: list[dict[str, Any]]) -> None:
    text = printed(rows, "csv")
    found = list(csv.reader(io.StringIO(text, newline="")))
    names = [*rows[0]] if rows else []
    assert found == ([names, *[[cell(row[name]) for name in names] for row in rows]] if rows else [])
    assert printed(iter(rows), "csv") == text
    if rows:
        assert printed(rows[0], "csv") == printed(rows[:1], "csv")
    assert printed([{"a": 1}, {"b": 2}], "csv") == "a,b\n1,\n,2\n"


def cell(value: Any) -> str:
    """Return what the cell of a value is to be."""
    if isinstance(value, list):
        return json.dumps(value)
    if isinstance(value, bool) or value is None:
        return {True: "yes", False: "no", None: ""}[value]
    kind: Any = None if isinstance(value, (str, int)) else find_kind(type(value), {})
    return str(value) if kind is None else str(kind.format(value))


class Text(str):
    """A text of a type of the program's own."""


@given(JSON, st.sampled_from(["utf-8", "ascii", "latin-1"]))
def test_yaml_says_what_json_says(value: Any, encoding: str) -> None:
    assert yaml.safe_load(printed(value, "yaml", encoding)) == json.loads(printed(value, "json", encoding))
    items = [value, Text("own"), True]
    assert yaml.safe_load(printed(iter(items), "yaml", encoding)) == json.loads(printed(items, "json", encoding))
    assert yaml.safe_load(printed(iter([]), "yaml")) == []


@pytest.mark.parametrize("result", [["a", "b"], "text", 3, [{"a": 1}, 2], iter([{"a": 1}, {"b": 2}])])
def test_what_is_no_table_is_not_printed_as_one(result: Any) -> None:
    with pytest.raises(Refusal, match="--as json has"):
        printed(result, "csv")


def test_an_empty_table_says_so_on_standard_error(capsys: pytest.CaptureFixture[str]) -> None:
    def queue() -> list[dict[str, int]]:
        "Show the queue."
        return []

    for form, out, err in (
        ("text", "", "no rows\n"),
        ("csv", "", "no rows\n"),
        ("json", "[]\n", ""),
        ("yaml", "[]\n", ""),
    ):
        assert Program("desk", members=[queue], results=True).main(["queue", "--as", form]) == 0
        assert capsys.readouterr() == (out, err)
    assert Program("desk", members=[queue]).main(["queue"]) == 0
    assert capsys.readouterr() == ("", "no rows\n")


def test_yaml_without_its_extra_says_what_to_install(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(sys.modules, "yaml", None)
    with pytest.raises(Refusal, match="pip install 'wesperon"):
        printed([1], "yaml")
