"""Texts that come while they are read: as much as is seen and a screen more is taken, and no move is lost.

Modules: ``paging.sources``, ``widgets.pager.pager``.
"""

from __future__ import annotations

import errno
import os
import random
import stat
import threading
from collections.abc import Iterator
from pathlib import Path
from types import SimpleNamespace

import pytest

from tests.pager.naive import Naive
from wesperon.editing.keys.events import typed
from wesperon.paging.sources import StreamText, close_all, file_of, source_of, sources_of
from wesperon.terminal.scripted import key_named
from wesperon.values import DeclarationError
from wesperon.widgets.pager.pager import Pager


def pager_of(source: object, **options: object) -> Pager:
    """Return a pager of one source."""
    return Pager(sources_of(source), limited=lambda step: step(), **options)  # type: ignore[arg-type]


def settle(pager: Pager, columns: int = 40, rows: int = 6) -> list[str]:
    """Let a pager take what it wants and do its work; its rows without the foot."""
    fed = 0
    while True:
        frame = pager.view(columns, rows)
        ((source, wanted),) = pager.growing
        has_more = wanted > fed
        if has_more:
            fed = wanted
            source.pull(wanted)
        if not pager.work() and not has_more:
            break
    return ["".join(text for text, role in row if role != "bar").rstrip() for row in frame.rows[:-1]]


def press(pager: Pager, *names: str) -> None:
    """Press keys without waiting for anything."""
    for name in names:
        pager.press(typed(name) if len(name) == 1 else key_named(name))


class Counting:
    """Lines without end, which are counted as they are taken."""

    def __init__(self) -> None:
        self.taken = 0
        self.is_closed = False

    def lines(self) -> Iterator[str]:
        """Yield them."""
        try:
            while True:
                self.taken += 1
                yield f"frame {self.taken}"
        finally:
            self.is_closed = True


def test_a_screen_more_than_is_seen_is_taken_and_no_line_else() -> None:
    endless = Counting()
    pager = pager_of(endless.lines())
    assert settle(pager)[0] == "frame 1"
    assert endless.taken == 10
    press(pager, "space")
    assert settle(pager)[0] == "frame 6"
    assert endless.taken == 15


def test_moves_that_were_typed_ahead_are_made_when_the_lines_have_come() -> None:
    pager = pager_of(Counting().lines())
    settle(pager)
    press(pager, *["space"] * 40)
    assert settle(pager)[0] == "frame 201"
    press(pager, "7", "7", "7", "G")
    assert settle(pager)[0] == "frame 777"


def test_leaving_closes_the_source() -> None:
    endless = Counting()
    source = source_of(endless.lines())
    source.pull(1)
    assert isinstance(source, StreamText)
    close_all([source])
    assert endless.is_closed


def test_a_thread_that_waits_for_a_line_closes_the_source_when_it_comes() -> None:
    goes_on, closed = threading.Event(), threading.Event()

    def lines() -> Iterator[str]:
        try:
            yield "first"
            goes_on.wait(10)
            yield "second"
        finally:
            closed.set()

    source = source_of(lines())
    source.pull(1)
    thread = threading.Thread(target=source.pull, args=(100,))
    thread.start()
    source.close()  # type: ignore[attr-defined]
    assert not closed.is_set()
    goes_on.set()
    thread.join(10)
    assert closed.wait(10)


def test_what_an_iterator_raises_ends_the_text_and_is_said() -> None:
    def lines() -> Iterator[str]:
        yield "dome open"
        raise ValueError("the mast is down")

    pager = pager_of(lines())
    assert settle(pager)[0] == "dome open"
    assert "it ends early: ValueError: the mast is down" in pager.view(80, 6).text()


def test_a_full_disk_is_said_and_what_came_before_stays(monkeypatch: pytest.MonkeyPatch) -> None:
    source = source_of(Counting().lines())
    pager = pager_of(source)
    shown = settle(pager)
    write = os.write

    def full(handle: int, data: bytes) -> int:
        write(handle, bytes(data)[:3])
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "write", full)
    press(pager, "end")
    rows = settle(pager)
    assert rows[0] == "frame 6"
    assert shown[0] == "frame 1"
    assert "it ends early: No space left on device" in pager.view(80, 6).text()
    assert source.count == len("".join(f"frame {at}\n" for at in range(1, 11)))


@pytest.mark.parametrize("seed", range(12))
def test_a_text_that_comes_in_any_pieces_is_shown_as_one_that_is_there(seed: int) -> None:
    rolled = random.Random(seed)
    lines = ["".join(rolled.choices(["frame ", "漢", "é", "x", "\t"], k=rolled.randrange(20))) for _ in range(60)]
    data = ("\n".join(lines) + "\n").encode()
    cuts = sorted(rolled.sample(range(1, len(data)), 40))
    pieces = [data[start:end] for start, end in zip([0, *cuts], [*cuts, len(data)], strict=True)]
    source = StreamText("", lambda count: pieces.pop(0) if pieces else b"", lambda: None)
    pager, naive = Pager([source], limited=lambda step: step()), Naive(lines, 30, 8)
    pager.view(30, 8)
    for _ in range(30):
        key = rolled.choice(["space", "b", "j", "k", "d", "u"])
        press(pager, key)
        room = naive.room
        naive.move({"space": room, "b": -room, "j": 1, "k": -1, "d": room // 2, "u": -(room // 2)}[key])
        rows = settle(pager, 30, 8)
        while rows and not rows[-1]:
            rows.pop()
        assert rows == [row.rstrip() for row in naive.screen() if row is not None][: len(rows)]
    press(pager, "end")
    naive.move(1 << 30)
    assert settle(pager, 30, 8) == [row.rstrip() for row in naive.screen()]


def test_a_file_that_grows_shrinks_or_is_replaced_is_followed_or_said(tmp_path: Path) -> None:
    path = tmp_path / "night.log"
    path.write_text("one\ntwo\n")
    pager = Pager([file_of(str(path), "night.log")], limited=lambda step: step(), follows=True)

    def seen() -> str:
        pager.pause()
        return "|".join(settle(pager)).rstrip("|")

    assert seen() == "one|two"
    with path.open("a") as file:
        file.write("".join(f"more {at}\n" for at in range(20)))
    assert seen() == "|".join(f"more {at}" for at in range(15, 20))
    path.write_text("new\n")
    assert seen() == "new"
    assert "night.log has become shorter" in pager.view(80, 6).text()
    other = tmp_path / "other"
    other.write_text("other\n")
    other.rename(path)
    assert seen() == "new"
    assert "night.log has been replaced: r shows the new one" in pager.view(80, 6).text()
    press(pager, "r")
    assert seen() == "other"
    path.unlink()
    assert seen() == "other"
    assert "night.log has been removed" in pager.view(80, 6).text()


def test_lines_come_with_and_without_their_ends() -> None:
    source = source_of(iter(["a", "b\n", b"c", "d\ne"]))
    while source.pull(source.count + 1):
        pass
    assert source.data[:] == b"a\nb\nc\nd\ne\n"


def test_what_gives_no_lines_is_refused() -> None:
    with pytest.raises(DeclarationError, match="must be a text, a Path"):
        source_of(12)
    with pytest.raises(DeclarationError, match="of no source"):
        sources_of({})
    source = source_of(iter([12]))
    source.pull(1)
    assert source.said == "it ends early: TypeError: must give lines, got int"
    with pytest.raises(IsADirectoryError):
        source_of(Path("/"))


MADE_UP = ["/proc/version", "/proc/sys/kernel/ostype", "/proc/filesystems", "/sys/kernel/mm/ksm/run"]


@pytest.mark.parametrize("path", [path for path in MADE_UP if os.path.exists(path)])
def test_a_file_that_the_system_makes_up_when_it_is_read_is_shown_whole(path: str) -> None:
    with open(path, "rb") as file:
        wanted = file.read()
    assert wanted
    source = file_of(path, "")
    try:
        while source.pull(source.count + 1):
            pass
        assert source.data[:] == wanted
    finally:
        close_all([source])


@pytest.mark.parametrize("text", [b"", b"a", b"a\n" * 2048, b"a\n" * 2049])
def test_a_file_that_has_its_size_is_read_in_place(tmp_path: Path, text: bytes) -> None:
    (tmp_path / "night.log").write_bytes(text)
    source = file_of(str(tmp_path / "night.log"), "")
    assert source.may_change
    assert source.data[:] == text
    close_all([source])


@pytest.mark.parametrize("has_begun", [False, True])
def test_what_is_no_file_but_says_so_is_read_once_and_never_waited_for(
    tmp_path: Path, has_begun: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = str(tmp_path / "messages")
    os.mkfifo(path)
    writer = os.open(path, os.O_RDWR)
    monkeypatch.setattr("wesperon.paging.sources.stat", SimpleNamespace(S_ISDIR=stat.S_ISDIR, S_ISREG=stat.S_ISFIFO))
    if has_begun:
        os.write(writer, b"one\n")
    source = file_of(path, "")
    os.write(writer, b"two\n")
    wanted = b"one\ntwo\n" if has_begun else b"two\n"
    source.pull(len(wanted))
    assert source.data[:] == wanted
    os.close(writer)
    close_all([source])
