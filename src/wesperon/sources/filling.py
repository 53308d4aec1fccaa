"""The order of the sources: how a record gets its values.

    words, then a question, then the default

A slot that has a default is not asked for, unless everything is to be asked (``all``); nothing is asked where nobody
is there to answer. What is wrong with the words is reported before the first question, all of it; where nobody can be
asked, all that is missing is reported with it, in one message.
"""

from __future__ import annotations

from wesperon.core.lean import Complaint
from wesperon.core.problems import Problem, Problems
from wesperon.core.records import ASKED, DEFAULT, WORDS
from wesperon.core.slots import MISSING
from wesperon.pages.wording import in_words
from wesperon.sources.words import ALL, NEVER

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any, TypeVar

    from wesperon.core.records import Record
    from wesperon.core.slots import Slot
    from wesperon.sources.words import Reading
    from wesperon.terminal.driver import Driver

    R = TypeVar("R", bound=Record)


def complete(
    form: type[R],
    reading: Reading,
    values: dict[str, Any],
    mode: str,
    driver: Driver | None = None,
    *,
    ends_process: bool = False,
) -> R:
    """A record with the ``values`` that the words gave, those that the user gives when asked, and the defaults.

    Without a ``driver``, questions go to the controlling terminal. ``ends_process``: the caller ends the process
    where the user stops the questions. Raises Problems that hold everything wrong, and
    KeyboardInterrupt where the user stops the questions.
    """
    slots = form._slots
    problems = reading.problems
    faulty = {problem.slot: problem for problem in problems}
    asked = [slot for name, slot in slots.items() if name not in values and (mode == ALL or not slot.has_fallback)]
    reached = None
    if mode != NEVER and asked and (mode == ALL or not problems):
        reached = driver or _reach()
    if reached is None:
        problems += [_missing(slot) for slot in asked if slot.name not in faulty and not slot.has_fallback]
    else:
        problems = [problem for problem in problems if not problem.slot]
    _refuse(problems, reading)
    filling = _Filling(form.__new__(form), reading, values, {slot.name for slot in asked}, faulty)
    if reached is None:
        filling.fill(slots, None)
    else:
        reached.ends_process = ends_process
        try:
            with reached:
                filling.fill(slots, reached)
        finally:
            if driver is None:
                reached.close()
    _refuse(filling.problems, reading)
    return form.of({name: filling.record.__dict__[name] for name in slots}, filling.origins)


class _Filling:
    """One record being filled, slot by slot, so that each default can be made of the answers before it."""

    def __init__(
        self,
        record: Record,
        reading: Reading,
        values: dict[str, Any],
        asked: set[str],
        faulty: dict[str | None, Problem],
    ) -> None:
        self.record = record
        self.reading = reading
        self.values = values
        self.asked = asked
        self.faulty = faulty
        self.origins: dict[str, str] = {}
        self.problems: list[Problem] = []
        self.ended = False

    def fill(self, slots: Mapping[str, Slot[Any]], driver: Driver | None) -> None:
        """Fill every slot; what cannot be filled joins the problems."""
        width = 0
        if driver is not None:
            from wesperon.sources.asking import gutter

            width = gutter(slot for slot in slots.values() if slot.name in self.asked)
        for name, slot in slots.items():
            if name in self.values:
                self._settle(name, self.values[name], WORDS)
                continue
            try:
                default = slot.fallback(self.record)
            except Complaint as complaint:
                self.problems.append(Problem(complaint.reason, name, DEFAULT, None, complaint.position))
                continue
            if driver is not None and name in self.asked and not self.ended and self._ask(slot, driver, width, default):
                continue
            if default is MISSING:
                self.problems.append(_missing(slot))
            else:
                self._settle(name, default, DEFAULT)

    def _settle(self, name: str, value: Any, origin: str) -> None:
        self.record.__dict__[name] = value
        self.origins[name] = origin

    def _ask(self, slot: Slot[Any], driver: Driver, width: int, default: Any) -> bool:
        """Ask for the value; whether one was given."""
        from wesperon.sources.asking import ask
        from wesperon.widgets.widget import Answered, Interrupted

        text = complaint = None
        problem = self.faulty.get(slot.name)
        if problem is not None:
            given = self.reading.given.get(slot.name, [])
            text = given[0].text if len(given) == 1 else None
            complaint = Complaint(problem.reason, problem.position if text is not None else None)
        outcome = ask(slot, driver, width, default, text, complaint)
        if isinstance(outcome, Interrupted):
            raise KeyboardInterrupt
        if not isinstance(outcome, Answered):
            self.ended = default is MISSING
            return False
        self._settle(slot.name, outcome.value, ASKED)
        return True


def _reach() -> Driver | None:
    """A driver on the controlling terminal, where there is one with somebody at it."""
    from wesperon.terminal.blocking import reach

    return reach()


def _missing(slot: Slot[Any]) -> Problem:
    """The problem that a slot has no value."""
    reason = f"is missing: {slot.kind.wanted}, as {in_words(slot)}"
    return Problem(reason, slot.name, None, missing=True)


def _refuse(problems: list[Problem], reading: Reading) -> None:
    """Raise what is wrong, if anything is, in the order of the words."""
    if problems:
        last = len(reading.words)
        raise Problems(sorted(problems, key=lambda problem: (*problem.words, last)[0]), reading.words)
