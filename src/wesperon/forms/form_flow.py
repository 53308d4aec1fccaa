"""The flow of a form: from slot to slot, asking for what is to be asked, back and forth.

A slot is *settled* once the record has its value. The flow settles slots in the order of declaration: with what a
source gave, with a default, or with an answer; going back unsettles everything from a slot on. What was answered is
kept meanwhile: when the flow comes by again, it is in its question, as long as it is still a value.

Without a driver nothing is asked, and everything that cannot be settled becomes a problem.
"""

from __future__ import annotations

from wesperon.forms.question_flow import Flow
from wesperon.forms.questions import Ask, accept_text, gutter_of, question
from wesperon.frozen import later
from wesperon.screen.layout import gutter_for
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.phrases import in_words, secret_places
from wesperon.values.records import ASKED, DEFAULT, NOT_HERE, WORDS, slots_of
from wesperon.values.slots import LAST
from wesperon.widgets.card import AnsweredField
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.argv import ParsedArgs, errors
    from wesperon.forms import related
    from wesperon.output import card
    from wesperon.sources import source
    from wesperon.sources.source import Found
    from wesperon.values import calls, words
    from wesperon.values import problems as values_problems
    from wesperon.values import together as values_together
    from wesperon.values.problems import Problem
    from wesperon.values.slots import Slot
    from wesperon.widgets import static_field, summary
    from wesperon.widgets.card import AnsweredField
    from wesperon.widgets.question import Question
else:
    errors = later("wesperon.argv.errors")
    related = later("wesperon.forms.related")
    card = later("wesperon.output.card")
    source = later("wesperon.sources.source")
    calls = later("wesperon.values.calls")
    values_problems = later("wesperon.values.problems")
    values_together = later("wesperon.values.together")
    words = later("wesperon.values.words")
    static_field = later("wesperon.widgets.static_field")
    summary = later("wesperon.widgets.summary")


class FormFlow(Flow):
    """One record on its way to be filled.

    ``values`` and ``sources`` are what was found and where, ``waiting`` what was found for slots that depend on the
    answers before them, ``asked`` the names of the slots to ask for, ``faulty`` the problems with texts that are in
    their question, ready to mend. Further problems join ``problems``.
    """

    def __init__(
        self,
        form: type[Any],
        reading: ParsedArgs,
        values: Mapping[str, Any],
        sources: Mapping[str, str],
        problems: list[Problem],
        *,
        asked: frozenset[str] = frozenset(),
        waiting: Mapping[str, tuple[Found, str]] | None = None,
        faulty: Mapping[str, Problem] | None = None,
    ) -> None:
        super().__init__()
        self.form = form
        self.slots: list[Slot[Any]] = list(slots_of(form).values())
        self.reading = reading
        self.values = dict(values)
        self.sources = dict(sources)
        self.problems = problems
        self.asked = set(asked)
        self.waiting = waiting or {}
        self.faulty = dict(faulty or {})
        self.record: Any = object.__new__(form)
        self.origins: dict[str, str] = {}
        #: The answered slots: the index of each, how many problems there were before it, and its record on the card.
        self.steps: list[tuple[int, int, AnsweredField]] = []
        self._passed: list[AnsweredField] = []
        self.at = 0
        self.ended = False
        #: Whether answers that were given before are taken without a look at them.
        self.hurries = False
        #: Whether there is a last look at all values; ``"always"``: also if nothing was asked.
        self.reviewing: Any = False
        self.reviews = False
        self.slot: Slot[Any] | None = None
        self.is_attended = False
        #: What asks; None if nobody is asked.
        self.driver: Any = None
        #: The texts of the last run, for slots that begin with these.
        self.last_texts: Mapping[str, str] = {}
        #: What is wrong with the values together, for the question of a slot, by its name.
        self.together: tuple[str, Complaint] | None = None
        #: What the checks of the values together have asked on the way.
        self.asked_in_checks: values_together.Asked | None = None
        self.faulty_names = {problem.slot for problem in problems}
        #: What goes together, if the form says so; its rules are among the slots.
        self.related: related.Related | None = None
        if reading.has_rules:
            known = slots_of(form)
            self.slots = related.in_order(known)
            self.related = related.Related(known, reading, self.values, self.sources, self.waiting, problems)
        #: What was asked before the first question, labels with answers; and how it is shown.
        self.asked_before: Sequence[tuple[str, str]] = ()
        self.before: list[AnsweredField] = []

    def start(self, driver: Any = None) -> Question | None:
        """Settle what can be; the first question, if there is one and a driver to ask it."""
        if driver is None:
            self.asked.clear()
            return self._advance(0)
        self.is_attended = True
        self.driver = driver
        asked = self.asked | (self.related.members if self.related else set())
        self.gutter = gutter_of(slot for slot in self.slots if slot.name in asked or self.reviewing)
        if self.asked_before:
            self.gutter = gutter_for([label for label, _ in self.asked_before], self.gutter)
            self.before = [
                AnsweredField(static_field.answered(label, text, self.gutter)) for label, text in self.asked_before
            ]
        return self.begin()

    def advance(self) -> Question | None:
        """Settle the slots from the first one on."""
        return self._advance(0)

    @property
    def passed(self) -> list[AnsweredField]:
        """The records of what was answered."""
        count = len(self.before) + len(self.steps)
        if len(self._passed) != count or (self.steps and self._passed[-1] is not self.steps[-1][2]):
            self._passed = [*self.before, *(one for _, _, one in self.steps)]
        return self._passed

    @property
    def stands_alone(self) -> bool:  # type: ignore[override]
        """Whether the last look is open, which shows everything."""
        return self.reviews

    def answer(self, value: Any) -> Question | None:
        """Take the answer to the open question. Return the next one, or None."""
        if self.reviews:
            return None if value is None else self._change(value)
        slot = self.slots[self.at]
        self.drafts.pop(slot.name, None)
        self._answered(self.at, value, self.open)
        return self._advance(self.at + 1)

    def give_up(self) -> Question | None:
        """Go on without an answer: with the default, if there is one; else nothing more is asked."""
        if self.reviews:
            self._fail(tell("the values were not confirmed"), missing=True)
            return None
        try:
            default, origin = self._fallback(self.slots[self.at])
        except Complaint as complaint:
            default, origin = MISSING, DEFAULT
            self._fail(complaint.reason, self.slots[self.at].name, DEFAULT)
        if default is MISSING:
            self.ended = True
            self._missing(self.slots[self.at])
        else:
            self._settle(self.slots[self.at].name, default, origin)
            self.is_attended = self.together is None  # who does not mend it is not asked again
        return self._advance(self.at + 1)

    def back(self) -> Question | None:
        """Return the question before, with its answer in it; None if there is none."""
        if not self.steps:
            return None
        if self.reviews:
            self.reviews = False
        elif self.slot is not None and not self.slot.secret and self.slot.shape.takes_text:
            self.keep_draft(self.slot.name)
        self.hurries = False
        return self._return_to(self.steps[-1][0])

    def saved_texts(self) -> dict[str, str]:
        """Return the answers as texts, those left out that are secret, or cannot be written."""
        texts = {}
        for slot in self.slots:
            if slot.name in self.kept and not slot.secret and self.kept[slot.name] is not None:
                value = self.kept[slot.name]
                try:
                    here = slot.resolve(self.record)
                    texts[slot.name] = words.line_of(here, value)
                except (Complaint, DeclarationError, AttributeError):
                    continue
        return texts

    def saved_drafts(self) -> dict[str, str]:
        """Return what was typed in questions that have no answer yet, but for secrets."""
        secrets = {slot.name for slot in self.slots if slot.secret}
        return {name: text for name, text in super().saved_drafts().items() if name not in secrets}

    @property
    def open_name(self) -> str:
        """The name of the slot that is asked for; empty for a secret, and for the last look."""
        return "" if self.slot is None or self.slot.secret else self.slot.name

    def restore(self, answers: Mapping[str, str], drafts: Mapping[str, str]) -> None:
        """Take up the answers of an earlier run, which are read when the flow comes by."""
        self.hurries = True
        asked = self.asked | (self.related.members if self.related else set())
        self.drafts = {name: text for name, text in {**answers, **drafts}.items() if name in asked}

    def _change(self, index: int) -> Question | None:
        """Open the question of a value that the last look has shown."""
        self.reviews = False
        self.hurries = True
        at = self.reviewed[index]
        self.asked.add(self.slots[at].name)
        return self._return_to(at)

    def _return_to(self, at: int) -> Question | None:
        """Unsettle everything from a slot on, and ask for it."""
        while self.steps and self.steps[-1][0] >= at:
            _, count, _ = self.steps.pop()
            del self.problems[count:]
        settled = self.record.__dict__.copy()
        for slot in self.slots[at:]:
            self.record.__dict__.pop(slot.name, None)
            self.origins.pop(slot.name, None)
        name = self.slots[at].name
        if name not in self.kept and name in settled:
            self.kept[name] = settled[name]
        question = self._visit(at, reopens=True)
        return question if question is not None else self._advance(at + 1)

    def _advance(self, first: int) -> Question | None:
        """Settle the slots from an index on, up to the next question."""
        for at in range(first, len(self.slots)):
            question = self._visit(at)
            if question is not None:
                return question
        if not self.problems and (question := self._check_together()) is not None:
            return question
        if self.reviewing and (self.asked or self.reviewing is not True) and not self.ended and not self.problems:
            return self._review()
        return None

    def _check_together(self) -> Question | None:
        """Check all values by the form. Return the question at fault, or add a problem."""
        record = self.form.of(self.record.__dict__, self.origins)
        self.asked_in_checks = self.asked_in_checks or values_together.Asked()
        complaint = values_together.complaint_together(record, self.asked_in_checks)
        self.together = None
        if complaint is None:
            return None
        if not self.is_attended or not self.steps or self.ended:
            self.problems.append(errors.together(self.reading, record, complaint))
            return None
        name = next(iter(complaint.slot or ()), self.slots[self.steps[-1][0]].name)
        at = next(at for at, slot in enumerate(self.slots) if slot.name == name)
        self.together = name, complaint
        self.asked.add(name)
        self.hurries = True
        return self._return_to(at)

    def _visit(self, at: int, *, reopens: bool = False) -> Question | None:
        """Settle the slot at an index; its question where it is to be asked for.

        ``reopens``: also where an earlier answer would be taken as it is.
        """
        slot = self.slots[at]
        name = slot.name
        if self.related is not None and isinstance(slot, related.RuleSlot):
            return self.related.visit(self, at, slot, reopens)
        try:
            skipped = slot.is_skipped(self.record)
            if skipped:
                self._skip(slot, slot.skipped(self.record))
                return None
            here = slot.resolve(self.record)
            self._read_waiting(here)
            if name in self.values:
                default, origin = self.values[name], self.sources[name]
            elif name in self.asked and not self.ended:
                default, origin = self.start_value(here)
                if self.related is not None and name in self.related.called:
                    here, default = self.related.needed(here), MISSING
            else:
                default, origin = slot.fallback(self.record), DEFAULT
        except Complaint as complaint:
            self._fail(complaint.reason, name, DEFAULT, None, complaint.position)
            return None
        except AttributeError:
            if not self.problems:
                raise
            # It depends on a value that is missing or at fault, which is reported; so is it, if it was not given.
            is_given = name in self.values or name in self.waiting or name in self.reading.given
            if slot.applies is None and not slot.has_fallback and not is_given:
                self._missing(slot)
            return None
        if name in self.asked and not self.ended:
            return self.question_of(at, here, default, origin, reopens)
        is_faulty = name not in self.values and (name in self.faulty_names or name in self.faulty)
        if is_faulty:
            # It has no value, not even its default: what depends on it would be judged by one that nobody gave.
            return None
        if default is not MISSING:
            self._settle(name, default, origin)
        else:
            self._missing(slot)
        return None

    def start_value(self, slot: Slot[Any]) -> tuple[Any, str]:
        """Return what is in the line at first, and what it is called."""
        initial = slot.initial
        try:
            default = slot.fallback(self.record)
        except Complaint:  # it would not do today, and somebody is there
            if slot.exists is None:
                raise
            default = MISSING
        if initial is MISSING:
            return default, DEFAULT
        if initial == LAST:
            try:
                text = self.last_texts.get(slot.name)
                return (default, DEFAULT) if text is None else (accept_text(slot, text), LAST)
            except Complaint:  # it would not do today
                return default, DEFAULT
        if callable(initial):
            initial = calls.call_with_optional_answers(initial, self.record)
        return (default if initial is None else initial if slot.exists else slot.validate(initial)), "initial"

    def _fallback(self, slot: Slot[Any]) -> tuple[Any, str]:
        if slot.name in self.values:
            return self.values[slot.name], self.sources[slot.name]
        if self.related is not None and isinstance(slot, related.RuleSlot):
            return slot.rule.nothing, DEFAULT
        if self.related is not None and slot.name in self.related.called:
            return MISSING, DEFAULT
        return slot.fallback(self.record), DEFAULT

    def _read_waiting(self, slot: Slot[Any]) -> None:
        """Read what was given for a slot that depends on the answers before it, now that they are there."""
        name = slot.name
        given = self.reading.given.get(name) if slot.depends or slot is not slots_of(self.form)[name] else None
        if given is None and name not in self.waiting:
            return
        try:
            if given is not None and slot.may_be_none([one.text for one in given]):
                self.values[name], self.sources[name] = None, WORDS
            elif given is not None:
                self.values[name], self.sources[name] = slot.combine([one.text for one in given]), WORDS
            else:
                found, origin = self.waiting[name]
                self.values[name], self.sources[name] = source.value_of(slot, found), origin
        except Complaint as complaint:
            self.values.pop(name, None)
            self._refuse_waiting(slot, complaint)

    def _refuse_waiting(self, slot: Slot[Any], complaint: Complaint) -> None:
        """If a user can be asked, reopen the question with the text that cannot be parsed; else it is a problem."""
        name = slot.name
        given = self.reading.given.get(name)
        if given is not None:
            problems = errors.unreadable(slot, list(given), complaint, self.reading)
        else:
            found, origin = self.waiting[name]
            problems = source.problems_of(slot, found, origin, complaint)
        if self.gutter:
            self.faulty[name] = problems[0]
            self.asked.add(name)
        else:
            self.problems += problems
            self.faulty_names.add(name)

    def question_of(self, at: int, slot: Slot[Any], default: Any, origin: str, reopens: bool) -> Question | None:
        """Ask for a slot, unless an earlier answer is to be taken as it is."""
        name = slot.name
        draft = self.drafts.get(name)
        if name in self.kept:
            try:
                value = slot.validate(self.kept[name]) if self.kept[name] is not None else default
                if self.hurries and not reopens:
                    self._accept_again(at, slot, value)
                    return None
                default, origin = value, ASKED
            except Complaint:
                pass  # it was right with other answers before it
        elif self.hurries and not reopens and draft is not None and name not in self.halves:
            try:
                self.kept[name] = accept_text(slot, draft, default)
                self.drafts.pop(name)
                self._accept_again(at, slot, self.kept[name])
                return None
            except Complaint:
                pass
        complaint = None
        problem = self.faulty.get(name)
        if problem is not None and name not in self.kept:
            given = self.reading.given.get(name, [])
            draft = slot.shape.line([one.text for one in given]) if given else problem.text
            complaint = Complaint(problem.reason, problem.position if draft is not None else None)
        if self.together is not None and self.together[0] == name:
            complaint = self.together[1]
        self.at, self.slot = at, slot
        has_back = bool(self.steps) or self.leads_back
        keys = "   ".join([tell("Shift-Tab: back")] * has_back + [tell("F1: help")] * bool(slot.help))
        left = self._questions_left(at)
        ask = Ask(slot, default, draft, complaint, answers=self.record, origin=origin, stays=not slot.label)
        self.open = question(ask, self.gutter, note=left, keys=keys)
        if draft is not None:
            self.halves.discard(name)
            self.open.keep_draft()
        opened: Question = self.open
        return opened

    def _accept_again(self, at: int, slot: Slot[Any], value: Any) -> None:
        """Take an answer that was given before."""
        self._answered(at, value, static_field.answered(slot.label, card.shown(slot, value), self.gutter))

    def _answered(self, at: int, value: Any, question: Question) -> None:
        name = self.slots[at].name
        self.steps.append((at, len(self.problems), AnsweredField(question)))
        self.kept[name] = value
        slot = self.slots[at]
        if self.related is not None and isinstance(slot, related.RuleSlot):
            self.related.choose(slot, value, self.asked)
            self.record.__dict__[name] = value or slot.rule.value(())
        else:
            self._settle(name, value, ASKED)

    def _questions_left(self, at: int) -> str:
        """Return how many questions are left after this one, as far as can be told."""
        count = 0
        for slot in self.slots[at + 1 :]:
            if self.related is not None and isinstance(slot, related.RuleSlot) and slot.rule.takes_each:
                continue  # it has those asked for that are needed
            if slot.name in self.asked and not (self.hurries and slot.name in self.kept):
                try:
                    count += not slot.is_skipped(self.record)
                except Exception:  # it depends on an answer that is not there yet
                    count += 1
        return tell("{count} more", count=count) if count else ""

    def _review(self) -> Question:
        """Return the last look at all values."""
        self.reviewed = [
            at
            for at, slot in enumerate(self.slots)
            if not slot.is_skipped(self.record) and slot.piped != "stream"
            if self.related is None or self.related.is_shown(slot, self.record, self.asked)
        ]
        entries = []
        for at in self.reviewed:
            slot, value = self.slots[at], self.record.__dict__[self.slots[at].name]
            entries.append(
                (visible(slot.label), card.shown(slot if value is None else slot.resolve(self.record), value))
            )
        self.reviews = True
        self.slot = None
        self.open = Question(Prompt("", 0), summary.Summary(entries, self.gutter))
        opened: Question = self.open
        return opened

    def _skip(self, slot: Slot[Any], value: Any) -> None:
        """Leave out a slot that does not apply; that it was given another value is a problem."""
        name = slot.name
        if self.sources.get(name) == WORDS and self.values[name] != value:
            given = tuple(one.word for one in self.reading.given[name])
            self._fail(tell(NOT_HERE), name, WORDS, None, words=given)
        self._settle(name, value, DEFAULT)

    def _settle(self, name: str, value: Any, origin: str) -> None:
        self.record.__dict__[name] = value
        self.origins[name] = origin

    def _fail(self, reason: str, *about: Any, **more: Any) -> None:
        """Append ``Problem(reason, *about, **more)``."""
        self.problems.append(values_problems.Problem(reason, *about, **more))

    def _missing(self, slot: Slot[Any]) -> None:
        """Know that a slot has no value."""
        if self.related is not None and isinstance(slot, related.RuleSlot):
            self.related.note_missing(self, slot.rule)
            return
        wanted = f"{slot.ask}: {slot.kind.wants}" if slot.ask else slot.kind.wants
        if slot.secret is True:
            wanted = f"{wanted}; {secret_places(slot)}"
            reason = tell("is missing: {wanted}; {slot}", wanted=slot.kind.wants, slot=secret_places(slot))
        else:
            wanted += tell(", or in {env} of the environment", env=slot.env) if slot.env else ""
            also = tell(", or in {env} of the environment", env=slot.env) if slot.env else ""
            reason = tell(
                "is missing: {wanted}, as {slot}{also}", wanted=slot.kind.wants, slot=in_words(slot), also=also
            )
        if self.driver is not None and self.driver.has_timed_out:
            self._fail(reason + tell("; no answer came in time"), slot.name, None, missing=True, timed_out=True)
        else:
            name = f"--{slot.word}" if slot.secret is True else in_words(slot)
            self._fail(reason, slot.name, None, missing=True, wanted=(name, wanted))
