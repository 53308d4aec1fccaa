"""The driver on a terminal, against a port that says what happens: pastes, mute terminals, time.

Modules: ``terminal.tty_driver``, ``terminal.tty_events``.
"""

from __future__ import annotations

import errno
from typing import Any

import pytest

from wesperon import Context, slot
from wesperon.editing.keys.events import Key, Paste, Resize
from wesperon.scope import within
from wesperon.screen.ecma48 import DSR_POSITION, WRAP_OFF, WRAP_ON
from wesperon.screen.frame import Frame
from wesperon.screen.theme import is_plain
from wesperon.terminal.inbox import TimeLeft, TimeOut
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.tty_driver import TtyDriver
from wesperon.terminal.tty_events import MOST_UNANSWERED, PASTE_PAUSE


class Clock:
    """A clock that goes on when it is told to, and while somebody waits."""

    def __init__(self) -> None:
        self.now = 100.0

    def monotonic(self) -> float:
        return self.now

    def time(self) -> float:
        return self.now


class Port:
    """A terminal that is not there: pieces of input come one by one; what is written is kept."""

    handles: tuple[int, ...] = ()
    is_own = False
    is_resized = False
    bell = -1
    heard = None

    def __init__(self, clock: Clock, pieces: list[tuple[float, bytes]]) -> None:
        self.clock, self.pieces = clock, pieces
        self.written = b""
        self.columns = 80

    def is_taken(self) -> bool:
        return False

    def size(self) -> tuple[int, int]:
        return self.columns, 24

    def wait(self, seconds: float | None) -> tuple[bool, bool]:
        if not self.pieces:
            if seconds is None:  # the last bytes were none that mean anything, and no more will come
                raise OSError(errno.EIO, "the terminal is gone")
            self.clock.now += seconds
            return False, False
        pause, _ = self.pieces[0]
        if seconds is not None and pause > seconds:
            self.clock.now += seconds
            self.pieces[0] = (pause - seconds, self.pieces[0][1])
            return False, False
        self.clock.now += pause
        self.pieces[0] = (0.0, self.pieces[0][1])
        return True, False

    def read(self) -> bytes:
        return self.pieces.pop(0)[1]

    read_keys = read_paste = read

    def write(self, data: bytes) -> None:
        self.written += data

    def take(self) -> None: ...

    def retake(self) -> None: ...

    def give_back(self, *, at_once: bool = False) -> None: ...

    def begin_interrupt_key(self) -> None: ...

    def nudge(self) -> None: ...

    def end_interrupt_key(self) -> None: ...

    def write_at_once(self, data: bytes, seconds: float) -> None:
        self.write(data)

    def wake(self) -> None: ...

    def close(self) -> None: ...


def driver_on(pieces: list[tuple[float, bytes]], timeout: float | None = None) -> tuple[TtyDriver, Port]:
    clock = Clock()
    port: Any = Port(clock, pieces)
    with within(Context(clock=clock, environ={"TERM": "xterm"})):
        driver = TtyDriver(port)
    driver.options = DriverOptions({"timeout": timeout})
    driver.begin()
    return driver, port


def events(driver: TtyDriver, port: Port) -> list[Any]:
    found: list[Any] = []
    while port.pieces:
        found += driver.collect(*port.wait(None))
    return found


def test_an_interrupt_within_a_paste_is_text_however_the_paste_is_cut() -> None:
    whole = b"\x1b[200~one\x03two\x1b[201~"
    for cut in range(6, len(whole) - 1):
        driver, port = driver_on([(0.0, whole[:cut]), (0.0, whole[cut : cut + 1]), (0.0, whole[cut + 1 :])])
        assert events(driver, port) == [Paste("one\x03two")], cut


def test_an_interrupt_after_a_pause_ends_a_paste_whose_end_is_lost() -> None:
    driver, port = driver_on([(0.0, b"\x1b[200~one"), (PASTE_PAUSE + 0.1, b"\x03"), (0.0, b"x")])
    found = events(driver, port)
    assert found[0] == Paste("one")
    assert found[-1] == Key("x", "x")


def test_a_size_that_changes_while_it_is_asked_for_is_asked_for_again() -> None:
    driver, port = driver_on([])
    asked = [(70, 24), (60, 24)]

    def size() -> tuple[int, int]:
        columns, rows = asked.pop(0)
        port.is_resized = bool(asked)  # the signal of the next change comes right here
        return columns, rows

    port.size = size  # type: ignore[method-assign]
    port.is_resized = True
    assert driver.ready() == [Resize(70, 24)]
    assert driver.ready() == [Resize(60, 24)]
    assert driver.ready() == []


def test_no_answer_of_the_terminal_falls_into_a_paste() -> None:
    driver, port = driver_on([(0.0, b"\x1b[200~one"), (0.0, b"two\x1b[201~")])
    port.pieces, rest = port.pieces[:1], port.pieces[1:]
    assert events(driver, port) == []
    driver.resize(60, 24)
    assert DSR_POSITION.encode() not in port.written
    port.pieces = rest
    assert events(driver, port) == [Paste("onetwo")]


def test_a_mute_terminal_is_asked_for_its_cursor_only_so_often() -> None:
    driver, port = driver_on([])
    for columns in range(79, 60, -1):
        driver.resize(columns, 24)
    assert port.written.count(DSR_POSITION.encode()) == MOST_UNANSWERED


def test_a_question_that_nobody_answers_ends_after_its_time() -> None:
    driver, _ = driver_on([], timeout=5.0)
    found = [driver.wait() for _ in range(4)]
    assert found == [[TimeLeft(2)], [TimeLeft(2)], [TimeLeft(1)], [TimeOut()]]
    assert driver.wait() == [TimeOut()]


def test_the_terminal_breaks_rows_again_whatever_was_drawn_last() -> None:
    """An error can come between the moment when the screen is emptied and the next frame."""
    driver, port = driver_on([])
    with driver:  # as it is left after an error
        driver.send(driver.screen.painter.paint(Frame(((("row", ""),),), (0, 0)), 80, 24))
        driver.send(driver.screen.painter.clear(80))
    assert port.written.rfind(WRAP_ON.encode()) > port.written.rfind(WRAP_OFF.encode()) >= 0
    driver.send(driver.screen.painter.paint(Frame(((("row", ""),),), (0, 0)), 80, 24))
    assert port.written.rfind(WRAP_OFF.encode()) > port.written.rfind(WRAP_ON.encode())


@pytest.mark.parametrize("text", ["yes", "no", "true", "false", "on", "off", "1", "0", "y", "n", "Yes", "N", "OFF"])
def test_the_switch_for_plain_lines_takes_what_every_switch_takes(text: str) -> None:
    assert is_plain({"WESPERON_PLAIN": text}) is slot(bool).parse(text)
    assert not is_plain({"WESPERON_PLAIN": ""})
    assert is_plain({"TERM": "dumb", "WESPERON_PLAIN": text})
