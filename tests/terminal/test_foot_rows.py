"""Modules: ``terminal.foot_rows``."""

from __future__ import annotations

from typing import Any

import pyte
from hypothesis import given
from hypothesis import strategies as st

from campaign.modes import left_set
from wesperon.screen.frame import Frame
from wesperon.screen.overlay import with_rows_above
from wesperon.terminal.foot_rows import FootRows

TEXTS = st.text(alphabet="abc de", min_size=1, max_size=17).map(lambda text: text.rstrip() or "a")
ACTS = st.lists(
    st.one_of(
        st.tuples(st.just("show"), st.lists(TEXTS, max_size=4)),
        st.tuples(st.just("say"), st.lists(TEXTS, min_size=1, max_size=3)),
        st.tuples(st.just("enter"), st.none()),
        st.tuples(st.just("abandon"), st.none()),
        st.tuples(st.just("other"), TEXTS),
        st.tuples(st.just("away"), st.booleans()),
    ),
    max_size=25,
)


class Terminal:
    """An emulator of 18 columns, and its rows."""

    def __init__(self, rows: int) -> None:
        self.screen = pyte.HistoryScreen(18, rows, history=500, ratio=0.5)
        self.stream = pyte.Stream(self.screen)
        self.size = 18, rows

    def lines(self) -> list[str]:
        """Return all that was ever shown, row by row, but for the empty ones at the end."""
        above = ["".join(row[at].data for at in range(18)).rstrip() for row in self.screen.history.top]
        lines = [*above, *[line.rstrip() for line in self.screen.display]]
        while lines and not lines[-1]:
            lines.pop()
        return lines


@given(ACTS, st.integers(3, 12))
def test_what_is_said_stays_in_order_with_the_rows_below_it(acts: list[tuple[str, Any]], height: int) -> None:
    """The model: all that was said or left, line by line, then the rows, then the cursor."""
    terminal = Terminal(height)
    entered = [0]

    def pop() -> int:
        count, entered[0] = entered[0], 0
        return count

    away = False
    foot = FootRows(terminal.stream.feed, lambda: terminal.size, {}, entered=pop, is_away=lambda: away)
    said: list[str] = []
    rows: list[str] = []
    for act, given_now in acts:
        if act == "away":  # the rows that were there stay as they are
            away = given_now
            foot.show([(("not here", ""),)] if away else [])
            if away:
                said += rows
                rows = []
        elif act == "show" and away:
            foot.show([((text, ""),) for text in given_now])
        elif act == "show":
            foot.show([((text, ""),) for text in given_now])
            rows = given_now
            if len(rows) >= height:
                rows = [*rows[: height - 2], f"... and {len(given_now) - height + 2} more"]
        elif act == "say":
            foot.say("\n".join(given_now))
            said += given_now
        elif act == "enter" and rows:
            terminal.stream.feed("\r\n")  # as the terminal echoes it
            entered[0] += 1
            if len(rows) + 1 >= height:  # the first row is out of reach by then
                foot.abandon()
                entered[0] = 0
                said += [*rows, ""]
                rows = []
        elif act == "abandon":
            foot.abandon()
            said += rows
            rows = []
        elif act == "other":  # a child prints below the rows, which are left there
            terminal.stream.feed(given_now + "\r\n")
            foot.abandon()
            said += [*rows, given_now]
            rows = []
        foot.show([((text, ""),) for text in rows])
        assert terminal.lines() == [*said, *rows][: len(terminal.lines())] or terminal.lines() == _trimmed(said + rows)
        assert terminal.screen.cursor.x == 0


def _trimmed(lines: list[str]) -> list[str]:
    while lines and not lines[-1]:
        lines = lines[:-1]
    return lines


def test_nothing_is_sent_if_nothing_has_changed() -> None:
    sent: list[str] = []
    foot = FootRows(sent.append, lambda: (40, 10), {"bar": "7"})
    assert foot.show([(("Stacking", ""), ("  ", "bar"))])
    count = len(sent)
    assert not foot.show([(("Stacking", ""), ("  ", "bar"))])
    assert len(sent) == count
    assert "\x1b[7m  \x1b[m" in sent[0]


def test_no_mode_of_the_terminal_is_set() -> None:
    """At the end of a piece: the process may end between any two."""
    sent: list[str] = []
    foot = FootRows(sent.append, lambda: (40, 10), {})
    foot.show([(("Stacking", ""),)])
    foot.say("a line")
    foot.hide()
    assert left_set("".join(sent).encode()) == []
    for piece in sent:
        assert left_set(piece.encode()) == []


def test_a_narrower_terminal_that_breaks_rows_has_more_of_them() -> None:
    sent: list[str] = []
    size = [40, 10]
    foot = FootRows(sent.append, lambda: (size[0], size[1]), {}, breaks=True)
    foot.show([(("a" * 30, ""),), (("b" * 10, ""),)])
    size[0] = 20
    foot.show([(("a" * 15, ""),), (("b" * 10, ""),)])
    assert "\r\x1b[3A" in sent[-1]
    cut = FootRows(sent.append, lambda: (size[0], size[1]), {}, breaks=False)
    size[0] = 40
    cut.show([(("a" * 30, ""),), (("b" * 10, ""),)])
    size[0] = 20
    cut.show([(("a" * 15, ""),), (("b" * 10, ""),)])
    assert "\r\x1b[2A" in sent[-1]


@given(st.integers(0, 8), st.integers(1, 12), st.integers(1, 12))
def test_above_a_frame_there_are_as_many_rows_as_fit(count: int, height: int, rows: int) -> None:
    frame = Frame(tuple([((f"row {number}", ""),) for number in range(height)]), (height - 1, 2))
    work = tuple([((f"work {number}", ""),) for number in range(count)])
    whole = with_rows_above(work, frame, rows)
    added = max(min(count, rows - height), 0)
    assert whole.rows == (*work[:added], *frame.rows)
    assert whole.cursor == (height - 1 + added, 2)


def test_a_row_that_comes_to_a_terminal_which_has_become_narrower_is_cut() -> None:
    """Its size was asked for a moment before: a row that wrapped would be two, and the next one too far down."""
    terminal = Terminal(8)
    foot = FootRows(terminal.stream.feed, lambda: (40 if foot.rows else 18, 8), {}, breaks=False)
    for number in range(4):
        foot.show([((f"Stacking  {number} of 3" + "." * 20 * bool(number), ""),)])
        assert len(terminal.lines()) == 1
        assert terminal.lines()[0].startswith(f"Stacking  {number} of 3")
    terminal.stream.feed("what a child prints is wrapped as ever")
    assert len(terminal.lines()) == 4
