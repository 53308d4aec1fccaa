r"""Files of commands: one line after the other, as if typed.

    # a comment                 does nothing, like an empty line
    expose "Lantern Nebula" \    a backslash, or an open quote, goes on with the next line
        --seconds 5
    expose {target}             one word: the value of that name, never split again
    say {{target}               a brace, twice, is one

A file may begin with the values that it takes, as a set of questions in TOML has them (``[slots.target]`` and so on):
from a first line that begins with a bracket, or is a key of such a set, to the last line that is TOML. The words
after the name of the file fill them, and what is missing is asked for.

A file stops at the first line that fails, unless it is to keep going. Files may run files, to a depth of ``DEEPEST``.
"""

from __future__ import annotations

import os
import re
import stat
import tomllib
from contextvars import ContextVar

from wesperon.argv import read_words
from wesperon.console.entered import is_comment
from wesperon.console.faults import placed, print_fault
from wesperon.context import current
from wesperon.documents.faults import read_whole
from wesperon.documents.question_set import SetReader
from wesperon.files.document import BOM
from wesperon.files.private import replace_private
from wesperon.form import Form
from wesperon.forms.filling import FillOptions, steps
from wesperon.frozen import Frozen
from wesperon.output.help import help_rows
from wesperon.output.style import rendered
from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.values import Complaint, quoted
from wesperon.values.kinds.path import WrittenPath
from wesperon.values.problems import Problem, Problems
from wesperon.values.records import slots_of
from wesperon.values.secrets import secrets_of
from wesperon.values.words import line_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator, Sequence

    from wesperon.console.entered import Joiner
    from wesperon.console.open_console import OpenConsole
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction

#: A file that is not there yet.
WRITTEN = WrittenPath("nothing")
#: So many files may be open within each other.
DEEPEST = 50
#: The files that are being run in this thread and task, each as it is on disk and as it was named.
RUNNING: ContextVar[tuple[tuple[str, str], ...]] = ContextVar("wesperon_files", default=())
#: A name in braces, or a brace that is written twice.
REFERENCE = re.compile(r"\{\{|\{([^\W\d][\w-]*)\}")
#: What a file may say of its values: keys of a set of questions.
KEYS = ("name", "description", "version", "choices", "slots")
#: What that may begin with.
HEADING = re.compile(r"\s*(\[|(" + "|".join(KEYS) + r")\s*=)")
KEY = re.compile(r"""\s*([\w-]+|"[^"]*"|'[^']*')(\s*\.\s*[\w-]+)*\s*=""")
#: The most lines of one value of a file.
LONGEST_VALUE = 500


class FileLine(Frozen):
    """One line of commands, with the number of its first line in the file, from 1."""

    number: int
    text: str


class CommandFile:
    """A file of commands: the form of the values that it takes, and its lines.

    ``name`` is its path, ``text`` what is in it if that was read already; ``takes_values`` says whether it may begin
    with those that it takes. Raises Problems if it cannot be read, or if what it says of them is wrong.
    """

    def __init__(self, name: str, *, takes_values: bool = True, text: str | None = None) -> None:
        self.name = name
        text = _text(name) if text is None else text
        rows = [row.removesuffix("\r") for row in text.removeprefix(BOM).split("\n")]
        head = _head_rows(rows) if takes_values else 0
        self.form = _form_of(name, "\n".join(rows[:head])) if head else Form
        self.description = self.form.__dict__.get("__doc__") or ""
        self._rows = rows
        self._first = head

    def lines(self, joiner: Joiner) -> Iterator[FileLine]:
        """Yield the lines, of which a ``joiner`` puts the rows together."""
        begin = 0
        for number, row in enumerate(self._rows[self._first :], self._first + 1):
            begin = begin if joiner.parts else number
            text = joiner.push(row)
            if text is not None:
                yield FileLine(begin, text)
        if joiner.parts:
            yield FileLine(begin, joiner.end())


def run_file(
    console: OpenConsole, name: str, words: Sequence[str], driver: Driver | None, *, keeps_going: bool = False
) -> Interaction[int]:
    """Run the lines of a file, the ``words`` being those after its name; the status of the line that failed last.

    Raises Problems if the file cannot be run at all.
    """
    before = RUNNING.get()
    try:
        own = (os.path.realpath(name), name)
    except ValueError:  # a name that no file can have
        own = (name, name)
    chain = [shown for _, shown in before]
    if own[0] in [path for path, _ in before]:
        raise _refused(name, tell("runs itself: {chain}", chain=" > ".join([*chain, name])))
    if len(before) >= DEEPEST:
        raise _refused(name, tell("is nested too deeply: files may run each other at most {most} deep", most=DEEPEST))
    file = CommandFile(name, takes_values=console.lines.takes_values)
    reading = read_words(slots_of(file.form), list(words))
    if "help" in reading.builtin:
        current().print(rendered(help_rows(["run", name], file.description, slots_of(file.form))))
        return 0
    options = FillOptions({**console.program.wishes, "resume": False}, driver=driver, is_async=console.is_async)
    try:
        values = yield from steps(file.form, reading, options)
    except Problems as problems:
        raise _shifted(problems, ["run", name], words) from None
    RUNNING.set((*before, own))
    try:
        return (yield from _run_lines(console, file, values, driver, keeps_going=keeps_going))
    finally:
        RUNNING.set(before)


def run_text(console: OpenConsole, name: str, text: str) -> Interaction[int]:
    """Run the text of a file of commands that begins with values, as standard input may have it; the status.

    It goes on after a failing line, as standard input does. Raises Problems if a value is missing or wrong.
    """
    file = CommandFile(name, text=text)
    options = FillOptions({**console.program.wishes, "resume": False}, is_async=console.is_async)
    values = yield from steps(file.form, read_words(slots_of(file.form), []), options)
    return (yield from _run_lines(console, file, values, None, keeps_going=True))


def begins_with_values(row: str) -> bool:
    """Return True if the first row of a file says something of the values that it takes."""
    return HEADING.match(row.removeprefix(BOM)) is not None


def _run_lines(
    console: OpenConsole, file: CommandFile, values: Form, driver: Driver | None, *, keeps_going: bool
) -> Interaction[int]:
    texts = {}
    for name, slot in slots_of(values).items():
        value = values.__dict__[name]
        texts[name] = "" if value is None else line_of(slot, value)
    secrets = secrets_of(values)
    failed = 0
    for line in file.lines(console.lines.joiner()):
        place = tell("{name}, line {line}", name=file.name, line=line.number)
        try:
            entered = console.lines.entered(line.text, lambda word: _filled(word, texts))
        except Complaint as complaint:
            print_fault(placed(place, complaint.reason), driver)
            status = 2
        else:
            entered.place, entered.secrets = place, secrets
            status = (yield from console.lines.run_line(entered, driver)) if entered.words else 0
        failed = status or failed
        if console.leaves is not None:
            break
        if status and not keeps_going:
            print_fault(tell("{place}: stopped here, status {status}", place=place, status=status), driver)
            break
    return failed


def _filled(word: str, texts: dict[str, str]) -> str:
    """Return a word with the values of the names in braces; raises Complaint at one that is unknown."""

    def text(found: re.Match[str]) -> str:
        if found[1] is None:
            return "{"
        name = found[1].replace("-", "_")
        if name not in texts:
            hint = suggestion(found[1], texts)
            known = quoted(found[1])
            raise Complaint(
                tell("the file declares no value {name}{hint}; for a brace write two", name=known, hint=hint)
            )
        return texts[name]

    return REFERENCE.sub(text, word)


def write_entries(path: str, texts: list[str]) -> None:
    """Write entries to a file of commands that is not there yet; raises Complaint."""
    try:
        replace_private(WRITTEN.parse(path), "".join([escaped(text) + "\n" for text in texts]).encode())
    except OSError as error:
        raise Complaint(tell("cannot be written: {why}", why=error.strerror or type(error).__name__)) from None


def escaped(line: str) -> str:
    """Escape the braces of a line, for a file of commands."""
    return line.replace("{", "{{")


def _text(name: str) -> str:
    """Return the text of a regular file; raises Problems."""
    try:
        if not stat.S_ISREG(os.stat(name).st_mode):  # a pipe may wait for ever, and a folder has no lines
            raise _refused(name, tell("is not a regular file"))
        with open(name, "rb") as file:
            data = file.read()
    except (OSError, ValueError) as error:  # ValueError: a name that no file can have
        why = getattr(error, "strerror", None) or tell("it is not a valid file name")
        raise _refused(name, tell("cannot be read: {why}", why=why)) from None
    at = data.find(b"\0")
    if at < 0:
        try:
            return data.decode()
        except UnicodeDecodeError as error:
            at = error.start
    place = tell("{name}, line {line}", name=name, line=data.count(b"\n", 0, at) + 1)
    raise _refused(place, tell("is not text in UTF-8"))


def _head_rows(rows: Sequence[str]) -> int:
    """Return how many rows at the beginning of a file declare the values that it takes."""
    at = next((at for at, row in enumerate(rows) if row.strip() and not is_comment(row)), len(rows))
    if at == len(rows) or not HEADING.match(rows[at]):
        return 0
    end = at
    while at < len(rows):
        row = rows[at]
        if row.strip() and not is_comment(row):
            if row.lstrip().startswith("["):
                end = at + 1
            elif KEY.match(row):
                at = _value_end(rows, at)
                end = at + 1
            else:
                break
        at += 1
    return end


def _value_end(rows: Sequence[str], at: int) -> int:
    """Return the last row of the value that begins in a row: one of several rows ends where it can be parsed."""
    text = ""
    for end in range(at, min(at + LONGEST_VALUE, len(rows))):
        text += rows[end] + "\n"
        try:
            tomllib.loads(text)
        except (tomllib.TOMLDecodeError, RecursionError):
            continue
        return end
    return at


def _form_of(name: str, text: str) -> type[Form]:
    """Return the form of the values that a file takes; raises Problems with all that is wrong with them."""
    declared = read_whole(name, lambda faults: SetReader(faults, Form).read(names=KEYS), text)
    form: type[Form] = declared.form
    return form


def _refused(name: str, reason: str) -> Problems:
    return Problems([Problem(reason, None, "file", location=name)])


def _shifted(problems: Iterable[Problem], before: Sequence[str], words: Sequence[str]) -> Problems:
    """Problems with the words of a file, as problems with the line that names it."""
    moved = []
    for one in problems:
        parts = {name: getattr(one, name) for name in Problem.__annotations__}
        moved.append(Problem(**{**parts, "words": tuple(at + len(before) for at in one.words)}))
    return Problems(moved, [*before, *words])
