"""How parts share the cells of a row or a column.

Modules: ``screen.shares``.
"""

from __future__ import annotations

from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from wesperon.screen.shares import Wants, shares

COUNT = st.integers(0, 12)
WANTS = st.builds(
    Wants,
    size=st.none() | st.integers(1, 30),
    weight=st.integers(0, 4),
    least=st.integers(1, 8),
    most=st.none() | st.integers(1, 40),
    hide_below=st.just(0) | st.integers(1, 20),
)
PARTS = st.lists(WANTS, min_size=1, max_size=7)


@given(PARTS, st.integers(1, 300))
def test_shares_are_within_their_bounds_and_in_the_room(parts: list[Wants], room: int) -> None:
    sizes = shares(room, parts)
    shown = [(one, size) for one, size in zip(parts, sizes, strict=True) if size]
    assert all(one.hide_below for one, size in zip(parts, sizes, strict=True) if not size)
    for one, size in shown:
        limits = [limit for limit in (one.size, one.most) if limit is not None]
        assert one.least <= size <= max([min(limits), one.least] if limits else [size])
        assert size >= one.hide_below
    if sum(sizes) > room:  # to be scrolled: then each has its least, and none that may go is there
        assert all(size == one.least and not one.hide_below for one, size in shown)


@given(PARTS, st.integers(1, 300))
def test_no_cell_is_left_that_a_part_would_take(parts: list[Wants], room: int) -> None:
    sizes = shares(room, parts)
    takes = [
        one
        for one, size in zip(parts, sizes, strict=True)
        if size and (one.size is not None or one.weight) and size < min(one.size or 1 << 30, one.most or 1 << 30)
    ]
    assert not takes or sum(sizes) >= room


@given(PARTS, st.integers(1, 200))
def test_more_room_never_shows_less(parts: list[Wants], room: int) -> None:
    """Neither fewer parts nor, while they are the same, a smaller one."""
    before, after = shares(room, parts), shares(room + 1, parts)
    assert all(more for less, more in zip(before, after, strict=True) if less)
    if [bool(size) for size in before] == [bool(size) for size in after]:
        assert all(less <= more for less, more in zip(before, after, strict=True))


@given(st.lists(st.sampled_from([1, 1, 1, 2, 9, 40]), min_size=1, max_size=12), st.integers(20, 500))
def test_shares_are_within_a_cell_of_their_weights(weights: list[int], room: int) -> None:
    sizes = shares(room, [Wants(weight=weight, least=0) for weight in weights])
    assert sum(sizes) == room
    for weight, size in zip(weights, sizes, strict=True):
        assert abs(size - Fraction(room * weight, sum(weights))) < 1


def test_what_may_be_hidden_goes_from_the_last_one_on() -> None:
    parts = [Wants(least=10), Wants(least=5, hide_below=8), Wants(least=5, hide_below=12)]
    assert [bool(size) for size in shares(40, parts)] == [True, True, True]
    assert [bool(size) for size in shares(30, parts)] == [True, True, False]
    assert [bool(size) for size in shares(12, parts)] == [True, False, False]
