"""What a line of words calls, and the way there."""

from __future__ import annotations

from wesperon.commands.command_tree import Command, CommandGroup
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence
    from typing import Any

    from wesperon.commands.program import Program
    from wesperon.form import Form
    from wesperon.values.slots import Slot


class Invocation:
    """What a line of words calls: a command or, where words are missing, a group; and the way there."""

    def __init__(self, program: Program, words: Sequence[str]) -> None:
        self.words = tuple(words)
        self.groups: list[CommandGroup] = [program]
        self.names: list[str] = []
        self.indices: set[int] = set()
        self.command: type[Command] | None = None
        #: Whether the first word is ``help``: wanted is the page of what the others name.
        self.is_help = False
        #: Whether a word that names no command is the first value of the default one.
        self.is_default = False
        #: Old names that the words use, each with the one that it has now.
        self.renamed: list[tuple[str, str]] = []

    @property
    def shared(self) -> dict[str, Slot[Any]]:
        """The slots of the program and the groups on the way."""
        return {name: slot for group in self.groups for name, slot in group.slots.items()}

    @property
    def shared_forms(self) -> list[type[Form]]:
        """The forms of the slots that are shared on the way."""
        return [group.shared for group in self.groups if group.shared]

    @property
    def default_slots(self) -> dict[str, Slot[Any]]:
        """The slots of the command that is meant if none is named."""
        default = self.groups[-1].default_command
        return dict(slots_of(default._below(self.shared))) if isinstance(default, type) else {}

    @property
    def first_position(self) -> Slot[Any] | None:
        """The slot of the default command that the first word fills, if it has one."""
        return next((slot for slot in self.default_slots.values() if not slot.named_only), None)

    def use_default_command(self) -> None:
        """Select the group's default command, if it has one."""
        default = self.groups[-1].default_command
        if isinstance(default, type):
            self.command = default._below(self.shared)

    @property
    def old_names(self) -> dict[str, tuple[str, ...]]:
        """The names that the groups and the command on the way had, by their names now."""
        found = zip(self.groups, self.names, strict=False)
        return {name: group.inside[name].renamed_from for group, name in found if group.inside[name].renamed_from}

    @property
    def levels(self) -> list[tuple[tuple[str, ...], Iterable[Slot[Any]], Iterable[str]]]:
        """The tables of a file that may hold values for this call: path, slots, and the keys that others use."""
        names = self.names
        levels: list[tuple[tuple[str, ...], list[Slot[Any]], Iterable[str]]] = [
            (tuple(names[:depth]), list(group.slots.values()), group.table_names)
            for depth, group in enumerate(self.groups)
        ]
        own = list(slots_of(self.command).values()) if self.command else []
        if len(names) < len(levels):  # a group means its command
            levels[-1][1].extend(own)
        else:
            levels.append((tuple(names), own, ()))
        return list(levels)

    def step_back(self) -> None:
        """Go back to the group that the last step left."""
        self.names.pop()
        if self.command is None:
            self.groups.pop()
        self.command = None

    def step(self, name: str, index: int | None = None) -> None:
        """Go on to a member of the last group."""
        found = self.groups[-1].inside[name].loaded
        self.names.append(name)
        if index is not None:
            self.indices.add(index)
        if isinstance(found, CommandGroup):
            self.groups.append(found)
        else:
            self.command = found._below(self.shared)
