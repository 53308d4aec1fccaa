"""Names of one letter or digit: several of a slot, those that say no, and words of ``-`` and digits.

Modules: ``argv.option_words``.
"""

from __future__ import annotations

import string
import subprocess
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from wesperon import Command, DeclarationError, Form, Problems, Program, one_of, slot
from wesperon.output.help import help_page
from wesperon.values.records import slots_of

LETTERS = string.ascii_letters.replace("h", "") + string.digits


def read_by_shell(letters: str, words: list[str]) -> list[tuple[str, str]]:
    """Return the letters and values that ``getopts`` of the shell finds (POSIX, XCU getopts)."""
    script = f'while getopts ":{letters}" one; do printf "%s %s\\n" "$one" "$OPTARG"; done'
    done = subprocess.run(["sh", "-c", script, "sh", *words], capture_output=True, text=True, check=True)
    return [(line[0], line[2:]) for line in done.stdout.splitlines()]


@settings(max_examples=50, deadline=None)
@given(data=st.data())
def test_clusters_are_read_as_a_shell_reads_them(data: st.DataObject) -> None:
    shuffled = data.draw(st.permutations(LETTERS))
    switches, denials, values = shuffled[:4], shuffled[4:6], shuffled[6:9]
    body: dict[str, Any] = {
        "loud": slot(bool, default=False, short="".join(switches[:2])),
        "long_": slot(bool, default=False, short="".join(switches[2:4])),
        "links": slot(bool, default=True, short_no="".join(denials)),
        "to": slot(default=None, short="".join(values[:2]), named_only=True),
        "by": slot(default=None, short=values[2], named_only=True),
        "files": slot(rest=True),
    }
    form: Any = type("Tool", (Form,), body)
    cluster = st.lists(st.sampled_from(switches + denials), max_size=3).map("".join)
    tail = st.sampled_from(values) | st.just("")
    drawn = data.draw(st.lists(st.tuples(cluster, tail, st.sampled_from(["", "x", "x y", "="])), max_size=4))
    words = []
    for letters, last, text in drawn:
        if letters + last:
            words.append(f"-{letters}{last}{text if last else ''}")
            words += ["value"] if last and not text else []
    found = read_by_shell("".join([*switches, *denials, *(f"{one}:" for one in values)]), [*words, "--", "file"])
    given_values = [(letter, text) for letter, text in found if letter in values]
    assume(len({*(letter in values[:2] for letter, _ in given_values)}) == len(given_values))
    record = form.fill([*words, "--", "file"], asking="never")
    assert record.loud == any(letter in switches[:2] for letter, _ in found)
    assert record.long_ == any(letter in switches[2:4] for letter, _ in found)
    assert record.links == (not any(letter in denials for letter, _ in found))
    assert record.to == next((text for letter, text in given_values if letter in values[:2]), None)
    assert record.by == next((text for letter, text in given_values if letter == values[2]), None)
    assert record.files == ("file",)


NUMBERS = st.integers(0, 10**6).map(lambda number: f"-{number}") | st.sampled_from(["-.5", "-2.5", "-0"])
KINDS: dict[str, Any] = {
    "int": lambda: slot(int, default=0),
    "float": lambda: slot(float, default=0.0),
    "decimal": lambda: slot(Decimal, default=Decimal(0)),
    "own": lambda: slot(str.upper, default=""),
    "choices": lambda: slot(one_of([-2, 0, 2]), default=0),
    "rest": lambda: slot(int, rest=True),
}


@given(st.sampled_from(list(KINDS)), NUMBERS)
def test_a_negative_number_is_a_value_where_a_position_takes_numbers(kind: str, word: str) -> None:
    form: Any = type("Tool", (Form,), {"value": KINDS[kind](), "short": slot(bool, default=False, short="s")})
    try:
        assert form.fill([word], asking="never").origins["value"] == "words"
    except Problems as problems:
        assert {one.slot for one in problems} == {"value"}  # noqa: PT017
    assert form.fill(["-s", "--", "2" if kind == "choices" else "3"], asking="never").short is True


@given(NUMBERS, st.booleans())
def test_elsewhere_it_is_a_name_and_never_a_text_by_accident(word: str, secret: bool) -> None:
    body: dict[str, Any] = {"files": slot(rest=True), "count": slot(int, default=0, named_only=True, short="c")}
    if secret:
        body["key"] = slot(secret=True, default="")
    form: Any = type("Tool", (Form,), body)
    with pytest.raises(Problems) as caught:
        form.fill([word], asking="never")
    (problem,) = caught.value
    assert problem.reason.startswith(f"-{word[1]} is unknown")
    assert (f"write -- {word}, or ./{word}" in problem.reason) is not secret
    assert form.fill(["--", word], asking="never").files == (word,)
    assert form.fill(["--count", "-3"], asking="never").count == -3
    assert form.fill(["-c-3"], asking="never").count == -3


@given(st.integers(0, 99))
def test_a_form_with_a_digit_for_a_name_takes_no_negative_numbers_by_position(number: int) -> None:
    class Rows(Form):
        gain = slot(int, default=0)
        single = slot(bool, default=False, short="1")
        wide = slot(bool, default=False, short="xX")

    word = f"-{number}"
    if {*word[1:]} == {"1"}:
        assert Rows.fill([word], asking="never").single is True
    else:
        with pytest.raises(Problems, match="is unknown"):
            Rows.fill([word], asking="never")
    assert Rows.fill(["--", word], asking="never").gain == -number
    assert Rows.fill([f"--gain={word}"], asking="never").gain == -number
    assert Rows.fill(["-X1"], asking="never").words() == ["--wide=yes", "--single=yes"]


def test_help_and_contract_show_them(capsys: pytest.CaptureFixture[str]) -> None:
    class Rows(Command):
        """Rows."""

        links = slot(bool, default=True, short_no="Pp", help="links too")
        wide = slot(bool, default=False, short="xX1", help="wide ones")

        def run(self) -> None:
            """Do nothing."""

    program = Program("desk", members=[Rows])
    assert program.main(["rows", "--help"]) == 0
    page = capsys.readouterr().out
    assert "--links -P --no-links" in page
    assert "-x --wide --no-wide" in page
    assert "--links no -P no -p;" in program.contract()
    assert "--wide -x -X -1;" in program.contract()


class Copy(Form):
    """A switch whose opposite is the name of another slot, as of several utilities."""

    target = slot(default=None, short="t", named_only=True)
    no_target = slot(bool, default=False, short="T")


def test_a_switch_whose_opposite_is_another_slot_has_none() -> None:
    assert tuple(Copy.fill(["--no-target", "--target", "no"])) == ("no", True)
    assert tuple(Copy.fill(["-T", "-tx"])) == ("x", True)
    assert tuple(Copy.fill(["--no-target=no"])) == (None, False)
    page = help_page(["copy"], None, slots_of(Copy), 80)
    assert page.count("--target") == 2
    assert "--no-target --target" not in page
    for values in ({"target": "x", "no_target": True}, {"no_target": False}, {"target": "--no-target"}):
        made = Copy(**values)
        assert tuple(Copy.fill(made.words())) == tuple(made)

    class Counted(Form):
        target = slot(default=None)
        no_target = slot(bool, many=True, short="T")

    assert Counted.fill(["-TT", "--no-target"]).no_target == 3
    with pytest.raises(DeclarationError, match="--no-target of no_target is also that of target"):

        class Other(Form):
            target = slot(bool, default=False)
            no_target = slot(default=None)


@given(
    st.integers(0, 10**6).map(lambda number: f"+{number}"),
    st.sampled_from(["text", "path", "rest", "secret", "int", "pattern", "own"]),
    st.sampled_from(["", "--", "name", "equals", "./"]),
)
def test_a_word_of_a_plus_and_digits_is_no_text_by_accident(word: str, kind: str, way: str) -> None:
    make: Any = slot
    kinds: dict[str, Any] = {
        "text": make(), "path": make(Path), "rest": make(rest=True), "secret": make(), "int": make(int),
        "pattern": make(pattern=r"(\./)?\+?\d+"), "own": make(lambda text: text),
    }  # fmt: skip
    more = {"token": make(secret=True, default=None)} if kind == "secret" else {}
    form: Any = type("Night", (Form,), {"value": kinds[kind], **more})
    words = {"--": ["--", word], "name": ["--value", word], "equals": [f"--value={word}"], "./": [f"./{word}"]}.get(
        way, [word]
    )
    if kind == "int" and way == "./":
        return
    if way == "" and kind in ("text", "path", "rest", "secret"):
        with pytest.raises(Problems, match="is no name here") as told:
            form.fill(words)
        assert (word in str(told.value)) == (kind != "secret")
    else:
        value = form.fill(words).value
        written = word if way != "./" else f"./{word}"
        made: dict[str, Any] = {"int": int, "path": Path, "rest": lambda text: (text,)}
        assert value == made.get(kind, str)(written)
