"""The widgets that ask, but for the plain line: what each needs of a slot."""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import later
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.values.records import ASKED, DEFAULT
from wesperon.values.slots import LAST

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any, Protocol

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

    class Ask(Protocol):
        """What a question is about; see ``forms.questions``."""

        slot: Slot[Any]
        default: Any
        complaint: Complaint | None
        answers: object
        origin: str
        draft: str

        def line(self) -> dict[str, Any]:
            """Return the arguments that every line takes."""

        def read(self, typed: str) -> Any:
            """Return the value of a text that was typed; raises Complaint."""
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


#: What the current choice of a menu is called, by where it is from.
NOTES = {DEFAULT: "default", ASKED: "your answer", LAST: "as last time", "initial": "suggested", "": "given"}


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
        return widgets_line.Line(ask.read, **ask.line())

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


#: The questions by name (``Kind.question``): what makes the widget that asks; ``line`` is in ``forms.questions``.
QUESTIONS: dict[str, Callable[[Ask], Widget]] = {
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
