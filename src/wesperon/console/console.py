"""The console: reads lines, and runs the command that each one names, until the user leaves."""

from __future__ import annotations

import sys

from wesperon.core import Complaint
from wesperon.core.problems import Problems, Refusal
from wesperon.core.quoting import split_line
from wesperon.core.visible import is_plain, visible
from wesperon.editing.editor import Memory
from wesperon.editing.past import Listed
from wesperon.screen.layout import BETWEEN, gutter_for, place
from wesperon.widgets.line import Line
from wesperon.widgets.widget import Answered, Interrupted, Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.commands.program import Program
    from wesperon.terminal.driver import Driver

#: What the console itself knows, unless the program has a command of that name.
OWN = {"help": "list the commands", "exit": "leave the console"}


class ConsoleLine(Line):
    """The line of a console."""

    FOOT = "Enter: run   Tab: complete   Up: earlier lines   Ctrl-D: leave"


class Console:
    """A prompt that stays open, over the commands of a program.

    Lines are split into words by the quoting rules of the POSIX shell; a command whose values are missing asks for
    them.
    ``driver`` runs the prompt and the questions; ``None`` means the controlling terminal.
    """

    def __init__(self, program: Program, *, driver: Driver | None = None) -> None:
        self.program = program
        self.driver = driver
        self.history: list[str] = []
        self.memory = Memory()

    def run(self) -> int:
        """Read and run lines until ``exit`` or the end of input; the exit status, 0.

        Where there is no terminal, or nobody at it, this is said on standard error, and the status is 2.
        """
        driver = self.driver
        if driver is None:
            from wesperon.terminal.blocking import reach

            driver = reach()
        if driver is None:
            print(f"{self.program.name}: the console needs a terminal with somebody at it", file=sys.stderr)
            return 2
        left = interrupted = False
        try:
            while not left:
                try:
                    if interrupted:  # said here, where another interrupt does no harm
                        print("Interrupted.", file=sys.stderr)
                        interrupted = False
                    left = self._turn(driver)
                except KeyboardInterrupt:
                    interrupted = True
        finally:
            if self.driver is None:
                driver.close()
        return 0

    def _turn(self, driver: Driver) -> bool:
        """Read one line and run it; whether the user leaves."""
        outcome = driver.run(self._line())
        if isinstance(outcome, Interrupted):
            return False
        if not isinstance(outcome, Answered):
            return True
        return bool(outcome.value.strip()) and self._run(outcome.value, driver)

    def _line(self) -> Line:
        label = visible(self.program.name)
        prompt = Prompt(label, gutter_for([label]))
        past = Listed(self.history)
        return ConsoleLine(prompt, self._accept, past=past, complete=self._candidates, memory=self.memory)

    def _accept(self, text: str) -> str:
        """The line, which joins the history; raises Complaint where a quote is not closed."""
        split_line(text)
        line = text.strip()
        if line and self.history[-1:] != [line]:
            self.history.append(line)
        return text

    def _candidates(self, text: str, cursor: int) -> tuple[int, list[str]]:
        """The names that the word before the cursor may become, and where it begins."""
        start = max(text.rfind(blank, 0, cursor) for blank in " \t\n") + 1
        word = text[start:cursor]
        try:
            call = self.program.walk([before for before, _ in split_line(text[:start])])
        except (Problems, Complaint):
            return start, []
        if word.startswith("-"):
            slots = {**call.shared, **(call.command._slots if call.command else {})}
            known = [f"--{slot.word}" for slot in slots.values()]
        elif call.command is None:
            own = OWN if not call.names else {}
            known = sorted({*call.branches[-1].members, *own})
        else:
            known = []
        return start, [name for name in known if name.startswith(word.lower())]

    def _run(self, text: str, driver: Driver) -> bool:
        """Run one line; whether it leaves the console."""
        words = [word for word, _ in split_line(text)]
        own = words[0].lower() if words[0].lower() not in self.program.members else ""
        if own == "exit":
            return True
        if own == "help":
            self._help()
            return False
        try:
            self.program.call(words, driver)
        except Problems as problems:
            print(self._report(problems, text, driver.size()[0]), file=sys.stderr)
        except Refusal as refusal:
            print(visible(refusal.message), file=sys.stderr)
        except Exception as error:
            print(visible(f"{type(error).__name__}: {error}"), file=sys.stderr)
        sys.stdout.flush()
        return False

    def _report(self, problems: Problems, text: str, columns: int) -> str:
        """What is wrong with a line: carets under its words where it stands in one row, and the reasons."""
        from wesperon.pages.report import reasons, report

        label = visible(self.program.name)
        where = place(gutter_for([label]), columns)
        if not is_plain(text) or len(text) > where.width:
            return report(problems, [], columns)
        words = split_line(text)
        ends = [start for _, start in words[1:]] + [len(text) + 1]
        carets = [" "] * len(text)
        for problem in problems:
            for at in problem.words:
                start, end = words[at][1], len(text[: ends[at]].rstrip())
                carets[start:end] = "^" * (end - start)
        marks = " " * where.left + "".join(carets).rstrip()
        gutter = 0 if where.stacked else where.left - BETWEEN
        return "\n".join([*([marks] if marks.strip() else []), *reasons(problems, columns - 1, gutter)])

    def _help(self) -> None:
        from wesperon.pages.help import page_columns, table

        print("\n".join(table(list({**OWN, **self.program.summaries()}.items()), page_columns())))
