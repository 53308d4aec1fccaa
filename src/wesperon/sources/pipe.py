"""Standard input as a source: a whole text, a value on each line, or a stream of values that is read as it is used."""

from __future__ import annotations

import io
import os
import select
import time
from operator import not_

from wesperon.context import current
from wesperon.sources.source import Found, Source, problems_of
from wesperon.values import Complaint, tell
from wesperon.values.kind import TEXT
from wesperon.values.problems import Problem, Problems
from wesperon.values.shapes_of_several import too_few, too_many
from wesperon.values.streams import Stream

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Collection, Iterator
    from typing import Any, TextIO

    from wesperon.values.slots import Slot

ORIGIN = "pipe"
#: No number, date or duration has more characters.
LONGEST = 100_000
#: How many seconds standard input may take where something is wrong already, so that the program will not run.
WAIT = 0.2
#: The longest time that every system can wait for, in seconds.
LONGEST_WAIT = 1_000_000.0


def is_piped() -> bool:
    """Return True if standard input is something else than a terminal."""
    try:
        stdin = current().stdin
        return stdin is not None and not stdin.isatty()
    except ValueError:  # closed
        return False


class Lines(list):  # type: ignore[type-arg]
    """The lines of standard input that are not blank, and the ``numbers`` that they have there."""

    def __init__(self) -> None:
        super().__init__()
        self.numbers: list[int] = []


def read_pipe(slot: Slot[Any], stdin: TextIO, timeout: float | None = None) -> Found | None:
    """Return what standard input holds for a slot; None if it is empty. Raises TimeoutError where a stream is patient.

    Lines end at line feeds only. A whole text loses the one line end at its very end, as a line that was typed has
    none. Where a bound says how much a value can be, no more is read than shows that it is too much.
    """
    try:
        if hasattr(stdin, "reconfigure"):
            stdin.reconfigure(newline="\n")
    except OSError:  # the program has read from it before, and goes on with the line ends that it had then
        pass
    if slot.piped == "stream":
        first = next(_lines(slot, stdin), None)
        if first is None:
            return None
        return Found(Stream((), read=lambda slot: _chained(slot, first, stdin, timeout)), "standard input")
    try:
        found = _read_lines(slot, stdin) if slot.shape.splits else _line(stdin.read(_most_characters(slot)))
    except UnicodeDecodeError as error:
        reason = tell("cannot be read as text: {reason} at byte {start:,}", reason=error.reason, start=error.start)
        raise Problems([Problem(reason, slot.name, ORIGIN, location="standard input")]) from None
    return Found(found, "standard input") if found else None


def _read_lines(slot: Slot[Any], stdin: TextIO) -> Lines:
    """Return the lines that are not blank, but no more than one above the most that there may be."""
    found, number, most = Lines(), 0, _most_characters(slot)
    while line := stdin.readline(most):
        number += 1
        text = _line(line)
        if not slot.is_blank(text):
            found.append(text)
            found.numbers.append(number)
            if slot.most is not None and len(found) > slot.most:
                break
    return found


def _line(text: str) -> str:
    """Return a text without the line end at its end: a line feed, and a carriage return before it."""
    return text[:-1].removesuffix("\r") if text.endswith("\n") else text


def _most_characters(slot: Slot[Any]) -> int:
    """Return how many characters have to be read of a value to know that it is too long; -1 for all."""
    if slot.kind.bounded == "length":
        return slot.high + 3 if isinstance(slot.high, int) else -1
    return LONGEST if slot.kind.bounded == "value" else -1


def gathered(seconds: float) -> TextIO | None:
    """Return all of standard input, if it ends within ``seconds``; else None.

    The time is that of the system: it may be another process that is waited for, whatever clock the context has.
    """
    stdin = current().stdin
    handle = _handle_of(stdin)
    if stdin is None or handle < 0:
        return stdin
    parts: list[bytes] = []
    end = time.monotonic() + seconds
    while (left := end - time.monotonic()) > 0:
        try:
            if not select.select([handle], [], [], left)[0]:
                break
        except OSError:  # a system that waits for sockets only
            return stdin
        data = os.read(handle, 1 << 16)
        if not data:
            return io.TextIOWrapper(io.BytesIO(b"".join(parts)), encoding=stdin.encoding)
        parts.append(data)
    return None


def patient(seconds: float) -> TextIO | None:
    """Return standard input, which raises TimeoutError if nothing comes for ``seconds`` after the last byte."""
    stdin = current().stdin
    handle = _handle_of(stdin)
    if stdin is None or handle < 0:
        return stdin

    class Patient(io.RawIOBase):
        """The descriptor, read as soon as something is there."""

        def readable(self) -> bool:
            return True

        def readinto(self, buffer: Any) -> int:
            try:
                is_ready = bool(select.select([handle], [], [], min(seconds, LONGEST_WAIT))[0])
            except OSError:  # a system that waits for sockets only
                is_ready = True
            if not is_ready:
                raise TimeoutError
            data = os.read(handle, len(buffer))
            buffer[: len(data)] = data
            return len(data)

    return io.TextIOWrapper(io.BufferedReader(Patient()), encoding=stdin.encoding, errors=stdin.errors)


def _handle_of(stdin: TextIO | None) -> int:
    """Return the descriptor of standard input; -1 if it has none, as one in memory."""
    try:
        return -1 if stdin is None else stdin.fileno()
    except (OSError, ValueError, AttributeError):  # closed, or put in its place by a test: there is no pipe
        return -1


def nothing_came(name: str | None, seconds: float, origin: str = ORIGIN) -> Problems:
    """Return what is wrong where standard input stays open, and nothing comes for the slot of this name."""
    reason = tell("nothing came within {seconds} s, and it has not ended", seconds=f"{seconds:g}")
    return Problems([Problem(reason, name, origin, missing=True, location="standard input", timed_out=True)])


class Pipe(Source):
    """Standard input, for the slots that a word ``-`` names, else for the first piped one that is still missing."""

    origin = ORIGIN

    def __init__(self, claims: Collection[str], *, hurries: bool = False, timeout: float | None = None) -> None:
        self.claims = claims
        self.timeout = timeout
        #: Whether something is wrong already, which is not to wait for what may come.
        self.hurries = hurries
        self.is_read = False
        #: The slot whose value was not waited for.
        self.left_out = ""

    def find(self, slot: Slot[Any]) -> Found | None:
        """Return what standard input holds, if it is this slot's."""
        if self.is_read or not self.wants(slot):
            return None
        self.is_read = True
        stdin = gathered(WAIT) if self.hurries else current().stdin if self.timeout is None else patient(self.timeout)
        if stdin is None:
            self.left_out = slot.name
            return None
        try:
            return read_pipe(slot, stdin, self.timeout)
        except TimeoutError:
            raise nothing_came(slot.name, self.timeout or 0) from None

    def wants(self, slot: Slot[Any]) -> bool:
        """Return True if the value of a slot would be read from here."""
        return bool(slot.piped) and (slot.name in self.claims if self.claims else is_piped())

    def value(self, slot: Slot[Any], found: Found) -> Any:
        """Return the value; of several lines, each fault is a problem with its line."""
        if not isinstance(found.value, Lines):
            return super().value(slot, found)
        values, problems = [], []
        for number, line in zip(found.value.numbers, found.value, strict=True):
            try:
                values.append(slot.parse(line))
            except Complaint as complaint:
                problems.append(_problem(slot, line, number, complaint))
        if problems:
            raise Problems(problems)
        try:
            return slot.shape.count(slot, tuple(values))
        except Complaint as complaint:
            raise Problems(problems_of(slot, found, ORIGIN, complaint)) from None


def _lines(slot: Slot[Any], stdin: TextIO) -> Iterator[tuple[int, str]]:
    """Yield the lines of standard input that are not blank, with their numbers."""
    for number, line in enumerate(stdin, 1):
        text = _line(line)
        if not slot.is_blank(text):
            yield number, text


def _chained(slot: Slot[Any], first: tuple[int, str], stdin: TextIO, timeout: float | None) -> Iterator[Any]:
    """Yield the values of the first line and of all that follow; raises Problems at a line that cannot be read."""
    number, text = first
    read, count, most = _reader(slot), 1, slot.most
    is_blank: Callable[[str], bool] = slot.is_blank
    if not slot.can_be_empty and slot.kind.keeps_blanks:
        is_blank = not_
    try:
        yield slot.parse(text)
        for line in stdin:  # each step here is one for every line, of which there may be a million
            number += 1
            text = line[:-1] if line[-1:] == "\n" else line
            if text[-1:] == "\r" and line is not text:
                text = text[:-1]
            if is_blank(text):
                continue
            count += 1
            if most is not None and count > most:
                raise too_many(slot, count)
            try:
                value = read(text)
            except ValueError:  # a Complaint says what is wrong
                if read == slot.parse:
                    raise
                value = slot.parse(text)
            yield value
        if count < slot.least:
            raise too_few(slot, count)
    except Complaint as complaint:
        raise Problems([_problem(slot, text, number, complaint)]) from None
    except TimeoutError:
        raise nothing_came(slot.name, timeout or 0) from None


def _reader(slot: Slot[Any]) -> Callable[[str], Any]:
    """Return what gives the value of a line, at the least cost: a slot that says no more than its kind is not asked."""
    bare = slot.low is None and slot.high is None and slot.pattern is None and slot.check is None
    if not bare or slot.secret or slot.depends:
        return slot.parse
    if slot.kind is TEXT:
        return str
    return slot.kind.fast_parse or slot.parse


def _problem(slot: Slot[Any], text: str, number: int, complaint: Complaint) -> Problem:
    place = f"standard input, line {number:,}"
    shown = None if slot.secret else text
    return Problem(complaint.reason, slot.name, ORIGIN, shown, complaint.position, location=place)
