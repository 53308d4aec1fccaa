"""Laws of the parts of the pager, each against the obvious way over any bytes.

Modules: ``widgets.pager.pieces``, ``widgets.pager.line_numbers``, ``widgets.pager.needle``,
``widgets.pager.letter_case``, ``widgets.pager.laying``, ``widgets.pager.source_colours``, ``files.file_view``,
``text.byte_search``.
"""

from __future__ import annotations

import os
import tempfile
from itertools import pairwise

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from wesperon.files.file_view import FileView
from wesperon.screen.frame import row_text
from wesperon.screen.theme import COLOURED, UNCOLOURED, Theme
from wesperon.text import byte_search
from wesperon.text.byte_search import NEAR, ByteSearch
from wesperon.widgets.pager.laying import in_window
from wesperon.widgets.pager.line_numbers import LineNumbers
from wesperon.widgets.pager.needle import Needle
from wesperon.widgets.pager.pieces import Pieces
from wesperon.widgets.pager.source_colours import taken_out

TEXTS = st.text(st.sampled_from("ab\né漢😀 Zz"), max_size=120).map(str.encode)
BYTES = st.one_of(TEXTS, st.binary(max_size=80))


@given(data=BYTES, most=st.sampled_from([4, 8, 16]))
def test_every_byte_is_in_one_piece_and_each_way_there_finds_the_same(data: bytes, most: int) -> None:
    pieces = Pieces(data, most)
    starts, at = [], 0
    while at < len(data):
        starts.append(at)
        end, after = pieces.end(at)
        assert at < after <= len(data)
        assert data[end:after] in (b"", b"\n")
        assert b"\n" not in data[at:end]
        at = after
    for byte in range(len(data)):
        assert pieces.start(byte) == max(start for start in starts if start <= byte)
    for earlier, start in pairwise(starts):
        assert pieces.before(start) == earlier
    lines = [start for start in starts if pieces.is_line_start(start)]
    assert lines == [at for at in range(len(data)) if at == 0 or data[at - 1 : at] == b"\n"]


@given(text=TEXTS, most=st.sampled_from([4, 8, 16]))
def test_a_cut_is_never_inside_a_character_and_short_lines_are_not_cut(text: bytes, most: int) -> None:
    pieces = Pieces(text, most)
    at = 0
    while at < len(text):
        end, after = pieces.end(at)
        text[at:end].decode()
        if end == after and after < len(text):
            assert after - pieces.line_start(at) >= most - 3
        at = after


@given(data=BYTES, block=st.sampled_from([4, 7, 32]), ahead=st.integers(0, 12))
def test_lines_have_the_numbers_that_counting_gives(data: bytes, block: int, ahead: int) -> None:
    numbers = LineNumbers(data, block)
    for _ in range(ahead):
        numbers.step()
    for offset in range(len(data)):
        assert numbers.number(offset) in (None, data[:offset].count(b"\n") + 1)
    while numbers.step():
        pass
    lines = [0, *[at + 1 for at in range(len(data)) if data[at : at + 1] == b"\n"]]
    for number, offset in enumerate(lines, 1):
        assert numbers.offset(number) == offset
        assert numbers.number(offset) == number
    assert numbers.offset(len(lines) + 1) is None


@given(data=BYTES, needle=st.text(st.sampled_from("abz é漢Z"), min_size=1, max_size=4), colours=st.booleans())
def test_a_slice_has_the_lines_that_have_the_needle(data: bytes, needle: str, colours: bool) -> None:
    made = Needle(needle, keeps_colours=colours)
    lines, at = data.split(b"\n"), 0
    wanted = []
    for number, line in enumerate(lines):
        if made.matches(line.decode("utf-8", "surrogateescape")):
            wanted.append(number)
        at += len(line) + 1
    assert [data[:found].count(b"\n") for found in made.lines(data)] == wanted
    last = made.last(data)
    assert (-1 if last < 0 else data[:last].count(b"\n")) == (wanted[-1] if wanted else -1)


@given(data=st.binary(max_size=300), needle=st.binary(min_size=1, max_size=3))
def test_a_view_of_a_file_finds_what_bytes_find(data: bytes, needle: bytes) -> None:
    with tempfile.TemporaryFile(buffering=0) as file:
        file.write(data)
        view = FileView(os.dup(file.fileno()))
    try:
        assert len(view) == len(data)
        for start in (0, 1, len(data) // 2):
            assert view.find(needle, start) == data.find(needle, start)
            assert view.rfind(needle, start) == data.rfind(needle, start)
            assert view[start : start + 9] == data[start : start + 9]
    finally:
        view.close()


@given(text=st.text(st.sampled_from("a漢b"), max_size=30), left=st.integers(0, 40), columns=st.integers(3, 20))
def test_a_row_that_is_cut_shows_its_columns_and_says_what_is_beside(text: str, left: int, columns: int) -> None:
    cells = "".join(char if char.isascii() else char + "\0" for char in text)
    shown = row_text(in_window(((text, ""),), left, columns))
    wide = "".join(char if char.isascii() else char + "\0" for char in shown)
    assert len(wide) <= columns
    inside = range(left + (left > 0), left + columns - (len(cells) > left + columns))
    for column in inside:
        if column < len(cells) and cells[column].isascii() and cells[column] != "\0":
            assert wide[column - left] == cells[column]
    assert shown.startswith("<") == (left > 0 and bool(text))
    assert shown.endswith(">") == (len(cells) > left + columns)


def test_colours_of_a_text_become_roles_and_reset_with_each_line() -> None:
    theme = Theme(dict(COLOURED), 256)
    text = "\x1b[1;31mred\x1b[22m light\x1b[38;5;214m orange\x1b[48:2::1:2:3mground\x1b[0m plain \x1b[8mhidden"
    plain, marks = taken_out(text, theme)
    assert plain == "red light orangeground plain hidden"
    looks = {plain[start:end]: theme.roles[role] for start, end, role in marks}
    assert looks == {"red": "1;31", " light": "31", " orange": "38;5;214", "ground": "38;5;214;48;2;1;2;3"}
    assert taken_out("next", theme) == ("next", ())


def test_without_colours_weights_stay() -> None:
    theme = Theme(dict(UNCOLOURED), 0)
    plain, marks = taken_out("\x1b[1;31mred\x1b[3m slanted\x1b[m", theme)
    assert {plain[start:end]: theme.roles[role] for start, end, role in marks} == {"red": "1", " slanted": "1;3"}


@given(st.text(st.sampled_from("\x1b[0123456789;:mab"), max_size=60))
def test_any_parameters_are_read_and_only_known_ones_are_sent(text: str) -> None:
    theme = Theme(dict(COLOURED), 256)
    plain, marks = taken_out(text, theme)
    assert all(0 <= start < end <= len(plain) for start, end, _ in marks)
    for _, _, role in marks:
        assert all(part.isdecimal() and int(part) < 256 for part in theme.roles[role].split(";"))


@given(
    words=st.lists(st.sampled_from([b"dome ", b"Dome ", b"dOME\n", b"mast ", b"\0", b"\xc9 "]), max_size=12),
    blanks=st.sampled_from([0, 3, 200, NEAR - 5, NEAR]),
    wanted=st.sampled_from([b"dome", b"Dome d", b"me m", b"e", b"\0", b"e \0", b" " * NEAR, b"!", b""]),
    start=st.integers(0, 2 * NEAR),
    has_library=st.booleans(),
)
@example(words=[b"mast ", b"\0", b"dome "], blanks=NEAR, wanted=b"dome", start=0, has_library=True)
def test_bytes_are_found_where_bytes_find_them_with_the_c_library_or_without(
    words: list[bytes], blanks: int, wanted: bytes, start: int, has_library: bool
) -> None:
    data = (b" " * blanks).join(words)
    with pytest.MonkeyPatch.context() as patch:
        if not has_library:
            patch.setattr(byte_search, "strstr", lambda only_there: None)
        search = ByteSearch(data, wanted)
        for at in (start, start, 0, search.find(start) + 1):
            assert search.find(at) == data.find(wanted, at)


WORDS = [
    "dome",
    "Dome",
    "dOME\n",
    "DOME",
    "mast",
    "seeing",
    "Seeing D",
    "SEEING\n",
    "\u00c9",
    "\u212a",
    "x y",
    "xxXxy",
    "x" * 4000,
]


@given(
    slices=st.lists(
        st.tuples(st.lists(st.sampled_from(WORDS), max_size=12), st.sampled_from([1, 3, NEAR]), st.integers(1, 40)),
        min_size=1,
        max_size=4,
    ),
    needle=st.sampled_from(
        ["dome", "me d", "e", "seeing d", "mast seeing dome dome", "k", "xxxy", "!", "x" * 70 + " dome"]
    ),
)
@example(slices=[(["x" * 4000], 1, 1), (["Dome", "mast"], 1, 40), (["DOME"], 1, 40)], needle="dome d")
@example(slices=[(["x y"] * 2000 + ["xxXxy"], 1, 1)], needle="xxxy")
def test_small_letters_are_found_in_any_letter_case_whatever_the_text_before_was(
    slices: list[tuple[list[str], int, int]], needle: str
) -> None:
    made = Needle(needle)
    for words, blanks, times in slices:
        data = ((" " * blanks).join(words) + " ").encode() * times
        found = [data[:at].count(b"\n") for at in made.lines(data)]
        lines = data.lower().split(b"\n")
        assert found == [number for number, line in enumerate(lines) if needle.encode() in line]
