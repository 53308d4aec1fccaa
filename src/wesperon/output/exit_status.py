"""How a program ends when something is wrong: a message on standard error, and the exit status.

0 done   1 refused or failed   2 wrong use   by SIGINT: interrupted (a shell shows 130)
"""

from __future__ import annotations

import os
import sys

from wesperon.context import STANDARD_OUTPUT, current
from wesperon.frozen import later
from wesperon.screen.theme import is_plain
from wesperon.text.escape import visible, visible_lines
from wesperon.text.messages import tell
from wesperon.values.problems import Problem, Problems, Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.output import report, style
else:
    report = later("wesperon.output.report")
    style = later("wesperon.output.style")

WRONG_USE = 2


def status_of(error: BaseException, program: Sequence[str]) -> int:
    """Print what is wrong, for a command line that begins with the words of ``program``; the exit status.

    Errors that are neither Problems nor Refusal are raised again; a pipe that
    nobody reads ends the process.
    """
    for_programs = current().environ.get("WESPERON_PROBLEMS") == "json"
    if isinstance(error, Problems):
        _say(error.json() if for_programs else _reported(error, program))
        drop_unwritten()
        return WRONG_USE
    if isinstance(error, Refusal):
        if error.message and for_programs:
            _say(Problems([Problem(error.message)]).json())
        elif error.message:
            name = " ".join(program)
            message = f"{name}: {error.message}" if name else error.message
            _say(visible_lines(message))
        drop_unwritten()
        return within_range(error.status)
    if isinstance(error, BrokenPipeError):
        return broken_pipe()
    if isinstance(error, OSError) and (refusal := _unwritten(error)):
        return status_of(refusal, program)
    raise error


def _unwritten(error: OSError) -> Refusal | None:
    """Return the refusal that an error means if it is one of standard output, which takes no more."""
    if error.filename is not None:
        return unwritten(error) if error.filename == STANDARD_OUTPUT else None
    try:
        current().flush()
    except OSError as again:
        return unwritten(again)
    except (ValueError, AttributeError):  # it is closed, or no stream of the system's
        pass
    return None


def unwritten(error: OSError) -> Refusal:
    """Return the refusal that says why standard output takes no more."""
    return Refusal(tell("standard output: {why}", why=error.strerror or type(error).__name__))


def _reported(problems: Problems, program: Sequence[str]) -> str:
    """Return the report about a command line, with the roles of the theme where standard error shows them."""
    more = ""
    if problems.words is not None:
        name = " ".join([*program, *problems.command])
        more = tell("{program} --help shows all values.", program=name)
        if problems.lists_commands:
            more = tell("{program} --help shows all commands.", program=name)
    rows = report.report_rows(problems, program, error_columns(), more=more, in_words=is_plain(current().environ))
    return style.rendered(rows, current().stderr)


def print_page(text: str) -> None:
    """Print a page that was asked for; raises Refusal if it cannot be written, BrokenPipeError if nobody reads it."""
    context = current()
    try:
        context.print(text)
        context.flush()
    except BrokenPipeError:
        raise
    except OSError as error:
        raise unwritten(error) from None


def drop_unwritten() -> None:
    """Drop what the standard streams of the process do not take, so that its end does not try again.

    The interpreter would say so in three lines, and end with status 120 in place of ours (Python Library Reference,
    ``sys.exit``).
    """
    if not current().is_process:
        return
    for stream in (sys.stdout, sys.stderr):
        try:
            stream.flush()
        except OSError:
            number = stream.fileno()
            kept, nowhere = os.dup(number), os.open(os.devnull, os.O_WRONLY)
            os.dup2(nowhere, number)
            try:
                stream.flush()
            finally:
                os.dup2(kept, number)
                os.close(kept)
                os.close(nowhere)
        except (ValueError, AttributeError):  # it is closed, or there is none
            pass


def within_range(status: int) -> int:
    """Return an exit status; one that a parent process would get as another number is reported, and is 1."""
    if 0 <= status <= 255:
        return status
    _say(tell("{status} is not an exit status, which is from 0 to 255: status 1 instead", status=status))
    return 1


def interrupted() -> int:
    """End the process as an interrupt does, so that a shell sees it; the status, should the signal be blocked."""
    import signal

    if current().is_process:
        signal.signal(signal.SIGINT, signal.SIG_DFL)  # from here on, the key itself ends the process at once
    _say(tell("Interrupted."))
    # Otherwise the process is somebody else's, and is to go on.
    return end_by_interrupt() if current().is_process else 130


def end_by_interrupt() -> int:
    """End the process by SIGINT, as the key does; the status, should the signal be blocked."""
    import signal

    signal.signal(signal.SIGINT, signal.SIG_DFL)
    try:
        current().flush()
    except (OSError, ValueError, AttributeError):  # nobody reads any more; the process ends by the signal all the same
        pass
    os.kill(os.getpid(), signal.SIGINT)
    return 130


def unexpected(error: Exception, program: str) -> int:
    """Print an error that nobody foresaw, in one line, or raise it again where the whole trace is wanted."""
    if current().environ.get("WESPERON_TRACE") == "1":
        raise error
    _say(
        visible(program)
        + f": {described(error)}\n"
        + tell("WESPERON_TRACE=1 in the environment shows the whole trace.")
    )
    drop_unwritten()
    return 1


def described(error: BaseException) -> str:
    """Return an error in one line, whatever its own text does."""
    name = type(error).__name__
    try:
        text = str(error)
    except Exception:  # __str__ of a class of the program's own failed
        return f"{name}: (its text cannot be shown)"
    return visible(f"{name}: {text}") if text else name


def broken_pipe() -> int:
    """End the process as a write to a pipe that nobody reads does; the status, should the signal be blocked."""
    import signal

    drop_unwritten()
    signal.signal(signal.SIGPIPE, signal.SIG_DFL)
    os.kill(os.getpid(), signal.SIGPIPE)
    return 141


def error_columns() -> int | None:
    """Return the width of the terminal that shows standard error; ``None`` where that is no terminal."""
    try:
        return os.get_terminal_size(current().stderr.fileno()).columns or 80  # type: ignore[union-attr]
    except (OSError, ValueError, AttributeError):  # closed, or none of the system's
        return None


def _say(text: str) -> None:
    """Print on standard error, which may be closed."""
    stream = current().stderr
    if stream is None:
        return
    data = text.encode(stream.encoding or "utf-8", "backslashreplace")
    try:
        print(data.decode(stream.encoding or "utf-8"), file=stream, flush=True)
    except (OSError, ValueError):  # nobody reads it: the exit status still says that something was wrong
        pass
