"""The console: reads lines, and runs the command that each one names, until the user leaves."""

from __future__ import annotations

from threading import RLock

from wesperon.argv import read_words
from wesperon.commands.listeners import Listeners
from wesperon.console.console_line import ConsoleLine, is_whole, words_of
from wesperon.console.driver_stream import DriverStream
from wesperon.context import current
from wesperon.editing.editor import Memory
from wesperon.forms.options import FillOptions
from wesperon.history.history_file import History, state_file
from wesperon.output.exit_status import described
from wesperon.scope import within
from wesperon.screen.layout import BETWEEN, field_area, gutter_for
from wesperon.text.escape import is_plain, visible
from wesperon.values import DeclarationError, overload, tell
from wesperon.values.problems import Problem, Problems, Refusal
from wesperon.values.records import WORDS
from wesperon.values.words import split_words
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Answered, Interrupted, Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from logging import Handler
    from typing import Any, TypeVar

    from wesperon.commands.listeners import Listener
    from wesperon.commands.program import Program
    from wesperon.console.stray_output import StrayOutput
    from wesperon.context import Context
    from wesperon.forms.interaction import Interaction
    from wesperon.terminal.driver import Driver

    L = TypeVar("L", bound=Listener)

#: What the console itself knows, unless the program has a command of that name.
BUILTIN_COMMANDS = {"help": "list the commands", "exit": "leave the console"}
#: What ``exit`` takes.
STATUSES = frozenset(map(str, range(256)))


class Console:
    """A prompt that stays open, and runs the commands of ``program``.

    Lines are split into words by the quoting rules of the POSIX shell; a command whose values are missing asks for
    them.

    ``history`` is the file in which lines are kept between runs: ``True`` is one of the program's own in the user's
    state folder, ``False`` none. Lines that begin with a blank, that name a command with secrets and more, or of which
    ``private`` says so are not kept. ``prompt`` is shown above the line, ``note`` at its right edge: texts, or
    functions that are called for each line.

    While a line is open, everything that the process prints, from any thread, comes above it (``capture=False``: where
    it falls). Standard input that is no terminal is read as if typed. ``unattended`` says what happens if there is
    neither: ``"refuse"`` says so and ends with status 2, ``"stay"`` waits for :meth:`leave` or SIGTERM, as a service
    does.

    ``driver`` runs the prompt and the questions; ``None`` means the controlling terminal. With a driver of the caller's
    own, ``history`` is off unless it is given, and what its commands print is shown by that driver. ``context`` is the
    context to be in force while it runs; ``None`` means the one that is. Several consoles may run side by side, each on
    a driver of its own, in threads or in one event loop.
    """

    def __init__(
        self,
        program: Program,
        *,
        history: bool | str | None = None,
        private: Callable[[str], object] | None = None,
        prompt: str | Callable[[], str] = "",
        note: str | Callable[[], str] = "",
        capture: bool = True,
        unattended: str = "refuse",
        driver: Driver | None = None,
        context: Context | None = None,
    ) -> None:
        self.program = program
        self.driver = driver
        self.context = context
        self.private = private
        self.prompt = prompt
        self.note = note
        self.capture = capture
        if unattended not in ("refuse", "stay"):
            raise DeclarationError(f"unattended={unattended!r} is none of 'refuse', 'stay'")
        self.unattended = unattended
        self.memory = Memory()
        self.lock = RLock()
        self._wanted = driver is None if history is None else history
        self._history: History | None = None
        self._open: Driver | None = None
        self._is_async = False
        self._status = 0
        self._mark: tuple[int, int, int] | None = None
        #: The status to leave with, once that is wanted; what is to be called then.
        self._leaves: int | None = None
        self._on_leave: list[Callable[[], object]] = []
        self._wake: Callable[[], object] | None = None
        self._listeners = Listeners(lambda error: self._print_fault(described(error), self._open))

    @property
    def history(self) -> History:
        """The lines that were entered, in this run and before."""
        if self._history is None:
            wanted = self._wanted
            path = wanted if isinstance(wanted, str) else state_file(self.program.name) if wanted else None
            self._history = History(path, owns_folder=not isinstance(wanted, str))
        return self._history

    def run(self) -> int:
        """Read and run lines until ``exit``, the end of input or :meth:`leave`; the exit status.

        That is what ``exit`` or :meth:`leave` say, else 0; of lines from standard input that of the last one that
        failed. If there is nothing to read from, a message on standard error says so, and the status is 2, unless the
        console stays ``unattended``.
        """
        from wesperon.forms.interaction import play

        return play(self._steps(is_async=False))

    async def run_async(self) -> int:
        """The same inside an event loop, whose other tasks go on meanwhile; a command may be a coroutine."""
        from wesperon.forms.interaction import play_in_turn

        return await play_in_turn(self._steps(is_async=True), self.driver)

    def say(self, text: str) -> None:
        """Show the lines of ``text`` above the one that is being typed, which stays as it is; from any thread.

        Characters that would act on the terminal appear in their visible form. If the console is not open, the text
        goes to standard output.
        """
        lines = "\n".join([visible(line) for line in str(text).split("\n")])
        with self.lock:
            if self._open is not None:
                self._open.say(lines)
                return
        try:
            (self.context or current()).print(lines)
        except (OSError, ValueError):  # closed, full, or nobody reads it: no fault of the worker that says it
            pass

    @overload
    def listen(self, name: str | None = None) -> Callable[[L], L]: ...

    @overload
    def listen(self, name: str | None, listener: Listener) -> Callable[[], None]: ...

    def listen(self, name: str | None = None, listener: Listener | None = None) -> Any:
        """Have a ``listener`` hear of each call of a command by its full ``name``; give a function that ends that.

        It is called with a :class:`Heard`, after the command has run, in the order of attachment; a coroutine is
        awaited. An error in one is shown, and the others are called all the same. Without a name it hears every line,
        also one that names no command: if it then returns True, it has answered, and nothing is said about the line.
        A command without a ``run`` of its own is one that listeners do. With the name alone this is a decorator.
        """
        if listener is not None:
            return self._listeners.attach(name or "", listener)

        def attach(function: L) -> L:
            self._listeners.attach(name or "", function)
            return function

        return attach

    def leave(self, status: int = 0) -> None:
        """Have the console end with an exit ``status``, from any thread: as soon as the command that runs has ended."""
        with self.lock:
            self._leaves = status
            if self._open is not None:
                self._open.end_widget()
            if self._wake is not None:
                self._wake()

    def on_leave(self, function: Callable[[], object]) -> Callable[[], object]:
        """Have a ``function`` called when the console has been left, before :meth:`run` returns; it is given back.

        The last one given is called first; an error in one is shown, and does not keep the others from being called.
        """
        self._on_leave.append(function)
        return function

    def handler(self) -> Handler:
        """A handler for :mod:`logging` that shows each record with :meth:`say`."""
        from wesperon.console.log_handler import ConsoleLogHandler

        return ConsoleLogHandler(self)

    def _steps(self, *, is_async: bool) -> Interaction[int]:
        if current().asking_shell:  # a program that has no words of its own: there is nothing to offer
            return 0
        with within(self._own_context()) as context:
            return (yield from self._open_in(context, is_async=is_async))

    def _own_context(self) -> Context:
        """The context to be in force; on a driver of the caller's own, the streams of that driver belong to it."""
        context = self.context or current()
        if self.driver is None or self.driver.is_own:
            return context
        stream = DriverStream(self.driver)
        return context.derive(driver=self.driver, stdout=stream, stderr=stream)

    def _open_in(self, context: Context, *, is_async: bool) -> Interaction[int]:
        self._is_async, self._leaves = is_async, None
        options = FillOptions(None, self.driver, is_async=is_async, **{**self.program.fill_options, "timeout": None})
        driver = self.driver
        try:
            if driver is None:
                from wesperon.console import unattended

                lines = None if context.driver is not None else unattended.piped_lines(context)
                if lines is not None:
                    return (yield from unattended.run_lines(self, lines))
                driver = options.reach()
                if driver is None and self.unattended == "stay":
                    with unattended.staying(self, is_async=is_async) as wait:
                        yield from wait
                    return self._leaves or 0
                if driver is None:
                    name = self.program.name
                    context.print(f"{name}: the console needs a terminal with somebody at it", error=True)
                    return 2
            return (yield from self._open_on(driver, options))
        finally:
            self._call_on_leave(driver)

    def _call_on_leave(self, driver: Driver | None) -> None:
        while self._on_leave:
            try:
                self._on_leave.pop()()
            except Exception as error:
                self._print_fault(described(error), driver)

    def _open_on(self, driver: Driver, options: FillOptions) -> Interaction[int]:
        """Read and run lines on a driver; the status."""
        driver.lock, driver.is_ending = self.lock, False
        stray = self._stray_output(driver)
        with self.lock:
            self._open = driver
        left = interrupted = False
        told = ""
        self.history.open()
        try:
            while not left and self._leaves is None:
                try:
                    if interrupted:  # said here, where another interrupt does no harm
                        self._print_fault("Interrupted.", driver)
                        interrupted = False
                    if self.history.fault != told:
                        told = self.history.fault
                        self._print_fault(told, driver)
                    driver.options = options.for_driver()
                    left = yield from self._turn(driver)
                except KeyboardInterrupt:
                    interrupted = True
        finally:
            if stray is not None:
                driver.stray = None
                stray.close()
            with self.lock:
                self._open = None
            self.history.close()
            if self.history.fault != told:
                self._print_fault(self.history.fault, driver)
            if self.driver is None:
                driver.close()
        return self._leaves or 0

    def _stray_output(self, driver: Driver) -> StrayOutput | None:
        """What takes everything that the process prints while a line is open, if that goes to the same terminal."""
        if not (self.capture and driver.is_own) or driver.stray is not None:
            return None
        from wesperon.console.stray_output import StrayOutput

        driver.stray = stray = StrayOutput(driver)
        stray.open()
        return stray

    def _turn(self, driver: Driver) -> Interaction[bool]:
        """Read one line and run it; whether the user leaves."""
        from wesperon.forms.interaction import Asked

        outcome = yield Asked(driver, self._line(driver))
        if isinstance(outcome, Interrupted):
            return False
        if not isinstance(outcome, Answered):
            return True
        return bool(words_of(outcome.value)) and (yield from self._run(outcome.value, driver))

    def _print_fault(self, text: str, driver: Driver | None) -> None:
        """Print what is wrong on standard error, and on the terminal of the console if that is another one."""
        shown = "\n".join([visible(line) for line in text.split("\n")])
        context = current()
        is_seen = False
        try:
            context.print(shown, error=True)
            if context.stderr is not None:
                context.stderr.flush()
                is_seen = isinstance(context.stderr, DriverStream) or context.stderr.isatty()
        except (OSError, ValueError):  # closed, full, or nobody reads it
            pass
        if driver is not None and not is_seen and driver.is_terminal:
            driver.say(shown)

    def _text_of(self, text: str | Callable[[], str], driver: Driver) -> str:
        """A text, or what the program's function gives; a fault in that is shown, and the console goes on."""
        try:
            return str(text() if callable(text) else text)
        except Exception as error:
            self._print_fault(described(error), driver)
            return ""

    def _line(self, driver: Driver) -> Question:
        label = visible(self.program.name)
        above, note = self._text_of(self.prompt, driver), self._text_of(self.note, driver)
        question = "\n".join([visible(line) for line in above.split("\n")])
        prompt = Prompt(label, gutter_for([label]), question, note=visible(note))
        line = ConsoleLine(
            self._accept,
            is_whole=is_whole,
            past=self.history,
            complete=self._candidates,
            memory=self.memory,
        )
        return Question(prompt, line)

    def _accept(self, text: str) -> str:
        """The line, which joins the history; raises Complaint if a quote is not closed."""
        words = words_of(text)
        self._mark = None
        if text.strip() and not self._is_private(text, words or text.strip("# \t\n").split()):
            self._mark = self.history.add(text.rstrip())
        return text

    def _is_private(self, text: str, words: list[str]) -> bool:
        """Whether a line is to be forgotten: a secret may be in it, or the program says so."""
        try:
            if self.private is not None and self.private(text):
                return True
        except Exception:
            return True  # in doubt, a line is not kept
        try:
            call = self.program.walk(words)
        except Problems:
            return self.program.has_secrets and len(words) > 1
        except Exception:  # a module that does not load
            return False
        if len(words) == len(call.names):
            return False
        own = call.command._slots if call.command else {}
        if any(slot.secret for slot in own.values()):
            return True
        slots = {**call.shared, **own}
        if not any(slot.secret for slot in slots.values()):
            return False
        # A secret that all commands share is in few lines; in one that is not understood it may be anywhere.
        reading = read_words(slots, words, prefixes=self.program.prefixes, command=frozenset(call.places))
        return bool(reading.problems) or any(slots[name].secret for name in reading.given)

    def _candidates(self, text: str, cursor: int) -> tuple[int, list[str]]:
        """The names that the word before the cursor may become, and where it begins."""
        start = max(text.rfind(blank, 0, cursor) for blank in " \t\n") + 1
        word = text[start:cursor]
        try:
            call = self.program.walk([before for before, _ in split_words(text[:start])])
        except Exception:  # no such command, an open quote, or a module that does not load
            return start, []
        if word.startswith("-"):
            slots = {**call.shared, **(call.command._slots if call.command else {})}
            known = [f"--{slot.word}" for slot in slots.values()]
        elif call.command is None:
            own = BUILTIN_COMMANDS if not call.names else {}
            known = sorted({*call.groups[-1].members, *own})
        else:
            known = []
        return start, [name for name in known if name.startswith(word.lower())]

    def _run(self, text: str, driver: Driver | None) -> Interaction[bool]:
        """Run one line; whether it leaves the console."""
        words = words_of(text)
        own = words[0].lower() if words[0].lower() not in self.program.members else ""
        if own == "exit":
            return self._exit(words, text, driver)
        if own == "help":
            try:
                self._help()
            except (OSError, ValueError) as error:
                self._print_fault(described(error), driver)
            self.history.finish(self._mark, 0)
            return False
        mark, status, context = self._mark, 1, current()
        try:
            options = FillOptions(None, driver, is_async=self._is_async, **self.program.fill_options)
            listeners = options.listening = self._listeners
            listeners.is_async, listeners.line, listeners.words = self._is_async, text, tuple(words)
            status = yield from self.program._steps(words, options)
        except Problems as problems:
            status = 2
            if not (self._is_unknown(words) and (yield from self._listeners.tell((), None))[0]):
                self._print_fault(self._report(problems, text, driver), driver)
            else:
                status = 0
        except Refusal as refusal:
            status = refusal.status
            self._print_fault(str(refusal.message), driver)
        except SystemExit as ended:  # a command ends itself with it, not the console
            status = ended.code if isinstance(ended.code, int) else int(ended.code is not None)
            if status and not isinstance(ended.code, int):
                self._print_fault(str(ended.code), driver)
        except Exception as error:
            self._print_fault(described(error), driver)
        finally:
            self._status = status
            self.history.finish(mark, status)
        try:
            context.flush()
        except (OSError, ValueError) as error:
            self._print_fault(described(error), driver)
        stream = context.stdout
        if isinstance(stream, DriverStream):
            stream.end_line()
        return False

    def _is_unknown(self, words: Sequence[str]) -> bool:
        """Whether a line names no command."""
        try:
            return self.program.walk(words).command is None
        except Exception:
            return True

    def _exit(self, words: Sequence[str], text: str, driver: Driver | None) -> bool:
        """Leave with the status that is said; whether that can be."""
        wrong = [at for at, word in enumerate(words) if at > 1 or (at and word not in STATUSES)]
        if wrong:
            self._status = 2
            reason = tell("exit takes one status, a whole number from 0 to 255")
            problem = Problem(reason, None, WORDS, words[wrong[0]], words=tuple(wrong))
            self._print_fault(self._report(Problems([problem], words), text, driver), driver)
        else:
            self._leaves = int(words[1]) if len(words) > 1 else 0
            self._status = 0
        self.history.finish(self._mark, self._status)
        return self._leaves is not None

    def _report(self, problems: Problems, text: str, driver: Driver | None) -> str:
        """What is wrong with a line: carets under its words where it is in one row, and the reasons."""
        from wesperon.output.report import carets, reasons, report

        if driver is None:
            from wesperon.output.help import page_columns

            return report(problems, [], page_columns())
        label, columns = visible(self.program.name), driver.size()[0]
        where = field_area(gutter_for([label]), columns)
        if not is_plain(text) or len(text) > where.width:
            return report(problems, [], columns)
        words = split_words(text)
        ends = [start for _, start in words[1:]] + [len(text) + 1]
        spans = [(words[at][1], len(text[: ends[at]].rstrip())) for problem in problems for at in problem.words]
        marks = " " * where.left + carets(spans)
        gutter = 0 if where.stacked else where.left - BETWEEN
        return "\n".join([*([marks] if marks.strip() else []), *reasons(problems, columns - 1, gutter)])

    def _help(self) -> None:
        from wesperon.output.help import page_columns
        from wesperon.output.style import rendered
        from wesperon.screen.table import entries

        known = {**BUILTIN_COMMANDS, **self.program.summaries()}
        current().print(rendered(entries([(name, visible(text)) for name, text in known.items()], page_columns())))
