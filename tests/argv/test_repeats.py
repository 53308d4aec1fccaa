"""Values that are given more than once: an error, or the last one counts.

Modules: ``argv.errors``.
"""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Form, Problems, any_of, one_of, slot

LAST: dict[str, tuple[Any, Any]] = {
    "number": (lambda: slot(int, default=1, low=1, high=9, repeats="last"), st.integers(1, 9)),
    "text": (lambda: slot(default="", repeats="last"), st.text("ab", min_size=1, max_size=3)),
    "choice": (lambda: slot(one_of(["a", "b"]), default="a", repeats="last"), st.sampled_from("ab")),
    "switch": (lambda: slot(bool, default=False, repeats="last"), st.sampled_from(["yes", "no"])),
}


@given(st.sampled_from(list(LAST)), st.data())
def test_of_many_the_last_one_counts(name: str, data: st.DataObject) -> None:
    make, values = LAST[name]
    given_values = data.draw(st.lists(values, min_size=1, max_size=5))
    form: Any = type("Tool", (Form,), {"value": make()})
    record = form.fill([f"--value={one}" for one in given_values], asking="never")
    assert record == form.fill([f"--value={given_values[-1]}"], asking="never")
    assert form.fill(record.words(), asking="never") == record


@given(st.lists(st.sampled_from(["0", "x", "10", "-3"]), max_size=4))
def test_what_is_replaced_is_not_converted(replaced: list[str]) -> None:
    form: Any = type("Tool", (Form,), {"value": LAST["number"][0]()})
    assert form.fill([*(f"--value={one}" for one in replaced), "--value=5"], asking="never").value == 5
    with pytest.raises(Problems):
        form.fill(["--value=5", "--value=x"], asking="never")


@given(st.lists(st.sets(st.sampled_from("abc"), min_size=1), min_size=1, max_size=4))
def test_a_set_replaces_the_one_before(sets: list[set[str]]) -> None:
    class Tool(Form):
        some = slot(any_of([*"abc"]), default=(), repeats="last")

    assert {*Tool.fill([f"--some={','.join(one)}" for one in sets], asking="never").some} == sets[-1]


@given(st.lists(st.tuples(st.sampled_from("xyz"), st.integers(0, 9)), min_size=1, max_size=6))
def test_of_pairs_the_last_of_each_name_counts(pairs: list[tuple[str, int]]) -> None:
    class Tool(Form):
        at = slot(dict[str, int], repeats="last")

    words = [f"--at={name}={number}" for name, number in pairs]
    assert Tool.fill(words, asking="never").at == dict(pairs)
    if len({name for name, _ in pairs}) < len(pairs):

        class Strict(Form):
            at = slot(dict[str, int])

        with pytest.raises(Problems):
            Strict.fill(words, asking="never")


@given(st.lists(st.sampled_from(["-q", "--quiet", "--quiet=yes", "--quiet=on", "--no-quiet", "--quiet=0"]), min_size=1))
def test_a_switch_may_say_the_same_again_and_nothing_else(words: list[str]) -> None:
    class Tool(Form):
        quiet = slot(bool, default=False, short="q")

    said = {word not in ("--no-quiet", "--quiet=0") for word in words}
    if len(said) == 1:
        assert Tool.fill(words, asking="never").quiet is said.pop()
    else:
        with pytest.raises(Problems, match=f"quiet: is given {len(words)} times"):
            Tool.fill(words, asking="never")
