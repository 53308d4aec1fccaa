"""What may happen to a program: actions as plain tuples, drawn by chance, so that a run can be repeated.

("type", TEXT)              a text, in one piece
("bytes", PIECE, ...)       bytes, cut into pieces that come one after the other
("slow", PIECE, ...)        the same on a slow line, cut anywhere
("paste", TEXT)             a text in one piece, as a terminal marks it
("click", ROW, COLUMN)      a button of the mouse, pressed and released
("signal", NAME, ...)       one signal, or several at once
("storm", NAME, TIMES)      one signal again and again
("stop",)                   stopped, looked at, and continued
("resize", COLUMNS, ROWS)   another size
("wait", SECONDS)           nothing for a while
("redraw",)                 the screen is compared with a fresh drawing
"""

from __future__ import annotations

import random
import signal
from itertools import pairwise

Action = tuple[object, ...]

#: Keys that move and delete, as most terminals send them, by their names in :class:`campaign.model.Text`.
EDITS = {
    "left": b"\x1b[D",
    "right": b"\x1b[C",
    "home": b"\x1b[H",
    "end": b"\x1b[F",
    "backspace": b"\x7f",
    "delete": b"\x1b[3~",
    "kill": b"\x0b",
}
#: Keys that may do anything.
KEYS = [
    *EDITS.values(),
    *(b"\x1b[A", b"\x1b[B", b"\r", b"\t", b"\x12", b"\x1b[1;5D", b"\x1b[5~", b"\x1bb", b"\x1b\x7f", b"\x19", b"\x1a"),
    *(b"\x1f", b"\x18\x05", b"\x16", b"\x1b[200~", b"\x1b", b"\x00", b"\x1bOP", b"\x07", b"\x0f", b" ", b"\x1b[Z"),
    *(b"\xc3", b"\xa9", b"\xe2\x82\xac", b"\xff", b"\x1b[999", b"\x1b]0;x\x07", b"\x1b[1;1R"),
]
LETTERS = "abc de xyz 0123 note.\u00e9\u4e2d"
#: Names of commands and answers that the programs know.
WORDS = [
    "say x",
    "nap",
    "nap &",
    "cool",
    "cool &",
    "point",
    "point Lantern 3",
    "child",
    "inner",
    "look",
    "aside",
    "jobs",
    "5",
    "lens 4",
]
#: Signals that end a process unless it says otherwise, but for those that a fault of the process itself raises.
ENDING = [
    name
    for name in (
        *("SIGHUP", "SIGQUIT", "SIGTERM", "SIGUSR1", "SIGUSR2", "SIGALRM", "SIGVTALRM", "SIGPROF", "SIGXCPU"),
        *("SIGIO", "SIGPWR", "SIGSTKFLT", "SIGSYS", "SIGTRAP", "SIGABRT", "SIGRTMIN", "SIGRTMAX"),
    )
    if hasattr(signal, name)
]


def drawn(chance: random.Random, *, is_modelled: bool, has_noise: bool) -> list[Action]:
    """Return some actions; of a modelled program only those after which its text is known."""
    made = [_one(chance, is_modelled=is_modelled, has_noise=has_noise) for _ in range(chance.randint(1, 25))]
    if not is_modelled and chance.random() < 0.5:
        made.append(_ending(chance))
    return made


def _ending(chance: random.Random) -> Action:
    if chance.random() < 0.3:
        return ("signal", chance.choice(["SIGTERM", "SIGHUP"]))
    if chance.random() < 0.15:
        return ("storm", "SIGINT", 30)
    return ("signal", *(chance.choice(ENDING) for _ in range(chance.choice([1, 2, 2]))))


def _one(chance: random.Random, *, is_modelled: bool, has_noise: bool) -> Action:
    roll = chance.random()
    if is_modelled and roll > 0.97:  # on a slow line, whose pieces may end anywhere
        data = b"".join(chance.choices(_keys(is_modelled), k=2))
        places = sorted({0, len(data), *(chance.randint(0, len(data)) for _ in range(2))})
        return ("slow", *(data[start:end] for start, end in pairwise(places)))
    if roll < 0.35:
        return ("type", "".join(chance.choices(LETTERS, k=chance.randint(1, 12))))
    if roll < 0.60:
        return ("bytes", *_cut(chance, b"".join(chance.choices(_keys(is_modelled), k=chance.randint(1, 4)))))
    if roll < 0.66:
        return ("paste", "".join(chance.choices(LETTERS, k=chance.randint(1, 40))))
    if roll < 0.74:
        return ("resize", chance.choice([20, 33, 60, 80, 120]), chance.choice([3, 8, 24, 50]))
    if roll < 0.80:
        return ("stop",)
    if roll < 0.86:
        return ("wait", round(chance.random() / 4, 3))
    if roll < 0.92 and not has_noise:
        return ("redraw",)
    if is_modelled:
        return ("signal", "SIGWINCH", "SIGCONT")
    if roll < 0.97:
        return ("type", chance.choice(WORDS) + "\r")
    return ("click", chance.randint(0, 30), chance.randint(0, 80))


def _keys(is_modelled: bool) -> list[bytes]:
    return list(EDITS.values()) if is_modelled else KEYS


def _cut(chance: random.Random, data: bytes) -> list[bytes]:
    """Return the bytes in pieces, none of which ends in a lone ESC, which is a key of its own after a moment."""
    pieces, rest = [], data
    while rest:
        size = chance.randint(1, len(rest))
        while rest[:size].endswith(b"\x1b") and size < len(rest):
            size += 1
        pieces.append(rest[:size])
        rest = rest[size:]
    return pieces
