"""One frame over another, and pieces of rows.

Modules: ``screen.overlay``.
"""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from wesperon.screen.frame import Frame, cells, row_text
from wesperon.screen.overlay import clipped, overlay
from wesperon.screen.width import width

SPANS = st.lists(st.tuples(st.text(st.sampled_from("ab 漢é─"), max_size=8), st.sampled_from(["", "label"])), max_size=4)


@given(SPANS, st.integers(0, 12), st.integers(0, 20))
def test_a_piece_of_a_row_has_its_columns_and_their_roles(
    spans: list[tuple[str, str]], first: int, columns: int
) -> None:
    row = tuple(span for span in spans if span[0])
    piece = clipped(row, first, columns)
    assert width(row_text(piece)) == columns
    whole = [*cells(row, 1000), *[(" ", "")] * (first + columns)]
    for number, (text, role) in enumerate(cells(piece, 1000)):
        before = whole[first + number]
        is_half = number in (0, columns - 1) and text == " "
        assert (text, role) == before or is_half or not text


@given(SPANS, SPANS, st.integers(0, 10), st.integers(1, 12))
def test_what_is_beside_the_upper_frame_stays(
    below: list[tuple[str, str]], above: list[tuple[str, str]], column: int, columns: int
) -> None:
    under = tuple(span for span in below if span[0])
    made = overlay(Frame((under,)), Frame((tuple(above),), (0, 0)), 0, column, columns).rows[0]
    assert width(row_text(made)) == max(width(row_text(under)), column + columns)
    left = clipped(under, 0, column)
    assert row_text(made).startswith(row_text(left))
    assert row_text(clipped(made, column, columns)) == row_text(clipped(tuple(above), 0, columns))
