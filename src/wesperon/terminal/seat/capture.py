"""What a process prints while something is open on its terminal comes above that, whole lines at a time.

Two ways lead there. The streams of :mod:`sys` (``system.streams``) put lines together for each thread, so that none is
torn. Whatever writes to the descriptors themselves (a handler of :mod:`logging` that was made before, a library in
another language, a child process) writes to a pipe while something is open, which a thread reads. While nothing is open
both lead where they always do: a command has the terminal for itself, and so have the children that it starts.

A child that was started then, and still writes when a line is open again, has the terminal itself and may tear a row.
Only a terminal of its own could keep it from that.
"""

from __future__ import annotations

import _thread
import os
import select
import sys
from time import sleep

from wesperon.screen.ecma48 import SGR_RESET
from wesperon.system.interrupts import critical
from wesperon.system.own_terminal import is_own_terminal
from wesperon.system.streams import STREAMS
from wesperon.system.threads import start_thread
from wesperon.text.escape import showable

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any, Protocol

    from wesperon.system.streams import StandardStream

    class Shown(Protocol):
        """What shows lines above what is open."""

        def say(self, text: str) -> bool:
            """Show lines that are safe to show. Return False if nothing is open."""

        def has_room(self) -> bool:
            """Whether so few lines wait to be shown that more may come."""


#: For how long at most who prints waits for room, in seconds: it may be the very thread that is to show the lines.
LONGEST_WAIT = 0.25
#: For how long who prints waits until a command has ended its line, in seconds.
LINE_END_WAIT = 0.05
#: The most bytes that are read at a time, and the most characters of a line that has no end yet.
CHUNK, LONGEST_LINE = 1 << 16, 1 << 20
#: How often a descriptor is set again if the system fails to.
TRIES = 50


class Capture:
    """Takes what the process prints while something is open; there is one, and it is used in nests.

    ``open`` and ``close`` are around all that is opened, ``begin`` and ``end`` around the time in which the terminal is
    ours; both may be called again inside.
    """

    def __init__(self, shown: Shown) -> None:
        self.shown = shown
        self._users = self._begun = 0
        self._streams: list[StandardStream] = []
        self._numbers: list[int] = []
        self._saved: dict[int, int] = {}
        self._read_end = self._write_end = -1
        #: Held while the pipe is read, and while it is decided where a text goes.
        self._reading = _thread.RLock()
        self._deciding = _thread.RLock()
        self._rest = b""
        self._lines: dict[tuple[str, int], str] = {}
        #: What stands for the line of a command that has no end yet; the one whose end did not come soon.
        self._half_line: object | None = None
        self._waited_for: object | None = None
        #: The process, and the thread that has opened it, whose commands have the terminal between two lines.
        self._process, self._thread = os.getpid(), _thread.get_ident()

    # Opening and closing ---------------------------------------------------------------------------------------------

    @critical
    def open(self) -> None:
        """Take the streams that lead to the terminal."""
        self._users += 1
        if self._users > 1:
            return
        self._process, self._thread = os.getpid(), _thread.get_ident()
        self._streams = [stream for name, stream in STREAMS.items() if _is_on_terminal(getattr(sys, name))]
        # Where the process began without a stream, another file may have its number by now.
        originals = ((1, sys.__stdout__), (2, sys.__stderr__))
        self._numbers = [
            n for n, stream in originals if stream is not None and not stream.closed and is_own_terminal(n)
        ]
        if self._numbers:
            try:
                self._read_end, self._write_end = os.pipe()
                os.set_blocking(self._read_end, False)
                start_thread(self._read, self._read_end)
            except (
                OSError,
                RuntimeError,
            ):  # too many open files, or threads: what goes past the streams falls where it falls
                self._close_pipe()
        for stream in self._streams:
            stream.use()
            stream.taker = self

    @critical
    def close(self) -> None:
        """Give everything back as it was; what has no end of its line yet is shown."""
        self._users -= 1
        if self._users:
            return
        self._begun = 0
        self._restore()
        self._end_lines()
        for stream in self._streams:
            stream.taker = None
            stream.release()
        self._streams = []
        if self._write_end >= 0:
            os.close(self._write_end)  # the thread that reads goes on for children that have the pipe
        self._read_end = self._write_end = -1
        rest, self._rest = self._rest, b""
        if rest:
            self.show(rest.decode("utf-8", "backslashreplace"))

    def _close_pipe(self) -> None:
        for handle in (self._read_end, self._write_end):
            if handle >= 0:
                os.close(handle)
        self._read_end = self._write_end = -1

    @critical
    def begin(self) -> None:
        """Have the descriptors lead to the pipe: something is open from here on."""
        self._begun += 1
        if self._begun > 1:
            return
        self._half_line = None
        self._flush()
        if self._write_end < 0:
            return
        for number in self._numbers:
            try:
                self._saved[number] = os.dup(number)
                os.dup2(self._write_end, number)
            except OSError:
                pass

    @critical
    def end(self) -> None:
        """Have the descriptors lead where they did, once everything in the pipe is shown."""
        self._begun = max(self._begun - 1, 0)
        if not self._begun:
            self._restore()

    def _restore(self) -> None:
        if not self._saved:
            return
        self._flush()
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
        self._pump()

    def give_back(self) -> None:
        """Show what is in the pipe, if that can be had at once: the process ends."""
        if self._saved and self._reading.acquire(timeout=LONGEST_WAIT):
            try:
                self._pump()
            finally:
                self._reading.release()

    @property
    def is_begun(self) -> bool:
        """Whether something is open now."""
        return self._begun > 0

    # What is written -------------------------------------------------------------------------------------------------

    def write(self, stream: StandardStream, text: str) -> None:
        """Take a text that was written to a stream: whole lines go above what is open, or on if nothing is."""
        if os.getpid() != self._process:  # a process that was forked: its descriptor leads to the pipe
            stream.write_original(text)
            return
        key = stream.name, _thread.get_ident()
        while not self._write_between(stream, text, key):
            if self._begun:
                break
            self._await_line_end()
        else:
            return
        lines, end, rest = (self._lines.pop(key, "") + text).rpartition("\n")
        if len(rest) > LONGEST_LINE or "\r" in rest:
            from wesperon.text.overwriting import last_state

            # The CR at the very end may be the beginning of a CR LF, or of the next state.
            rest = last_state(rest)[-LONGEST_LINE:] + "\r" * rest.endswith("\r")
        if rest:
            self._lines[key] = rest
        if end:
            self.catch_up()
            self.show(lines)

    def _write_between(self, stream: StandardStream, text: str, key: tuple[str, int]) -> bool:
        """Write a text while nothing is open; whether that was done.

        Of another thread than that of the commands only whole lines are written, since the next line may open at any
        moment, and none in the midst of a line of a command that is about to end.
        """
        is_others = key[1] != self._thread
        with self._deciding:
            if self._begun or (is_others and self._half_line not in (None, self._waited_for)):
                return False
            text = self._lines.pop(key, "") + text
            if is_others:
                text, end, rest = text.rpartition("\n")
                text += end
                if rest:
                    self._lines[key] = rest
            elif "\n" in text:
                self._half_line = None if text.endswith("\n") else object()
            elif text and self._half_line is None:
                self._half_line = object()
            if text:
                # What has no end of its line yet would else come in the midst of the next line that is open.
                stream.write_original(text, flush=not text.endswith("\n"))
        return True

    def _await_line_end(self) -> None:
        """Wait until a command has ended its line: the built-in ``print`` writes a text and its end one by one.

        One that has none for a while, as of a question or a bar, keeps nobody waiting again.
        """
        half_line = self._half_line
        for _ in range(int(LINE_END_WAIT * 1000)):
            if self._half_line is not half_line or self._begun:
                return
            sleep(0.001)
        self._waited_for = half_line

    def flush(self, stream: StandardStream) -> None:
        """Have everything that was written arrive; a line that has no end yet waits for it."""
        if stream.original is not None:
            stream.original.flush()

    def handle(self, number: int) -> int:
        """A descriptor that leads where this one led before."""
        return self._saved.get(number, number)

    def catch_up(self) -> None:
        """Show what is in the pipe already: it was printed before what comes now."""
        if self._read_end >= 0:
            self._pump()

    def show(self, text: str) -> None:
        """Show finished lines above what is open; who says very much waits for a moment: memory stays bounded."""
        if "\r" in text:
            from wesperon.text.overwriting import last_state

            text = "\n".join([last_state(line) for line in text.split("\n")])
        shown = showable(text)
        if not self.shown.say(shown + SGR_RESET if "\x1b" in shown else shown):
            self._show_aside(text)
        elif not self.shown.has_room():
            lock = _thread.allocate_lock()
            lock.acquire()
            for _ in range(int(LONGEST_WAIT * 1000)):
                if self.shown.has_room():
                    break
                lock.acquire(timeout=0.001)

    def _show_aside(self, text: str) -> None:
        """Print lines where nothing is open: those of a child that outlives the question."""
        for stream in STREAMS.values():
            if stream.original is not None or getattr(sys, stream.name) is not None:
                target = stream if stream.taker is not None else getattr(sys, stream.name)
                try:
                    if target is stream:
                        stream.write_original(text + "\n", flush=True)
                    else:
                        target.write(text + "\n")
                        target.flush()
                except (OSError, ValueError, AttributeError):
                    pass
                return

    def _end_lines(self) -> None:
        """Write the unfinished line of each thread to its stream."""
        while self._lines:
            (name, _), rest = self._lines.popitem()
            try:
                STREAMS[name].write_original(rest, flush=True)
            except (OSError, ValueError):
                pass

    def _flush(self) -> None:
        for stream in self._streams:
            try:
                self.flush(stream)
            except (OSError, ValueError, AttributeError):
                pass

    # The pipe --------------------------------------------------------------------------------------------------------

    def _read(self, handle: int) -> None:
        """Show what comes through the pipe, until nobody can write to it any more."""
        while True:
            try:
                select.select([handle], [], [])
            except (OSError, ValueError):
                break
            if not self._pump(handle):
                break
        os.close(handle)

    def _pump(self, handle: int | None = None) -> bool:
        """Show the lines that are in the pipe now. Return False if no more can come."""
        handle = self._read_end if handle is None else handle
        with self._reading:
            while handle >= 0:
                try:
                    data = os.read(handle, CHUNK)
                except OSError:
                    return True
                if not data:
                    return False
                lines, end, rest = (self._rest + data).rpartition(b"\n")
                self._rest = rest[-LONGEST_LINE:]
                if end:
                    self.show(lines.decode("utf-8", "backslashreplace"))
        return True


def _is_on_terminal(stream: Any) -> bool:
    """Whether a stream of :mod:`sys` leads to the terminal of the process."""
    try:
        return is_own_terminal(stream.fileno())
    except (OSError, ValueError, AttributeError):
        return False
