"""The commands that every console has, unless its program has one of the same name."""

from __future__ import annotations

from contextvars import ContextVar

from wesperon.argv import is_plain_word
from wesperon.commands.command_tree import Command
from wesperon.commands.program import Program
from wesperon.completion.candidates import candidates, matching
from wesperon.context import current
from wesperon.frozen import later
from wesperon.system.interrupts import critical
from wesperon.terminal.interaction import Asked
from wesperon.text.elapsed import elapsed
from wesperon.text.escape import quoted, visible
from wesperon.text.messages import tell
from wesperon.user_folders import preference_files
from wesperon.values import Complaint
from wesperon.values.candidate import Candidate
from wesperon.values.kinds.path import WrittenPath
from wesperon.values.problems import Problems, Refusal
from wesperon.values.records import slots_of
from wesperon.values.slots import slot
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, ClassVar

    from wesperon.commands import listing, pages
    from wesperon.commands.program import Program
    from wesperon.console import command_files
    from wesperon.console.open_console import OpenConsole
    from wesperon.output import log_areas as output_log_areas
    from wesperon.output import paragraphs, results, style
    from wesperon.paging import long_output
    from wesperon.screen import table
    from wesperon.screen.frame import Row
    from wesperon.terminal import preferences
    from wesperon.terminal.interaction import Interaction
    from wesperon.widgets import history_page
else:
    listing = later("wesperon.commands.listing")
    pages = later("wesperon.commands.pages")
    command_files = later("wesperon.console.command_files")
    paragraphs = later("wesperon.output.paragraphs")
    results = later("wesperon.output.results")
    output_log_areas = later("wesperon.output.log_areas")
    long_output = later("wesperon.paging.long_output")
    style = later("wesperon.output.style")
    table = later("wesperon.screen.table")
    preferences = later("wesperon.terminal.preferences")
    history_page = later("wesperon.widgets.history_page")


class BuiltIn(Command):
    """A command of the console itself."""

    console: ClassVar[OpenConsole]


class Help(BuiltIn):
    """List the commands, or show the page of one."""

    in_steps = True
    command = slot(rest=True, help="the name of a command; all of them are listed if there is none")

    def run(self) -> Interaction[int]:
        """Print the list or the page."""
        name, is_async = self.console.program.name, self.console.is_async
        yield from long_output.say(style.rendered(self._rows()), name, is_async=is_async)
        return 0

    def _rows(self) -> list[Row]:
        """Return the list or the page; raises Refusal."""
        program, own = self.console.program, self.console.lines.builtins
        if self.command:
            owner = self.console.lines.owner(self.command)
            call = owner.invocation(self.command, inside=True)
            if len(call.names) < len(self.command):
                raise Refusal(tell("{command} has no commands of its own", command=" ".join(call.names)), 2)
            return pages.page_rows(call, inside=True)
        headings = listing.headings(program, inside=True)
        others = listing.summaries(own).items()
        headings[""] |= {name: text for name, text in others if not program.named(name, inside=True)}
        columns = paragraphs.page_columns()
        rows: list[Row] = []
        for heading, known in headings.items():
            title = [(), *paragraphs.lines(heading, columns, "title")] if heading else []
            rows += [*title, *table.entries([(name, visible(text)) for name, text in known.items()], columns)]
        return rows


class Exit(BuiltIn):
    """Leave the console."""

    status = slot(int, default=0, low=0, high=255, help="the exit status of the program")

    def run(self) -> None:
        """Leave with the status."""
        self.console.leave(self.status)


class Run(BuiltIn):
    """Run a file of commands."""

    in_steps = True
    file = slot(WrittenPath("file"), "File", help="the file of commands")
    words_ = slot(rest=True, low=0, help="for the values that the file declares, by position or by name")
    keep_going = slot(bool, default=False, help="go on after a line that fails")

    def run(self) -> Interaction[int]:
        """Run its lines."""
        words, driver = [*self.words_, *ARGUMENTS.get([])], self.console.driver_in_use
        return (yield from command_files.run_file(self.console, self.file, words, driver, keeps_going=self.keep_going))


def line_numbers(text: str) -> tuple[int, int | None]:
    """Return the first and the last line of ``12``, ``12-20``, ``12-`` (to the end) or ``-20`` (from the first)."""
    first, dash, last = text.strip().partition("-")
    if (first + last).isdecimal() and (first + last).isascii():
        return int(first or 1), int(last) if last else None if dash else int(first)
    raise Complaint(tell("{text} is not a line, such as 12, nor a range of lines, such as 12-20", text=quoted(text)))


class History(BuiltIn):
    """Show the lines that were entered, to put some together, or write them to a file of commands."""

    in_steps = True
    lines = slot(line_numbers, default=None, help="which lines: 12, 12-20, 12- or -20")
    to = slot(WrittenPath("nothing"), default=None, named_only=True, help="the file of commands to write them to")

    def run(self) -> Interaction[int]:
        """Open the page; print or write them, where lines are named or nobody can use it."""
        driver, is_page = self.console.driver_in_use, self.lines is None and self.to is None
        is_page = is_page and not command_files.RUNNING.get()
        if is_page and driver is not None and driver.is_terminal and not driver.is_plain:
            page = history_page.HistoryPage(self.console.history, write=command_files.write_entries)
            outcome = yield Asked(driver, page, driver.options)
            if isinstance(outcome, Answered):
                self.console.next_text = outcome.value.text
            return 0
        self._print()
        return 0

    def _print(self) -> None:
        """Print or write them."""
        entries = list(enumerate(self.console.history.texts(), 1))
        if self.lines is not None:
            first, last = self.lines
            entries = entries[max(first - 1, 0) : last]
        elif self.to is None:
            entries = entries[-SHOWN:]
        if self.to is not None:
            command_files.write_entries(self.to, [text for _, text in entries])
            return
        gutter = len(str(entries[-1][0])) if entries else 0
        for number, text in entries:
            head, *rows = text.split("\n")
            shown = [f"{number:>{gutter}}  {visible(head)}", *[" " * (gutter + 2) + visible(row) for row in rows]]
            current().print("\n".join(shown))


class Preferences(BuiltIn):
    """Show what you prefer (keys, theme, mouse), and change it."""

    in_steps = True

    def run(self) -> Interaction[int]:
        """Open the page; where nobody can use it, print what holds."""
        driver = self.console.driver_in_use
        if driver is None or driver.is_plain or not driver.is_terminal:
            held = preferences.preferences_of(preference_files(self.console.program.name), environ=current().environ)
            for name, value in held.values.items():
                current().print(f"{name}  {value}  ({visible(held.origins[name])})")
            return 0
        driver.apply_preferences((yield Asked(driver, driver.preferences_page(), driver.options)))
        return 0


class JobsOf(BuiltIn):
    """List the commands that run in the background."""

    name = "jobs"

    def run(self) -> Any:
        """Return those that run, with their time and their last line."""
        jobs = self.console.jobs
        running = jobs.running if jobs is not None else []
        if not running:
            return results.Told(tell("nothing runs in the background"), [])
        return [
            {
                tell("job"): job.number,
                tell("time"): elapsed(jobs.seconds(job)),
                tell("line"): job.line,
                tell("last output"): job.last,
            }
            for job in running
            if jobs is not None
        ]


class Stop(BuiltIn):
    """Stop a command that runs in the background."""

    number = slot(int, "Job", low=1, help="its number, as jobs lists it")

    def run(self) -> None:
        """Stop the job with KeyboardInterrupt."""
        assert self.console.jobs is not None
        self.console.jobs.stop(self.console.jobs.find(self.number))


class Wait(BuiltIn):
    """Wait until a command in the background has ended."""

    in_steps = True
    number = slot(int, "Job", low=1, help="its number, as jobs lists it")

    def run(self) -> Interaction[int]:
        """Wait; its status."""
        assert self.console.jobs is not None
        return (yield from self.console.jobs.wait(self.console.jobs.find(self.number)))


class Log(BuiltIn):
    """Show the areas of the log, or turn one on or off."""

    area = slot(default="", help="its name; all are shown without it")
    level = slot(default="", help="on, off, debug, info, warning, error or critical")

    def run(self) -> list[dict[str, str]] | None:
        """Show or set."""
        name = self.console.program.name
        known = output_log_areas.areas(name)
        if not self.area:
            if not known:
                current().print(tell("the log has no areas yet"))
            return [{tell("area"): area, tell("level"): level} for area, level in known.items()]
        try:
            area = output_log_areas.find_area(name, self.area)
            if self.level:
                output_log_areas.set_area(name, area, self.level, current().environ)
                return None
        except Complaint as complaint:
            raise Refusal(complaint.reason, 2) from None
        return [{tell("area"): area, tell("level"): output_log_areas.areas(name).get(area, "")}]


#: The arguments after the name of a file that is to be run.
ARGUMENTS: ContextVar[list[str]] = ContextVar("wesperon_arguments")
#: So many of the last lines are shown.
SHOWN = 20
#: In the order in which they are listed.
COMMANDS: tuple[type[BuiltIn], ...] = (Help, Exit, Run, History, Preferences)
#: Those of a console that may run commands in the background.
OF_JOBS: tuple[type[BuiltIn], ...] = (JobsOf, Stop, Wait)


@critical
def builtin_program(console: OpenConsole) -> Program:
    """Return the console's own commands, as a program without anything that the program's own commands share."""
    commands = [*COMMANDS, *(OF_JOBS if console.jobs is not None else ()), *((Log,) if console.program.log else ())]
    members: list[Any] = [_bound(command, console) for command in commands]
    return Program(console.program.name, members=members)


def _bound(command: type[BuiltIn], console: OpenConsole) -> type[BuiltIn]:
    """Return the command for one console, in the language that is in force."""
    slots: dict[str, Any] = {name: one.copied() for name, one in slots_of(command).items()}
    for one in slots.values():
        one.help, one.ask = one.help and tell(one.help), one.ask and tell(one.ask)
    return type(command.__name__, (command,), {"console": console, "__doc__": tell(command.__doc__ or ""), **slots})


def completed(program: Program, own: Program, before: list[str], word: str) -> list[Candidate]:
    """Return what a word may become in the line of one of these commands, after the words before it.

    ``program`` is the program of the console, ``own`` that of its own commands.
    """
    name = before[0].lower()
    if name == "help":
        found = program.candidates(before[1:], word, inside=True)
        return [*found, *(matching([Candidate(one) for one in own.members], word) if not before[1:] else [])]
    first = index_of_file(before)
    if name == "run" and first < len(before):
        return candidates(slots_of(command_files.CommandFile(before[first]).form), before[first + 1 :], word)
    if name == "log" and len(before) <= 2:
        known = output_log_areas.areas(program.name) if len(before) == 1 else dict.fromkeys(output_log_areas.LEVELS, "")
        return matching([Candidate(one, note) for one, note in known.items()], word)
    return own.candidates(before, word, inside=True)


def index_of_file(words: Sequence[str]) -> int:
    """Return the place of the name of the file in a line that runs one; what follows is the file's."""
    return next((at for at, word in enumerate(words) if at and is_plain_word(word)), len(words))


def has_secret(words: Sequence[str]) -> bool:
    """Return True if a line of one of these commands may hold a secret: a value of a file that takes one."""
    first = index_of_file(words)
    if words[0].lower() != "run":
        return False
    if any(word.startswith("--w") for word in words[:first]):  # values before the file that takes them
        return True
    if first + 1 >= len(words):
        return False
    try:
        return any(slot.secret for slot in slots_of(command_files.CommandFile(words[first]).form).values())
    except Problems:  # there is no such file, so nothing that takes a secret
        return False
