"""The full screen: frames on the alternate screen, with the interface of the inline painter.

Modules: ``screen.full_screen``, ``screen.row_changes``.
"""

from __future__ import annotations

import random

import pyte
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import Terminal, python
from wesperon.screen.ecma48 import ALTERNATE_OFF, ALTERNATE_ON
from wesperon.screen.frame import Frame, Row, row_text
from wesperon.screen.full_screen import FullScreenPainter
from wesperon.screen.theme import COLOURED
from wesperon.terminal.kept_lines import KeptLines

PROGRAM = """
from wesperon.terminal.tty_driver import reach
from wesperon.widgets.notice import Notice

class Full(Notice):
    is_full_screen = True

print('before')
driver = reach()
driver.run(Full('on the full screen' + chr(10) * 30 + 'end'))
print('after')
"""


def test_any_frames_come_out_equal_on_the_screen() -> None:
    rolled = random.Random(3)
    screen = pyte.Screen(30, 8)
    stream = pyte.Stream(screen)
    painter = FullScreenPainter(dict(COLOURED), KeptLines())
    stream.feed(painter.start(30))
    for _ in range(200):
        columns, rows = rolled.choice([(30, 8), (30, 8), (12, 5), (40, 3)])
        screen.resize(rows, columns)
        made = tuple([(("ab日"[rolled.randrange(3)] * rolled.randrange(6), "label"),) for _ in range(rows)])
        frame = Frame(made, (rolled.randrange(rows), 0))
        stream.feed(painter.paint(frame, columns, rows))
        assert [line.rstrip() for line in screen.display] == [row_text(row) for row in made]
        assert (screen.cursor.y, screen.cursor.x) == frame.cursor


def test_what_is_said_meanwhile_comes_when_the_screen_is_left() -> None:
    painter = FullScreenPainter({}, KeptLines())
    assert painter.start(20).startswith(ALTERNATE_ON)
    assert painter.above(["the mast is up"], 20) == ""
    text = painter.finish(Frame(((("done", ""),),)), 20)
    assert text.index(ALTERNATE_OFF) < text.index("the mast is up") < text.index("done")
    assert painter.above(["once"], 20) == ""
    painter.start(20)
    assert "once" in painter.abandon()


def test_the_main_screen_comes_back_as_it_was() -> None:
    with Terminal(python("-c", PROGRAM), rows=10) as terminal:
        terminal.see("on the full screen")
        assert b"\x1b[?1049h" in terminal.received
        terminal.type("\r")
        assert terminal.end() == 0
        tail = terminal.received[terminal.received.index(b"\x1b[?1049l") :]
        assert b"on the full screen" in tail
        assert b"after" in tail
        assert terminal.received.count(b"\x1b[?1049h") == terminal.received.count(b"\x1b[?1049l") == 1


TEXTS = st.lists(st.sampled_from([*"abc xyz_é日本─", " " * 5, " " * 14, "ab ab"]), max_size=12).map("".join)
ROWS = st.lists(st.tuples(TEXTS, st.sampled_from(["", "", "label", "current", "fault"])), max_size=3).map(tuple)
FRAMES = st.builds(
    Frame,
    st.lists(ROWS, min_size=1, max_size=6).map(tuple),
    st.none() | st.tuples(st.integers(0, 5), st.integers(0, 25)),
)
CHANGES = st.lists(st.tuples(st.integers(0, 5), ROWS), max_size=3)


@settings(max_examples=60)
@given(st.integers(1, 24), st.integers(1, 6), st.lists(st.tuples(FRAMES, CHANGES), min_size=1, max_size=5))
def test_a_changed_screen_is_what_one_drawn_at_once_is(
    columns: int, height: int, drawn: list[tuple[Frame, list[tuple[int, Row]]]]
) -> None:
    painter = FullScreenPainter(dict(COLOURED), KeptLines())
    screen = pyte.Screen(columns, height)
    stream = pyte.Stream(screen)
    stream.feed(painter.start(columns))
    for frame, changes in drawn:
        rows = [*frame.rows]
        for changed in [None, *changes]:  # whole frames, then some rows of them
            if changed is not None and changed[0] < len(rows):
                rows[changed[0]] = changed[1]
            row, column = frame.cursor or (0, 0)
            place = frame.cursor and (min(row, len(rows) - 1), column)
            now = Frame(tuple(rows), place)
            stream.feed(painter.paint(now, columns, height))
            at_once = pyte.Screen(columns, height)
            new = FullScreenPainter(dict(COLOURED), KeptLines())
            pyte.Stream(at_once).feed(new.start(columns) + new.paint(now, columns, height))
            assert looks(screen) == looks(at_once)
            assert screen.cursor.hidden == at_once.cursor.hidden == (now.cursor is None)
            if now.cursor is not None:
                assert (screen.cursor.y, screen.cursor.x) == (at_once.cursor.y, at_once.cursor.x)


CLUSTERS = [*"aaabbbc   ", "─", "▄", "日", "e\u0301", "\U0001f321", "\x07"]
NAMES = ["", "", "label", "fault"]


def split(cells: list[tuple[str, str]], rolled: random.Random) -> Row:
    """Return a row of clusters and their roles, in spans that are not always as long as they could be."""
    spans: list[tuple[str, str]] = []
    for cluster, role in cells:
        if spans and spans[-1][1] == role and rolled.random() < 0.8:
            spans[-1] = (spans[-1][0] + cluster, role)
        else:
            spans.append((cluster, role))
    return tuple(spans)


@settings(max_examples=100)
@given(st.integers(0, 1 << 30))
def test_rows_whose_columns_change_one_by_one_are_what_is_drawn_at_once(seed: int) -> None:
    rolled = random.Random(seed)
    columns, height = rolled.randint(4, 40), rolled.randint(1, 4)
    clusters = CLUSTERS if rolled.random() < 0.6 else CLUSTERS[:12]
    cells = [[(rolled.choice(clusters), rolled.choice(NAMES)) for _ in range(columns)] for _ in range(height)]
    painter = FullScreenPainter(dict(COLOURED), KeptLines())
    screen = pyte.Screen(columns, height)
    stream = pyte.Stream(screen)
    stream.feed(painter.start(columns))
    for _ in range(12):
        for row in cells:
            for _ in range(rolled.choice([0, 1, 1, 3, columns])):
                at = rolled.randrange(columns)
                what = rolled.randrange(4)
                row[at] = (row[at][0] if what == 0 else rolled.choice(clusters), row[at][1])
                if what == 0:  # other roles in the same places, and another place for the same role
                    row[at] = (row[at][0], rolled.choice(NAMES))
                elif what == 1:
                    row.insert(at, row.pop())
        now = Frame(tuple([split(row, rolled) for row in cells]))
        stream.feed(painter.paint(now, columns, height))
        at_once = pyte.Screen(columns, height)
        new = FullScreenPainter(dict(COLOURED), KeptLines())
        pyte.Stream(at_once).feed(new.start(columns) + new.paint(now, columns, height))
        assert looks(screen) == looks(at_once)


@given(st.integers(0, 1 << 30))
def test_after_what_terminals_differ_on_the_cursor_is_placed(seed: int) -> None:
    rolled = random.Random(seed)
    painter = FullScreenPainter(dict(COLOURED), KeptLines())
    painter.start(20)
    uncertain = "\U0001f321"
    for _ in range(6):
        text = "".join(rolled.choices(["a", "b", " ", uncertain], [4, 4, 4, 1], k=12))
        sent = painter.paint(Frame((((text, ""),), (("end", ""),)), (1, 3)), 20, 4)
        for part in sent.split(uncertain)[1:]:
            assert part.startswith(("\r", "\x1b[")), sent
            assert next(char for char in part if char == "\r" or char.isalpha()) in "\rGHK", sent


def looks(screen: pyte.Screen) -> list[list[tuple[object, ...]]]:
    """Return all cells with their renditions."""
    return [[tuple(screen.buffer[row][column]) for column in range(screen.columns)] for row in range(screen.lines)]
