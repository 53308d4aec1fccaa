"""Modules: ``widgets.meter``, ``widgets.work_texts``."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon.screen.frame import row_text
from wesperon.screen.width import width
from wesperon.widgets.meter import bar, rows_of
from wesperon.widgets.work_texts import BYTES, DONE, FAILED, STOPPED, Standing, amount, ended, line

COUNTS = st.one_of(st.none(), st.integers(0, 10**13), st.floats(0, 1e15, allow_nan=False))
SECONDS = st.one_of(st.none(), st.floats(0, 1e7, allow_nan=False))
STANDINGS = st.builds(
    Standing,
    st.text(max_size=40),
    COUNTS,
    COUNTS,
    st.sampled_from(["", "frames", BYTES]),
    SECONDS,
    SECONDS,
    st.floats(0, 1e7, allow_nan=False),
)


@given(st.lists(STANDINGS, min_size=1, max_size=6), st.integers(20, 200))
def test_rows_fit_and_hold_no_control_characters(standings: list[Standing], columns: int) -> None:
    rows = rows_of(standings, columns)
    assert len(rows) == len(standings)
    for row in rows:
        text = row_text(row)
        assert width(text) <= columns
        assert not any(ord(char) < 32 or 127 <= ord(char) < 160 for char in text)


@given(STANDINGS, st.integers(20, 200), st.integers(1, 60))
def test_a_wider_terminal_shows_no_less(standing: Standing, columns: int, more: int) -> None:
    """Each part is there as it was, and at least as many are."""
    parts = [part for part in _parts(standing) if part]
    narrow, wide = (row_text(rows_of([standing], number)[0]) for number in (columns, columns + more))
    shown = [part for part in parts if part in narrow]
    assert [part for part in shown if part in wide] == shown


@given(st.lists(STANDINGS, min_size=2, max_size=5), st.integers(20, 200))
def test_the_bars_of_all_rows_are_one_column(standings: list[Standing], columns: int) -> None:
    places = set()
    for standing, row in zip(standings, rows_of(standings, columns), strict=True):
        at = next((number for number, (_, role) in enumerate(row) if role in ("bar", "bar-rest")), None)
        if at is not None:
            assert standing.share is not None
            cells = sum(len(text) for text, role in row if role in ("bar", "bar-rest"))
            places.add((width("".join(text for text, _ in row[:at])), cells))
    assert len(places) <= 1


@given(st.integers(0, 10**9), st.integers(1, 10**9), st.integers(4, 40))
def test_the_bar_and_the_share_are_full_only_at_the_end(count: int, total: int, columns: int) -> None:
    standing = Standing("Stacking", min(count, total), total)
    spans = bar(standing.share, columns)
    assert sum(len(text) for text, _ in spans) == columns
    is_all = count >= total
    assert ([role for _, role in spans] == ["bar"]) == is_all
    assert ("100%" in line(standing)) == is_all


@pytest.mark.parametrize(
    ("standing", "columns", "row"),
    [
        (Standing("Stacking", 54, 120, "frames", 10.2, 6.5, 5), 100, "54 of 120 frames  10.2/s  7s left"),
        (Standing("Stacking", 54, 120, "", 10.2, 65, 5), 60, " " * 19 + "45%  54 of 120  10.2/s  1m5s left"),
        (Standing("Stacking", 54, 120, "", 10.2, 65, 5), 20, "Stacking         45%"),
        (Standing("Stacking", 54, None, "", 0.5, None, 75), 80, "Stacking  54  30.0/min  1m15s so far"),
        (Standing("Cooling", None, None, "", None, None, 12), 80, "Cooling  12s so far"),
        (Standing("Reading", 3 << 20, 5 << 20, BYTES, 1 << 20, 2, 3), 80, "60%  3.0 of 5.0 MiB  1.0 MiB/s  2s left"),
        (Standing("Reading", 300, 5 << 20, BYTES), 80, "0%  300 B of 5.0 MiB  0s so far"),
        (Standing("Over", 7, 5, "", None, None, 3), 80, "Over  7  3s so far"),
        (Standing("", 7, 10, "", None, None, 3), 80, "70%  7 of 10  3s so far"),
    ],
)
def test_a_row_says_what_is_known_in_a_fixed_order(standing: Standing, columns: int, row: str) -> None:
    shown = row_text(rows_of([standing], columns)[0])
    assert shown.endswith(row), shown


@pytest.mark.parametrize(
    ("standing", "how", "reason", "text"),
    [
        (Standing("Stacking", 120, 120, "frames", seconds=12), DONE, "", "Stacking: done, 120 frames in 12s"),
        (Standing("Stacking", 7, 120, seconds=2), DONE, "", "Stacking: done, 7 of 120 in 2.0s"),
        (Standing("Cooling", seconds=75), DONE, "", "Cooling: done in 1m15s"),
        (Standing("Stacking", 37, 120, seconds=2), STOPPED, "", "Stacking: stopped at 37 of 120"),
        (Standing("Cooling", seconds=2), STOPPED, "", "Cooling: stopped after 2.0s"),
        (Standing("Stacking", 37, 120, seconds=2), FAILED, "disk\nfull", "Stacking: failed at 37 of 120: disk"),
        (Standing("Cooling", seconds=2), FAILED, "", "Cooling: failed after 2.0s"),
        (Standing("", 3, seconds=2), FAILED, "\x1b[31m", "failed at 3: ^[[31m"),
    ],
)
def test_the_last_line_says_how_it_ended_and_how_far_it_came(
    standing: Standing, how: str, reason: str, text: str
) -> None:
    assert ended(standing, how, reason) == text


@given(STANDINGS, st.sampled_from([DONE, STOPPED, FAILED]), st.text(max_size=30))
def test_a_last_line_is_one_line(standing: Standing, how: str, reason: str) -> None:
    for text in (ended(standing, how, reason), line(standing)):
        assert len(text.splitlines()) <= 1
        assert not any(ord(char) < 32 or 127 <= ord(char) < 160 for char in text)


def test_amounts_are_read_at_a_glance() -> None:
    assert [amount(count) for count in (0, 12, 1234567, 2.5, 3.0)] == ["0", "12", "1,234,567", "2.5", "3"]
    assert [amount(count, BYTES) for count in (0, 1023, 1024, 1048570, 5 << 40)] == [
        "0 B",
        "1023 B",
        "1.0 KiB",
        "1.0 MiB",
        "5.0 TiB",
    ]


def _parts(standing: Standing) -> list[str]:
    wide = row_text(rows_of([standing], 400)[0])
    return [part for part in wide.split("  ") if part.strip()]
