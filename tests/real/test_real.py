"""Word lists of real utilities mean to a declaration what they mean to the utility.

Each list is run by the utility itself. Then it is read by the declaration, and what was read is run in the words that
say it the longest way. Both must end alike, print the same and leave the same files: nothing is misread in silence. A
list that is refused here must be refused there, or is in ``differences.json`` with the reason.
"""

from __future__ import annotations

import json
import os
import shutil
import subprocess
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import ROOT
from tests.real.utilities import UTILITIES
from wesperon import Problems
from wesperon.values import MISSING
from wesperon.values.records import slots_of

HERE = Path(__file__).parent
LISTS: dict[str, list[list[str]]] = json.loads((HERE / "lists.json").read_text())
#: Why a list that the utility takes is refused here, or the other way round, by the list as one line.
DIFFERENCES: dict[str, str] = json.loads((HERE / "differences.json").read_text())
FILES = {
    "one": "alpha:1:x\nbeta:2:y\nbeta:2:y\n\n\ngamma\t3\n",
    "two": "alpha:1:x\nbeta:2:y\ndelta:4:z\n",
    "-2": "minus two\n",
    "-n": "a file with a hyphen\n",
    "a b": "a name with a blank\n",
    "pats": "beta\ndelta\n",
    "prog": "s/beta/gamma/\n",
}
ENVIRON = {"PATH": os.environ["PATH"], "LC_ALL": "C.UTF-8"}


def folder(path: Path) -> Path:
    """Return a new folder with the files in it."""
    shutil.rmtree(path, ignore_errors=True)
    path.mkdir(parents=True)
    for name, content in FILES.items():
        (path / name).write_text(content)
        os.utime(path / name, (2_000_000_000, 2_000_000_000))
    (path / "deep" / "er").mkdir(parents=True)
    return path


def outcome(name: str, words: list[str], path: Path) -> tuple[bool, bytes, dict[str, bytes]]:
    """Return whether a utility succeeds, what it prints, and the files that it leaves."""
    done = subprocess.run(
        [name, *words], cwd=folder(path), env=ENVIRON, input=FILES["one"].encode(), capture_output=True, timeout=20
    )
    left = {str(one.relative_to(path)): one.read_bytes() if one.is_file() else b"" for one in sorted(path.rglob("*"))}
    return not done.returncode, done.stdout, left


def read(name: str, words: list[str]) -> list[str] | None:
    """Return what a list means, in the longest words; None if it is refused."""
    try:
        return UTILITIES[name].fill(words, asking="never").canonical()
    except Problems:
        return None


def is_misread(name: str, words: list[str], path: Path) -> bool:
    """Return True if a list is read, and means something else to the utility."""
    meant = read(name, words)
    return meant is not None and outcome(name, meant, path) != outcome(name, words, path)


CASES = [(name, words) for name, lists in LISTS.items() for words in lists]


@pytest.mark.parametrize("name", LISTS)
def test_each_list_means_what_it_means_to_the_utility(name: str, tmp_path: Path) -> None:
    if shutil.which(name) is None:
        pytest.skip(f"{name} is not on this system")
    wrong = []
    for words in LISTS[name]:
        theirs, meant = outcome(name, words, tmp_path / "work"), read(name, words)
        same = not theirs[0] if meant is None else outcome(name, meant, tmp_path / "work") == theirs
        if same is (" ".join([name, *words]) in DIFFERENCES):
            wrong.append((words, meant))
    assert not wrong


OPERANDS = st.sampled_from(["one", "two", "a b", "./-2", "-", "nothing", "deep"])
TEXTS = st.sampled_from(["1", "2", "1-2", ":", "x", "+1", "2,3", "-1"])


@st.composite
def lists(draw: st.DrawFn) -> tuple[str, list[str]]:
    """Return a utility and words that its declaration may take."""
    name = draw(st.sampled_from(sorted(UTILITIES)))
    slots: dict[str, Any] = dict(slots_of(UTILITIES[name]))
    switches = [letter for one in slots.values() if not one.shape.takes_text for letter in one.short or ""]
    valued = {letter: one for one in slots.values() if one.shape.takes_text for letter in one.short or ""}
    words = []
    for _ in range(draw(st.integers(0, 3))):
        cluster = "".join(draw(st.lists(st.sampled_from(switches), max_size=2))) if switches else ""
        last = draw(st.sampled_from([*valued, ""]))
        if cluster + last:
            glued = draw(TEXTS) if last and draw(st.booleans()) else ""
            words.append(f"-{cluster}{last}{glued}")
            words += [draw(TEXTS)] if last and not glued and valued[last].alone is MISSING else []
    # After an operand, ``--`` is one more to those that look for no names there.
    return name, [*words, *draw(st.sampled_from([[], ["--"]])), *draw(st.lists(OPERANDS, max_size=3))]


@settings(max_examples=40, deadline=None)
@given(lists())
def test_random_lists_that_the_utility_takes_are_never_misread(
    tmp_path_factory: pytest.TempPathFactory, drawn: tuple[str, list[str]]
) -> None:
    name, words = drawn
    path = tmp_path_factory.getbasetemp() / f"real{os.getpid()}"
    if words[:1] == ["--"] and name in ("echo", "test"):
        return  # it is no operand here
    if shutil.which(name) is not None and outcome(name, words, path)[0]:
        assert not is_misread(name, words, path), read(name, words)


def test_each_difference_is_one_still() -> None:
    known = {" ".join([name, *words]) for name, words in CASES}
    assert {*DIFFERENCES} <= known
    page = (ROOT / "docs" / "posix.md").read_text()
    rows = [line for line in page.partition("## Beside real utilities")[2].splitlines() if line.startswith("| `")]
    assert rows == [f"| `{line}` | {why} |" for line, why in DIFFERENCES.items()]


def test_there_are_enough_of_them() -> None:
    assert len(UTILITIES) >= 40
    assert len(CASES) >= 1_000
    assert {*LISTS} == {*UTILITIES}
