"""Where long texts come from, each as the pager reads it (``widgets.pager.text_view.PagedSource``).

    a text              in memory already
    a plain file        read where it is, and looked at again while it is shown: it may grow, shrink or be replaced
    all others          taken piece by piece, when they are asked for, and kept in a ``spool``

What a stream raises ends it: what came before stays, and the pager says why.
"""

from __future__ import annotations

import io
import os
import stat
import time
from _thread import allocate_lock
from pathlib import Path
from select import select

from wesperon.files.file_view import FileView
from wesperon.files.spool import Spool
from wesperon.frozen import later
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.widgets.pager.whole_text import WholeText

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import AsyncIterable, Callable, Iterable, Iterator, Mapping
    from io import FileIO
    from typing import IO, Any

    from wesperon.widgets.pager.pieces import Bytes
    from wesperon.widgets.pager.text_view import PagedSource

    One = str | Path | IO[str] | IO[bytes] | Iterable[str] | Iterable[bytes] | AsyncIterable[str]
    Source = One | Mapping[str, One]
else:
    asyncio = later("asyncio")

#: The bytes that are taken of a pipe or a stream at a time: few at first, since the first screen waits for them.
FIRST, MOST = 1 << 13, 1 << 18
#: The size up to which a file may be one that the system makes up when it is read (``/proc``, ``/sys``), in bytes.
MADE_UP = 1 << 12
#: How long a thread waits for a pipe before it looks whether the pager is still there, in seconds.
WAITED = 0.1
#: For how long lines are gathered on the way to the end, before they are shown, in seconds.
GATHERED = 0.01


class FileText(WholeText):
    """A plain file that is read where it is; ``path`` is where, ``name`` how it is called. Raises OSError."""

    may_change = True

    def __init__(self, path: str, name: str) -> None:
        self.path = path
        self.file = FileView(path)
        super().__init__(name, self.file)
        self._seen = self.file.stat()
        self._has_said = False

    def look(self) -> bool:
        """Look whether the file has changed. Return True if it has."""
        try:
            found = self.file.stat()
        except OSError as error:
            self.said = self._of(error)
            return False
        self._look_at_name()
        before, self._seen = self._seen, found
        if found.st_size == len(self.data) and found.st_mtime_ns == before.st_mtime_ns:
            return False
        if found.st_size < len(self.data):
            self.version += 1
            self.said = tell("{name} has become shorter", name=visible(self.name))
        elif found.st_size == len(self.data):
            self.version += 1
            self.said = tell("{name} has been changed", name=visible(self.name))
        self.file.resize(found.st_size)
        self.file.renew()
        return True

    def _look_at_name(self) -> None:
        """Say once if the name leads to another file by now, or to none."""
        try:
            there = os.stat(self.path)
        except OSError:
            reason = tell("{name} has been removed; what was there is shown", name=visible(self.name))
        else:
            if (there.st_ino, there.st_dev) == (self._seen.st_ino, self._seen.st_dev):
                self._has_said = False
                return
            reason = tell("{name} has been replaced: r shows the new one", name=visible(self.name))
        if not self._has_said:
            self._has_said = True
            self.said = reason

    def read_again(self) -> None:
        """Take the file that has the name now."""
        try:
            data = FileView(self.path)
        except OSError as error:
            self.said = self._of(error)
            return
        self.file.become(data)
        self._seen = self.file.stat()
        self._has_said = False
        self.version += 1
        self.said = tell("{name} was read again", name=visible(self.name))

    def _of(self, error: OSError) -> str:
        return f"{visible(self.name)}: {error.strerror or type(error).__name__}"

    def close(self) -> None:
        """Close the file."""
        self.file.close()


class StreamText:
    """A stream, of which pieces are taken when they are asked for.

    ``take`` is called with the bytes that are wanted at most, and returns the next piece, empty at the end; None if
    there is none yet. ``let_go`` closes the stream.
    """

    may_change = False
    version = 0
    hurries = False

    def __init__(self, name: str, take: Callable[[int], bytes | None], let_go: Callable[[], object]) -> None:
        self.name = name
        self.said = ""
        self.is_whole = False
        #: What it has raised, if it has.
        self.error: Exception | None = None
        self.take = take
        self.let_go = let_go
        self._spool: Spool | None = None
        #: Held by the thread that takes.
        self._taking = allocate_lock()
        self._is_closed = False
        self._size = FIRST

    @property
    def data(self) -> Bytes:
        """What has come; nothing is on the disk before somebody looks."""
        return self._kept.data

    @property
    def _kept(self) -> Spool:
        if self._spool is None:
            self._spool = Spool()
        return self._spool

    @property
    def count(self) -> int:
        """How many bytes are there."""
        return len(self.data)

    def pull(self, count: int) -> bool:
        """Take pieces until there are so many bytes; may block. Return True if more may come."""
        with self._taking:
            while not self.is_whole and not self._is_closed and len(self.data) < count:
                self._pull_piece()
        if self._is_closed:
            self.close()
        return not self.is_whole

    def _pull_piece(self) -> None:
        """Take the next piece, and keep it."""
        try:
            piece = self.take(self._size)
            if piece:
                self._size = min(self._size * 2, MOST)
                self._kept.add(piece)
            elif piece is not None:
                self.is_whole = True
        except Exception as error:
            self.is_whole = True
            self.error = error
            why = getattr(error, "strerror", None) or f"{type(error).__name__}: {error}".rstrip(": ")
            self.said = tell("it ends early: {why}", why=visible(str(why)))

    def pieces(self) -> Iterator[bytes]:
        """Yield everything that comes, and keep nothing of it."""
        while (piece := self.take(self._size)) != b"":
            self._size = MOST
            if piece:
                yield piece

    def look(self) -> bool:
        """Return False: what comes is told otherwise."""
        return False

    def read_again(self) -> None:
        """Say that a stream cannot be read twice."""
        self.said = tell("this comes only once, and cannot be read again")

    def close(self) -> None:
        """Close the stream; a thread that waits in it does so when it comes back."""
        self._is_closed = self.is_whole = True
        if not self._taking.acquire(blocking=False):
            return
        try:
            let_go, self.let_go = self.let_go, _nothing
            let_go()
        except Exception:  # nobody is interested any more, and the pager is closed already
            pass
        finally:
            if self._spool is not None:
                self._spool.close()
                self._spool = None
            self._taking.release()


def _nothing() -> None:
    """Close nothing: it is closed."""


def sources_of(source: Source, loop: Any = None) -> list[PagedSource]:
    """Return what the pager reads, for what a program gives: one source, or several by their names.

    ``loop`` runs asynchronous iterables. Raises OSError for a file that cannot be opened, DeclarationError for what
    gives no lines.
    """
    if hasattr(source, "keys") and hasattr(source, "values"):
        named: Any = source
        if not named:
            raise DeclarationError("page() of no source: give one at least")
        made: list[PagedSource] = []
        try:
            for name, one in named.items():
                made.append(source_of(one, str(name), loop))
        except BaseException:
            close_all(made)
            raise
        return made
    return [source_of(source, "", loop)]


def source_of(source: Any, name: str = "", loop: Any = None) -> PagedSource:
    """Return one source as the pager reads it; ``name`` is how it is called, if it has one."""
    if isinstance(source, (WholeText, FileText, StreamText)):
        return source
    if isinstance(source, str):
        return WholeText(name, source.encode("utf-8", "surrogatepass"))
    if isinstance(source, (bytes, bytearray)):
        return WholeText(name, bytes(source))
    if isinstance(source, os.PathLike):
        return file_of(os.fspath(source), name or os.path.basename(os.fspath(source)))
    if hasattr(source, "read") and hasattr(source, "readline"):
        return _of_stream(source, name or _name_of(source))
    if hasattr(source, "__aiter__"):
        return _of_async(source, name, loop)
    if hasattr(source, "__iter__"):
        return _of_iterator(iter(source), name)
    raise DeclarationError(
        f"page({source!r}): must be a text, a Path, a stream, an iterable of lines, or a mapping from names to these"
    )


def file_of(path: str, name: str) -> PagedSource:
    """Return a file; a pipe, a device or what has no size, as in /proc, is a stream. Raises OSError."""
    found = os.stat(path)
    if stat.S_ISDIR(found.st_mode):
        raise IsADirectoryError(21, "Is a directory", path)
    is_file = stat.S_ISREG(found.st_mode)
    if is_file and found.st_size > MADE_UP:
        return FileText(path, name)
    file = open(path, "rb", buffering=0)  # noqa: SIM115 - closed with the stream
    begun = b""
    if is_file and (os.name != "posix" or _is_ready(file.fileno())):
        try:
            begun = os.read(file.fileno(), MADE_UP)
            size = os.fstat(file.fileno()).st_size
        except OSError:
            file.close()
            raise
        if len(begun) == size or len(begun) > size > 0:
            file.close()
            return FileText(path, name)
    return stream_of(file, name, begun)


def stream_of(file: FileIO, name: str, begun: bytes = b"") -> StreamText:
    """Return what comes through a file, which is closed at the end, after what has been ``begun`` to be read."""
    handle = file.fileno()
    ahead = [begun] if begun else []

    def following(count: int) -> bytes | None:
        if ahead:
            return ahead.pop()
        if os.name == "posix" and not select([handle], [], [], WAITED)[0]:
            return None
        return os.read(handle, count)

    return StreamText(name, following, file.close)


def _of_stream(stream: Any, name: str) -> StreamText:
    if isinstance(stream, io.TextIOBase) or getattr(stream, "encoding", None):

        def following(count: int) -> bytes | None:
            text: str = stream.readline(count)
            parts, size = [text], len(text)
            while text and size < count and _is_ready(stream):
                text = stream.readline(count - size)
                parts.append(text)
                size += len(text)
            return "".join(parts).encode("utf-8", "surrogatepass")
    else:

        def following(count: int) -> bytes | None:
            read: Any = getattr(stream, "read1", None) or stream.readline
            data: bytes = read(count)
            return data

    return StreamText(name, following, stream.close)


def _is_ready(stream: Any) -> bool:
    """Return True if a stream has something to read now, or is at its end."""
    try:
        return bool(select([stream], [], [], 0)[0])
    except (OSError, ValueError, TypeError):  # no stream of the system's
        return False


def _of_iterator(lines: Iterator[Any], name: str) -> StreamText:
    """Return lines that come one by one: only those that are in sight, unless somebody is on the way to the end."""

    def following(count: int) -> bytes | None:
        parts: list[bytes] = []
        size, latest = 0, 0.0
        for line in lines:
            data = as_line(line)
            if not made.hurries:
                return b"".join([*parts, data])
            parts.append(data)
            size += len(data)
            now = time.monotonic()
            latest = latest or now + GATHERED
            if size > count or now > latest:
                break
        return b"".join(parts)

    made = StreamText(name, following, getattr(lines, "close", _nothing))
    return made


def _of_async(lines: AsyncIterable[Any], name: str, loop: Any) -> StreamText:
    if loop is None:
        raise DeclarationError("page() of an asynchronous iterable: await page_async(...) in an event loop")
    coming = aiter(lines)

    async def next_line() -> bytes:
        async for line in coming:
            return as_line(line)
        return b""

    def following(count: int) -> bytes | None:
        return asyncio.run_coroutine_threadsafe(next_line(), loop).result()

    def let_go() -> None:
        close = getattr(coming, "aclose", None)
        if close is not None:
            asyncio.run_coroutine_threadsafe(close(), loop)

    return StreamText(name, following, let_go)


def as_line(line: Any) -> bytes:
    """Return what an iterable gives as a line with its end; raises TypeError for what is no text."""
    if isinstance(line, str):
        data = line.encode("utf-8", "surrogatepass")
    elif isinstance(line, (bytes, bytearray)):
        data = bytes(line)
    else:
        raise TypeError(f"must give lines, got {type(line).__name__}")
    return data if data.endswith(b"\n") else data + b"\n"


def close_all(sources: Iterable[PagedSource]) -> None:
    """Close what has to be closed of the sources."""
    for source in sources:
        close = getattr(source, "close", None)
        if close is not None:
            close()


def _name_of(stream: Any) -> str:
    name = getattr(stream, "name", "")
    return os.path.basename(name) if isinstance(name, str) and not name.startswith("<") else ""


def pieces_of(source: PagedSource) -> Iterator[bytes]:
    """Yield the bytes of a source as they come, for a reader that wants all of them once."""
    if isinstance(source, StreamText):
        yield from source.pieces()
        return
    at = 0
    while piece := source.data[at : at + MOST]:
        yield piece
        at += len(piece)
