"""The grammar of the command line, rule by rule: which words give which values, and what is wrong with the others.

Modules: ``argv``, ``argv.arguments``, ``argv.option_words``, ``argv.rest_words``, ``argv.errors``.
"""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from decimal import Decimal
from enum import Enum
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import DeclarationError, Form, Problems, any_of, one_of, slot
from wesperon.output.report import report
from wesperon.text.escape import visible
from wesperon.values.records import slots_of


class Plan(Form):
    target = slot(ask="Target")
    minutes = slot(int, short="m", default=30)
    offset = slot(float, default=0.0)
    quiet = slot(bool, short="q", default=False)
    verbose = slot(bool, short="v", default=False)
    filters = slot(any_of(["Red", "Blue", "H,a", "a\\b"]), default=())
    low_light = slot(bool, default=True)


class Wheel(Enum):
    FIRST = 1
    SECOND = 2


class Sum(Form):
    label = slot()
    numbers = slot(int, rest=True)
    unit = slot()


class Repeats(Form):
    tags = slot(many=True, short="t")
    level = slot(one_of([1, 2, 3], label=lambda n: f"level {n}"), default=1)


def values(form: type[Form], *words: str) -> dict[str, object]:
    record = form.fill(words, asking="never")
    return {name: getattr(record, name) for name, origin in record.origins.items() if origin == "words"}


@tabled
def test_words_give_values(words: list[str], expected: dict[str, object]) -> None:
    assert values(Plan, *words) == expected


@tabled
def test_several_words_make_one_value(form: type[Form], words: list[str], expected: dict[str, object]) -> None:
    assert values(form, *words) == expected


@tabled
def test_a_word_that_does_not_fit_is_named(
    words: list[str], slot_name: str | None, places: tuple[int, ...], said: str
) -> None:
    with pytest.raises(Problems) as caught:
        Plan.fill(words, asking="never")
    problem = caught.value.problems[0]
    assert (problem.slot, problem.words, problem.source) == (slot_name, places, "words")
    assert said in problem.reason


def test_all_problems_come_at_once_with_what_is_missing() -> None:
    with pytest.raises(Problems) as caught:
        Plan.fill(["--minutes=4x5", "--nonesuch", "--quiet=2"], asking="never")
    assert [problem.slot for problem in caught.value] == ["minutes", None, "quiet", "target"]
    assert caught.value.problems[0].position == 1
    assert '"slot": "minutes"' in caught.value.json()


@tabled
def test_a_clash_of_names_is_an_error_at_declaration(body: dict[str, object]) -> None:
    with pytest.raises(DeclarationError):
        type("Clash", (Form,), body)


def test_a_reserved_word_of_the_language_serves_as_a_name() -> None:
    class Observation(Form):
        class_ = slot()

    assert Observation.fill(["--class", "nebula"]).class_ == "nebula"


class Everything(Form):
    """A slot of every kind."""

    text = slot(pattern=r"[^q]*", short="t")
    whole = slot(int, default=1, low=-9)
    real = slot(float, default=1.0)
    switch = slot(bool, default=False, short="s")
    day = slot(date, default=None)
    instant = slot(datetime, default=None)
    clock = slot(time, default=None)
    length = slot(timedelta, default=None, high=timedelta(days=9))
    exact = slot(Decimal, default=None)
    path = slot(Path, default=None, exists="folder")
    wheel = slot(Wheel, default=None)
    one = slot(one_of(["a", "b c"]), default="a")
    some = slot(any_of(["a", "b,c"]), default=())
    own = slot(str.upper, default="", check=lambda text: None)
    tags = slot(str, many=True)
    numbers = slot(int, rest=True)


NAMES = [f"--{name}" for name in slots_of(Everything)]
WORDS = st.one_of(
    st.text(max_size=8),
    st.text(st.characters(categories=["Cc", "Cs", "Cf"]), max_size=6),
    st.sampled_from([*NAMES, "-t", "-s", "-st", "--", "-", "--some=", "-5", "--no-switch", "--answers", "--asking"]),
    st.builds("{}={}".format, st.sampled_from(NAMES), st.text(max_size=8)),
)


@settings(max_examples=120)
@given(st.lists(WORDS, max_size=30))
def test_any_words_give_a_record_or_problems_that_can_be_shown(words: list[str]) -> None:
    try:
        record = Everything.fill(words, asking="never")
    except Problems as problems:
        shown = report(problems, ["plan"], 80)
        assert len(problems) > 0  # noqa: PT017
        assert visible(shown.replace("\n", "")) == shown.replace("\n", "")
        assert problems.json().isascii()  # noqa: PT017
    except SystemExit:
        assert any(word in ("--help", "--version", "--help=all") for word in words)
    else:
        assert set(record.origins) == set(slots_of(Everything))


@pytest.mark.parametrize(
    "words",
    [["x" * 1_000_000], ["5"] * 100_000, ["--nonesuch"] * 100_000, ["--tags=x"] * 100_000, ["--whole"] * 20_000,
     ["--real=" + "9" * 1_000_000], ["--exact=" + "1_" * 500_000], ["-" + "s" * 100_000], ["--some=" + "a," * 200_000]],
    ids=lambda words: f"{len(words)} times {words[0][:12]}",
)  # fmt: skip
def test_very_many_and_very_long_words_are_met_at_once(words: list[str]) -> None:
    try:
        Everything.fill(["--asking=never", *words])
    except Problems as problems:
        assert len(report(problems, ["plan"], 80)) < 100_000  # noqa: PT017


class Desk(Form):
    """A switch, a text by position, and a letter that may be taken."""

    target = slot(default="")
    dry = slot(bool, default=False, short="d")


class High(Desk):
    height = slot(int, default=0, short="h")


@given(st.sampled_from(["yes", "no", "true", "false", "on", "off"]), st.sampled_from(["--dry", "--no-dry", "-d"]))
def test_yes_or_no_after_a_switch_is_no_word_of_its_own(text: str, name: str) -> None:
    """It would be an operand, and the switch the other way round than it was meant."""
    with pytest.raises(Problems, match=f'write --dry={text}, or put "{text}" elsewhere'):
        Desk.fill([name, text])
    assert Desk.fill([text, name]).target == text
    assert Desk.fill([name, "--", text]).target == text
    assert Desk.fill([name, "other"]).target == "other"
    assert Desk.fill([f"--dry={text}"]).dry is (text in ("yes", "true", "on"))


@pytest.mark.parametrize("words", [["-h"], ["-dh"], ["x", "-hd"], ["--target", "-h"], ["-h", "--unknown"]])
def test_the_letter_of_help_is_help_where_no_slot_has_it(words: list[str], capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as ended:
        Desk.fill(words)
    shown = capsys.readouterr().out
    assert ended.value.code == 0
    assert "-h --help" in shown
    assert High.fill(["-h", "3"]).height == 3
    with pytest.raises(SystemExit):
        High.fill(["--help"])
    assert "-h --height" in (page := capsys.readouterr().out)
    assert "-h --help" not in page


NAMES = ["links", "no_links", "l", "n", "follow", "no_help"]


@given(st.lists(st.sampled_from(NAMES), min_size=1, max_size=4, unique=True), st.data())
def test_each_name_of_a_switch_says_yes_and_its_opposite_no_unless_that_is_declared(
    names: list[str], data: st.DataObject
) -> None:
    letters = data.draw(st.permutations("lnfx")) if data.draw(st.booleans()) else [""] * 4
    body = {name: slot(bool, default=False, short=letters[at] or None) for at, name in enumerate(names)}
    form: type[Form] = type("Switches", (Form,), body)
    words = [name.replace("_", "-") for name in names]
    for name, word in zip(names, words, strict=True):
        no = word[3:] if word.startswith("no-") else f"no-{word}"
        assert getattr(form.fill([f"--{word}"], asking="never"), name) is True
        assert getattr(form.fill([f"--{word}=yes", "--asking=never"]), name) is True
        if body[name].short:
            assert getattr(form.fill([f"-{body[name].short}"], asking="never"), name) is True
        if no == "help":
            continue
        if no in words:
            assert getattr(form.fill([f"--{no}"], asking="never"), no.replace("-", "_")) is True
        else:
            assert getattr(form.fill([f"--{no}"], asking="never"), name) is False
            with pytest.raises(Problems, match=f"--{no} takes no value: write --{word}=no"):
                form.fill([f"--{no}=no"], asking="never")


def test_a_short_and_a_long_name_of_one_letter_do_not_clash() -> None:
    class Letters(Form):
        n = slot(int, short="n")
        x = slot(int)
        other = slot(int, short="x")

    assert tuple(Letters.fill(["-n1", "--x=2", "-x3"], asking="never")) == (1, 2, 3)
    assert Letters.fill(["--n", "1", "-x", "3", "--x", "2"], asking="never").words() == ["--n=1", "--other=3", "--x=2"]
