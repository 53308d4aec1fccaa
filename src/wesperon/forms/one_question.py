"""One question in the middle of a program: ``ask`` and ``confirm``, and the same in an event loop.

The question is a form of one slot that no word fills: it is asked as all questions are, on the terminal of the context
in force, so that inside a console or a command it is where the rest is.
"""

from __future__ import annotations

import sys

from wesperon.argv import NEVER, mode_of, read_words
from wesperon.context import current
from wesperon.forms.filling import FillOptions, steps
from wesperon.output.uncaught import tell_uncaught
from wesperon.terminal.elsewhere import in_thread, stage_elsewhere
from wesperon.terminal.interaction import play, play_async
from wesperon.values import MISSING, DeclarationError, overload, tell
from wesperon.values.problems import Problem, Problems
from wesperon.values.records import Record, made_class, slots_of
from wesperon.values.slots import Slot, slot
from wesperon.values.together import ASKED

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from types import FrameType
    from typing import Any, TypeVar, Unpack

    from wesperon.terminal.driver import Driver
    from wesperon.values.signatures import Kinds, Settings

    T = TypeVar("T")

__all__ = ["ask", "ask_async", "confirm", "confirm_async"]

#: The keywords of a slot that are about words, and about a value that nobody asks for.
OF_WORDS = (
    *("short", "short_no", "alone", "repeats", "rest", "named_only", "renamed_from", "piped", "section"),
    *("default", "applies"),
)
#: Modules that call a function of the program for one value, and those that call it for a record or a command.
OF_ONE_VALUE = ("wesperon.values.", "wesperon.argv", "wesperon.completion.", "wesperon.widgets.", "wesperon.editing.")
OF_MORE = (
    *("wesperon.values.together", "wesperon.values.parameters", "wesperon.commands.", "wesperon.console."),
    *("wesperon.screens.running", "wesperon.screens.as_form"),
)
#: What the one slot is called.
ANSWER = "answer"


@overload
def ask(question: str, *, unattended: str = ..., timeout: float | None = ..., **settings: Unpack[Settings]) -> str: ...
@overload
def ask(
    question: str,
    kind: Kinds[T],
    *,
    unattended: T = ...,
    timeout: float | None = ...,
    **settings: Unpack[Settings],
) -> T: ...
def ask(
    question: str, kind: Any = str, *, unattended: Any = MISSING, timeout: float | None = None, **settings: Any
) -> Any:
    """Ask one question on the terminal, in the middle of a program; return the value.

    ``question`` is its text; ``kind`` and the ``settings`` are those of :func:`wesperon.slot` about a value, and
    ``env``. ``unattended`` is the value if nobody can be asked, or no answer comes in ``timeout`` seconds. The answer
    is in no record, replay or file.

    Raises Problems, which name the question, if nobody can be asked and there is no ``unattended``, and for Ctrl-D;
    KeyboardInterrupt for Ctrl-C; DeclarationError for keywords that are about words.

    Example:
        >>> ask("How many frames?", int, unattended=12)
        12

    """
    asking = _Asking(question, kind, unattended, timeout, settings)
    if asking.known is not MISSING:
        return asking.known
    stage = stage_elsewhere()
    if stage is not None:
        given = {"unattended": unattended, "timeout": timeout, **settings}
        return stage.ask_for(ask, ask_async, question, kind, left=asking.left, **given)
    try:
        return asking.keep(play(asking.steps())[ANSWER])
    except (Problems, KeyboardInterrupt) as error:
        return asking.keep(asking.instead(error))


async def ask_async(
    question: str, kind: Any = str, *, unattended: Any = MISSING, timeout: float | None = None, **settings: Any
) -> Any:
    """Ask inside an event loop, whose other tasks go on.

    ``question``, ``kind``, ``unattended``, ``timeout`` and ``settings`` are those of :func:`ask`, and so are the value
    and the errors.

    Example:
        >>> asyncio.run(ask_async("How many frames?", int, unattended=12))
        12

    """
    asking = _Asking(question, kind, unattended, timeout, settings, is_async=True)
    if asking.known is not MISSING:
        return asking.known
    if stage_elsewhere() is not None:
        return await in_thread(lambda: ask(question, kind, unattended=unattended, timeout=timeout, **settings))
    try:
        return asking.keep((await play_async(asking.steps()))[ANSWER])
    except (Problems, KeyboardInterrupt) as error:
        return asking.keep(asking.instead(error))


def confirm(
    question: str, *, unattended: bool | None = None, timeout: float | None = None, **settings: Unpack[Settings]
) -> bool:
    """Ask a question for yes or no; return whether it was yes. It begins with neither, unless ``initial=`` says so.

    The ``question``, ``unattended``, ``timeout`` and the errors are those of :func:`ask`.

    Example:
        >>> confirm("Close the dome?", unattended=True)
        True

    """
    return bool(ask(question, bool, unattended=_or_missing(unattended), timeout=timeout, **settings))


async def confirm_async(
    question: str, *, unattended: bool | None = None, timeout: float | None = None, **settings: Unpack[Settings]
) -> bool:
    """Ask for yes or no inside an event loop; ``question``, ``unattended`` and ``timeout`` are those of :func:`ask`.

    Example:
        >>> asyncio.run(confirm_async("Close the dome?", unattended=False))
        False

    """
    return bool(await ask_async(question, bool, unattended=_or_missing(unattended), timeout=timeout, **settings))


def _or_missing(unattended: bool | None) -> Any:
    return MISSING if unattended is None else unattended


def _refuse_inside_a_value() -> None:
    """Raise DeclarationError for a question in what converts, checks or bounds one value, which is called at any time.

    That is seen from who calls whom: on the way out, a value is found before a command or a form.
    """
    frame: FrameType | None = sys._getframe(1)
    while frame is not None:
        module = frame.f_globals.get("__name__", "")
        if module.startswith(OF_MORE):
            return
        if module.startswith(OF_ONE_VALUE):
            raise DeclarationError(
                "ask() in what reads, checks or bounds one value: ask in check(self), or in run(self)"
            )
        frame = frame.f_back


class _Answer(Slot["Any"]):
    """The one slot. It has no name that anybody knows, and so no label: the question itself stays beside the answer."""

    label = ""


class _Options(FillOptions):
    """How the question is asked; knows whether anybody was there."""

    found: Driver | None = None

    def reach(self) -> Driver | None:
        """Return a driver on the controlling terminal; None if there is none, or nobody at it."""
        self.found = super().reach()
        return self.found


class _Asking:
    """One question, from its declaration to the value."""

    def __init__(
        self,
        question: str,
        kind: Any,
        unattended: Any,
        timeout: float | None,
        settings: Mapping[str, Any],
        *,
        is_async: bool = False,
    ) -> None:
        if not isinstance(question, str) or not question:
            raise DeclarationError(f"ask({question!r}): must be a question, such as ask('How many?', int)")
        for name in OF_WORDS:
            if name in settings:
                raise DeclarationError(
                    f"{name}= is not for a single question, which is answered and never given as a word"
                )
        _refuse_inside_a_value()
        self.kept = ASKED.get()
        self.key = (question, kind, settings)
        declared = slot(kind, question, **settings)
        made: Slot[Any] = object.__new__(_Answer)
        made.__dict__.update(declared.__dict__)
        self.question = question
        if unattended is not MISSING and unattended is not None:
            unattended = made_class("Unattended", (Record,), {ANSWER: made})(answer=unattended).answer
        self.unattended = unattended
        self.form: type[Any] = Record.with_slots("Question", {ANSWER: made}, {"__module__": __name__})
        self.options = _Options({"resume": False, "timeout": timeout}, is_async=is_async)
        self.options.name = current().program_name

    @property
    def known(self) -> Any:
        """The answer, if a check before of the same filling has asked this for the same values; else MISSING."""
        return MISSING if self.kept is None else self.kept.find(self.key)

    def keep(self, value: Any) -> Any:
        """Keep the answer for the checks that may follow; return it."""
        if self.kept is not None:
            self.kept.keep(self.key, value)
        return value

    def steps(self) -> Any:
        """Return the steps of asking, whose result is a record."""
        reading = read_words(slots_of(self.form), [])
        self.is_open = mode_of(reading, current().environ, None) != NEVER
        record = yield from steps(self.form, reading, self.options)
        return record.__dict__

    def instead(self, error: Problems | KeyboardInterrupt) -> Any:
        """Return the value if nobody answered, should there be one; else raise what is wrong, with the question.

        A program that does not catch it ends without a trace.
        """
        if isinstance(error, Problems):
            is_missing = all(problem.missing for problem in error)
            nobody = not self.is_open or self.options.found is None or any(problem.timed_out for problem in error)
            if is_missing and nobody and self.unattended is not MISSING:
                return self.unattended
            error = Problems([self._named(problem) for problem in error])
        tell_uncaught(error)
        raise error from None

    @property
    def left(self) -> Problems:
        """What is raised if the question is left."""
        return Problems([self._missing()])

    def _named(self, problem: Problem) -> Problem:
        return self._missing(timed_out=problem.timed_out) if problem.missing else problem

    def _missing(self, *, timed_out: bool = False) -> Problem:
        wanted = slots_of(self.form)[ANSWER].kind.wants
        reason = f"{self.question}: " + tell("is missing: must be {wanted}", wanted=wanted)
        return Problem(reason, None, None, missing=True, timed_out=timed_out)
