"""The fast path of a program: a command that the words name in full, and of which they say all that it takes.

Everything else begins again with the words, in the one way that does all (``Program.call``), for which much has to be
loaded: 23 million instructions of the 79 that such a start took. So nothing here may be seen from outside before the
command runs; a law runs both ways on the same words (``tests/commands/test_at_once.py``).
"""

from __future__ import annotations

import sys

from wesperon.argv import MODES, NEVER, fill_from_words, read_words, words_of
from wesperon.commands.command_tree import CommandGroup
from wesperon.form import Form, end_interrupted, is_alone, is_asked_by_shell, said_at_once, surroundings
from wesperon.frozen import later
from wesperon.values.records import keeps_last, note_call, slots_of
from wesperon.values.wishes import ALWAYS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.commands.program import Program
    from wesperon.output import exit_status
    from wesperon.output import results as output_results
    from wesperon.terminal import interaction
    from wesperon.values import problems
else:
    interaction = later("wesperon.terminal.interaction")
    exit_status = later("wesperon.output.exit_status")
    output_results = later("wesperon.output.results")
    problems = later("wesperon.values.problems")


def run_at_once(program: Program, words: Sequence[str] | None) -> int | None:
    """Run the command of a program that the words name, if nothing else is to be done. Return the status, or None."""
    environ, own = surroundings()
    if is_asked_by_shell() or "WESPERON_LOG" in environ or not is_alone():
        return None
    if (
        (environ.get("WESPERON_ASKING") or NEVER) not in MODES
        or program.gate is not None
        or program.log
        or program.repeats != "error"
    ):
        return None
    given = list(own) if words is None else words_of(words)
    group: CommandGroup = program
    names: list[str] = []
    for word in given:
        member = group.declared.get(word) or group.members.get(word)
        if member is None:
            return None
        names.append(word)
        found = member.loaded
        if group.shared is not None:
            return None
        if not isinstance(found, CommandGroup):
            return _filled_at_once(program, found, given, names)
        group = found
    return None


def _filled_at_once(program: Program, command: Any, given: list[str], names: list[str]) -> int | None:
    """Fill a command from the words, and run it. Return the status; None if the words do not say all."""
    if command.in_steps or command.check is not Form.check or keeps_last(command):
        return None
    if program.wishes.get("review") == ALWAYS or command.review == ALWAYS:
        return None
    places = frozenset(range(len(names)))
    reading = read_words(slots_of(command), given, prefixes=program.prefixes, command=places)
    if reading.builtin or reading.problems or reading.hides or reading.renamed:
        return None
    record, _, _ = fill_from_words(command, reading, environ=surroundings()[0], settings=program.settings_of)
    if record is None:
        return None
    note_call(record, names)
    return _run(program, record, names)


def _run(program: Program, record: Any, names: list[str]) -> int:
    """Run a command that is filled, with nothing around it; the exit status."""
    try:
        result = type(record).run.__get__(record)()  # the record may hold a value of that name
        if hasattr(result, "__await__"):
            result = interaction.awaited(result)
        if result is not None and not said_at_once(result):
            output_results.show(result)
        if sys.stdout is not None:  # the process may have begun without it
            sys.stdout.flush()
        return 0
    except Exception as error:
        if isinstance(error, problems.Problems):
            error.command = tuple(names)
        return failed(error, program.name)
    except KeyboardInterrupt:
        return end_interrupted()


def failed(error: Exception, name: str) -> int:
    """Print what is wrong with a program of this name; the exit status."""
    try:
        return exit_status.status_of(error, [name])
    except Exception:  # the report itself failed: what it was about must still be seen
        return exit_status.unexpected(error, name)
