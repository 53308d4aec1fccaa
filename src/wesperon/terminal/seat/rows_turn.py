"""Whose rows of long work are on a terminal, among processes: those of one at a time, also of those of a pipeline.

The turn is a lock on a byte of the terminal's own file, of the open file description (``F_OFD_SETLK``), so that it ends
with the process. Locks on other bytes tell who has the turn of lines that other processes have printed below its rows:
the number of the byte is that of all their rows so far. One more byte is locked by who writes, so that nobody draws
over a line that he has not been told of yet. Such a lock ends with its process too, so who has told of a
line ends a moment later (``linger``), if somebody may not have looked yet.

Only some systems have such locks. Without them rows of several processes are drawn over each other.
"""

from __future__ import annotations

import os
import struct
from time import monotonic, sleep

from wesperon.terminal.seat.process_turn import is_held_in_line, own_terminal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

try:
    import fcntl
except ImportError:  # a system where no terminal has a file
    pass

#: ``struct flock`` of the system: type, whence, start, length, process.
LOCK = struct.Struct("hhqqi4x")
#: The byte of the turn, and of who writes just now; from the next one on, those that tell of lines.
TURN, WRITING, LINES = 0, 1, 2
#: For how many seconds who writes is waited for at most: it may have been stopped just then.
LONGEST_WRITE = 0.2
#: How often a turn that somebody has is tried, before it is taken to be another process's.
TRIES, BETWEEN_TRIES = 5, 0.002
#: After how many seconds at most who has the turn looks.
LONGEST_LOOK = 1.1


class RowsTurn:
    """The turn of this process on the terminal of a descriptor."""

    def __init__(self, terminal: int) -> None:
        self._file = -1
        self._lines = LINES
        #: Whether this process has it; the byte of another one's lines when that was looked at last.
        self.is_ours = False
        self._seen = 0
        self._told_at = 0.0
        if hasattr(fcntl, "F_OFD_SETLK"):
            try:
                # By its own name: a lock on the one that is the same for every terminal would be one for all of them.
                path = os.ttyname(terminal)
                path = own_terminal() if path == os.ctermid() else path
                self._file = os.open(path, os.O_RDWR | os.O_NOCTTY | os.O_CLOEXEC) if path else -1
            except OSError:  # a terminal without a file: nobody else has it open
                pass

    def take(self) -> bool:
        """Take the turn. Return False if another process has it."""
        if not self.is_ours:
            self.is_ours = self._file < 0 or self._lock(fcntl.F_WRLCK, TURN) is not None
            self._seen = self._line_of_another()
        return self.is_ours

    def end(self) -> None:
        """Let others have it."""
        if self.is_ours:
            self.is_ours = False
            self._lock(fcntl.F_UNLCK, TURN)

    def begin_drawing(self) -> bool:
        """Take the turn of those that ask (``process_turn``) for a moment. Return False if another process asks.

        The file stays open: each call of the system in which another thread may run costs a look at a busy loop 5 ms.
        """
        if self._file < 0:
            return True
        for _ in range(TRIES):
            try:
                fcntl.flock(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB)
                return True
            except (BlockingIOError, PermissionError):
                # By this process while a question of it is being opened or closed, through a file of its own; that may
                # have ended when the locks are listed.
                if is_held_in_line(self._file, os.getpid()):
                    return True
                sleep(BETWEEN_TRIES)
            except OSError:  # a terminal that cannot be locked, on which nobody waits
                return True
        return False

    def end_drawing(self) -> None:
        """Let others ask."""
        if self._file >= 0:
            try:
                fcntl.flock(self._file, fcntl.LOCK_UN)
            except OSError:  # none was held
                pass

    def begin_writing(self) -> None:
        """Have no other process write for a moment."""
        if self._file >= 0:
            end = monotonic() + LONGEST_WRITE
            while self._lock(fcntl.F_WRLCK, WRITING) is None and monotonic() < end:
                sleep(LONGEST_WRITE / 200)

    def end_writing(self) -> None:
        """Let others write."""
        if self._file >= 0:
            self._lock(fcntl.F_UNLCK, WRITING)

    def has_rows(self) -> bool:
        """Return True if other processes have printed below the rows of this one."""
        return self._line_of_another() > max(self._seen, LINES)

    def tell_of(self, rows: int) -> None:
        """Tell who has the turn that a text of some rows was printed."""
        if self._file >= 0 and not self.is_ours:
            before, self._lines = self._lines, self._lines + rows
            self._lock(fcntl.F_WRLCK, self._lines)
            self._lock(fcntl.F_UNLCK, before)
            self._told_at = monotonic()

    def pop_rows(self) -> int:
        """Return how many rows other processes have printed since the last time that this was asked."""
        if self._file < 0:
            return 0
        before, self._seen = self._seen, self._line_of_another()
        return max(self._seen - max(before, LINES), 0)

    def linger(self) -> None:
        """Wait until who has the turn has looked: the process ends, and its locks with it."""
        found = self._lock(fcntl.F_WRLCK, TURN, 1, fcntl.F_OFD_GETLK) if self._file >= 0 else None
        if self._told_at and found is not None and found[0] != fcntl.F_UNLCK:
            sleep(max(self._told_at + LONGEST_LOOK - monotonic(), 0))

    def _line_of_another(self) -> int:
        """Return the byte of another process's lines; 0 if there is none."""
        found = self._lock(fcntl.F_WRLCK, LINES, 0, fcntl.F_OFD_GETLK) if self._file >= 0 else None
        return int(found[2]) if found is not None and found[0] != fcntl.F_UNLCK else 0

    def _lock(self, kind: int, start: int, length: int = 1, act: int | None = None) -> tuple[Any, ...] | None:
        if self._file < 0:
            return None
        try:
            done = fcntl.fcntl(
                self._file, fcntl.F_OFD_SETLK if act is None else act, LOCK.pack(kind, os.SEEK_SET, start, length, 0)
            )
        except OSError:  # another process has it
            return None
        return LOCK.unpack(done)
