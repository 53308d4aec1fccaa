"""The question as a source: which widget asks for which kind, and what its answer means.

A question converts and checks what is typed by the same methods of the slot as every other source.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.screen.layout import gutter_for
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.phrases import hint
from wesperon.values.records import DEFAULT
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable
    from typing import Any

    from wesperon.forms import question_widgets
    from wesperon.values import words
    from wesperon.values.slots import Slot
    from wesperon.widgets import line as widgets_line
    from wesperon.widgets.widget import Widget
else:
    question_widgets = later("wesperon.forms.question_widgets")
    words = later("wesperon.values.words")
    widgets_line = later("wesperon.widgets.line")


def gutter_of(slots: Iterable[Slot[Any]]) -> int:
    """Return the width of the gutter that holds the labels of all these slots."""
    return gutter_for(visible(slot.label) for slot in slots)


def question(ask: Ask, width: int, *, note: str = "", keys: str = "", says: str = "", label: str = "") -> Question:
    """Return the question that asks for the value of a slot; its outcome tells the value, or why there is none.

    ``width`` is that of the gutter; ``note`` is at the right edge, ``keys`` in the foot, ``says`` above the question,
    and stays beside the answer, as ``ask.stays`` has it; ``label`` is in the gutter in place of the slot's own.
    """
    slot = ask.slot
    label, asks = visible(label or slot.label), visible(slot.ask or "")
    prompt = Prompt(
        label,
        width,
        "\n".join(part for part in (says, asks if asks != label else "") if part),
        hint(slot, one=slot.many),
        note,
        visible(slot.help),
        keys,
        (slot.unit, asks if ask.stays else ""),
    )
    return Question(prompt, widget_of(name_of(slot), ask))


def name_of(slot: Slot[Any]) -> str:
    """Return the question that asks for a slot: that of its kind, unless a keyword of the slot asks for another one."""
    if slot.secret:
        return "secret"
    if slot.lines:
        return "several-lines"
    if slot.suggest is not None and not slot.many:
        return "suggested"
    return slot.shape.question(slot)


class Ask:
    """What a question is about: the slot, and what is in its line at first.

    ``default`` is the value that is there, and ``origin`` where it came from; ``text`` one that was given already but
    cannot be read, with the ``complaint`` about it; ``answers`` are those so far; ``stays``: the question stays beside
    the answer.
    """

    def __init__(
        self,
        slot: Slot[Any],
        default: Any = MISSING,
        text: str | None = None,
        complaint: Complaint | None = None,
        *,
        answers: object = None,
        origin: str = DEFAULT,
        stays: bool = False,
    ) -> None:
        self.slot = slot
        self.default = None if default is MISSING else default
        self.complaint = complaint
        self.answers = answers
        self.origin = origin
        self.stays = stays
        self._given = default
        self._can_be_written = True
        self._text = text
        #: What was typed in it before; a text with a complaint is none that a list could be filtered by.
        self.draft = text or "" if complaint is None else ""

    def line(self) -> dict[str, Any]:
        """Return the arguments that every line takes."""
        slot = self.slot
        text = self._text
        if text is None and self.default is not None:
            try:
                text = words.line_of(slot, self.default)
            except DeclarationError:  # a custom kind that cannot be written
                self._can_be_written = False
        return {"default": text, "complaint": self.complaint, "live": slot.live, "syntax": slot.syntax}

    def read(self, typed: str) -> Any:
        """Return the value of a text that was typed; raises Complaint."""
        return accept_text(self.slot, typed, self._given, empty_is_default=not self._can_be_written)


def widget_of(name: str, ask: Ask) -> Widget:
    """Return the widget that asks in the way that has a name."""
    if name == "line":  # the others are loaded where one is wanted
        return widgets_line.Line(ask.read, **ask.line())
    return question_widgets.QUESTIONS[name](ask)


def accept_text(slot: Slot[Any], text: str, default: Any = MISSING, *, empty_is_default: bool = False) -> Any:
    """Return the value of a text typed at a question; raises Complaint. An empty text is a missing value.

    ``empty_is_default``: the default could not be put into the line, so that an empty text takes it.
    """
    if slot.is_blank(text):
        if empty_is_default:
            return default
        if default is None or slot.default is None:
            return None
        none = slot.shape.none(slot)
        if none is not MISSING:
            return none
        if slot.default == "":  # then an empty text is a value by the declaration
            return slot.shape.parse_line(slot, text)
        shows = slot.kind.example and slot.shape.takes_text
        such = tell(", such as {example}", example=slot.kind.example) if shows else ""
        raise Complaint(tell("a value is required: enter {wanted}{such}", wanted=slot.kind.wants, such=such))
    return slot.shape.parse_line(slot, text)
