"""What was entered before, on disk.

Modules: ``history.history_file``, ``history.file_format``, ``editing.history_view``.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon.editing.history_view import HistorySearch, ListHistory, Recall
from wesperon.editing.text_state import TextState
from wesperon.history.file_format import HEADER, encoded, entries, entry_before, raised, search_back, time_line
from wesperon.history.history_file import History

TEXTS = st.text(st.sampled_from("ab2 ·⁼²\t\né日"), min_size=1, max_size=8).filter(
    lambda text: bool(text.strip()) and not text[0].isspace()
)
NEEDLES = st.sampled_from(["", "a", "2", "b2", "·", "²", "é", "\n", "a\nb", "x"])


@pytest.fixture
def file(tmp_path: Path) -> str:
    return str(tmp_path / "state" / "history.txt")


@settings(max_examples=60, deadline=None)
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
        place = None if back else first
        while True:
            if back:
                entry = past.older(place, needle, begins=begins, seen=seen)
            else:
                assert place is not None
                entry = past.newer(place, needle, begins=begins, seen=seen)
            if entry is None:
                return found
            found.append(entry.text)
            place = entry
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
history.close()
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


REMOVER = """
import os, sys
from wesperon.history.history_file import History
history = History(sys.argv[1], limit=10000000)
print("ready", flush=True)
while not os.path.exists(sys.argv[2]) and not history.fault:
    try:
        removed = history.remove_all(lambda text: text.split()[1].endswith("7"))
    except BlockingIOError:
        continue
    print(removed, flush=True)
"""


def test_what_is_removed_while_others_write_is_all_that_is_gone(file: str) -> None:
    """Two that remove rewrite the file again and again, also between an entry and its status."""
    ends = file + ".ends"
    writing, removing = [sys.executable, "-c", WRITER, file], [sys.executable, "-c", REMOVER, file, ends]
    removers = [subprocess.Popen(removing, stdout=subprocess.PIPE, text=True) for _ in range(2)]
    try:
        for one in removers:
            assert one.stdout is not None
            assert one.stdout.readline() == "ready\n"
        writers = [subprocess.Popen([*writing, name, "10000000", "100"], stdout=subprocess.DEVNULL) for name in "abc"]
        assert [process.wait(60) for process in writers] == [0, 0, 0]
    finally:
        Path(ends).touch()
    removed = sum(int(line) for one in removers for line in one.communicate()[0].split())
    history = History(file)
    removed += history.remove_all(lambda text: text.split()[1].endswith("7"))
    kept = list(history.entries())
    expected = [f"{name} {number}\nsecond" for name in "abc" for number in range(100) if number % 10 != 7]
    assert sorted(entry.text for entry in kept) == sorted(expected)
    wrong = [(entry.text, entry.status) for entry in kept if entry.status != int(entry.text.split()[1]) % 3]
    assert wrong == []
    assert removed == 30


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
    assert history.add_plain(["one\n", "\n", "# two\r\n"]) == 2
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


@tabled
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

    real = os.open

    def refused(path: str, flags: int, *rest: Any, **more: Any) -> int:
        if flags & os.O_RDWR:
            raise PermissionError(13, "Permission denied")
        return real(path, flags, *rest, **more)

    monkeypatch.setattr(os, "open", refused)
    history = History(file)
    assert history.add("now") is None
    assert "Permission denied" in history.fault
    now = history.older(None, "", begins=True, seen=())
    assert now is not None
    before = history.older(now, "", begins=True, seen=())
    assert before is not None
    assert (now.text, before.text) == ("now", "before")
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
    search = HistorySearch(
        ListHistory(["expose one", "queue", "expose two", "park", "expose two"]), None, TextState(), back=True
    )
    seen = []
    for step in ["e", "x", "further", "further", "newer", "newer", "z", "back", "back"]:
        if step == "back":
            search.widen()
        elif step in ("further", "newer"):
            search.further(back=step == "further")
        else:
            search.type(step)
        seen.append((search.shown.text, search.fails))
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
        assert other.added == ["second entry, a longer one"]  # it is not lost to this run


def test_a_file_that_another_console_puts_in_place_meanwhile_gets_the_entry(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from wesperon.files import private
    from wesperon.history import writing

    path = tmp_path / "history.txt"
    History(str(path)).add("first")
    real = private.try_lock
    replaced: list[bool] = []

    def lock(handle: int) -> bool:
        assert real(handle)
        if not replaced:  # while this one waited for the lock, another console compacted the file
            replaced.append(True)
            copy = tmp_path / "new"
            copy.write_bytes(path.read_bytes())
            copy.replace(path)
        return True

    monkeypatch.setattr(writing, "try_lock", lock)
    History(str(path)).add("second")
    assert [entry.text for entry in History(str(path)).entries()] == ["first", "second"]


# What others do to the file while a console is open -------------------------------------------------------------------


def texts_of(history: History) -> list[str]:
    """Return what Up recalls, the newest first."""
    found: list[str] = []
    place = None
    while (entry := history.older(place, "", begins=True, seen=found)) is not None:
        found.append(entry.text)
        place = entry
    return found


@pytest.mark.parametrize("change", ["cut", "empty", "gone", "replaced", "torn", "rubbish", "folder"])
def test_a_file_that_is_changed_under_an_open_console_costs_nobody_anything(change: str, tmp_path: Path) -> None:
    path = tmp_path / "history.txt"
    history = History(str(path))
    for number in range(3000):
        history.add(f"entry {number} {'x' * 50}")
    history.load()
    assert len(history.older(None, "entry 7 ", begins=True, seen=()).text) > 50  # type: ignore[union-attr]
    if change == "cut":
        os.truncate(path, 5000)
    elif change == "empty":
        os.truncate(path, 0)
    elif change == "gone":
        path.unlink()
    elif change == "replaced":
        other = tmp_path / "other"
        other.write_bytes(HEADER + b"theirs\n")
        other.replace(path)
    elif change == "torn":
        path.write_bytes(HEADER[:9])
    elif change == "rubbish":
        path.write_bytes(b"\0\xff" * 40)
    else:
        path.unlink()
        path.mkdir()
    for needle in ("entry 1", "nowhere", "", "theirs"):
        history.older(None, needle, begins=False, seen=())
        history.hint(needle)
        history.oldest()
    history.finish(history.add("after it"), 0)
    assert "after it" in texts_of(history)
    history.load()
    again = History(str(path))
    again.add("at last")
    if change in ("rubbish", "folder"):
        assert again.fault
    else:
        assert not again.fault
        kept = [entry.text for entry in again.entries()]
        assert kept[-2:] == ["after it", "at last"]
        assert path.read_bytes().startswith(HEADER)


@pytest.mark.parametrize("size", range(len(HEADER)))
def test_a_first_line_that_was_cut_off_is_written_again_before_an_entry_is_accepted(size: int, tmp_path: Path) -> None:
    path = tmp_path / "history.txt"
    path.write_bytes(HEADER[:size])
    history = History(str(path))
    history.open()
    assert (path.read_bytes(), history.fault) == (HEADER, "")
    history.add("one")
    assert texts_of(History(str(path))) == ["one"]


class Clock:
    """A clock that goes on only while somebody sleeps."""

    def __init__(self) -> None:
        self.now = 0.0

    def monotonic(self) -> float:
        return self.now

    gmtime = staticmethod(time.gmtime)

    def sleep(self, seconds: float) -> None:
        self.now += seconds


def test_the_lock_of_another_process_delays_little_and_loses_nothing(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    import fcntl

    clock = Clock()
    monkeypatch.setattr("wesperon.history.writing.time", clock)
    path = tmp_path / "history.txt"
    history = History(str(path))
    history.add("first")
    with path.open("rb") as other:
        fcntl.flock(other, fcntl.LOCK_EX)
        for number in range(5):
            history.finish(history.add(f"meanwhile {number}"), number)
        history.load()
        assert 0 < clock.now < 0.5
        assert texts_of(history)[:2] == ["meanwhile 4", "meanwhile 3"]
    history.finish(history.add("after"), 3)
    history.close()
    entries_now = list(History(str(path)).entries())
    assert [entry.text for entry in entries_now] == ["first", *(f"meanwhile {n}" for n in range(5)), "after"]
    assert [entry.status for entry in entries_now] == [None, 0, 1, 2, 3, 4, 3]
    assert not history.fault


CALLS = ["open", "write", "fstat", "stat", "ftruncate", "fsync", "replace", "close", "read", "pread", "lseek", "mkdir"]


@pytest.mark.parametrize("name", CALLS)
@pytest.mark.parametrize("compacts", [False, True])
def test_a_call_to_the_system_that_fails_is_no_death_and_loses_no_entry_of_this_run(
    name: str, compacts: bool, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Each call of each kind fails once, at each place where it is made."""
    real = getattr(os, name)
    for at in range(40):
        path = tmp_path / name / str(at) / "history.txt"
        History(str(path)).add("before")
        count = [0]

        def fails(*given: Any, count: list[int] = count, at: int = at, **more: Any) -> Any:
            count[0] += 1
            if count[0] == at + 1:
                if name == "close":
                    real(*given, **more)
                raise OSError(5, "Input/output error")
            return real(*given, **more)

        monkeypatch.setattr(os, name, fails)
        history = History(str(path), limit=60 if compacts else 1 << 20)
        history.open()
        for text in ("one", "two words", "three"):
            history.finish(history.add(text), 1)
        history.older(None, "before", begins=True, seen=())
        recalled = texts_of(history)
        history.close()
        monkeypatch.setattr(os, name, real)
        assert {"one", "two words", "three"} <= set(recalled), (at, recalled)
        left = History(str(path))
        left.add("later")
        assert not left.fault
        kept = [entry.text for entry in left.entries()]
        assert kept[-1] == "later"
        assert set(kept) <= {"before", "one", "two words", "three", "later"}, (at, kept)
        assert not [one for one in path.parent.iterdir() if one.name != "history.txt" and name != "replace"]
        if count[0] <= at:
            return


def test_an_interrupt_at_any_moment_leaves_no_lock_and_no_half_entry(tmp_path: Path) -> None:
    """SIGINT comes at every line that runs while an entry is written: each time the next process can go on."""
    script = """
import os, signal, sys
from wesperon.history.history_file import History
from wesperon.history import history_file, writing
from wesperon.files import private
at, path = int(sys.argv[1]), sys.argv[2]
history, count = History(path), [0]
def trace(frame, event, argument):
    if frame.f_code.co_filename not in (history_file.__file__, writing.__file__, private.__file__):
        return None
    if event == "line":
        count[0] += 1
        if count[0] == at:
            os.kill(os.getpid(), signal.SIGINT)
    return trace
signal.signal(signal.SIGINT, signal.default_int_handler)
sys.settrace(trace)
try:
    history.finish(history.add("one entry"), 0)
    ended = "done"
except KeyboardInterrupt:
    ended = "interrupted"
sys.settrace(None)
other = History(path)
other.add("another")
print(ended, count[0], bool(other.waiting), [entry.text for entry in other.entries()])
"""
    # The same process tries again: a leaked lock would be its own and last as long as it does.
    program = tmp_path / "program.py"
    program.write_text(script)
    jobs = {}
    for at in (*range(1, 160, 4), 100_000):
        argv = [sys.executable, str(program), str(at), str(tmp_path / f"{at}.txt")]
        jobs[at] = subprocess.Popen(argv, stdout=subprocess.PIPE, text=True)
        if len(jobs) % 6 == 0:
            for job in jobs.values():
                job.wait()
    ended = set()
    for at, job in jobs.items():
        told = job.communicate(timeout=60)[0]
        ended.add(told.split(" ")[0])
        assert told.split(" ", 3)[2] == "False", (at, told)
        assert told.endswith(("['one entry', 'another']\n", "['another']\n")), (at, told)
    assert ended == {"done", "interrupted"}


@settings(max_examples=80, deadline=None)
@given(
    texts=st.lists(st.sampled_from(["a", "a\nb", "b", "\ta", "a\n\tb", "·x", "c\n\nd"]), max_size=60),
    patient=st.integers(0, 3),
    stretch=st.integers(1, 40),
    repeated=st.sampled_from([1, 10, 1 << 20]),
)
def test_a_walk_through_repeated_entries_shows_each_once_however_they_are_skipped(
    texts: list[str], patient: int, stretch: int, repeated: int
) -> None:
    data = HEADER + b"".join(encoded(text) + time_line((2031, 4, 17, 1, 2, at % 60)) for at, text in enumerate(texts))
    with pytest.MonkeyPatch.context() as patch:
        for name, value in (("PATIENT", patient), ("STRETCH", stretch), ("MOST_REPEATED", repeated)):
            patch.setattr(f"wesperon.history.file_format.{name}", value)
        seen: list[str] = []
        end, steps = len(data), 0
        while (found := search_back(data, end, "", begins=True, seen=seen)) is not None:
            steps += 1
            assert steps < 1_000
            end = found[0]
            if found[1]:
                seen.append(found[1])
    assert seen == list(dict.fromkeys(reversed(texts)))


def test_a_file_is_written_again_only_when_it_is_too_long(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    history = History(str(tmp_path / "history.txt"), limit=2_000)
    calls: list[int] = []
    real = History.compact

    def counted(self: History) -> None:
        calls.append(1)
        real(self)

    monkeypatch.setattr(History, "compact", counted)
    for number in range(20):
        history.add(f"entry {number}")
    assert calls == []
    inode = os.stat(tmp_path / "history.txt").st_ino
    real(history)  # somebody else was faster
    assert os.stat(tmp_path / "history.txt").st_ino == inode
    for number in range(200):
        history.add(f"further entry {number}")
    assert 0 < len(calls) < 30


def test_a_walk_begins_anew_once_the_line_was_changed() -> None:
    walk = Recall(ListHistory(["abc", "xyz", "abd", "xa"]))
    assert walk.older("ab")
    assert walk.entry is not None
    assert walk.entry.text == "abd"
    assert walk.older("x")  # what was recalled is gone
    assert walk.entry.text == "xa"
    assert walk.older("xa")
    assert walk.entry.text == "xyz"
