"""What a process prints while the line of its console is open comes above that line, whole lines at a time.

Two ways lead there. ``sys.stdout`` and ``sys.stderr`` are replaced by streams that put lines together for each thread,
so that none is torn. Whatever writes to the descriptors themselves (a handler of :mod:`logging` that was made before,
a library in another language, a child process) writes to a pipe while the line is open, which a thread reads. While no
line is open, both lead where they always do: a command has the terminal for itself.
"""

from __future__ import annotations

import os
import select
import sys
import threading
import time

from wesperon.scope import Router
from wesperon.screen.ecma48 import SGR_RESET
from wesperon.text.escape import showable

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.terminal.driver import Driver

#: More lines than these wait to be shown: who says more waits for a moment, so that memory stays bounded.
MOST_WAITING = 2_000
#: For how long at most, in seconds: the thread that is to show them may be the one that waits.
LONGEST_WAIT = 0.25
#: The most bytes that are read at a time.
CHUNK = 1 << 16


class StrayOutput:
    """Takes what a process prints, for as long as the console of ``driver`` is open; ``close`` gives it back.

    ``taken_streams`` are the names of the streams of :mod:`sys` that lead to the terminal.
    """

    def __init__(self, driver: Driver) -> None:
        self.driver = driver
        self.taken_streams = [name for name in ("stdout", "stderr") if _is_on_terminal(getattr(sys, name))]
        #: The descriptors; where the process began without one, another file may have its number by now.
        self._handles = [
            handle
            for handle, stream in ((1, sys.__stdout__), (2, sys.__stderr__))
            if stream is not None and not stream.closed and _is_terminal(handle)
        ]
        self._saved: dict[int, int] = {}
        self._before: list[Callable[[], None]] = []
        self._reading = threading.Lock()
        self._rest = b""
        self._read_end = self._write_end = -1
        self._is_closed = False

    def open(self) -> None:
        """Take the streams."""
        for name in self.taken_streams:
            self._take(name)
        if self._handles:
            self._read_end, self._write_end = os.pipe()
            os.set_blocking(self._read_end, False)
            threading.Thread(target=self._read, daemon=True).start()

    def close(self) -> None:
        """Give everything back as it was; what has no end of its line yet is shown."""
        self.end()
        self._is_closed = True
        while self._before:
            self._before.pop()()
        if self._write_end >= 0:
            os.close(self._write_end)  # the thread that reads goes on for children that have the pipe
            self._write_end = -1
        rest, self._rest = self._rest, b""
        if rest:
            self.show(rest.decode("utf-8", "backslashreplace"))

    def begin(self) -> None:
        """Have the descriptors lead to the pipe: a line is open from here on."""
        for stream in (sys.stdout, sys.stderr):
            try:
                stream.flush()
            except (OSError, ValueError, AttributeError):
                pass
        if self._write_end < 0 or self._saved:
            return
        for handle in self._handles:
            try:
                self._saved[handle] = os.dup(handle)
                os.dup2(self._write_end, handle)
            except OSError:
                pass

    def end(self) -> None:
        """Have the descriptors lead where they did, once everything in the pipe is shown."""
        saved, self._saved = self._saved, {}
        for stream in (sys.stdout, sys.stderr) if saved else ():
            try:
                stream.flush()
            except (OSError, ValueError, AttributeError):
                pass
        for handle, before in saved.items():
            os.dup2(before, handle)
            os.close(before)
        if saved:
            self._pump()

    def catch_up(self) -> None:
        """Show what is in the pipe already: it was printed before what comes now."""
        if self._read_end >= 0 and not self._is_closed:
            self._pump()

    def show(self, text: str) -> None:
        """Show finished lines above the one that is typed; who says very much waits for its turn."""
        driver = self.driver
        if self._is_closed:  # of a child that outlives the console
            try:
                sys.stdout.write(text + "\n")
                sys.stdout.flush()
            except (OSError, ValueError, AttributeError):
                pass
            return
        shown = showable(text)
        driver.say(shown + SGR_RESET if "\x1b" in shown else shown)
        if len(driver.told) > MOST_WAITING:
            end = time.monotonic() + LONGEST_WAIT
            while len(driver.told) > MOST_WAITING and time.monotonic() < end:
                time.sleep(0.001)

    def _take(self, name: str) -> None:
        """Put a stream of this console in the place of one of the process."""
        current: Any = getattr(sys, name)
        original = current.original if isinstance(current, Router) else current
        stream = LineStream(original, self)

        def put(made: Any, wanted: Any) -> None:
            now: Any = getattr(sys, name)
            if isinstance(now, Router) and now.original is wanted:
                now.original = made
            elif now is wanted:
                setattr(sys, name, made)

        def give_back() -> None:
            stream.end_lines()
            put(original, stream)

        put(stream, original)
        self._before.append(give_back)

    def _read(self) -> None:
        """Show what comes through the pipe, until nobody can write to it any more."""
        handle = self._read_end
        while True:
            select.select([handle], [], [])
            if not self._pump():
                break
        os.close(handle)

    def _pump(self) -> bool:
        """Show the lines that are in the pipe now; whether more may come."""
        with self._reading:
            while True:
                try:
                    data = os.read(self._read_end, CHUNK)
                except OSError:
                    return True
                if not data:
                    return False
                lines, end, rest = (self._rest + data).rpartition(b"\n")
                self._rest = rest
                if end:
                    self.show(lines.decode("utf-8", "backslashreplace"))


class LineStream:
    """Takes the place of a standard stream: whole lines go above the line that is open, or to the stream if none is.

    ``original`` is the stream; everything else about it stays as it is. Each thread has lines of its own.
    """

    def __init__(self, original: Any, stray: StrayOutput) -> None:
        self.original = original
        self.stray = stray
        self.process = os.getpid()
        self._begun: dict[int, str] = {}

    def __getattr__(self, name: str) -> Any:
        return getattr(self.original, name)

    def write(self, text: str) -> int:
        """Take a text; the number of its characters."""
        driver, thread = self.stray.driver, threading.get_ident()
        if not isinstance(text, str):
            raise TypeError(f"write() argument must be str, not {type(text).__name__}")
        if os.getpid() != self.process:  # a process that was forked: its descriptor leads to the pipe
            written: int = self.original.write(text)
            return written
        with driver.lock:
            if not driver.depth:
                self.original.write(self._begun.pop(thread, "") + text)
                if not text.endswith("\n"):
                    self.original.flush()  # else it would come in the midst of the next line that is open
                return len(text)
        lines, end, rest = (self._begun.pop(thread, "") + text).rpartition("\n")
        if rest:
            self._begun[thread] = rest
        if end:
            self.stray.catch_up()
            self.stray.show(lines)
        return len(text)

    def writelines(self, lines: Any) -> None:
        """Take several texts."""
        for line in lines:
            self.write(line)

    def flush(self) -> None:
        """Have everything that was written arrive; a line that has no end yet waits for it."""
        if os.getpid() != self.process:
            self.original.flush()
            return
        with self.stray.driver.lock:
            self.original.flush()

    def end_lines(self) -> None:
        """Give what has no end of its line yet to the stream."""
        while self._begun:
            self.original.write(self._begun.popitem()[1])


def _is_on_terminal(stream: Any) -> bool:
    """Whether a stream of :mod:`sys` leads to the terminal of the process."""
    try:
        return _is_terminal(stream.fileno())
    except (OSError, ValueError, AttributeError):
        return False


def _is_terminal(handle: int) -> bool:
    """Whether a descriptor is the controlling terminal."""
    try:
        os.tcgetpgrp(handle)  # fails on everything else
    except (OSError, AttributeError):
        return False
    return True
