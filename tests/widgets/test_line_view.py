"""What is shown of a line, with nothing edited: every offset has its place, and the place leads back to it.

Modules: ``widgets.line_view``, ``widgets.several_lines_view``.
"""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon.editing.graphemes import snap_to_grapheme
from wesperon.editing.text_state import TextState
from wesperon.screen.frame import Frame, row_text
from wesperon.screen.width import width
from wesperon.widgets.line_view import LineView
from wesperon.widgets.several_lines_view import PairsView, SeveralLinesView

TEXTS = st.text("ab=\n\t日é\x07", max_size=30)
SPANS = st.lists(st.tuples(st.integers(0, 30), st.integers(0, 31), st.sampled_from(["selected", "fault", "match"])))


@pytest.mark.parametrize("kind", [LineView, SeveralLinesView, PairsView])
@settings(max_examples=60)
@given(
    text=TEXTS, spans=SPANS, trail=st.sampled_from(["", "=VALUE"]), columns=st.integers(4, 40), room=st.integers(1, 9)
)
def test_the_place_of_the_cursor_leads_back_to_it(
    kind: type[LineView], text: str, spans: list[tuple[int, int, str]], trail: str, columns: int, room: int
) -> None:
    view = kind()
    for wanted in range(len(text) + 1):
        cursor = snap_to_grapheme(text, wanted)
        rows, (row, column) = view.rows(TextState(text, cursor), spans, trail, columns, room)
        view.drawn()
        assert 0 <= row < len(rows) <= room
        assert 0 <= column <= columns
        assert all(width(row_text(one)) <= columns for one in rows)
        view.rows(TextState(text, 0), (), "", columns + 30, 2)  # which is not drawn
        assert view.locate(row, column) == cursor


@given(st.text("ab=\n", max_size=20), SPANS, st.integers(8, 40))
def test_what_is_marked_changes_no_character(text: str, spans: list[tuple[int, int, str]], columns: int) -> None:
    plain, marked = SeveralLinesView(), SeveralLinesView()
    state = TextState(text, len(text))
    bare, cursor = plain.rows(state, (), "", columns, 99)
    rows, same = marked.rows(state, spans, "", columns, 99)
    assert [line.rstrip() for line in Frame(tuple(rows)).text().split("\n")] == Frame(tuple(bare)).text().split("\n")
    assert cursor == same
