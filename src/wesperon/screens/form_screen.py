"""A form on one screen: a field for each value that is asked for, groups under their headings, and a button.

What comes of it is not computed here. When the fields are accepted, their values are the answers to the questions of
the flow (``forms.form_flow``), one after the other, as the card would have asked them: so the record, its origins and
what is wrong with the values together are the same. A question for which there is no field yet gets one, and a fault
is shown beside its field; then the flow begins again with the next attempt.
"""

from __future__ import annotations

from functools import partial

from wesperon.frozen import later
from wesperon.screens.field import Field
from wesperon.screens.inside import Inside
from wesperon.screens.running import Dialog, Running
from wesperon.terminal.interaction import Asked
from wesperon.text.messages import tell, tell_many
from wesperon.values import MISSING, Complaint
from wesperon.values.problems import Problem
from wesperon.values.rules import RuleSlot
from wesperon.widgets.parts.boxes import Across, Down
from wesperon.widgets.parts.simple_parts import Button, Label
from wesperon.widgets.widget import Answered, Ended, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.values import words
    from wesperon.values.slots import Slot
    from wesperon.widgets.parts.levels import Level
    from wesperon.widgets.parts.part import Part
    from wesperon.widgets.widget import Outcome
else:
    words = later("wesperon.values.words")

#: More questions than any flow asks of fields: it would not come to an end.
MOST_ASKED = 10_000


def steps(make: Callable[[], Any], driver: Driver, options: DriverOptions) -> Interaction[Any]:
    """Fill a form on a screen, in steps; return the flow that has filled it, or that lacks something.

    ``make`` makes a flow that has asked nothing yet. Raises KeyboardInterrupt for Ctrl-C.
    """
    flow = make()
    left = flow.left
    flow.left = None
    taken: dict[str, str] = {}
    outcome: Outcome
    if left is not None:
        outcome = yield Asked(driver, left.question(0), options)
        if isinstance(outcome, Interrupted):
            raise KeyboardInterrupt
        if isinstance(outcome, Answered) and outcome.value:
            taken = {**left.answers, **left.drafts}
    if flow.start(driver) is None:  # there is nothing to ask
        return flow
    form = FormScreen(make, driver, taken)
    if driver.stage is not None:
        outcome = yield Asked(driver, Dialog(partial(form.open_over, driver.stage)), options)
    else:
        running = form.begin(Running(form.content, driver, options, title=form.title))
        running.raises = True
        driver.stage = running
        try:
            outcome = yield Asked(driver, running, options)
        finally:
            driver.stage = None
            running.let_go()
        if running.failure is not None:
            raise running.failure
        if isinstance(outcome, Interrupted):
            raise KeyboardInterrupt
    if isinstance(outcome, Answered):
        return outcome.value
    flow = make()
    question = flow.start(driver)
    while question is not None:  # without an answer, it says what is missing, as on the card
        question = flow.end()
    if not flow.problems:  # it would do, and yet it was not accepted
        flow.problems.append(Problem(tell("the values were not confirmed"), missing=True))
    return flow


class _Answers:
    """The values as they are now, as functions of the answers see them: of fields that are shown, else as given."""

    def __init__(self, form: FormScreen) -> None:
        self._form = form

    def __getattr__(self, name: str) -> Any:
        form = self._form
        field = form.fields.get(name)
        if field is not None and not field.is_hidden:
            if field.has_value:
                return field.value
            raise AttributeError(f"{name} has no value yet")
        flow = form.flow
        if name in flow.values:
            return flow.values[name]
        slot = next((one for one in flow.slots if one.name == name), None)
        found = MISSING if slot is None else slot.skipped(self) if slot.applies is not None else slot.fallback(self)
        if found is MISSING:
            raise AttributeError(f"{name} has no value yet")
        return found


class FormScreen:
    """The screen of one form, or a dialog; ``taken`` are texts of an earlier run, by the names of their slots."""

    #: The screen that it is on.
    running: Running
    #: The dialog that it is, over that screen.
    level: Level | None = None

    def __init__(self, make: Callable[[], Any], driver: Driver, taken: dict[str, str]) -> None:
        self.make, self.driver = make, driver
        self.flow = make()
        self.answers = _Answers(self)
        self.fields: dict[str, Field] = {}
        self.taken = taken
        self.said = Label("", role="reason")
        members = self.flow.related.members if self.flow.related else set()
        for slot in self.flow.slots:
            is_settled = (
                isinstance(slot, RuleSlot) and slot.rule.takes_each and bool(self.flow.related.given(slot.rule))
            )
            if (slot.name in self.flow.asked and not is_settled) or slot.name in members:
                self._add(slot)
        buttons = Across(Button(tell("Accept"), self.accept, default=True), Button(tell("Stop"), self.stop))
        self.groups = Down(*self._grouped(), weight=None if driver.stage is not None else 1)
        self.content = Down(self.groups, self.said, buttons)
        self.title = str(self.flow.form.__name__) if self.flow.form.__name__ != "Filled" else ""

    def begin(self, running: Running) -> Running:
        """Be on a screen from here on."""
        self.running = running
        self.heed()
        return running

    def open_over(self, running: Running) -> Level:
        """Open as a dialog over a screen that runs."""
        self.level = running.open(self.content, self.title)
        self.begin(running)
        return self.level

    def _add(self, slot: Slot[Any]) -> Field:
        """Make the field of a slot, with what is in its question at first."""
        flow = self.flow
        here = slot
        if isinstance(slot, RuleSlot):
            here = slot.rule.as_slot(flow.related.slots)
        field = Field(here, value=self._first(slot))
        field.answers = self.answers
        problem = flow.faulty.get(slot.name)
        if problem is not None:
            field.begin_with(problem.text or "", Complaint(problem.reason, problem.position))
        elif slot.name in self.taken:
            field.begin_with(self.taken[slot.name])
        field.on_change(self.heed)
        self.fields[slot.name] = field
        return field

    def _first(self, slot: Slot[Any]) -> Any:
        flow = self.flow
        if slot.name in flow.values:
            return flow.values[slot.name]
        if isinstance(slot, RuleSlot) or (slot.name in getattr(flow.related, "members", ())):
            return MISSING
        try:
            value, _ = flow.start_value(slot)
        except (Complaint, AttributeError):  # it depends on what is not there yet
            return MISSING
        return MISSING if value is None and slot.default is not None and slot.initial is not None else value

    def _grouped(self) -> list[Part]:
        """Return the fields, those of a section under its heading."""
        made: list[Part] = []
        group: list[Part] = []
        heading = ""
        for field in self.fields.values():
            section = field.slot.section or ""
            if section != heading and group:
                made.append(Down(*group, title=heading))
                group = []
            heading = section
            group.append(field)
        if group:
            made.append(Down(*group, title=heading))
        return made or [Label("")]

    # What is shown ---------------------------------------------------------------------------------------------------

    def heed(self, value: object = None) -> None:
        """Show and hide fields by what is in the others, and keep the answers."""
        for name, field in self.fields.items():
            field.hide(not self._applies(name, field))
        self.said.show(self._lacking())
        self._keep()

    def _applies(self, name: str, field: Field) -> bool:
        """Return True if a field is to be filled, with the values that the others have now."""
        related = self.flow.related
        if related is not None and name in related.members and name not in related.called:
            chosen = [self._chosen(rule, name) for rule in related.rules if name in rule.names and rule.is_asked]
            if not any(chosen):
                return False
        try:
            return not field.slot.is_skipped(self.answers)
        except AttributeError:  # it depends on a value that is not there yet
            return False

    def _chosen(self, rule: Any, name: str) -> bool:
        field = self.fields.get(rule.key)
        value = field.value if field is not None else None
        return value is True or value == name or (isinstance(value, (tuple, list)) and name in value)

    def _lacking(self) -> str:
        """Return what is still missing, in words."""
        lacking = [field.label for field in self.fields.values() if not field.is_hidden and field.problem is not None]
        if not lacking:
            return ""
        return tell_many("missing: {labels}", "missing: {labels}", len(lacking), labels=", ".join(lacking))

    def _keep(self) -> None:
        """Keep the answers for a run that goes on from here, secrets aside."""
        keeper = self.flow.keeper
        if keeper is None:
            return
        texts = {}
        for name, field in self.fields.items():
            slot = field.slot
            if field.has_value and field.is_touched and not slot.secret and not isinstance(slot, RuleSlot):
                try:
                    texts[name] = words.line_of(field.here, field.value)
                except Exception:  # a kind of the program's own that cannot be written
                    continue
        keeper.keep(texts, {})

    # Buttons ---------------------------------------------------------------------------------------------------------

    def stop(self) -> None:
        """Leave without an answer."""
        if self.level is None:
            self.running.end_with(Ended())
        else:
            self.running.close_level(self.level)

    def accept(self) -> None:
        """Answer the questions of the flow with what the fields have, or show what is wrong."""
        faulty = [field for field in self.fields.values() if not field.is_hidden and field.check() is not None]
        if faulty:
            self.said.show(self._lacking())
            self._go_to(faulty[0])
            return
        flow = self.make()
        flow.left = None
        question = flow.start(self.driver)
        answered: set[str] = set()
        for _ in range(MOST_ASKED):
            if question is None:
                if self.level is None:
                    self.running.finish(flow)
                else:
                    self.running.close_level(self.level, flow)
                return
            if flow.reviews:
                if not self._confirmed(flow, question):
                    return
                question = flow.accept(None)
                continue
            slot = flow.slots[flow.at]
            field = self.fields.get(slot.name)
            if flow.together is not None:
                self._refuse(flow.together[0], flow.together[1])
                return
            if field is None or field.is_hidden or slot.name in answered:
                field = self._show_needed(slot, field)
                if flow.related is not None and slot.name in flow.related.called:
                    self._is_given(field, flow)
                return
            if flow.related is not None and slot.name in flow.related.called and not self._is_given(field, flow):
                return
            answered.add(slot.name)
            question = flow.accept(field.value)

    def _is_given(self, field: Field, flow: Any) -> bool:
        """Return True if a field has a value that is needed by what else was given; else it says so."""
        field.require(flow.related.needed(field.slot))
        if field.check() is None:
            return True
        self.said.show(self._lacking())
        self._go_to(field)
        return False

    def _confirmed(self, flow: Any, question: Any) -> bool:
        """Show the last look at all values; True if they are confirmed, else the focus is on the one to be changed."""
        inside = Inside(question)
        level = self.running.open(inside)
        inside.close = lambda: self.running.close_level(level)
        self.running.until(level)
        if inside.failure is not None:
            raise inside.failure
        outcome = question.outcome
        if isinstance(outcome, Answered) and outcome.value is None:
            return True
        if isinstance(outcome, Answered):
            name = flow.slots[flow.reviewed[outcome.value]].name
            if name in self.fields:
                self._go_to(self.fields[name])
            else:
                self._show_needed(next(slot for slot in self.flow.slots if slot.name == name), None)
        return False

    def _refuse(self, name: str, complaint: Complaint) -> None:
        """Show that values do not go together, beside the field that is to be mended."""
        field = self.fields.get(name)
        if field is None:
            field = self._show_needed(next(slot for slot in self.flow.slots if slot.name == name), None)
        field.refuse(complaint)
        self.said.show(complaint.reason)
        self._go_to(field)

    def _show_needed(self, slot: Slot[Any], field: Field | None) -> Field:
        """Show a field that is wanted by what was given elsewhere."""
        if field is None:
            field = self._add(next(one for one in self.flow.slots if one.name == slot.name))
            self.groups.add(field)
        field.hide(False)
        self.flow.asked.add(slot.name)
        if self.flow.related is not None:
            self.flow.related.called.add(slot.name)
        field.check()
        self._go_to(field)
        return field

    def _go_to(self, field: Field) -> None:
        self.running.top.arrangement.forget()
        self.running.top.arrangement.give_focus(field)
