"""The question as a source: which widget asks for which kind, and what its answer means.

A question converts and checks what is typed by the same methods of the slot as every other source.
"""

from __future__ import annotations

from wesperon.ground import Complaint, DeclarationError, tell
from wesperon.output.slot_phrases import hint
from wesperon.screen.layout import gutter_for
from wesperon.text.escape import visible
from wesperon.text.quoting import join, split_words
from wesperon.values.kinds.choices import AnyOf, OneOf
from wesperon.values.slots import MISSING
from wesperon.widgets.widget import Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any

    from wesperon.values.slots import Slot
    from wesperon.widgets.widget import Widget


def gutter_of(slots: Iterable[Slot[Any]]) -> int:
    """The width of the gutter that holds the labels of all these slots."""
    return gutter_for(visible(slot.label) for slot in slots)


def question(
    slot: Slot[Any],
    width: int,
    default: Any = MISSING,
    text: str | None = None,
    complaint: Complaint | None = None,
    answers: object = None,
    note: str = "",
    keys: str = "",
    says: str = "",
    label: str = "",
) -> Widget:
    """The widget that asks for the value of a slot; its outcome tells the value, or why there is none.

    ``default`` is the value that stands there at first; ``text`` one that was given already but cannot be read, with
    the ``complaint`` about it; ``answers`` are those so far, ``note`` stands at the right edge,
    ``keys`` in the foot, ``says`` above the question; ``label``
    stands in the gutter in place of the slot's own.
    """
    prompt = Prompt(
        visible(label or slot.label),
        width,
        "\n".join(
            part for part in (says, visible(slot.ask) if slot.ask and slot.ask != (label or slot.label) else "") if part
        ),
        hint(slot),
        slot.unit,
        note,
        visible(slot.help),
        keys,
    )
    return _widget(slot, prompt, default, text, complaint, answers)


def _widget(
    slot: Slot[Any], prompt: Prompt, default: Any, text: str | None, complaint: Complaint | None, answers: object
) -> Widget:
    kind = slot.kind
    if not slot.several and isinstance(kind, OneOf):
        from wesperon.widgets.menu import Menu

        place = None if default in (MISSING, None) else kind.choices.index_of(default)
        take: Callable[[int], Any] = lambda at: slot.validate(kind.choices.check(at))  # noqa: E731
        return Menu(prompt, kind.choices, take, current=place, complaint=complaint)
    if isinstance(kind, AnyOf):
        from wesperon.widgets.checkboxes import Checkboxes

        marked = () if default in (MISSING, None) else [kind.choices.index_of(value) for value in default]
        accept: Callable[[set[int]], Any] = lambda places: slot.validate(kind.combine(places))  # noqa: E731
        return Checkboxes(
            prompt, kind.choices, accept, marked=[at for at in marked if at is not None], complaint=complaint
        )
    stands_for_itself = True
    if text is None and default not in (MISSING, None):
        try:
            text = join([slot.format(value) for value in default]) if slot.several else slot.format(default)
        except DeclarationError:  # a kind of the program's own that cannot be written
            stands_for_itself = False

    def read(typed: str) -> Any:
        return accept_text(slot, typed, default, empty_is_default=not stands_for_itself)

    if slot.secret:
        from wesperon.widgets.secret import Secret

        return Secret(prompt, read, default=text, complaint=complaint, live=slot.live, twice=slot.twice, mask=slot.mask)
    if kind.is_switch:
        from wesperon.widgets.yes_no import YesNo

        return YesNo(prompt, read, default=text, complaint=complaint)
    if slot.lines:
        from wesperon.widgets.several_lines import SeveralLines

        whole = slot.lines if callable(slot.lines) else None
        return SeveralLines(
            prompt, read, is_whole=whole, default=text, complaint=complaint, live=slot.live, syntax=slot.syntax
        )
    given = {"default": text, "complaint": complaint, "live": slot.live, "syntax": slot.syntax}
    suggest = slot.suggest
    if isinstance(kind, OneOf) and suggest is None:  # several of them
        choices = kind.choices
        choices.draw_all()
        suggest = [
            (join([choices.label(at)]), choices.note(at)) for at in range(len(choices)) if not choices.disabled(at)
        ]
    if suggest is not None:
        from wesperon.values.suggestions import Suggestions
        from wesperon.widgets.suggested import Suggested

        supply = Suggestions(suggest, answers)
        return Suggested(prompt, read, supply=supply, style=slot.suggest_as, by_word=slot.several, **given)
    if kind.has_steps and not slot.several:
        from wesperon.widgets.spin_field import SpinField

        return SpinField(prompt, read, step=lambda typed, units: step_by(slot, typed, units), **given)
    from wesperon.widgets.line import Line

    if kind.placeholder != "PATH":
        return Line(prompt, read, **given)
    line = Line(prompt, read, complete=_paths(slot), **given)
    line.ending = ""
    return line


def step_by(slot: Slot[Any], text: str, units: int) -> str:
    """The text of the value that is so many units further, within the bounds; the same where it is no value."""
    low, high = slot.low, slot.high
    if text.strip():
        try:
            value = slot.kind.parse(text.strip())
            value = slot.kind.step_by(value, units, slot.step)
        except (Complaint, ArithmeticError):
            return text
    else:
        value = _start(slot)
    try:
        value = low if low is not None and value < low else high if high is not None and value > high else value
    except TypeError:  # one of two times has a time zone
        return text
    return slot.format(value)


def _start(slot: Slot[Any]) -> Any:
    """The value from which the keys step where nothing stands in the line: today, else the lowest, or nought."""
    made: Any = getattr(slot.kind, "made", None)
    if hasattr(made, "today"):
        today = made.today()
        return today.replace(hour=0, minute=0, second=0, microsecond=0) if hasattr(today, "hour") else today
    if slot.low is not None:
        return slot.low
    return slot.kind.parse(
        "00:00" if made is not None and hasattr(made, "hour") else "0s" if _is_duration(slot) else "0"
    )


def _is_duration(slot: Slot[Any]) -> bool:
    return slot.kind.placeholder == "DURATION"


def _paths(slot: Slot[Any]) -> Callable[[str, int], tuple[int, list[str]]]:
    """The completion of a path, or of the last of several."""
    from wesperon.completion.candidates import matching, paths

    def complete(text: str, cursor: int) -> tuple[int, list[str]]:
        start = text.rfind(" ", 0, cursor) + 1 if slot.several else 0
        word = text[start:cursor]
        return start, [one.text for one in matching(paths(word, folders=slot.exists == "folder"), word)]

    return complete


def accept_text(slot: Slot[Any], text: str, default: Any = MISSING, *, empty_is_default: bool = False) -> Any:
    """The value of a text typed at a question; raises Complaint. An empty text is a missing value.

    ``empty_is_default``: the default could not be put into the line, so that an empty text takes it.
    """
    if slot.is_blank(text):
        if default is None or empty_is_default:
            return default
        if slot.several and not slot.least:
            return slot.streamed(())
        such = tell(", such as {example}", example=slot.kind.example) if slot.kind.example else ""
        raise Complaint(tell("an answer is needed: {wanted}{such}", wanted=slot.kind.wants, such=such))
    if not slot.several:
        return slot.combine([text])
    values = []
    for word, start in split_words(text):
        try:
            values.append(slot.parse(word))
        except Complaint as complaint:
            raise Complaint(complaint.reason, start + (complaint.position or 0)) from complaint.__cause__
    return slot.counted(tuple(values))
