"""Slots that go together, as a form asks for them: first which one, then its value.

A rule is asked for at the last of its slots, and the slots that it may call for come directly after it. Until then they
have no value: functions of the answers read them from there.
"""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.values import MISSING
from wesperon.values.phrases import secret_places
from wesperon.values.problems import Problem
from wesperon.values.records import ASKED, DEFAULT, WORDS
from wesperon.values.rules import RuleSlot, as_word, in_order, is_given, possible_of, rules_of

__all__ = ["Related", "RuleSlot", "in_order"]

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Container, Iterable, Mapping
    from typing import Any, Protocol

    from wesperon.argv import ParsedArgs
    from wesperon.values.rules import Rule
    from wesperon.values.slots import Slot
    from wesperon.widgets.question import Question

    class Flow(Protocol):
        """What is to be known here of the flow of a form; see ``form_flow.FormFlow`` for each."""

        record: Any
        driver: Any
        ended: bool
        asked: set[str]
        problems: list[Problem]

        def question_of(self, at: int, slot: Slot[Any], default: Any, origin: str, reopens: bool) -> Question | None:
            """Ask for a slot, unless an earlier answer is to be taken as it is."""


class Related:
    """What the rules of a form say of a record on its way.

    ``values`` and ``sources`` are what was found and where, ``waiting`` what is to be read later, ``problems`` those
    with what was given.
    """

    def __init__(
        self,
        slots: Mapping[str, Slot[Any]],
        reading: ParsedArgs,
        values: dict[str, Any],
        sources: dict[str, str],
        waiting: Container[str],
        problems: Iterable[Problem],
    ) -> None:
        self.slots = slots
        self.rules = rules_of(slots)
        #: The slots that are asked for by a rule, not by themselves.
        self.members = {name for rule in self.rules for name in rule.names if rule.is_asked}
        self.reading, self.waiting, self.problems = reading, waiting, problems
        self.values, self.sources = values, sources
        #: The slots that a rule calls for: they are asked for, and may not stay empty.
        self.called: set[str] = set()

    def given(self, rule: Rule[Any], record: Any = None) -> tuple[str, ...]:
        """Return the slots of a rule that something was given for, also by an answer."""
        settled = record.__dict__ if record is not None else {}
        return tuple([name for name in rule.names if self._is_given(name, settled if name in settled else self.values)])

    def _is_given(self, name: str, found: Mapping[str, Any]) -> bool:
        if name in found:
            return is_given(self.slots[name], found[name])
        # What was given is to be read later, or at fault: it was given all the same.
        return self._is_faulty(name) or name in self.waiting or name in self.reading.given

    def _is_faulty(self, name: str) -> bool:
        return any(problem.slot == name and not problem.missing for problem in self.problems)

    def conflicts(self) -> list[Problem]:
        """Return a problem for each rule of which more was given than goes together, from one source."""
        problems = []
        for rule in self.rules:
            given = self.given(rule)
            if rule.excludes and len(given) > 1:
                words = [one.word for name in given for one in self.reading.given.get(name, ())]
                reason = rule.reason(self.slots, given, given)
                source = self.sources.get(given[0])
                problems.append(Problem(reason, given[0], source, None, words=tuple(dict.fromkeys(words))))
        return problems

    def ruled_out(self) -> set[str]:
        """Return the slots that others exclude which earlier sources have given."""
        found: set[str] = set()
        for rule in self.rules:
            given = {*self.given(rule)} if rule.excludes else set[str]()
            if given:
                found |= {*rule.names} if len(given) > 1 else {*rule.names} - given
        return found

    def asks(self, rule: Rule[Any], *, asks_all: bool) -> bool:
        """Return True if a rule is one to ask for: something is missing, or all is to be asked that no word gave."""
        given = self.given(rule)
        if asks_all and rule.is_asked:
            return not any(self.sources.get(name) == WORDS for name in given)
        return bool(rule.missing(given, rule.names))

    def visit(self, flow: Flow, at: int, slot: RuleSlot, reopens: bool) -> Question | None:
        """Settle a rule in a flow: ask which slots are to be given, or have those asked for that are needed."""
        rule, given = slot.rule, self.given(slot.rule, flow.record)
        is_open = flow.driver is not None and not flow.ended
        if is_open and slot.name in flow.asked and (not rule.takes_each or not given or reopens):
            possible = possible_of(rule, self.slots, flow.record)
            if len(possible) > 1 or reopens:
                here = rule.as_slot(self.slots, possible)
                return flow.question_of(at, here, (given and rule.value(given)) or rule.nothing, DEFAULT, reopens)
            self.choose(slot, tuple(possible), flow.asked)
        elif is_open:
            self.call_for(rule, flow.record, flow.asked)
        else:
            self.note_missing(flow, rule)
        flow.record.__dict__[slot.name] = rule.value(self.given(rule, flow.record))
        return None

    def note_missing(self, flow: Flow, rule: Rule[Any]) -> None:
        """Append what is missing by a rule, if anything is, to the problems of a flow."""
        problem = self.missing(rule, flow.record)
        if problem is not None:
            flow.problems.append(problem)

    def asked_rules(self, *, asks_all: bool) -> frozenset[str]:
        """Return the rules by which something is to be asked for."""
        return frozenset(rule.key for rule in self.rules if self.asks(rule, asks_all=asks_all))

    def choose(self, slot: RuleSlot, chosen: Any, asked: set[str]) -> None:
        """Take the answer which slots of a rule are to be given: they are ``asked`` for, the others are not.

        A switch is yes with that.
        """
        names = (chosen,) if isinstance(chosen, str) else slot.rule.names if chosen is True else chosen or ()
        for name in slot.rule.names:
            own = self.slots[name]
            if self.sources.get(name) != WORDS and (name not in names or not own.shape.takes_text):
                self.values.pop(name, None)
            asked.discard(name)
            self.called.discard(name)
            if name in names and not own.shape.takes_text:
                self.values[name], self.sources[name] = own.validate(True), ASKED
            elif name in names and self.sources.get(name) != WORDS:
                asked.add(name)
                self.called.add(name)

    def call_for(self, rule: Rule[Any], record: Any, asked: set[str]) -> None:
        """Have the slots asked for that a rule needs beside those that are given."""
        for name in rule.missing(self.given(rule, record), possible_of(rule, self.slots, record)):
            own = self.slots[name]
            if own.shape.takes_text:
                asked.add(name)
                self.called.add(name)
            else:
                self.values[name], self.sources[name] = own.validate(True), ASKED

    def needed(self, slot: Slot[Any]) -> Slot[Any]:
        """Return a slot without its default, which may not stay empty."""
        made = slot.copied()
        made.default, made.rules = MISSING, ()
        if made.shape.splits and not made.least:
            made.least = 1
        return made

    def missing(self, rule: Rule[Any], record: Any) -> Problem | None:
        """Return what is missing by a rule, with all of its slots; None if nothing is."""
        given, possible = self.given(rule, record), possible_of(rule, self.slots, record)
        missing = rule.missing(given, possible)
        if not missing or (rule.takes_each and all(map(self._is_faulty, given))):
            return None  # what a value at fault would need is not reported as well
        names = [as_word(self.slots[name]) for name in missing]
        reason, at_fault = rule.reason(self.slots, given, possible), None
        if rule.takes_each:
            with_these = ", ".join([f"--{self.slots[name].word}" for name in given])
            about, joint, at_fault = tell("needed with {names}", names=with_these), " ", rule.at_fault(given)[0]
            if len(missing) == 1:
                reason, at_fault = tell("is needed with {names}", names=with_these), missing[0]
        else:
            about, joint = tell(rule.wanted), " | "
            about = f"{rule.ask}: {about}" if rule.ask else about
        places = [secret_places(self.slots[name]) for name in missing if self.slots[name].secret is True]
        if len(missing) == 1 and places:
            about, reason = f"{about}; {places[0]}", f"{reason}; {places[0]}"
        return Problem(reason, at_fault, None, missing=True, wanted=(joint.join(names), about))

    def is_shown(self, slot: Slot[Any], record: Any, asked: Container[str]) -> bool:
        """Return True if the last look shows a slot: one of a rule if it was given, a rule if it was asked for."""
        if isinstance(slot, RuleSlot):
            return slot.name in asked
        return slot.name not in self.members or self._is_given(slot.name, record.__dict__)
