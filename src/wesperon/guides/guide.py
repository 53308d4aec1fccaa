"""Guides: run from a file, on a terminal or by answers that were given beforehand."""

from __future__ import annotations

import os

from wesperon.argv import ALL, NEVER, mode_of, read_words
from wesperon.argv.errors import unreadable
from wesperon.context import current
from wesperon.documents.faults import Faults
from wesperon.documents.question_set import SetReader
from wesperon.files.document import Document
from wesperon.form import Form, Untyped, answer_shell
from wesperon.forms.filling import FillOptions
from wesperon.forms.unfinished import unfinished
from wesperon.guides.flow import GuideFlow
from wesperon.guides.reader import GuideData, GuideReader, read_guide
from wesperon.output.exit_status import print_page
from wesperon.output.help import help_rows, version_line
from wesperon.output.style import rendered
from wesperon.output.uncaught import tell_uncaught
from wesperon.scope import within
from wesperon.sources.files import read_file
from wesperon.sources.source import Found, problems_of, value_of
from wesperon.terminal.interaction import Asked, TurnAwaited, play
from wesperon.values import Complaint
from wesperon.values.argument_types import A_PATH, refuse_types
from wesperon.values.keywords import refuse_keywords
from wesperon.values.problems import Problem, Problems, Refusal
from wesperon.values.provenance import note_file
from wesperon.values.records import slots_of
from wesperon.widgets.card import Card
from wesperon.widgets.widget import Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any, Unpack

    from wesperon.argv import ParsedArgs
    from wesperon.forms.signatures import Keywords
    from wesperon.terminal.interaction import Interaction as Work


class GuideResult:
    """A way gone through a guide.

    ``trail`` are the steps passed, in order, each with its answer (None if it asked nothing); ``answers`` the last
    answer to each step that asked; ``learned`` what was learned on the way; ``end`` the step at which the guide ended,
    and ``says`` what it said there; ``shown`` whether that is on the user's terminal already.
    """

    def __init__(self, walking: GuideFlow, *, shown: bool = False) -> None:
        self.shown = shown
        self.trail: tuple[tuple[str, Any], ...] = tuple((one.step, one.answer) for one in walking.trail)
        self.answers: dict[str, Any] = {
            name: answer for name, answer in walking.answers.items() if walking.steps[name].slot is not None
        }
        self.learned: tuple[str, ...] = tuple(walking.learned)
        self.end: str = walking.trail[-1].step
        step = walking.steps[self.end]
        self.says: str = walking.says(step)
        self.outcome: str = step.ends or self.end

    def __eq__(self, other: object) -> bool:
        return isinstance(other, GuideResult) and {**self.__dict__, "shown": other.shown} == other.__dict__

    __hash__ = None  # type: ignore[assignment]

    def __repr__(self) -> str:
        return f"Walk(end={self.end!r}, trail={self.trail!r}, learned={self.learned!r})"


class Guide:
    r"""A guide in a file (TOML, JSON or YAML): steps that say and ask something, and lead on by the answers.

    ``path`` is the file. Raises Problems with everything that is wrong with the file.

    Example:
        >>> path = Path(folder, "dome.toml")
        >>> text = 'start = "shut"\n[steps.shut]\nask = "Is the dome shut?"\nkind = "boolean"\nends = true\n'
        >>> size = path.write_text(text)
        >>> Guide(path).walk(["--shut=yes"]).answers
        {'shut': True}

    """

    def __init__(self, path: str | os.PathLike[str]) -> None:
        refuse_types("Guide(): ", {"path": path}, {"path": A_PATH})
        self.path = os.fspath(path)
        try:
            self._steps: GuideData = read_guide(self.path)
        except Problems as problems:
            tell_uncaught(problems)
            raise
        steps = self._steps.steps
        slots = {name: step.slot.by_name_only() for name, step in steps.items() if step.slot is not None}
        self.name, self.description, self.version = self._steps.name, self._steps.description, self._steps.version
        body = {"__doc__": self.description, "__module__": f"guide:{self.name}"}
        self.form: type[Form] = Form.with_slots("Answers", slots, body)
        note_file(self.form, os.path.realpath(self.path))

    def walk(
        self,
        words: Sequence[str] | None = None,
        **keywords: Unpack[Keywords],
    ) -> GuideResult:
        """Go through the guide.

        ``words`` may give answers by the names of their steps, ``--power=yes``, and a file with ``--answers``, where a
        list holds the answers for a step that is reached more than once; ``None`` means the words of the context. A
        step that has no answer is asked on the terminal. The keywords are those of :meth:`Form.fill`.

        Raises Problems if something that was given is wrong, or something is missing and nobody can be asked;
        KeyboardInterrupt if the user stops.
        """
        refuse_keywords("Guide.walk", keywords)
        with within(keywords.pop("context", None) or current()):
            answer_shell(words, self.form, runs=True)
            reading = read_words(slots_of(self.form), list(current().words if words is None else words))
            options = FillOptions(keywords)
            try:
                if "help" in reading.builtin or "version" in reading.builtin:
                    self._say(reading)
                return play(self._work(reading, options))
            except (Problems, Refusal, KeyboardInterrupt) as error:
                tell_uncaught(error)
                raise

    def _say(self, reading: ParsedArgs) -> None:
        """Print what ``--help`` or ``--version`` asks for, and end."""
        if "help" in reading.builtin:
            print_page(rendered(help_rows([self.name], self.description, slots_of(self.form))))
        else:
            print_page(version_line(self.name, self.version))
        raise SystemExit(0)

    def _work(self, reading: ParsedArgs, options: FillOptions) -> Work[GuideResult]:
        given = self._given(reading, options)
        mode = mode_of(reading, current().environ, options.asking)
        if mode == ALL:
            given = {}
        driver = None if mode == NEVER else options.driver or options.reach()
        walking = GuideFlow(self._steps, given, driver=driver is not None)
        if driver is None:
            walking.start()
            return GuideResult(walking)
        try:
            asking = options.for_driver()
            if options.resume and driver.is_terminal:
                walking.keeper = unfinished(asking.name, self.form)
                if walking.keeper is not None:
                    walking.left = walking.keeper.left(lambda name: name.partition(" ")[2])
            if options.is_async:
                yield TurnAwaited(driver)
            with driver.opened(asking):
                question = walking.start()
                if question is not None:
                    outcome = yield Asked(driver, Card(walking, question), asking)
                    if isinstance(outcome, Interrupted):
                        walking.work()
                        raise KeyboardInterrupt
                if not walking.trail or self._steps.steps[walking.trail[-1].step].ends is None:
                    walking.asks = False
                    walking.advance()
                if walking.keeper is not None:
                    walking.keeper.forget()
            return GuideResult(walking, shown=question is not None and driver.is_terminal)
        finally:
            if walking.keeper is not None:
                walking.keeper.end()
            options.let_go(driver)

    def _given(self, reading: ParsedArgs, options: FillOptions) -> Mapping[str, list[Any]]:
        """Return the answers given beforehand, by step; raises Problems."""
        slots = slots_of(self.form)
        problems = list(reading.problems)
        found: dict[str, list[Any]] = {}
        for name, texts in reading.given.items():
            try:
                found[name] = [slots[name].combine([one.text for one in texts])]
            except Complaint as complaint:
                problems += unreadable(slots[name], list(texts), complaint, reading)
        if "answers" in reading.builtin:
            file = read_file(reading.builtin["answers"], "answers")
            problems += file.open_level((), slots.values())
            for name, slot in slots.items():
                one = None if name in found else file.find(slot)
                if one is None:
                    continue
                several = isinstance(one.value, list) and not (
                    slot.shape.repeats and not any(isinstance(item, list) for item in one.value)
                )
                try:
                    found[name] = [
                        value_of(slot, Found(item, one.location)) for item in (one.value if several else [one.value])
                    ]
                except Complaint as complaint:
                    problems += problems_of(slot, one, "answers", complaint)
        if problems:
            raise reading.refused(problems)
        return found


def lint(path: str | os.PathLike[str]) -> list[Problem]:
    """Return what is wrong with a file that holds a guide or a set of questions; empty if nothing is."""
    try:
        document = Document(os.fspath(path))
    except Problems as problems:
        return list(problems)
    faults = Faults(document)
    if isinstance(document.top, dict) and "steps" in document.top:
        faults.within(GuideReader(faults, Untyped).guide)
    else:
        faults.within(SetReader(faults, Untyped).read)
    return faults.told
