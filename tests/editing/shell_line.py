"""The line of a real shell beside ours: the same bytes to both, and what both have in the line then.

``python -m tests.editing.shell_line [SEQUENCES] [SEED]`` compares many random sequences of keys and prints those that
differ, as short as they can be made. What differs on purpose is not drawn, or not looked at; ``docs/guide-editing.md``
lists it. A shell that reads ahead joins what was deleted before and after a typed text, so movements are between them.
"""

from __future__ import annotations

import os
import pty
import random
import select
import signal
import sys
import tempfile
import termios
import time
from collections.abc import Callable
from pathlib import Path

import pyte

from wesperon.editing.history_view import ListHistory, Match, Recall
from wesperon.editing.incremental_search import IncrementalSearch
from wesperon.editing.keys.events import Key
from wesperon.terminal.decoder import Decoder
from wesperon.text.escape import visible
from wesperon.widgets.line import Line

#: Typed after the keys, it shows where the cursor is; typed again after Ctrl-E, that all has been drawn.
MARK = "\u00a6"
END = (MARK + "\x05" + MARK).encode()
COLUMNS, DEADLINE = 300, 20.0
ENTRIES = ["one two", "three four_five 'six seven'", "expose 90 --frames=4", "note a.b-c", "queue"]

LETTERS = ["a", "b", " ", "c", "word ", "x_y ", "foo.bar-baz", "'q r' ", "(a b)", "  "]
MOVES = [
    "\x02",
    "\x06",
    "\x1bb",
    "\x1bf",
    "\x01",
    "\x05",
    "\x1b[D",
    "\x1b[C",
    "\x1b[H",
    "\x1b[F",
    "\x1b[1;5C",
    "\x1b[1;5D",
]
DELETIONS = ["\x7f", "\x08", "\x1b[3~", "\x1bd", "\x1b\x7f", "\x17", "\x15", "\x0b", "\x1b\\"]
PASTES = ["\x19", "\x1by", "\x19\x1by"]
CHANGES = ["\x14", "\x1bt", "\x1bu", "\x1bl", "\x1bc"]
JUMPS = ["\x1da", "\x1d ", "\x1b\x1da", "\x1b\x1d."]
COUNTS = ["\x1b2", "\x1b3", "\x1b-", "\x1b-2", "\x1b0", "\x1b11"]
RECALLS = ["\x10", "\x0e", "\x1b[A", "\x1b[B", "\x1b<", "\x1b>"]
WORDS = ["\x1b.", "\x1b_", "\x1b\x19"]
ARGUMENTS = ["\x1b\x02", "\x1b\x06", "\x1b\x04", "\x1b\x14"]
#: The cursor after an undo is another one on purpose, so a movement follows.
UNDOES = ["\x1f\x01", "\x18\x15\x05", "\x1br\x01", "\x1f\x1f\x05"]
#: Each search is left by a key that then does what it always does; turning round takes the shell one key more.
SEARCHES = [
    way + needle + again * times + leave
    for way in "\x12\x13"
    for needle in ("o", "e ", "se", "a", "no", "one")
    for again, times in (("", 0), (way, 1), (way, 2))
    for leave in ("\x02", "\x06", "\x01", "\x05", "\x10", "\x0e", "\x1bf", "\x14", "\x1bb")
]

#: What a sequence is made of, by what it is about.
KEYS: dict[str, list[str]] = {
    "editing": [
        *(f"{text}\x02\x06" for text in (*LETTERS, *LETTERS, "é")),
        *MOVES,
        *DELETIONS,
        *PASTES,
        *CHANGES,
        *JUMPS,
        "\x18\x7f",
    ],
    "counts": [*LETTERS, *LETTERS, "é", *MOVES, *DELETIONS, *CHANGES, *JUMPS, *COUNTS, *COUNTS, "\x16\x02"],
    "undo": [*MOVES, *DELETIONS[3:], "\x7f\x02", "\x1b[3~\x06", "\x19", "\x14", "\x1bt", *UNDOES, *UNDOES, *COUNTS],
    "mark": [*MOVES, "\x18\x18", "\x05\x00", "\x02\x00", "\x01\x00\x1bf"],
    "macros": [
        *LETTERS,
        *MOVES,
        *DELETIONS,
        *("\x18(a\x02\x18)", "\x18(\x1bd\x05\x18)", "\x18(\x10\x18)", "\x18e") * 2,
    ],
    "recall": [*LETTERS, *MOVES, *DELETIONS, *CHANGES, *RECALLS * 4, *COUNTS],
    "words": [*LETTERS[:-2], *MOVES, *RECALLS, *WORDS * 4, *COUNTS],
    "arguments": [
        " ab \x02\x06",
        " 'q r' \x02\x06",
        ' "x y" \x02\x06',
        " a\\ b \x02\x06",
        "\x01",
        *ARGUMENTS * 3,
        "\x19",
    ],
    "search": [*LETTERS, *MOVES, *RECALLS, *SEARCHES],
}
LAST_WORD = (Key("alt-."), Key("alt-_"))
#: Counts that mean nothing, or something else on purpose, to these keys: turned round, or a literal none at all.
PLAIN = ("\x14", "\x16\x02", "\x15", "\x18\x7f")


def drawn(rolled: random.Random, about: str) -> list[str]:
    """Return a random sequence; a count always comes with the key that it is for."""
    begun = {"undo": ["\x10" * rolled.randint(1, 4)], "mark": rolled.choices(LETTERS, k=4), "arguments": ["zz"]}
    made = begun.get(about, [])
    for _ in range(rolled.randint(1, 14)):
        key = rolled.choice(KEYS[about])
        if key in COUNTS:
            counted = rolled.choice([one for one in KEYS[about] if one not in COUNTS and not one.isprintable()])
            key = counted if "-" in key and counted in PLAIN else key + counted
        made.append(key)
    return [*made, "\x02"] if about == "search" else made


class _PlainRecall(Recall):
    """A walk through all entries, whatever the line begins with."""

    def older(self, text: str) -> bool:
        return super().older("")


class _Unhinted(ListHistory):
    def hint(self, beginning: str) -> str:
        return ""


def is_changed(line: Line, found: Match | None) -> bool:
    """Return True if an entry that was found has been changed since; a search looks in entries as they were entered."""
    return found is not None and found.entry is not None and found.entry.text in line.editor.aside


def ours(keys: list[str]) -> str | None:
    """Return what our line shows after the keys.

    None if that is another thing on purpose: a search that failed is left at what was found last; an entry that was
    changed, left (if only by a key that leads nowhere) and changed again keeps both changes; a last word stays where
    there is no older entry; an argument after a blank at the start begins after that blank.
    """
    past = _Unhinted(ENTRIES)
    line, decoder = Line(str, past=past), Decoder()
    line.editor.recall = _PlainRecall(past)
    left: dict[int, str] = {}
    for key in [*keys, END.decode()]:
        # What begins a long string of control characters is a key where nothing follows it for a moment.
        pieces = key.replace("\x1b_", "\0\x1b_\0").split("\0") if "\x1b_" in key else [key]
        for event in [event for piece in pieces for event in decoder.feed(piece.encode()) + decoder.flush()]:
            finder = line.editor.finder
            fails = isinstance(finder, IncrementalSearch) and (
                finder.search.fails or is_changed(line, finder.search.found)
            )
            before, text = line.editor.recall.entry, line.text
            if key in ARGUMENTS and text.startswith(" "):
                return None
            line.press(event)
            if fails and line.editor.finder is None:
                return None
            if event in LAST_WORD and line.text == text:
                return None
            leaves = before is not None and (line.editor.recall.entry != before or key in RECALLS or key[2:] in RECALLS)
            if leaves and before is not None and left.setdefault(before.position, text) != text:
                return None
    return visible(line.shown.text).rstrip()


def shells(keys: list[str]) -> str:
    """Return what the line of a new bash shows after the keys."""
    with tempfile.TemporaryDirectory() as home:
        Path(home, "entries").write_text("".join(f"{entry}\n" for entry in ENTRIES))
        environment = {
            "HOME": home, "HISTFILE": f"{home}/entries", "PS1": "> ", "TERM": "xterm", "INPUTRC": "/dev/null",
            "LC_ALL": "C.UTF-8", "PATH": os.environ["PATH"],
        }  # fmt: skip
        process, terminal = pty.fork()
        if process == 0:
            os.execvpe("bash", ["bash", "--norc", "--noprofile", "-i"], environment)
        try:
            return _typed(terminal, "".join(keys).encode())
        finally:
            os.kill(process, signal.SIGKILL)
            os.waitpid(process, 0)
            os.close(terminal)


def _typed(terminal: int, data: bytes) -> str:
    """Wait for the prompt, type, and read the line from the screen."""
    termios.tcsetwinsize(terminal, (10, COLUMNS))
    modes = termios.tcgetattr(terminal)
    modes[0] &= ~termios.IXON  # else Ctrl-S stops the output
    termios.tcsetattr(terminal, termios.TCSANOW, modes)
    screen = pyte.Screen(COLUMNS, 10)
    stream = pyte.ByteStream(screen)

    def text() -> str:
        return "\n".join(line.rstrip() for line in screen.display).rstrip()

    def wait(condition: Callable[[], bool]) -> bool:
        end = time.monotonic() + DEADLINE
        while not condition():
            if time.monotonic() > end:
                return False
            if select.select([terminal], [], [], 0.05)[0]:
                stream.feed(os.read(terminal, 65_536))
        return True

    wait(lambda: text().endswith(">") and not termios.tcgetattr(terminal)[3] & termios.ICANON)
    os.write(terminal, data + END)
    shown = wait(lambda: text().count(MARK) >= 2)
    return text()[2:] if shown else f"nothing but {text()!r}"


def difference(keys: list[str]) -> tuple[str, str] | None:
    """Return what our line and the shell's show after the keys, if that is not the same."""
    mine = ours(keys)
    if mine is None or mine.count(MARK) < 2:
        return None
    for _ in range(3):  # on a loaded machine the shell may echo a key before its line is open
        theirs = shells(keys)
        if mine == theirs:
            return None
    return mine, theirs


def shortened(keys: list[str], about: str) -> list[str]:
    """Return the sequence without the keys that the difference does not need."""
    at = len(keys) - (about == "search")
    while at > 0:
        at -= 1
        fewer = keys[:at] + keys[at + 1 :]
        if difference(fewer) is not None:
            keys = fewer
    return keys


def main(words: list[str]) -> int:
    """Compare, and print what differs."""
    count, seed = (int(word) for word in (words + ["2000", "1"][len(words) :])[:2])
    rolled, differ = random.Random(seed), 0
    for _ in range(count):
        about = rolled.choice(list(KEYS))
        keys = drawn(rolled, about)
        if difference(keys) is not None:
            differ += 1
            keys = shortened(keys, about)
            print(about, keys, difference(keys))
    print(f"{count:,} sequences of seed {seed}: {differ} differ")
    return int(differ > 0)


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
