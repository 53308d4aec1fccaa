"""What is hidden of a secret in a text, and what is not.

Modules: ``text.hushing``.
"""

from __future__ import annotations

import json
import shlex
import urllib.parse
from collections.abc import Callable

from hypothesis import assume, example, given
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon.text.escape import quoted, visible
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


#: How messages write a text.
WRITTEN: list[Callable[[str], str]] = [
    str, repr, ascii, json.dumps, lambda text: json.dumps(text, ensure_ascii=False), shlex.quote, visible, quoted,
    str.upper, lambda text: repr(text.encode()), lambda text: repr([text]), urllib.parse.quote, urllib.parse.quote_plus,
    lambda text: f"{text!r}", lambda text: f"Login({text!r})",
]  # fmt: skip


@given(
    secret=st.text(st.sampled_from("abcXY 09'\"\\\n\té中👍/=%.,:()-_$#"), min_size=3, max_size=30),
    way=st.sampled_from(WRITTEN),
    before=st.sampled_from(["", "no ", "http://u:", "/no/where/", "x=", "(", "'"]),
    after=st.sampled_from(["", " here", "@h", "/more", ")", ": wrong", "'"]),
)
@example(secret="://", way=str, before="http://u:", after="")
def test_nothing_of_a_secret_is_left_however_a_message_writes_it(
    secret: str, way: Callable[[str], str], before: str, after: str
) -> None:
    """All of it is gone, with at most the word around it; what is said before and after it stays."""
    assume(secret.strip() and "..." not in secret)  # those stand for what a message cuts out
    first, last = "the mast said: ", " (of 3 in the south)"
    shown = hidden(first + before + way(secret) + after + last, Traces([secret]))
    assert shown.startswith(first)
    assert shown.endswith(last)
    middle = shown[len(first) : -len(last)]
    if secret in before or secret in after:  # it is hidden there too, so that what is left is not of one mask
        assert secret not in middle
        return
    left, mask, right = middle.partition(MASK)
    assert mask, middle
    right = right.replace(MASK, "")
    allowed = "[Login()]'\""
    assert not left.removeprefix(before).strip(allowed + "b") or before.startswith(left), middle
    assert not right.removesuffix(after).strip(allowed) or after.endswith(right), middle


@tabled
def test_whole_words_are_hidden_and_nothing_else(text: str, secret: str, shown: str) -> None:
    assert hidden(text, Traces([secret])) == shown


def test_texts_of_the_declaration_stay() -> None:
    said = "must be at least 2031-01-01; choose from: northern, south"
    assert hidden(said, Traces(["2031-01-0x", "northern"]), kept=["2031-01-01", "northern"]) == said
    assert hushed('"north" is none of 2: northern', "north", ["northern"]) == "the given value is none of 2: northern"
    assert MASK not in hushed("x", "y")
