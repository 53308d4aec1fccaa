"""What is hidden of a secret in a text, and what is not."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon.text.hushing import MASK, Traces, hidden, hushed

WORD = st.text(st.sampled_from("abcdefgh-2"), min_size=5, max_size=30)


@given(
    secret=WORD, before=st.sampled_from(["", "x", " ", "say ", "q-"]), after=st.sampled_from(["", "y", " ", ".", ": z"])
)
def test_no_run_of_a_secret_is_left_whatever_is_around_it(secret: str, before: str, after: str) -> None:
    shown = hidden(f"{before}{secret}{after} and {secret.upper()} and {secret!r}", Traces([secret]))
    longest = min(max(5, (len(secret) + 1) // 2), 8)
    assert not any(secret[at : at + longest] in shown.lower() for at in range(len(secret) - longest + 1))
    assert " and " in shown


@pytest.mark.parametrize(
    ("text", "secret", "shown"),
    [
        ("the xabcdey end", "abcde", "the *** end"),  # five characters are enough
        ("abcd or dabcde", "abcd", "*** or dabcde"),  # fewer are one as a word only
        ('no "ab" in absent', "ab", "no *** in absent"),  # two only in quotes
        ("wrong password", "password123", "wrong ***"),
        ("north, south", "nort", "north, south"),
        ("'one two' is wrong", "one two", "*** is wrong"),
        ("a wrong date", "hunter", "a wrong date"),
    ],
)
def test_whole_words_are_hidden_and_nothing_else(text: str, secret: str, shown: str) -> None:
    assert hidden(text, Traces([secret])) == shown


def test_texts_of_the_declaration_stay() -> None:
    said = "must be at least 2031-01-01; choose from: northern, south"
    assert hidden(said, Traces(["2031-01-0x", "northern"]), kept=["2031-01-01", "northern"]) == said
    assert hushed('"north" is none of 2: northern', "north", ["northern"]) == "the given value is none of 2: northern"
    assert MASK not in hushed("x", "y")
