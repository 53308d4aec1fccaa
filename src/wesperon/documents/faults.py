"""The faults of a file that declares something: all of them are found, and raised as Problems in one go."""

from __future__ import annotations

from wesperon.files.document import Document
from wesperon.text.messages import tell
from wesperon.text.spelling import MOST_HINTS, suggestion
from wesperon.values import quoted
from wesperon.values.problems import Problem, Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Collection
    from typing import Any, TypeVar

    from wesperon.files.document import Path

    R = TypeVar("R")

#: The most faults of one file that are told.
MOST = 50
#: The names of types as people know them.
TYPES = {
    str: "a text",
    bool: "true or false",
    int: "a whole number",
    float: "a number",
    list: "a list",
    dict: "a table",
}


class Faults:
    """What is wrong with a document."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self.problems: list[tuple[int, Problem]] = []

    def within(self, read: Callable[[], R]) -> R | None:
        """Return what a reader gives; that the document leads back into itself, as YAML can, is a fault too."""
        try:
            return read()
        except RecursionError:
            self.add((), tell("cannot be parsed: nested too deeply"))
            return None

    def add(self, path: Path, reason: str, text: str | None = None) -> None:
        """Something that is wrong at a place."""
        if len(self.problems) <= MOST:
            shown = ".".join(str(part + 1 if isinstance(part, int) else part) for part in path)
            place, line = self.document.where(path)
            problem = Problem(f"{shown}: {reason}" if shown else reason, None, "file", text, location=place)
            self.problems.append((line, problem))

    def unknown(self, path: Path, got: str, names: Collection[str], what: str) -> None:
        """Add a name that nobody knows."""
        hint = suggestion(str(got), names, declared=True) if len(self.problems) < MOST_HINTS else ""
        self.add(path, tell("unknown {what}: {got}", got=quoted(str(got)), what=what) + hint, str(got))

    def wrong(self, path: Path, value: object, wanted: str) -> None:
        """Add a value of another type than is wanted."""
        got = TYPES.get(type(value), type(value).__name__)
        self.add(path, tell("must be {wanted}, got {got}", wanted=wanted, got=got))

    def is_a(self, path: Path, value: object, *types: type) -> bool:
        """Return True if a value is of one of these types; if not, that is told."""
        if type(value) in types:
            return True
        self.wrong(path, value, tell(" or ").join(TYPES[one] for one in types))
        return False

    def table(self, path: Path, value: object, names: Collection[str]) -> dict[str, Any]:
        """Return the entries of a table that are known there; what else is in it is told."""
        if not self.is_a(path, value, dict):
            return {}
        table: dict[str, Any] = value  # type: ignore[assignment]
        for key in table:
            if key not in names:
                self.unknown((*path, key), key, names, tell("key"))
        return {key: entry for key, entry in table.items() if key in names}

    @property
    def told(self) -> list[Problem]:
        """Everything that is wrong, from the top of the file down."""
        return [problem for _, problem in sorted(self.problems, key=lambda one: one[0])]

    def refuse(self) -> None:
        """Raise everything that is wrong, if anything is."""
        if self.problems:
            problems = self.told
            more = problems[MOST:]
            told = problems[:MOST]
            if more:
                told.append(Problem(tell("and more than that"), None, "file", location=self.document.name))
            raise Problems(told)


def read_whole(name: str, read: Callable[[Faults], R], text: str | None = None) -> R:
    """Return what a reader makes of a file, or of a ``text`` in TOML; raises Problems with everything that is wrong."""
    faults = Faults(Document(name, text=text))
    made = faults.within(lambda: read(faults))
    faults.refuse()
    assert made is not None
    return made
