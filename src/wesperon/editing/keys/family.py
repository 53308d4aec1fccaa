"""Families of keys: tables from keys to actions, with modes, and layers for widgets that use some keys otherwise.

A family is data. Its *modes* are tables from a key, or a sequence of keys, to the name of an action; a key that has no
entry types its character where the mode says so. Its *layers* are further tables, by name, that lie over the mode for
one sort of widget: a menu asks for the layer ``menu``, checkboxes for ``menu`` and ``checkboxes``; one that holds in a
single mode has that after an ``@``. The user's bindings lie over all of them.
``Keymap`` is what comes of it for one widget in one mode; :class:`resolver.KeyResolver` reads it.
"""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping


class Mode(Frozen):
    """One mode of a family.

    ``table`` maps keys to actions. ``types``: a key without an entry types its character. ``counts``: digits without
    Alt are counts. ``shape`` is the shape of the cursor, ``block``, ``underline`` or ``bar``; empty for the terminal's
    own. ``label`` is what the foot says of the mode; empty for nothing.
    """

    table: Mapping[str, str]
    types: bool = True
    counts: bool = False
    shape: str = ""
    label: str = ""


class Family(Frozen):
    """A family of keys: its name, its modes by name, the mode in which a question opens, and its layers by name.

    ``choosing`` is the mode in which menus and the like open; empty for the same.
    ``operators`` are the actions that wait for a motion, or for their own key again, which means the line; meanwhile
    keys are read by the mode ``operator``, if there is one;
    ``has_commands`` says whether its actions are those of ``editing.modal``.
    """

    name: str
    modes: Mapping[str, Mode]
    start: str
    layers: Mapping[str, Mapping[str, str]]
    operators: frozenset[str] = frozenset()
    has_commands: bool = False
    choosing: str = ""


class Keymap:
    """The entries for one widget in one mode; ``begun`` are the beginnings of its sequences."""

    def __init__(self, mode: Mode, table: dict[str, str]) -> None:
        self.mode = mode
        self.begun = prefixes(table)
        #: A key whose own entry was taken away still begins its sequences.
        self.table = {keys: name for keys, name in table.items() if name or keys not in self.begun}


def prefixes(table: Mapping[str, str]) -> dict[str, str]:
    """Return the beginnings of all sequences, each with one of the sequences that it begins."""
    begun: dict[str, str] = {}
    for keys in table:
        if " " in keys:
            parts = keys.split(" ")
            for count in range(1, len(parts)):
                begun.setdefault(" ".join(parts[:count]), keys)
    return begun
