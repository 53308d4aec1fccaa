"""What was entered before, on disk."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon.editing.history_view import HistorySearch, ListHistory
from wesperon.history.file_format import HEADER, entries, entry_before, raised
from wesperon.history.history_file import History

TEXTS = st.text(st.sampled_from("ab2 ·⁼²\t\né日"), min_size=1, max_size=8).filter(
    lambda text: bool(text.strip()) and not text[0].isspace()
)
NEEDLES = st.sampled_from(["", "a", "2", "b2", "·", "²", "é", "\n", "a\nb", "x"])


@pytest.fixture
def file(tmp_path: Path) -> str:
    return str(tmp_path / "state" / "history.txt")


@settings(max_examples=150, deadline=None)
@given(st.lists(TEXTS, max_size=12), NEEDLES, st.booleans(), st.booleans(), st.booleans())
def test_a_file_is_searched_as_a_list_is(
    tmp_path_factory: pytest.TempPathFactory,
    texts: list[str],
    needle: str,
    begins: bool,
    own: bool,
    folds: bool,
) -> None:
    path = str(tmp_path_factory.mktemp("history") / "history.txt")
    history = History(path)
    for text in texts:
        history.finish(history.add(text), 0)
    if not own:
        history.load()
    listed = ListHistory(texts)

    def walk(past: History | ListHistory, back: bool) -> list[str]:
        first = past.oldest()
        found: list[str] = []
        seen: set[str] = set()
        place = None if back else first.place if first else 0
        while True:
            if back:
                entry = past.older(place, needle, begins=begins, seen=seen)
            else:
                entry = past.newer(place or 0, needle, begins=begins, seen=seen)
            if entry is None:
                return found
            found.append(entry.text)
            place = entry.place
            if folds:
                seen.add(entry.text)

    assert walk(history, True) == walk(listed, True)
    if texts:
        assert walk(history, False) == walk(listed, False)
        assert history.oldest().text == texts[0]  # type: ignore[union-attr]
    assert not history.fault


def test_an_entry_has_its_time_and_its_status_whoever_wrote_meanwhile(file: str) -> None:
    one, other = History(file), History(file)
    before = time.gmtime(time.time())  # the clock of gmtime() itself is a few milliseconds behind
    first = one.add("expose HOLLIN-051 90")
    second = other.add('note "first\nlight"')
    other.finish(second, 0)
    one.finish(first, 2)
    kept = list(one.entries())
    assert [(entry.text, entry.status) for entry in kept] == [("expose HOLLIN-051 90", 2), ('note "first\nlight"', 0)]
    after = time.gmtime(time.time())
    assert all(tuple(before)[:6] <= (entry.time or ()) <= tuple(after)[:6] for entry in kept)
    shown = Path(file).read_text().splitlines()
    assert shown[:2] == ["# wesperon history 1", "expose HOLLIN-051 90"]
    assert shown[3:5] == ['note "first', '\tlight"']


def test_what_others_enter_is_seen_on_demand(file: str) -> None:
    one, other = History(file), History(file)
    one.add("queue")
    other.add("expose HOLLIN-007")
    assert one.older(None, "", begins=True, seen=()).text == "queue"  # type: ignore[union-attr]
    assert one.older(None, "expose", begins=True, seen=()) is None
    one.load()
    assert one.older(None, "expose", begins=True, seen=()).text == "expose HOLLIN-007"  # type: ignore[union-attr]


WRITER = """
import sys
from wesperon.history.history_file import History
history = History(sys.argv[1], limit=int(sys.argv[3]))
for number in range(int(sys.argv[4])):
    history.finish(history.add(f"{sys.argv[2]} {number}\\nsecond"), number % 3)
    print(number, flush=True)
assert not history.fault, history.fault
"""


def test_several_writers_lose_nothing(file: str) -> None:
    """Promise 7."""
    argv = [sys.executable, "-c", WRITER, file]
    running = [subprocess.Popen([*argv, name, "10000000", "150"], stdout=subprocess.DEVNULL) for name in "abcd"]
    assert [process.wait(60) for process in running] == [0, 0, 0, 0]
    texts = [entry.text for entry in History(file).entries()]
    assert sorted(texts) == sorted(f"{name} {number}\nsecond" for name in "abcd" for number in range(150))
    assert all(entry.status == int(entry.text.split()[1]) % 3 for entry in History(file).entries())


def test_what_was_accepted_survives_a_kill(file: str) -> None:
    """Promise 7."""
    for _ in range(5):
        process = subprocess.Popen(
            [sys.executable, "-c", WRITER, file, "x", "10000000", "100000"], stdout=subprocess.PIPE, text=True
        )
        assert process.stdout is not None
        last = [int(process.stdout.readline()) for _ in range(40)][-1]
        process.send_signal(signal.SIGKILL)
        last = max([last, *(int(line) for line in process.stdout.read().split("\n")[:-1])])
        process.wait()
        texts = [entry.text for entry in History(file).entries()]
        assert [f"x {number}\nsecond" for number in range(last + 1)] == texts[: last + 1]
        os.unlink(file)


@pytest.mark.parametrize("cut", [1, 2, 5, 9, 30, 38])
def test_a_torn_last_line_harms_nothing_else(file: str, cut: int) -> None:
    history = History(file)
    for text in ("first", "sécond"):
        history.add(text)
    data = Path(file).read_bytes()
    Path(file).write_bytes(data[:-cut])
    again = History(file)
    assert again.add("third")
    assert not again.fault
    texts = [entry.text for entry in again.entries()]
    assert (texts[0], texts[-1]) == ("first", "third")
    assert again.older(None, "fir", begins=True, seen=()).text == "first"  # type: ignore[union-attr]


def test_a_file_grown_too_large_keeps_the_newest_each_once(file: str) -> None:
    history, other = History(file, limit=3_000), History(file, limit=3_000)
    for number in range(400):
        (history, other)[number % 2].add(f"entry {number % 50}")
        assert Path(file).stat().st_size < 3_100
    texts = [entry.text for entry in history.entries()]
    assert texts[-1] == "entry 49"
    assert len(texts) > 15
    assert not [name for name in os.listdir(Path(file).parent) if name != "history.txt"]
    assert not history.fault


def test_what_begins_with_a_blank_stays_out_and_plain_lines_come_in(file: str) -> None:
    history = History(file)
    assert history.add(" expose HOLLIN-051") is None
    assert history.take(["one\n", "\n", "# two\r\n"]) == 2
    assert [entry.text for entry in history.entries()] == ["one", "# two"]
    assert history.oldest().text == "one"  # type: ignore[union-attr]
    assert oct(Path(file).stat().st_mode)[-3:] == "600"


def folder(path: Path) -> None:
    path.mkdir(parents=True)


def strange(path: Path) -> None:
    path.parent.mkdir()
    path.write_text("dear diary\n")


def newer_version(path: Path) -> None:
    path.parent.mkdir()
    path.write_text("# wesperon history 7\nentry\n")


def blocked(path: Path) -> None:
    path.parent.write_text("")


@pytest.mark.parametrize(
    ("prepare", "why"),
    [(folder, "Is a directory"), (strange, "not a history file"), (newer_version, "another version"),
     (blocked, "File exists"), (None, "No space left")],
)  # fmt: skip
def test_a_file_that_cannot_be_used_is_left_alone_and_entries_last_for_the_run(
    prepare: object, why: str, file: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = Path(file)
    if callable(prepare):
        prepare(path)
    else:
        History(file).add("before")
        monkeypatch.setattr(os, "write", lambda handle, data: (_ for _ in ()).throw(OSError(28, "No space left")))
    before = path.read_bytes() if path.is_file() else b""
    history = History(file)
    history.finish(history.add("expose"), 0)
    assert why in history.fault
    assert history.older(None, "exp", begins=True, seen=()).text == "expose"  # type: ignore[union-attr]
    assert (path.read_bytes() if path.is_file() else b"") == before


def test_a_file_that_may_only_be_read_is_read(file: str, monkeypatch: pytest.MonkeyPatch) -> None:
    History(file).add("before")

    def refused(path: str, flags: int, *rest: object) -> int:
        raise PermissionError(13, "Permission denied")

    monkeypatch.setattr(os, "open", refused)
    history = History(file)
    assert history.add("now") is None
    assert "Permission denied" in history.fault
    assert [history.older(place, "", begins=True, seen=()).text for place in (None, 1 << 60)] == ["now", "before"]  # type: ignore[union-attr]
    assert [entry.text for entry in history.entries()] == ["before"]


def test_the_file_is_read_as_people_would() -> None:
    data = HEADER + "one\n·²⁰²⁶⁻¹¹⁻²³·⁰⁹·¹⁵·⁰²\n⁼⁰\n".encode()
    assert [(entry.text, entry.time, entry.status) for entry in entries(data)] == [("one", (2026, 11, 23, 9, 15, 2), 0)]
    assert entry_before(data, len(data)) == (len(HEADER), "one")
    assert raised("2026-11") == "²⁰²⁶⁻¹¹"


def test_a_file_that_cannot_be_written_anew_goes_on_as_it_is(file: str, monkeypatch: pytest.MonkeyPatch) -> None:
    def refused(*paths: object) -> None:
        raise OSError(28, "No space left")

    monkeypatch.setattr(os, "replace", refused)
    history = History(file, limit=500)
    for number in range(30):
        history.add(f"entry {number}")
    assert not history.fault
    assert len(list(history.entries())) == 30


def test_a_search_goes_on_letter_by_letter_and_back() -> None:
    search = HistorySearch(ListHistory(["expose one", "queue", "expose two", "park", "expose two"]), None, back=True)
    seen = []
    for step in ["e", "x", "further", "further", "newer", "newer", "z", "back", "back"]:
        if step == "back":
            search.take_back()
        elif step in ("further", "newer"):
            search.further(back=step == "further")
        else:
            search.type(step)
        seen.append((search.found.text if search.found else "", search.fails))
    assert seen == [
        ("expose two", False), ("expose two", False), ("expose one", False), ("expose one", True),
        ("expose two", False), ("expose two", True), ("expose two", True), ("expose two", True), ("expose two", False),
    ]  # fmt: skip


def test_a_write_that_fails_half_way_leaves_no_half_entry(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """At each number of bytes after which the disk is full, the file stays as it was, or has the entry whole."""
    real = os.write
    for room in range(0, 60, 7):
        path = tmp_path / f"{room}.txt"
        history = History(str(path))
        assert history.add("first entry") is not None
        before = path.read_bytes()
        left = [room]

        def write(handle: int, data: bytes, left: list[int] = left) -> int:
            if not left[0]:
                raise OSError(28, "No space left on device")
            count = real(handle, bytes(data)[: min(left[0], 5)])
            left[0] -= count
            return count

        monkeypatch.setattr(os, "write", write)
        other = History(str(path))
        other.add("second entry, a longer one")
        monkeypatch.setattr(os, "write", real)
        after = path.read_bytes()
        assert after == before or [entry.text for entry in History(str(path)).entries()] == [
            "first entry", "second entry, a longer one",
        ]  # fmt: skip
        assert other.own == ["second entry, a longer one"]  # it is not lost to this run


def test_a_file_that_another_console_puts_in_place_meanwhile_gets_the_entry(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from wesperon.history import history_file

    path = tmp_path / "history.txt"
    History(str(path)).add("first")
    real = history_file._lock
    replaced: list[bool] = []

    def lock(handle: int) -> None:
        real(handle)
        if not replaced:  # while this one waited for the lock, another console compacted the file
            replaced.append(True)
            copy = tmp_path / "new"
            copy.write_bytes(path.read_bytes())
            copy.replace(path)

    monkeypatch.setattr(history_file, "_lock", lock)
    History(str(path)).add("second")
    assert [entry.text for entry in History(str(path)).entries()] == ["first", "second"]
