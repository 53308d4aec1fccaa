"""What was typed ahead and read already, when the terminal is given back: for this process's own standard input.

A question reads no further than the key that may end it, so what was typed ahead is still in the terminal, for the next
reader: another question, the program's ``input``, a child, the shell. Little is read too early (what came in one
read with a key of the user's own that ends a question, or after the end of a very large paste), and only this process
can still have it: the next question, or ``sys.stdin``, which gives it before all else.
"""

from __future__ import annotations

import io
import sys

from wesperon.editing.keys.events import Key, Paste
from wesperon.terminal.seat.turn import is_own_terminal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from typing import Any

#: The texts of keys that have a name, for who reads lines.
TEXTS = {"enter": "\n", "tab": "\t", "backspace": "\x7f", "escape": "\x1b"}


class TypedAhead:
    """Keys and pastes that nobody has taken yet, and the stream that gives them."""

    def __init__(self) -> None:
        self.events: list[Any] = []
        self._text = ""
        self._stdin: Any = None

    def keep(self, events: Iterable[Any]) -> None:
        """Keep those that were typed, for the next question or for ``sys.stdin``."""
        self.events += [event for event in events if isinstance(event, (Key, Paste))]
        if self.events and self._stdin is None and _is_terminal(sys.stdin):
            self._stdin, sys.stdin = sys.stdin, AheadStream(self)

    def pop_all(self) -> list[Any]:
        """Return all of them, for a question; the text of a line that was read in part stays with its reader."""
        events, self.events = self.events, []
        self._put_back()
        return events

    def line(self) -> str:
        """Return the next line, as far as it was typed ahead; what follows it is there for the next call."""
        if self.events:
            self._text += "".join([_text_of(event) for event in self.events])
            self.events = []
        line, end, self._text = self._text.partition("\n")
        if not self._text:
            self._put_back()
        return line + end

    def _put_back(self) -> None:
        stdin, self._stdin = self._stdin, None
        if stdin is not None and isinstance(sys.stdin, AheadStream):
            sys.stdin = stdin
            AheadStream.original = stdin

    @property
    def stdin(self) -> Any:
        """The standard input of the process."""
        return self._stdin or AheadStream.original


class AheadStream(io.TextIOBase):
    """``sys.stdin`` while something was typed ahead: that comes first, then what the original one gives."""

    #: The stream in whose place one was last: who has kept this one still reads from there.
    original: Any = None

    def __init__(self, ahead: TypedAhead) -> None:
        self.ahead = ahead

    def __getattr__(self, name: str) -> Any:
        return getattr(self.ahead.stdin, name)

    def readable(self) -> bool:
        """Return True."""
        return True

    def isatty(self) -> bool:
        """Return True: it is in the place of a terminal."""
        return True

    def readline(self, size: int = -1, /) -> str:  # type: ignore[override]
        """Return the next line: what was typed ahead, and the rest of it from the original stream."""
        line = self.ahead.line()
        return line if line.endswith("\n") else line + str(self.ahead.stdin.readline())

    def read(self, size: int | None = -1, /) -> str:
        """Return all that comes, or a part: no more than a line if a size is given."""
        if size is None or size < 0:
            return "".join(self)
        return self.readline()[:size] if size else ""

    def __iter__(self) -> Iterator[str]:  # type: ignore[override]
        return iter(self.readline, "")


def _text_of(event: Any) -> str:
    """Return what a key or a paste would have given a program that reads lines."""
    if isinstance(event, Paste):
        return event.text
    return event.text or TEXTS.get(event.name, "")


def _is_terminal(stream: Any) -> bool:
    """Return True if a stream leads to the terminal of the process."""
    try:
        return is_own_terminal(stream.fileno())
    except (OSError, ValueError, AttributeError):  # closed, or no file: no terminal in either case
        return False
