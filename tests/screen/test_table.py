"""Tables: whatever the width, no text is cut and no row is too wide.

Modules: ``screen.table``.
"""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from wesperon.screen.table import Column, columns, texts
from wesperon.screen.width import width

WORDS = st.lists(st.sampled_from(["Lantern", "nebula", "90", "日本", "clear", "HOLLIN-051", ""]), max_size=6).map(
    " ".join
)


@given(st.lists(st.lists(WORDS, min_size=3, max_size=3), min_size=1, max_size=4), st.integers(24, 120))
def test_a_table_fits_its_terminal_and_loses_no_text(cells: list[list[str]], limit: int) -> None:
    of = [Column("target"), Column("frames", right=True), Column("what was seen")]
    shown = texts(columns(of, cells, limit))
    assert all(width(row) <= limit for row in shown)
    assert sorted(" ".join(text for line in cells for text in line).split()) == sorted(
        word
        for row in shown
        for word in row.replace("what was seen", "").replace("target", "").replace("frames", "").split()
    )
