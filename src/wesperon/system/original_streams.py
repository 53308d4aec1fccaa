"""What is written to an original stream comes to ours too, while somebody wants that.

A handler of ``logging`` that was made early has the stream that was in :mod:`sys` then. Its method ``write`` is put in
front of by an attribute of the object itself, which Python's own text streams take; its descriptor stays as it is.
"""

from __future__ import annotations

import _thread

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.system.streams import StandardStream

#: The class of the streams that take such an attribute; any other is left alone.
OWN_CLASS = "TextIOWrapper"


def hook(stream: StandardStream) -> None:
    """Have what is written to the original of a stream go to what takes the output, until ``unhook``."""
    original: Any = stream.original
    if type(original).__name__ == OWN_CLASS and "write" not in original.__dict__:
        original.write = _writer(stream, original)


def unhook(stream: StandardStream) -> None:
    """Let the original stream be as it was."""
    if type(stream.original).__name__ == OWN_CLASS:
        stream.original.__dict__.pop("write", None)


def _writer(stream: StandardStream, original: Any) -> Callable[[str], int]:
    def write(text: str) -> int:
        taker = stream.taker
        if taker is None or not isinstance(text, str) or stream.is_inside(_thread.get_ident()):
            return int(type(original).write(original, text))
        taker.write(stream, text)
        return len(text)

    return write
