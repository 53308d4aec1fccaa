"""Which commands below a group take a secret: what a message may repeat, and a history keep, depends on it."""

from __future__ import annotations

from wesperon.commands.command_tree import CommandGroup
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

    from wesperon.commands.command_tree import Command
    from wesperon.values.slots import Slot


def _loaded(group: CommandGroup) -> Iterator[tuple[str, type[Command] | CommandGroup]]:
    """Yield the members of a group that are loaded, by their names; the default command by its own."""
    for name, member in group.inside.items():
        if member.is_loaded:
            yield name, member.loaded


def loaded_slots(group: CommandGroup) -> dict[str, Slot[Any]]:
    """Return the slots of a group and of everything below it, as far as members are loaded; of two names the last."""
    slots = group.slots
    for member in group.members.values():
        if member.is_loaded:
            one = member.loaded
            slots.update(loaded_slots(one) if isinstance(one, CommandGroup) else slots_of(one))
    return slots


def has_secrets(group: CommandGroup) -> bool:
    """Return True if a slot of the group, or below it, is a secret, as far as members are loaded."""
    return any(slot.secret for slot in group.slots.values()) or any(_takes_secret(one) for _, one in _loaded(group))


def _takes_secret(one: type[Command] | CommandGroup) -> bool:
    return has_secrets(one) if isinstance(one, CommandGroup) else any(slot.secret for slot in slots_of(one).values())


def secret_names(group: CommandGroup) -> set[str] | None:
    """Return the long names, and the letters, of all secrets of the group and below it.

    Return None if some are not known.
    """
    if not load_all(group):
        return None
    secrets = [slot for slot in group.slots.values() if slot.secret]
    names: set[str] = set()
    for _, one in _loaded(group):
        if isinstance(one, CommandGroup):
            names |= secret_names(one) or set()
        else:
            secrets += [slot for slot in slots_of(one).values() if slot.secret]
    for slot in secrets:
        names |= {slot.word, *slot.renamed_from, *(slot.short or "")}
    return names


def commands_with_secrets(group: CommandGroup) -> set[str]:
    """Return the words for the members, and for those below them, that take a secret, as far as they are loaded."""
    names: set[str] = set()
    for name, one in _loaded(group):
        below = commands_with_secrets(one) if isinstance(one, CommandGroup) else set()
        names |= below
        if below or _takes_secret(one):
            names |= {name.lower(), *group.inside[name].aliases}
    return names


def may_have_secrets(group: CommandGroup) -> bool:
    """Return True if a slot of the group, or below it, is a secret or not known; loads all that can be loaded."""
    return not load_all(group) or has_secrets(group)


def load_all(group: CommandGroup) -> bool:
    """Load every member of the group, and below it. Return False if the slots of one stay unknown."""
    is_whole = True
    for member in group.members.values():
        try:
            one = member.loaded
        except Exception:  # whatever a module of the program raises: it is told when that command is called
            is_whole = False
        else:
            is_whole = (not isinstance(one, CommandGroup) or load_all(one)) and is_whole
    return is_whole
