"""A console while it is open, as its parts and its commands see it: who runs what, what is said, and when it ends."""

from __future__ import annotations

from _thread import RLock

from wesperon.context import current
from wesperon.frozen import later
from wesperon.history.history_file import History, state_file
from wesperon.scope import within
from wesperon.text.escape import visible_lines
from wesperon.user_folders import preference_files
from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Protocol

    from wesperon.commands.program import Program
    from wesperon.console.entered import Entered, Joiner
    from wesperon.console.jobs import Jobs
    from wesperon.context import Context
    from wesperon.history.writing import Mark
    from wesperon.terminal import preferences
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction

    class Lines(Protocol):
        """What the lines of a console mean, and running them."""

        #: Whether a file of such lines may begin with values that it takes.
        takes_values: bool

        @property
        def builtins(self) -> Program:
            """The console's own commands."""

        def owner(self, words: Sequence[str]) -> Program:
            """Return the program that a line is for."""

        def is_empty(self, text: str) -> bool:
            """Return True if a line does nothing; raises Complaint if it cannot be read."""

        def joiner(self) -> Joiner:
            """Return what puts rows together to lines."""

        def entered(self, text: str, fill: Callable[[str], str] | None = None) -> Entered:
            """Return a line with its words, which ``fill`` may change; raises Complaint."""

        def run(self, text: str, driver: Driver | None) -> Interaction[int]:
            """Run a line that was typed; its status."""

        def run_line(self, line: Entered, driver: Driver | None) -> Interaction[int]:
            """Run a line; its status. Whatever goes wrong in it is shown, but for an interrupt."""
else:
    preferences = later("wesperon.terminal.preferences")


def opened(wanted: bool | str, name: str) -> History:
    """Return the history of the program of a name: a path, True for a file of its own, False for memory alone.

    The user may prefer limits, and one history for all programs.
    """
    if not wanted:
        return History(None)
    files = preference_files(name)
    held = preferences.preferences_of(files).values if files else {}
    limits = [int(text) if (text := held.get(limit, "all")) != "all" else None for limit in LIMITS]
    is_own = not isinstance(wanted, str)
    path = wanted if isinstance(wanted, str) else state_file(SHARED if held.get("history_shared") == "yes" else name)
    return History(path, owns_folder=is_own, entries=limits[0], days=limits[1])


#: The preferences that limit a history: how many entries, how many days.
LIMITS = ("history_entries", "history_days")
#: The folder of the history that all programs share, if the user prefers that.
SHARED = "wesperon"


class OpenConsole:
    """What a console knows while it is open.

    ``program`` has its commands, ``label`` is beside its lines, ``history`` is where they are kept: a path, True for a
    file of the program's own, False for memory alone; ``context`` is the one to be in force, None the one that is.
    """

    #: What its lines mean.
    lines: Lines

    def __init__(
        self, program: Program, *, name: str | Callable[[], str], history: bool | str, context: Context | None
    ) -> None:
        self.program = program
        self.context = context
        self.lock = RLock()
        self.label = name
        #: What the next line begins with: what was put together on the page of the history.
        self.next_text = ""
        #: The label of the line that was read last.
        self.name = name if name and isinstance(name, str) else program.name
        self._wanted = history
        self._history: History | None = None
        #: The context that it was opened in last.
        self.around: Context | None = None
        #: The driver while the console is open on it.
        self.driver_in_use: Driver | None = None
        self.is_async = False
        #: How candidates are shown, and whether a line may say where its output goes.
        self.suggest_as, self.output_files = "", False
        #: The commands that run in the background; None if none may.
        self.jobs: Jobs | None = None
        #: How many lines run now: one, and those of the files that it runs.
        self.running = 0
        #: The exit status of the last line, and how many seconds its command has taken.
        self.status, self.took = 0, 0.0
        #: Where the line that was accepted last is in the history.
        self.mark: Mark | None = None
        #: The status to leave with, once that is wanted; what wakes who waits for that.
        self.leaves: int | None = None
        self.wake: Callable[[], object] | None = None

    @property
    def history(self) -> History:
        """The lines that were entered, in this run and before."""
        if self._history is None:
            wanted = self._wanted
            self._history = opened(wanted, self.program.name)
        return self._history

    def say(self, text: str) -> None:
        """Show the lines of ``text`` above the one that is being typed, which stays as it is; from any thread.

        Characters that would act on the terminal appear in their visible form. If the console is not open, the text
        goes to standard output.
        """
        lines = visible_lines(str(text))
        with self.lock:
            if self.driver_in_use is not None:
                self.driver_in_use.say(lines)
                return
        try:
            with within(self.context or self.around or current()) as context:
                context.print(lines)
        except (OSError, ValueError):  # closed, full, or nobody reads it: no fault of the worker that says it
            pass

    def leave(self, status: int = 0) -> None:
        """End the console with an exit ``status``, from any thread, as soon as the command that runs has ended.

        Before it is opened, that has it end as soon as it is.
        """
        if not isinstance(status, int):
            raise DeclarationError(f"leave() needs an exit status, a whole number, got {status!r}")
        with self.lock:
            self.leaves = status
            if self.driver_in_use is not None:
                self.driver_in_use.end_widget()
            if self.wake is not None:
                self.wake()

    def finish(self, mark: Mark | None, status: int) -> None:
        """Note the ``status`` of the line that has ended, and in the history at its ``mark``."""
        self.status = status
        self.history.finish(mark, status)
