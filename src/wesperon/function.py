"""A plain function as a whole program: its parameters are the slots, its docstring the help, its result the output."""

import sys

from wesperon.argv import MODES, NEVER, fill_from_words, read_words, words_of
from wesperon.form import Form, end_interrupted, is_asked_by_shell, said_at_once, surroundings
from wesperon.values.parameters import Parameters
from wesperon.values.records import keeps_last, slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any


def run(function: "Callable[..., Any]", words: "Sequence[str] | None" = None, /, **keywords: "Any") -> int:
    """Run a ``function`` as a program: fill its parameters, call it, print its result.

    ``words`` are those of the command line without the program's name; ``None`` means those of the process. The
    keywords are those of :class:`wesperon.Program` but for its members; without ``name`` it is that of the script.
    ``check`` is a function of all values together, which raises Complaint with the names of the slots at fault.

    What the function returns is printed, unless it is ``None``. Returns 0 then. Otherwise, the process ends: with
    status 2 if something is wrong or missing, with that of a Refusal, or as by SIGINT if the user stops the questions.

    Example:
        >>> def expose(target: str, frames: int = 1):
        ...     return f"{frames} of {target}"
        >>> run(expose, ["Lantern", "--frames=3"])
        3 of Lantern
        0

    """
    if not keywords and not is_asked_by_shell():
        done, status = _called_at_once(function, words)
    else:
        done = False
    if not done:
        from wesperon.commands.function_command import run_program

        status = run_program(function, words, keywords)
    if status:
        raise SystemExit(status)
    return 0


def _called_at_once(function: "Callable[..., Any]", words: "Sequence[str] | None") -> "tuple[bool, int]":
    """Call a function if the words say all that it takes. Return whether it was called, and the status.

    Everything else is left to a program of one command, which begins again with the words.
    """
    parameters = Parameters(function)
    environ, own = surroundings()
    form = Form.with_slots(function.__name__, parameters.slots, {"__module__": function.__module__})
    reading = read_words(slots_of(form), list(own) if words is None else words_of(words))
    if (
        keeps_last(form)
        or reading.builtin
        or reading.problems
        or reading.hides
        or reading.renamed
        or (environ.get("WESPERON_ASKING") or NEVER) not in MODES
        or "WESPERON_LOG" in environ
    ):
        return False, 0
    record, _, _ = fill_from_words(form, reading, environ)
    if record is None:
        return False, 0
    try:
        result = parameters.call(record.__dict__)
        if hasattr(result, "__await__"):
            from wesperon.terminal.interaction import awaited

            result = awaited(result)
        if result is not None and not said_at_once(result):
            from wesperon.output.results import show

            show(result)
        if sys.stdout is not None:  # the process may have begun without it
            sys.stdout.flush()
        return True, 0
    except Exception as error:
        return True, _ended(error)
    except KeyboardInterrupt:
        return True, end_interrupted()


def _ended(error: Exception) -> int:
    """Print what is wrong with a function that failed; the exit status."""
    from wesperon.context import current
    from wesperon.output.exit_status import status_of, unexpected

    name = current().program_name
    try:
        return status_of(error, [name])
    except Exception:  # the report itself failed: what it was about must still be seen
        return unexpected(error, name)
