"""From bytes to events.

Modules: ``terminal.decoder``.
"""

from __future__ import annotations

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon.editing.keys.events import Event, Focus, Key, Mouse, Paste, Position
from wesperon.terminal.decoder import Decoder


def names(events: list[Event]) -> list[str]:
    return [event.name if isinstance(event, Key) else repr(event) for event in events]


@tabled
def test_bytes_are_keys(data: bytes, expected: list[str]) -> None:
    decoder = Decoder()
    assert names(decoder.feed(data) + decoder.flush()) == expected


@tabled
def test_what_is_pending_is_decided_by_time(data: bytes, expected: list[str]) -> None:
    decoder = Decoder()
    assert decoder.feed(data) == []
    assert decoder.is_pending
    assert names(decoder.flush()) == expected
    assert not decoder.is_pending
    assert names(decoder.feed(b"x")) == ["x"]


PIECES = st.sampled_from(
    [
        b"a",
        b"\xe6\x97\xa5",
        b"\x1b[A",
        b"\x1bOP",
        b"\x1b[1;5C",
        b"\x1b[200~x\x1b[201~",
        b"\x1b]t\x07",
        b"\x1b",
        b"\xff",
        b"\x1b[[A",
        b"\x1b[3$",
        b"\x1b[<0;1;2M",
    ]
)


@given(st.lists(PIECES | st.binary(max_size=4)).map(b"".join), st.data())
def test_how_the_bytes_are_cut_into_pieces_makes_no_difference(data: bytes, draw: st.DataObject) -> None:
    whole, cut = Decoder(), Decoder()
    expected = whole.feed(data)
    places = sorted(draw.draw(st.lists(st.integers(0, len(data)), max_size=5)))
    events: list[Event] = []
    for start, end in zip([0, *places], [*places, len(data)], strict=True):
        events += cut.feed(data[start:end])
    assert events == expected
    assert cut.flush() == whole.flush()


def test_a_position_report_is_one_only_while_it_is_waited_for() -> None:
    decoder = Decoder()
    assert names(decoder.feed(b"\x1b[1;2R")) == ["shift-f3"]
    decoder.reports = 1
    assert decoder.feed(b"\x1b[12;40R\x1b[1;2R") == [Position(11, 39), Key("shift-f3")]


def test_random_bytes_never_crash_the_decoder() -> None:
    noise = random.Random(20).randbytes(100_000)
    decoder = Decoder()
    events = [event for at in range(0, len(noise), 97) for event in decoder.feed(noise[at : at + 97])]
    assert len(events) > 10_000
    assert all(isinstance(event, (Focus, Key, Mouse, Paste)) for event in events)


@pytest.mark.parametrize("opener", ["]", "P", "X", "^", "_"])
def test_a_string_without_an_end_does_not_take_the_keyboard(opener: str) -> None:
    begun = b"\x1b" + opener.encode()
    for inside, wait in ((b"", 0.025), (b"52;c;abc", 1.0), (b"x" * 5000, 1.0), (b"x\x1b", 1.0)):
        decoder = Decoder()
        assert decoder.feed(begun) == []
        assert decoder.feed(inside) == []
        assert (decoder.is_pending, decoder.timeout) == (True, wait)
        assert names(decoder.flush()) == ([] if inside else [f"alt-{opener}"])  # the key that was pressed
        assert (decoder.is_pending, names(decoder.feed(b"ab"))) == (False, ["a", "b"])
        decoder = Decoder()
        decoder.feed(begun + inside.rstrip(b"\x1b"))
        assert names(decoder.feed(b"zz\x03a")) == ["ctrl-c", "a"]  # Ctrl-C always gets through


@given(st.text(min_size=1, max_size=6))
def test_text_that_comes_byte_by_byte_is_the_same_text(text: str) -> None:
    """The driver waits for long enough between the bytes of a character, so that ``flush`` comes only between two."""
    data = text.encode("utf-8", "ignore")
    decoder, events = Decoder(), []
    for at in range(len(data)):
        events += decoder.feed(data[at : at + 1])
        if decoder.is_pending:
            assert decoder.timeout >= (1.0 if data[at] >= 0x80 else 0)
            if data[at] < 0x80:
                events += decoder.flush()
    # What comes in one read is one key where it is one character to the reader; byte by byte it is the same text.
    assert "".join(names(events)) == "".join(names(Decoder().feed(data))) or b"\x1b" in data


@tabled
def test_reports_of_extended_keyboards_are_read_as_their_standard_says(data: bytes, expected: list[str]) -> None:
    assert names(Decoder().feed(data)) == expected
