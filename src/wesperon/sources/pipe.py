"""Standard input as a source: a whole text, a value on each line, or a stream of values that is read as it is used."""

from __future__ import annotations

from wesperon.context import current
from wesperon.sources.source import Found, Source, problem_of
from wesperon.values import Complaint, tell
from wesperon.values.problems import Problem, Problems
from wesperon.values.streams import Stream

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Collection, Iterator
    from typing import Any, TextIO

    from wesperon.values.slots import Slot

ORIGIN = "pipe"


def is_piped() -> bool:
    """Whether standard input is something else than a terminal."""
    try:
        stdin = current().stdin
        return stdin is not None and not stdin.isatty()
    except ValueError:  # closed
        return False


def read_pipe(slot: Slot[Any]) -> Found | None:
    """What standard input holds for a slot; None if it is empty.

    A whole text loses the one line end at its very end, as a line that was typed has none.
    """
    if slot.piped == "stream":
        first = next(_lines(slot), None)
        if first is None:
            return None
        return Found(Stream(_chained(slot, first)), "standard input")
    try:
        text = _stdin().read()
    except UnicodeDecodeError as error:
        reason = tell("cannot be read as text: {reason} at byte {start:,}", reason=error.reason, start=error.start)
        raise Problems([Problem(reason, slot.name, ORIGIN, location="standard input")]) from None
    text = text.removesuffix("\n").removesuffix("\r")
    if slot.several:
        lines = [line for line in text.splitlines() if not slot.is_blank(line)]
        return Found(lines, "standard input") if lines else None
    return Found(text, "standard input") if text else None


class Pipe(Source):
    """Standard input, for the slots that a word ``-`` names, else for the first piped one that is still missing."""

    origin = ORIGIN

    def __init__(self, claims: Collection[str]) -> None:
        self.claims = claims
        self.is_read = False

    def find(self, slot: Slot[Any]) -> Found | None:
        """What standard input holds, if it is this slot's."""
        if self.is_read or not slot.piped or not (slot.name in self.claims if self.claims else is_piped()):
            return None
        self.is_read = True
        return read_pipe(slot)

    def value(self, slot: Slot[Any], found: Found) -> Any:
        """The value; of several lines, each fault is a problem with its line."""
        if not (isinstance(found.value, list) and slot.several):
            return super().value(slot, found)
        values, problems = [], []
        for number, line in enumerate(found.value, 1):
            try:
                values.append(slot.parse(line))
            except Complaint as complaint:
                problems.append(_problem(slot, line, number, complaint))
        if problems:
            raise Problems(problems)
        try:
            return slot.counted(tuple(values))
        except Complaint as complaint:
            raise Problems([problem_of(slot, found, ORIGIN, complaint)]) from None


def _stdin() -> TextIO:
    stdin = current().stdin
    assert stdin is not None
    return stdin


def _lines(slot: Slot[Any]) -> Iterator[tuple[int, str]]:
    """The lines of standard input that are not blank, with their numbers."""
    for number, line in enumerate(_stdin(), 1):
        text = line.rstrip("\r\n")
        if not slot.is_blank(text):
            yield number, text


def _chained(slot: Slot[Any], first: tuple[int, str]) -> Iterator[Any]:
    """The values of the first line and of all that follow; raises Problems at a line that cannot be read."""
    number, text = first
    read = slot.parse
    try:
        yield read(text)
        for line in _stdin():
            number += 1
            text = line.rstrip("\r\n")
            if not slot.is_blank(text):
                yield read(text)
    except Complaint as complaint:
        raise Problems([_problem(slot, text, number, complaint)]) from None


def _problem(slot: Slot[Any], text: str, number: int, complaint: Complaint) -> Problem:
    place = f"standard input, line {number:,}"
    shown = None if slot.secret else text
    return Problem(complaint.reason, slot.name, ORIGIN, shown, complaint.position, location=place)
