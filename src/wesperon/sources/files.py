"""Files as a source: answers files, which a run names, and the settings file that a program may have.

Both are TOML or JSON (YAML with the extra), told by the name's ending; standard input may hold either. The tables of a
file follow the path of the command: the values of ``desk expose`` stand in ``[expose]``, those of the program itself
above all tables.
"""

from __future__ import annotations

import os

from wesperon.context import current
from wesperon.ground import quoted, tell
from wesperon.sources.source import Found
from wesperon.text.spelling import suggestion
from wesperon.text.toml_lines import line_of
from wesperon.user_folders import folder
from wesperon.values.problems import Problem, Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.values.slots import Slot

STANDARD_INPUT = "-"


class ValuesFile:
    """The values of one file for one command.

    ``path`` are the names of the command and its branches; ``levels`` the slots that each of them may have, the
    program's own first; ``known`` the names of tables that may stand beside them, of other commands.
    """

    def __init__(self, origin: str, name: str, text: str, tables: Mapping[str, Any]) -> None:
        self.origin = origin
        self.name = name
        self.text = text
        self.tables = tables
        self.values: dict[str, tuple[Any, tuple[str, ...]]] = {}

    def open_level(self, path: Sequence[str], slots: Iterable[Slot[Any]], members: Iterable[str] = ()) -> list[Problem]:
        """Take the values that stand at a path for these slots; the problems with keys that nobody knows there."""
        table: Any = self.tables
        for name in path:
            table = table.get(name, {}) if isinstance(table, dict) else {}
        if not isinstance(table, dict):
            reason = tell(
                "a table is wanted for {list}, and {table} is given", list=" ".join(path), table=quoted(repr(table))
            )
            return [Problem(reason, None, self.origin, location=self.locate(tuple(path)))]
        keys = {key: slot.name for slot in slots for key in (slot.name, slot.word)}
        problems = []
        tables = set(members)
        for key, value in table.items():
            where = (*path, key)
            if key in keys:
                self.values[keys[key]] = (value, where)
            elif key not in tables:
                reason = tell("{key} is not known here{key2}", key=quoted(key), key2=suggestion(key, [*keys, *tables]))
                problems.append(Problem(reason, None, self.origin, key, location=self.locate(where)))
        return problems

    def find(self, slot: Slot[Any]) -> Found | None:
        """The value for a slot."""
        if slot.name not in self.values:
            return None
        value, where = self.values[slot.name]
        return Found(value, self.locate(where))

    def locate(self, where: tuple[str, ...]) -> str:
        """The file, and the line where a key stands if it can be told."""
        line = line_of(self.text, where)
        return f"{self.name}, line {line}" if line else self.name


def read_file(name: str, origin: str) -> ValuesFile:
    """The values of a file; raises Problems where it cannot be read or is not what its name says."""
    shown = "standard input" if name == STANDARD_INPUT else name
    try:
        if name == STANDARD_INPUT:
            stdin = current().stdin
            text = stdin.read() if stdin is not None else ""
        else:
            with open(name, encoding="utf-8") as file:
                text = file.read()
    except (OSError, ValueError) as error:  # ValueError: not UTF-8, or a name that no file can have
        undecodable = (
            tell("it is not UTF-8") if isinstance(error, UnicodeDecodeError) else tell("no file can be called so")
        )
        why = getattr(error, "strerror", None) or undecodable
        raise Problems([Problem(tell("cannot be read: {why}", why=why), None, origin, name, location=shown)]) from None
    try:
        tables = parsed(name, text)
    except ValueError as error:
        raise Problems(
            [Problem(tell("cannot be understood: {error}", error=error), None, origin, name, location=shown)]
        ) from None
    if not isinstance(tables, dict):
        raise Problems([Problem(tell("a table of values is wanted at its top"), None, origin, name, location=shown)])
    return ValuesFile(origin, shown, text, tables)


def settings_path(name: str) -> str:
    """Where the settings file of a program stands, in the user's configuration folder."""
    return os.path.join(folder("config", name), "settings.toml")


def parsed(name: str, text: str) -> Any:
    """What the text says; raises ValueError. Standard input is JSON where it begins with a brace, else TOML."""
    ending = os.path.splitext(name)[1].lower()
    if ending in (".yaml", ".yml"):
        try:
            import yaml
        except ImportError:
            raise ValueError("YAML needs the extra: pip install 'wesperon[yaml]'") from None
        try:
            return yaml.safe_load(text)
        except yaml.YAMLError as error:
            raise ValueError(" ".join(str(error).split())) from None
    if ending == ".json" or (name == STANDARD_INPUT and text.lstrip()[:1] == "{"):
        import json

        return json.loads(text)
    import tomllib

    return tomllib.loads(text)
