"""The lines of a console over the commands of a program: what they mean, and running them.

A line is split into words by the quoting rules of the POSIX shell. The first words name a command of the program or, if
the program has none of that name, one of the console's own (``builtin_commands``).
"""

from __future__ import annotations

from wesperon.argv import read_words
from wesperon.argv.option_words import OptionNames
from wesperon.commands.listeners import Listeners
from wesperon.commands.program import steps as steps_of
from wesperon.completion.candidates import matching
from wesperon.console.builtin_commands import ARGUMENTS, builtin_program, completed, has_secret, index_of_file
from wesperon.console.console_line import ConsoleLine
from wesperon.console.driver_stream import DriverStream
from wesperon.console.entered import Entered, Joiner, is_whole, words_of
from wesperon.console.faults import placed, print_fault, report_alone, report_under
from wesperon.console.line_guide import LineGuide, word_at, written
from wesperon.context import current
from wesperon.forms.filling import FillOptions
from wesperon.frozen import later
from wesperon.output.exit_status import described
from wesperon.system.interrupts import interruptible
from wesperon.text.hushing import MASK
from wesperon.text.messages import tell
from wesperon.text.quoting import join
from wesperon.values import Complaint
from wesperon.values.candidate import Candidate
from wesperon.values.problems import Problems, Refusal
from wesperon.values.provenance import provenance_of
from wesperon.values.records import slots_of
from wesperon.values.words import split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Sequence
    from typing import Any

    from wesperon.commands import listing, tree_secrets
    from wesperon.commands.listeners import Hearing
    from wesperon.commands.program import Program
    from wesperon.console import output_file
    from wesperon.console.jobs import Jobs
    from wesperon.console.open_console import OpenConsole
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.widgets.line import Line
else:
    listing = later("wesperon.commands.listing")
    tree_secrets = later("wesperon.commands.tree_secrets")
    output_file = later("wesperon.console.output_file")


#: Signs that separate commands elsewhere.
SEPARATORS = dict.fromkeys(map(ord, ";&|()"), " ")


class CommandLines:
    """What the lines of a ``console`` mean: commands of its program, and the console's own."""

    #: Whether a file of such lines may begin with values that it takes.
    takes_values = True

    def __init__(self, console: OpenConsole) -> None:
        self.console = console
        self.program: Program = console.program
        self._own: Program | None = None
        self.listeners = Listeners(lambda error: print_fault(described(error), console.driver_in_use))

    @property
    def builtins(self) -> Program:
        """The console's own commands, in the language of the context in which they are wanted first."""
        if self._own is None:
            self._own = builtin_program(self.console)
        return self._own

    # The line ------------------------------------------------------------------------------------------------------

    def line(self, accept: Callable[[str], str], **settings: Any) -> Line:
        """Return the widget that asks for a line."""
        line = ConsoleLine(accept, LineGuide(self.owner), is_whole=is_whole, complete=self.candidates, **settings)
        line.editor.suggest_as = self.console.suggest_as
        return line

    def line_dropped(self) -> None:
        """Take note that a line was left without being accepted."""

    def is_empty(self, text: str) -> bool:
        """Return True if a text does nothing; raises Complaint if it cannot be read."""
        entered = [self.entered(line) for line in self.several(text)]  # each of them is read
        return not any(line.words for line in entered)

    def several(self, text: str) -> list[str]:
        """Return the lines of a text that was entered at once: an open quote or a backslash goes on with the next."""
        if "\n" not in text:
            return [text]
        joiner = self.joiner()
        lines = [line for row in text.split("\n") if (line := joiner.push(row)) is not None]
        return [*lines, rest] if (rest := joiner.end()) else lines

    def joiner(self) -> Joiner:
        """Return a joiner, which joins physical rows into command lines."""
        return Joiner()

    def entered(self, text: str, fill: Callable[[str], str] | None = None) -> Entered:
        """Return a line with its words, which ``fill`` may change; raises Complaint."""
        words, in_background, output = words_of(text), False, None
        if len(words) > 1 and words[-1] == "&" and text.rstrip().endswith("&") and self.console.jobs is not None:
            text, in_background = text.rstrip()[:-1].rstrip(), True
            words = words_of(text)
        if self.console.output_files and words:
            text, output = output_file.output_of(text, split_words(text))
            words = words_of(text)
        made = Entered(text, words if fill is None else [fill(word) for word in words])
        made.in_background, made.output = in_background, output
        if output is not None and fill is not None:
            output.path = fill(output.path)
        return made

    def is_private(self, text: str) -> bool:
        """Return True if a secret may be in a line."""
        try:
            words = self.entered(text).words
        except Complaint:
            words = words_of(text)
        words = words or text.strip("# \t\n").split()
        return any(self._may_hold_secret(part) for part in self._parts(words))

    def _parts(self, words: list[str]) -> Iterator[list[str]]:
        """Yield the line, and what in it may be one by itself, whatever comes before.

        That is what follows a sign that separates commands elsewhere, or a command of the console, and what begins with
        a command that takes a secret.
        """
        yield words
        cut = [part for word in words for part in word.translate(SEPARATORS).split(" ")]
        names = tree_secrets.commands_with_secrets(self.program)
        for at, word in enumerate(cut):
            if word and at and (not cut[at - 1] or word.lower() in names):
                yield [one for one in cut[at:] if one]

    def _may_hold_secret(self, words: list[str]) -> bool:
        """Return True if a secret may be in a line of these words."""
        program = self.program
        if self.owner(words) is self.builtins:
            own: Any = self.builtins.members[words[0].lower()].loaded
            known = slots_of(own)
            return has_secret(words) or self._names_secret(words, OptionNames(known))
        try:
            call = program.invocation(words, inside=True)
        except Problems:
            return tree_secrets.has_secrets(program) and len(words) > 1
        except Exception:  # a module that does not load
            return False
        if len(words) == len(call.names):
            return False
        own = slots_of(call.command) if call.command else {}
        if any(slot.secret for slot in own.values()):
            return True
        slots = {**call.shared, **own}
        # A secret that all commands share is in few lines; in one that is not understood it may be anywhere, and one of
        # another command may be where its name is.
        reading = read_words(slots, words, prefixes=program.prefixes, command=frozenset(call.indices))
        if reading.problems and (reading.hides or self._names_secret(words, OptionNames(slots, program.prefixes))):
            return True
        return any(slots[name].secret for name in reading.given)

    def _names_secret(self, words: list[str], names: OptionNames) -> bool:
        """Return True if a name in the words is not known here, and may be that of a secret of another command."""
        secrets = tree_secrets.secret_names(self.program)
        given = [word[2:].partition("=")[0] for word in words if word[:2] == "--" and not names.is_declared(word)]
        if secrets is None:
            return bool(given)
        return any(name.startswith(one) or one.startswith(name) for name in secrets for one in given if one)

    def candidates(self, text: str, cursor: int) -> tuple[int, list[Candidate]]:
        """Return what the word at the cursor may become, as it is written in a line, and where it begins."""
        before, word, start, _ = word_at(text, cursor)
        try:
            found = self._candidates(before, word)
        except Exception:  # a module that does not load, or a function of the program: a key never costs the text
            return start, []
        return start, written(found, text[start:cursor])

    def _candidates(self, before: list[str], word: str) -> list[Candidate]:
        """Return the same as texts, by the words before."""
        owner = self.owner(before)
        if owner is self.builtins:
            return completed(self.program, self.builtins, before, word)
        found = owner.candidates(before, word, inside=True)
        if not before:
            own = listing.summaries(self.builtins).items()
            others = [Candidate(name, text) for name, text in own if not owner.named(name, inside=True)]
            found = [*found, *matching(others, word)]
        return found

    # Running -------------------------------------------------------------------------------------------------------

    def owner(self, words: Sequence[str]) -> Program:
        """Return the program that a line is for: the console's own commands, unless it has one of that name."""
        name = words[0].lower() if words else ""
        is_own = name in self.builtins.members and not self.program.named(name, inside=True)
        return self.builtins if is_own else self.program

    def run(self, text: str, driver: Driver | None) -> Interaction[int]:
        """Run what was typed, line by line up to one that fails; the status."""
        lines = [line for line in map(self.entered, self.several(text)) if line.words]
        self.console.took, status = 0.0, 0
        for number, line in enumerate(lines, 1):
            if number == len(lines):  # the entry ends as its last line does
                line.mark = self.console.mark
            if len(lines) > 1:  # what is wrong is not right below it
                line.place = tell("line {number}", number=number)
            status = yield from self.run_line(line, driver)
            if status:
                self.console.finish(self.console.mark if line.mark is None else None, status)
                break
        return status

    @interruptible
    def run_line(self, line: Entered, driver: Driver | None) -> Interaction[int]:
        """Run a line; its status. Whatever goes wrong in it is shown, but for an interrupt."""
        status = 1
        self.console.running += 1
        try:
            status = yield from self._guarded(line, driver, self._called(line, driver))
        finally:
            self.console.running -= 1
            self.console.finish(line.mark, status)
        return status

    def _guarded(self, line: Entered, driver: Driver | None, steps: Interaction[int]) -> Interaction[int]:
        """Run the steps of a line, and show what goes wrong; the status."""
        context = current()
        try:
            status = yield from steps
        except Problems as problems:
            status = 2
            is_unknown = self.owner(line.words) is self.program and self._is_unknown(line.words)
            if is_unknown and (yield from self._hearing(line).tell((), None))[0]:
                status = 0
            elif driver is None or line.place or not _is_about(problems, line.words):
                print_fault(report_alone(problems, self._shown(line), line.place, line.secrets), driver)
            else:
                print_fault(report_under(problems, line.text, driver, self.console.name), driver)
        except Refusal as refusal:
            status = refusal.status
            if refusal.message:
                print_fault(placed(line.place, refusal.message), driver)
        except SystemExit as ended:  # a command ends itself with it, not the console
            status = ended.code if isinstance(ended.code, int) else int(ended.code is not None)
            if status and not isinstance(ended.code, int):
                print_fault(placed(line.place, str(ended.code)), driver)
        except Exception as error:
            status = 1
            print_fault(placed(line.place, described(error)), driver)
        try:
            context.flush()
        except (OSError, ValueError) as error:
            print_fault(described(error), driver)
        stream = context.stdout
        if isinstance(stream, DriverStream):
            stream.end_line()
        return status

    def _shown(self, line: Entered) -> list[str]:
        """Return the words of a line as they may be repeated: what is after the command may be a secret."""
        if not self.is_private(line.text):
            return line.shown_words
        try:
            names = self.program.invocation(line.words, inside=True).names
        except Exception:
            names = line.words[:1]
        return [*names, MASK]

    def _called(self, line: Entered, driver: Driver | None) -> Interaction[int]:
        """Call the command that a line names."""
        program, is_async, jobs = self.owner(line.words), self.console.is_async, self.console.jobs
        options = FillOptions(self.program.wishes, driver=driver, is_async=is_async)
        options.around = self._timed
        words = line.words
        if program is self.program:
            options.listening = self._hearing(line)
            options.also_known = tuple(self.builtins.members)
            if jobs is not None:
                options.detaches_all = line.in_background
                options.detach = lambda record, steps: self._start(jobs, line, record, steps)
        else:
            options.resume = False
            if words[0].lower() == "run":  # what is after the name of the file is the file's
                first = index_of_file(words)
                words, arguments = words[: first + 1], words[first + 1 :]
                ARGUMENTS.set(arguments)
        steps = steps_of(program, words, options)
        return (yield from steps if line.output is None else line.output.around(steps))

    def _timed(self, steps: Interaction[int]) -> Interaction[int]:
        """Run the steps of a command, and note how long they take."""
        clock = current().clock
        begin = clock.monotonic()
        try:
            return (yield from steps)
        finally:
            self.console.took = clock.monotonic() - begin

    def _start(self, jobs: Jobs, line: Entered, record: Any, steps: Callable[[], Interaction[int]]) -> None:
        """Run a command in the background."""
        hides = line.secrets or self.is_private(line.text)
        shown = f"{join(provenance_of(record).names)} {MASK}" if hides else join(line.words)
        output = line.output

        def run() -> Interaction[int]:
            return steps() if output is None else output.later(steps())

        if output is not None:
            output.is_delayed = True
        jobs.start(shown, record.run, lambda: self._guarded(line, None, run()))

    def _hearing(self, line: Entered) -> Hearing:
        return self.listeners.of(line.text, line.words, is_async=self.console.is_async)

    def _is_unknown(self, words: Sequence[str]) -> bool:
        """Return True if a line names no command."""
        try:
            return self.program.invocation(words, inside=True).command is None
        except Exception:  # what is wrong with the line is said when it runs
            return True


def _is_about(problems: Problems, words: Sequence[str]) -> bool:
    """Return True if problems are about the words of a line, in which a secret may be masked."""
    return all(one in (word, MASK) for one, word in zip(problems.words or (), words, strict=False))
