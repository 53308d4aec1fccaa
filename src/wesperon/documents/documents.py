"""Files that declare something: read, with a place for everything in them, and with everything that is wrong found.

TOML and YAML say on which line a thing stands, JSON does so where YAML can be read (it is a part of it). What is wrong
is collected in ``Faults``, and raised as Problems once all of the file has been looked at.
"""

from __future__ import annotations

import os

from wesperon.ground import quoted
from wesperon.sources.files import parsed
from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.values.problems import Problem, Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Collection, Mapping
    from typing import Any, TypeVar

    R = TypeVar("R")
    Path = tuple[str | int, ...]

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


class Document:
    """One file: what it says, and where."""

    def __init__(self, name: str) -> None:
        self.name = name
        self.folder = os.path.dirname(name)
        self.text = read_text(name)
        try:
            self.top: Any = parsed(name, self.text)
        except ValueError as error:
            reason = tell("cannot be understood: {error}", error=error)
            raise Problems([Problem(reason, None, "file", name, location=name)]) from None
        except RecursionError:
            reason = tell("cannot be understood: it goes too deep")
            raise Problems([Problem(reason, None, "file", name, location=name)]) from None
        self._lines: Mapping[Path, int] | None = None

    def where(self, path: Path) -> tuple[str, int]:
        """The file and the line on which something stands, or what it stands in; 0 where that cannot be told."""
        if self._lines is None:
            self._lines = self._find_lines()
        for end in range(len(path), 0, -1):
            line = self._lines.get(path[:end])
            if line:
                return tell("{name}, line {line}", name=self.name, line=line), line
        return self.name, 0

    def _find_lines(self) -> Mapping[Path, int]:
        ending = os.path.splitext(self.name)[1].lower()
        if ending in (".yaml", ".yml", ".json"):
            try:
                import yaml

                return _yaml_lines(yaml.compose(self.text, Loader=yaml.SafeLoader))
            except Exception:  # no YAML here, or JSON that is not a part of it
                return {}
        from wesperon.text.toml_lines import lines_of

        return lines_of(self.text)


class Faults:
    """What is wrong with a document."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self.problems: list[tuple[int, Problem]] = []

    def within(self, read: Callable[[], R]) -> R | None:
        """What a reader gives; that the document leads back into itself, as YAML can, is a fault too."""
        try:
            return read()
        except RecursionError:
            self.add((), tell("cannot be understood: it goes too deep"))
            return None

    def add(self, path: Path, reason: str, text: str | None = None) -> None:
        """Something that is wrong at a place."""
        if len(self.problems) <= MOST:
            shown = ".".join(str(part + 1 if isinstance(part, int) else part) for part in path)
            place, line = self.document.where(path)
            problem = Problem(f"{shown}: {reason}" if shown else reason, None, "file", text, location=place)
            self.problems.append((line, problem))

    def unknown(self, path: Path, got: str, names: Collection[str], what: str) -> None:
        """A name that nobody knows."""
        reason = tell("{got} is no {what}", got=quoted(str(got)), what=what) + suggestion(str(got), names)
        self.add(path, reason, str(got))

    def wrong(self, path: Path, value: object, wanted: str) -> None:
        """A value of another type than is wanted."""
        got = TYPES.get(type(value), type(value).__name__)
        self.add(path, tell("{wanted} is wanted, and {got} is given", wanted=wanted, got=got))

    def is_a(self, path: Path, value: object, *types: type) -> bool:
        """Whether a value is of one of these types; if not, that is told."""
        if type(value) in types:
            return True
        self.wrong(path, value, tell(" or ").join(TYPES[one] for one in types))
        return False

    def table(self, path: Path, value: object, names: Collection[str]) -> dict[str, Any]:
        """The entries of a table that are known there; what else stands in it is told."""
        if not self.is_a(path, value, dict):
            return {}
        table: dict[str, Any] = value  # type: ignore[assignment]
        for key in table:
            if key not in names:
                self.unknown((*path, key), key, names, tell("key that is known here"))
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


def read_whole(name: str, read: Callable[[Faults], R]) -> R:
    """What a reader makes of a file; raises Problems with everything that is wrong with it."""
    faults = Faults(Document(name))
    made = faults.within(lambda: read(faults))
    faults.refuse()
    assert made is not None
    return made


def read_text(name: str) -> str:
    """The text of a file; raises Problems where it cannot be read."""
    try:
        with open(name, encoding="utf-8-sig") as file:
            return file.read()
    except (OSError, ValueError) as error:
        undecodable = (
            tell("it is not UTF-8") if isinstance(error, UnicodeDecodeError) else tell("no file can be called so")
        )
        why = getattr(error, "strerror", None) or undecodable
        raise Problems([Problem(tell("cannot be read: {why}", why=why), None, "file", name, location=name)]) from None


def _yaml_lines(
    node: Any, path: Path = (), found: dict[Path, int] | None = None, seen: set[int] | None = None
) -> dict[Path, int]:
    """The lines of a YAML document by path; what stands in several places is told in the first."""
    found = {} if found is None else found
    seen = set() if seen is None else seen
    if id(node) in seen:
        return found
    seen.add(id(node))
    value = getattr(node, "value", None)
    if getattr(node, "id", "") == "mapping":
        for key, entry in node.value:
            found[(*path, str(key.value))] = key.start_mark.line + 1
            _yaml_lines(entry, (*path, str(key.value)), found, seen)
    elif getattr(node, "id", "") == "sequence" and value is not None:
        for at, entry in enumerate(value):
            found[(*path, at)] = entry.start_mark.line + 1
            _yaml_lines(entry, (*path, at), found, seen)
    return found
