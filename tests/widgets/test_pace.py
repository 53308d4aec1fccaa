"""Modules: ``widgets.pace``."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon.widgets.pace import Pace

#: Steps between two looks: seconds that pass, and how much the count changes.
STEPS = st.lists(
    st.tuples(
        st.floats(0, 50, allow_nan=False), st.one_of(st.integers(0, 5), st.integers(-20, 400), st.floats(-3, 1e6))
    ),
    max_size=120,
)


@given(STEPS, st.one_of(st.none(), st.integers(0, 10_000)))
def test_whatever_comes_no_time_left_is_negative_and_none_is_known_without_a_total(
    steps: list[tuple[float, float]], total: int | None
) -> None:
    now, count = 100.0, 0.0
    pace = Pace(now)
    for seconds, more in steps:
        now, count = now + seconds, max(count + more, 0)
        pace.look(now, count)
        left = pace.left(now, total)
        assert left is None or left >= 0
        assert left is None or (total is not None and count <= total and now - 100 >= 2)
        assert pace.rate is None or pace.rate >= 0


@pytest.mark.parametrize("each", [0.01, 0.3, 7.0])
@pytest.mark.parametrize("look", [0.05, 0.25])
def test_of_steady_work_the_rate_and_the_time_left_are_known(each: float, look: float) -> None:
    total = 200
    pace = Pace(0.0)
    now, seen = 0.0, []
    while (count := int(now / each)) < total:
        pace.look(now, count)
        left = pace.left(now, total)
        if now > max(20 * each, 4):
            assert left is not None
            assert pace.rate == pytest.approx(1 / each, rel=0.12)
            seen.append((left, total * each - now))
        now += look
    for left, true in seen:
        assert left == pytest.approx(true, rel=0.12, abs=max(1.5 * each, 0.6))


def test_the_time_left_runs_down_like_a_clock_and_does_not_jump() -> None:
    """The work becomes ten times slower at once: what is shown follows within some seconds, a part at a time."""
    pace = Pace(0.0)
    now, count, before = 0.0, 0.0, None
    while count < 1000:
        now += 0.05
        count += 0.5 if now < 20 else 0.05
        pace.look(now, int(count))
        left = pace.left(now, 1000)
        if before is not None and left is not None:
            assert abs(left - (before - 0.05)) <= 0.05 * max(before, 3000.0) / 3
        before = left


def test_a_count_that_is_set_back_begins_again() -> None:
    pace = Pace(0.0)
    for second in range(10):
        pace.look(second, second * 10)
    assert pace.left(9, 1000) is not None
    pace.look(10, 0)
    assert pace.rate is None
    assert pace.left(10, 1000) is None


def test_work_that_comes_to_a_halt_has_no_end_in_sight() -> None:
    pace = Pace(0.0)
    for second in range(21):
        pace.look(second, second)
    left = pace.left(20, 40)
    for second in range(20, 200):
        pace.look(second, 20)
        later = pace.left(second, 40)
    assert left is not None
    assert later is not None
    assert later > 3 * left
