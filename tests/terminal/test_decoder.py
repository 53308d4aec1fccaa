"""From bytes to events."""

from __future__ import annotations

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon.editing.keys.events import Event, Focus, Key, Mouse, Paste, Position
from wesperon.terminal.decoder import Decoder


def names(events: list[Event]) -> list[str]:
    return [event.name if isinstance(event, Key) else repr(event) for event in events]


@pytest.mark.parametrize(
    ("data", "expected"),
    [
        (b"a\xc3\xa9", ["a", "é"]),
        (b" ", ["space"]),
        (b"\r\n\t\x7f\x08\x00", ["enter", "ctrl-j", "tab", "backspace", "ctrl-h", "ctrl-space"]),
        (b"\x01\x1a\x1f", ["ctrl-a", "ctrl-z", "ctrl-_"]),
        (b"\x1b[A\x1bOB\x1b[1;5C\x1b[H\x1b[4~", ["up", "down", "ctrl-right", "home", "end"]),
        (b"\x1b[3~\x1b[5~\x1b[6;2~\x1b[Z", ["delete", "page-up", "shift-page-down", "shift-tab"]),
        (b"\x1bOP\x1b[15~\x1b[24~\x1b[1;3D", ["f1", "f5", "f12", "alt-left"]),
        (b"\x1bf\x1b\x7f\x1b\r\x1b\x01", ["alt-f", "alt-backspace", "alt-enter", "ctrl-alt-a"]),
        (b"\x1b\xc3\xa9", ["alt-é"]),
        (b"\x1b\x1b[A", ["escape", "up"]),
        # junk: unknown sequences, strings, mouse reports, a sequence cut off by a control character
        (b"\x1b[?1;2c\x1b[99~\x1b[1;5Xx", ["x"]),
        (b"\x1b]0;title\x07\x1bPq\x1b\\x", ["x"]),
        (b"\x1b[M !!x\x1b[<3;1;1Mx\x1b[<0;0;1M\x1b[<0;1M", ["x", "x"]),
        # other spellings: consoles, number pads, modifiers told in full
        (b"\x1b[[A\x1b[[Ex\x1b[[\x03", ["f1", "f5", "x", "ctrl-c"]),
        (
            b"\x1b[3^\x1b[3$\x1b[5@\x1b[a\x1bOd",
            ["ctrl-delete", "shift-delete", "ctrl-shift-page-up", "shift-up", "ctrl-left"],
        ),
        (b"\x1bOp\x1bOk\x1bOM\x1b[25~\x1b[34~", ["0", "+", "enter", "f13", "f20"]),
        (
            b"\x1b[97;5u\x1b[97u\x1b[97;2u\x1b[13;2u\x1b[27;6;9~\x1b[57441u",
            ["ctrl-a", "a", "A", "shift-enter", "ctrl-shift-tab"],
        ),
        # the window's focus, and the mouse
        (b"\x1b[I\x1b[O", ["Focus(gained=True)", "Focus(gained=False)"]),
        (
            b"\x1b[<0;5;3M\x1b[<16;1;1m\x1b[<65;9;9M\x1b[<34;2;2M",
            [
                "Mouse(name='left', action='press', row=2, column=4)",
                "Mouse(name='ctrl-left', action='release', row=0, column=0)",
                "Mouse(name='wheel-down', action='press', row=8, column=8)",
                "Mouse(name='right', action='drag', row=1, column=1)",
            ],
        ),
        (b"\x1b[12\x03", ["ctrl-c"]),
        # bytes that are no UTF-8
        (b"\xff\xc3(\xe6\x97", ["\ufffd", "\ufffd", "(", "\ufffd"]),
        (b"\xed\xa0\x80", ["\ufffd", "\ufffd", "\ufffd"]),
        # pasted text is text, whatever it holds
        (b"\x1b[200~a\r\nb\x1b[A\x03\x1b[201~c", ["Paste(text='a\\nb\\x1b[A\\x03')", "c"]),
    ],
)
def test_bytes_are_keys(data: bytes, expected: list[str]) -> None:
    decoder = Decoder()
    assert names(decoder.feed(data) + decoder.flush()) == expected


@pytest.mark.parametrize(
    ("data", "expected"),
    [(b"\x1b", ["escape"]), (b"\x1b\x1b", ["escape", "escape"]), (b"\x1b[", ["alt-["]), (b"\x1bO", ["alt-O"]),
     (b"\x1b[1;", []), (b"\xe6", ["\ufffd"])],
)  # fmt: skip
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


@pytest.mark.parametrize(
    ("data", "expected"),
    [
        (b"\x1b[97;1:3u\x1b[97u", ["a"]),  # a release is no key
        (b"\x1b[97;1:1u\x1b[97;1:2u", ["a", "a"]),  # a press, and one that repeats
        (b"\x1b[97:65;2u", ["A"]), (b"\x1b[49:33;2u", ["!"]), (b"\x1b[49:33;6u", ["ctrl-!"]),
        (b"\x1b[97::99;5u", ["ctrl-a"]), (b"\x1b[1089::99;5u", ["ctrl-c"]),
        (b"\x1b[1;1:3A\x1b[3;5:3~\x1b[1;5:1A", ["ctrl-up"]),
        (b"\x1b[5C", ["ctrl-right"]), (b"\x1b[2A", ["shift-up"]), (b"\x1b[3D", ["alt-left"]),
        (b"\x1b[6F", ["ctrl-shift-end"]),
        (b"\x1b[1C", ["right"]), (b"\x1b[0C", ["right"]), (b"\x1b[99C", []),
        (b"\x1b[27;5;97~", ["ctrl-a"]), (b"\x1b[57441;2:3u", []), (b"\x1b[97;;98u", ["a"]),
    ],
)  # fmt: skip
def test_reports_of_extended_keyboards_are_read_as_their_standard_says(data: bytes, expected: list[str]) -> None:
    assert names(Decoder().feed(data)) == expected
