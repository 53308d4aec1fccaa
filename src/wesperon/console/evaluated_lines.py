"""The lines of a console over a language of the program's own: read, evaluated, and what came of it printed.

Lines that begin with a sign are commands, since a bare word belongs to the language. If an evaluation says where in the
text it failed, the text comes back with the cursor there.
"""

from __future__ import annotations

from wesperon.console.command_lines import CommandLines
from wesperon.console.entered import Entered, Joiner, is_whole, words_of
from wesperon.console.faults import placed, print_fault, under_field
from wesperon.context import current
from wesperon.output.exit_status import described
from wesperon.paging import long_output
from wesperon.system.interrupts import interruptible
from wesperon.terminal.interaction import call_interruptibly
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.values.candidate import Candidate
from wesperon.values.problems import Refusal
from wesperon.values.suggestions import note_of, text_of
from wesperon.widgets.several_lines import INDENT, SeveralLines

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.console.open_console import OpenConsole
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.widgets.line import Line

    #: Names, or names with notes, as suggestions are.
    Names = Sequence[str | tuple[str, str]] | Mapping[str, str]
    #: What a text may become at an offset: where what is completed begins, and the names; or the names alone.
    Complete = Callable[[str, int], tuple[int, Names] | Names]


class EvaluatedLine(SeveralLines):
    """A line of a language: Enter evaluates it, or adds a line if it is not whole."""

    STARTS_AS_ONE = True
    FOOT = "Enter: evaluate   Alt-Enter: add a line   Up: earlier   Ctrl-R: search   Ctrl-D: leave"
    FOOT_IN_MODAL = "Enter: evaluate   Alt-Enter: add a line   Up: earlier   Escape /: search   Ctrl-D: leave"

    #: The text that the language was asked about last, and whether it is whole.
    asked_about: tuple[str, bool] = ("", True)
    #: Called with the first change of a text that came back.
    on_change: Callable[[], object] | None = None

    def changed(self) -> None:
        """Forget what was said about the text before; it is said above."""
        super().changed()
        on_change, self.on_change = self.on_change, None
        if on_change is not None:
            on_change()

    def foot(self) -> str:
        """Return what the keys do."""
        if self.editor.finder is not None:
            return super().foot()
        text = self.text
        if self.is_whole is not None and text != self.asked_about[0]:
            # Once for each text: a language that prints something has the line drawn again.
            self.asked_about = (text, not text or bool(self.is_whole(text)))
        if not self.takes_commands and not self.asked_about[1]:
            return tell("Enter: add a line   Alt-Enter: evaluate   Ctrl-C: drop it")
        return self.usual_foot()

    def echo(self) -> str:
        """See ``Widget``: never, since the foot says whether a text is whole, which the language says of every text."""
        return ""


class PythonLine(EvaluatedLine):
    """A line of Python: after a colon the next line is indented further."""

    def new_line(self) -> None:
        """Add a line, indented like the one before it, or further after a colon."""
        before = self.draft.text[: self.draft.cursor].rstrip(" \t")
        super().new_line()
        if before.endswith(":"):
            self.editor.put(" " * INDENT)


class Language:
    """A language of the program's own.

    ``evaluate`` gives what a text comes to, ``whole`` says whether nothing of it is still to come, ``complete`` gives
    where the text begins that is completed at an offset, and what it may become; ``sign`` is before a command.
    """

    def __init__(
        self,
        evaluate: Callable[[str], object],
        *,
        syntax: Any = None,
        whole: Callable[[str], object] | None = None,
        complete: Complete | None = None,
        sign: str = ":",
    ) -> None:
        self.evaluate = evaluate
        self.syntax = syntax
        self.whole = whole
        self.complete = complete
        self.sign = sign


class EvaluatedLines(CommandLines):
    """What the lines of a ``console`` mean in a ``language``."""

    takes_values = False

    def __init__(self, console: OpenConsole, language: Language) -> None:
        super().__init__(console)
        self.language = language
        #: The text that comes back into the next line, with what is wrong with it.
        self.returned: tuple[str, Complaint] | None = None
        #: What the open line shows to be wrong with it.
        self.reason = ""

    def command_of(self, text: str) -> str | None:
        """Return the command after the sign; None if the text is in the language."""
        bare = text.lstrip()
        return bare.removeprefix(self.language.sign) if bare.startswith(self.language.sign) else None

    def line(self, accept: Callable[[str], str], **settings: Any) -> Line:
        """Return the widget that asks for a text; one that failed is in it."""
        text, complaint = self.returned or (None, None)
        self.returned = None
        kind = PythonLine if self.language.syntax == "python" else EvaluatedLine
        line = kind(
            accept,
            is_whole=self.is_whole,
            complete=self.candidates,
            syntax=self.language.syntax,
            default=text,
            complaint=complaint,
            **settings,
        )
        line.editor.suggest_as, line.editor.ending = self.console.suggest_as, ""
        self.reason = complaint.reason if complaint is not None else ""
        line.on_change = self.line_dropped
        return line

    def line_dropped(self) -> None:
        """Print what is wrong with the text that came back, now that no line shows it any more."""
        reason, self.reason = self.reason, ""
        driver = self.console.driver_in_use
        if reason and driver is not None:
            print_fault(under_field(reason, driver, self.console.name), driver)

    def is_empty(self, text: str) -> bool:
        """Return True if there is nothing to evaluate; raises Complaint if a quote of a command is not closed."""
        command = self.command_of(text)
        return not (text.strip() if command is None else words_of(command))

    def is_whole(self, text: str) -> bool:
        """Return True if nothing of a text is still to come; a fault of the language's own function means yes."""
        command = self.command_of(text)
        if command is not None:
            return is_whole(command)
        try:
            return self.language.whole is None or bool(self.language.whole(text))
        except Exception:  # the language fails at this text: evaluating it will say how
            return True

    def is_private(self, text: str) -> bool:
        """Return True if a secret may be in a command."""
        command = self.command_of(text)
        return command is not None and super().is_private(command)

    def candidates(self, text: str, cursor: int) -> tuple[int, list[Candidate]]:
        """Return what the text before the cursor may become, and where it begins."""
        command = self.command_of(text)
        if command is not None:
            before = len(text) - len(command)
            start, known = super().candidates(command, cursor - before)
            return start + before, known
        if self.language.complete is None:
            return cursor, []
        try:
            found: Any = self.language.complete(text, cursor)
            if not (isinstance(found, tuple) and len(found) == 2 and isinstance(found[0], int)):
                found = _word_start(text, cursor), found  # names alone: for the word before the cursor
            names = found[1].items() if hasattr(type(found[1]), "keys") else found[1]
            return max(min(found[0], cursor), 0), [Candidate(text_of(one), note_of(one)) for one in names]
        except Exception:  # a key never costs the text
            return cursor, []

    def joiner(self) -> Joiner:
        """Return what puts rows together to texts, as the language says."""
        return _LanguageJoiner(self.is_whole)

    def entered(self, text: str, fill: Callable[[str], str] | None = None) -> Entered:
        """Return a text, or a command with its words; raises Complaint."""
        command = self.command_of(text)
        if command is None:
            return Entered(text, [text] if text.strip() else [])
        return Entered(text, words_of(command))

    @interruptible
    def run_line(self, line: Entered, driver: Driver | None) -> Interaction[int]:
        """Run a command, or evaluate a text; the status."""
        if self.command_of(line.text) is not None:
            return (yield from super().run_line(line, driver))
        status = 1
        self.console.running += 1
        try:
            result = yield from self._evaluated(line.text)
            if result is not None:
                yield from long_output.show(result, self.console.program.name, is_async=self.console.is_async)
            current().flush()
            status = 0
        except SystemExit:
            raise
        except Exception as error:
            self._failed(error, line, driver)
        finally:
            self.console.running -= 1
            self.console.finish(line.mark, status)
        return status

    def _evaluated(self, text: str) -> Interaction[Any]:
        evaluate = self.language.evaluate
        result: Any = call_interruptibly(lambda: evaluate(text)) if self.console.is_async else evaluate(text)
        return (yield result) if hasattr(result, "__await__") else result

    def _failed(self, error: Exception, line: Entered, driver: Driver | None) -> None:
        """Bring the text back with the cursor at the fault; or print it, with its place if that is known."""
        if isinstance(error, Refusal):
            print_fault(placed(line.place, error.message), driver)
            return
        at = position_of(error, line.text)
        said = error.msg if isinstance(error, SyntaxError) else str(error) if isinstance(error, Complaint) else ""
        reason = said or described(error)
        if driver is not None and not line.place and (at is not None or isinstance(error, Complaint)):
            self.returned = (line.text, Complaint(reason, at))
            return
        if at is None:
            print_fault(placed(line.place, reason), driver)
            return
        begin = line.text.rfind("\n", 0, at) + 1
        text = line.text[begin:].partition("\n")[0]
        print_fault(placed(line.place, "\n".join([text, " " * (at - begin) + "^", reason])), driver)


class _LanguageJoiner(Joiner):
    """Puts rows together until a text is whole."""

    def __init__(self, is_whole: Callable[[str], bool]) -> None:
        super().__init__()
        self.is_whole = is_whole

    def push(self, row: str) -> str | None:
        """Take a row; the text that it ends, if it does."""
        self.parts.append(row)
        return self.end() if self.is_whole("\n".join(self.parts)) else None


def _word_start(text: str, cursor: int) -> int:
    """Return where the letters, digits and ``_`` before an offset begin."""
    start = cursor
    while start > 0 and (text[start - 1].isalnum() or text[start - 1] == "_"):
        start -= 1
    return start


def position_of(error: BaseException, text: str) -> int | None:
    """Return the offset at fault in a text, by ``position`` of an error, or by its ``lineno`` and ``offset``."""
    position = getattr(error, "position", None)
    if isinstance(position, int):
        return max(min(position, len(text)), 0)
    line = getattr(error, "lineno", None)
    # SyntaxError has ``offset``, errors of parsers of JSON and TOML have ``colno``; both count from 1.
    column = getattr(error, "offset", getattr(error, "colno", None))
    if not isinstance(line, int):
        return None
    rows = text.split("\n")
    at = max(min(line, len(rows)), 1) - 1
    inside = max(min(column if isinstance(column, int) else 1, len(rows[at]) + 1), 1) - 1
    return sum(len(row) + 1 for row in rows[:at]) + inside
