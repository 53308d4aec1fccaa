"""What is printed while a full screen is shown: kept for the screen that was there before, the newest of it.

Memory holds little. The rest is in two files without names, of which the older one goes when the newer one is full, so
that a program that prints for weeks fills neither the memory nor the disk. How many lines were not kept is said.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.screen.full_screen import FullScreenPainter
from wesperon.text.messages import tell_many

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

    from wesperon.files import spool
    from wesperon.files.spool import Spool
else:
    spool = later("wesperon.files.spool")

#: So many bytes are kept at most, and so many of them in memory.
MOST, MOST_IN_MEMORY = 1 << 24, 1 << 16


class KeptLines:
    """The newest lines of those that are added, in order."""

    def __init__(self, most: int = MOST, most_in_memory: int = MOST_IN_MEMORY) -> None:
        self._share, self._most_in_memory = most // 2, most_in_memory
        self._recent: list[bytes] = []
        self._recent_size = 0
        self._spools: list[Spool] = []
        #: How many lines there are in each of them.
        self._counts: list[int] = []
        self._lost = 0

    def add(self, lines: Iterable[str]) -> None:
        """Keep lines, the oldest ones no longer if there are too many."""
        for line in lines:
            data = line.encode("utf-8", "surrogatepass") + b"\n"
            self._recent.append(data)
            self._recent_size += len(data)
            if self._recent_size > self._most_in_memory:
                self._store()

    def lines(self) -> list[str]:
        """Return the lines that are kept; the first one may say how many are not there."""
        parts = [one.data[:] for one in self._spools]
        lines = b"".join([*parts, *self._recent]).decode("utf-8", "surrogatepass").split("\n")[:-1]
        if self._lost:
            lines.insert(0, tell_many("{count} line is not kept", "{count} lines are not kept", self._lost))
        return lines

    def clear(self) -> None:
        """Keep no line any longer."""
        spools = self._spools
        self._recent, self._recent_size, self._spools, self._counts, self._lost = [], 0, [], [], 0
        for one in spools:
            one.close()

    def _store(self) -> None:
        """Put what is in memory on disk."""
        data = b"".join(self._recent)
        try:
            if len(data) > self._share:  # a single line can be that long
                raise OSError
            if not self._spools or len(self._spools[-1].data) + len(data) > self._share:
                self._open()
            self._spools[-1].add(data)
            self._counts[-1] += len(self._recent)
        except OSError:  # the disk is full, or there is none
            self._lost += len(self._recent)
        self._recent, self._recent_size = [], 0

    def _open(self) -> None:
        """Begin another file, in the place of the older one of two."""
        if len(self._spools) == 2:
            self._spools.pop(0).close()
            self._lost += self._counts.pop(0)
        self._spools.append(spool.Spool())
        self._counts.append(0)


def full_screen_painter(look: dict[str, str]) -> FullScreenPainter:
    """Return a painter of the full screen in these roles, behind which lines wait."""
    return FullScreenPainter(look, KeptLines())
