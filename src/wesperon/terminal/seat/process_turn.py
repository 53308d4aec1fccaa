"""Whose turn it is on one terminal, among processes: the programs of a pipeline ask one after the other.

The turn is a lock on the terminal's own file. It ends with the process that has it, whatever ends that. It is one of
``flock``, which belongs to the file as it was opened here: a lock of POSIX (``lockf``) ends as soon as the process
closes any other descriptor of the terminal, as it does when the standard output is led elsewhere (``capture``).
"""

from __future__ import annotations

import os

from wesperon.system.descriptors import Descriptors
from wesperon.system.interrupts import critical
from wesperon.system.signals import raise_if_own
from wesperon.terminal.seat.turn import is_own_terminal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

try:
    import fcntl
except ImportError:  # a system where no terminal has a file, so that nobody waits
    pass


class TerminalTurn:
    """The turn of this process; nobody waits where the terminal cannot be locked."""

    def __init__(self) -> None:
        self._handle = -1
        self._held = Descriptors()

    @critical
    def take(self) -> bool:
        """Take the turn. Return True if no other process has it, but for one that waits for this process."""
        if self._handle >= 0:
            return True
        path = own_terminal()
        if not path:
            return True
        try:
            handle = self._held.open(path, os.O_RDWR | os.O_NOCTTY | os.O_CLOEXEC)
        except OSError as error:
            raise_if_own(error)
            return True
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise_if_own(error)
            is_other = isinstance(error, (BlockingIOError, PermissionError)) and not is_held_in_line(
                handle, os.getppid()
            )
            self._held.close()
            return not is_other
        self._handle = handle
        return True

    def end(self) -> None:
        """Let others have the turn."""
        if self._handle >= 0:
            handle, self._handle = self._handle, -1
            try:
                fcntl.flock(handle, fcntl.LOCK_UN)  # a child that was forked meanwhile has it too
            except OSError:  # a file system without locks: none was held
                pass
            self._held.close()


def own_terminal() -> str:
    """Return the path of the terminal of the process, by one of the standard streams that lead there.

    Return an empty text if none does.
    """
    for handle in (2, 0, 1):
        try:
            if is_own_terminal(handle):
                return os.ttyname(handle)
        except (OSError, AttributeError) as error:
            raise_if_own(error)
    return ""


def holders_of(file: os.stat_result, listed: Iterable[str]) -> set[int]:
    """Return the processes that have a lock on a file, by the lines of ``/proc/locks`` (proc(5)).

    A file is named by its device in hexadecimal digits and its inode: an inode alone, or a part of it, is that of many.
    An arrow is before one that waits.
    """
    name = f"{os.major(file.st_dev):02x}:{os.minor(file.st_dev):02x}:{file.st_ino}"
    locks = [parts for line in listed if len(parts := line.split()) > 7 and parts[1] != "->"]
    return {int(parts[4]) for parts in locks if parts[5] == name}


def is_held_in_line(handle: int, process: int) -> bool:
    """Return True if a ``process`` has the turn, or an ancestor of it, where the system tells: that may wait for us."""
    try:
        with open("/proc/locks", encoding="ascii") as listed:
            holders = holders_of(os.fstat(handle), listed)
        while process > 1 and process not in holders:
            with open(f"/proc/{process}/stat", encoding="utf-8", errors="replace") as stat:
                process = int(stat.read().rpartition(")")[2].split()[1])
        return process in holders
    except (OSError, ValueError, IndexError):  # a system without /proc/locks does not say: then the turn is another's
        return False
