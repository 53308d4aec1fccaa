"""Random keys do in our line what they do in the line of a real shell; ``make fuzz`` tries many more."""

from __future__ import annotations

import random

import pytest

from tests.editing.shell_line import ARGUMENTS, KEYS, SEARCHES, difference, drawn, ours
from wesperon.editing.keys.modeless import TABLE
from wesperon.terminal.decoder import Decoder

SEQUENCES = 10


@pytest.mark.parametrize("about", KEYS)
def test_random_keys_do_what_they_do_in_a_shell(about: str) -> None:
    rolled = random.Random(f"{about} 7")
    differ = {}
    compared = 0
    while compared < SEQUENCES:
        keys = drawn(rolled, about)
        if ours(keys) is None:
            continue
        compared += 1
        found = difference(keys)
        if found is not None:
            differ[tuple(keys)] = found
    assert not differ


def test_most_keys_of_the_family_are_compared() -> None:
    """What is not compared is listed here, so that a new key does not go by unseen."""
    decoder, seen = Decoder(), set()
    for key in [*(key for keys in KEYS.values() for key in keys), *SEARCHES, *ARGUMENTS]:
        for piece in key.replace("\x1b_", "\0\x1b_\0").split("\0") if "\x1b_" in key else [key]:
            seen |= {getattr(event, "name", "") for event in decoder.feed(piece.encode()) + decoder.flush()}
    seen |= {"ctrl-space", "ctrl-h"}
    left = {keys for keys in TABLE if not set(keys.split(" ")) <= seen}
    assert left == {
        *("ctrl-home", "ctrl-end", "ctrl-up", "ctrl-down", "page-up", "page-down", "alt-left", "alt-right"),
        *("alt-m", "shift-backspace", "ctrl-d", "ctrl-backspace", "ctrl-alt-h", "ctrl-delete", "alt-delete"),
        *("alt-space", "ctrl-^", "alt-w", "insert", "ctrl-q", "alt-p", "alt-n", "ctrl-alt-k", "ctrl-c", "ctrl-g"),
        *("shift-left", "shift-right", "ctrl-shift-left", "ctrl-shift-right", "shift-home", "shift-end", "shift-up"),
        *("shift-down", "ctrl-shift-home", "ctrl-shift-end", "shift-delete", "alt-enter", "shift-enter", "enter"),
        *("ctrl-j", "ctrl-o", "tab", "alt-?", "alt-=", "alt-*", "alt-#", "ctrl-l", "shift-tab", "alt-up", "f1"),
        *("ctrl-x p", "ctrl-x h"),
    }  # fmt: skip
