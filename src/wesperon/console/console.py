"""The console: reads lines, and runs the command that each one names, until the user leaves."""

from __future__ import annotations

import os

from wesperon.commands.command_tree import known_keywords
from wesperon.commands.program import Program
from wesperon.console.command_lines import CommandLines
from wesperon.console.driver_stream import DriverStream
from wesperon.console.ending_signals import hold_signals
from wesperon.console.faults import print_fault, report_alone
from wesperon.console.open_console import OpenConsole
from wesperon.context import current
from wesperon.editing.editor import Memory
from wesperon.forms.filling import FillOptions
from wesperon.frozen import later
from wesperon.output.exit_status import described
from wesperon.scope import within
from wesperon.screen.layout import gutter_for
from wesperon.system.asked import end as end_for_shell
from wesperon.system.interrupts import critical, interruptible, waiting
from wesperon.system.process_signals import SIGNALS
from wesperon.terminal.interaction import Asked, play, play_async
from wesperon.terminal.seat.seat import OWN_SEAT
from wesperon.text.elapsed import elapsed
from wesperon.text.escape import visible, visible_lines
from wesperon.text.messages import tell
from wesperon.values import DeclarationError, overload
from wesperon.values.problems import Problems
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Answered, Interrupted, Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Coroutine, MutableMapping, Sequence
    from logging import Handler
    from typing import Any, TypeVar

    from wesperon.commands.listeners import Listener
    from wesperon.commands.program import Program
    from wesperon.context import Context
    from wesperon.history.history_file import History
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.terminal.preferred import DriverOptions

    L = TypeVar("L", bound=Listener)

    from wesperon.console import command_files, evaluated_lines, jobs, log_handler, python_loop, unattended
else:
    command_files = later("wesperon.console.command_files")
    evaluated_lines = later("wesperon.console.evaluated_lines")
    jobs = later("wesperon.console.jobs")
    log_handler = later("wesperon.console.log_handler")
    python_loop = later("wesperon.console.python_loop")
    unattended = later("wesperon.console.unattended")


#: Commands that take more seconds have their time shown.
LONG = 1.0


class Console(OpenConsole):
    r"""A prompt that stays open, and runs the commands of ``program``, or evaluates the texts of a language.

    Lines are split into words by the quoting rules of the POSIX shell; a command whose values are missing asks for
    them.

    With ``evaluate`` the lines are texts of a language: the function gives an object to print, or None, and may be a
    coroutine function. Lines that begin with ``sign`` are commands. ``syntax`` colours the line (see the guide on
    editing); ``whole`` says of a text whether Enter evaluates it or adds a line; ``complete`` gives where the text
    before an offset begins that is completed, and its candidates, or these alone for the word before it. If an error
    has a ``position`` (an offset from 0), or a ``lineno`` and an ``offset`` (from 1), the text comes back with the
    cursor there.

    ``name`` is the label beside the line, if it is not the name of the program: a text, or a function that is called
    for each line, as for a device with modes.

    ``history`` is the file in which lines are kept between runs: ``True`` is one of the program's own in the user's
    state folder, ``False`` none. Lines that begin with a blank, that name a command with secrets and more, or of which
    ``private`` says so are not kept. ``prompt`` is shown above the line, ``note`` at its right edge: texts, or
    functions that are called for each line.

    ``output_files=True`` has ``COMMAND > FILE`` write what a command prints to a file when it is done, ``>>`` add to
    it.
    How long a command has taken, if that is over a second, is shown at the right edge of the next line.

    ``background`` is how many commands may run at a time while the prompt is open: those of lines that end in ``&``,
    and those that say so. If some still run when the console is left, that is said, and they are waited for or, with
    ``at_leaving="stop"``, stopped.

    ``first_file`` is a file of commands that is run when it opens, see :meth:`run_file`.

    Tab completes what the shell completion knows; ``suggest_as`` is how it is shown: ``"list"``, ``"grid"``, or
    ``"inline"``, one after the other in the line; without it, as a list if there are notes.

    While a line is open, everything that the process prints, from any thread, comes above it (``capture=False``: where
    it falls). Standard input that is no terminal is read as if typed. ``unattended`` says what happens if there is
    neither: ``"refuse"`` says so and ends with status 2, ``"stay"`` waits for :meth:`leave` or SIGTERM, as a service
    does.

    ``driver`` runs the prompt and the questions; ``None`` means the controlling terminal. With a driver of the caller's
    own, ``history`` is off unless it is given, and what its commands print is shown by that driver. ``context`` is the
    context to be in force while it runs; ``None`` means the one that is. Several consoles may run side by side, each on
    a driver of its own, in threads or in one event loop.

    Example:
        >>> def park():
        ...     "Park the telescope."
        ...     return "parked"
        >>> out = io.StringIO()
        >>> context = Context(stdin=io.StringIO("park\n"), stdout=out)
        >>> Console(Program("desk", members=[park]), history=False, context=context).run()
        0
        >>> out.getvalue()
        'parked\n'

    """

    @known_keywords
    def __init__(
        self,
        program: Program | None = None,
        *,
        evaluate: Callable[[str], object] | None = None,
        name: str | Callable[[], str] = "",
        syntax: Any = None,
        whole: Callable[[str], object] | None = None,
        complete: Callable[[str, int], tuple[int, Sequence[str]] | Sequence[str]] | None = None,
        sign: str = ":",
        history: bool | str | os.PathLike[str] | None = None,
        private: Callable[[str], object] | None = None,
        prompt: str | Callable[[], str] = "",
        note: str | Callable[[], str] = "",
        capture: bool = True,
        suggest_as: str = "",
        output_files: bool = False,
        background: int = 0,
        at_leaving: str = "wait",
        first_file: str | os.PathLike[str] | None = None,
        unattended: str = "refuse",
        driver: Driver | None = None,
        context: Context | None = None,
    ) -> None:
        kept = driver is None if history is None else history if isinstance(history, bool) else os.fspath(history)
        super().__init__(_program_of(program, name, evaluate, sign), name=name, history=kept, context=context)
        self.driver = driver
        self.private = private
        self.prompt = prompt
        self.note = note
        self.capture = capture
        if suggest_as not in ("", "list", "grid", "inline"):
            raise DeclarationError(f"suggest_as={suggest_as!r} is not one of 'list', 'grid', 'inline'")
        self.suggest_as = suggest_as
        self.output_files = output_files
        if at_leaving not in ("wait", "stop"):
            raise DeclarationError(f"at_leaving={at_leaving!r} is not one of 'wait', 'stop'")
        self.at_leaving = at_leaving
        if isinstance(background, bool) or not isinstance(background, int) or background < 0:
            raise DeclarationError(f"background={background!r} is no number of commands, from 0")
        if background:
            self.jobs = jobs.Jobs(self, background)
        self.first_file = None if first_file is None else os.fspath(first_file)
        if unattended not in ("refuse", "stay"):
            raise DeclarationError(f"unattended={unattended!r} is not one of 'refuse', 'stay'")
        self.unattended = unattended
        self.memory = Memory()
        self._python_history: History | None = None
        self._is_open = False
        self._on_leave: list[Callable[[], object]] = []
        self.lines: CommandLines = CommandLines(self)
        if evaluate is not None:
            language = evaluated_lines.Language(evaluate, syntax=syntax, whole=whole, complete=complete, sign=sign)
            self.lines = evaluated_lines.EvaluatedLines(self, language)

    def run(self) -> int:
        """Read and run lines until ``exit``, the end of input or :meth:`leave`; the exit status.

        That is what ``exit`` or :meth:`leave` say, else 0; of lines from standard input that of the last one that
        failed. If there is nothing to read from, a message on standard error says so, and the status is 2, unless the
        console stays ``unattended``.
        """
        return play(self._steps(is_async=False))

    async def run_async(self) -> int:
        """Do the same inside an event loop, whose other tasks go on meanwhile; a command may be a coroutine."""
        return await play_async(self._steps(is_async=True))

    def run_file(self, path: str | os.PathLike[str], words: Sequence[str] = ()) -> int:
        """Run a file of commands, line by line, as if they were typed; the status of the last line that failed, else 0.

        ``path`` is the file, ``words`` are for the values that it begins with; what is missing is asked for if somebody
        is there. What is wrong is printed, with the file and the line. See the guide on consoles for the format.
        """
        return play(self._file_steps(os.fspath(path), words))

    async def run_file_async(self, path: str | os.PathLike[str], words: Sequence[str] = ()) -> int:
        """Do the same inside an event loop, whose other tasks go on meanwhile; a command may be a coroutine.

        ``path``, ``words`` and the status are those of :meth:`run_file`.
        """
        self.is_async = True
        return await play_async(self._file_steps(os.fspath(path), words))

    @overload
    def listen(self, name: str | None = None) -> Callable[[L], L]: ...

    @overload
    def listen(self, name: str | None, listener: Listener) -> Callable[[], None]: ...

    def listen(self, name: str | None = None, listener: Listener | None = None) -> Any:
        """Call a ``listener`` for each call of a command by its full ``name``. Return a function that ends that.

        It is called with a :class:`Heard`, after the command has run, in the order of attachment; a coroutine is
        awaited. An error in one is shown, and the others are called all the same. Without a name it hears every line,
        also one that names no command: if it then returns True, it has answered, and nothing is said about the line.
        A command without a ``run`` of its own is one that listeners do. With the name alone this is a decorator.
        """
        if listener is not None:
            return self.lines.listeners.attach(name or "", listener)

        def attach(function: L) -> L:
            self.lines.listeners.attach(name or "", function)
            return function

        return attach

    def python(self, namespace: MutableMapping[str, Any], name: str = "python") -> int | Coroutine[Any, Any, int]:
        """Look inside the running program: open a loop of Python over the objects of a ``namespace``, until it is left.

        ``name`` is beside its lines. The status; if this console runs in an event loop, a coroutine that gives it, for
        a command to return. Nobody gets there unless a command of the program calls this: a user who does can do
        everything that the program can.
        """
        loop = python_loop.PythonLoop(namespace, lambda status: inner.leave(status))
        inner = Console(
            evaluate=loop.evaluate,
            whole=loop.whole,
            complete=loop.complete,
            name=name,
            syntax="python",
            history=False,
            capture=self.capture,
            driver=self.driver_in_use,
        )
        if self._python_history is None:
            self._python_history = inner.history
        inner._history = self._python_history
        return inner.run_async() if self.is_async else inner.run()

    def on_leave(self, function: Callable[[], object]) -> Callable[[], object]:
        """Call a ``function`` when the console has been left, before :meth:`run` returns. Return the function.

        The last one given is called first; an error in one is shown, and does not keep the others from being called.
        """
        self._on_leave.append(function)
        return function

    def handler(self) -> Handler:
        """Return a handler for :mod:`logging` that shows each record with :meth:`say`."""
        return log_handler.ConsoleLogHandler(self.say)

    def _steps(self, *, is_async: bool) -> Interaction[int]:
        if current().asking_shell:  # a program that has no words of its own: there is nothing to offer
            end_for_shell()
        with within(self._own_context()) as context:
            self.around = context
            self.program.turn_on_log()
            return (yield from self._open_in(context, is_async=is_async))

    def _file_steps(self, path: str, words: Sequence[str]) -> Interaction[int]:
        """Run a file of commands; what is wrong with the file itself is printed, status 2."""
        if current().asking_shell:
            end_for_shell()
        driver = self.driver_in_use or self.driver
        is_first = self.leaves is None and not self._is_open
        with within(self._own_context()):
            try:
                status = yield from command_files.run_file(self, path, words, driver)
            except Problems as problems:
                print_fault(report_alone(problems, problems.words or ()), driver)
                return 2
            finally:
                left = self.leaves
                if is_first:  # a line of the file left it: there is nothing else to leave
                    self.leaves = None
            return status if left is None or not is_first else left

    def _run_first_file(self) -> Interaction[int]:
        """Run the file of commands that the console begins with, if there is one; its status."""
        return (yield from self._file_steps(self.first_file, ())) if self.first_file is not None else 0

    def _own_context(self) -> Context:
        """Return the context to be in force.

        On a driver of the caller's own, the streams of that driver belong to it.
        """
        context = self.context or current()
        if self.driver is None or self.driver.is_own:
            return context
        stream = DriverStream(self.driver)
        return context.derive(driver=self.driver, stdout=stream, stderr=stream)

    @waiting
    def _open_in(self, context: Context, *, is_async: bool) -> Interaction[int]:
        self.is_async = is_async
        options = FillOptions(self._asking(), driver=self.driver, is_async=is_async)
        driver, release = self.driver, None
        was_open, self._is_open = self._is_open, True
        try:
            if driver is None:
                lines = None if context.driver is not None else unattended.piped_lines(context)
                if lines is not None:
                    failed = yield from self._run_first_file()
                    return (yield from unattended.run_lines(self, lines, failed))
                driver = options.reach()
                if driver is None and self.unattended == "stay":
                    with unattended.Staying(self, is_async=is_async) as wait:
                        if self.leaves is None:
                            yield from self._run_first_file()
                        yield from wait
                    return self.leaves or 0
                if driver is None:
                    reason = tell("the console requires a terminal, and there is none here")
                    context.print(f"{self.program.name}: {reason}", error=True)
                    return 2
            if driver.is_own:
                release = hold_signals(self)
            return (yield from self._open_on(driver, options))
        finally:
            try:
                if self.jobs is not None:
                    yield from self.jobs.leave(self.at_leaving)
                self._call_on_leave(driver)
            finally:
                if release is not None:
                    release()
            self.leaves = None  # it may be opened again
            self._is_open = was_open

    def _asking(self) -> dict[str, Any]:
        """Return how its lines are asked: as the questions of its program, but they wait as long as it takes."""
        return {**self.program.wishes, "timeout": None, "capture": self.capture}

    @interruptible
    def _call_on_leave(self, driver: Driver | None) -> None:
        while self._on_leave:
            try:
                self._on_leave.pop()()
            except (Exception, KeyboardInterrupt) as error:  # the others are called all the same
                print_fault(described(error), driver)

    @waiting
    def _open_on(self, driver: Driver, options: FillOptions) -> Interaction[int]:
        """Read and run lines on a driver; the status."""
        driver.forget_leave()
        asking = options.for_driver()
        undo: list[Callable[[], object]] = [lambda: self._put_away(driver, options)]
        if self.capture and driver.is_own:
            OWN_SEAT.capture.open()
            undo.append(OWN_SEAT.capture.close)
        with self.lock:
            self.driver_in_use = driver
        self.history.open()
        left = is_begun = interrupted = False
        told = ""
        try:
            while not left and self.leaves is None:
                try:
                    if interrupted or (
                        driver.is_own and SIGNALS.pop_interrupt()
                    ):  # said here, where another interrupt does no harm
                        interrupted = False
                        print_fault("Interrupted.", driver)
                    if self.history.fault != told:
                        told = self.history.fault
                        print_fault(told, driver)
                    if not is_begun:
                        is_begun = True
                        yield from self._run_first_file()
                        continue
                    left = yield from self._turn(driver, asking)
                except KeyboardInterrupt:
                    interrupted = True
        finally:
            while undo:
                undo.pop()()
            if self.history.fault != told:
                print_fault(self.history.fault, driver)
        return self.leaves or 0

    @critical
    def _put_away(self, driver: Driver, options: FillOptions) -> None:
        """Let go of the driver, and of the history."""
        with self.lock:
            self.driver_in_use = None
        self.history.close()
        driver.forget_leave()
        options.let_go(driver)

    def _turn(self, driver: Driver, asking: DriverOptions) -> Interaction[bool]:
        """Read one line and run it. Return True at the end of input."""
        outcome = yield Asked(driver, self._line(driver), asking)
        if not isinstance(outcome, Answered):
            self.lines.line_dropped()
            return not isinstance(outcome, Interrupted)
        if driver.is_own and SIGNALS.pop_interrupt():  # after Enter, and before the command
            raise KeyboardInterrupt
        if outcome.value:
            yield from self.lines.run(outcome.value, driver)
        return False

    def _text_of(self, text: str | Callable[[], str], driver: Driver) -> str:
        """Return a text, or what the program's function gives; a fault in that is shown, and the console goes on."""
        try:
            return str(text() if callable(text) else text)
        except Exception as error:
            print_fault(described(error), driver)
            return ""

    def _line(self, driver: Driver) -> Question:
        label = self.name = visible(self._text_of(self.label, driver) or self.program.name)
        above, note = self._text_of(self.prompt, driver), self._text_of(self.note, driver)
        if self.took > LONG:
            note = "  ".join([*([note] if note else []), elapsed(self.took)])
        question = visible_lines(above)
        prompt = Prompt(label, gutter_for([label]), question, note=visible(note))
        field = self.lines.line(self._accept, past=self.history, memory=self.memory)
        field.write_entries = write_entries
        if self.next_text:
            field.returned(self.next_text)
            self.next_text = ""
        line = Question(prompt, field)
        line.shows_work = True
        return line

    def _accept(self, text: str) -> str:
        """Return the line, which joins the history; raises Complaint if a quote is not closed."""
        is_empty = self.lines.is_empty(text)
        self.mark = None
        if text.strip() and not self._is_private(text):
            self.mark = self.history.add(text.rstrip())
        return "" if is_empty else text

    def _is_private(self, text: str) -> bool:
        """Return True if a text is to be forgotten: a secret may be in a line of it, or the program says so."""
        lines = self.lines.several(text)
        try:
            if self.private is not None and any(map(self.private, [text, *lines])):
                return True
        except Exception:
            return True  # in doubt, a line is not kept
        return any(map(self.lines.is_private, lines))


def _program_of(program: Program | None, name: str | Callable[[], str], evaluate: object, sign: str) -> Program:
    """Return the program of a console: one without commands if it is over a language alone."""
    if program is None and evaluate is None:
        raise DeclarationError("a console needs a program, or evaluate=")
    if program is not None and not isinstance(program, Program):
        raise DeclarationError(f"a console needs a Program, got {program!r}")
    if evaluate is not None and not callable(evaluate):
        raise DeclarationError(f"evaluate={evaluate!r} is no function of a text")
    if evaluate is not None and not sign:
        raise DeclarationError("sign is empty: a command of the console needs a sign before it")
    return program if program is not None else Program(name if name and isinstance(name, str) else "console")


def write_entries(path: str, texts: list[str]) -> None:
    """Write entries to a file of commands that is not there yet; raises Complaint."""
    command_files.write_entries(path, texts)


def opened_by_default(program: Program, options: FillOptions) -> Interaction[int]:
    """Open a console over a program whose default command is ``"console"``, in steps; the status."""
    return Console(program, driver=options.driver)._steps(is_async=options.is_async)
