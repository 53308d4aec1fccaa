"""The order of the sources: how a record gets its values.

    words, environment, answers file, settings file, pipe, a question, the default

The first source that has something for a slot gives its value; an empty text counts as nothing. A slot that has a value
or a default is not asked for, unless everything is to be asked (``all``): then all that no word gave is in the line
as a default. Nothing is asked if nobody is there to answer. What is wrong with what was given is reported before the
first question, all of it; if nobody can be asked, all that is missing is reported with it, in one message.
"""

from __future__ import annotations

import os

from wesperon.argv import ALL, NEVER
from wesperon.context import current
from wesperon.forms.form_flow import FormFlow
from wesperon.forms.unfinished import unfinished
from wesperon.frozen import later
from wesperon.terminal.interaction import Asked, TurnAwaited
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values.records import ANSWERS, ENV, PIPE, SETTINGS, SOURCES, WORDS, has_secrets, keeps_last, slots_of
from wesperon.widgets.card import Card
from wesperon.widgets.widget import Interrupted, WentBack

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any, Protocol, TypeVar

    from wesperon.argv import ParsedArgs
    from wesperon.sources.files import ValuesFile
    from wesperon.sources.pipe import Pipe
    from wesperon.sources.source import Found, Source
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.values.problems import Problem
    from wesperon.values.records import Record
    from wesperon.values.signatures import Given
    from wesperon.values.slots import Slot

    R = TypeVar("R", bound=Record)

    class Options(Protocol):
        """What is to be known here of how a record is filled; see ``filling.FillOptions`` for each."""

        name: str
        driver: Driver | None
        is_async: bool
        review: Any
        resume: bool
        replay: bool
        layout: str
        settings_of: Any
        asked_before: Sequence[tuple[str, str]]
        leads_back: bool
        leaves_record: bool
        takes_up: bool

        @property
        def patience(self) -> float | None:
            """How long a question and a pipe may take; raises Problems."""

        def is_reviewed(self, reading: ParsedArgs, mode: str) -> bool:
            """Return True if the values are to be looked at though nothing is asked."""

        def reach(self) -> Driver | None:
            """Return a driver on the controlling terminal."""

        def let_go(self, driver: Driver) -> None:
            """Close a driver that was reached, unless it is lent."""

        def for_driver(self) -> DriverOptions:
            """Return how the questions are run."""

        def open_gate(self, values: Mapping[str, Any]) -> None:
            """Call the gate with the values."""

        def open(self, file: ValuesFile, slots: Iterable[Slot[Any]]) -> list[Problem]:
            """Take from a file what is there for these slots."""

    from wesperon.argv import typed
    from wesperon.forms import file_sources, last_values, related
    from wesperon.screen import table
    from wesperon.screens import form_screen
    from wesperon.sources import environment, files
    from wesperon.sources import pipe as sources_pipe
    from wesperon.sources import source as sources_source
    from wesperon.terminal import diagnostics
    from wesperon.values import problems as values_problems
else:
    typed = later("wesperon.argv.typed")
    file_sources = later("wesperon.forms.file_sources")
    last_values = later("wesperon.forms.last_values")
    related = later("wesperon.forms.related")
    table = later("wesperon.screen.table")
    form_screen = later("wesperon.screens.form_screen")
    environment = later("wesperon.sources.environment")
    files = later("wesperon.sources.files")
    sources_pipe = later("wesperon.sources.pipe")
    sources_source = later("wesperon.sources.source")
    diagnostics = later("wesperon.terminal.diagnostics")
    values_problems = later("wesperon.values.problems")


#: The layout that asks for everything at once.
SCREEN = "screen"
#: What is wrong if a last look is needed, and nobody is there.
NOBODY_LOOKS = "the values are to be confirmed, and nobody can be asked: give --asking never to go on without"


class WayBack(Exception):
    """Raised where the user goes back from the first question to what was asked before; see ``filling.FillOptions``."""


def fill_record(
    form: type[R], reading: ParsedArgs, values: dict[str, Any], mode: str, options: Options
) -> Interaction[R]:
    """Return a record: the ``values`` that the words gave, those of the other sources, of the user, and defaults.

    The work is done in steps (``steps``). Raises Problems that hold everything wrong, and KeyboardInterrupt where the
    user stops the questions.
    """
    return _Filling(form, reading, values, mode, options).run()


class _Filling:
    """One record being filled: what there is for its slots, and the flow that settles them."""

    def __init__(
        self, form: type[Any], reading: ParsedArgs, values: dict[str, Any], mode: str, options: Options
    ) -> None:
        self.form = form
        self.slots: Mapping[str, Slot[Any]] = slots_of(form)
        self.reading = reading
        self.mode = mode
        self.options = options
        self.values = values
        self.sources = dict.fromkeys(values, WORDS)
        self.problems: list[Problem] = list(reading.problems)
        self.waiting: dict[str, tuple[Found, str]] = {}
        self.faulty: Mapping[str, Problem] = {}
        self.pipe: Pipe | None = None
        self.related: related.Related | None = None
        if reading.has_rules:
            self.related = related.Related(self.slots, reading, self.values, self.sources, self.waiting, self.problems)
        self._reached: list[Driver | None] = []
        self._is_open = False

    def run(self) -> Interaction[Any]:
        """Return the record; raises Problems and KeyboardInterrupt."""
        self._look_around()
        asked = frozenset(name for name, slot in self.slots.items() if self._is_asked(slot))
        if self.related is not None:
            self.problems += self.related.conflicts()
            asked |= self.related.asked_rules(asks_all=self.mode == ALL)
        is_reviewed = self.options.is_reviewed(self.reading, self.mode)
        driver = self._reach() if asked or self.options.asked_before or is_reviewed else None
        self._let_go(driver)
        try:
            if driver is None:
                flow = self._flow(asked)
                flow.start()
                if is_reviewed and not self.problems:
                    self.problems.append(values_problems.Problem(tell(NOBODY_LOOKS)))
            else:
                flow = yield from self._ask_all(driver, asked)
        finally:
            if driver is not None:
                self.options.let_go(driver)
        self._refuse()
        if driver is None:
            self._open_gate({name: flow.record.__dict__[name] for name in self.slots})
        if "WESPERON_LOG" in current().environ:
            diagnostics.area("sources").debug("%s filled: %s", self.form.__name__, flow.origins)
        values = {name: flow.record.__dict__[name] for name in self.slots}
        made = self.form.of(values, dict(flow.origins), uses_settings=bool(self.options.settings_of))
        typed.note_typed(made, self.reading)
        return made

    def _flow(self, asked: frozenset[str]) -> FormFlow:
        return FormFlow(
            self.form,
            self.reading,
            self.values,
            self.sources,
            self.problems,
            asked=asked,
            waiting=self.waiting,
            faulty=self.faulty,
        )

    def _known(self, asked: frozenset[str]) -> dict[str, Any]:
        """Return the values that are known before the first question: those given, and defaults nobody asks for."""
        known = dict(self.values)
        if self.related is not None:
            asked = asked | self.related.members
        for name, slot in self.slots.items():
            depends = callable(slot.default) or slot.applies is not None or slot.depends
            if (
                name not in known
                and name not in asked
                and name not in self.waiting
                and slot.has_fallback
                and not depends
            ):
                known[name] = slot.fallback(None)
        return known

    def _ask_all(self, driver: Driver, asked: frozenset[str]) -> Interaction[FormFlow]:
        """Ask, unless something that was given is wrong; under ``all`` it is in its line, ready to mend."""
        if self.mode == ALL:
            self.faulty = {problem.slot: problem for problem in self.problems if problem.slot}
            self.problems = [problem for problem in self.problems if not problem.slot]
        self._refuse()
        self._open_gate(self._known(asked))
        options = self.options.for_driver()
        flow = self._prepared(asked, options.name)
        if self.options.resume and driver.is_terminal:
            flow.keeper = unfinished(options.name, self.form)
            if flow.keeper is not None:
                flow.left = flow.keeper.left(lambda name: name if name in asked else "")
        if self.options.is_async:
            yield TurnAwaited(driver)
        try:
            with driver.opened(options):
                is_on_screen = self.options.layout == SCREEN and not driver.is_plain
                if driver.stage is not None:  # it is a dialog there, which only its own thread can open
                    is_on_screen = is_on_screen and driver.stage.is_here
                if is_on_screen:
                    kept, left, problems = flow.keeper, flow.left, [*self.problems]

                    def make() -> FormFlow:
                        self.problems = [*problems]
                        made = self._prepared(asked, options.name)
                        made.keeper, made.left = kept, left
                        return made

                    flow = yield from form_screen.steps(make, driver, options)
                question = None if is_on_screen else flow.start(driver)
                if question is not None:
                    outcome = yield Asked(driver, Card(flow, question), options)
                    if isinstance(outcome, (Interrupted, WentBack)):
                        flow.work()
                        raise KeyboardInterrupt if isinstance(outcome, Interrupted) else WayBack
                elif flow.before:
                    columns = driver.size()[0]
                    driver.say("\n".join(table.texts([row for one in flow.before for row in one.rows(columns)])))
                if flow.keeper is not None and not self.problems:
                    flow.keeper.forget()
                if self.options.replay and flow.steps and not self.problems:
                    self._show_replay(driver, flow)
        finally:
            if flow.keeper is not None:
                flow.keeper.end()
        return flow

    def _prepared(self, asked: frozenset[str], name: str) -> FormFlow:
        """Return a flow as the options want it."""
        flow = self._flow(asked)
        review, always = self.options.review, self.options.is_reviewed(self.reading, self.mode)
        flow.reviewing, flow.leads_back = review if always else bool(review), self.options.leads_back
        flow.asked_before, flow.leaves_record = self.options.asked_before, self.options.leaves_record
        flow.takes_up = self.options.takes_up
        if keeps_last(self.form):
            flow.last_texts = last_values.last_texts(self.form, name)
        return flow

    def _show_replay(self, driver: Driver, flow: FormFlow) -> None:
        """Say below the card how to have the same again without a question."""
        record = self.form.of({name: flow.record.__dict__[name] for name in self.slots}, flow.origins)
        typed.note_typed(record, self.reading)
        driver.say("\n" + tell("The same again:") + "\n  " + visible(record.replay()))

    def _is_asked(self, slot: Slot[Any]) -> bool:
        """Return True if the slot is one to ask for, should somebody be there."""
        if self.related is not None and slot.name in self.related.members:
            return False  # what it goes together with decides
        if self.mode == ALL:
            return self.sources.get(slot.name) != WORDS
        if slot.name in self.waiting or (slot.depends and slot.name in self.reading.given):
            return False
        return slot.name not in self.values and slot.is_asked_for

    def _look_around(self) -> None:
        """Find values in the sources between the words and the question, in their order."""
        given: Given = {
            "answers": self.reading.builtin.get("answers"),
            "settings": self.options.settings_of,
            "asks_all": self.mode == ALL,
        }
        claims = self._claims()
        faulty = {problem.slot for problem in self.problems}
        for origin, may_fill in SOURCES:
            opened = OPENED.get(origin)
            ruled_out = set() if self.related is None else self.related.ruled_out()
            left = [
                slot
                for name, slot in self.slots.items()
                if name not in self.values and name not in self.waiting and name not in faulty
                if (name not in claims or origin == PIPE) and not (slot.depends and name in self.reading.given)
                if name not in ruled_out
            ]
            if opened is None or not any(may_fill(slot, given) for slot in left):
                continue
            source = self._opened(opened, claims)
            for slot in left if source is not None else ():
                self._read_from(source, slot)

    def _opened(
        self, opened: Callable[[_Filling, Mapping[str, int]], Source | None], claims: Mapping[str, int]
    ) -> Source | None:
        """Return a source that may have something.

        Return None if there is none, or it cannot be read, which joins the problems.
        """
        try:
            return opened(self, claims)
        except Exception as error:
            if not isinstance(error, values_problems.Problems):
                raise
            self.problems += error
            return None

    def _read_from(self, source: Any, slot: Slot[Any]) -> None:
        """Make what a source has the value of a slot, or a problem."""
        found = source.find(slot)
        if found is not None and found.value is None and slot.initial is None:
            self.values[slot.name], self.sources[slot.name] = None, source.origin
            return
        if found is None or sources_source.is_blank(slot, found):
            return
        if slot.kind.depends:
            self.waiting[slot.name] = (found, source.origin)
            return
        try:
            value = source.value(slot, found)
        except values_problems.Problems as problems:
            self.problems += problems
            return
        if slot.depends:  # its bounds come with the answers before it
            self.waiting[slot.name] = (found, source.origin)
            return
        self.values[slot.name], self.sources[slot.name] = value, source.origin

    def _claims(self) -> dict[str, int]:
        """Return the slots for which a word ``-`` is; standard input can be claimed once."""
        claims = dict(self.reading.claims)
        if not claims:
            return claims
        places = tuple(claims.values())
        if self.reading.builtin.get("answers") == "-":
            reason = tell("standard input is claimed twice, by an argument - and by --answers -")
            self.problems.append(values_problems.Problem(reason, None, WORDS, "-", words=places))
        elif len(claims) > 1:
            reason = tell("standard input is claimed {count} times: only one can use it", count=len(claims))
            self.problems.append(values_problems.Problem(reason, None, WORDS, "-", words=places))
        return claims

    def open_environment(self, claims: Mapping[str, int]) -> Source | None:
        """Return the environment variables."""
        return environment.Environment()

    def open_answers(self, claims: Mapping[str, int]) -> Source | None:
        """Return the answers file that the words name; unknown keys in it join the problems."""
        return self._open_file(self.reading.builtin["answers"], ANSWERS)

    def open_settings(self, claims: Mapping[str, int]) -> Source | None:
        """Return the settings file of the program, if there is one."""
        path = files.settings_path(self.options.settings_of or "")
        return self._open_file(path, SETTINGS) if os.path.exists(path) else None

    def _open_file(self, name: str, origin: str) -> Source:
        waits = name != "-" or not self.problems  # what is wrong already does not wait for what may come
        timeout = self.options.patience if name == "-" and waits else None
        file = file_sources.opened(name, origin, waits, timeout, hides=has_secrets(self.form))
        if file is None:
            return sources_source.Source()
        self.problems += self.options.open(file, self.slots.values())
        return file

    def open_pipe(self, claims: Mapping[str, int]) -> Source | None:
        """Return standard input, unless the answers come from there, or more than one slot wants it."""
        if self.reading.builtin.get("answers") == "-" or len(claims) > 1:
            return None
        self.pipe = pipe = sources_pipe.Pipe(claims, timeout=self.options.patience)
        piped = next((slot for slot in self._left() if pipe.wants(slot)), None)
        if piped is not None:  # all that can be known without it is reported before it is read, which may take for ever
            self._open_gate(self._known(frozenset(slot.name for slot in self._left() if slot.is_asked_for)))
            pipe.hurries = bool(self.problems) or self._lacks_something(piped)
        return pipe

    def _left(self) -> list[Slot[Any]]:
        """Return the slots that have no value yet."""
        return [slot for name, slot in self.slots.items() if name not in self.values and name not in self.waiting]

    def _lacks_something(self, piped: Slot[Any]) -> bool:
        """Return True if a value is missing that nobody can be asked for, whatever comes through the pipe."""
        needed = [
            slot
            for slot in self._left()
            if slot is not piped and not slot.has_fallback and slot.applies is None and slot.name not in self.faulty
        ]
        return bool(needed) and self._reach() is None

    def _open_gate(self, values: dict[str, Any]) -> None:
        """Call the gate with the values, once."""
        if not self._is_open:
            self._is_open = True
            self.options.open_gate(values)

    def _reach(self) -> Driver | None:
        """Return the driver for the questions; None if nobody is to be asked, or there to answer."""
        if self.mode == NEVER:
            return None
        if self.options.driver is not None:
            return self.options.driver
        if not self._reached:
            self._reached.append(self.options.reach())
        return self._reached[0]

    def _let_go(self, used: Driver | None) -> None:
        """Close a driver that was looked for, if it is not needed after all."""
        found = self._reached.pop() if self._reached and used is None else None
        if found is not None:
            self.options.let_go(found)

    def _refuse(self) -> None:
        """Raise what is wrong, if anything is, in the order of the words."""
        if self.pipe is not None and self.pipe.left_out:
            self.problems = [one for one in self.problems if not (one.missing and one.slot == self.pipe.left_out)]
        if self.problems:
            last = len(self.reading.words)
            ordered = sorted(self.problems, key=lambda problem: (*problem.words, last)[0])
            raise self.reading.refused(ordered)


#: How each source between the words and the question is opened, by its name in ``SOURCES``; None: there is none.
OPENED: Mapping[str, Callable[[_Filling, Mapping[str, int]], Source | None]] = {
    ENV: _Filling.open_environment,
    ANSWERS: _Filling.open_answers,
    SETTINGS: _Filling.open_settings,
    PIPE: _Filling.open_pipe,
}
