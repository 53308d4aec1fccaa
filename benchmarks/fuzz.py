"""Random bytes through decoder, editor and painter: a seeded run that must not fail.

``fuzz.py [BYTES] [SEED]``; 10,000,000 bytes if not given. The bytes are cut into pieces of any length. Half of them are
plain noise, half are made of what terminals send. Every kind of question gets its share; after each piece its frame is
drawn. A failure shows as an exception; the seed gives it again.
"""

from __future__ import annotations

import random
import sys
import time
from collections.abc import Callable, Iterator
from typing import Any

from wesperon import any_of, one_of
from wesperon.editing.history_view import ListHistory
from wesperon.screen.painter import Painter
from wesperon.screen.theme import COLOURED
from wesperon.terminal.decoder import Decoder
from wesperon.values.candidate import Candidate
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.question import Question
from wesperon.widgets.secret import Secret
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.widget import Prompt
from wesperon.widgets.yes_no import YesNo

BYTES, SEED = 10_000_000, 4
#: A text longer than this is begun again, so that the run measures keys and not megabytes.
LONGEST = 20_000
PROMPT = Prompt("desk", 4, "which one?", "a text", note="3 queued")
PAST = ListHistory(["expose HOLLIN-051 90", "note 'first\nlight'", "queue"] * 3)
PIECES = [
    *[bytes((code,)) for code in range(0x20)],
    *[b"\x1b[" + end for end in (b"A", b"B", b"C", b"D", b"3~", b"1;5C", b"1;2D", b"200~", b"201~", b"<0;5;2M", b"I")],
    *[b"\x1b" + end for end in (b"OP", b"]0;t\x07", b"f", b"3", b"-", b"b", b".", b"<")],
    *[b"\x18" + end for end in (b"(", b")", b"e", b"\x18", b"\x0b")],
    *["é日\u0301\U0001f469\u200d\U0001f680".encode(), b"\x7f", b"word ", b"(]", b"\n"],
]


def complete(text: str, cursor: int) -> tuple[int, list[Candidate]]:
    """Two candidates for anything."""
    return 0, [Candidate("expose"), Candidate("export", "a note")]


MAKERS: list[Callable[[], Any]] = [
    lambda: Question(PROMPT, Line(str, default="one two", past=PAST, complete=complete)),
    lambda: Question(PROMPT, SeveralLines(str, past=PAST, syntax="python")),
    lambda: Question(PROMPT, Secret(str, twice=True, mask="")),
    lambda: Question(PROMPT, YesNo(str)),
    lambda: Question(PROMPT, Menu(one_of(list("abc")).choices, str)),
    lambda: Question(PROMPT, Checkboxes(any_of(range(100)).choices, lambda places: places)),
]


def pieces(rolled: random.Random, count: int) -> Iterator[bytes]:
    """So many bytes, in pieces."""
    while count > 0:
        size = rolled.choice((1, 7, 64, 500))
        if rolled.random() < 0.5:
            piece = rolled.randbytes(size)
        else:
            piece = b"".join(rolled.choices(PIECES, k=max(size // 3, 1)))
        count -= len(piece)
        yield piece


def main(words: list[str]) -> int:
    """Run, and print what was run."""
    count, seed = (int(word) for word in (words + [str(BYTES), str(SEED)][len(words) :])[:2])
    rolled = random.Random(seed)
    begin, drawn, events, answered = time.perf_counter(), 0, 0, 0
    decoder, painter, widget = Decoder(), Painter(dict(COLOURED)), MAKERS[0]()
    painter.start(80)
    for piece in pieces(rolled, count):
        found = decoder.feed(piece)
        if rolled.random() < 0.05:
            found += decoder.flush()
        for event in found:
            widget.press(event)
            widget.wish = ""
            events += 1
            long = len(getattr(widget, "text", "")) > LONGEST
            if widget.outcome is not None or long:
                answered += 1
                painter.finish(widget.view(80, 24), 80)
                widget = rolled.choice(MAKERS)()
                dress = getattr(widget, "dress", None)
                if dress is not None:
                    dress(painter.look, 16, "")
        columns, rows = rolled.choice(((80, 24), (80, 24), (80, 24), (20, 4), (1, 1), (300, 80)))
        frame = widget.view(columns, rows)
        assert len(frame.rows) <= rows, (seed, columns, rows)
        painter.paint(frame, columns, rows)
        drawn += 1
    taken = time.perf_counter() - begin
    print(
        f"{count:,} bytes of seed {seed}: {events:,} events, {answered:,} outcomes, {drawn:,} frames in {taken:.0f} s"
    )
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
