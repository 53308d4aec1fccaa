"""A table: what belongs together stands together, at any size.

Modules: ``widgets.parts.table``, ``widgets.parts.rows_part``.
"""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from wesperon import Table
from wesperon.editing.keys.events import Key

WIDTHS = st.lists(st.integers(1, 30), min_size=1, max_size=4)


@given(WIDTHS, st.integers(0, 60), st.integers(14, 90), st.integers(2, 20), st.integers(0, 3))
def test_each_heading_is_where_its_cells_begin(
    widths: list[int], count: int, columns: int, rows: int, pages: int
) -> None:
    headings = [chr(ord("A") + at) * 4 for at in range(len(widths))]
    table = Table([[chr(ord("a") + at) * wide for at, wide in enumerate(widths)]] * count, headings)
    for _ in range(pages):
        table.view(columns, rows)
        table.press(Key("page-down"))
    shown = table.view(columns, rows).text().split("\n")
    for line in [line[:columns] for line in shown[1:]]:
        for at in range(len(widths)):
            assert line.find(chr(ord("a") + at)) == shown[0].find(chr(ord("A") + at)), shown
