"""What a process prints while something is open on its terminal comes above that, whole lines at a time.

Two ways lead there. The streams of :mod:`sys` (``system.streams``) put lines together for each thread, so that none is
torn. Whatever writes to the descriptors themselves (a handler of :mod:`logging` that was made before, a library in
another language, a child process) writes to a pipe while something is open (``diversion``). While nothing is open
both lead where they always do: a command has the terminal for itself, and so have the children that it starts.

A child that was started then, and still writes when a line is open again, has the terminal itself and may tear a row.
Only a terminal of its own could keep it from that.
"""

from __future__ import annotations

import _thread
import os
import sys
from time import sleep

from wesperon.screen.ecma48 import SGR_RESET
from wesperon.system.interrupts import critical
from wesperon.system.streams import STREAMS
from wesperon.terminal.seat.diversion import LONGEST_LINE, Diversion
from wesperon.terminal.seat.turn import is_own_terminal
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
            """Return True if so few lines wait to be shown that more may come."""


#: For how long at most who prints waits for room, and how often it looks, in seconds: it may be the very thread that is
#: to show the lines.
LONGEST_WAIT, ROOM_LOOK = 0.25, 0.001
#: For how long a line that has begun is given to end: how often that is looked at, and in what steps, in seconds.
LINE_END_LOOKS, LINE_END_LOOK = 50, 0.001
#: For how many threads at most it is waited that they get to run.
MOST_WAITED_FOR = 5


class Capture:
    """Takes what the process prints while something is open; there is one, and it is used in nests.

    ``open`` and ``close`` are around all that is opened, ``begin`` and ``end`` around the time in which the terminal is
    ours; both may be called again inside.
    """

    def __init__(self, shown: Shown) -> None:
        self.shown = shown
        self._users = self._begun = 0
        #: Whether whole lines go above the rows of long work (``holding``).
        self.holds = False
        self._streams: list[StandardStream] = []
        self._pipe = Diversion((), self.show)
        #: Held while the streams are taken or given back, and while it is decided where a text goes.
        self._using = _thread.RLock()
        self._deciding = _thread.RLock()
        self._lines: dict[tuple[str, int], str] = {}
        #: Whose unfinished line has been flushed: it is wanted on the screen as it is.
        self._flushed: set[tuple[str, int]] = set()
        #: The line that is written and has no end yet, with its thread; the one whose end did not come soon.
        self._half_line: tuple[int, object] | None = None
        self._waited_for: tuple[int, object] | None = None
        #: The process, and the thread that has opened it, whose commands have the terminal between two lines.
        self._process, self._thread = os.getpid(), _thread.get_ident()

    # Opening and closing ---------------------------------------------------------------------------------------------

    @critical
    def open(self) -> None:
        """Take the streams that lead to the terminal."""
        with self._using:
            self._users += 1
            if self._users == 1:
                self._take_streams()
            elif not self._thread:
                self._thread = _thread.get_ident()

    def _take_streams(self) -> None:
        self._process, self._thread = os.getpid(), _thread.get_ident()
        self._streams = [stream for name, stream in STREAMS.items() if _is_on_terminal(getattr(sys, name))]
        # Where the process began without a stream, another file may have its number by now.
        originals = ((1, sys.__stdout__), (2, sys.__stderr__))
        numbers = [n for n, stream in originals if stream is not None and not stream.closed and is_own_terminal(n)]
        self._pipe = Diversion(numbers, self.show)
        for stream in self._streams:
            stream.use()
            stream.taker = self
        threads = _threads()
        if threads > 1 and any(getattr(stream.original, "write_through", False) for stream in self._streams):
            # What they are printing at this moment goes to the streams that were there before, piece by piece.
            sleep(sys.getswitchinterval() * min(threads, MOST_WAITED_FOR))

    @critical
    def close(self) -> None:
        """Give everything back as it was; what has no end of its line yet goes on where it would without us."""
        with self._using:
            self._users -= 1
            if not self._users:
                self._give_streams_back()

    def _give_streams_back(self) -> None:
        self._restore()
        self._end_lines()  # before anything goes past this: a thread may be in the midst of one
        for stream in self._streams:
            stream.taker = None
            stream.release()
        self._streams = []
        self._pipe.close()

    @critical
    def begin(self) -> None:
        """Lead the descriptors to the pipe once lines have ended: something is open from here on."""
        if self._begun:
            self._begun += 1
            return
        has_threads = _threads() > 1
        if not has_threads:
            self._flush()
        self._pipe.divert(passes=has_threads)
        if has_threads:
            self._flush_lines()
        while True:
            with self._deciding:
                if not self._is_inside_line(_thread.get_ident()):
                    self._begun, self._half_line = 1, None
                    break
            self._await_line_end()
        self._pipe.hold()

    def _flush_lines(self) -> None:
        """Flush the streams; a line that a thread has begun is given a moment to end."""
        for _ in range(LINE_END_LOOKS):
            self._flush()
            if self._pipe.is_at_line_end():
                break
            sleep(LINE_END_LOOK)

    @critical
    def end(self) -> None:
        """Lead the descriptors where they led before, once everything in the pipe is shown."""
        if self._begun > 1:
            self._begun -= 1
        else:
            self._restore()

    def _restore(self) -> None:
        was_diverted = self._pipe.restore()
        with self._deciding:  # whoever writes to the terminal from here on finds it there
            self._begun = 0
        if was_diverted:
            self._pipe.pump()

    def give_back(self) -> None:
        """Show what is in the pipe, if that can be had at once: the process ends."""
        self._pipe.pump_within(LONGEST_WAIT)

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
        while True:
            with self._deciding:
                if self._begun or self.holds:
                    lines, end = self._ended(key, text)
                    break
                if not self._is_inside_line(key[1]):
                    self._write_between(stream, text, key)
                    return
            self._await_line_end()
        if end:
            self._pipe.pump()  # it was printed before what comes now
            self.show(lines)

    def _ended(self, key: tuple[str, int], text: str) -> tuple[str, str]:
        """Return the lines of a thread that a text ends, and what ended the last; the rest is kept."""
        lines, end, rest = (self._lines.pop(key, "") + text).rpartition("\n")
        if end:
            self._flushed.discard(key)
        if len(rest) > LONGEST_LINE or "\r" in rest:
            from wesperon.text.overwriting import last_state

            # The CR at the very end may be the beginning of a CR LF, or of the next state.
            rest = last_state(rest)[-LONGEST_LINE:] + "\r" * rest.endswith("\r")
        if rest:
            self._lines[key] = rest
        return lines, end

    def _write_between(self, stream: StandardStream, text: str, key: tuple[str, int]) -> None:
        """Write a text while nothing is open.

        Of another thread than that of the commands only whole lines are written, since the next line may open at any
        moment, and none in the midst of a line of a command that is about to end.
        """
        thread, half_line = key[1], self._half_line
        text = self._lines.pop(key, "") + text
        if not self._users:
            stream.write_original(text)
            return
        if thread != self._thread and (half_line is None or half_line[0] != thread):
            text, end, rest = text.rpartition("\n")
            text += end
            if rest:
                self._lines[key] = rest
        elif "\n" in text:
            self._half_line = None if text.endswith("\n") else (thread, object())
        elif text and half_line is None:
            self._half_line = thread, object()
        if text:
            # What has no end of its line yet would else come in the midst of the next line that is open.
            stream.write_original(text, flush=not text.endswith("\n"))

    def _is_inside_line(self, thread: int) -> bool:
        """Return True if what a thread writes now would fall into a line of another one that is about to end."""
        half_line = self._half_line
        return half_line is not None and half_line is not self._waited_for and half_line[0] != thread

    def _await_line_end(self) -> None:
        """Wait until a command has ended its line: the built-in ``print`` writes a text and its end one by one.

        One that has none for a while, as of a question or a bar, keeps nobody waiting again.
        """
        half_line = self._half_line
        for _ in range(LINE_END_LOOKS):
            if self._half_line is not half_line or self._begun:
                return
            sleep(LINE_END_LOOK)
        self._waited_for = half_line

    def flush(self, stream: StandardStream) -> None:
        """Write everything that waits; a line that has no end yet waits for it."""
        key = stream.name, _thread.get_ident()
        if key in self._lines:
            self._flushed.add(key)
        self._flush_original(stream)

    def _flush_original(self, stream: StandardStream) -> None:
        if stream.original is not None:
            stream.original.flush()

    def handle(self, number: int) -> int:
        """Return a descriptor that leads where this one led before."""
        return self._pipe.handle(number)

    def show(self, text: str) -> None:
        """Show finished lines above what is open; who says very much waits for a moment: memory stays bounded."""
        if "\r" in text:
            from wesperon.text.overwriting import last_state

            text = "\n".join([last_state(line) for line in text.split("\n")])
        shown = showable(text)
        while not self.shown.say(shown + SGR_RESET if "\x1b" in shown else shown):
            with self._deciding:
                if not self._begun:  # nor is there a row at the foot
                    self._show_aside(text)
                    return
            sleep(LINE_END_LOOK)  # it is being opened
        if not self.shown.has_room():
            for _ in range(int(LONGEST_WAIT / ROOM_LOOK)):
                if self.shown.has_room():
                    break
                sleep(ROOM_LOOK)

    def _show_aside(self, text: str) -> None:
        """Print lines where nothing is open: those of a child that outlives the question."""
        for stream in STREAMS.values():
            if stream.original is not None or getattr(sys, stream.name) is not None:
                # By its own way where ours is still in its place; the program may have put another one there since.
                target = stream if stream.taker is not None else getattr(sys, stream.name)
                try:
                    if target is stream:
                        stream.write_original(text + "\n", flush=True)
                    else:
                        target.write(text + "\n")
                        target.flush()
                except (OSError, ValueError, AttributeError):
                    # closed: who wrote has been told by its own write, or never looked
                    pass
                return

    def _end_lines(self) -> None:
        """Write the unfinished line of each thread to its stream, where its end follows."""
        with self._deciding:
            while self._lines:
                key, rest = self._lines.popitem()
                try:
                    STREAMS[key[0]].write_original(rest, flush=key in self._flushed)
                except (OSError, ValueError):  # closed meanwhile: there is nowhere to write to
                    pass
            self._flushed.clear()

    def _flush(self) -> None:
        for stream in self._streams:
            try:
                self._flush_original(stream)
            except (OSError, ValueError, AttributeError):  # a stream that the program has closed holds nothing
                pass


def _threads() -> int:
    """Return how many threads the program has; others than this one may be in the midst of a line."""
    if "threading" not in sys.modules:
        return 1
    from threading import active_count  # another thread may be loading it: this waits

    return active_count()


def _is_on_terminal(stream: Any) -> bool:
    """Return True if a stream of :mod:`sys` leads to the terminal of the process."""
    try:
        return is_own_terminal(stream.fileno())
    except (OSError, ValueError, AttributeError):  # closed, or no file: no terminal in either case
        return False
