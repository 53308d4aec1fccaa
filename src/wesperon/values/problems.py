"""What is wrong with what a program was given. Loaded only if something is."""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from typing import Any


#: So many items of one slot are said to be wrong; the others are not looked at.
MOST_FAULTS = 20


class Refusal(Exception):
    """Raised by a command, a check or the gate to stop: prints ``message``, and ends with the exit ``status``.

    ``message`` is a text, or an error whose text is meant; with an empty one nothing is printed. ``status`` is a whole
    number from 0 to 255 (POSIX, ``exit``); another one is reported, and is 1. Raises DeclarationError for a status of
    another type.

    Example:
        >>> def park():
        ...     "Park the telescope."
        ...     raise Refusal("the mast is iced up", status=3)
        >>> Program("desk", members=[park]).main(["park"])
        3

    """

    def __init__(self, message: object, status: int = 1) -> None:
        if type(status) is not int:
            raise DeclarationError(f"Refusal(..., status={status!r}): a status is a whole number from 0 to 255")
        super().__init__(message)
        self.message = str(message)
        self.status = status

    def __reduce__(self) -> tuple[Any, ...]:
        return type(self), (self.message, self.status)


class Problem(Frozen):
    """One thing that is wrong with what a program was given.

    ``slot`` is the name of the slot (``None`` if none is concerned, as for an unknown name), ``source``
    one of the origins (``words``, ``env``, ``asked``, ``given``...), ``text`` what was got (``None`` if nothing
    was), ``position`` the offset of the fault in ``text`` (``None``: all of it), ``reason`` the sentence for
    people. ``words`` are the places, from 0, of the words at fault in the words of the command line; ``offset`` is
    where ``text`` begins in the first of them; ``missing`` whether there is no value at all. ``location`` says where a
    source other than the words has it: a file and a line, a variable. ``timed_out`` says that a value is missing since
    it did not come in time. Of a value that is missing, ``wanted`` is how a word gives it, and what it is.

    Example:
        >>> class Plan(Form):
        ...     frames = slot(int)
        >>> try:
        ...     Plan.fill(["--frames=many"])
        ... except Problems as problems:
        ...     first = problems.problems[0]
        >>> first.slot, first.text, first.reason
        ('frames', 'many', '"many" is not a whole number, such as 12')

    """

    reason: str
    slot: str | None = None
    source: str | None = None
    text: str | None = None
    position: int | None = None
    words: tuple[int, ...] = ()
    offset: int = 0
    missing: bool = False
    location: str | None = None
    timed_out: bool = False
    wanted: tuple[str, str] | None = None

    @property
    def sentence(self) -> str:
        """The reason, after its location if there is one."""
        return f"{self.location}: {self.reason}" if self.location else self.reason


class Problems(Exception):
    """Everything that is wrong, found in one go.

    ``problems`` holds it; ``words`` are those of the command line, ``None`` if it came from elsewhere. Iterate over it
    for each :class:`Problem`; ``str`` gives one line for each; :meth:`json` the same for programs. ``command`` are the
    names of the command or group whose help page says more, of its commands rather than its values if
    ``lists_commands``.

    Example:
        >>> class Plan(Form):
        ...     frames = slot(int)
        ...     seconds = slot(float)
        >>> Plan.fill(["--frames=many", "--seconds=few"])
        Traceback (most recent call last):
        wesperon.values.problems.Problems: frames: "many" is not a whole number, such as 12
        seconds: "few" is not a number, such as 2.5

    """

    command: tuple[str, ...] = ()
    lists_commands = False

    def __init__(self, problems: Iterable[Problem], words: Iterable[str] | None = None) -> None:
        self.problems = tuple(problems)
        self.words = None if words is None else tuple(words)
        super().__init__(self.problems)

    def __reduce__(self) -> tuple[Any, ...]:
        return type(self), (self.problems, self.words)

    def __iter__(self) -> Iterator[Problem]:
        return iter(self.problems)

    def __len__(self) -> int:
        return len(self.problems)

    def __str__(self) -> str:
        return "\n".join(f"{p.slot}: {p.sentence}" if p.slot else p.sentence for p in self.problems)

    def json(self) -> str:
        """Return the problems as a JSON array of objects.

        Each has slot, source, text, position, words, location, timed_out and reason.
        """
        import json

        return json.dumps(
            [
                {
                    "slot": p.slot,
                    "source": p.source,
                    "text": p.text,
                    "position": p.position,
                    "words": list(p.words),
                    "location": p.location,
                    "timed_out": p.timed_out,
                    "reason": p.reason,
                }
                for p in self.problems
            ]
        )
