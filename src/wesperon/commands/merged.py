"""A command and what is shared with it as one form: filled together, and taken apart again."""

from __future__ import annotations

from wesperon.argv.typed import hand_on
from wesperon.commands.command_tree import Shared
from wesperon.form import Form
from wesperon.values import DeclarationError
from wesperon.values.records import note_call, slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.commands.command_tree import Command
    from wesperon.values.slots import Slot


def merged_form(
    command: type[Command], shared: Mapping[str, Slot[Any]], forms: Sequence[type[Form]] = ()
) -> type[Form]:
    """Return a form of the slots of a command and those that are shared with it; raises DeclarationError for a clash.

    ``forms`` are those that declare the shared slots: each checks its own values together, and so does the command.
    """
    for name in shared:
        if name in slots_of(command):
            raise DeclarationError(f"{command.__name__}: a slot {name} is shared with the command already")

    def check(self: Form) -> None:
        parts: list[Form] = [part_of(self, one) for one in forms]
        own = part_of(self, command)
        note_call(own, (), Shared(parts))
        for part in (*parts, own):
            type(part).check.__get__(part)()

    checks = any(one.check is not Form.check for one in (command, *forms))
    body: dict[str, Any] = {"__module__": command.__module__, "__qualname__": command.__qualname__}
    body["shared"] = property(lambda record: record)  # as functions of the answers read it on a command
    return Form.with_slots(
        command.__name__, {**shared, **slots_of(command)}, {**body, "check": check} if checks else body
    )


def part_of(filled: Form, form: type[Any]) -> Any:
    """Return the record of one form out of one that was filled for several."""
    origins = filled.origins
    values = {name: filled.__dict__[name] for name in slots_of(form)}
    part = form.of(values, {name: origins[name] for name in slots_of(form)})
    hand_on(filled, part)
    return part
