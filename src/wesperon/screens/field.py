"""Fields: a slot on a screen, asked for by the widget that asks for it everywhere.

What is typed is read at each key, and ``value`` is the last that could be; what is wrong is shown once the field was
left, or accepted. A list of choices is closed at first, and opens below the field; so do the candidates of a line.
"""

from __future__ import annotations

from datetime import date

from wesperon.editing.keys.events import Key, Mouse, Paste
from wesperon.forms.questions import Ask, name_of, widget_of
from wesperon.frozen import later
from wesperon.output.card import shown
from wesperon.screen.frame import Frame, fitted
from wesperon.screen.layout import BETWEEN, MOST_SAID
from wesperon.screen.width import cut
from wesperon.screens.labelled import CLOSED_MARK, Labelled, beside
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.phrases import hint
from wesperon.values.slots import Slot
from wesperon.widgets.line import Line
from wesperon.widgets.parts.around import Around
from wesperon.widgets.widget import Answered, Ended, Interrupted, SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.theme import Theme
    from wesperon.screens import month_list
    from wesperon.widgets import several_lines
    from wesperon.widgets.widget import Effect, Widget
else:
    several_lines = later("wesperon.widgets.several_lines")
    month_list = later("wesperon.screens.month_list")

#: Questions whose list is closed until it is wanted, and those that have rows of their own.
CLOSED, OF_ROWS = ("menu", "key-menu", "checkboxes"), ("several-lines", "list")
#: Questions whose list may grow, or is searched.
WORKING = (*CLOSED, *OF_ROWS, "suggested", "path")
#: Columns in which something is listed, or nothing is.
ANY_COLUMNS = 40
#: The most rows that are let down below a field, and the most of its own that it wants.
MOST_BELOW, MOST_OWN = 12, 5
#: Keys that go to the screen around a field, whatever it would do with them elsewhere.
OF_SCREEN = frozenset(("shift-tab", "alt-up", "ctrl-l", "ctrl-x p", "f1"))
#: How the actions begin that mean nothing in a line without a history: their keys are free for labels.
OF_HISTORY = ("recall-", "search-")
#: Keys that mean something else while a list is below a line.
OF_LISTED = frozenset(("up", "down", "ctrl-p", "ctrl-n", "page-up", "page-down", "tab", "escape"))
#: The keys that go to another part, and how far.
STEPS = {"tab": 1, "shift-tab": -1}
#: What opens a closed list, letters apart.
OPENING = frozenset(("enter", "space", "down", "ctrl-j", "alt-down"))


class _Answers:
    """The values of the fields around one, by name, as functions of the answers see them."""

    def __init__(self, field: Field) -> None:
        self._field = field

    def __getattr__(self, name: str) -> Any:
        for other in self._field.siblings():
            if other.slot.name == name and other is not self._field and other.has_value:
                return other.value
        raise AttributeError(f"{name} has no value yet")


class Field(Labelled):
    """A slot on a screen: its label, and the value, which is typed, chosen or changed by keys.

    ``slot`` is a slot of a form (``Plan.frames``) or one of its own (``slot(int, "How many frames?")``). ``label``
    is beside it in place of its own; ``value`` is in it at first, in place of the default. The other keywords are
    those of every part.

    Example:
        >>> frames = Field(slot(int, "Frames", low=1), value=12)
        >>> frames.value
        12

    """

    takes_focus = types_text = True

    def __init__(self, slot: Slot[Any], *, label: str = "", value: Any = MISSING, **place: Any) -> None:
        super().__init__(**place)
        if not isinstance(slot, Slot):
            raise DeclarationError(f"Field({slot!r}): must be a slot, such as slot(int, 'Frames') or Plan.frames")
        self.slot = slot
        self.label = visible(label or slot.label)
        self.kind_name = name_of(slot)
        self.works = self.kind_name in WORKING
        self.answers: Any = _Answers(self)
        self._value: Any = MISSING
        #: What is wrong with what is in it; shown once it was left.
        self._problem: Complaint | None = None
        self.shows_problem = self.is_open = False
        self._bindings: Bindings | None = None
        self._here: Slot[Any] | None = None
        self._inner: Widget | None = None
        self._viewed: tuple[int, Frame] | None = None
        is_date = getattr(slot.kind, "made", None) is date and self.kind_name == "spin"
        #: The month that can be let down, to pick a day from.
        self.month = month_list.MonthList() if is_date else None
        self._said = ""
        self._foot: tuple[tuple[str, bool], str] = (("", False), "")
        #: How wide the value was shown by itself; 0 if what is edited was shown.
        self._settled_columns = 0
        #: Whether the user has changed it.
        self.is_touched = False
        self._first = value if value is not MISSING else self._fallback()
        if self._first is not MISSING:
            self._value = (
                self._first if self._first is None else slot.validate(self._first) if not slot.depends else self._first
            )

    def _fallback(self) -> Any:
        """Return what is in it at first, by the declaration."""
        slot = self.slot
        if slot.initial is not MISSING and slot.initial is not None and not callable(slot.initial):
            return slot.initial
        try:
            return slot.fallback(self.answers)
        except (AttributeError, Complaint):  # it depends on what is not there yet
            return MISSING

    # The value -------------------------------------------------------------------------------------------------------

    @property
    def has_value(self) -> bool:
        """Whether there is a valid value."""
        return self._value is not MISSING

    @property
    def value(self) -> Any:
        """The last valid value; None if there was none yet."""
        return None if self._value is MISSING else self._value

    @property
    def problem(self) -> Complaint | None:
        """What is wrong with what is in it now, or that it lacks a value; None if nothing is."""
        if self._problem is None and self._value is MISSING:
            return Complaint(tell("a value is required: enter {wanted}{such}", wanted=self.slot.kind.wants, such=""))
        if self._problem is None and self.slot.depends and self._value is not None:
            return self._problem_by_now()
        return self._problem

    def _problem_by_now(self) -> Complaint | None:
        """Return what is wrong with the value since other fields have changed."""
        try:
            self.here.validate(self._value)
        except Complaint as complaint:
            return complaint
        except AttributeError:  # it depends on what is not there yet
            pass
        return None

    @property
    def shown_problem(self) -> Complaint | None:
        """What is wrong, if it is shown now."""
        return self.problem if self.shows_problem else None

    def receive(self, value: Any = MISSING, *more: Any) -> None:
        """Show a value; raises Complaint for one that the slot does not take."""
        self._value = value if value is None or value is MISSING else self.here.validate(value)
        self._problem, self.shows_problem = None, False
        self._first, self._inner = self._value, None
        self.stale()

    def require(self, slot: Slot[Any]) -> None:
        """Go on with a ``slot`` that may not stay empty, in place of one that may."""
        self.slot = slot
        if self._value is None:
            self._value = self._first = MISSING
            self._inner = None
        self.stale()

    def siblings(self) -> list[Field]:
        """Return all fields of the screen, or of the dialog, that this one is on."""
        around: Any = self
        while around.parent is not None:
            around = around.parent
        return [part for part in around.leaves() if isinstance(part, Field)]

    @property
    def here(self) -> Slot[Any]:
        """The slot with the choices and bounds of the answers that there are."""
        if not self.slot.depends:
            return self.slot
        try:
            return self.slot.resolve(self.answers)
        except (AttributeError, Complaint):
            return self.slot

    @property
    def inner(self) -> Any:
        """The widget that asks for the slot."""
        if self._inner is None:
            ask = Ask(self.here, self._first, answers=self.answers)
            self._inner = made = widget_of(self.kind_name, ask)
            made.complaint = None
            if isinstance(made, Line) and self.kind_name != "list":
                made.accept = self._value_of  # the bounds may be others by the time that it is accepted
            made.has_focus = self.has_focus
            made.set_theme(self.theme)
            if self._bindings is not None:
                made.bind(self._bindings)
        return self._inner

    def begin_with(self, text: str, complaint: Complaint | None = None) -> None:
        """Have a ``text`` in it that was typed before, and the ``complaint`` about it, if there is one."""
        ask = Ask(self.here, self._first, text, complaint, answers=self.answers)
        self._inner = widget_of(self.kind_name, ask)
        self._inner.set_theme(self.theme)
        self.is_touched = True
        if complaint is not None:
            self._problem, self.shows_problem, self._value = complaint, True, MISSING
            return
        try:
            self._value = ask.read(text)
        except Complaint as found:
            self._problem, self._value = found, MISSING

    # Keys ------------------------------------------------------------------------------------------------------------

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        self._bindings = bindings
        self._resolver = None
        if self._inner is not None:
            self._inner.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        super(Around, self).set_theme(theme)
        if self._inner is not None:
            self._inner.set_theme(theme)

    def wants_key(self, key: Key) -> bool:
        """See ``Part``."""
        name, inner = key.name, self.inner
        if name in ("ctrl-c", "ctrl-d") and not self.is_open:
            # At the end of a text there is nothing to delete, so that it leaves the screen as everywhere.
            if name == "ctrl-c" or not isinstance(inner, Line) or inner.editor.draft.cursor >= len(inner.text):
                return False
            return bool(inner.pending or inner.resolver.table.get(name))
        if self.kind_name in CLOSED:
            return self.is_open or name in OPENING - {"enter", "ctrl-j"} or bool(key.text)
        if inner.pending:
            return True
        if self.month is not None and (self.is_open or name == "alt-down"):
            return name not in ("tab", *OF_SCREEN)
        if name in OF_SCREEN:
            return False
        if name == "tab":
            return self._completes()
        if name == "escape":
            return bool(inner.mode_label) or self._lets_down
        if name in ("enter", "ctrl-j") or (name.startswith("alt-") and inner.mode_label):
            return True  # where letters are commands, Alt with one is Escape and the letter
        if name in ("up", "down", "ctrl-p", "ctrl-n", "page-up", "page-down"):
            return self.kind_name in ("spin", *OF_ROWS) or self._lets_down
        if name in ("left", "right") and self.kind_name == "yes-no":
            return False
        resolver = inner.resolver
        action = resolver.table.get(name, "")
        if name.startswith("alt-") and action.startswith(OF_HISTORY):
            return False
        return bool(key.text or action or name in resolver.begun)

    @property
    def rolls(self) -> bool:  # type: ignore[override]
        """See ``Part``: with the mouse over it, only what has rows of its own."""
        return self.is_open or self.kind_name in ("spin", *OF_ROWS) or self._lets_down

    @property
    def scrolls_when_seen(self) -> bool:  # type: ignore[override]
        """See ``Part``."""
        return self.is_open or self.kind_name in OF_ROWS

    def catch_up(self, key: Key) -> None:
        """See ``Part``: what is in sight of a list, or what was looked for, which some keys go into."""
        if self.is_open and self.kind_name in CLOSED:
            self.inner.drawn()
        elif key.name in OF_LISTED and isinstance(self.inner, Line):
            while self.inner.work():
                pass

    def _completes(self) -> bool:
        """Whether there is something that Tab would complete."""
        inner = self.inner
        if not isinstance(inner, Line) or not self._may_complete:
            return False
        if self._lets_down:
            return True
        if inner.editor.complete is None:
            return False
        try:
            start, found = inner.editor.complete(inner.text, inner.editor.draft.cursor)
        except Exception:  # what the program offers fails: then it offers nothing
            return False
        word = inner.text[start : inner.editor.draft.cursor]
        return bool(found) and not (len(found) == 1 and found[0].text == word)

    @property
    def _lets_down(self) -> bool:
        """Whether a list is open below a line, or what is searched for in it."""
        inner = self.inner
        return isinstance(inner, Line) and (inner.editor.finder is not None or bool(inner.listing(ANY_COLUMNS)))

    def press(self, event: Event) -> Effect | None:
        """Take one event."""
        inner = self.inner
        name = getattr(event, "name", "")
        if self.kind_name in CLOSED and not self.is_open:
            if not isinstance(event, Mouse) or event.name == "left":
                self._open(event)
            return None
        if self.month is not None and isinstance(event, Key) and (self.is_open or name == "alt-down"):
            self._pick_day(name)
            return None
        if isinstance(event, Mouse) and not self._is_for_inner(event):
            return None
        if name in ("enter", "ctrl-j") and self.kind_name not in (*CLOSED, *OF_ROWS):
            self._accept(goes_on=True)
            return None
        if name == "escape" and self.is_open:
            self._close()
            return None
        if name in STEPS and self.kind_name in CLOSED:
            self._leave_list(STEPS[name])
            return None
        before = inner.text
        wanted: Effect | None = inner.press(event)
        outcome, inner.outcome = inner.outcome, None
        if isinstance(outcome, Answered):
            self.settle(outcome.value)
            if self.kind_name in CLOSED:
                self._close()
            else:
                self._go_on()
        elif isinstance(outcome, (Interrupted, Ended)):
            self.outcome = outcome
        elif inner.text != before or self.kind_name == "yes-no":
            self._read()
        elif self.kind_name in OF_ROWS and inner.complaint is not None:
            self._problem, self.shows_problem = inner.complaint, True
        self.stale()
        return wanted

    def _is_for_inner(self, event: Mouse) -> bool:
        """Return whether the mouse is used on what is edited; what it does to a month is done here."""
        key = self.month.key_of(event, is_open=self.is_open) if self.month is not None else None
        if key is not None:
            self._pick_day(key)
            return False
        if self._settled_columns:  # what is edited was not drawn: its value was
            self.inner.view(self._settled_columns, MOST_BELOW)
            self.inner.drawn()
        return event.row >= 0 and event.column >= 0  # not on the label

    def _open(self, event: Event) -> None:
        """Let the list of choices down."""
        self._first, self._inner = self._value, None
        self.is_open = True
        if isinstance(event, Paste) or (isinstance(event, Key) and event.text and event.name not in OPENING):
            self.press(event)
        self.stale()

    def _pick_day(self, key: str) -> None:
        """Go to another day of the month that is let down, take it, or let the month down."""
        assert self.month is not None
        if key == month_list.OPEN and not self.is_open:
            self.month.begin(self._value)
            self.is_open = True
        elif key in (month_list.TAKE, "ctrl-j"):
            self.is_open = False
            self._first, self._inner = self.month.day, None
            self._accept()
        elif key == month_list.CLOSE:
            self.is_open = False
        else:
            self.month.go(key)
        self.stale()

    def _leave_list(self, by: int) -> None:
        """Take what is current in the list that is let down, and go to the next part, or the one before."""
        inner: Any = self.inner
        inner.enter()
        outcome, inner.outcome = inner.outcome, None
        if isinstance(outcome, Answered):
            self.settle(outcome.value)
        if inner.complaint is None:
            self._close()
            if self.host is not None:
                self.host.step(by)

    def _close(self) -> None:
        self.is_open = False
        self.stale()

    def _read(self) -> None:
        """Read what is typed; what is wrong with it is shown once it is left."""
        slot = self.here
        self.shows_problem = self.shows_problem and self._problem is not None
        if slot.twice or (slot.check is not None and not slot.live):  # a check may be slow, and is for what is accepted
            self._problem = None
            return
        try:
            self.settle(self._read_text())
        except Complaint as complaint:
            self._problem = complaint
            self.shows_problem = self.shows_problem or slot.live

    def _read_text(self) -> Any:
        if self.kind_name == "list":  # rows, each of them a value, are no words of a line
            return self.inner.accept(self.inner.text)
        return self._value_of(self.inner.text)

    def _value_of(self, text: str) -> Any:
        """Return the value of a text, by the bounds that hold now; raises Complaint."""
        return Ask(self.here, self._first, answers=self.answers).read(text)

    def changed(self) -> None:
        """See ``Part``: what depends on it may look otherwise, too."""
        for other in self.siblings():
            if other.slot.depends and other is not self:
                other.read_again()
        super().changed()

    def read_again(self) -> None:
        """See what is in it by what is in other fields now."""
        if self._problem is not None and self._inner is not None and self.kind_name not in CLOSED:
            self._read()
        self.shows_problem = self.has_value and self.problem is not None
        self.stale()

    def settle(self, value: Any) -> None:
        """Have another valid ``value``, by the user's doing."""
        before, self._value, self._problem, self.shows_problem = self._value, value, None, False
        if before is MISSING or before != value or type(before) is not type(value):
            self.is_touched = True
            self.changed()

    def _accept(self, *, goes_on: bool = False) -> None:
        """Take what is typed as the value, or show what is wrong with it."""
        inner = self.inner
        if self.kind_name in CLOSED:
            return
        if self._is_kept:
            if goes_on:
                self._go_on()
            return
        awaits_again = getattr(inner, "first", None) is not None and not inner.text
        enter = getattr(inner, "enter", None)
        if enter is not None and not awaits_again:
            enter()
        outcome, inner.outcome = inner.outcome, None
        if isinstance(outcome, Answered):
            self.settle(outcome.value)
            inner.complaint = None
            if goes_on:
                self._go_on()
            return
        self._problem = inner.complaint
        self.shows_problem = self._problem is not None
        if self._problem is None and getattr(inner, "first", None) is not None:
            self._problem = Complaint(tell("type it once more, to be sure"))
            self.shows_problem = not goes_on  # else the foot says so
        self.stale()

    @property
    def _is_kept(self) -> bool:
        """Whether nothing is typed in place of the value, whose line is empty: a secret, or what the program gave."""
        is_empty = self._value == "" or (bool(self.slot.secret) and self._value is not MISSING)
        return is_empty and not self.inner.text

    def _go_on(self) -> None:
        """Let the screen go on to the next part."""
        if self.host is not None:
            self.host.go_on(self)

    def focus(self, gained: bool) -> None:
        """See ``Widget``; what is typed is read when the field is left."""
        was, self.is_open, self._said = self.has_focus, False, ""
        super().focus(gained)
        if self._inner is not None:
            self._inner.focus(gained)
        is_left = was and not gained and self._inner is not None and self.kind_name not in CLOSED
        if is_left and (self.inner.text or self._value is not MISSING):
            if self.host is not None:
                self.host.call(self._accept)  # a check that fails is told as that of any function
            else:
                self._accept()

    def click(self, event: Mouse) -> None:
        """See ``Widget``."""

    def check(self) -> Complaint | None:
        """Return what is wrong with the field, and show that."""
        if self._inner is not None and self.kind_name not in CLOSED:
            self._accept()
        self.shows_problem = self.problem is not None
        self.stale()
        return self.problem

    def refuse(self, complaint: Complaint) -> None:
        """Show a complaint about the value, from who looks at several together."""
        self._problem, self.shows_problem = complaint, True
        self.stale()

    # What the driver asks for ----------------------------------------------------------------------------------------

    @property
    def letters(self) -> str:
        """See ``Part``."""
        return self.label

    def returned(self, text: str | Complaint) -> None:
        """See ``Widget``."""
        self.inner.returned(text)
        self._read()

    @property
    def reader(self) -> Any:
        """See ``Widget``."""
        return self._inner.reader if self._inner is not None else None

    @property
    def pending(self) -> str:
        """See ``Widget``."""
        return self._inner.pending if self._inner is not None else ""

    @property
    def mode_label(self) -> str:
        """See ``Widget``."""
        if self.kind_name in CLOSED and not self.is_open:
            return ""
        try:
            label: str = self.inner.mode_label
        except Exception:  # what the program bounds it by fails, which is said where it is drawn
            label = ""
        return label

    def work(self) -> bool:
        """See ``Widget``."""
        return self._inner.work() if self._inner is not None else False

    @property
    def growing(self) -> Any:
        """See ``Widget``."""
        return self._inner.growing if self._inner is not None and self.is_open else ()

    def hint_keys(self) -> str:
        """See ``Part``."""
        if self.kind_name in CLOSED and not self.is_open:
            return tell("Space: choose")
        if self.month is not None:
            return (
                tell("arrows: day   Page-Up Page-Down: month   Enter: take")
                if self.is_open
                else tell("Enter: accept   Up Down: change   Alt-Down: month")
            )
        return self._own_foot()

    def _own_foot(self) -> str:
        """Return what the keys of the widget do, without those that do something else on a screen."""
        inner = self.inner
        completes = isinstance(inner, Line) and inner.editor.complete is not None and self._may_complete
        made = inner.foot(), completes
        if made != self._foot[0]:
            parts = [one for one in made[0].split("   ") if not one.startswith("Ctrl-C")]
            if made[0] == tell(several_lines.SeveralLines.FOOT):
                parts[0] = tell("Alt-Enter: accept")
            if completes and "Tab: " not in made[0]:
                parts.append(tell("Tab: complete"))
            self._foot = made, "   ".join(parts)
        return self._foot[1]

    @property
    def _may_complete(self) -> bool:
        """Whether Tab may complete what is typed, rather than go to the next part."""
        return bool(self.inner.text) and self.kind_name != "several-lines"

    def status(self) -> str:
        """See ``Widget``."""
        if not self._said:
            self._said = hint(self.slot, one=self.slot.many)
        return self._said

    # View ------------------------------------------------------------------------------------------------------------

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        stacked = self.left(columns) == 0 and bool(self.label)
        own = MOST_OWN if self.kind_name in OF_ROWS else 1
        rows = own + stacked + len(self.rows_of_reason(self.shown_problem, columns, MOST_SAID))
        return SizeHint(min(self.gutter + 12, 20), 1 + stacked, self.gutter + BETWEEN + 24, rows)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        left = self.left(columns)
        top: list[Row] = [self.label_row(columns)] if not left and self.label and rows > 1 else []
        problem = self.shown_problem
        reason = self.rows_of_reason(problem, columns, rows - len(top) - 1)
        own = max(rows - len(top) - len(reason), 1)
        frame = self._value_frame(max(columns - left, 1), own)
        body = self.in_gutter(frame.rows[:own] or [()], columns)
        if problem is not None and not reason:
            body[0] = beside(body[0], problem, columns)
        cursor = frame.cursor or (0, 0)
        place = (min(cursor[0], own - 1) + len(top), cursor[1] + left)
        return Frame((*top, *body, *reason), place, frame.shape, clicks=frame.clicks.moved(len(top), left))

    def _value_frame(self, columns: int, rows: int) -> Frame:
        if self.kind_name in CLOSED:
            text = "" if self._value is MISSING else self._text_of(self._value)
            role = "current" if self.has_focus else ""
            spans = ((cut(text or "-", max(columns - len(CLOSED_MARK), 1)), role), (CLOSED_MARK, "hint"))
            return Frame((spans,))
        if self.slot.secret and self._is_kept:
            return Frame((((shown(self.slot, self._value), "note"),),), (0, 0))
        if self.kind_name in OF_ROWS and rows > 1:
            made: Frame = self.inner.view(columns, rows)
            return made
        is_right = self._problem is None and self._value is not MISSING
        if is_right and not self.has_focus and not self.slot.secret:
            self._settled_columns = columns
            return self._with_mark(Frame((((cut(self._text_of(self._value), columns), ""),),)), columns)
        self._settled_columns = 0
        frame = self.inner.view(columns, 1 if not self.has_focus else MOST_BELOW)
        self._viewed = columns, frame
        return self._with_mark(Frame(frame.rows[:rows], frame.cursor, frame.shape, clicks=frame.clicks), columns)

    def _text_of(self, value: Any) -> str:
        """Return a value as it is shown, also one that is no choice any more."""
        try:
            return visible(shown(self.here, value))
        except Complaint:
            return visible(", ".join(map(str, value)) if isinstance(value, tuple) else str(value))

    def _with_mark(self, frame: Frame, columns: int) -> Frame:
        """Return the frame with the mark of a month, if there is one."""
        return frame if self.month is None else self.month.marked(frame, columns)

    def echo(self) -> str:
        """See ``Widget``: what a line has shown at its end, with nothing below it and no reason beside it."""
        if self._inner is None or self.is_open or self.month is not None or self.kind_name in (*CLOSED, *OF_ROWS):
            return ""
        is_bare = self._viewed is not None and len(self._viewed[1].rows) == 1
        return self._inner.echo() if is_bare and not self.shows_problem else ""

    def below(self, columns: int, rows: int) -> tuple[Frame, int] | None:
        """See ``Part``: a list that is open, and what has no room in the field's own rows."""
        left = self.left(columns)
        room = max(columns - left, 1)
        if self.month is not None and self.is_open:
            frame = self.month.frame()
            shown_rows = frame.rows[:rows]
        elif self.kind_name in CLOSED:
            if not self.is_open:
                return None
            high = min(self.inner.size(room - 1).rows, rows, MOST_BELOW)
            frame = self.inner.view(room - 1, high)
            shown_rows = frame.rows
        else:
            if self.kind_name in OF_ROWS or not self.has_focus:
                return None
            # The same box as that of the view just made, as a rule.
            is_same = self._viewed is not None and self._viewed[0] == room and rows >= MOST_BELOW
            frame = self._viewed[1] if is_same and self._viewed else self.inner.view(room, min(MOST_BELOW, rows + 1))
            shown_rows = frame.rows[1:]
            if not shown_rows:
                return None
        made = tuple([((" " * left, ""), ("│", "hint"), *fitted(row, room - 1)) for row in shown_rows])
        is_list = self.kind_name in CLOSED or self.is_open
        clicks = frame.clicks.moved(0 if is_list else -1, left + 1)
        cursor = frame.cursor if is_list else None
        return Frame(made, cursor and (cursor[0], cursor[1] + left + 1), clicks=clicks), columns

    def drawn(self) -> None:
        """See ``Widget``."""
        if self._inner is not None:
            self._inner.drawn()
