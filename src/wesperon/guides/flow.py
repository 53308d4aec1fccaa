"""The way through a guide: which step is open, which were passed, what is known by now.

It is a course as a card wants one (``widgets.card``): an answer leads to the next step, and back leads along the trail.
"""

from __future__ import annotations

from wesperon.forms.question_flow import Flow
from wesperon.forms.questions import Ask, question
from wesperon.frozen import Frozen
from wesperon.guides.reader import NAMED
from wesperon.output.card import shown
from wesperon.screen.layout import gutter_for
from wesperon.text.escape import visible, visible_lines
from wesperon.text.messages import tell
from wesperon.values import MISSING, Complaint
from wesperon.values.problems import Problem, Problems
from wesperon.values.records import ASKED
from wesperon.widgets.card import AnsweredField
from wesperon.widgets.notice import Notice
from wesperon.widgets.question import Question
from wesperon.widgets.static_field import answered
from wesperon.widgets.widget import Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    import re
    from collections.abc import Mapping
    from typing import Any

    from wesperon.guides.reader import GuideData, Step
    from wesperon.widgets.card import AnsweredField
    from wesperon.widgets.question import Question

#: Without a user, a way of more steps than this is one that never ends.
LONGEST = 10_000


class TrailEntry(Frozen):
    """A step that was passed: its name, the answer, whether it was given beforehand, and its record on the card."""

    step: str
    answer: Any
    given: bool
    shown: Any


class GuideFacts:
    """What later steps may ask about: the answers as attributes, None if there is none; it holds what was learned."""

    def __init__(self, answers: Mapping[str, Any], learned: tuple[str, ...]) -> None:
        self.__dict__.update(answers)
        self._learned = learned  # the name of no step begins so

    def __contains__(self, fact: str) -> bool:
        return fact in self._learned

    def __getattr__(self, name: str) -> None:
        return None


class GuideFlow(Flow):
    """One way through a guide, with the answers that were ``given`` for steps, the first for the first time."""

    def __init__(self, steps: GuideData, given: Mapping[str, list[Any]], *, driver: bool) -> None:
        super().__init__()
        self.steps = steps.steps
        self.given = given
        self.asks = driver
        self.trail: list[TrailEntry] = []
        #: The last answers, what was learned and how often each step was passed, as the trail has it.
        self.answers: dict[str, Any] = {}
        self.learned: dict[str, None] = {}
        self.times: dict[str, int] = {}
        self.at = steps.start
        self.ended = False

        self.gutter = gutter_for(_label(step) for step in self.steps.values())

    def start(self) -> Question | None:
        """Return the first question; None if the guide ends without one."""
        return self.begin() if self.asks else self.advance()

    @property
    def passed(self) -> list[AnsweredField]:
        """The records of the steps passed."""
        return [one.shown for one in self.trail]

    @property
    def known(self) -> GuideFacts:
        """What is known by now."""
        return GuideFacts(self.answers, tuple(self.learned))

    def _note(self, one: TrailEntry) -> None:
        """Record the answer, the facts and the visit of a step that was passed."""
        self.answers[one.step] = one.answer
        self.learned.update(dict.fromkeys(self.steps[one.step].learns))
        self.times[one.step] = self.times.get(one.step, 0) + 1

    def answer(self, value: Any) -> Question | None:
        """Take the answer to the open step. Return the question of the next one that asks, or None."""
        self.kept[self.at] = value
        self._pass(value, self.open)
        return self.advance()

    def give_up(self) -> Question | None:
        """Handle the end of input: the guide stops here, unfinished."""
        self.ended = True
        return None

    def back(self) -> Question | None:
        """Return the step before, with its answer; None if there is none that was asked."""
        at = next((at for at in range(len(self.trail) - 1, -1, -1) if not self.trail[at].given), None)
        if at is None:
            return None
        self.keep_draft(self.at)
        self.at = self.trail[at].step
        del self.trail[at:]
        self.answers, self.learned, self.times = {}, {}, {}
        for one in self.trail:
            self._note(one)
        return self._question()

    def saved_texts(self) -> dict[str, str]:
        """Return the answers in their order, as texts by the number and name of the step; secrets end them."""
        texts = {}
        for number, one in enumerate(self.trail):
            slot = self.steps[one.step].slot
            if one.given:
                continue
            if slot is not None and slot.secret:
                break
            texts[f"{number} {one.step}"] = "" if slot is None or one.answer is None else slot.format(one.answer)
        return texts

    def saved_drafts(self) -> dict[str, str]:
        """Return what was typed in steps that have no answer yet, but for secrets.

        They have no numbers, since there is no order.
        """
        secrets = {name for name, step in self.steps.items() if step.slot is not None and step.slot.secret}
        return {f" {name}": text for name, text in super().saved_drafts().items() if name not in secrets}

    @property
    def open_name(self) -> str:
        """The step that is open; empty where nothing can be typed, and for a secret."""
        slot = self.steps[self.at].slot
        return "" if slot is None or slot.secret else f" {self.at}"

    def restore(self, answers: Mapping[str, str], drafts: Mapping[str, str]) -> None:
        """Replay the answers of an earlier run, until one of them no longer applies."""
        self.drafts = {name[1:]: text for name, text in drafts.items() if name[1:] in self.steps}
        for key, text in answers.items():
            name = key.partition(" ")[2]
            if not self._pass_on() or self.at != name:
                return
            slot = self.steps[name].slot
            try:
                answer = None if slot is None else slot.combine([text])
            except Complaint:
                return
            self._pass_unseen(answer, given=False)

    def advance(self) -> Question | None:
        """Pass every step that needs no user, up to the first that does; its question."""
        return self._question() if self._pass_on() else None

    def _pass_on(self) -> bool:
        """Pass every step that needs no user. Return True if one that does is reached."""
        while True:
            step = self.steps[self.at]
            answers = self.given.get(self.at)
            used = self.times.get(self.at, 0)
            if step.slot is None and (step.ends is not None or not self.asks):
                self._pass_unseen(None, given=True)
            elif answers is not None and used < len(answers):
                self._pass_unseen(answers[used], given=True)
            elif not self.asks:
                raise Problems([self._missing(step, used)])
            else:
                return True
            if self.steps[self.trail[-1].step].ends is not None:
                return False
            if len(self.trail) > LONGEST + len(self.steps):
                raise Problems([Problem(tell("the guide loops and never ends"), self.at, "answers")])

    def _pass(self, answer: Any, widget: Any, *, given: bool = False) -> None:
        """Leave the step at which the way is for the next one."""
        step = self.steps[self.at]
        self.drafts.pop(self.at, None)
        self.trail.append(TrailEntry(self.at, answer, given, AnsweredField(widget)))
        self._note(self.trail[-1])
        if step.ends is None:
            following = step.following(answer, self.known if step.ways else None)
            if following is None:
                raise Problems([Problem(tell("there is no next step for this answer"), self.at, "answers")])
            self.at = following
        else:
            self.ended = True

    def _pass_unseen(self, answer: Any, *, given: bool) -> None:
        step = self.steps[self.at]
        text = self.says(step).split("\n")[0] if step.slot is None else shown(step.slot, answer)
        asked = (step.slot.ask or "") if step.slot is not None else ""
        self._pass(answer, answered(_label(step), text, self.gutter, asked), given=given)

    def says(self, step: Step) -> str:
        """Return what a step says, with the answers that it speaks of put in."""

        def put_in(found: re.Match[str]) -> str:
            name = found[1]
            if name is None:
                return "{"
            slot = self.steps[name].slot
            return shown(slot, self.answers.get(name)) if slot is not None else ""

        return NAMED.sub(put_in, step.says).strip("\n")

    def _question(self) -> Question:
        """Return the question of the step at which the way is."""
        step = self.steps[self.at]
        says = visible_lines(self.says(step))
        has_back = any(not one.given for one in self.trail)
        keys = "   ".join([tell("Shift-Tab: back")] * has_back)
        if step.slot is None:
            self.open = Question(Prompt(visible(_label(step)), self.gutter, keys=keys), Notice(says))
        else:
            default = self.kept.get(self.at, MISSING)
            draft = self.drafts.get(self.at)
            given = MISSING if default is None else default
            ask = Ask(step.slot, given, draft, answers=self.known, origin=ASKED, stays=True)
            self.open = question(ask, self.gutter, keys=keys, says=says, label=_label(step))
            if draft is not None:
                self.open.keep_draft()
        opened: Question = self.open
        return opened

    def _missing(self, step: Step, used: int) -> Problem:
        if used:
            reason = tell("is reached again, and there is no further answer: give a list of them")
        else:
            reason = tell("is missing: {wanted}", wanted=step.slot.kind.wants)
        return Problem(reason, step.name, None, missing=True)


def _label(step: Step) -> str:
    name = step.name.replace("_", " ")
    return name[:1].upper() + name[1:]
