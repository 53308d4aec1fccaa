"""The question as a source: which widget asks for which kind, and what its answer means.

A question converts and checks what is typed by the same methods of the slot as every other source.
"""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import later
from wesperon.screen.layout import gutter_for
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.phrases import hint
from wesperon.values.records import ASKED, DEFAULT
from wesperon.values.slots import LAST
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any

    from wesperon.completion import candidates as completion_candidates
    from wesperon.editing.entry_editor import Complete
    from wesperon.forms import row_candidates
    from wesperon.text import quoting
    from wesperon.values import suggestions, words
    from wesperon.values.candidate import Candidate
    from wesperon.values.kinds import optional_choices
    from wesperon.values.slots import Slot
    from wesperon.widgets import (
        checkboxes,
        key_menu,
        menu,
        secret,
        several_lines,
        spin_field,
        suggested,
        value_list,
        yes_no,
    )
    from wesperon.widgets import line as widgets_line
    from wesperon.widgets.widget import Widget
else:
    completion_candidates = later("wesperon.completion.candidates")
    row_candidates = later("wesperon.forms.row_candidates")
    quoting = later("wesperon.text.quoting")
    optional_choices = later("wesperon.values.kinds.optional_choices")
    suggestions = later("wesperon.values.suggestions")
    words = later("wesperon.values.words")
    checkboxes = later("wesperon.widgets.checkboxes")
    widgets_line = later("wesperon.widgets.line")
    key_menu = later("wesperon.widgets.key_menu")
    menu = later("wesperon.widgets.menu")
    secret = later("wesperon.widgets.secret")
    several_lines = later("wesperon.widgets.several_lines")
    spin_field = later("wesperon.widgets.spin_field")
    suggested = later("wesperon.widgets.suggested")
    value_list = later("wesperon.widgets.value_list")
    yes_no = later("wesperon.widgets.yes_no")


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
    return Question(prompt, QUESTIONS[name_of(slot)](ask))


def name_of(slot: Slot[Any]) -> str:
    """Return the question that asks for a slot: that of its kind, unless a keyword of the slot asks for another one."""
    if slot.secret:
        return "secret"
    if slot.lines:
        return "several-lines"
    if slot.suggest is not None and not slot.many:
        return "suggested"
    return slot.shape.question(slot)


#: What the current choice of a menu is called, by where it is from.
NOTES = {DEFAULT: "default", ASKED: "your answer", LAST: "as last time", "initial": "suggested", "": "given"}


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


def _line(ask: Ask) -> Widget:
    return widgets_line.Line(ask.read, **ask.line())


def _secret(ask: Ask) -> Widget:
    return secret.Secret(ask.read, twice=ask.slot.twice, mask=ask.slot.mask, **{**ask.line(), "syntax": None})


def _several_lines(ask: Ask) -> Widget:
    is_whole = ask.slot.lines if callable(ask.slot.lines) else None
    return several_lines.SeveralLines(ask.read, is_whole=is_whole, **ask.line())


def _spin(ask: Ask) -> Widget:
    return spin_field.SpinField(ask.read, step=lambda typed, units: step_by(ask.slot, typed, units), **ask.line())


def _yes_no(ask: Ask) -> Widget:
    return yes_no.YesNo(ask.read, **{**ask.line(), "live": False, "syntax": None})


def _path(ask: Ask) -> Widget:
    line = widgets_line.Line(ask.read, complete=_paths(ask.slot), **ask.line())
    line.editor.ending = ""
    return line


def _suggested(ask: Ask) -> Widget:
    slot, suggest, choices = ask.slot, ask.slot.suggest, ask.slot.kind.choices
    if suggest is None and choices is not None:  # several choices in one line
        choices.pull_all(row_candidates.MOST_LOOKED)
        free = [at for at in range(len(choices)) if not choices.disabled(at)]
        suggest = [(quoting.quote(choices.label(at)), choices.note(at)) for at in free]
    offered = suggestions.Suggestions(suggest, ask.answers)
    return suggested.Suggested(
        ask.read, suggestions=offered, style=slot.suggest_as, by_word=slot.shape.splits, **ask.line()
    )


def _value_list(ask: Ask) -> Widget:
    slot = ask.slot
    given = ask.line()
    try:
        rows = [word for word, _ in words.split_words(given["default"] or "")]
    except Complaint:  # a quote is not closed
        rows = [given["default"]]
    if any("\n" in row for row in rows):  # a row has one line: such values are quoted words of one
        return _line(ask)

    def accept(texts: list[str]) -> Any:
        if not texts:
            return ask.read("")
        return slot.combine(texts)

    candidates = row_candidates.RowCandidates(slot, ask.answers)
    made = value_list.ValueList(
        accept,
        value_list.RowRules(slot.parse, slot.is_blank, slot.most, slot.shape.name_of(slot), slot.kind.row_placeholder),
        rows=rows,
        is_open=bool(ask.draft) and not ask.draft.endswith(" "),
        lists=candidates.first if candidates.is_listed else None,
        complaint=ask.complaint,
        complete=candidates.complete if candidates.has_any else None,
    )
    made.editor.ending = ""
    return made


def _menu(ask: Ask) -> Widget:
    slot, choices = ask.slot, ask.slot.kind.choices
    assert choices is not None
    if slot.default is None:
        choices = optional_choices.OptionalChoices(choices)
    current = None if ask.default is None else choices.index_of(ask.default)
    note = tell(NOTES.get(ask.origin, NOTES[""]))
    made = key_menu.KeyMenu if slot.kind.question == "key-menu" else menu.Menu
    return made(
        choices,
        lambda at: slot.validate(choices.check(at)),
        current=current,
        current_note=note,
        complaint=ask.complaint,
        needle="" if made is not menu.Menu else ask.draft,
    )


def _checkboxes(ask: Ask) -> Widget:
    slot, choices = ask.slot, ask.slot.kind.choices
    kind: Any = slot.kind
    assert choices is not None
    marked = [choices.index_of(value) for value in ask.default or ()]
    made = checkboxes.Checkboxes(
        choices,
        lambda indexes: slot.validate(kind.combine(indexes)),
        marked=[at for at in marked if at is not None],
        complaint=ask.complaint,
    )
    if ask.draft:
        try:
            made.marked = kind.indexes_of(ask.draft)
        except Complaint:  # the choices are others by now
            pass
    return made


#: The questions by name (``Kind.question``): what makes the widget that asks.
QUESTIONS: dict[str, Callable[[Ask], Widget]] = {
    "line": _line,
    "secret": _secret,
    "several-lines": _several_lines,
    "spin": _spin,
    "yes-no": _yes_no,
    "path": _path,
    "suggested": _suggested,
    "list": _value_list,
    "menu": _menu,
    "key-menu": _menu,
    "checkboxes": _checkboxes,
}


def step_by(slot: Slot[Any], text: str, units: int) -> str:
    """Return the text of the value that is ``units`` units further, within the bounds; unchanged if it is no value."""
    low, high = slot.low, slot.high
    if text.strip():
        try:
            value = slot.kind.parse(text.strip())
            value = slot.kind.validate(slot.kind.step_by(value, units, slot.step))  # not beyond the last number
        except (Complaint, ArithmeticError):
            return text
    else:
        value = slot.kind.first(low, current().clock.time())
    try:
        value = low if low is not None and value < low else high if high is not None and value > high else value
    except TypeError:  # one of two times has a time zone
        return text
    return slot.format(value)


def _paths(slot: Slot[Any]) -> Complete:
    """Return the completion of a path, or of the last of several."""

    def complete(text: str, cursor: int) -> tuple[int, list[Candidate]]:
        start = text.rfind(" ", 0, cursor) + 1 if slot.shape.splits else 0
        word = text[start:cursor]
        return start, completion_candidates.matching(
            completion_candidates.paths(word, folders=slot.exists == "folder"), word
        )

    return complete


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
        shows = slot.kind.example and slot.shape.takes_text
        such = tell(", such as {example}", example=slot.kind.example) if shows else ""
        raise Complaint(tell("a value is required: enter {wanted}{such}", wanted=slot.kind.wants, such=such))
    return slot.shape.parse_line(slot, text)
