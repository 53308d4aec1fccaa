"""A pipe in the place of descriptors, for what goes past the streams: the lines that come through it are shown.

There is one for each time in which output is taken. The thread that reads it goes on for children that have the pipe.
"""

from __future__ import annotations

import _thread
import os
import select
import sys

from wesperon.system.signals import start_thread

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

#: The most bytes that are read at a time, and the most characters of a line that has no end yet.
CHUNK, LONGEST_LINE = 1 << 16, 1 << 20
#: How often a descriptor is set again if the system fails to.
TRIES = 50


class Diversion:
    """Has the descriptors with these ``numbers`` lead to a pipe between ``divert`` and ``restore``.

    ``show`` is called with lines. Where there is no pipe to be had (too many open files, or threads), what goes past
    the streams falls where it falls.
    """

    def __init__(self, numbers: Sequence[int], show: Callable[[str], None]) -> None:
        self.numbers = numbers
        self.show = show
        #: Where the descriptors led before, while they lead to the pipe.
        self._saved: dict[int, int] = {}
        self._read_end = self._write_end = -1
        #: Held while the pipe is read.
        self._reading = _thread.RLock()
        self._rest = b""
        #: Whether what is read goes on to the terminal as it is, since nothing is open yet; what did so last.
        self._passes, self._passed = False, b""
        if numbers:
            self._open()

    def _open(self) -> None:
        try:
            self._read_end, self._write_end = os.pipe()
            os.set_blocking(self._read_end, False)
            start_thread(self._read)
        except (OSError, RuntimeError) as error:
            for handle in (self._read_end, self._write_end):
                if handle >= 0:
                    os.close(handle)
            self._read_end = self._write_end = -1
            if isinstance(error, OSError) and error.errno is None:  # a handler of the program has raised it
                raise

    def close(self) -> None:
        """Let go of the pipe; what has no end of its line yet is shown."""
        if self._write_end >= 0:
            os.close(self._write_end)
        self._write_end = -1
        with self._reading:
            rest, self._rest = self._rest, b""
        if rest:
            self.show(rest.decode(sys.getfilesystemencoding(), "backslashreplace"))

    def handle(self, number: int) -> int:
        """Return a descriptor that leads where this one led before."""
        return self._saved.get(number, number)

    def divert(self, *, passes: bool) -> None:
        """Lead the descriptors to the pipe; ``passes``: what comes goes on to the terminal until ``hold``."""
        if self._write_end < 0:
            return
        self._passes = passes
        for number in self.numbers:
            try:
                self._saved[number] = os.dup(number)
                os.dup2(self._write_end, number)
            except OSError:  # this one is closed: nothing can come through it
                pass

    def is_at_line_end(self) -> bool:
        """Return True if what has gone on to the terminal so far is whole lines."""
        self.pump()
        return not self._passed or self._passed.endswith(b"\n")

    def hold(self) -> None:
        """Show lines from here on: something is open."""
        with self._reading:
            self.pump()
            self._passes, self._passed = False, b""

    def restore(self) -> bool:
        """Lead the descriptors where they led before. Return False if they did all the time."""
        was_diverted = bool(self._saved)
        for number, before in [*self._saved.items()]:
            for _ in range(TRIES):
                try:
                    os.dup2(before, number)
                    break
                except OSError:  # all else would leave the program without its output for good
                    continue
            else:
                continue
            del self._saved[number]
            os.close(before)
        return was_diverted

    def pump(self) -> bool:
        """Show the lines that are in the pipe now. Return False if no more can come."""
        with self._reading:
            while self._read_end >= 0:
                try:
                    data = os.read(self._read_end, CHUNK)
                except OSError:  # nothing more is in it for now (EAGAIN)
                    return True
                if not data:
                    return False
                if self._passes and self._saved:
                    self._pass_on(data)
                    continue
                lines, end, rest = (self._rest + data).rpartition(b"\n")
                self._rest = rest[-LONGEST_LINE:]
                if end:
                    self.show(lines.decode(sys.getfilesystemencoding(), "backslashreplace"))
        return True

    def pump_within(self, seconds: float) -> None:
        """Do so if nobody else reads for longer than this."""
        if self._saved and self._reading.acquire(timeout=seconds):
            try:
                self.pump()
            finally:
                self._reading.release()

    def _pass_on(self, data: bytes) -> None:
        from wesperon.files.private import write_all

        self._passed = data
        try:
            write_all(next(iter(self._saved.values())), data)
        except OSError:  # the terminal is gone
            pass

    def _read(self) -> None:
        """Show what comes through the pipe, until nobody can write to it any more."""
        while True:
            try:
                select.select([self._read_end], [], [])
            except (OSError, ValueError):  # closed by who ends this
                break
            if not self.pump():
                break
        with self._reading:
            handle, self._read_end = self._read_end, -1
            os.close(handle)
