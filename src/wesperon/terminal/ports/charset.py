"""A terminal whose characters are not those of UTF-8, as the locale of the process says (POSIX, 7.3.1, LC_CTYPE).

Everywhere else keys and frames are UTF-8: they are changed on their way from and to the terminal. A character that the
terminal does not have is shown as a question mark.
"""

from __future__ import annotations

import codecs
import sys

from wesperon.terminal.ports import posix
from wesperon.terminal.ports.posix import PosixPort

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: What ends a sequence of bytes that is no character of the terminal.
UNKNOWN = "replace"


def charset() -> str:
    """Return the characters of the user's locale, by a name that Python knows.

    Empty for UTF-8, of which ASCII is a part.
    """
    name = codecs.lookup(sys.getfilesystemencoding()).name
    return "" if name in ("utf-8", "ascii") else name


def reach() -> PosixPort | None:
    """See ``ports.posix``; in such a locale what goes to and fro is changed on its way."""
    return posix.reach(CharsetPort if charset() else PosixPort)


class CharsetPort(PosixPort):
    """The controlling terminal of a process with such a locale."""

    def __init__(self, handle: int, **given: Any) -> None:
        super().__init__(handle, **given)
        self.charset = charset()
        self._decoder = codecs.getincrementaldecoder(self.charset)(UNKNOWN)

    def read(self) -> bytes:
        """See ``Port``."""
        return self._in_utf_8(super().read())

    def read_paste(self) -> bytes:
        """See ``Port``."""
        return self._in_utf_8(super().read_paste())

    def read_keys(self) -> bytes:
        """See ``Port``."""
        return self._in_utf_8(super().read_keys())

    def _in_utf_8(self, data: bytes) -> bytes:
        return self._decoder.decode(data).encode()

    def write(self, data: bytes) -> None:
        """See ``Port``."""
        super().write(data.decode("utf-8", UNKNOWN).encode(self.charset, UNKNOWN))

    def write_at_once(self, data: bytes, seconds: float) -> None:
        """See ``Port``."""
        super().write_at_once(data.decode("utf-8", UNKNOWN).encode(self.charset, UNKNOWN), seconds)
