"""A table: what belongs together stands together, at any size.

Modules: ``widgets.parts.table``, ``widgets.parts.rows_part``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Column, DeclarationError, Table, slot
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


@dataclass
class Frame:
    """A row with attributes."""

    target: str
    seconds: float


SORTS: dict[str, Callable[[str, float], Any]] = {
    "list": lambda target, seconds: [target, seconds],
    "tuple": lambda target, seconds: (target, seconds),
    "mapping": lambda target, seconds: {"number": 1, "seconds": seconds, "target": target},
    "object": Frame,
}


@pytest.mark.parametrize("sort", SORTS)
@pytest.mark.parametrize("keyed", [False, True])
def test_rows_of_any_sort_are_shown_and_changed_by_their_headings(sort: str, keyed: bool) -> None:
    by_name = sort in ("mapping", "object")
    key = ("seconds" if by_name else 1) if keyed else None
    rows = [SORTS[sort]("Lantern", 90.0), SORTS[sort]("Thimble", 60.0)]
    columns: list[str | Column] = ["target", Column("seconds", key=key, slot=slot(float, "Seconds"))]
    table = Table(rows, columns)
    assert [line.split() for line in table.view(40, 4).text().split("\n")[:3]] == [
        ["target", "seconds"], ["Lantern", "90.0"], ["Thimble", "60.0"],
    ]  # fmt: skip
    table.set_cell(1, rows[1], table.columns[1], 45.0)
    assert rows[1] == SORTS[sort]("Thimble", 45.0)
    table.sort_by(1)
    assert table.view(40, 4).text().split("\n")[1].split() == ["Thimble", "45.0"]


def test_a_heading_that_no_row_has_is_refused() -> None:
    rows = [{"frame": 1, "target": "Lantern"}, {"frame": 2}]
    with pytest.raises(DeclarationError, match=r"'Frame'.*frame, target.*key="):
        Table(rows, ["Frame", "target"])
    assert "Lantern" in Table(rows, [Column("Frame", key="frame"), "target"]).view(40, 4).text()
    assert Table([], ["Frame"]).value is None
