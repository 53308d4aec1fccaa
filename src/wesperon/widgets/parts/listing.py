"""A list of choices that stays open on a screen; what is typed narrows it."""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.values.kinds.choice_list import Choices, DynamicChoices
from wesperon.values.kinds.choices import AnyOf, OneOf, one_of
from wesperon.widgets.parts.checked import checked_flag, function_or_none
from wesperon.widgets.parts.rows_part import RowsPart

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any, ClassVar

    from wesperon.screen.frame import Row
    from wesperon.widgets import filtering
    from wesperon.widgets.filtering import ChoiceFilter
else:
    filtering = later("wesperon.widgets.filtering")

#: The marks of choices of which several may be taken.
MARK, NO_MARK = "[x] ", "[ ] "


class Listing(RowsPart):
    """A list of choices, one of which is current, or several of which are marked.

    ``choices`` are those of :func:`one_of`: texts or other objects, a mapping from label to object, an ``Enum`` class,
    a generator, a function; with labels and notes of their own, what ``one_of(objects, label=..., note=...)`` gives.
    Two may look alike, since nobody names them: they are told apart by their places. ``several``
    lets choices be marked with the space bar: then ``value`` is a tuple of those, else the current choice.
    ``action`` is called with the value, or nothing, at Enter or a click on the current row. ``show(choices)`` lists
    others. The other keywords are those of every part.

    Example:
        >>> Listing(["Lantern", "Thimble", "Wicker"]).value
        'Lantern'

    """

    types_text = works = True

    def __init__(
        self,
        choices: Any = (),
        *,
        several: bool = False,
        action: Callable[[Any], Any] | Callable[[], Any] | None = None,
        **place: Any,
    ) -> None:
        super().__init__(**place)
        self.several = checked_flag("several", several)
        self.action_function = function_or_none("action", action, "the value")
        self.marked: set[int] = set()
        self.needle = ""
        self.search: ChoiceFilter | None = None
        self.choices: Choices[Any] | None = None
        self.receive(choices)

    def receive(self, choices: Any = (), *more: Any) -> None:
        """See ``Part``."""
        before, marked = self.choices, sorted(self.marked)
        place = self._listed[min(self.at, self.count - 1)] if self.count else -1
        self.choices = now = None if _is_empty(choices) else _choices_of(choices)
        self.search, self.marked = None, set()
        if now is not None and self.needle.strip():
            self._seek()
        if now is not None and before is not None:
            found = [now.index_of(before.objects[at]) for at in marked]
            self.marked = {at for at in found if at is not None}
            self._stay_at(before.objects[place] if place >= 0 else None, place)
        self.at = min(self.at, max(self.count - 1, 0))
        self.stale()

    def _stay_at(self, current: Any, place: int) -> None:
        """Have the choice current that was, which was at a ``place``, if it is still listed; else what is there now."""
        assert self.choices is not None
        objects = self.choices.objects
        at = place if 0 <= place < len(objects) and objects[place] == current else self.choices.index_of(current)
        listed = self._listed
        if at is not None and at in listed:
            self.at = listed.index(at)

    @property
    def value(self) -> Any:
        """The current choice, None if there is none; of several a tuple of those that are marked, in their order."""
        if self.choices is None:
            return () if self.several else None
        if self.several:
            return tuple([self.choices.objects[at] for at in sorted(self.marked)])
        listed = self._listed
        return self.choices.objects[listed[min(self.at, len(listed) - 1)]] if listed else None

    def settle(self, value: Any) -> None:
        """Have another choice as the ``value``, or of several those that are marked, by the user's doing."""
        before = self.value
        assert self.choices is not None
        found = [self.choices.index_of(one) for one in (value if self.several else [value])]
        self.list_all()
        if self.several:
            self.marked = {at for at in found if at is not None}
        elif found[0] is not None:
            self.at = found[0]
        if self.value != before:
            self.changed()

    @property
    def _listed(self) -> Sequence[int]:
        """The indices of the choices that are listed."""
        if self.choices is None:
            return ()
        return range(len(self.choices)) if self.search is None else self.search.all()

    @property
    def count(self) -> int:
        """See ``RowsPart``."""
        return len(self._listed)

    @property
    def growing(self) -> Any:
        """See ``Widget``."""
        if self.choices is None or not self.choices.is_growing:
            return ()
        return ((self.choices.source, self.at + 3 * self._room + 12),)

    def rows_in_sight(self, first: int, count: int, columns: int) -> Sequence[Row]:
        """See ``RowsPart``."""
        if self.choices is None:
            return []
        indices = [self._listed[number] for number in range(first, first + count)]
        labels = [visible(self.choices.label(at)) for at in indices]
        mark = len(MARK) if self.several else 0
        widest = min(max(map(width, labels), default=0), max(2 * (columns - mark) // 3, 1))
        return [
            self._row(first + number, at, label, columns, widest)
            for number, (at, label) in enumerate(zip(indices, labels, strict=True))
        ]

    def _row(self, number: int, at: int, label: str, columns: int, widest: int) -> Row:
        assert self.choices is not None
        mark = (MARK if at in self.marked else NO_MARK) if self.several else ""
        disabled = self.choices.disabled(at)
        is_current = number == min(self.at, self.count - 1)
        role = ("current" if self.has_focus else "marked") if is_current else "note" if disabled else ""
        text = cut(label, max(columns - len(mark), 1))
        row: Row = ((mark + text, role),)
        note = tell("not now: {reason}", reason=disabled) if disabled else visible(self.choices.note(at) or "")
        taken = len(mark) + max(widest, width(text)) + 2
        if note and columns - taken >= 4:
            row = (*row, (" " * (taken - len(mark) - width(text)), ""), (cut(note, columns - taken), "note"))
        return row

    @property
    def heading_rows(self) -> int:
        """See ``RowsPart``."""
        return 1 if self.needle else 0

    def heading(self, columns: int) -> Sequence[Row]:
        """See ``RowsPart``: what was typed, while it narrows the list."""
        return ((("/ " + visible(self.needle), "hint"),),) if self.needle else ()

    # Keys ------------------------------------------------------------------------------------------------------------

    def type(self, text: str, times: int = 1) -> None:
        """Narrow the list by what is typed; the space bar marks where several may be."""
        if text == " " and self.several:
            self.mark()
        elif text.isprintable() and (self.needle or text.strip()):
            self._narrow(self.needle + text * times)

    def paste(self, text: str) -> None:
        """See ``Widget``."""
        self.type(" ".join(text.split()))

    def widen(self) -> None:
        """Take the last letter back."""
        self._narrow(self.needle[:-1])

    def list_all(self) -> None:
        """List everything again."""
        self._narrow("")

    def _narrow(self, needle: str) -> None:
        choices, before = self.choices, self.value
        if choices is None:
            return
        self.needle = needle
        if not needle.strip():
            kept = self._listed[self.at] if self.count else 0
            self.search, self.at = None, kept
        else:
            self._seek()
            assert self.search is not None
            self.at = self.search.best()
        self.top = 0
        self.stale()
        if self.value != before:
            self.changed()

    def _seek(self) -> None:
        """Look for what was typed in all choices."""
        choices = self.choices
        assert choices is not None
        if self.search is None:
            self.search = filtering.ChoiceFilter(lambda: len(choices), choices.texts, comma=False)
        self.search.seek(self.needle)

    def wants_key(self, key: Any) -> bool:
        """See ``Part``: Escape and Backspace are its own while something is typed."""
        if key.name in ("escape", "ctrl-u"):
            return bool(self.needle)
        return super().wants_key(key)

    def mark(self) -> None:
        """Mark the current choice, or take its mark away."""
        if self.count and self.choices is not None:
            at = self._listed[min(self.at, self.count - 1)]
            if not self.choices.disabled(at):
                self.marked ^= {at}
                self.changed()

    def moved(self) -> None:
        """See ``RowsPart``: of several, the marks are the value."""
        if not self.several:
            self.changed()

    def enter(self) -> None:
        """See ``RowsPart``."""
        if self.action_function is None:
            if self.several:
                self.mark()
            elif self.host is not None:
                self.host.go_on(self)
        elif self.host is not None and self.count:
            self.host.call(self.action_function, self.value)

    def work(self) -> bool:
        """See ``Widget``."""
        if self.search is None or self.search.is_done:
            return False
        self.search.work()
        return True

    def hint_keys(self) -> str:
        """See ``Part``."""
        if self.several:
            return tell("Space: mark   Type: filter")
        return tell("Enter: choose   Type: filter") if self.action_function else tell("Up Down: choose   Type: filter")

    @property
    def letters(self) -> str:
        """See ``Part``."""
        return self.title

    ACTIONS: ClassVar[dict[str, str]] = {
        **RowsPart.ACTIONS,
        "delete-char-back": "widen",
        "delete-text-whole": "list_all",
        "delete-line-start": "list_all",
        "cancel": "list_all",
    }


def _choices_of(given: Any) -> Choices[Any] | None:
    """Return the choices of a list, which may look alike; None if there are none."""
    if isinstance(given, (OneOf, AnyOf)):
        choices: Choices[Any] = given.choices
    elif callable(given) or hasattr(given, "__next__") or isinstance(given, str):
        choices = one_of(given).choices
    elif hasattr(given, "__iter__"):
        return Choices(given, takes_any_label=True)
    else:
        choices = one_of(given).choices  # which says what is wrong with it
    if not isinstance(choices, DynamicChoices):
        return choices
    try:
        return choices.resolve({})
    except Complaint:  # there are none, or none now
        return None


def _is_empty(choices: Any) -> bool:
    return hasattr(type(choices), "__len__") and len(choices) == 0
