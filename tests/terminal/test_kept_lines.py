"""Lines that wait while a full screen is shown.

Modules: ``terminal.kept_lines``, ``files.spool``.
"""

from __future__ import annotations

import errno

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import Terminal, python
from wesperon.files.spool import Spool
from wesperon.terminal.kept_lines import KeptLines

LINES = st.lists(st.text(st.characters(blacklist_characters="\n"), max_size=30), max_size=60)


def size(line: str) -> int:
    """Return the bytes of a line, of halves of characters too."""
    return len(line.encode("utf-8", "surrogatepass"))


def lost(lines: list[str]) -> int:
    """Return how many lines the first one says are not there."""
    return int(lines[0].split()[0].replace(",", "")) if lines and "not kept" in lines[0] else 0


@given(LINES, st.integers(20, 400), st.integers(0, 60))
def test_the_newest_lines_are_kept_and_the_number_of_the_others_is_said(lines: list[str], most: int, some: int) -> None:
    kept = KeptLines(most, some)
    kept.add(lines)
    found = kept.lines()
    gone = lost(found)
    rest = found[1:] if gone else found
    assert len(rest) + gone == len(lines)
    if all(size(line) < most // 2 - some for line in lines):
        assert rest == lines[gone:]
        total = sum(size(line) + 1 for line in lines)
        assert not gone or total > most // 2
    assert sum(size(line) + 1 for line in rest) <= most + some
    kept.clear()
    assert kept.lines() == []


@given(LINES, st.sets(st.integers(0, 12)))
def test_a_full_disk_loses_lines_and_no_count(lines: list[str], full: set[int]) -> None:
    writes = 0

    def add(spool: Spool, data: bytes) -> None:
        nonlocal writes
        writes += 1
        if writes in full:
            raise OSError(errno.ENOSPC, "no space is left")
        real(spool, data)

    real = Spool.add
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(Spool, "add", add)
        kept = KeptLines(1_000, 20)
        kept.add(lines)
        found = kept.lines()
    gone = lost(found)
    rest = iter(found[1:] if gone else found)
    assert len(found) - bool(gone) + gone == len(lines)
    remaining = iter(lines)
    assert all(any(line == other for other in remaining) for line in rest)  # in order


PROGRAM = """
import resource
from functools import partial
from wesperon import Button, Screen
from wesperon.terminal import kept_lines

kept_lines.KeptLines = partial(kept_lines.KeptLines, 100_000)

def flood():
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    for number in range(60_000):
        print("frame", number, "of the night, taken while a screen was shown")
    grown = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before
    screen.close(grown)

screen = Screen(Button("Take", flood), title="Night")
print("grown by", screen.run() // 1024, "MiB of memory")
"""


def test_what_is_printed_behind_a_screen_fills_no_memory() -> None:
    with Terminal(python("-c", PROGRAM)) as terminal:
        terminal.see("[ Take ]")
        terminal.type("\r")
        terminal.see("grown by")
        assert terminal.end() == 0
        lines = terminal.everything().split("\n")
    grown = next(line for line in lines if line.startswith("grown by"))
    assert int(grown.split()[2]) < 3, grown
    assert "frame 59999 of the night, taken while a screen was shown" in lines
    gone = lost([line for line in lines if "not kept" in line])
    assert f"frame {gone} of the night, taken while a screen was shown" in lines
    assert f"frame {gone - 1} of the night, taken while a screen was shown" not in lines
