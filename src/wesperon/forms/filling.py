"""Filling a form, in steps that may ask: what is left to do where the words alone do not do it.

    read      the words belong to slots                     ``argv.read_words``
    convert   their texts become values                     ``argv.fill_from_words``
    find      other sources have values for what is left    ``forms.precedence``
    ask       the user is asked for what is missing         ``forms.form_flow``
    check     the values are looked at together             ``values.together``

The root's module ``form`` does the first two by itself, as most runs of a script need no more, and goes on here.
"""

from __future__ import annotations

import os

from wesperon.argv import NEVER, fill_from_words
from wesperon.context import current
from wesperon.frozen import later
from wesperon.terminal.interaction import play, play_async
from wesperon.values import Complaint
from wesperon.values.kind import FLOAT
from wesperon.values.records import WORDS, has_secrets, keeps_last, slots_of
from wesperon.values.wishes import ALWAYS, Wishes

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any, TypeVar

    from wesperon.argv import ParsedArgs
    from wesperon.sources.files import ValuesFile
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.values.problems import Problem
    from wesperon.values.records import Record
    from wesperon.values.slots import Slot

    R = TypeVar("R", bound=Record)
    Values = dict[str, Any]

    from wesperon.argv import renaming
    from wesperon.forms import last_values, own_page, precedence
    from wesperon.output import log_areas
    from wesperon.terminal import asyncio_driver as terminal_asyncio_driver
    from wesperon.terminal import diagnostics, preferred, tty_driver
    from wesperon.values import calls, problems, secrets
else:
    Values = dict
    renaming = later("wesperon.argv.renaming")
    last_values = later("wesperon.forms.last_values")
    own_page = later("wesperon.forms.own_page")
    precedence = later("wesperon.forms.precedence")
    log_areas = later("wesperon.output.log_areas")
    diagnostics = later("wesperon.terminal.diagnostics")
    preferred = later("wesperon.terminal.preferred")
    terminal_asyncio_driver = later("wesperon.terminal.asyncio_driver")
    tty_driver = later("wesperon.terminal.tty_driver")
    calls = later("wesperon.values.calls")
    problems = later("wesperon.values.problems")
    secrets = later("wesperon.values.secrets")


class KnownValues(Values):
    """The values that are known so far, by the names of their slots; each is an attribute as well."""

    def __getattr__(self, name: str) -> Any:
        try:
            return self[name]
        except KeyError:
            raise AttributeError(f"{name} has no value yet") from None


class FillOptions(Wishes):
    """How a record is to be filled: what the program wishes, and what the call of a command or a console adds.

    ``ends_process``: the caller ends the process where the user stops the questions. ``is_async``: the questions are
    awaited inside an event loop. ``levels`` are the tables of a file that may hold values: the path of each, its slots,
    and further keys that it may have; ``None`` means one, of the form's own slots.
    """

    def __init__(
        self,
        wishes: Mapping[str, Any] | None = None,
        *,
        driver: Driver | None = None,
        is_async: bool = False,
        ends_process: bool = False,
    ) -> None:
        super().__init__(wishes)
        self.driver = self.driver or driver
        self.is_async = is_async
        self.ends_process = ends_process
        #: The name of the program whose settings file is read; None if none is.
        self.settings_of = (self.name if self.settings is True else self.settings) or None
        #: Called with the values that are known before anything is asked; it may raise Refusal.
        self.looks_at: Callable[[KnownValues], object] | None = None
        #: What was asked before the first question, labels with answers; and whether the way back leads there, which
        #: raises ``precedence.WayBack``.
        self.asked_before: Sequence[tuple[str, str]] = ()
        self.leads_back = False
        #: Whether answers that were left are taken up without an offer, since the user comes back to them.
        self.takes_up = False
        #: Whether the answers stay on the screen.
        self.leaves_record = True
        #: Who hears of the commands that are called, in a console (``commands.listeners``).
        self.listening: Any = None
        #: Runs the steps of the command, and does something before and after them.
        self.around: Callable[[Any], Any] | None = None
        #: Starts what is to run in the background: called with the command, and with what runs it.
        self.detach: Callable[[Any, Callable[[], Any]], object] | None = None
        #: Whether every command is to; else those that say so themselves.
        self.detaches_all = False
        #: Names of other commands that an unknown one may have been meant for.
        self.also_known: Sequence[str] = ()
        #: The names that commands had, by those that they have now.
        self.old_names: Mapping[str, Sequence[str]] = {}
        self.levels: Sequence[tuple[tuple[str, ...], Iterable[Slot[Any]], Iterable[str]]] | None = None
        #: The drivers that it has reached, and is to close.
        self._own: list[Driver] = []

    @classmethod
    def of(
        cls, form: type[Any], wishes: Mapping[str, Any], *, is_async: bool = False, ends_process: bool = False
    ) -> FillOptions:
        """Return what the keywords of :meth:`Form.fill` say of a ``form``."""
        name = wishes.get("name") or os.path.splitext(current().program_name)[0]
        options = cls({**wishes, "name": name}, is_async=is_async, ends_process=ends_process)
        gate = options.gate
        if gate is not None:
            options.looks_at = lambda values: gate((), form, values)
        if options.log:
            log_areas.turn_on(name, current().environ)
        return options

    def is_reviewed(self, reading: ParsedArgs, mode: str) -> bool:
        """Return True if the values are to be looked at though nothing is asked; the user may have said otherwise."""
        return self.review == ALWAYS and mode != NEVER and "answers" not in reading.builtin

    def open_gate(self, values: Mapping[str, Any]) -> None:
        """Call the gate with the values, if there is one."""
        if self.looks_at is not None:
            said: object = self.looks_at(KnownValues(values))
            if said is not None:
                raise calls.refuse_result(said, "the gate", "Refusal")

    def reach(self) -> Driver | None:
        """Return a driver on the controlling terminal; None if there is none, or nobody at it."""
        given: Driver | None = current().driver
        if given is not None:
            return given
        program = self.name or os.path.splitext(current().program_name)[0]
        driver: Driver | None = (terminal_asyncio_driver if self.is_async else tty_driver).reach(program)
        if driver is not None:
            self._own.append(driver)
        return driver

    def let_go(self, driver: Driver) -> None:
        """Close a driver that was reached; one that was given, or is lent by the context, goes on."""
        if driver in self._own:
            self._own.remove(driver)
            driver.close()

    def for_driver(self) -> preferred.DriverOptions:
        """Return how the questions are run; raises Problems if the environment says no number of seconds."""
        name = self.name or os.path.splitext(current().program_name)[0]
        wishes = {**self.given(), "name": name, "timeout": self.patience}
        return preferred.DriverOptions(wishes, environ=current().environ, ends_process=self.ends_process)

    @property
    def patience(self) -> float | None:
        """The seconds after which a question ends, and how long a pipe may be silent; raises Problems."""
        text = current().environ.get("WESPERON_TIMEOUT")
        if not text:
            return self.timeout
        try:
            return FLOAT.parse(text.strip())
        except Complaint as complaint:
            place = "WESPERON_TIMEOUT in the environment"
            raise problems.Problems([problems.Problem(complaint.reason, None, "env", text, location=place)]) from None

    def open(self, file: ValuesFile, slots: Iterable[Slot[Any]]) -> list[Problem]:
        """Take from a file what is there for these slots; the problems with keys that nobody knows."""
        levels = [((), slots, ())] if self.levels is None else self.levels
        found = [
            problem for path, own, tables in levels for problem in file.open_level(path, own, tables, self.old_names)
        ]
        if file.renamed:
            renaming.say_renamed(file.renamed)
        return found


def steps(form: type[R], reading: ParsedArgs, options: FillOptions) -> Interaction[R]:
    """Fill a record of a form with what the words say, other sources have and the user answers.

    The work is done in steps (``terminal.interaction``). Raises Problems that hold everything wrong or missing, Refusal
    of the gate, and KeyboardInterrupt where the user stops the questions.
    """
    if "WESPERON_LOG" in current().environ:
        places = {name: [one.word + 1 for one in given] for name, given in reading.given.items()}
        diagnostics.area("argv").debug(
            "%d words; by slot: %s; own names: %s", len(reading.words), places, sorted(reading.builtin)
        )
    if has_secrets(form):
        with secrets.Hushing():
            return (yield from _openly(form, reading, options))
    return (yield from _openly(form, reading, options))


def _openly(form: type[R], reading: ParsedArgs, options: FillOptions) -> Interaction[R]:
    """Do as :func:`steps`; an error may say a secret."""
    made, values, mode = fill_from_words(form, reading, current().environ, options.asking, options.settings_of)
    if made is not None and not options.asked_before and not options.is_reviewed(reading, mode):
        options.open_gate({name: made.__dict__[name] for name in slots_of(form)})
    else:
        if made is not None:  # what was asked before is to stay on the screen
            origins = made.origins
            values = {name: value for name, value in values.items() if origins[name] == WORDS}
        made = yield from precedence.fill_record(form, reading, values, mode, options)
    if keeps_last(form):
        last_values.keep_last(made, options.name)
    return made


def fill(form: type[R], reading: ParsedArgs, keywords: Mapping[str, Any], *, ends_process: bool = False) -> R:
    """Fill a record of a form; ``keywords`` are those of :meth:`Form.fill`, errors those of :func:`steps`."""
    if reading.builtin or reading.renamed:
        own_page.say_own_page(form, reading, keywords)
    options = FillOptions.of(form, keywords, ends_process=ends_process)
    return play(steps(form, reading, options))


def go_on(
    form: type[R],
    reading: ParsedArgs,
    values: dict[str, Any],
    mode: str,
    keywords: Mapping[str, Any],
    *,
    ends_process: bool = False,
) -> R:
    """Fill a record of which the ``values`` of the words are known, which do not fill it; see :func:`fill`."""
    options = FillOptions.of(form, keywords, ends_process=ends_process)
    return play(precedence.fill_record(form, reading, values, mode, options))


async def fill_async(form: type[R], reading: ParsedArgs, keywords: Mapping[str, Any]) -> R:
    """Fill a record of a form inside an event loop; see :func:`fill`."""
    if reading.builtin or reading.renamed:
        own_page.say_own_page(form, reading, keywords)
    return await play_async(steps(form, reading, FillOptions.of(form, keywords, is_async=True)))
