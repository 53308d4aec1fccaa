"""The history of one program: its file, and what this run of the program has added.

Nothing is opened before something is looked for or added. What others add meanwhile is seen after ``load``. An entry is
in the file, whole, once ``add`` has returned: it is written in one piece, at the end, while no other process writes. A
file that has grown too large is written again, without what is repeated and without the oldest entries, and then takes
the place of the old one; who waits to write finds the new one. If the file cannot be used, entries are kept for this
run only, and ``fault`` says why.
"""

from __future__ import annotations

import errno
import os
import time

from wesperon.context import current
from wesperon.editing.history_view import Entry
from wesperon.files.file_view import FileView
from wesperon.files.private import open_private, read_private
from wesperon.frozen import later
from wesperon.history.file_format import (
    HEADER,
    Kept,
    details_of,
    encoded,
    entries,
    entry_after,
    last_of,
    line_between,
    removals,
    search_back,
    search_on,
    status_line,
    time_line,
    whole_before,
    written,
)
from wesperon.history.writing import HEAD, TIMEOUT, Mark, Writing, all_of, examine
from wesperon.system.interrupts import critical
from wesperon.user_folders import folder

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Collection, Iterable, Iterator

    from wesperon.history import rewriting
    from wesperon.history.file_format import Buffer
else:
    rewriting = later("wesperon.history.rewriting")

#: The bytes that a history file may have before it is written again, with half as many.
LIMIT = 128 << 20
#: How long an entry waits while others wait already, and how long the last ones wait, in seconds.
SHORT_TIMEOUT, LAST_PATIENCE = 0.01, 2.0
#: Seconds.
DAY = 86_400
#: The mark of an entry that waits.
WAITING = Mark(-1, 0, b"")
#: How far back a hint is looked for, in bytes.
NEAR = 1 << 18
#: What the name of the file of favourites ends with.
FAVOURITES = "-favourites.txt"
#: The position of the first entry of this run: after everything that a file can hold.
OWN = 1 << 60


def state_file(program: str) -> str:
    """Return where the history of a program is, in the user's state folder."""
    return os.path.join(folder("state", program), "history.txt")


class History:
    """The entries of a program, as a line recalls and searches them; see ``editing.history_view.Past``.

    ``path`` is the file, ``None`` for none; ``limit`` the bytes that it may have; ``owns_folder`` whether its folder is
    one that nothing else uses. ``entries`` is how many entries are kept, ``days`` for how long; None for all, for ever.
    """

    #: Whether it is the file of favourites, which has none itself.
    is_of_favourites = False

    def __init__(
        self,
        path: str | None = None,
        *,
        limit: int = LIMIT,
        owns_folder: bool = False,
        entries: int | None = None,
        days: int | None = None,
    ) -> None:
        self.path = path
        self.limit = limit
        self.most_entries, self.most_days = entries, days
        self.owns_folder = owns_folder
        #: The lines of entries that are not in the file yet, since another process was writing.
        self.waiting = b""
        #: How entries ended whose status is not in the file yet.
        self._statuses: list[tuple[Mark, int]] = []
        self.fault = ""
        self.added: list[str] = []
        self.data: Buffer | None = None
        self._version = 0
        #: The number, the size and the time of the file when its head was read last.
        self._stamp = (0, 0, 0)
        self._number, self.end = self._found()
        self.missed = ""
        #: How often entries had been removed from the file when this run saw it first; None before that.
        self._removals: int | None = None
        self._favourites: History | None = None
        self._kept: set[str] | None = None

    def add(self, text: str) -> Mark | None:
        """Keep an entry; a mark by which ``finish`` knows it, or None if it is in no file.

        What begins with a blank is not kept at all. Where another process goes on writing, the entry waits.
        """
        if not text.strip() or text[0].isspace():
            return None
        self.added.append(text)
        self.missed = ""
        if self.path is None or self.fault:
            return None
        self.waiting += line_between(encoded(text))
        mark = self._append(encoded(text) + time_line(tuple(time.gmtime(current().clock.time()))))
        if mark is None:
            return WAITING if self.waiting and not self.fault else None
        if mark.end > self.limit:
            self.compact()
        return mark

    def open(self) -> None:
        """Find out whether the file can be used, before an entry is accepted; ``fault`` says why it cannot."""
        if self.path is not None and not self.fault:
            self._append(b"")
            self._trim()

    @critical
    def _trim(self) -> None:
        """Write the file again without what the user wants to be kept no longer, if a tenth of it is that."""
        if self.most_entries is None and self.most_days is None:
            return
        with Writing(self) as writing:
            if writing.handle < 0:
                return
            earliest = None
            if self.most_days is not None:
                earliest = tuple(time.gmtime(current().clock.time() - self.most_days * DAY)[:6])
            data = rewriting.trimmed(all_of(writing.handle), self.most_entries, earliest)
            try:
                if data is not None:
                    writing.replace(data)
            except OSError:
                pass  # no room: the file stays as it is, and the next console tries again

    def close(self) -> None:
        """Write what has waited for another process, and let go of the file; who reads on opens it again."""
        self.data = None
        if self.waiting and not self.fault:
            self._append(b"", LAST_PATIENCE)
        if self._statuses and not self.fault:
            self._write_statuses(LAST_PATIENCE)
        if self.waiting and not self.fault:
            self.fault = f"{self.path}: another process has its lock; the last entries are lost"

    @critical
    def finish(self, mark: Mark | None, status: int) -> None:
        """Say how the entry with this mark ended, wherever it is in a file that was written again meanwhile."""
        if mark is None or self.fault:
            return
        if mark == WAITING:
            if self.waiting:
                self.waiting += status_line(status)
            return
        self._statuses.append((mark, status))
        self._write_statuses(TIMEOUT)

    def _write_statuses(self, timeout: float) -> None:
        """Write how entries have ended; where another process goes on writing, that waits for the next time."""
        with Writing(self, timeout) as writing:
            while self._statuses and writing.handle >= 0:
                mark, status = self._statuses.pop(0)
                start = writing.place_of(mark)
                if start is not None:  # else it was removed
                    writing.write(status_line(status, None if writing.end == start + len(mark.lines) else start))

    def add_plain(self, lines: Iterable[str]) -> int:
        """Add entries, without times, from plain lines; how many there were. Blank lines do not count."""
        texts = [line for line in (line.rstrip("\r\n") for line in lines) if line.strip()]
        self._append(b"".join(written(Kept(text, None, None, 0, 0)) for text in texts))
        self.close()
        self.load()
        return len(texts)

    def load(self) -> None:
        """Take in what others have added."""
        if self.waiting:
            self._append(b"")
        if self.path is not None and not self.fault and not self.waiting:
            entered, self.data, self.added = self.added, None, []
            self._version += 1
            self._number, self.end = self._found()
            self.missed = ""
            self._mapped()
            if self.fault:  # it cannot be read any more: what this run has entered is kept
                self.added = entered

    def entries(self) -> Iterator[Kept]:
        """Everything in the file, the oldest first."""
        try:
            if self.path:
                yield from entries(read_private(self.path))
        except FileNotFoundError:  # nothing was entered yet
            return
        except OSError as error:
            self.refuse(error)

    def texts(self) -> list[str]:
        """Return the texts of all entries, the oldest first."""
        in_file = [kept.text for kept in self.entries()] if self.path and not self.fault else []
        return in_file or list(self.added)

    @property
    def version(self) -> int:
        """See ``editing.history_view.Past``."""
        self._heed_replacement()
        return self._version

    def find(self, entry: Entry) -> Entry | None:
        """See ``editing.history_view.Past``."""
        self._heed_replacement()
        return self._found_again(entry)

    def _found_again(self, entry: Entry) -> Entry | None:
        """Return an entry of any version as it is in this one; None if it was removed."""
        version = self._version
        if entry.version == version:
            return entry
        if entry.text in self.added:
            last = len(self.added) - 1 - self.added[::-1].index(entry.text)
            return Entry(OWN + last, entry.text, version)
        data = self._mapped()
        start = last_of(data, min(self.end, len(data)), entry.text) if entry.text else None
        return None if start is None else Entry(start, entry.text, version)

    def older(self, entry: Entry | None, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
        """See ``editing.history_view.Past``."""
        self._heed_replacement()
        version = self._version
        before = self._found_again(entry) if entry is not None else None
        position = before.position if before is not None else None
        newest = len(self.added) if position is None else position - OWN if position >= OWN else 0
        for number in range(newest - 1, -1, -1):
            text = self.added[number]
            if (text.startswith(needle) if begins else needle in text) and text not in seen:
                return Entry(OWN + number, text, version)
        end = position if position is not None and position < OWN else self.end
        data = self._mapped()
        found = search_back(data, min(end, len(data)), needle, begins=begins, seen=seen)
        return Entry(*found, version) if found else None

    def newer(self, entry: Entry, needle: str, *, begins: bool, seen: Collection[str]) -> Entry | None:
        """See ``editing.history_view.Past``."""
        after = self.find(entry)
        if after is None:
            return None
        position, version = after.position, after.version
        if position < OWN:
            data = self._mapped()
            found = search_on(data, position, min(self.end, len(data)), needle, begins=begins, seen=seen)
            if found is not None:
                return Entry(*found, version)
            position = OWN - 1
        for number in range(position - OWN + 1, len(self.added)):
            text = self.added[number]
            if (text.startswith(needle) if begins else needle in text) and text not in seen:
                return Entry(OWN + number, text, version)
        return None

    def oldest(self) -> Entry | None:
        """See ``editing.history_view.Past``."""
        version = self.version
        data = self._mapped()
        found = entry_after(data, 0, min(self.end, len(data)))
        if found is not None:
            return Entry(*found, version)
        return Entry(OWN, self.added[0], version) if self.added else None

    def hint(self, beginning: str) -> str:
        """See ``editing.history_view.Past``; only the newest part of the file is looked at."""
        if self.missed and beginning.startswith(self.missed):
            return ""
        self._heed_replacement()
        # For each key: what this run has entered is looked through as far back as nobody would feel it.
        for text in reversed(self.added[-1000:]):
            if text.startswith(beginning) and text != beginning:
                return text
        data = self._mapped()
        end = min(self.end, len(data))
        near = data[max(end - NEAR, 0) : end]
        found = search_back(near, len(near), beginning, begins=True, seen=(beginning,))
        if found is None:
            self.missed = beginning
        return found[1] if found else ""

    @critical
    def compact(self) -> None:
        """Write the file again with its newest entries, each once, in half of the bytes that it may have."""
        with Writing(self) as writing:
            if writing.handle < 0 or writing.end <= self.limit:  # somebody else was faster
                return
            try:
                writing.replace(rewriting.halved(all_of(writing.handle), self.limit))
            except OSError:
                pass  # no room, or another process holds it: the file stays as it is, and the next entry tries again

    @critical
    def _append(self, data: bytes, timeout: float | None = None) -> Mark | None:
        """Write at the end of the file, and return a mark of what is written.

        Where another process goes on writing, the data waits for the next time; None then.
        """
        if timeout is None:
            timeout = SHORT_TIMEOUT if self.waiting else TIMEOUT
        self.waiting += data
        with Writing(self, timeout) as writing:
            if writing.handle < 0:
                return None
            start = writing.end + len(self.waiting) - len(data)
            writing.write(self.waiting)
            self.waiting = b""
            return Mark(writing.file, start, data)
        return None

    def _found(self) -> tuple[int, int]:
        """Return the number and the size of the file that is there by now; zeros for none."""
        try:
            found = os.stat(self.path) if self.path else None
        except OSError:  # not there yet
            return 0, 0
        return (found.st_ino, found.st_size) if found is not None else (0, 0)

    def _heed_replacement(self) -> None:
        """Take the file that is there by now, if entries were removed from the one that was; they are nowhere any more.

        A file that has grown too large is written again too: then what was read of it stays as it is. The number of a
        file says little, since another one may have it once it is gone; so its head is read whenever it has changed.
        """
        if self.path is None or self.fault or self.waiting:
            return
        try:
            found = os.stat(self.path)
            stamp = (found.st_ino, found.st_size, found.st_mtime_ns)
            if stamp == self._stamp:
                return
            with open(open_private(self.path, os.O_RDONLY), "rb", buffering=0) as file:
                removed = removals(file.read(HEAD))
        except OSError:  # it is gone, or cannot be read now: the next look finds what there is by then
            return
        self._stamp = stamp
        is_first = self._removals is None and self._number in (0, found.st_ino)
        if self.data is None and self._number not in (0, found.st_ino):
            self.end = found.st_size  # nothing was read: what was known may be anywhere in the new one
        self._number = found.st_ino
        if removed != self._removals:
            self._removals = removed
            if not is_first:
                self.load()

    def note_removals(self, count: int) -> None:
        """Note how often entries had been removed from the file, when it is seen first."""
        if self._removals is None:
            self._removals = count

    # The page of the history -----------------------------------------------------------------------------------------

    def details(self, entry: Entry) -> tuple[tuple[int, ...] | None, int | None]:
        """See ``editing.history_view.Past``."""
        found = self.find(entry)
        return (None, None) if found is None or found.position >= OWN else details_of(self._mapped(), found.position)

    @critical
    def remove(self, text: str) -> int:
        """See ``editing.history_view.Past``: the file is written again without the entries, for every console."""
        return self.remove_all(lambda one: one == text)

    def remove_all(self, is_meant: Callable[[str], bool]) -> int:
        """Remove all entries whose texts are meant, from the file and from this run. Return how many there were.

        Raises OSError if the file cannot be written again, which stays as it is.
        """
        if self.waiting:
            self._append(b"", LAST_PATIENCE)
        if self.path is not None and not self.fault:
            count = self._remove_from_file(is_meant)
        else:
            count = sum(is_meant(one) for one in self.added)
        self.added = [one for one in self.added if not is_meant(one)]
        self._version += 1
        self.load()
        if (favourites := self._kept_apart()) is not None:
            favourites.remove_all(is_meant)
            self._kept = None
        return count

    def _remove_from_file(self, is_meant: Callable[[str], bool]) -> int:
        failed: OSError | None = BlockingIOError(errno.EAGAIN, "another process writes to the history")
        count = 0
        with Writing(self, LAST_PATIENCE) as writing:
            if writing.handle >= 0:
                data, count = rewriting.without(all_of(writing.handle), is_meant)
                try:
                    writing.replace(data)
                    self._removals, failed = removals(data), None
                except OSError as error:
                    failed = error
        if failed is not None and not self.fault:
            raise failed
        return 0 if failed is not None else count

    def is_favourite(self, text: str) -> bool:
        """See ``editing.history_view.Past``."""
        if self._kept is None:
            favourites = self._kept_apart()
            self._kept = set() if favourites is None else set(favourites.texts())
        return text in self._kept

    def keep_favourite(self, text: str, keeps: bool) -> None:
        """See ``editing.history_view.Past``: favourites are in a file of their own, which has no limit."""
        favourites = self._kept_apart()
        if favourites is not None and keeps:
            favourites.add(text)
        elif favourites is not None:
            favourites.remove(text)
        self._kept = None

    def _kept_apart(self) -> History | None:
        """Return the favourites, a history of their own; None for those that have none."""
        if self.is_of_favourites:
            return None
        if self._favourites is None:
            path = None if self.path is None else os.path.splitext(self.path)[0] + FAVOURITES
            self._favourites = History(path, owns_folder=self.owns_folder)
            self._favourites.is_of_favourites = True
        return self._favourites

    def _mapped(self) -> Buffer:
        """Return the file as it was opened; nothing if there is none that can be used."""
        data = self.data
        if data is None:
            data = b""
            if self.path is not None and self.end:
                try:
                    data = FileView(open_private(self.path, os.O_RDONLY))
                    examine(data[: len(HEADER)])
                    self.note_removals(removals(data[:HEAD]))
                except (OSError, ValueError) as error:
                    data = b""
                    self.refuse(error)
            self.end = whole_before(data, min(self.end, len(data)))
            self.data = data
        return data

    def refuse(self, error: OSError | ValueError) -> None:
        """Take note that the file cannot be used, and why: what is entered is kept for this run only."""
        why = error.strerror if isinstance(error, OSError) else str(error)
        self.fault = self.fault or f"{self.path}: {why}; what is entered is kept for this run only"
