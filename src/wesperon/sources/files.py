"""Files as a source: answers files, which a run names, and the settings file that a program may have.

Both are TOML or JSON (YAML with the extra), told by the name's ending; standard input may hold either. The tables of a
file follow the path of the command: the values of ``desk expose`` are in ``[expose]``, those of the program itself
above all tables.
"""

from __future__ import annotations

import os

from wesperon.files.document import Document
from wesperon.sources.source import Found, Source
from wesperon.text.spelling import MOST_HINTS, suggestion
from wesperon.user_folders import folder
from wesperon.values import quoted, tell
from wesperon.values.problems import Problem, Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.values.slots import Slot


class ValuesFile(Source):
    """The values of one file for one command, of the tables that were opened with :meth:`open_level`."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self.origin = document.origin
        self.tables: Mapping[str, Any] = document.top
        self.values: dict[str, tuple[Any, tuple[str, ...]]] = {}
        #: Old names that it has, each with its place and the name that it has now.
        self.renamed: list[tuple[str, str]] = []

    def open_level(
        self,
        path: Sequence[str],
        slots: Iterable[Slot[Any]],
        members: Iterable[str] = (),
        old_names: Mapping[str, Sequence[str]] | None = None,
    ) -> list[Problem]:
        """Take the values that are at a path for these slots; the problems with keys that nobody knows there.

        ``members`` are the keys of tables that others use; ``old_names`` those that commands had, by their names now.
        """
        table: Any = self.tables
        found: list[str] = []
        for name in path:
            names = (name, *(old_names or {}).get(name, ()))
            used = next((one for one in names if isinstance(table, dict) and one in table), name)
            found.append(used)
            if used != name:
                self.renamed.append((f"{self.locate(tuple(found))}: {used}", name))
            table = table.get(used, {}) if isinstance(table, dict) else {}
        path = found
        slots = tuple(slots)
        if not isinstance(table, dict):
            reason = tell("{list} must be a table of values", list=" ".join(path))
            return [Problem(reason, None, self.origin, location=self.locate(tuple(path)))]
        keys = {key: slot.name for slot in slots for key in (slot.name, slot.word)}
        olds = {key: slot for slot in slots for old in slot.renamed_from for key in (old, old.replace("-", "_"))}
        keys.update({key: slot.name for key, slot in olds.items()})
        problems = []
        tables = set(members)
        for key, value in table.items():
            where = (*path, key)
            if key in keys and keys[key] in self.values:
                reason = tell("{key} is given twice, also as {other}", key=key, other=self.values[keys[key]][1][-1])
                problems.append(Problem(reason, keys[key], self.origin, location=self.locate(where)))
            elif key in keys:
                self.values[keys[key]] = (value, where)
                if key in olds:
                    self.renamed.append((f"{self.locate(where)}: {key}", olds[key].word))
            elif key not in tables:
                hint = suggestion(key, [*keys, *tables]) if len(problems) < MOST_HINTS else ""
                reason = tell("{key} is unknown{key2}", key=quoted(key), key2=hint)
                problems.append(Problem(reason, None, self.origin, key, location=self.locate(where)))
        return problems

    def find(self, slot: Slot[Any]) -> Found | None:
        """Return the value for a slot."""
        if slot.name not in self.values:
            return None
        value, where = self.values[slot.name]
        return Found(value, self.locate(where))

    def locate(self, where: tuple[str, ...]) -> str:
        """Return the file, and the line of a key if it can be told."""
        return self.document.where(where)[0]


def read_file(name: str, origin: str, *, hides: bool = False) -> ValuesFile:
    """Return the values of a file; raises Problems if it cannot be read or parsed, or is no table.

    ``hides``: nothing of what is in it is said, since a secret may be.
    """
    document = Document(name, origin, hides=hides, as_texts=True)
    if not isinstance(document.top, dict):
        reason = tell("the top level must be a table of values")
        raise Problems([Problem(reason, None, origin, name, location=document.shown)])
    return ValuesFile(document)


def settings_path(name: str) -> str:
    """Return where the settings file of a program is, in the user's configuration folder."""
    return os.path.join(folder("config", name), "settings.toml")
