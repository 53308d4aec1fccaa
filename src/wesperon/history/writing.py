"""Writing a history file: at its end, or all of it again, while nobody else does."""

from __future__ import annotations

import os
import time

from wesperon.files.private import make_folder, make_own_folder, open_private, replace_private, try_lock, write_all
from wesperon.frozen import Frozen
from wesperon.history.file_format import HEADER, NEAR_STATUS, OURS, removals
from wesperon.system.signals import block, signals, unblock

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any, Protocol

    class Owner(Protocol):
        """What a history says of its file, and hears of it (``history_file.History``)."""

        path: str | None
        owns_folder: bool

        def refuse(self, error: OSError | ValueError) -> None:
            """Take note that the file cannot be used."""

        def note_removals(self, count: int) -> None:
            """Note how often entries had been removed from the file."""


#: How long an entry waits for another process that writes, in seconds.
TIMEOUT = 0.2
#: The bytes at the beginning of a file that say how often entries were removed from it.
HEAD = 80


class Mark(Frozen):
    """The lines of an entry, where they begin, and the number of the file in which they were written."""

    file: int
    start: int
    lines: bytes

    @property
    def end(self) -> int:
        """Where they end."""
        return self.start + len(self.lines)


class Writing:
    """The end of the file, while nobody else writes; where that cannot be had, the history knows why.

    No interrupt comes meanwhile: it would leave half an entry, or a lock. ``timeout`` is how long to wait for a
    process that writes, in seconds; ``handle`` is -1 if it goes on for longer.
    """

    def __init__(self, history: Owner, timeout: float = TIMEOUT) -> None:
        self.history = history
        self.timeout = timeout
        self.handle = -1
        self.file = self.end = 0
        self.blocked: Any = None

    def __enter__(self) -> Writing:
        self.blocked = block([signals.SIGINT])
        try:
            self._open(self.history.path or os.devnull)
        except (OSError, ValueError) as error:
            self._close()
            self.history.refuse(error)
        except BaseException:
            self._close()
            unblock(self.blocked)
            raise
        return self

    def __exit__(self, kind: object, error: BaseException | None, trace: object) -> bool:
        self._close()
        if isinstance(error, OSError):
            self.history.refuse(error)
        unblock(self.blocked)
        return isinstance(error, OSError)

    def _open(self, path: str) -> None:
        folder = os.path.dirname(os.path.abspath(path))
        (make_own_folder if self.history.owns_folder else make_folder)(folder)
        latest = time.monotonic() + self.timeout
        while True:
            self.handle = open_private(path, os.O_RDWR | os.O_CREAT | os.O_APPEND)
            while not try_lock(self.handle):
                if time.monotonic() > latest:
                    self._close()
                    return
                # Another process holds it for the time of one write; a lock cannot be waited for with a time limit.
                time.sleep(0.001)
            opened = os.fstat(self.handle)
            try:
                # A compacted file is put in place with rename: the lock may be on one that has no name any more.
                if os.stat(path).st_ino == opened.st_ino:
                    break
            except FileNotFoundError:
                pass
            self._close()  # another process has put a new file in its place
        self.file, self.end = opened.st_ino, opened.st_size
        head = os.pread(self.handle, HEAD, 0) if hasattr(os, "pread") else all_of(self.handle)[:HEAD]
        if self.end < len(HEADER) and HEADER.startswith(head):  # nothing yet, or a first line that was cut off
            os.ftruncate(self.handle, 0)
            self.end = 0
            self.write(HEADER)
        else:
            examine(head[: len(HEADER)])
            self.history.note_removals(removals(head))
            if all_of(self.handle, self.end - 1) != b"\n":  # what was being written was cut off
                self.write(b"\n")

    def write(self, data: bytes) -> None:
        """Add this, all or nothing; raises OSError."""
        if self.handle < 0:
            return
        try:
            write_all(self.handle, data)
        except OSError:
            os.ftruncate(self.handle, self.end)
            raise
        self.end += len(data)

    def place_of(self, mark: Mark) -> int | None:
        """Return where an entry begins by now; None if it is nowhere near the end, or this is not to be written.

        The file may have been written again since, by who has removed others, and even have its number again.
        """
        if self.handle < 0:
            return None
        if self.file == mark.file and all_of(self.handle, mark.start).startswith(mark.lines):
            return mark.start
        first = max(self.end - NEAR_STATUS, 0)
        found = all_of(self.handle, first).rfind(b"\n" + mark.lines)
        return None if found < 0 else first + found + 1

    def replace(self, data: bytes) -> None:
        """Put another file in the place of this one; raises OSError."""
        replace_private(self.history.path or os.devnull, data)

    def _close(self) -> None:
        if self.handle >= 0:
            handle, self.handle = self.handle, -1
            try:
                os.close(handle)
            except OSError:  # all has been written: a network file system may say so only now, and nothing can be done
                pass


def examine(head: bytes) -> None:
    """Raise ValueError for a file that is no history of this version."""
    if not head or HEADER.startswith(head):
        return
    if head.startswith(OURS):
        raise ValueError("it was written by another version")
    raise ValueError("it is not a history file")


def all_of(handle: int, start: int = 0) -> bytes:
    """Return the file from an offset on."""
    os.lseek(handle, start, os.SEEK_SET)
    parts = []
    while part := os.read(handle, 1 << 20):
        parts.append(part)
    return b"".join(parts)
