"""Programs: several commands under one name."""

from __future__ import annotations

import os
import sys

from wesperon.core.lean import DeclarationError
from wesperon.core.problems import Problem, Problems
from wesperon.core.records import WORDS
from wesperon.core.visible import quoted
from wesperon.sources.forms import Form, Terms, end_interrupted, mode_of
from wesperon.sources.words import NEVER, is_plain_word, read_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping, Sequence
    from typing import Any, ClassVar

    from wesperon.sources.words import Reading
    from wesperon.terminal.driver import Driver


class Command(Form):
    """A form that does something once it is filled; its docstring is its help.

    Its name is the class's in kebab-case (``QueueTarget`` is ``queue-target``), unless ``name = "..."`` stands in the
    body.
    """

    _methods: ClassVar[frozenset[str]] = frozenset({"origins", "fill", "words", "replay", "run"})

    def run(self) -> Any:
        """Do it. ``None`` is status 0, a whole number the exit status; anything else is printed."""
        raise NotImplementedError(f"{type(self).__name__} does nothing: give it a method run(self)")


def name_of(command: type[Command]) -> str:
    """The name of a command."""
    own = getattr(command, "name", None)
    return own if isinstance(own, str) else kebab(command.__name__)


def kebab(name: str) -> str:
    """A class name in kebab-case: ``QueueTarget`` is ``queue-target``."""
    made = []
    for at, char in enumerate(name.strip("_")):
        begins = char.isupper() and at > 0 and (not name[at - 1].isupper() or name[at + 1 : at + 2].islower())
        made.append("-" + char.lower() if begins and name[at - 1] != "_" else char.lower())
    return "".join(made).replace("_", "-")


def summary_of(command: type[Command]) -> str:
    """The first line of a command's docstring."""
    return (command.__dict__.get("__doc__") or "").strip().partition("\n")[0]


class Program:
    """The root of a program: its name, its version, what it is about, and its commands."""

    def __init__(
        self,
        name: str,
        version: str = "",
        about: str = "",
        members: Iterable[type[Command]] = (),
        *,
        prefixes: bool = True,
    ) -> None:
        self.name = name
        self.version = version
        self.about = about
        self.prefixes = prefixes
        self.members: dict[str, type[Command]] = {}
        for member in members:
            own = name_of(member)
            if own.lower() in self.members:
                raise DeclarationError(f"{name}: two commands are called {own}")
            self.members[own.lower()] = member

    def main(self, words: Sequence[str] | None = None) -> int:
        """Run the command that the words name; the exit status.

        ``words`` are those behind the program's name; ``None`` means those of the process. What is wrong is printed on
        standard error. Where the user stops the questions, the process ends by SIGINT.
        """
        try:
            status = self._call(sys.argv[1:] if words is None else words, None, ends_process=True)
            if sys.stdout is not None:
                sys.stdout.flush()
            return status
        except Exception as error:
            from wesperon.pages.ending import status_of

            return status_of(error, [self.name])
        except KeyboardInterrupt:
            return end_interrupted()

    def call(self, words: Sequence[str], driver: Driver | None = None) -> int:
        """Run the command that the words name; the exit status.

        Raises Problems, Refusal and KeyboardInterrupt instead of printing; ``driver`` as in :meth:`Form.fill`.
        """
        return self._call(words, driver)

    def _call(self, words: Sequence[str], driver: Driver | None, *, ends_process: bool = False) -> int:
        words = tuple(words)
        at = command_place(words)
        if at is None:
            reading = read_words({}, words)
            if "help" in reading.own or "version" in reading.own:
                print(self._page() if "help" in reading.own else self._version())
                return 0
            if reading.problems:
                raise Problems(reading.problems, words)
            name, place = self._ask_command(reading, driver), frozenset[int]()
        else:
            name, place = self.find(words[at], at, words), frozenset({at})
        return self._run(name, words, place, driver, ends_process)

    def find(self, word: str, at: int = 0, words: Sequence[str] = ()) -> str:
        """The name of the command that a word means: in any letter case, or cut to a beginning that no other has.

        Raises Problems, with the nearest names, where there is none.
        """
        folded = word.lower()
        if folded in self.members:
            return folded
        meant = [name for name in self.members if name.startswith(folded)] if self.prefixes and folded else []
        if len(meant) == 1:
            return meant[0]
        if meant:
            reason = f"{quoted(word)} may mean {' or '.join(meant)}: write more of it"
        else:
            from wesperon.core.nearest import nearest

            near = nearest(word, self.members) or list(self.members)[:6]
            kind = "nearest" if nearest(word, self.members) else "there are"
            reason = f"{quoted(word)} is no command of {self.name}; {kind}: {', '.join(near)}"
        raise Problems([Problem(reason, None, WORDS, word, words=(at,))], words or (word,))

    def summaries(self) -> Mapping[str, str]:
        """The commands with a line about each."""
        return {name: summary_of(member) for name, member in self.members.items()}

    def _run(
        self, name: str, words: Sequence[str], place: frozenset[int], driver: Driver | None, ends_process: bool
    ) -> int:
        member = self.members[name]
        reading = read_words(member._slots, words, prefixes=self.prefixes, command=place)
        if "help" in reading.own:
            from wesperon.pages.help import help_page

            print(help_page([self.name, name], member.__doc__, member._slots))
            return 0
        if "version" in reading.own:
            print(self._version())
            return 0
        record = member._filled(reading, Terms(None, driver, ends_process=ends_process))
        from wesperon.sources.replay import started

        record.__dict__["_started"] = [*started(), name]
        result = record.run()
        if result is None:
            return 0
        if isinstance(result, int) and not isinstance(result, bool):
            return result
        print(result)
        return 0

    def _ask_command(self, reading: Reading, driver: Driver | None) -> str:
        """Ask which command is wanted, as for any value that is missing."""
        from wesperon.core.choices import one_of
        from wesperon.core.slots import slot

        summaries = self.summaries()
        choice: Any = type("Choice", (Form,), {"command": slot(one_of(list(summaries), note=summaries.get))})
        mode = mode_of(None, reading, os.environ)
        try:
            return str(choice.fill([f"--asking={mode}"], driver=driver).command)
        except Problems:
            if mode != NEVER and driver is not None:
                raise
            from wesperon.pages.help import listing

            print(listing(self.name, None, summaries), file=sys.stderr)
            raise Problems([Problem("a command is missing", missing=True)], reading.words) from None

    def _page(self) -> str:
        from wesperon.pages.help import listing

        return listing(self.name, self.about, self.summaries())

    def _version(self) -> str:
        return f"{self.name} {self.version}" if self.version else f"{self.name} has no version"


def command_place(words: Sequence[str]) -> int | None:
    """The place of the word that names the command: the first that is no name and no name's value."""
    at = 0
    while at < len(words):
        if is_plain_word(words[at]):
            return at
        if words[at] == "--":
            return at + 1 if at + 1 < len(words) else None
        at += 2 if words[at] == "--asking" else 1
    return None
