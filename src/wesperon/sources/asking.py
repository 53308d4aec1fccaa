"""The question as a source: which widget asks for which kind, and what its answer means.

A question converts and checks what is typed by the same methods of the slot as every other source.
"""

from __future__ import annotations

from wesperon.core import Complaint, DeclarationError
from wesperon.core.choices import AnyOf, OneOf
from wesperon.core.quoting import join, split_line
from wesperon.core.slots import MISSING
from wesperon.core.visible import visible
from wesperon.pages.wording import hint
from wesperon.screen.layout import gutter_for
from wesperon.widgets.widget import Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any

    from wesperon.core.slots import Slot
    from wesperon.widgets.widget import Widget


def gutter(slots: Iterable[Slot[Any]]) -> int:
    """The width of the gutter that holds the labels of all these slots."""
    return gutter_for(visible(slot.label) for slot in slots)


def question(
    slot: Slot[Any],
    width: int,
    default: Any = MISSING,
    text: str | None = None,
    complaint: Complaint | None = None,
) -> Widget:
    """The widget that asks for the value of a slot; its outcome tells the value, or why there is none.

    ``default`` is the value that stands there at first; ``text`` one that was given already but cannot be read, with
    the ``complaint`` about it.
    """
    prompt = Prompt(
        visible(slot.label),
        width,
        visible(slot.ask) if slot.ask and slot.ask != slot.label else "",
        hint(slot),
        slot.unit,
    )
    return _widget(slot, prompt, default, text, complaint)


def _widget(slot: Slot[Any], prompt: Prompt, default: Any, text: str | None, complaint: Complaint | None) -> Widget:
    kind = slot.kind
    if not slot.several and isinstance(kind, OneOf):
        from wesperon.widgets.menu import Menu

        place = None if default in (MISSING, None) else kind.choices.place(default)
        take: Callable[[int], Any] = lambda at: slot.admit(kind.choices.check(at))  # noqa: E731
        return Menu(prompt, kind.choices, take, current=place, complaint=complaint)
    if isinstance(kind, AnyOf):
        from wesperon.widgets.menu import Checkboxes

        marked = () if default in (MISSING, None) else [kind.choices.place(value) for value in default]
        accept: Callable[[set[int]], Any] = lambda places: slot.admit(kind.gather(places))  # noqa: E731
        return Checkboxes(
            prompt, kind.choices, accept, marked=[at for at in marked if at is not None], complaint=complaint
        )
    stands_for_itself = True
    if text is None and default not in (MISSING, None):
        try:
            text = join([slot.text(value) for value in default]) if slot.several else slot.text(default)
        except DeclarationError:  # a kind of the program's own that cannot be written
            stands_for_itself = False

    def read(typed: str) -> Any:
        return accept_text(slot, typed, default, empty_is_default=not stands_for_itself)

    if slot.secret:
        from wesperon.widgets.secret import Secret

        return Secret(
            prompt, read, default=text, complaint=complaint, eager=slot.eager, twice=slot.twice, mask=slot.mask
        )
    if kind.is_switch:
        from wesperon.widgets.yes_no import YesNo

        return YesNo(prompt, read, default=text, complaint=complaint)
    if slot.lines:
        from wesperon.widgets.lines import Lines

        whole = slot.lines if callable(slot.lines) else None
        return Lines(
            prompt, read, is_whole=whole, default=text, complaint=complaint, eager=slot.eager, language=slot.language
        )
    from wesperon.widgets.line import Line

    return Line(prompt, read, default=text, complaint=complaint, eager=slot.eager, language=slot.language)


def accept_text(slot: Slot[Any], text: str, default: Any = MISSING, *, empty_is_default: bool = False) -> Any:
    """The value of a text typed at a question; raises Complaint. An empty text is a missing value.

    ``empty_is_default``: the default could not be put into the line, so that an empty text takes it.
    """
    if slot.is_blank(text):
        if default is None or empty_is_default:
            return default
        if slot.several and not slot.least:
            return slot.streamed(())
        such = f", such as {slot.kind.example}" if slot.kind.example else ""
        raise Complaint(f"an answer is needed: {slot.kind.wanted}{such}")
    if not slot.several:
        return slot.gather([text])
    values = []
    for word, start in split_line(text):
        try:
            values.append(slot.read(word))
        except Complaint as complaint:
            raise Complaint(complaint.reason, start + (complaint.position or 0)) from complaint.__cause__
    return slot.counted(tuple(values))
