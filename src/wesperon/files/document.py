"""One file that says something in TOML, JSON or YAML: the one reader, for answers, settings, preferences, sets, guides.

A file is UTF-8, with or without a byte order mark. Its ending says what it is; standard input (``-``) is JSON if it
begins with a brace, else TOML. TOML and YAML give the line of everything in them; JSON does if YAML can be read, of
which it is a part.
"""

from __future__ import annotations

import os

from wesperon.context import current
from wesperon.files.plain_toml import read_plainly
from wesperon.frozen import later
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    import json
    import tomllib
    from collections.abc import Mapping
    from typing import Any

    from wesperon.files import toml_lines
    from wesperon.values import problems as values_problems
    from wesperon.values.problems import Problems

    Path = tuple[str | int, ...]
else:
    json = later("json")
    tomllib = later("tomllib")
    toml_lines = later("wesperon.files.toml_lines")
    values_problems = later("wesperon.values.problems")

#: Brackets nested deeper than this are no document; to read them takes minutes.
DEEPEST = 500
STANDARD_INPUT = "-"
#: The byte order mark of UTF-8, as a character.
BOM = "\ufeff"


class Document:
    """One file: what it says (``top``), and where.

    ``name`` is its path, or ``-`` for standard input; ``origin`` is what problems name as their source; ``text`` is
    what is in it, in TOML, if that was read already. ``as_texts``: what YAML has without quotes is a text, or nothing.
    Raises Problems if it cannot be read or parsed; ``hides``: they say nothing of what is in it, since a secret may be.
    """

    def __init__(
        self,
        name: str,
        origin: str = "file",
        *,
        text: str | None = None,
        hides: bool = False,
        as_texts: bool = False,
    ) -> None:
        self.name = name
        self.origin = origin
        #: The name as people know it.
        self.shown = tell("standard input") if name == STANDARD_INPUT else name
        self.folder = os.path.dirname(name)
        self.text = read_text(name, origin) if text is None else text
        self.kind = kind_of_file(name, self.text) if text is None else "toml"
        try:
            self.top: Any = parsed(self.kind, self.text, as_texts=as_texts)
        except ValueError as error:
            said = _brief(error) if hides else str(error)
            raise self._refused(tell("cannot be parsed: {error}", error=said)) from None
        except RecursionError:
            raise self._refused(tell("cannot be parsed: nested too deeply")) from None
        self._lines: Mapping[Path, int] | None = None

    def where(self, path: Path) -> tuple[str, int]:
        """Return the file and the line of a key, or of what it is in; 0 if the line cannot be told.

        ``path`` are the keys from the top, and the indexes in lists, from 0.
        """
        if self._lines is None:
            self._lines = self._find_lines()
        for end in range(len(path), 0, -1):
            line = self._lines.get(path[:end])
            if line:
                return tell("{name}, line {line}", name=self.shown, line=line), line
        return self.shown, 0

    def _find_lines(self) -> Mapping[Path, int]:
        if self.kind == "toml":
            return toml_lines.lines_of(self.text)
        try:
            import yaml

            return _yaml_lines(yaml.compose(self.text, Loader=yaml.SafeLoader))
        except Exception:  # no YAML here, or JSON that is not a part of it
            return {}

    def _refused(self, reason: str) -> Problems:
        return values_problems.Problems(
            [values_problems.Problem(reason, None, self.origin, self.name, location=self.shown)]
        )


def read_text(name: str, origin: str = "file") -> str:
    """Return the text of a file, without its byte order mark; raises Problems if it cannot be read."""
    try:
        if name == STANDARD_INPUT:
            stdin = current().stdin
            return "" if stdin is None else stdin.read().removeprefix(BOM)
        with open(name, "rb") as file:  # at once, so that a fault has its place in the whole
            data = file.read().removeprefix(BOM.encode())
            return data.decode().replace("\r\n", "\n").replace("\r", "\n")
    except TimeoutError:
        raise
    except (OSError, ValueError) as error:  # ValueError: not UTF-8, or a name that no file can have
        invalid = not_utf8(error) if isinstance(error, UnicodeDecodeError) else tell("it is not a valid file name")
        why = getattr(error, "strerror", None) or invalid
        shown = tell("standard input") if name == STANDARD_INPUT else name
        reason = tell("cannot be read: {why}", why=why)
        problem = values_problems.Problem(reason, None, origin, name, location=shown)
        raise values_problems.Problems([problem]) from None


def not_utf8(error: UnicodeDecodeError) -> str:
    """Return what is wrong with the bytes of a file, and in which line."""
    line = error.object.count(b"\n", 0, error.start) + 1
    return tell("it is not UTF-8: byte {byte} in line {line}", byte=f"{error.object[error.start]:#04x}", line=line)


def kind_of_file(name: str, text: str) -> str:
    """Return what a file is, by its ending: ``toml``, ``json`` or ``yaml``."""
    ending = os.path.splitext(name)[1].lower()
    if ending in (".yaml", ".yml"):
        return "yaml"
    if ending == ".json" or (name == STANDARD_INPUT and text.lstrip()[:1] == "{"):
        return "json"
    return "toml"


def parsed(kind: str, text: str, *, as_texts: bool = False) -> Any:
    """Return what a text of a kind says; raises ValueError, also for a key that is given twice."""
    if kind == "toml":
        read = read_plainly(text)
        return tomllib.loads(text) if read is None else read
    if kind == "json":
        return json.loads(text, object_pairs_hook=_table)
    try:
        from wesperon.files.yaml_values import load
    except ImportError:
        raise ValueError("YAML needs the extra: pip install 'wesperon[yaml]'") from None
    if _depth(text) > DEEPEST:
        raise ValueError("nested too deeply")
    return load(text, as_texts=as_texts)


def _table(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """Return a table of JSON; raises ValueError for a key that is given twice."""
    made = dict(pairs)
    if len(made) < len(pairs):
        names = [name for name, _ in pairs]
        raise ValueError(f"the key {next(name for name in names if names.count(name) > 1)!r} is given twice")
    return made


def _brief(error: ValueError) -> str:
    """Return what sort of fault there is in a file, and where, without anything of its text."""
    cause: Any = error.__cause__ or error
    mark = getattr(cause, "problem_mark", None)
    if mark is not None:
        return f"{_unquoted(cause.problem or '')} (at line {mark.line + 1}, column {mark.column + 1})"
    return _unquoted(str(error))


def _unquoted(text: str) -> str:
    """Return a text without what is in quotes, from the first to the last of them."""
    places = [at for at, char in enumerate(text) if char in "'\"`"]
    return f"{text[: places[0]]}***{text[places[-1] + 1 :]}" if places else text


def _depth(text: str) -> int:
    """Return how deep brackets are nested in a text at most, whatever is between them."""
    deepest = depth = 0
    for char in text if text.count("[") + text.count("{") > DEEPEST else "":
        depth += (char in "[{") - (char in "]}")
        deepest = max(deepest, depth)
    return deepest


def _yaml_lines(
    node: Any, path: Path = (), found: dict[Path, int] | None = None, seen: set[int] | None = None
) -> dict[Path, int]:
    """Return the lines of a YAML document by path; of a fault in several places the first is reported."""
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
