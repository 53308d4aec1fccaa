"""What is typed means the same at any speed, however it is cut, and reaches whoever reads next.

The law: one script of keys, its bytes cut at every place, with 1, 30 and 300 ms between them, gives the same text with
the cursor at the same place, in both families. A lone Escape waits 25 ms, a sequence that has begun waits for its end.

Modules: ``terminal.seat.typed_ahead``.
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import ENTER, Terminal, python
from wesperon import Form, slot
from wesperon.editing.keys.events import Event, Key
from wesperon.terminal.decoder import OPENERS, OPENERS_OF_COMMANDS, Decoder
from wesperon.testing import Press, Scripted

#: Keys that a line knows, as terminals send them.
SEQUENCES = [
    b"\x1b[A", b"\x1b[B", b"\x1b[C", b"\x1b[D", b"\x1b[H", b"\x1b[F", b"\x1b[3~", b"\x1b[1;5D", b"\x1b[1;5C",
    b"\x1b[1;2H", b"\x1b[200~two words\x1b[201~", b"\x1b[200~\xe2\x98\x95\x1b[201~", b"\x1b[<0;3;4M",
]  # fmt: skip
#: Keys of another form: where keys are commands, Escape and O are more likely two of them, and what was inserted last
#: is known once an Escape has come.
SHIFTED = [b"\x1b[97;5u", b"\x1bOD", b"\x1bOF", b"\x1bOH"]
TEXTS = [b"a", b" ", b"\xc3\xa9", b"\xe4\xb8\xad", b"\xf0\x9f\x91\x8d", b"x1", b"[", b"A"]
GAPS = [0.001, 0.03, 0.3]


class Line(Form):
    """One line that several keys have been typed into."""

    note = slot(low=0)


def played(chunks: list[bytes], gap: float, keys: str) -> list[Event]:
    """Return the events of chunks that come one after the other, so far apart in time."""
    decoder = Decoder()
    decoder.openers = OPENERS if keys == "modeless" else OPENERS_OF_COMMANDS
    events: list[Event] = []
    for chunk in chunks:
        events += decoder.feed(chunk)
        left = gap
        while decoder.is_pending and decoder.timeout <= left:
            left -= decoder.timeout
            events += decoder.flush()
    while decoder.is_pending:
        events += decoder.flush()
    return events


def cuts(data: bytes) -> Iterator[list[bytes]]:
    """Yield the data in two pieces, cut at every place, and byte by byte."""
    for at in range(1, len(data)):
        yield [data[:at], data[at:]]
    yield [data[at : at + 1] for at in range(len(data))]


def text_of(events: list[Event], keys: str) -> str:
    """Return what a line holds after the events, with a mark where the cursor is."""
    script: list[Any] = [*events, "|", Press("enter")]
    return str(Line.fill([], driver=Scripted(script), keys=keys).note)


@pytest.mark.parametrize(
    ("keys", "sequence"),
    [("modeless", one) for one in SEQUENCES + SHIFTED] + [("modal", one) for one in SEQUENCES],
)
def test_a_key_that_comes_in_pieces_is_the_same_key(sequence: bytes, keys: str) -> None:
    data = b"one two" + sequence + b"x"
    whole = text_of(played([data], 0, keys), keys)
    for gap in GAPS:
        for pieces in cuts(data):
            assert text_of(played(pieces, gap, keys), keys) == whole, (gap, pieces)


@settings(max_examples=60, deadline=None)
@given(
    parts=st.lists(st.sampled_from(SEQUENCES + TEXTS), min_size=1, max_size=6),
    keys=st.sampled_from(["modeless", "modal"]),
    gap=st.sampled_from(GAPS),
    drawn=st.data(),
)
def test_a_script_of_keys_cut_anywhere_at_any_speed_gives_the_same_text(
    parts: list[bytes], keys: str, gap: float, drawn: st.DataObject
) -> None:
    data = b"".join(parts)
    places = sorted(drawn.draw(st.sets(st.integers(0, len(data)))) | {0, len(data)})
    pieces = [data[start:end] for start, end in pairwise(places)]
    assert text_of(played(pieces, gap, keys), keys) == text_of(played([data], 0, keys), keys)


def test_an_escape_of_its_own_is_one_and_a_bracket_after_it_is_text() -> None:
    decoder = Decoder()
    assert decoder.feed(b"\x1b") == []
    assert decoder.timeout == 0.025
    assert decoder.flush() == [Key("escape")]
    assert decoder.feed(b"[") == []
    assert decoder.flush() == [Key("[", "[")]
    assert decoder.feed(b"[A") == [Key("[", "["), Key("A", "A")]


@pytest.mark.parametrize("typed", ["👩‍👩‍👧", "é", "👍🏽", "🇩🇪", "각", "👩‍👩‍👧👍🏽", "नी"])
def test_what_comes_in_one_read_is_put_in_whole(typed: str) -> None:
    events = Decoder().feed(typed.encode())
    driver = Scripted(["👍", Press("home"), *events, "|", Press("enter")])
    assert Line.fill([], driver=driver).note == f"{typed}|👍"


@pytest.mark.parametrize(
    ("typed", "text"), [("3ix\x1b\r", "xxx"), ("ab\x1b\r", "ab"), ("ab\x1b\x7f\x1b\r", "ab"), ("a b\x1b x\x1b\r", "a ")]
)
def test_escape_and_a_key_in_one_burst_are_two_keys_in_the_modal_family(typed: str, text: str) -> None:
    start = [Press("escape")] if typed.startswith("3") else []
    events = Decoder().feed(typed.encode())
    driver = Scripted([*start, *events])
    assert Line.fill([], driver=driver, keys="modal").note == text


NEXT = """
import subprocess, sys
from wesperon import fill, one_of, slot
{ask}
for way in sys.argv[1:]:
    if way == "input":
        print("got", input("Own "), flush=True)
    elif way == "stdin":
        print("got", sys.stdin.readline().strip(), flush=True)
    elif way == "question":
        print("got", *fill([], again=slot()), flush=True)
    else:
        subprocess.run(["sh", "-c", "read line; echo got $line"])
print("end", sys.stdin.isatty(), flush=True)
"""
#: Questions, and the bytes that answer them; what is typed after that is for others.
ASKS = {
    "line": ("fill([], first=slot())", "one" + ENTER),
    "paste": ("fill([], first=slot())", "\x1b[200~one two\x1b[201~" + ENTER),
    "large paste": ("fill([], first=slot())", "\x1b[200~" + "one " * 3_000 + "\x1b[201~" + ENTER),
    "menu": ("fill([], first=slot(one_of(['a', 'b'])))", "b" + ENTER),
    "own key": (
        "from wesperon import Form\nclass F(Form):\n    first = slot()\nF.fill([], bindings={'ctrl-x': 'accept'})",
        "one\x18",
    ),
}


@pytest.mark.parametrize("ask", ASKS)
@pytest.mark.parametrize("ways", [["input"], ["question", "input"], ["child"], ["question", "child"]])
def test_what_is_typed_ahead_in_one_burst_reaches_whoever_reads_next(ask: str, ways: list[str]) -> None:
    if ask == "own key" and ways[0] == "child":
        pytest.skip("what came in one read with a key of the user's own is no longer there for a child")
    program, keys = ASKS[ask]
    with Terminal(python("-c", NEXT.format(ask=program), *ways), rows=40) as terminal:
        terminal.see("first")
        terminal.quiet()
        terminal.type(keys + "".join(f"ahead {way}{ENTER}" for way in ways))
        for way in ways:
            terminal.see(f"got ahead {way}")
        terminal.see("end True")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


@pytest.mark.parametrize("gap", GAPS)
def test_arrows_on_a_slow_line_move_the_cursor(gap: float) -> None:
    with Terminal(python("-c", "from wesperon import fill, slot; print('got', *fill([], first=slot()))")) as terminal:
        terminal.see("first")
        terminal.quiet()
        for byte in "abc\x1b[D\x1b[DX\x1b[200~p q\x1b[201~\x1b[1;5DY" if gap < 0.3 else "aqbc\x1b[D\x1b[D\x1b[DY":
            terminal.type(byte)
            time.sleep(gap)
        terminal.type(ENTER)
        terminal.see("got aXp Yqbc" if gap < 0.3 else "got aYqbc")
        assert terminal.end() == 0


def test_the_two_line_ends_are_two_keys() -> None:
    program = (
        "from wesperon import Form, slot\nclass F(Form):\n    first = slot()\n"
        "print('got', F.fill([], bindings={'ctrl-j': 'uppercase-word'}).first)"
    )
    with Terminal(python("-c", program)) as terminal:
        terminal.see("first")
        terminal.quiet()
        terminal.type("ab cd\x01\n" + ENTER)
        terminal.see("got AB cd")
        assert terminal.end() == 0
