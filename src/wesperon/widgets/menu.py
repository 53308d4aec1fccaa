"""Menus: choices below their label, of which only those in sight are asked for their labels.

What is typed narrows the list to the choices that hold its parts, in any order; the one that begins with it becomes
current. The list may grow while it is open.
"""

from __future__ import annotations

from wesperon.screen.frame import ClickMap, Frame, row_text
from wesperon.screen.layout import wrap_limited
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.viewport import IN_SIGHT, Viewport
from wesperon.widgets.widget import QUESTION_ACTIONS, Answered, SizeHint, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any, ClassVar

    from wesperon.editing.keys.events import Action, Mouse
    from wesperon.screen.frame import Row
    from wesperon.values.kinds.choice_list import Choices
    from wesperon.widgets.filtering import ChoiceFilter
    from wesperon.widgets.widget import Growing


#: In fewer columns there is no room for marks before the labels.
MARKED = 5


class Menu(Widget):
    """Asks for one of several choices.

    ``accept`` turns the index of the choice into the value, and raises Complaint if it cannot be taken; ``current``
    is the index of the value that is there already, which is current at first, with ``current_note`` beside it;
    ``needle`` is what is typed already.
    """

    #: What the keys do, the most needed first.
    FOOT = "Enter: accept   Up Down: move   Type: filter   Ctrl-C: stop"
    FOOT_IN_MODAL = "Enter: to the list   Up Down: move   Type: filter   Ctrl-C: stop"
    FOOT_OF_COMMANDS = "Enter: accept   j k: move   /: filter   Ctrl-C: stop"
    #: Further keys, for the page of help.
    MORE: ClassVar[tuple[tuple[str, str], ...]] = (
        ("Page-Up Page-Down Home End", "move by a page, to the first, to the last"),
        ("letters, Backspace, Ctrl-U", "filter the list, show more again"),
    )
    #: Whether a comma separates the parts of what is typed, because a blank does something else.
    comma = False

    def __init__(
        self,
        choices: Choices[Any],
        accept: Callable[[Any], Any],
        *,
        current: int | None = None,
        current_note: str = "",
        complaint: Complaint | None = None,
        needle: str = "",
    ) -> None:
        super().__init__()
        self.choices = choices
        self.accept = accept
        self.default, self.default_note = current, current_note
        self.needle = ""
        #: Whether what is typed has the focus, rather than the current choice.
        self.is_typing = False
        #: The search for what was typed; None if nothing was.
        self.search: ChoiceFilter | None = None
        self.at = current or 0
        self.sight = Viewport(choices)
        self.complaint = complaint
        if needle:
            self._narrow(needle)

    @property
    def draft_text(self) -> str:
        """What was typed to filter the list."""
        return self.needle

    @property
    def growing(self) -> Sequence[tuple[Growing, int]]:
        """The choices, as many as are in sight and a screen more; of a search as many as that takes."""
        if not self.choices.is_growing:
            return ()
        wanted = self.at + 2 * IN_SIGHT
        if self.search is not None:
            wanted = self.search.wanted(wanted)
        return ((self.choices.source, wanted),)

    @property
    def listed(self) -> Sequence[int]:
        """The indices of all choices that are listed."""
        return range(len(self.choices)) if self.search is None else self.search.all()

    def work(self) -> bool:
        """Go on with the search for what was typed. Return True if there was something to do."""
        if self.search is None or self.search.is_done:
            return False
        self.search.work()
        return True

    @property
    def current(self) -> int:
        """The index of the current choice; -1 if there is none."""
        listed = self._upto(self.at)
        return listed[min(self.at, len(listed) - 1)] if listed else -1

    @current.setter
    def current(self, field_area: int) -> None:
        self.needle, self.search = "", None
        self.at = field_area

    def _current_index(self) -> int:
        """Return which of those listed is current; the last one if there are fewer by now."""
        return min(max(self.at, 0), max(len(self._upto(self.at)) - 1, 0))

    def drawn(self) -> None:
        """See ``Widget``."""
        self.sight.drawn()

    def _upto(self, at: int) -> Sequence[int]:
        """Return the indices of those listed, down to one of them at least."""
        return range(len(self.choices)) if self.search is None else self.search.upto(at + 1)

    def paste(self, text: str) -> None:
        """Narrow the list by a text that was pasted."""
        self.type(" ".join(text.split()))

    def click(self, event: Mouse) -> None:
        """Pick the choice under the mouse."""
        if isinstance(event.hit, int):
            self.complaint = None
            self._go_to(event.hit)
            self.pick()

    def wheel(self, by: int) -> None:
        """Go up or down in the list."""
        self.go(self._current_index() + by)

    def _go_to(self, index: int) -> None:
        """Make the choice at an index current, which was in sight at the last view; keys may have come since."""
        listed = self._upto(self.at + IN_SIGHT)
        if self.search is None or index not in listed:
            self.current = index
        else:
            self.go(listed.index(index))

    def do(self, action: Action) -> None:
        """Do what a key means; what was wrong is forgotten."""
        if action.name in self.ACTIONS:
            self.complaint = None
        super().do(action)

    def pick(self) -> None:
        """Do what a click on the current choice does."""
        self.enter()

    def type(self, text: str, times: int = 1) -> None:
        """Narrow the list further."""
        self.complaint = None
        text *= times
        if text.isprintable() and (self.needle or text.strip()):
            self._narrow(self.needle + text)

    def widen(self) -> None:
        """Widen the list by one letter."""
        self._narrow(self.needle[:-1])

    def list_all(self) -> None:
        """List everything again."""
        self._narrow("")

    def _narrow(self, needle: str) -> None:
        """List the choices that hold what was typed."""
        from wesperon.widgets.filtering import ChoiceFilter

        before = self.current
        self.is_typing = True
        self.needle = needle if needle.strip() else ""
        if not self.needle:
            self.search = None
            self.at = max(before, 0)
            return
        if self.search is None:
            choices = self.choices
            self.search = ChoiceFilter(lambda: len(choices), choices.texts, comma=self.comma)
        self.search.seek(needle)
        self.at, self.sight.top = self.search.best(), 0

    def begins_beside(self) -> bool:
        """Return what was typed is beside the label; a list below it."""
        return bool(self.needle)

    def hides_question(self) -> bool:
        """Return what was typed takes the place of a short question."""
        return bool(self.needle)

    def size(self, columns: int) -> SizeHint:
        """Return at least one choice and what was typed; all choices if there is room, up to a page."""
        typed = 1 if self.needle else 0
        listed = len(self._upto(IN_SIGHT)) or len(wrap_limited(self._nothing(), columns))
        if self.choices.has_groups:
            listed = IN_SIGHT
        listed = max(min(listed, IN_SIGHT), 1) + typed + len(self._end(columns))
        return SizeHint(1, 1 + typed, columns, listed)

    def view(self, columns: int, rows: int) -> Frame:
        """Return what was typed, and the choices in sight below it; or why there are none."""
        typed: list[Row] = []
        if self.needle and rows > 1:
            typed = [((cut(visible(self.needle), max(columns - 1, 1)), ""),)]
        end = self._end(columns)
        listed, indices = self._listed(columns, min(max(rows - len(typed) - len(end), 1), IN_SIGHT))
        hits = (*([None] * len(typed)), *indices)
        current = hits.index(self.current) if listed else None
        if not listed:
            reasons = wrap_limited(self._nothing(), columns)[: max(rows - len(typed), 0)]
            listed = [((row, "reason"),) for row in reasons]
        else:
            listed += end[: max(rows - len(typed) - len(listed), 0)]
        shown = (*typed, *listed)
        cursor = (0, width(row_text(shown[0]))) if shown else (0, 0)
        if current is not None and not (typed and self.is_typing):
            cursor = (current, 0)
        return Frame(shown, cursor if self.has_focus else None, current=current, clicks=ClickMap(hits=hits))

    @property
    def count(self) -> int:
        """How often the action is to be done; 1 if no count was given."""
        return max(self.action.times, 1)

    def _end(self, columns: int) -> list[Row]:
        """Return what is below the last choice: why there are no further ones, if there should be."""
        error = visible(self.choices.source.ended_early)
        if not error or not self.choices:
            return []
        said = tell("further ones could not be loaded: {error}", error=error)
        return [((row, "reason"),) for row in wrap_limited(said, columns)]

    def _nothing(self) -> str:
        """Return why nothing is listed."""
        if self.needle:
            return tell(
                "none of the {count} contains {text}; Backspace shows more",
                count=f"{len(self.choices):,}",
                text=self.needle,
            )
        if self.choices.is_growing:
            return tell("no choices yet: they are still loading")
        if self.choices.source.ended_early:
            return tell("there is nothing to choose from: {error}", error=visible(self.choices.source.ended_early))
        return tell("there is nothing to choose from")

    def record_text(self) -> str:
        """Return the label of what was chosen."""
        return self.choices.label(self.current) if isinstance(self.outcome, Answered) else ""

    def foot(self) -> str:
        """Return what the keys do."""
        keymap = None if self._resolver is None else self._resolver.keymap
        if keymap is None or not keymap.mode.label:
            return tell(self.FOOT)
        return tell(self.FOOT_IN_MODAL if keymap.mode.types else self.FOOT_OF_COMMANDS)

    def status(self) -> str:
        """Return the number of the current choice, and of how many."""
        count = len(self.choices)
        listed = count if self.search is None else len(self.search.hits)
        position = tell("{at} of {count}", at=f"{min(self._current_index() + 1, listed):,}", count=f"{listed:,}")
        if listed < count:
            position += tell(" (of {count})", count=f"{count:,}")
        if self.choices.is_growing:
            position += tell(", more to come")
        return "   ".join([*self._counts(), position])

    def _counts(self) -> list[str]:
        """Return what is said in the foot beside the position."""
        return []

    def _listed(self, columns: int, room: int) -> tuple[list[Row], list[int | None]]:
        """Return the choices in sight, their marks, their labels and in a column after these their notes.

        The last are their indices.
        """
        listed = self._upto(self.at + room)
        sight = self.sight.rows(listed, self._current_index(), max(room, 1))
        indices = [listed[at] for at, _ in sight if at is not None]
        if not indices:
            return [], []
        inner = 2 if self.choices.has_groups else 0
        room = columns - inner - len(self._mark(indices[0], columns))
        labels = {at: cut(self.choices.label(at), max(room, 1)) for at in indices}
        widest = min(max(map(width, labels.values())), 2 * room // 3)
        rows: list[Row] = []
        for at, heading in sight:
            if at is None:
                rows.append(((cut(heading, columns), "title"),))
            else:
                row = self._row(listed[at], self._mark(listed[at], columns), labels[listed[at]], widest, room)
                rows.append(((" " * inner, ""), *row) if inner else row)
        return rows, [None if at is None else listed[at] for at, _ in sight]

    def _row(self, at: int, mark: str, label: str, widest: int, room: int) -> Row:
        """Return one choice: its mark, its label, its note or the reason why it cannot be chosen."""
        disabled = self.choices.disabled(at)
        is_current = at == self.current
        role = "current" if is_current else "note" if disabled else self._role(at)
        row: Row = ((mark, role),) if mark else ()
        if self.search is not None:
            from wesperon.widgets.filtering import marked

            row = (*row, *marked(label, self.search.parts, role, "current-match" if is_current else "match"))
        else:
            row = ((mark + label, role),)
        taken = max(widest, width(label)) + 2
        note = self._note(at, disabled)
        if not note or room - taken < 4:
            return row
        return (*row, (" " * (taken - width(label)), ""), (cut(note, room - taken), "note"))

    def _note(self, at: int, disabled: str) -> str:
        """Return what is said beside a choice."""
        if disabled:
            return tell("not now: {reason}", reason=disabled)
        note = self.choices.note(at)
        if at != self.default or not self.default_note:
            return note
        return self.default_note + (f"   {note}" if note else "")

    def _mark(self, at: int, columns: int) -> str:
        return ""

    def _role(self, at: int) -> str:
        return ""

    def go(self, at: int) -> None:
        """Make another one of those listed the current one."""
        self.is_typing = False
        self.at = min(max(at, 0), max(len(self._upto(at)) - 1, 0))

    def enter(self) -> None:
        """Take the current choice, or say why not."""
        if self._upto(0):
            self._try(self.current)

    def _try(self, chosen: Any) -> None:
        try:
            self.outcome = Answered(self.accept(chosen))
        except Complaint as complaint:
            self.complaint = complaint

    def up(self) -> None:
        """To the choice above, as often as the count says; from the first to the last."""
        at = self._current_index()
        self.go(at - self.count if at else len(self.listed) - 1)

    def down(self) -> None:
        """To the choice below, as often as the count says; from the last to the first, unless more are to come."""
        at = self._current_index() + self.count
        self.go(at if self._current_index() + 1 < len(self._upto(at)) or self.choices.is_growing else 0)

    def page_up(self) -> None:
        """Up by as many choices as are in sight."""
        self.go(self._current_index() - self.sight.page)

    def page_down(self) -> None:
        """Down by as many choices as are in sight."""
        self.go(self._current_index() + self.sight.page)

    def first(self) -> None:
        """To the first choice."""
        self.go(0)

    def last(self) -> None:
        """To the last choice."""
        self.go(len(self.listed) - 1)

    def index_by_letter(self, text: str) -> int | None:
        """Return the index of the choice that a letter accepts; None if there is none, as here."""
        return None

    def begin_filter(self) -> None:
        """In the modal family, have the letters that follow filter the list."""
        self.resolver.enter_mode("insert")

    def end_filter(self) -> None:
        """Make letters commands again; the list stays as it is."""
        self.resolver.enter_mode("command")

    @property
    def mode_label(self) -> str:
        """The mode that keys are read in, as people know it; empty if there is only one."""
        label = "" if self._resolver is None else self._resolver.keymap.mode.label
        return tell(label) if label else ""

    LAYERS: ClassVar[tuple[str, ...]] = ("menu",)
    CHOOSES = True
    ACTIONS: ClassVar[dict[str, str]] = {
        **QUESTION_ACTIONS,
        **dict.fromkeys(("move-up", "recall-older"), "up"),
        **dict.fromkeys(("move-down", "recall-newer"), "down"),
        **dict.fromkeys(("move-text-start", "move-line-start", "recall-oldest"), "first"),
        **dict.fromkeys(("move-text-end", "move-line-end", "recall-newest"), "last"),
        **dict.fromkeys(("accept", "accept-if-whole", "accept-unless-whole"), "enter"),
        **dict.fromkeys(("delete-text-whole", "delete-line-start", "cancel"), "list_all"),
        "move-page-up": "page_up",
        "move-page-down": "page_down",
        "delete-char-back": "widen",
        "erase-word-back": "widen",
        "erase-line-back": "list_all",
        "mode-insert": "begin_filter",
        "mode-command": "end_filter",
    }
