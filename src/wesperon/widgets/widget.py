"""The widget protocol, in full: what every widget has, and how it can end.

A widget is a state machine. It takes one event at a time (:meth:`Widget.press`), returns what it wants others to do
(:class:`Effect`), and draws itself into a box of any size
(:meth:`Widget.view`), with no margin, label or foot of its own: what is around it draws those, so that the same field
can be on a card, on a screen, or beside another one. Every member is here with what it does if a widget leaves it as
it is; nobody asks a widget what it can do.
"""

from __future__ import annotations

from wesperon.editing.editor import Memory
from wesperon.editing.keys.events import TYPE, Action, Closed, Key, Mouse, NoEscape, Paste
from wesperon.frozen import Frozen, remembered
from wesperon.screen.frame import Frame
from wesperon.screen.theme import PLAIN_THEME
from wesperon.screen.width import cut, wrap

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, ClassVar, Protocol

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.editing.keys.resolver import KeyResolver
    from wesperon.screen.frame import Row
    from wesperon.screen.theme import Theme
    from wesperon.values import Complaint

    class Growing(Protocol):
        """Where more comes from while a widget is open, for all who look at it (``values.pull_source``)."""

        @property
        def count(self) -> int:
            """How many items there are by now."""

        def pull(self, count: int) -> bool:
            """Take items until there are so many; may block. Return True if more may come."""


#: Which way a turn of the wheel goes. No other button does anything.
WHEEL = {"wheel-up": -1, "wheel-down": 1}
#: What a widget has done before its first action.
NO_ACTION = Action("")
#: The most rows of a value that stays on the screen.
MOST_RECORDED = 4


class Effect(Frozen):
    """What a widget wants done that it cannot do itself; returned by :meth:`Widget.press` to who runs it.

    A container does what it can and returns all others to who runs it in turn, up to the driver.
    """

    name: str


#: Wanted of the driver: an empty screen, the user's own editor for the text, the page of preferences.
CLEAR_SCREEN, EDIT_OUTSIDE, PREFERENCES = Effect("clear-screen"), Effect("edit-outside"), Effect("preferences")
#: Wanted of the driver: the page of the history over the text.
HISTORY = Effect("history")
#: Wanted of the driver: the text that the widget has copied on the clipboard.
COPY = Effect("copy")
#: Wanted of the card around it: the question before, the help on this one.
BACK, HELP = Effect("back"), Effect("help")


class Answered(Frozen):
    """The user gave a value."""

    value: Any


class Interrupted(Frozen):
    """The user wants to stop (Ctrl-C)."""


class Ended(Frozen):
    """The user gives no more (Ctrl-D on an empty line), or there is no user any more."""


class WentBack(Frozen):
    """The user goes back to what was asked before."""


Outcome = Answered | Interrupted | Ended | WentBack


class SizeHint(Frozen):
    """How large a widget is at least, and how large it would be if there were room, in columns and rows."""

    least_columns: int
    least_rows: int
    columns: int
    rows: int


@remembered(64)
def size_hint(least_columns: int, least_rows: int, columns: int, rows: int) -> SizeHint:
    """Return a size hint; the same one is wanted at every key."""
    return SizeHint(least_columns, least_rows, columns, rows)


class Prompt(Frozen):
    """What is around a value that is asked for.

    ``label`` is in a gutter ``gutter`` columns wide; ``question`` beside it if the label alone does not say enough;
    ``hint`` in the foot line, what the value must be; ``note`` at the right edge; ``help`` is shown on request;
    ``keys`` are further keys for the foot; ``beside`` is what stays with the answer, its unit and the question.
    """

    label: str
    gutter: int
    question: str = ""
    hint: str = ""
    note: str = ""
    help: str = ""
    keys: str = ""
    beside: tuple[str, str] = ("", "")


class Widget:
    """A state machine that a driver runs; see the module for the idea.

    Class attributes:
        ACTIONS: the name of an action to the name of the method that does it
        LAYERS: the layers of the family of keys that hold here, the general one first
        CHOOSES: it lists choices, so that letters may be commands from the beginning
        MORE: further keys, for the page of help, each with what it does
        is_full_screen: it is drawn on the whole of the alternate screen, not below what is there
        acts: what takes its time in it is an action of the program, rather than a check
        shares_screen: it is drawn by the painter of the widget below it, whose rows it shows too
        shows_work: rows of long work are shown above it
        fills: it takes all the room of a dialog, if it is in one
        is_busy: Escape has something to end in it
        gives_way: the last event has begun what others do, who have their turn before the next one: what was typed
            after it may be for them
        has_news: something has come from elsewhere that it is to be woken for before the next event
    """

    ACTIONS: ClassVar[dict[str, str]] = {}
    LAYERS: ClassVar[tuple[str, ...]] = ()
    CHOOSES: ClassVar[bool] = False
    MORE: ClassVar[tuple[tuple[str, str], ...]] = ()
    is_full_screen: ClassVar[bool] = False
    shares_screen: ClassVar[bool] = False
    acts: ClassVar[bool] = False
    shows_work: bool = False
    fills: ClassVar[bool] = False
    is_busy = False
    gives_way = False
    has_news = False

    def __init__(self) -> None:
        #: How it has ended; None while it is open.
        self.outcome: Outcome | None = None
        #: What is wrong with what was given so far, for who is around it to show; None if nothing is.
        self.complaint: Complaint | None = None
        #: What the event that is being taken has asked for, which ``press`` returns.
        self._wanted: Effect | None = None
        #: Whether keys go to it; a screen of several widgets gives the focus to one.
        self.has_focus = True
        self.memory = Memory()
        self.theme: Theme = PLAIN_THEME
        #: The last action that was done.
        self.action = NO_ACTION
        #: What reads its keys; made when it is bound, or with its first key.
        self._resolver: KeyResolver | None = None

    # Events ----------------------------------------------------------------------------------------------------------

    def press(self, event: Event) -> Effect | None:
        """Take one event: a key goes through the resolver to :meth:`do`. Return what is to be done by others."""
        self._wanted = None
        self.handle(event)
        return self._wanted

    def want(self, effect: Effect | None) -> None:
        """Return an effect from :meth:`press`, once the event is taken."""
        self._wanted = effect or self._wanted

    def handle(self, event: Event) -> None:
        """Take one event; what it asks for is left to :meth:`press`."""
        if isinstance(event, Key):
            action = (self._resolver or self.resolver).press(event)
            if action is not None:
                self.do(action)
        elif isinstance(event, Paste):
            self.paste(event.text)
        elif isinstance(event, Mouse):
            if event.action == "press" and event.name == "left":
                self.click(event)
            elif event.action == "press" and event.name in WHEEL:
                self.wheel(WHEEL[event.name])
        elif isinstance(event, NoEscape):
            if self._resolver is not None:
                self._resolver.forget_escape()
        elif isinstance(event, Closed):
            self.outcome = Ended()

    def do(self, action: Action) -> None:
        """Do what a key means, if it is one of ``ACTIONS`` or types a text."""
        self.action = action
        if action.name == TYPE:
            self.type(action.text, action.times)
            return
        method = self.ACTIONS.get(action.name)
        if method is not None:
            getattr(self, method)()

    def type(self, text: str, times: int = 1) -> None:
        """Take a text that a key types."""

    def paste(self, text: str) -> None:
        """Take a text that was pasted in one piece."""

    def click(self, event: Mouse) -> None:
        """Take a press of the left button; its place is counted from the first row and column of the box."""

    def wheel(self, by: int) -> None:
        """Take a turn of the wheel: 1 down, -1 up."""

    def uses(self, key: str) -> bool:
        """Return True if it does something with a key, which does nothing around it then."""
        return self.resolver.keymap.table.get(key, "go-back") != "go-back"

    def focus(self, gained: bool) -> None:
        """Learn that keys go to this widget from here on, or no longer."""
        self.has_focus = gained

    # View ------------------------------------------------------------------------------------------------------------

    def view(self, columns: int, rows: int) -> Frame:
        """Return what is shown in a box of this size: at most ``rows`` rows, and the cursor if there is one.

        To make it changes nothing: not what a later view shows, nor what a key does. What scrolls learns by
        :meth:`drawn` where it is now.

        After a full row the cursor is one column after the box; what is around it leaves that column free.
        """
        raise NotImplementedError

    def drawn(self) -> None:
        """Note that what the last view showed is on the screen."""

    def echo(self) -> str:
        """Return what the last event has put at the cursor, at the end of its row of plain text on the screen.

        That is all that a view would change, and what is around the widget neither: its size, what keys do, what is
        wrong. Else it is empty, as it may always be. Who calls it shows the text, or draws the next view.
        """
        return ""

    def size(self, columns: int) -> SizeHint:
        """Return the least and the wanted size, in a box that is ``columns`` wide."""
        return SizeHint(1, 1, columns, 1)

    def begins_beside(self) -> bool:
        """Return True if its first row belongs beside the label, as a line does; a list is below it."""
        return True

    def hides_question(self) -> bool:
        """Return True if a question of one row gives way to what was typed."""
        return False

    def foot(self) -> str:
        """Return what the keys do, in parts three blanks apart, the most needed ones first."""
        return ""

    def status(self) -> str:
        """Return what is always said in the foot; empty for what the prompt says there."""
        return ""

    @property
    def reader(self) -> KeyResolver | None:
        """What reads its keys; None before the first one."""
        return self._resolver

    @property
    def pending(self) -> str:
        """The keys that wait for another one, as people read them; empty if none do."""
        return self._resolver.shown if self._resolver is not None and self._resolver.is_pending else ""

    def record_text(self) -> str:
        """Return the answer as it stays on the screen."""
        return ""

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """Return the rows that stay on the screen, ``columns`` wide."""
        text = self.record_text()
        text = f"{text} {unit}" if unit and text else text
        rows = wrap(text[: MOST_RECORDED * columns + 1], columns)
        if len(rows) > MOST_RECORDED:
            last = MOST_RECORDED - 1
            rows = [*rows[:last], cut(rows[last] + "....", columns)]
        return [((row, ""),) for row in rows]

    # Work ------------------------------------------------------------------------------------------------------------

    def work(self) -> bool:
        """Run one slice of background work. Return True if the view changed."""
        return False

    @property
    def wants_pause(self) -> bool:
        """Whether there is work that may wait until no key has come for a moment (see :meth:`pause`)."""
        return False

    def pause(self) -> None:
        """Do that work, which may change the view."""

    @property
    def growing(self) -> Sequence[tuple[Growing, int]]:
        """What the driver is to pull from while the widget is open, each with how many items are wanted by now.

        That is what is in sight and a screen more: a list may have no end.
        """
        return ()

    @property
    def wakes_at(self) -> float | None:
        """When it is to get ``terminal.alarm.Alarm``, by the monotonic clock of its driver, in seconds; None: never."""
        return None

    @property
    def mode_label(self) -> str:
        """The mode that keys are read in, as people know it; empty if there is only one."""
        return ""

    # What it takes from around it ------------------------------------------------------------------------------------

    def bind(self, bindings: Bindings) -> None:
        """Take the bindings, of the family and the user's own."""
        from wesperon.editing.keys.resolver import KeyResolver

        family, known = bindings.family, self.known_actions()
        self._resolver = KeyResolver(
            lambda mode: bindings.keymap(mode, self.layers, known),
            bindings.start(chooses=self.CHOOSES),
            self.memory.macros,
            family.operators,
            "operator" if "operator" in family.modes else "",
        )

    @property
    def layers(self) -> tuple[str, ...]:
        """The layers of the family of keys that hold now."""
        return self.LAYERS

    @property
    def resolver(self) -> KeyResolver:
        """What reads its keys: by the family alone, as long as nothing else was bound."""
        if self._resolver is None:
            from wesperon.editing.keys.bindings import UNCHANGED

            self.bind(UNCHANGED)
        assert self._resolver is not None
        return self._resolver

    def set_theme(self, theme: Theme) -> None:
        """Take the theme that it is drawn in."""
        self.theme = theme

    def known_actions(self) -> frozenset[str] | None:
        """Return the actions that it does, so that bindings to others leave their keys alone; None if it does all."""
        return frozenset(self.ACTIONS)

    # What the driver and the card may ask for ------------------------------------------------------------------------

    @property
    def text(self) -> str:
        """The text that is being edited; empty if there is none."""
        return ""

    @property
    def syntax(self) -> Any:
        """The syntax of that text; None if it has none."""
        return None

    @property
    def draft_text(self) -> str:
        """What was typed and not accepted yet, worth keeping if the question is left; empty if nothing was."""
        return ""

    def about(self, effect: Effect) -> Any:
        """Return what an effect of :meth:`press` is about.

        Of ``HISTORY`` the earlier entries of the text, and what writes some to a file of commands, None if nothing
        does; of ``COPY`` the text that is to be put on the clipboard.
        """
        return None

    def keep_draft(self) -> None:
        """Learn that what is in it at first was typed, and is to be gone on with."""

    def refuse(self, complaint: Complaint) -> None:
        """Take a complaint about what is in it now."""
        self.complaint = complaint

    def returned(self, text: str | Complaint) -> None:
        """Take what became of the text in the user's editor, or why nothing did."""

    # What every question does ----------------------------------------------------------------------------------------

    def go_back(self) -> None:
        """Ask for the question before."""
        self.want(BACK)

    def show_help(self) -> None:
        """Ask for the help on the question."""
        self.want(HELP)

    def interrupt(self) -> None:
        """Stop asking altogether."""
        self.outcome = Interrupted()

    def end(self) -> None:
        """End of input."""
        self.outcome = Ended()

    def show_preferences(self) -> None:
        """Ask for the page of preferences over the question."""
        self.want(PREFERENCES)

    def clear_screen(self) -> None:
        """Ask for an empty screen, with everything drawn at its top."""
        self.want(CLEAR_SCREEN)


#: What every question does, by the name of the action.
QUESTION_ACTIONS = {
    "interrupt": "interrupt",
    **dict.fromkeys(("delete-char-forward-or-end", "shift-line-back-or-end"), "end"),
    "go-back": "go_back",
    "show-help": "show_help",
    "clear-screen": "clear_screen",
    "show-preferences": "show_preferences",
}
