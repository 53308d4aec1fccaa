"""The help pages of a program: of each command and group."""

from __future__ import annotations

from wesperon.commands.command_tree import examples_of
from wesperon.commands.invocation import Invocation
from wesperon.output.help import help_rows, listing_rows
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator

    from wesperon.commands.program import Program
    from wesperon.screen.frame import Row


def page_rows(call: Invocation, columns: int = 0, *, inside: bool = False) -> list[Row]:
    """Return the help page of what is called, ``columns`` wide (0: as the terminal).

    ``inside`` a console no line begins with the program's name.
    """
    prefix = [*call.names] if inside else [call.groups[0].name, *call.names]
    group, command = call.groups[-1], call.command
    if command is None and not group.members and isinstance(group.default_command, type):
        command = group.default_command._below(call.shared)  # a program of one command, that has no name of its own
    if command is None:
        default = None if inside else call.default_slots or None
        return listing_rows(
            prefix, group.description, group.summaries(inside=inside), call.shared, columns, default=default
        )
    description = command.__dict__.get("__doc__")
    return help_rows(prefix, description, slots_of(command), columns, shared=call.shared, examples=examples_of(command))


def all_calls(program: Program) -> Iterator[Invocation]:
    """Yield the program, every group and every command, each with the way there."""
    calls = [Invocation(program, ())]
    while calls:
        call = calls.pop(0)
        yield call
        below = []
        for name in call.groups[-1].members if call.command is None else ():
            deeper = Invocation(program, ())
            for step in [*call.names, name]:
                deeper.step(step)
            below.append(deeper)
        calls[:0] = below
