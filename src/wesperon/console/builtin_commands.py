"""The commands that every console has, unless its program has one of the same name."""

from __future__ import annotations

from wesperon.commands.command_tree import Command
from wesperon.context import current
from wesperon.values.problems import Refusal
from wesperon.values.slots import slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any, ClassVar

    from wesperon.commands.program import Program
    from wesperon.console.console import Console


class BuiltIn(Command):
    """A command of the console itself."""

    console: ClassVar[Console]


class Help(BuiltIn):
    """List the commands, or show the page of one."""

    command = slot(rest=True, help="the name of a command; all of them are listed if there is none")

    def run(self) -> None:
        """Print the list or the page."""
        from wesperon.output.help import page_columns
        from wesperon.output.style import rendered
        from wesperon.screen.table import entries
        from wesperon.text.escape import visible

        program, own = self.console.program, self.console.lines.own
        if self.command:
            owner = self.console.lines.owner(self.command)
            call = owner.walk(self.command)
            if len(call.names) < len(self.command):
                raise Refusal(" ".join(self.command[: len(call.names)]) + " has no commands of its own")
            current().print(rendered(owner._page_rows(call, inside=True)))
            return
        known = {**own.summaries(), **program.summaries()}
        current().print(rendered(entries([(name, visible(text)) for name, text in known.items()], page_columns())))


class Exit(BuiltIn):
    """Leave the console."""

    status = slot(int, default=0, low=0, high=255, help="the exit status of the program")

    def run(self) -> int:
        """Leave with the status."""
        self.console.leave(self.status)
        return 0


#: In the order in which they are listed.
COMMANDS: tuple[type[BuiltIn], ...] = (Help, Exit)


def builtin_program(console: Console) -> Program:
    """The console's own commands, as a program without anything that the program's own commands share."""
    from wesperon.commands.program import Program

    members: list[Any] = [_bound(command, console) for command in COMMANDS]
    return Program(console.name, members=members)


def _bound(command: type[BuiltIn], console: Console) -> type[BuiltIn]:
    """The command for one console."""
    return type(command.__name__, (command,), {"console": console, "__doc__": command.__doc__})
