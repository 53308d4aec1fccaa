"""Names that may be alone: then the value is the one that the declaration says.

Modules: ``argv.option_words``.
"""

from __future__ import annotations

import json
from itertools import pairwise
from pathlib import Path
from typing import Annotated, Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Command, Context, DeclarationError, Form, Problems, Program, any_of, one_of, run, slot
from wesperon.completion.candidates import candidates
from wesperon.values.records import slots_of

WHEN = ["never", "always", "auto"]


class Listing(Form):
    """A list of frames."""

    color = slot(one_of(WHEN), default="never", alone="always", short="c", repeats="last", env="LISTING_COLOR")
    level = slot(int, default=0, alone=1, short="O", low=0, high=9, repeats="last")
    kept = slot(many=True, alone=".bak", short="k")
    some = slot(any_of(["dome", "mast", "desk"]), default=(), alone=("dome", "desk"), short="s")
    loud = slot(bool, default=False, short="l")
    files = slot(rest=True)


def read_naively(words: list[str]) -> dict[str, Any]:
    """Return what words mean, the naive way: a value of these names is in the same word, or there is none."""
    made: dict[str, Any] = {"color": "never", "level": 0, "kept": (), "some": set(), "loud": False, "files": ()}
    alone: dict[str, str] = {"color": "always", "level": "1", "kept": ".bak", "some": "dome,desk"}
    letters = {"c": "color", "O": "level", "k": "kept", "s": "some"}

    def put(name: str, text: str) -> None:
        text = text or alone[name]
        if name == "kept":
            made[name] += (text,)
        elif name == "some":
            made[name] |= {*text.split(",")}
        else:
            made[name] = int(text) if name == "level" else text

    for at, word in enumerate(words):
        if word == "--":
            made["files"] += tuple(words[at + 1 :])
            break
        if word.startswith("--"):
            name, _, text = word[2:].partition("=")
            put(name, text)
        elif word[:1] == "-":
            rest = word[1:]
            while rest[:1] == "l":
                made["loud"], rest = True, rest[1:]
            if rest:
                put(letters[rest[0]], rest[1:])
        else:
            made["files"] += (word,)
    return made


TEXTS = {"color": WHEN, "level": ["0", "7"], "kept": ["x", ".old", "O2"], "some": ["mast", "dome,mast"]}
LONG = [f"--{name}{said}" for name, texts in TEXTS.items() for said in ("", *(f"={text}" for text in texts))]
SHORT = [
    f"-{before}{letter}{text}"
    for letter, name in (("c", "color"), ("O", "level"), ("k", "kept"), ("s", "some"))
    for text in ("", *TEXTS[name])
    for before in ("", "l", "ll")
]
PLAIN = ["one", "7", "x", "mast", "-l", "-ll"]


@given(st.lists(st.sampled_from([*LONG, *SHORT, *PLAIN, "--"]), max_size=7))
def test_the_value_is_in_the_word_of_the_name_or_it_is_alone(words: list[str]) -> None:
    expected = read_naively(words)
    names = words[: words.index("--")] if "--" in words else words
    follows = [word for before, word in pairwise(names) if before in ("--some", "-s", "-ls", "-lls")]
    if "mast" in follows:  # a choice right after the name is refused, whatever it may be else
        with pytest.raises(Problems, match="takes no word after it: write --some=mast"):
            Listing.fill(words, asking="never")
        return
    record = Listing.fill(words, asking="never")
    found = {name: getattr(record, name) for name in slots_of(Listing)}
    assert {**found, "some": {*found["some"]}} == expected
    assert Listing.fill(record.words(), asking="never") == record


@pytest.mark.parametrize(
    ("words", "reason"),
    [
        (["--color", "never"], 'takes no word after it: write --color=never, or put "never" elsewhere'),
        (["-c", "auto", "one"], 'takes no word after it: write --color=auto, or put "auto" elsewhere'),
    ],
)
def test_a_choice_after_the_name_is_refused(words: list[str], reason: str) -> None:
    with pytest.raises(Problems) as caught:
        Listing.fill(words, asking="never")
    assert [one.reason for one in caught.value] == [reason]


def test_a_word_too_many_after_it_says_how_it_would_be_its_value() -> None:
    class Plan(Form):
        level = slot(int, default=0, alone=1)

    for word, also in (("4", "; as the value of --level it is --level=4"), ("x", "")):
        with pytest.raises(Problems) as caught:
            Plan.fill(["--level", word], asking="never")
        assert [one.reason for one in caught.value] == [f'1 word too many: "{word}"; none expected{also}']


def test_a_word_that_may_be_a_secret_is_not_in_the_hint() -> None:
    class Plan(Form):
        pin = slot(default=None, secret="anywhere")
        mark = slot(default=None, alone="here")

    with pytest.raises(Problems) as caught:
        Plan.fill(["--mark", "hunter2", "--pine=hunter2"], asking="never")
    assert "hunter2" not in str(caught.value)


def test_a_word_that_its_position_cannot_take_says_so_too() -> None:
    class Plan(Form):
        gain = slot(float)
        mark = slot(default=None, alone="here")

    with pytest.raises(Problems, match="; as the value of --mark it is --mark=x"):
        Plan.fill(["--mark", "x"], asking="never")


def test_before_a_command_the_word_after_it_is_the_command(capsys: pytest.CaptureFixture[str]) -> None:
    class Go(Command):
        def run(self) -> str:
            return self.shared.level  # type: ignore[no-any-return]

    class Shared(Form):
        level = slot(int, default=0, alone=5, short="O")

    program = Program("desk", members=[Go], shared=Shared)
    for words in (["--level", "go"], ["-O", "go"], ["-O5", "go"], ["go", "--level"]):
        program.call(words)
    assert capsys.readouterr().out == "5\n" * 4


def test_other_sources_have_the_value_in_full(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert Listing.fill([], asking="never", context=Context(environ={"LISTING_COLOR": "auto"})).color == "auto"
    answers = tmp_path / "answers.json"
    answers.write_text(json.dumps({"kept": ["x"], "level": 3}))
    assert Listing.fill([f"--answers={answers}"], asking="never").words() == ["--level=3", "--kept=x"]
    declared = tmp_path / "listing.toml"
    declared.write_text(
        '[slots.color]\nchoices = ["never", "always"]\ndefault = "never"\nalone = "always"\n'
        '[slots.some]\nkind = "any-of"\nchoices = ["a", "b"]\ndefault = []\nalone = ["a", "b"]\n'
        '[slots.level]\nkind = "integer"\ndefault = 0\nalone = 2\n'
    )
    form = Form.from_file(declared)
    made = form.fill(["--color", "--some", "--level"], asking="never")
    assert [*made] == ["always", ("a", "b"), 2]
    declared.write_text('[slots.level]\nkind = "integer"\ndefault = 0\nalone = "x"\n')
    with pytest.raises(Problems, match=r"slots\.level\.alone"):
        Form.from_file(declared)


def test_a_parameter_may_have_it(capsys: pytest.CaptureFixture[str]) -> None:
    def plan(color: Annotated[str, slot(alone="always", short="c")] = "never") -> str:
        return color

    for words in (["--color"], ["-c"], ["-cauto"], []):
        run(plan, words)
    assert capsys.readouterr().out == "always\nalways\nauto\nnever\n"


def test_help_and_completion_show_that_it_may_be_alone(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit):
        Listing.fill(["--help"])
    page = capsys.readouterr().out
    assert "[--color[=CHOICE]] [--level[=NUMBER]] [--kept[=TEXT]...] [--some[=CHOICE,...]]" in " ".join(page.split())
    assert "-O --level[=NUMBER] a whole number from 0 to 9 (alone: 1; if left out: 0)" in " ".join(page.split())
    slots = slots_of(Listing)
    assert [one.text for one in candidates(slots, [], "--col")] == ["--color", "--color="]
    assert [one.text for one in candidates(slots, [], "--color=a")] == ["--color=always", "--color=auto"]
    assert [one.text for one in candidates(slots, ["--color"], "a")] == []


@pytest.mark.parametrize(
    ("settings", "said"),
    [
        ({"alone": None}, "not None"),
        ({"alone": "x", "rest": True}, "not with rest"),
        ({"alone": "x", "secret": True}, "not with rest or a secret"),
        ({"alone": "x", "kind": bool}, "a switch is alone anyway"),
        ({"alone": "x", "kind": dict[str, str]}, "pairs"),
        ({"alone": "x", "kind": one_of(lambda answers: ["x"])}, "late choices"),
        ({"alone": "x", "kind": int}, "alone='x'"),
        ({"alone": 12, "kind": int, "high": 9}, "too high"),
        ({"alone": ""}, "an empty text is no value"),
        ({"alone": "x", "named_only": False}, "what may be named alone"),
        ({"alone": ("x",), "many": True}, "alone=('x',)"),
        ({"alone": object(), "kind": object}, ""),
    ],
)
def test_what_cannot_be_is_refused_where_it_is_declared(settings: dict[str, Any], said: str) -> None:
    with pytest.raises(DeclarationError) as caught:
        type("Wrong", (Form,), {"value": slot(settings.pop("kind", str), **settings)})
    assert said in str(caught.value)
