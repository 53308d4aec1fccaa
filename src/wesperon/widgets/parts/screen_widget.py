"""A screen as a widget: an arrangement of parts, dialogs on top of it, and what the keys do in the last row.

keys      go to the part with the focus if it uses them, then to the screen: from part to part, by the letter of a
          label, to the default button; the topmost dialog has them all
mouse     a press gives the focus to the part that is hit, and is its own
view      the title, the parts, the foot; over them what a part lets down, then the dialogs
"""

from __future__ import annotations

from wesperon.editing.keys.events import Key, Mouse, Paste
from wesperon.editing.keys.modeless import MODELESS
from wesperon.editing.keys.resolver import spoken
from wesperon.frozen import Frozen
from wesperon.screen.frame import Frame
from wesperon.screen.layout import foot_row
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.widgets.parts.arrangement import ARROWS, Hit
from wesperon.widgets.parts.boxes import Divider, ScrollBar
from wesperon.widgets.parts.levels import (
    KEYS_OF_BAR,
    KEYS_OF_DIVIDER,
    Level,
    pages_of_keys,
    title_row,
    with_dialog,
    with_keys,
    with_list,
)
from wesperon.widgets.widget import HELP, QUESTION_ACTIONS, WHEEL, Ended, Interrupted, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any, ClassVar

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.theme import Theme
    from wesperon.values import Complaint
    from wesperon.widgets.parts.part import Part
    from wesperon.widgets.widget import Effect

#: What the keys of a line do in the family that has letters with Alt.
EDITING = MODELESS.modes[MODELESS.start].table
#: The keys that leave a dialog, and whatever is on top.
ESCAPE, CTRL_D = Key("escape"), Key("ctrl-d")
#: The keys that show another page of what does not fit.
PAGES = {"page-up": -1, "page-down": 1}


class Visit(Frozen):
    """A part is chosen by its label or title, as a test does: it gets the focus, and a button is pressed."""

    label: str


class ScreenWidget(Widget):
    """Shows a ``content`` of parts; ``keys`` are the program's own, with what they do."""

    is_full_screen = True

    def __init__(self, content: Part, *, title: str = "", keys: Mapping[str, Callable[[], Any]] | None = None) -> None:
        super().__init__()
        self.keys = dict(keys or {})
        self.levels = [Level(content, title)]
        #: What is said in the foot until the next key.
        self.said = ""
        self._bindings: Bindings | None = None
        self._dragged: tuple[Divider, int, int] | None = None
        #: The page of what all keys do, from 1, while that is shown; else 0.
        self.keys_page = 0
        self._before_bar: Part | None = None
        #: What was around the part with the focus in the last view.
        self._drawn_around: tuple[Any, ...] = ()
        #: Whether the last view was after the last key, and how large it was; None before the first one.
        self._seen: tuple[bool, int, int] | None = None
        self._join(self.levels[0])

    # Layers ----------------------------------------------------------------------------------------------------------

    @property
    def top(self) -> Level:
        """What has the keys: the last dialog, or the screen itself."""
        return self.levels[-1]

    @property
    def focused(self) -> Part | None:
        """The part that has the focus."""
        return self.top.arrangement.focused

    def open(self, content: Part, title: str = "") -> Level:
        """Show a content in a dialog over everything, with the focus in it."""
        before = self.focused
        level = Level(content, title)
        self._join(level)
        if before is not None:
            before.focus(False)
        self.levels.append(level)
        return level

    def close_level(self, level: Level, result: Any = None) -> None:
        """Take a dialog away, and those above it."""
        if level not in self.levels[1:]:
            return
        level.result = result
        while self.levels[-1] is not level:
            self._leave(self.levels.pop())
        self._leave(self.levels.pop())
        if self.focused is not None:
            self.focused.focus(True)

    def _leave(self, level: Level) -> None:
        level.is_closed = True
        if level.on_close is not None:
            level.on_close()
        level.content.attach(None)

    def _join(self, level: Level) -> None:
        """Give the parts of a level what they need of the screen."""
        level.working = [part for part in level.content.leaves() if part.works]
        if self._bindings is not None:
            for part in level.content.leaves():
                part.bind(self._bindings)
        for part in level.content.leaves():
            part.set_theme(self.theme)

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        super().bind(bindings)
        self._bindings = bindings
        for level in self.levels:
            for part in level.content.leaves():
                part.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        super().set_theme(theme)
        for level in self.levels:
            for part in level.content.leaves():
                part.set_theme(theme)
                part.is_stale = True

    # Keys ------------------------------------------------------------------------------------------------------------

    def handle(self, event: Event) -> None:
        """Take one event."""
        self.top.arrangement.heed()  # the program may have hidden the part with the focus, or turned it off
        if isinstance(event, Mouse):
            self._mouse(event)
        elif isinstance(event, Key):
            self.said = ""
            page, self.keys_page = self.keys_page, 0
            if page and event.name == "f1" and self._seen is not None:
                self.keys_page = (page + 1) % (len(pages_of_keys(self._keys_here(), self._seen[2])) + 1)
            elif not page or event.text.strip():  # what is typed is typed all the same
                self._key(event)
        elif isinstance(event, Visit):
            self.visit(event.label)
        elif isinstance(event, Paste):
            if self.focused is not None:
                self.give(self.focused, event)
        else:
            super().handle(event)
        self.top.arrangement.heed()

    def labels(self) -> dict[str, Part]:
        """Return the parts that are shown on top, by their labels or titles."""
        return {
            part.letters or part.title: part for part in self.top.content.shown_leaves() if part.letters or part.title
        }

    def visit(self, label: str) -> None:
        """Give the focus to the part with a label, and do what its letter does."""
        part = self.labels().get(label)
        if part is not None and self.top.arrangement.is_stop(part):
            self.top.arrangement.give_focus(part)
            part.activate()

    def _key(self, event: Key) -> None:
        part, arrangement = self.focused, self.top.arrangement
        if event.name not in PAGES:
            arrangement.follow()
        name = event.name
        if self._goes_on(part, event):
            super().handle(event)
            return
        if part is not None and self._seen is not None:
            if not self._seen[0]:
                self._catch_up(part, event, *self._seen[1:])
            self._seen = False, *self._seen[1:]
        if name.startswith("alt-") and len(name) == 5 and self._leads(name[4].lower()) and self._to_label(name):
            return  # whatever it may mean to a part: it is underlined
        if part is not None and self._is_own(part, event):
            self.give(part, event)
        elif event.name in PAGES and arrangement.page(PAGES[event.name]):
            pass
        elif event.name in self.keys:
            self.call(self.keys[event.name])
        elif self._is_of_bar(event.name) or (event.name in ARROWS and arrangement.to_neighbour(event.name)):
            pass
        elif not self._to_label(event.name):
            super().handle(event)

    def _goes_on(self, part: Part | None, key: Key) -> bool:
        """Return True if a key goes on with a sequence of the screen; what begins it may begin others of the part."""
        if self.resolver.keys:
            return True
        reader = part.reader if part is not None else None
        return reader is not None and reader.hand_over(self.resolver, key)

    def _catch_up(self, part: Part, key: Key, columns: int, rows: int) -> None:
        """Have the part with the focus be what it would be, had the keys before this one been drawn."""
        if part.scrolls_when_seen:
            drawn = self._drawn_around
            self.view(columns, rows)
            self._drawn_around = drawn
        part.catch_up(key)

    @property
    def _bar(self) -> Any:
        """The menu bar of what is on top; None if it has none."""
        return next((part for part in self.top.content.leaves() if part.is_bar), None)

    def _is_of_bar(self, key: str) -> bool:
        """Have the menu bar choose what a key chooses. Return False if it chooses nothing."""
        return self._bar is not None and self._bar.choose_by(key)

    def use_bar(self) -> None:
        """Give the focus to the menu bar, if there is one."""
        bar = self._bar
        if bar is not None and bar is not self.focused:
            self._before_bar = self.focused
            self.top.arrangement.give_focus(bar)

    def leave_bar(self, bar: Part) -> None:
        """Give the focus back to who had it before the menu bar."""
        if bar is self.focused:
            self.top.arrangement.give_focus(self._before_bar)
            self.top.arrangement.heed()

    def give(self, part: Part, event: Event) -> None:
        """Give an event to a part, and see what has become of it."""
        self.want(part.press(event))
        part.is_stale = True
        outcome, part.outcome = part.outcome, None
        if isinstance(outcome, (Interrupted, Ended)):
            self.leave(outcome)

    def leave(self, outcome: Interrupted | Ended) -> None:
        """End the screen, or with Ctrl-D the dialog that is open."""
        if isinstance(outcome, Ended) and len(self.levels) > 1:
            self.close_level(self.top)
        else:
            self.outcome = outcome

    def call(self, function: Callable[..., Any], *given: Any) -> None:
        """Call a function of the program."""
        function(*given)

    def _leads(self, letter: str) -> bool:
        """Return True if a letter with Alt leads to a label even from where it means something else."""
        return _is_free(letter) or self._lettered(letter) is not None

    def _lettered(self, letter: str) -> Part | None:
        """Return the part that shows a letter with Alt, and can have the focus."""
        part = next((one for one, own in letters_of(self.top.content).items() if own == letter), None)
        return part if part is not None and self.top.arrangement.is_stop(part) else None

    def _to_label(self, name: str) -> bool:
        """Give the focus to the part whose letter with Alt was pressed. Return False if there is none."""
        if not name.startswith("alt-") or len(name) != 5:
            return False
        bar = self._bar
        if bar is not None and bar.open_by(name[4:].lower()):
            self.use_bar()
            return True
        part = self._lettered(name[4:].lower())
        if part is None:
            return False
        self.top.arrangement.give_focus(part)
        part.activate()
        return True

    def step(self, by: int) -> None:
        """Give the focus to the next part, or the one before."""
        self.top.arrangement.step(by)

    def next_part(self) -> None:
        """Give the focus to the next part."""
        self.step(1)

    def previous_part(self) -> None:
        """Give the focus to the part before."""
        self.step(-1)

    def enter(self) -> None:
        """Go on to the next part; after the last one that is no button, press the default button."""
        part = self.focused
        default = self._default()
        if default is not None and (part is None or self.top.arrangement.is_last(part)):
            default.activate()
        else:
            self.step(1)

    def _default(self) -> Part | None:
        for part in self.top.arrangement.stops():
            if part.is_button and part.is_default:
                return part
        return None

    def cancel(self) -> None:
        """Leave the dialog that is open."""
        if len(self.levels) > 1:
            self.close_level(self.top)

    def end(self) -> None:
        """Leave the dialog that is open, else the screen."""
        self.leave(Ended())

    def show_help(self) -> None:
        """Show what all keys do."""
        self.keys_page = 1

    def move_divider(self, by: int) -> None:
        """Move the divider beside the part that has the focus."""
        around, at = self._divided
        if around is not None:
            around.move_divider(at, by)
            self.top.arrangement.forget()

    @property
    def _divided(self) -> tuple[Any, int]:
        """The group with dividers that the part with the focus is in, and the number of the one beside it."""
        part = self.focused
        while part is not None and part.parent is not None:
            around: Any = part.parent
            if getattr(around, "dividers", None):
                shown = around.shown_parts
                return around, min(shown.index(part), len(shown) - 2)
            part = around
        return None, 0

    def divider_back(self) -> None:
        """Move the divider to the left, or up."""
        self.move_divider(-1)

    def divider_forward(self) -> None:
        """Move the divider to the right, or down."""
        self.move_divider(1)

    # The mouse -------------------------------------------------------------------------------------------------------

    def _mouse(self, event: Mouse) -> None:
        hit = event.hit
        if self._dragged is not None:
            divider, row, column = self._dragged
            if event.action == "release":
                self._dragged = None
                divider.group.move_divider(divider.at, event.row - row if divider.group.down else event.column - column)
                self.top.arrangement.forget()
            return
        if not isinstance(hit, Hit) or event.action != "press" or not self._is_on_top(hit.part):
            return
        part = hit.part
        if isinstance(part, Divider):
            if event.name == "left":
                self._dragged = part, event.row, event.column
        elif isinstance(part, ScrollBar) and event.name == "left":
            self.top.arrangement.scroll(part.group, part.top_at(hit.event.row))
        elif event.name in WHEEL and not part.rolls:
            self.top.arrangement.wheel(part, WHEEL[event.name])
        elif part.enabled:
            if part.is_bar:
                self.use_bar()
            elif part.takes_focus and event.name == "left":
                self.top.arrangement.give_focus(part)
            self.give(part, hit.event)

    def _is_on_top(self, part: Any) -> bool:
        """Return True if a part is not behind a dialog: that may have opened since the click."""
        around = getattr(part, "group", part)
        while around.parent is not None:
            around = around.parent
        return around is self.top.content

    # View ------------------------------------------------------------------------------------------------------------

    def view(self, columns: int, rows: int) -> Frame:
        """Return the whole screen, exactly as many rows as there are."""
        if self.outcome is not None:
            return Frame(())
        screen = self.levels[0]
        has_title, has_foot = bool(screen.title) and rows > 3, rows > 1
        room = rows - has_title - has_foot
        body = screen.arrangement.view(max(columns - 1, 1), room)
        head: tuple[Row, ...] = (title_row(screen.title, columns),) if has_title else ()
        self._seen = True, columns, rows
        said = self._foot_said()
        self._drawn_around = self._around(said)
        foot: tuple[Row, ...] = (foot_row(said[0], columns, said[1]),) if has_foot else ()
        cursor = None if body.cursor is None else (body.cursor[0] + len(head), body.cursor[1])
        frame = Frame((*head, *body.rows, *foot), cursor, body.shape, clicks=body.clicks.moved(len(head), 0))
        screen.place = len(head), 0
        for level in self.levels[1:]:
            frame = with_dialog(frame, level, columns, rows)
        frame = with_list(frame, self.top, columns, rows)
        if self.keys_page:
            pages = pages_of_keys(self._keys_here(), rows)
            self.keys_page = min(self.keys_page, len(pages))
            frame = with_keys(frame, pages[self.keys_page - 1], columns, rows)
        return frame

    def _keys_here(self) -> list[str]:
        """Return what the keys do here that do not do so on every screen."""
        part = self.focused
        said = [one for one in part.tried(part.hint_keys, nothing).split("   ") if one] if part is not None else []
        if self._bar is not None:
            said.append(KEYS_OF_BAR)
        if self._divided[0] is not None:
            said.append(KEYS_OF_DIVIDER)
        return said + [f"{spoken(key)}: {visible(text)}" for key, one in self.keys.items() if (text := _summary(one))]

    def drawn(self) -> None:
        """See ``Widget``."""
        for level in self.levels:
            level.arrangement.drawn()
            level.arrangement.heed()

    def echo(self) -> str:
        """See ``Widget``: what the part with the focus has put at the cursor, if nothing else is to be drawn."""
        part = self.focused
        typed = part.tried(part.echo, nothing) if part is not None else ""
        if not typed or self._around(self._foot_said()) != self._drawn_around:
            return ""
        others = [one.part for level in self.levels for one in level.arrangement.placed if one.part.is_stale]
        return typed if others in ([], [part]) else ""

    def _around(self, said: tuple[str, str]) -> tuple[Any, ...]:
        """Return all that a view depends on but what the parts show; ``said`` is in the foot."""
        laid = [level.arrangement.laid for level in self.levels]
        return said, self.focused, [*self.levels], laid, self.keys_page, self.outcome

    @property
    def mode_label(self) -> str:
        """See ``Widget``: that of the part with the focus, else of any."""
        if self._bindings is None or len(self._bindings.family.modes) < 2:
            return ""
        parts = [self.focused, *self.top.content.shown_leaves()]
        return next((part.mode_label for part in parts if part is not None and part.mode_label), "")

    def _foot_said(self) -> tuple[str, str]:
        """Return what is said in the foot, and what is always said there, at its right end."""
        part = self.focused
        pending = (part.pending if part is not None else "") or super().pending
        if pending or self.said:
            return pending or self.said, ""
        keys = part.tried(part.hint_keys, nothing) if part is not None else ""
        more = tell("F1: keys") if "Tab: " in keys else tell("Tab: next   F1: keys")
        if part is not None and part.is_bar:  # all keys are its own
            more = ""
        mode = part.mode_label if part is not None else ""
        parts = [one for one in (mode, keys, more, self._way_out(part)) if one]
        return "   ".join(parts), part.tried(part.status, nothing) if part is not None else ""

    def _way_out(self, part: Part | None) -> str:
        """Return which key leaves the screen, or the dialog; empty if the part with the focus has all of them."""
        is_dialog = len(self.levels) > 1
        if (part is not None and part.is_open) or (is_dialog and not self._is_own(part, ESCAPE)):
            return tell("Escape: back")
        if self._is_own(part, CTRL_D):
            return ""
        return tell("Ctrl-D: back") if is_dialog else tell("Ctrl-D: leave")

    def _is_own(self, part: Part | None, key: Key) -> bool:
        """Return True if a key goes to the part with the focus."""
        return part is not None and part.tried(part.wants_key, lambda error: False, key)

    # Effects ---------------------------------------------------------------------------------------------------------

    def want(self, effect: Effect | None) -> None:
        """See ``Widget``; help is the screen's own to show."""
        if effect is HELP:
            self.show_help()
        else:
            super().want(effect)

    @property
    def text(self) -> str:
        """The text of the part with the focus."""
        return self.focused.text if self.focused is not None else ""

    @property
    def syntax(self) -> Any:
        """Its syntax."""
        return self.focused.syntax if self.focused is not None else None

    def about(self, effect: Effect) -> Any:
        """See ``Widget``: that of the part with the focus."""
        return self.focused.about(effect) if self.focused is not None else None

    def returned(self, text: str | Complaint) -> None:
        """See ``Widget``."""
        if self.focused is not None:
            self.focused.returned(text)
            self.focused.is_stale = True

    def refuse(self, complaint: Complaint) -> None:
        """Say that something was stopped."""
        self.said = complaint.reason

    def work(self) -> bool:
        """Run a slice of the work of each part. Return True if a view changed."""
        changed = False
        for level in self.levels:
            for part in level.working:
                if part.tried(part.work, lambda error: False):
                    part.is_stale = changed = True
        return changed

    @property
    def growing(self) -> Any:
        """What all parts want."""
        return [wanted for level in self.levels for part in level.working for wanted in part.growing]

    LAYERS = ("screen",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **QUESTION_ACTIONS,
        "focus-next": "next_part",
        "use-menus": "use_bar",
        "focus-previous": "previous_part",
        "accept": "enter",
        "cancel": "cancel",
        "move-divider-back": "divider_back",
        "move-divider-forward": "divider_forward",
    }


def letters_of(content: Part) -> dict[Part, str]:
    """Return the letter that gives each part the focus with Alt.

    It is the first of its label that no other has, and that does nothing in a line; else the first that no other has,
    which then does nothing else in the lines of this screen.
    """
    found: dict[Part, str] = {}
    taken: set[str] = {letter for part in content.leaves() for letter in part.own_letters}
    for part in content.leaves():
        free = [one for one in part.letters.lower() if one.isalnum() and one not in taken]
        letter = next((one for one in free if _is_free(one)), free[0] if free else "")
        if letter:
            found[part] = letter
            taken.add(letter)
    return found


def nothing(error: Exception) -> str:
    """Return what is said of a part that cannot say it."""
    return ""


def _is_free(letter: str) -> bool:
    """Return True if a letter with Alt does nothing in a field."""
    return EDITING.get(f"alt-{letter}", "recall-").startswith("recall-")


def _summary(function: Callable[[], Any]) -> str:
    """Return the first line of a function's own docstring; empty if it has none."""
    text = function.__doc__
    return text.strip().partition("\n")[0] if text and text != type(function).__doc__ else ""
