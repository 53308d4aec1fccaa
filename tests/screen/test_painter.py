"""What is sent to a terminal makes an independent emulator's screen equal to the frame.

Modules: ``screen.painter``, ``screen.ecma48``, ``screen.line_wrap``.
"""

from __future__ import annotations

import unicodedata

import pyte
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from campaign.modes import left_set
from tests.tables import tabled
from wesperon.editing.graphemes import clusters
from wesperon.screen.ecma48 import CURSOR_SHAPES, SYNC_ON, WRAP_OFF
from wesperon.screen.frame import Frame, Row, cells, row_text
from wesperon.screen.full_screen import FullScreenPainter
from wesperon.screen.layout import field, field_area
from wesperon.screen.line_wrap import WrappedText
from wesperon.screen.painter import Painter
from wesperon.screen.theme import COLOURED, UNCOLOURED, Theme, roles_for
from wesperon.screen.width import cut, width, wrap
from wesperon.terminal.decoder import Decoder
from wesperon.terminal.kept_lines import KeptLines
from wesperon.text.escape import quoted, visible
from wesperon.widgets.line import Line
from wesperon.widgets.question import Question
from wesperon.widgets.secret import Secret
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.widget import Prompt

# What the emulator can hold: ASCII, accented and wide characters, and a letter with a combining mark.
TEXTS = st.lists(st.sampled_from([*"abc xyz_é日本", "e\u0301"]), max_size=14).map("".join)
ROWS = st.lists(st.tuples(TEXTS, st.sampled_from(["", "label", "current", "fault"])), max_size=4).map(tuple)
FRAMES = st.builds(
    Frame,
    st.lists(ROWS, min_size=1, max_size=5).map(tuple),
    st.none() | st.tuples(st.integers(0, 4), st.integers(0, 25)),
)


class Emulated:
    """A painter whose output an emulator shows, below what was on its screen before."""

    def __init__(self, columns: int, rows: int, before: str = "") -> None:
        self.columns, self.rows = columns, rows
        self.screen = pyte.Screen(columns, rows)
        self.stream = pyte.Stream(self.screen)
        self.painter = Painter(COLOURED)
        self.stream.feed(before + self.painter.start(columns))
        self.top = self.screen.cursor.y

    def paint(self, frame: Frame) -> None:
        reached = max(self.painter.depth, min(len(frame.rows), self.rows))
        self.stream.feed(self.painter.paint(frame, self.columns, self.rows))
        self.top = min(self.top, self.rows - reached)

    def shown(self, count: int) -> list[str]:
        return [line.rstrip() for line in self.screen.display[self.top : self.top + count]]


def expected(row: Row, columns: int) -> str:
    """Return the row as the emulator holds it, which composes letters and marks."""
    shown = cells(row, columns)
    # The emulator wraps before a combining mark at the right edge, which no terminal does.
    assume(len(shown) < columns or len(shown[-1][0]) < 2)
    return unicodedata.normalize("NFC", "".join(cluster for cluster, _ in shown)).rstrip()


SHAPED = st.builds(
    lambda frame, shape: Frame(frame.rows, frame.cursor, shape),
    FRAMES,
    st.sampled_from(["", "", "bar", "block", "underline"]),
)
LEAVING = {
    "hide": lambda painter: painter.hide(20),
    "abandon": lambda painter: painter.abandon(),
    "finish": lambda painter: painter.finish(Frame((((("done", ""),)),), None), 20),
}
STEPS = st.one_of(SHAPED, st.sampled_from([*LEAVING, "above", "clear"]))


@settings(max_examples=150)
@given(st.booleans(), st.lists(STEPS, max_size=8))
def test_who_leaves_the_terminal_leaves_no_mode_and_who_comes_back_sets_it_again(
    is_full: bool, steps: list[Frame | str]
) -> None:
    painter: Painter = FullScreenPainter(dict(COLOURED), KeptLines()) if is_full else Painter(COLOURED)
    sent = painter.start(20)
    for step in steps:
        if isinstance(step, Frame):
            sent += painter.paint(step, 20, 4)
            left = left_set(sent.encode())
            assert ("?25l" in left) == (step.cursor is None)
            assert [one for one in left if "shape" in one] == (
                [f"shape of the cursor {CURSOR_SHAPES[step.shape].strip(' q')[2:]}"] if step.shape else []
            )
        elif step in LEAVING:
            sent += LEAVING[step](painter)
            assert left_set(sent.encode()) == []
            painter.note_left()
            sent += painter.start(20)
        else:
            sent += painter.above(["said"], 20) if step == "above" else painter.clear(20)


@settings(max_examples=80)
@given(st.integers(1, 24), st.integers(1, 8), st.sampled_from(["", "x", "one\r\ntwo", "w" * 30]), st.lists(FRAMES))
def test_the_screen_equals_the_frame_after_any_sequence(
    columns: int, rows: int, stood: str, frames: list[Frame]
) -> None:
    emulated = Emulated(columns, rows, stood)
    for frame in frames:
        drawn = frame.rows[:rows]
        wanted = [expected(row, columns) for row in drawn]
        emulated.paint(frame)
        assert emulated.shown(len(drawn)) == wanted
        assert all(not line for line in emulated.shown(rows)[len(drawn) :])
        cursor = emulated.screen.cursor
        assert cursor.hidden == (frame.cursor is None)
        if frame.cursor is not None:
            row, column = min(frame.cursor[0], len(drawn) - 1), min(frame.cursor[1], columns - 1)
            assert (cursor.y - emulated.top, min(cursor.x, columns - 1)) == (row, column)


@settings(max_examples=50)
@given(st.lists(st.tuples(FRAMES, st.integers(1, 30)), min_size=1))
def test_another_width_leaves_nothing_of_the_old_frame(steps: list[tuple[Frame, int]]) -> None:
    emulated = Emulated(20, 12)
    for frame, columns in steps:
        emulated.columns = columns
        wanted = [expected(row, columns) for row in frame.rows]
        emulated.screen.resize(12, columns)
        emulated.paint(frame)
        assert emulated.shown(12)[: len(frame.rows)] == wanted
        assert not any(emulated.shown(12)[len(frame.rows) :])


class WithHistory(pyte.Screen):
    """A screen that pushes rows out at its top as it becomes lower, so that the cursor stays, and brings them back."""

    def __init__(self, columns: int, rows: int) -> None:
        self.pushed: list[str] = []
        super().__init__(columns, rows)

    def index(self) -> None:
        if self.cursor.y == self.lines - 1:
            self.pushed.append(self.display[0].rstrip())
        super().index()

    def set_height(self, rows: int) -> None:
        shown = self.display
        row, column = self.cursor.y, self.cursor.x
        if rows < self.lines:
            out = max(row + 1 - rows, 0)
            self.pushed += [line.rstrip() for line in shown[:out]]
            shown = shown[out : out + rows]
            row -= out
        else:
            back = min(rows - self.lines, len(self.pushed))
            shown = [*self.pushed[len(self.pushed) - back :], *shown]
            del self.pushed[len(self.pushed) - back :]
            row += back
        wraps = pyte.modes.DECAWM in self.mode
        self.resize(rows, self.columns)
        self.reset_mode(pyte.modes.DECAWM >> 5, private=True)
        self.erase_in_display(2)
        for number, line in enumerate(shown, 1):
            self.cursor_position(number, 1)
            self.draw(line.rstrip())
        if wraps:
            self.set_mode(pyte.modes.DECAWM >> 5, private=True)
        self.cursor_position(row + 1, column + 1)

    def all_rows(self) -> list[str]:
        return [line for line in [*self.pushed, *map(str.rstrip, self.display)] if line]


HEIGHTS = st.integers(2, 14)


@settings(max_examples=80)
@given(
    st.lists(HEIGHTS | st.tuples(st.integers(1, 9), st.none() | st.integers(0, 8)) | st.just("said"), max_size=14),
    st.booleans(),
)
def test_another_height_loses_no_row_and_leaves_no_copy(steps: list[object], is_deep: bool) -> None:
    """Sizes, frames and messages in any order: above the last frame is what was said, once, and nothing else.

    A message keeps rows of a frame in the scrolled-off part that were pushed there before it; so there are messages
    only while the cursor is in the first row.
    """
    screen = WithHistory(20, 10)
    stream, painter, said, height = pyte.Stream(screen), Painter(COLOURED), ["a", "b", "c", "d", "e", "f"], 10
    stream.feed("\r\n".join(said) + "\r\n" + painter.start(20))
    frame = Frame(((("row 0", ""),),), (0, 0))
    for step in [*steps, 14, (3, 0)]:
        if isinstance(step, int):
            screen.set_height(step)
            height = step
            painter.resized(20, height, (screen.cursor.y, screen.cursor.x), True)
        elif isinstance(step, tuple):
            count, at = step
            cursor = None if at is None else (min(at, count - 1) if is_deep else 0, 2)
            frame = Frame(tuple(((f"row {number}", ""),) for number in range(count)), cursor)
        elif not is_deep:
            said.append(f"said {len(said)}")
            stream.feed(painter.above([said[-1]], 20))
        limited = frame.rows[:height]
        cursor = frame.cursor and (min(frame.cursor[0], len(limited) - 1), frame.cursor[1])
        stream.feed(painter.paint(Frame(limited, cursor), 20, height))
    assert screen.all_rows() == [*said, "row 0", "row 1", "row 2"]
    stream.feed(painter.finish(Frame(((("done", ""),),)), 20))
    assert screen.all_rows() == [*said, "done"]
    assert pyte.modes.DECAWM in screen.mode


@tabled
def test_the_column_of_the_cursor_tells_where_the_first_row_went(found: int | None, breaks: bool, rows_up: int) -> None:
    """Two rows of 30 columns at a width of 20: broken, each takes two rows, and column 20 is column 0 of the second."""
    painter = Painter(COLOURED)
    painter.start(40)
    painter.paint(Frame(((("x" * 30, ""),), (("y" * 30, ""),)), (1, 20)), 40, 10)
    painter.resized(20, 10, None if found is None else (5, found), breaks)
    sent = painter.paint(Frame(((("z", ""),),), (0, 1)), 20, 10)
    assert sent.removeprefix("\x1b[?2026h").startswith(
        f"\r\x1b[{rows_up}A".replace("[1A", "[A") + "\x1b[K\x1b[C\x1b[J\r"
    )


def test_what_stood_above_stays_and_a_finished_frame_too() -> None:
    emulated = Emulated(20, 6, "hello")
    emulated.paint(Frame(((("a", ""),), (("b", ""),)), (0, 1)))
    emulated.stream.feed(emulated.painter.finish(Frame(((("done", "label"),),)), 20))
    emulated.stream.feed("next")
    assert [line.rstrip() for line in emulated.screen.display[:4]] == ["hello", "done", "next", ""]


def line(text: str) -> Frame:
    return Frame(((("  Label  ", "label"), (text, "")), (("foot", "foot"),)), (0, 9 + len(text)))


@tabled
def test_a_plain_key_costs_as_few_bytes_as_it_takes(before: str, after: str, sent: str) -> None:
    painter = Painter(COLOURED)
    painter.start(80)
    painter.paint(line(before), 80, 24)
    assert painter.paint(line(after), 80, 24) == sent


def test_a_cluster_of_uncertain_width_does_not_shift_the_rest() -> None:
    painter = Painter(COLOURED)
    painter.start(20)
    sent = painter.paint(Frame(((("\U0001f469\u200d\U0001f680x", ""),),), (0, 3)), 20, 5)
    assert "\U0001f680\x1b[3Gx" in sent


HOSTILE = st.text(st.characters() | st.sampled_from("\x1b\n\r\t\x9b\u202e\u2028\ud800\x00"), max_size=30)


@given(HOSTILE, HOSTILE)
def test_no_control_character_of_a_text_reaches_the_terminal(label: str, value: str) -> None:
    """Promise 5."""
    painter = Painter(UNCOLOURED)
    painter.start(80)
    rows = (*field(visible(label), value, 10, 80), ((value, ""),))
    sent = painter.paint(Frame(rows), 80, 24)
    for known in ("\r\n", "\r", "\x1b[K", "\x1b[J", "\x1b[?25l", "\x1b[?2026h", "\x1b[?2026l", "\x1b[A", WRAP_OFF):
        sent = sent.replace(known, "")
    while "\x1b[" in sent:
        at = sent.index("\x1b[")
        end = next(field_area for field_area in range(at + 2, len(sent)) if "@" <= sent[field_area] <= "~")
        assert sent[end] in "mGCDAB"
        sent = sent[:at] + sent[end + 1 :]
    sent = sent.replace("\b", "")
    assert visible(sent) == sent


@tabled
def test_what_would_act_on_the_terminal_is_shown_visibly(text: str, seen: str) -> None:
    assert visible(text) == seen
    assert visible(seen) == seen


@given(HOSTILE, st.integers(1, 40))
def test_cutting_and_wrapping_keep_to_the_columns(text: str, columns: int) -> None:
    text = visible(text)
    assert width(cut(text, columns)) <= columns
    assert all(width(row) <= columns for row in wrap(text, columns))
    if columns > 1:  # a wide character does not fit into one column
        assert "".join(wrap(text, columns)).replace(" ", "") == text.replace(" ", "")
    first = wrap(f"    {text.strip(' ')}", columns)[0]
    if text.strip(" ") and width(text.strip(" ").partition(" ")[0]) + 4 <= columns:
        assert first.startswith("    ")
        assert first.strip(" ")


@given(st.lists(HOSTILE, min_size=1), st.integers(2, 30), st.integers(1, 9), st.booleans(), st.data())
def test_the_part_of_a_text_in_sight_fits_and_has_its_cursor_inside(
    lines: list[str], columns: int, room: int, tabs: bool, data: st.DataObject
) -> None:
    sheet = WrappedText(tabs=tabs)
    for _ in range(3):
        line = data.draw(st.integers(0, len(lines) - 1))
        ends = [0]
        for cluster in clusters(lines[line]):
            ends.append(ends[-1] + len(cluster))
        at = data.draw(st.sampled_from(ends))
        rows, (row, column) = sheet.view(lines, (line, at), columns, room, lambda number: ())
        assert 1 <= len(rows) <= room
        assert all(width(row_text(row)) <= columns for row in rows)
        assert 0 <= row < len(rows)
        assert 0 <= column <= columns
        sheet.drawn()
        field_area = sheet.locate(row, column)
        assert field_area is not None
        assert field_area[0] == line
        assert field_area[1] == at or column == columns
        if len(rows) < room:  # nothing is left out while there is room
            assert sheet.top == (0, 0)


def test_a_long_text_is_quoted_within_bounds() -> None:
    assert len(quoted("x\x1b" * 1_000_000)) <= 42
    assert len(field("label", "y" * 10_000, 5, 80)) == 4


def test_a_narrow_terminal_has_labels_above_values() -> None:
    assert field_area(8, 80).left == 12
    assert field_area(8, 30).stacked
    assert [row_text(row) for row in field("Target", "Lantern", 6, 20)] == ["Target", "  Lantern"]


def test_colours_follow_the_environment() -> None:
    assert "91" in roles_for({})["reason"]
    for parameters in roles_for({"NO_COLOR": "1"}).values():
        assert not any(30 <= int(number) < 50 for number in parameters.split(";") if number)


TYPED = st.sampled_from(
    [b"a", b"word ", "é".encode(), "日本".encode(), b"\r", b"\x1b[A", b"\x1b[B", b"\x1b[D", b"\x1bb", b"\x17", b"\x19",
     b"\x7f", b"\x01", b"\x05", b"\x0b", b"\x00", b"\x1b[1;2D", b"\x14", b"\x1f", b"\x1b[2~",
     b"\x1b[200~x\r\ty\x1b[201~", b"("]
)  # fmt: skip


@settings(max_examples=40, deadline=None)
@given(
    st.lists(TYPED, max_size=40), st.integers(12, 40), st.integers(2, 9), st.sampled_from([Line, SeveralLines, Secret])
)
def test_whatever_is_typed_the_screen_shows_the_frame(
    pieces: list[bytes], columns: int, rows: int, kind: type[Line]
) -> None:
    emulated, decoder = Emulated(columns, rows), Decoder()
    line = Question(Prompt("desk", 4), kind(str, syntax="python", live=True))
    line.set_theme(Theme(emulated.painter.look, 16))
    for piece in pieces:
        for event in decoder.feed(piece):
            line.press(event)
        if line.outcome is not None:
            break
        frame = line.view(columns, rows)
        wanted = [expected(row, columns) for row in frame.rows]
        emulated.paint(frame)
        assert emulated.shown(len(wanted)) == wanted
        assert frame.cursor is not None
        cursor = emulated.screen.cursor
        assert (cursor.y - emulated.top, cursor.x) == frame.cursor


def test_a_frame_of_several_changed_rows_is_shown_in_one_go() -> None:
    painter = Painter({})
    painter.start(20)
    frame = Frame(((("one", ""),), (("two", ""),)))
    assert painter.paint(frame, 20, 5).startswith(WRAP_OFF + SYNC_ON)
    assert painter.paint(frame, 20, 5) == ""
    changed = painter.paint(Frame(((("one!", ""),), (("two", ""),))), 20, 5)
    assert SYNC_ON not in changed


def test_a_row_that_reaches_the_last_column_is_never_shifted() -> None:
    """What a terminal pushes out of the last column is lost: shifting would leave another row than was meant."""
    for columns in range(8, 16):
        painter = Painter({})
        painter.start(columns)
        painter.paint(Frame((((("abcdefghijklmnop" * 2)[: columns - 1], ""),),)), columns, 5)
        text = painter.paint(Frame((((("Xabcdefghijklmnop" * 2)[:columns], ""),),)), columns, 5)
        assert "\x1b[@" not in text, columns


@given(st.lists(st.integers(0, 70), min_size=1, max_size=3), st.integers(1, 3))
def test_a_long_message_above_a_frame_is_broken_and_a_long_row_is_cut(lengths: list[int], count: int) -> None:
    """While the frame is shown the terminal cuts rows; what is put above it is all there."""
    emulated = Emulated(20, 30)
    frame = Frame(tuple((("r" * 40, ""),) for _ in range(count)), (0, 0))
    emulated.paint(frame)
    assert pyte.modes.DECAWM not in emulated.screen.mode
    emulated.stream.feed(emulated.painter.above(["m" * length for length in lengths], 20))
    emulated.paint(frame)
    shown = [line.rstrip() for line in emulated.screen.display]
    rows = [("m" * length)[at : at + 20] for length in lengths for at in range(0, max(length, 1), 20)]
    assert shown[: len(rows) + count] == [*rows, *["r" * 20] * count]
