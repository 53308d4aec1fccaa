"""The help pages of a program: of each command and group."""

from __future__ import annotations

from wesperon.commands.command_tree import examples_of
from wesperon.commands.invocation import Invocation
from wesperon.commands.listing import headings as headings_of
from wesperon.commands.listing import summaries
from wesperon.context import current
from wesperon.output.help import epilogue_of, help_rows, listing_rows
from wesperon.text.escape import visible
from wesperon.values import tell
from wesperon.values.problems import Refusal
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
        headings = headings_of(group, inside=inside)
        if group.left_out:
            headings[tell("Left out")] = group.left_out
        return listing_rows(
            prefix, group.description, headings, call.shared, columns, default=default, epilogue=group.epilogue
        )
    of = call.groups[len(call.names) - 1].inside[call.names[-1]] if call.names else None
    epilogue = epilogue_of(command) if call.names else epilogue_of(command) or group.epilogue
    return help_rows(
        prefix,
        command.__dict__.get("__doc__"),
        slots_of(command),
        columns,
        shared=call.shared,
        aliases=of.aliases if of else (),
        examples=examples_of(command),
        epilogue=epilogue,
    )


def all_calls(program: Program, *, unlisted: bool = False) -> Iterator[Invocation]:
    """Yield the program, every group and every command that is listed, or ``unlisted``, each with the way there.

    One that another package brings along, and that does not load, is said on standard error and passed over.
    """
    calls = [Invocation(program, ())]
    while calls:
        call = calls.pop(0)
        yield call
        below = []
        group = call.groups[-1]
        for name in (group.members if unlisted else summaries(group)) if call.command is None else ():
            deeper = Invocation(program, ())
            try:
                for step in [*call.names, name]:
                    deeper.step(step)
            except Refusal as refusal:
                current().print(visible(str(refusal)), error=True)
            else:
                below.append(deeper)
        calls[:0] = below
