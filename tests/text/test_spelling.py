"""Which of the right names somebody probably meant.

Modules: ``text.spelling``.
"""

from __future__ import annotations

import copy
import pickle
from typing import Any
from unittest.mock import patch

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import Form, Problems, one_of, slot
from wesperon.text import spelling
from wesperon.text.spelling import edits as edits_of
from wesperon.text.spelling import nearest

WORDS = st.text("abcd", max_size=7)


def edits(a: str, b: str) -> int:
    """Return the same by its definition."""
    costs = {(i, j): max(i, j) for i in range(len(a) + 1) for j in range(len(b) + 1) if not i * j}
    for i in range(1, len(a) + 1):
        for j in range(1, len(b) + 1):
            costs[i, j] = min(costs[i - 1, j] + 1, costs[i, j - 1] + 1, costs[i - 1, j - 1] + (a[i - 1] != b[j - 1]))
            if i > 1 and j > 1 and a[i - 1] == b[j - 2] and a[i - 2] == b[j - 1]:
                costs[i, j] = min(costs[i, j], costs[i - 2, j - 2] + 1)
    return costs[len(a), len(b)]


@given(WORDS, WORDS, st.integers(0, 5))
def test_edits_are_counted_up_to_a_limit(a: str, b: str, most: int) -> None:
    assert edits_of(a, b, most) == min(edits(a, b), most + 1)


@given(WORDS, st.lists(WORDS, max_size=30))
def test_the_nearest_are_those_of_a_plain_look(got: str, names: list[str]) -> None:
    allowed = max(len(got) // 3, int(len(got) > 2))

    def rank(name: str) -> int | None:
        if name.startswith(got):
            return 0
        if len(got) > 2 and got in name:
            return 1
        return 1 + edits(got, name) if edits(got, name) <= allowed else None

    expected = sorted((rank(name), at) for at, name in enumerate(names) if rank(name) is not None) if got else []
    assert nearest(got, names) == list(dict.fromkeys(names[at] for _, at in expected))[:3], "each once"


@pytest.mark.parametrize("shape", ["HOLLIN-{:05}", "{:05}-HOLLIN", "ab" * 12 + "{:05}", "{:05}" + "ba" * 12])
def test_the_work_of_a_search_is_bounded(shape: str) -> None:
    labels = [shape.format(number) for number in range(20_000)]
    for wrong in (shape.format(7)[::-1], labels[5][:-1] + "x", labels[5][1:] + "y", "z" * 60):
        with patch.object(spelling, "edits", wraps=edits_of) as compared:
            nearest(wrong, labels)
        assert compared.call_count <= 1_000


def test_many_wrong_words_are_not_all_compared_with_many_labels() -> None:
    class Look(Form):
        targets = slot(one_of([f"HOLLIN-{number:05}" for number in range(20_000)]), rest=True)

    with patch.object(spelling, "edits", wraps=edits_of) as compared, pytest.raises(Problems) as caught:
        Look.fill([f"HOLINL-{number}x" for number in range(5_000)])
    assert len(caught.value) <= 21
    assert compared.call_count <= 21_000
    assert len(str(caught.value)) < 10_000


@tabled
def test_what_carries_data_copies_and_pickles(thing: Any) -> None:
    for again in (copy.copy(thing), copy.deepcopy(thing), *(pickle.loads(pickle.dumps(thing, n)) for n in range(6))):
        assert type(again) is type(thing)
        assert str(again) == str(thing)
        for name in ("reason", "position", "message", "status", "problems", "words"):
            assert getattr(again, name, None) == getattr(thing, name, None)
