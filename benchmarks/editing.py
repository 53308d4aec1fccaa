"""What typical edits send to the terminal, and what an hour of typing leaves in memory.

Bytes: the keys are pressed on a line or a text that is on the screen already, and what the painter sends is counted.
The baseline for memory is the most that is held in the second third of the hour, since the steps that can be undone
fill up first; the budget is 1.1 times that in the last third. An hour is 18,000 keys, five a second, in a text of
several lines with colours, parts of which are deleted and brought back.
"""

from __future__ import annotations

import gc
import random
import tracemalloc

from wesperon.editing.keys.events import Key, Paste, typed
from wesperon.screen.painter import Painter
from wesperon.screen.theme import COLOURED, Theme
from wesperon.widgets.line import Line
from wesperon.widgets.question import Question
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.widget import Prompt

HOUR = 18_000
BUDGET = 1.1
TEXT = "expose HOLLIN-051 Lantern Nebula 90"
#: Name, the text, the keys that are pressed before, the key that is counted.
EDITS: list[tuple[str, str, list[str], str]] = [
    ("a character at the end", TEXT, [], "x"),
    ("a wide character at the end", TEXT, [], "日"),
    ("a character in the middle", TEXT, ["alt-b", "alt-b"], "x"),
    ("a character at the start", TEXT, ["home"], "x"),
    ("Left", TEXT, [], "left"),
    ("Home", TEXT, [], "home"),
    ("End", TEXT, ["home"], "end"),
    ("Alt-B, a word back", TEXT, [], "alt-b"),
    ("Backspace at the end", TEXT, [], "backspace"),
    ("Backspace in the middle", TEXT, ["alt-b", "alt-b"], "backspace"),
    ("Ctrl-W, a word deleted", TEXT, [], "ctrl-w"),
    ("Ctrl-U, all deleted", TEXT, [], "ctrl-u"),
    ("Ctrl-Y, all brought back", TEXT, ["ctrl-u"], "ctrl-y"),
    ("Ctrl-T, two characters exchanged", TEXT, [], "ctrl-t"),
    ("Ctrl-_, undone", TEXT, ["ctrl-w"], "ctrl-_"),
    ("Enter in several lines, at the end", "one\ntwo", [], "enter"),
    ("Enter in several lines, in the middle", "one\ntwo\nthree\nfour", ["ctrl-home", "end"], "enter"),
    ("Up in several lines", "one\ntwo\nthree", [], "up"),
]


def key(name: str) -> Key:
    """Return the key of this name, or the one that types the character."""
    return typed(name) if len(name) == 1 else Key(name)


def sent(text: str, before: list[str], last: str) -> int:
    """Return the bytes that the last key sends."""
    field: Line = SeveralLines(str, default=text) if "\n" in text else Line(str, default=text)
    line = Question(Prompt("desk", 4), field)
    painter = Painter(dict(COLOURED))
    painter.start(80)
    line.press(key("end"))
    for name in before:
        line.press(key(name))
    painter.paint(line.view(80, 24), 80, 24)
    line.press(key(last))
    return len(painter.paint(line.view(80, 24), 80, 24).encode())


def held(keys: int) -> tuple[int, int]:
    """Return the most bytes in use in the second third of the keys, and in the last one."""
    rolled = random.Random(5)
    field = SeveralLines(str, syntax="python")
    text = Question(Prompt("note", 4), field)
    text.set_theme(Theme(dict(COLOURED), 16))
    painter = Painter(dict(COLOURED))
    painter.start(80)
    tracemalloc.start()
    peaks = [0, 0, 0]
    for number in range(keys):
        if number % 600 == 599:
            text.press(Key("ctrl-end"))
            for _ in range(20):
                text.press(Key("ctrl-u"))
        text.press(rolled.choice([typed(rolled.choice("abc de(1)")), Key("enter"), Key("left"), Key("ctrl-y")]))
        if number % 50 == 0:
            text.press(Paste("frames = 12\n"))
        if number % 5 == 0:
            painter.paint(text.view(80, 24), 80, 24)
        if len(text.text) > 4_000:
            text.press(Key("ctrl-end"))
            field.editor.apply("delete-text-whole")
        if number % 300 == 0:
            gc.collect()
            third = number * 3 // keys
            peaks[third] = max(peaks[third], tracemalloc.get_traced_memory()[0])
    tracemalloc.stop()
    return peaks[1], peaks[2]


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    for name, text, before, last in EDITS:
        print(f"{sent(text, before, last):5} bytes  {name}")
    early, late = held(HOUR)
    ratio = late / early
    verdict = "within" if ratio <= BUDGET else "OVER"
    print(f"memory in the last twenty minutes of an hour: {late / 1e6:.1f} MB, {ratio:.2f} times", end=" ")
    print(f"that of the twenty minutes before; {verdict} {BUDGET}")
    return 0 if ratio <= BUDGET else 1


if __name__ == "__main__":
    raise SystemExit(main())
