"""Guides in files: steps that say something, ask something, and lead on.

    name, description, version, start    of the guide; it starts at its first step if nothing is said
    choices                        lists to choose from, by name
    steps                          a table for each step; what one may say is in ``STEP``

``next`` is the name of a step; or a table from answer to step, in which ``otherwise`` means every other answer; or
a list of tables ``{ when = condition, to = step }``, of which the first that holds counts, and the last may go without
``when``. A condition is one of a set of questions, which asks about the answers to steps; ``{ learned = "..." }`` asks
about what was learned. A step that ``ends`` the guide has no next one.

Beside what is wrong with each step, the reader finds what is wrong with the way through them.
"""

from __future__ import annotations

import re

from wesperon.documents.faults import read_whole
from wesperon.documents.question_set import KEYS, SORTS, Condition, SetReader
from wesperon.form import Untyped
from wesperon.frozen import Frozen
from wesperon.text.messages import tell
from wesperon.text.spelling import MOST_HINTS, nearest
from wesperon.values.examination import FOUR
from wesperon.values.records import RESERVED

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.files.document import Path
    from wesperon.values.slots import Slot

TOP = ("name", "description", "version", "start", "choices", "steps")
#: What a step may say beside what a slot may, and what it means.
STEP: dict[str, tuple[tuple[type, ...], str]] = {
    "says": ((str,), "what is said before the question; {step} means the answer to another step, {{ is a brace"),
    "next": ((str, dict, list), "the step that comes next, by the answer or by conditions"),
    "learns": ((str, list), "what is known once the step has been answered"),
    "ends": ((bool, str), "the guide ends here; a text says how"),
}
#: What a slot may say that means nothing in a guide.
ELSEWHERE = ("applies", "default", "env", "many", "named_only", "piped", "rest", "short")
QUESTION = tuple(key for key in KEYS if key not in ELSEWHERE)
OTHERWISE = "otherwise"
#: The name of a step in what is said, in braces; or a brace that is written twice, and is one.
NAMED = re.compile(r"\{\{|\{([A-Za-z][A-Za-z0-9_]*)\}")


class Step(Frozen):
    """One step: what it says, its question (None: it only says something), and where it leads.

    ``ways`` are the conditions in their order, each with the step that it leads to; ``by_answer`` leads on by the text
    of the answer.
    """

    name: str
    says: str
    slot: Any
    by_answer: Any
    ways: tuple[tuple[Any, str], ...]
    learns: tuple[str, ...]
    ends: str | None

    def following(self, answer: Any, known: Any) -> str | None:
        """Return the step that comes next; None if none does."""
        if self.by_answer:
            ways: dict[str, str] = self.by_answer
            return next((ways[text] for text in self.texts(answer) if text in ways), ways.get(OTHERWISE))
        return next((to for holds, to in self.ways if holds is None or holds(known)), None)

    def texts(self, answer: Any) -> list[str]:
        """Return the texts of an answer; of several, of each."""
        if self.slot is None or answer is None:
            return []
        texts: list[str] = self.slot.shape.texts(self.slot, answer)
        return texts

    @property
    def leads_to(self) -> tuple[str, ...]:
        """Every step that may come next."""
        return (*(self.by_answer or {}).values(), *(to for _, to in self.ways))


class GuideData:
    """All that a guide's file says."""

    def __init__(self, name: str, description: str, version: str, start: str, steps: Mapping[str, Step]) -> None:
        self.name, self.description, self.version = name, description, version
        self.start = start
        self.steps = steps


def read_guide(name: str) -> GuideData:
    """Return the guide that a file holds; raises Problems with everything that is wrong with it."""
    return read_whole(name, lambda faults: GuideReader(faults, Untyped).guide())


class GuideReader(SetReader):
    """Reads one guide; what is wrong joins the faults."""

    sorts = {**SORTS, "learned": str}

    def guide(self) -> GuideData:
        """Return the guide, as far as it can be read."""
        top = self.faults.document.top
        declared = self.read(
            {key: value for key, value in top.items() if key not in ("start", "steps")}
            if isinstance(top, dict)
            else top,
            tuple(key for key in TOP if key not in ("start", "steps")),
        )
        if not isinstance(top, dict):
            return GuideData("", "", "", "", {})
        tables = top.get("steps", {})
        if not self.faults.is_a(("steps",), tables, dict) or not tables:
            if not tables:
                self.faults.add(("steps",), tell("no steps are declared"))
            return GuideData("", "", "", "", {})
        self.tables: dict[str, Any] = tables
        self.questions = self._questions()
        self.facts = {
            fact for table in tables.values() if isinstance(table, dict) for fact in _facts(table.get("learns"))
        }
        #: Steps from which a way leads nobody knows where, each with the steps that may be meant.
        self.lost: dict[str, list[str]] = {}
        steps = {name: self._step(name) for name in tables}
        start = top.get("start", next(iter(tables)))
        if self.faults.is_a(("start",), start, str):
            if start not in steps:
                self.faults.unknown(("start",), start, steps, tell("step"))
            else:
                self._way_through(steps, start)
        for key in self.choices:
            if key not in self.used:
                self.kind_of((), {"choices": key})
        return GuideData(declared.name, declared.description, declared.version, str(start), steps)

    def _questions(self) -> dict[str, Slot[Any]]:
        """Return the slots of all steps that ask something."""
        made = {}
        for name, table in self.tables.items():
            path = ("steps", name)
            if not (name.isidentifier() and name.isascii() and not name.startswith("_")):
                reason = tell("a name is letters from a to z, digits and _, and begins with a letter")
                self.faults.add(path, reason, name)
            own = self.faults.table(path, table, (*STEP, *QUESTION))
            for key, (types, _) in STEP.items():
                if key in own:
                    self.faults.is_a((*path, key), own[key], *types)
            asked = {key: own[key] for key in own if key in QUESTION}
            if asked and name in RESERVED:
                self.faults.add(path, f"--{name} of {name} is also {FOUR}", name)
            if asked:
                slot = self.slot(path, asked, {}, set())
                if slot is not None:
                    slot.name = name
                    made[name] = slot
        return made

    def _step(self, name: str) -> Step:
        table = self.tables[name] if isinstance(self.tables[name], dict) else {}
        path = ("steps", name)
        slot = self.questions.get(name)
        by_answer, ways = self._next((*path, "next"), table, slot)
        ends = table.get("ends")
        ended = None if ends in (None, False) else "" if ends is True else str(ends)
        if ended is None and not by_answer and not ways and "next" not in table:
            self.faults.add(path, tell("has neither next nor ends"))
        if ended is not None and "next" in table:
            self.faults.add((*path, "next"), tell("a step that ends the guide has no next one"))
        says = table.get("says", "")
        if not says and ended is None and not any(key in QUESTION for key in table):
            self.faults.add(path, tell("has neither says nor ask"))
        for spoken in NAMED.findall(says) if isinstance(says, str) else ():
            if spoken and spoken not in self.questions:
                self.faults.unknown((*path, "says"), spoken, self.questions, tell("step"))
        return Step(name, str(says), slot, by_answer, tuple(ways), tuple(_facts(table.get("learns"))), ended)

    def _next(
        self, path: Path, table: Mapping[str, Any], slot: Slot[Any] | None
    ) -> tuple[dict[str, str], list[tuple[Any, str]]]:
        given = table.get("next")
        if isinstance(given, str):
            return {}, [(None, given)] if self._is_step(path, given) else []
        if isinstance(given, dict):
            return self._by_answer(path, given, slot, asks=any(key in QUESTION for key in table)), []
        ways: list[tuple[Any, str]] = []
        entries: list[Any] = given if isinstance(given, list) else []
        for at, entry in enumerate(entries):
            where = (*path, at)
            own = self.faults.table(where, entry, ("when", "to"))
            if "when" not in own and at < len(entries) - 1 and isinstance(entry, dict):
                self.faults.add(where, tell("always holds, so that the entries after it never count: put it last"))
            holds = (
                self.condition((*where, "when"), own["when"], self.questions, set(self.tables))
                if "when" in own
                else None
            )
            if "to" not in own:
                self.faults.add(where, tell("to is missing: the step that comes next"))
            elif self.faults.is_a((*where, "to"), own["to"], str) and self._is_step((*where, "to"), own["to"]):
                ways.append((holds, own["to"]))
        if isinstance(given, list) and (not given or (isinstance(given[-1], dict) and "when" in given[-1])):
            self.faults.add(path, tell("no next step if no condition holds: leave out when in the last entry"))
        return {}, ways

    def _by_answer(self, path: Path, given: Mapping[str, Any], slot: Slot[Any] | None, *, asks: bool) -> dict[str, str]:
        """Return a table from answer to step."""
        if slot is None:
            if not asks:
                self.faults.add(path, tell("the step asks nothing, so that no answer can lead on"))
            return {}
        labels = self._answers(slot)
        made = {}
        for answer, to in given.items():
            where = (*path, answer)
            if labels is not None and answer not in (*labels, OTHERWISE):
                self.faults.unknown(where, answer, [*labels, OTHERWISE], tell("answer"))
            if self.faults.is_a(where, to, str) and self._is_step(where, to):
                made[answer] = to
        if OTHERWISE not in given:
            left = [label for label in labels or () if label not in given]
            if labels is None:
                self.faults.add(path, tell("any other answer has no next step: add otherwise"))
            elif left:
                self.faults.add(path, tell("there is no next step for {answers}", answers=", ".join(left[:5])))
        return made

    def _answers(self, slot: Slot[Any]) -> list[str] | None:
        """Return the texts of all answers to a slot; None if anything may be one."""
        if not slot.shape.takes_text:
            return ["yes", "no"]
        return list(slot.kind.choices.labels()) if slot.kind.choices is not None else None

    def _is_step(self, path: Path, name: str) -> bool:
        if name not in self.tables:
            self.faults.unknown(path, name, self.tables, tell("step"))
            near = nearest(name, self.tables) if len(self.lost) < MOST_HINTS else []
            self.lost.setdefault(str(path[1]), []).extend(near)
            return False
        return True

    def of_sort(
        self, path: Path, sort: str, table: Mapping[str, Any], before: Mapping[str, Slot[Any]], names: set[str]
    ) -> Condition | None:
        """Return a condition that asks about an answer, or about what was learned."""
        if sort != "learned":
            return super().of_sort(path, sort, table, before, set() if before is self.questions else names)
        fact = table["learned"]
        if fact not in self.facts:
            self.faults.unknown((*path, "learned"), fact, self.facts, tell("fact"))
            return None
        return Condition(lambda known: fact in known, fact)

    def _way_through(self, steps: Mapping[str, Step], start: str) -> None:
        """Find steps that nobody reaches, and loops that nobody leaves."""
        leads = {name: (*step.leads_to, *self.lost.get(name, ())) for name, step in steps.items()}
        reached = _reached(leads, start)
        for name in steps:
            if name not in reached:
                self.faults.add(("steps", name), tell("unreachable: no step leads here"))
        before: dict[str, list[str]] = {}
        for name in reached:
            for to in leads[name]:
                before.setdefault(to, []).append(name)
        leaving = {name for name in reached if steps[name].ends is not None or name in self.lost or not leads[name]}
        left = list(leaving)
        while left:
            for name in before.get(left.pop(), ()):
                if name not in leaving:
                    leaving.add(name)
                    left.append(name)
        told: set[str] = set()
        for name in steps:
            if name in reached and name not in leaving and name not in told:
                loop = _reached(leads, name)
                told |= loop
                inside = ", ".join(step for step in steps if step in loop)
                self.faults.add(("steps", name), tell("no end can be reached from here: {steps}", steps=inside))


def _reached(leads: Mapping[str, Sequence[str]], start: str) -> set[str]:
    """Return the steps that may come after one, and that one; ``leads`` says where each leads to."""
    reached, left = {start}, [start]
    while left:
        for name in leads[left.pop()]:
            if name not in reached:
                reached.add(name)
                left.append(name)
    return reached


def _facts(given: Any) -> list[str]:
    return [given] if isinstance(given, str) else [str(fact) for fact in given] if isinstance(given, list) else []
