"""The values of a record in the order in which they were typed.

Modules: ``argv.typed``.
"""

from __future__ import annotations

import pickle
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Command, Form, Program, any_of, one_of, slot
from wesperon.testing import Press, Scripted


class Mix(Form, named_only=True):
    """A mix of filters."""

    take = slot(int, many=True, short="t")
    add = slot(int, many=True, short="a")
    names = slot(dict[str, int], short="n")
    some = slot(any_of(["red", "blue"]), default=(), short="s")
    loud = slot(bool, many=True, short="l")
    last = slot(default=None, short="z", repeats="last")
    flag = slot(bool, default=False, short="f", repeats="last")
    kind = slot(one_of(["u", "v"]), default="u", alone="v", named_only=True)
    files = slot(rest=True)


#: Words, each with the pair that it is.
WORDS: list[tuple[str, tuple[str, Any]]] = [
    *((f"-a{number}", ("add", number)) for number in (1, 2)),
    *((f"--add={number}", ("add", number)) for number in (3, 4)),
    ("-t5", ("take", 5)),
    ("--take=6", ("take", 6)),
    ("-sred", ("some", ("red",))),
    ("--some=blue", ("some", ("blue",))),
    ("-l", ("loud", 1)),
    ("--loud=2", ("loud", 2)),
    ("one", ("files", "one")),
    ("two", ("files", "two")),
]


@given(st.lists(st.sampled_from(WORDS), max_size=8), st.lists(st.sampled_from(["--", "-a", "x"]), max_size=3))
def test_each_text_is_a_pair_in_its_order(before: list[tuple[str, tuple[str, Any]]], after: list[str]) -> None:
    words = [word for word, _ in before]
    record = Mix.fill([*words, "--", *after], asking="never")
    files = [("files", text) for text in after]
    assert record.in_order() == [*(pair for _, pair in before), *files]
    assert record.in_order(with_end=True) == [*(pair for _, pair in before), ("--", None), *files]
    again = Mix.fill(record.words(), asking="never")
    assert again == record
    several = ("add", "take", "files")
    assert [pair for pair in again.in_order() if pair[0] in several] == [
        pair for pair in record.in_order() if pair[0] in several
    ]
    assert pickle.loads(pickle.dumps(record)).in_order() == record.in_order()


def test_what_others_replaced_is_left_out() -> None:
    record = Mix.fill(["-z1", "--flag", "-na=1", "--kind", "-z2", "--no-flag", "-nb=2"], asking="never")
    assert record.in_order() == [
        ("names", ("a", 1)),
        ("kind", "v"),
        ("last", "2"),
        ("flag", False),
        ("names", ("b", 2)),
    ]


def test_letters_of_one_word_are_in_their_order() -> None:
    record = Mix.fill(["-lfa3", "-fl"], asking="never")
    assert record.in_order() == [("loud", 1), ("add", 3), ("flag", True), ("loud", 1)]


def test_secrets_and_what_no_word_gave_are_left_out() -> None:
    class Login(Form):
        pin = slot(secret="anywhere", env="PIN")
        user = slot(initial=None)
        note = slot(default="none")

    record = Login.fill(["--pin=77", "--user="], driver=Scripted([]))
    assert record.in_order() == [("user", None)]
    record = Login.fill(["--asking=all", "--pin=7"], driver=Scripted(["Mira", Press("enter"), Press("enter")]))
    assert record.in_order() == []
    assert Mix().in_order() == []


def test_a_command_has_its_own(capsys: pytest.CaptureFixture[str]) -> None:
    class Shared(Form):
        frames = slot(int, default=1)

    class Go(Command):
        to = slot(many=True)
        way = slot(many=True)

        def run(self) -> None:
            print(self.in_order(with_end=True), self.replay().split(" ", 1)[1].split("go ")[1])

    for shared in (None, Shared):
        program = Program("desk", members=[Go], shared=shared)
        program.main(["go", "--way=a", "--to=b", "--way=c", "--"])
    line = "[('way', 'a'), ('to', 'b'), ('way', 'c'), ('--', None)] --way=a --to=b --way=c\n"
    assert capsys.readouterr().out == line * 2


def test_words_that_are_kept_have_no_end_of_names() -> None:
    class Wrap(Form):
        level = slot(int, default=0, named_only=True)
        argv = slot(rest="verbatim")

    assert Wrap.fill(["ls", "--"], asking="never").in_order(with_end=True) == [("argv", "ls"), ("argv", "--")]
    assert Wrap.fill(["--", "ls"], asking="never").in_order(with_end=True) == [("--", None), ("argv", "ls")]


def test_a_replay_of_very_many_words_is_quick() -> None:
    words = [f"--add={number}" for number in range(30_000)]
    record = Mix.fill(words, asking="never")
    assert record.words() == words
    assert len(record.in_order()) == 30_000
