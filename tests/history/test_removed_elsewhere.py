"""Entries are removed by one console while others have lines open: nothing dies, and only whole entries that are there
are given, in their order.

Modules: ``history.history_file``, ``history.file_format``, ``history.rewriting``.
"""

from __future__ import annotations

import random
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.history.test_history_page import press
from wesperon import Console, Program
from wesperon.editing.history_view import HistorySearch, Recall
from wesperon.editing.text_state import TextState
from wesperon.history.file_format import HEADER, Kept, entries, last_of, whole_before, written
from wesperon.history.history_file import History
from wesperon.testing import Session
from wesperon.widgets.history_page import HistoryPage

WORDS = ["slew", "slew west", "expose 90\n\tthen slew", "note", "no", "漢", "\u207c2", "queue HOLLIN-051", "q", "s"]


def slew(azimuth: int = 0) -> None:
    """Turn the dome."""


class Watched:
    """A console, and the line that it has open."""

    def __init__(self, path: Path, limit: int, inside: list[str]) -> None:
        self.history = History(str(path), limit=limit)
        self.begin(inside, "")

    def begin(self, inside: list[str], beginning: str) -> None:
        """Begin another line, from which ``inside`` can be reached."""
        self.recall, self.beginning = Recall(self.history), beginning
        self.search = HistorySearch(self.history, None, TextState(""), back=True)
        self.page = HistoryPage(self.history)
        self.history.hint("s")  # the file is looked at: what it holds by now is known
        self.known = set(inside)
        self.seen = {beginning}

    def recall_older(self, there: set[str]) -> None:
        """Go one entry back: it is one that is there; at the end all have been given that were there all the time."""
        before = self.recall.entry
        if self.recall.older(before.text if before else self.beginning):
            assert self.recall.entry is not None
            text = self.recall.entry.text
            assert text in there - self.seen
            assert text.startswith(self.beginning)
            self.seen.add(text)
        else:
            wanted = {text for text in self.known & there if text.startswith(self.beginning)}
            assert wanted <= self.seen

    def recall_newer(self, there: set[str]) -> None:
        """Go one entry on, which is there, or to the line itself."""
        if self.recall.newer():
            text = self.recall.entry.text if self.recall.entry else self.beginning
            assert text in there | {self.beginning}
            self.seen = {self.beginning, *(entry.text for entry in self.recall.way)}

    def look_at_page(self, there: list[str]) -> None:
        """The page lists the newest entries that are there, in their order."""
        self.page.view(60, 60)
        shown = [entry.text for entry in self.page.sight]
        assert shown == there[-len(shown) :] if shown else not there
        assert all(entry.text in there for entry in self.page.picked)


@pytest.mark.parametrize("limit", [1 << 20, 500])
@pytest.mark.parametrize("seed", range(20))
def test_what_is_removed_elsewhere_is_nowhere_and_all_else_can_be_reached(
    seed: int, limit: int, tmp_path: Path
) -> None:
    """With a low limit the file is also written again because it is too large: what is known then stays known."""
    rolled = random.Random(seed)
    path = tmp_path / "history.txt"
    inside: list[str] = []
    entered = History(str(path))
    words, removed = list(WORDS), set[str]()
    for _ in range(rolled.randint(0, 40)):
        inside.append(rolled.choice(words))
        entered.finish(entered.add(inside[-1]), rolled.randrange(3))
    consoles = [Watched(path, limit, inside) for _ in range(3)]
    for _ in range(120):
        one = rolled.choice(consoles)
        there = set(WORDS) - removed if limit < 1000 else set(inside)  # or nobody has removed it
        what = rolled.randrange(13)
        if what == 0 and words:
            text = rolled.choice(words)
            inside.append(text)
            if rolled.random() < 0.3:
                assert one.history.add_plain([text]) == 1
            else:
                one.history.finish(one.history.add(text), 0)
            if limit < 1000:
                inside = History(str(path)).texts()
                for console in consoles:
                    console.known &= set(inside)
        elif what == 1 and len(words) > 1:
            gone = {rolled.choice(words) for _ in range(rolled.randint(1, 3))}
            assert one.history.remove_all(gone.__contains__) == sum(text in gone for text in inside)
            inside = [text for text in inside if text not in gone]
            words = [text for text in words if text not in gone]
            removed |= gone
        elif what == 2:
            one.begin(inside, rolled.choice(["", "s", "slew", "no"]))
        elif what == 3:
            one.search.type(rolled.choice("s w9n2"))
            assert one.search.shown.text in there | {""}
        elif what == 4:
            one.search.further(back=rolled.random() < 0.7)
            assert one.search.shown.text in there | {""}
        elif what == 5:
            one.search.widen()
            assert one.search.shown.text in there | {""}
        elif what == 6:
            assert one.history.hint(rolled.choice(["s", "slew", "n", "q"])) in there | {""}
        elif what == 7:
            first = one.history.oldest()
            assert first is None or first.text in there
        elif what == 8:
            one.history.load()
            one.look_at_page(inside)
            press(one.page, *rolled.choices(["up", "down", "tab", "page-up", "end"], k=3))
            one.look_at_page(inside)
        elif what == 9:
            one.recall_newer(there)
        elif what == 10:
            press(one.page, rolled.choice(["tab", "up", "page-down"]))
            one.page.view(60, 60)
            assert {entry.text for entry in [*one.page.sight, *one.page.picked]} <= there
        else:
            one.recall_older(there)


def test_a_line_that_is_open_meanwhile_recalls_what_is_left(tmp_path: Path) -> None:
    environment = {"XDG_STATE_HOME": str(tmp_path)}
    with Session(Console(Program("desk", members=[slew])), environment=environment) as session:
        for words in ("slew", "slew 5", "slew 7"):
            session.type(words).press("enter")
        session.press("up")
        assert History(str(tmp_path / "desk" / "history.txt")).remove("slew 5") == 1
        session.press("up")
        assert session.screen.splitlines()[-2].strip() == "desk  slew [AZIMUTH]"
        session.press("up", "down", "down", "up", "up", "up")
        assert session.screen.splitlines()[-2].strip() == "desk  slew [AZIMUTH]"


def test_what_was_changed_in_a_recalled_entry_is_kept_when_others_are_removed(tmp_path: Path) -> None:
    environment = {"XDG_STATE_HOME": str(tmp_path)}
    with Session(Console(Program("desk", members=[slew])), environment=environment) as session:
        for words in ("slew", "slew 5", "slew 7"):
            session.type(words).press("enter")
        session.type("s").press("up", "up").type("0").press("up").type(" 9")
        assert History(str(tmp_path / "desk" / "history.txt")).remove("slew 7") == 1
        lines = []
        for _ in range(2):
            session.press("down")
            lines.append(session.screen.splitlines()[-2].split("desk  ")[1].split("  ")[0])
        assert lines == ["slew 50", "s [AZIMUTH]"]
        session.press("up", "up")
        assert "slew 9" in session.screen.splitlines()[-2]


TEXTS = st.text(st.sampled_from("ab\t\n\u207c\u00b7"), min_size=1, max_size=5).filter(
    lambda text: bool(text.strip()) and not text[0].isspace()
)


KEPT = st.builds(
    Kept,
    text=TEXTS,
    time=st.sampled_from([None, (2031, 1, 2, 3, 4, 5)]),
    status=st.sampled_from([None, 0, 2]),
    start=st.just(0),
    end=st.just(0),
)


@given(kept=st.lists(KEPT, max_size=8), at=st.integers(0, 200))
def test_before_any_offset_there_are_whole_entries_and_each_text_is_found_where_it_is_last(
    kept: list[Kept], at: int
) -> None:
    data = HEADER + b"".join(written(one) for one in kept)
    every = list(entries(data))
    told = [(one.text, one.time, one.status) for one in kept]
    assert [(one.text, one.time, one.status) for one in every] == told
    end = whole_before(data, min(at, len(data)))
    before = [entry.text for entry in entries(data[:end])]
    assert before == [one.text for one in kept][: len(before)]
    assert end <= at
    for text in {*before, "a", "b", "a\nb"}:
        assert last_of(data, len(data), text) == max((one.start for one in every if one.text == text), default=None)


def test_plain_lines_that_look_like_something_else_are_entries_of_their_own(tmp_path: Path) -> None:
    history = History(str(tmp_path / "history.txt"))
    lines = ["slew", "\tafter a tab", "\u00b7 after a sign", "\u207c2", "queue"]
    assert history.add_plain(lines) == len(lines)
    assert history.texts() == lines
    history.remove("queue")
    assert History(str(tmp_path / "history.txt")).texts() == lines[:-1]


def test_what_was_entered_is_kept_where_the_file_cannot_be_read_any_more(tmp_path: Path) -> None:
    path = tmp_path / "history.txt"
    history = History(str(path))
    history.add("slew")
    path.write_bytes(HEADER.replace(b"1", b"2"))
    history.load()
    assert "another version" in history.fault
    found = history.older(None, "", begins=True, seen=())
    assert found is not None
    assert found.text == "slew"
