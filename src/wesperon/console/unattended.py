"""A console with nobody at a terminal: lines from standard input, or a service that stays."""

from __future__ import annotations

import os
import stat

from wesperon.console.ending_signals import hold_signals
from wesperon.console.faults import print_fault, report_alone
from wesperon.frozen import later
from wesperon.system.interrupts import interruptible
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.values.problems import Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    import threading
    from collections.abc import Iterator

    from wesperon.console import command_files
    from wesperon.console.open_console import OpenConsole
    from wesperon.context import Context
    from wesperon.terminal.interaction import Interaction
else:
    threading = later("threading")
    command_files = later("wesperon.console.command_files")


def piped_lines(context: Context) -> Iterator[str] | None:
    """Return the lines of standard input as they come; None if that is a terminal, or nothing at all."""
    stream = context.stdin
    if stream is None:
        return None
    try:
        handle = stream.fileno()
    except (OSError, ValueError):  # a stream in memory, or one that is closed
        return None if stream.closed else iter(stream)
    try:
        if os.isatty(handle) or stat.S_ISCHR(os.fstat(handle).st_mode):
            return None
    except OSError:  # it was closed before the program began
        return None
    return _decoded(iter(stream.buffer)) if hasattr(stream, "buffer") else iter(stream)


def _decoded(lines: Iterator[bytes]) -> Iterator[str]:
    for line in lines:
        yield line.decode("utf-8", "surrogateescape")


async def following(lines: Iterator[str]) -> str | None:
    """Return the next line, None at the end; the other tasks of the event loop go on meanwhile."""
    import asyncio

    return await asyncio.get_running_loop().run_in_executor(None, next, lines, None)


def run_lines(console: OpenConsole, rows: Iterator[str], failed: int) -> Interaction[int]:
    """Run the lines that some rows come to, also after one that fails; the status of the last failure.

    ``failed`` is that of what ran before them.
    """
    joiner = console.lines.joiner()
    is_first = console.lines.takes_values
    while console.leaves is None:
        row = (yield following(rows)) if console.is_async else next(rows, None)
        if is_first and row is not None and row.strip() and not row.lstrip().startswith("#"):
            is_first = False
            if command_files.begins_with_values(row):
                return (yield from _run_file_of_commands(console, row, rows)) or failed
        if row is None and not joiner.parts:
            break
        text = joiner.end() if row is None else joiner.push(row.rstrip("\r\n"))
        if text is None:
            continue
        try:
            console.status = 0
            if not console.lines.is_empty(text):
                yield from console.lines.run(text, None)
        except Complaint as complaint:  # the last quote is never closed
            print_fault(complaint.reason, None)
            console.status = 2
        failed = console.status or failed
    return failed if console.leaves is None else console.leaves


def _run_file_of_commands(console: OpenConsole, first: str, rows: Iterator[str]) -> Interaction[int]:
    """Run what is a whole file of commands, with the values that it takes: it is read to its end first."""
    text = [first]
    while (row := (yield following(rows)) if console.is_async else next(rows, None)) is not None:
        text.append(row)
    try:
        failed = yield from command_files.run_text(console, tell("standard input"), "".join(text))
    except Problems as problems:
        print_fault(report_alone(problems, ()), None)
        return 2
    return failed if console.leaves is None else console.leaves


class Staying:
    """A ``console`` that waits until it is to be left: by its own method, or by SIGTERM or SIGHUP."""

    def __init__(self, console: OpenConsole, *, is_async: bool) -> None:
        self.console = console
        self.is_async = is_async

    def __enter__(self) -> Interaction[None]:
        left = threading.Event()
        with self.console.lock:
            self.console.wake = left.set
            if self.console.leaves is not None:  # before it was opened
                left.set()
        self._release = hold_signals(self.console)
        return _wait(left, is_async=self.is_async)

    def __exit__(self, *error: object) -> None:
        self.console.wake = None
        self._release()


@interruptible
def _wait(left: threading.Event, *, is_async: bool) -> Interaction[None]:
    if is_async:
        yield _waited(left)
    else:
        left.wait()


async def _waited(left: threading.Event) -> None:
    import asyncio

    while not left.is_set():  # a signal and any thread may set it
        await asyncio.sleep(0.1)
