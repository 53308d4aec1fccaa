"""The bytes of a file that others may append to, cut short or replace meanwhile.

A search goes through pieces that are read, never through the memory of a mapped file: a process that touches a part of
a map that is no longer in the file is ended by the system. What has gone meanwhile is found nowhere. The piece read
last is kept, since the lines around a place are looked at many times.
"""

from __future__ import annotations

import os
from _thread import allocate_lock

#: Held while a file is read or written at its own offset, where the system cannot read at another.
SEEKING = allocate_lock()
#: How much is read at a time: little around a place, more and more in a search.
LEAST, MOST = 1 << 12, 1 << 20
#: How much more is read before and after a little.
AROUND = 1 << 13


class FileView:
    """The first ``size`` bytes of an open file, with those methods of ``bytes`` that a search needs.

    ``file`` is its path, or a descriptor; what is open is closed with the view.
    """

    def __init__(self, file: str | int) -> None:
        self._file = open(file, "rb", buffering=0)  # noqa: SIM115 - closed with the view
        self._size = os.fstat(self._file.fileno()).st_size
        self._start, self._kept = 0, b""

    def __len__(self) -> int:
        return self._size

    def resize(self, size: int) -> None:
        """Show so many bytes of the file from here on: it has grown, or has become shorter."""
        self._size = size
        if self._start + len(self._kept) > size:
            self._start, self._kept = 0, b""

    def renew(self) -> None:
        """Read again what was kept: it may have changed."""
        self._start, self._kept = 0, b""

    def stat(self) -> os.stat_result:
        """Return what the system says of the file; raises OSError."""
        return os.fstat(self._file.fileno())

    def become(self, other: FileView) -> None:
        """Show another file from here on."""
        self._file.close()
        self._file, self._size = other._file, other._size
        self.renew()

    def close(self) -> None:
        """Close the file."""
        self._file.close()

    def __getitem__(self, part: slice) -> bytes:
        start, stop, _ = part.indices(self._size)
        return self._read(start, stop) if start < stop else b""

    def find(self, pattern: bytes, start: int = 0, end: int | None = None) -> int:
        """Return the first match of a pattern between two offsets; -1 if there is none."""
        end = self._size if end is None else min(end, self._size)
        size = LEAST
        while start < end:
            piece = self._read(start, min(start + size + len(pattern) - 1, end))
            at = piece.find(pattern)
            if at >= 0:
                return start + at
            start += size
            size = min(size * 4, MOST)
        return -1

    def rfind(self, pattern: bytes, start: int = 0, end: int | None = None) -> int:
        """Return the last match of a pattern between two offsets; -1 if there is none."""
        end = self._size if end is None else min(end, self._size)
        size = LEAST
        high = end
        while high > start:
            low = max(high - size, start)
            piece = self._read(low, min(high + len(pattern) - 1, end))
            at = piece.rfind(pattern)
            if at >= 0:
                return low + at
            high = low
            size = min(size * 4, MOST)
        return -1

    def _read(self, start: int, stop: int) -> bytes:
        """Return the bytes between two offsets, as far as the file still has them."""
        kept, first = self._kept, self._start
        if first <= start and stop <= first + len(kept):
            return kept[start - first : stop - first]
        if stop - start <= 2 * LEAST:  # more around it, which is asked for next
            first = max(start - AROUND, 0)
            last = min(stop + AROUND, max(self._size, stop))
        else:
            first, last = start, stop
        self._start, self._kept = first, self._at(first, last)
        return self._kept[start - first : stop - first]

    def _at(self, start: int, stop: int) -> bytes:
        parts = []
        handle = self._file.fileno()
        while start < stop:
            if hasattr(os, "pread"):
                part = os.pread(handle, stop - start, start)
            else:
                with SEEKING:
                    os.lseek(handle, start, os.SEEK_SET)
                    part = os.read(handle, stop - start)
            if not part:
                break
            parts.append(part)
            start += len(part)
        return parts[0] if len(parts) == 1 else b"".join(parts)
