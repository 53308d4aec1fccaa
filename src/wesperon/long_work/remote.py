"""Work that is counted in other processes: what they write, and the process that has the row reads.

A folder of its own holds two files. No worker waits for anybody, and what it has counted is there whatever ends it:

    counts     8 bytes for each process: how much it has added in all (a double, as IEEE 754 has it). A process
               claims its place by appending it, and is the only one that writes there.
    said       lines of JSON, each appended in one piece: what was said, and what the count was set to, with how
               much its process had added by then, so that what it added later still counts

The process that has the row reads when it looks at the count, and once more at the end: by then all that a worker wrote
before its result was taken is there. Then the folder is removed, and what comes later is written to nobody.
"""

from __future__ import annotations

import _thread
import atexit
import json
import os
import shutil
import struct
import tempfile
from collections import deque

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.long_work.work import Work

#: The files of the folder.
COUNTS, SAID = "counts", "said"
#: How a place is written.
PLACE = struct.Struct("<d")
#: The most that is read of what was said at once, in bytes.
PIECE = 1 << 16


class Remote:
    """Counts for a piece of work of another process; can be pickled. Its calls do nothing once the work has ended."""

    def __init__(self, folder: str) -> None:
        self._folder = folder

    def __reduce__(self) -> tuple[type[Remote], tuple[str]]:
        return Remote, (self._folder,)

    def add(self, n: float = 1) -> None:
        """Count ``n`` more."""
        if (claim := _claim(self._folder)) is not None:
            claim.add(n)

    def set(self, n: float) -> None:
        """Say that ``n`` have been done by now, by all."""
        if (claim := _claim(self._folder)) is not None:
            claim.tell(["set", n])

    def say(self, text: object) -> None:
        """Print a text on the standard error of the process that has the work, above its row."""
        if (claim := _claim(self._folder)) is not None:
            claim.tell(["say", str(text)])


class Claim:
    """The place of this process in a folder; raises OSError if the folder is gone."""

    def __init__(self, folder: str) -> None:
        self.folder = folder
        self.process = os.getpid()
        self._lock = _thread.allocate_lock()
        self._added: float = 0
        flags = getattr(os, "O_CLOEXEC", 0) | getattr(os, "O_BINARY", 0)
        self._said = os.open(os.path.join(folder, SAID), os.O_WRONLY | os.O_APPEND | flags)
        try:
            path = os.path.join(folder, COUNTS)
            self._counts = os.open(path, os.O_WRONLY | os.O_APPEND | flags)
            try:
                os.write(self._counts, PLACE.pack(0))
                self.place = os.lseek(self._counts, 0, os.SEEK_CUR) - PLACE.size
            finally:
                os.close(self._counts)
            self._counts = os.open(path, os.O_WRONLY | flags)
        except OSError:
            os.close(self._said)
            raise

    def add(self, n: float) -> None:
        """Count ``n`` more."""
        with self._lock:
            self._added += n
            try:
                os.lseek(self._counts, self.place, os.SEEK_SET)
                os.write(self._counts, PLACE.pack(self._added))
            except OSError:  # the disk is full: the next one that is written has this one in it, and the work goes on
                pass

    def tell(self, message: list[object]) -> None:
        """Append a message, with how much has been added by now."""
        with self._lock:
            try:
                os.write(self._said, json.dumps([*message, self.place, self._added]).encode() + b"\n")
            except OSError:  # the disk is full: what a worker says is no reason to end it
                pass

    def close(self) -> None:
        """Close the files."""
        os.close(self._said)
        os.close(self._counts)


#: The places of this process, by their folders.
_CLAIMS: dict[str, Claim] = {}
_CLAIMING = _thread.allocate_lock()


def _claim(folder: str) -> Claim | None:
    """Return the place of this process in a folder; None if the work has ended."""
    claim = _CLAIMS.get(folder)
    if claim is not None and claim.process == os.getpid():
        return claim
    with _CLAIMING:
        for other in [*_CLAIMS.values()]:
            if other.process != os.getpid() or not os.path.exists(other.folder):
                _CLAIMS.pop(other.folder).close()
        if folder not in _CLAIMS:
            try:
                _CLAIMS[folder] = Claim(folder)
            except OSError:  # the work has ended
                return None
        return _CLAIMS[folder]


if hasattr(os, "register_at_fork"):
    # A thread of the parent may have had it.
    os.register_at_fork(after_in_child=lambda: globals().update(_CLAIMING=_thread.allocate_lock()))


class Receiver:
    """Reads what other processes have counted and said."""

    def __init__(self) -> None:
        self._folder = tempfile.mkdtemp(prefix="wesperon-work-")
        for name in (COUNTS, SAID):
            open(os.path.join(self._folder, name), "xb").close()
        self.remote = Remote(self._folder)
        self._process = os.getpid()
        self._counts = open(os.path.join(self._folder, COUNTS), "rb", buffering=0)  # noqa: SIM115 closed by ``close``
        self._messages = open(os.path.join(self._folder, SAID), "rb", buffering=0)  # noqa: SIM115
        self._rest = b""
        #: How much of each place is in the count already; what was said and is not printed yet.
        self._taken: dict[int, float] = {}
        self._said: deque[str] = deque()
        self._lock, self._saying = _thread.RLock(), _thread.allocate_lock()
        atexit.register(self.close)

    def receive(self, work: Work) -> None:
        """Count what has been written since the last time."""
        with self._lock:
            if self._counts.closed:
                return
            for what, value, place, added in self._new_messages():
                if what == "say":
                    self._said.append(value)
                else:
                    # Whatever the others have added until now is in that number.
                    self._taken.update(self._places())
                    self._taken[place] = added
                    work.set(_number(value))
            more = 0.0
            for place, added in self._places().items():
                more += added - self._taken.get(place, 0)
                self._taken[place] = added
            if more:
                work.add(_number(more))

    def say(self, work: Work, *, waits: bool) -> None:
        """Print what was said; another thread may be at it, which is waited for if ``waits``."""
        if not self._said and not waits:
            return
        if not self._saying.acquire(blocking=waits):
            return
        try:
            while self._said:
                work.say(self._said.popleft())
        finally:
            self._saying.release()

    def close(self) -> None:
        """Read no more, and remove the folder; a child that was forked leaves it to the parent."""
        with self._lock:
            atexit.unregister(self.close)
            self._counts.close()
            self._messages.close()
            if self._process == os.getpid():
                shutil.rmtree(self._folder, ignore_errors=True)

    def _new_messages(self) -> list[tuple[str, Any, int, float]]:
        while piece := self._messages.read(PIECE):
            self._rest += piece
        *lines, self._rest = self._rest.split(b"\n")
        return [message for line in lines if (message := _message(line)) is not None]

    def _places(self) -> dict[int, float]:
        self._counts.seek(0)
        data = self._counts.read() or b""
        return {at: PLACE.unpack_from(data, at)[0] for at in range(0, len(data) - PLACE.size + 1, PLACE.size)}


def _message(line: bytes) -> tuple[str, Any, int, float] | None:
    """Return what a line says; None for one of which a full disk has taken a part only."""
    try:
        what, value, place, added = json.loads(line)
    except ValueError:  # a part of a line, which says nothing
        return None
    return what, value, place, added


def _number(value: float) -> float:
    """Return a number as a whole one if it is one."""
    return int(value) if value == int(value) else value
