"""A part of a screen: a widget with a value, a title, and wishes for its size.

A part gets what to show by ``show``, from any thread; it takes that in the thread of its screen (``receive``).
Before it is on a screen that is one and the same.
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.frame import Frame
from wesperon.screen.shares import Wants
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.values import DeclarationError
from wesperon.widgets.parts.checked import checked_count, checked_flag, checked_function, checked_text
from wesperon.widgets.widget import Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any, Protocol, TypeVar

    from wesperon.editing.keys.events import Key
    from wesperon.screen.frame import Row
    from wesperon.values import Complaint

    Function = TypeVar("Function", bound=Callable[..., Any])
    Given = TypeVar("Given")

    class Host(Protocol):
        """The screen on which a part is."""

        def deliver(self, part: Part, given: tuple[Any, ...]) -> None:
            """Have a part take what is to be shown, in the thread of the screen; called from any thread."""

        def call(self, function: Callable[..., Any], *given: Any) -> None:
            """Call a function of the program, whose exceptions are the screen's to show."""

        def leave_bar(self, bar: Part) -> None:
            """Give the focus back to who had it before a menu bar."""

        def adopt(self, part: Part) -> None:
            """Give a part that has come, or is shown again, what it needs of the screen, and room."""

        def letter_of(self, part: Part) -> str:
            """Return the letter that gives a part the focus with Alt; empty if none does."""

        def edit_cell(self, table: Any, index: int, row: Any, column: Any) -> None:
            """Have the user change a cell of a table, in place."""

        def go_on(self, part: Part) -> None:
            """Go on to the next part, or press the default button after the last one."""

        def step(self, by: int) -> None:
            """Give the focus to the next part, or the one before."""

        def in_its_thread(self, function: Callable[[], Any]) -> None:
            """Call a function in the thread of the screen; at once, if that is this one."""

        def touch(self, part: Part) -> None:
            """Draw a part again; called from any thread."""

        def call_soon(self, function: Callable[[], Any]) -> None:
            """Have a function called in the thread of the screen, after the event in hand."""

        def note_failed(self, error: Exception) -> None:
            """Take note that a part cannot be drawn, by what the program gave it."""


#: What the rest of a row after a title is drawn with.
RULE = "─"


class Box(Frozen):
    """A place on the screen: the first row and column, and how many there are."""

    row: int
    column: int
    rows: int
    columns: int

    def inside(self, other: Box) -> Box:
        """Return what of the box is inside another one; it may be empty."""
        top, left = max(self.row, other.row), max(self.column, other.column)
        bottom = min(self.row + self.rows, other.row + other.rows)
        right = min(self.column + self.columns, other.column + other.columns)
        return Box(top, left, max(bottom - top, 0), max(right - left, 0))

    def moved(self, rows: int, columns: int) -> Box:
        """Return the box further down and to the right."""
        return Box(self.row + rows, self.column + columns, self.rows, self.columns)


class Part(Widget):
    """One part of a screen.

    Arguments, all by name:
        title: in the rule above the part
        size: how many cells it has, rows in ``Down`` and columns in ``Across``
        weight: its share of what is left, beside the weights of others
        least, most: how many cells it has at least and at most
        hide_below: with fewer cells than these it is left out

    ``takes_focus`` says whether keys may go to it, ``fills_across`` and ``fills_down`` whether it takes more room than
    its content needs.
    """

    takes_focus = False
    #: Whether it is a menu bar, which has the focus only while it is used.
    is_bar = False
    #: Whether it is left out for now.
    is_hidden = False
    #: Whether it is a button, which Enter elsewhere may press.
    is_button = is_default = False
    #: Whether what is shown is added to what was shown before.
    adds = False
    #: Whether it may have something to do without keys, or lists that grow.
    works = False
    #: Whether keys that type a character go to it, and turns of the wheel.
    types_text = rolls = False
    #: Whether it has let something down, which Escape takes away.
    is_open = False
    #: Whether what a key does in it depends on what of it is in sight.
    scrolls_when_seen = False
    fills_across = True
    fills_down = False

    def __init__(
        self,
        *,
        title: str = "",
        size: int | None = None,
        weight: int | None = None,
        least: int | None = None,
        most: int | None = None,
        hide_below: int = 0,
    ) -> None:
        super().__init__()
        self.has_focus = False
        self.title = visible(checked_text("title", title))
        for name, cells in (("size", size), ("least", least), ("most", most)):
            if cells is not None:
                checked_count(name, cells, 1, "a number of cells")
        if least is not None and most is not None and least > most:
            raise DeclarationError(f"least={least}, most={most}: the most must be the least, or more")
        if weight is not None:
            checked_count("weight", weight, 0, "a whole number")
        checked_count("hide_below", hide_below, 0, "a number of cells")
        self.wished = size, weight, least, most, hide_below
        self.host: Host | None = None
        #: What is around it; None for what is the whole content.
        self.parent: Part | None = None
        self._is_enabled = True
        self._listeners: list[Callable[..., Any]] = []
        #: Whether it is to be drawn again.
        self.is_stale = True
        #: Which of its functions failed the last time that they were called.
        self._broken: set[str] = set()

    # What a program does with it -------------------------------------------------------------------------------------

    @property
    def value(self) -> Any:
        """The last valid value of the part."""
        return None

    @property
    def problem(self) -> Complaint | None:
        """What is wrong with what is in it now; None if nothing is."""
        return self.complaint

    @property
    def enabled(self) -> bool:
        """Whether it can be used; a part that cannot is dim, and keys pass it by."""
        return self._is_enabled and (self.parent is None or self.parent.enabled)

    @enabled.setter
    def enabled(self, enabled: bool) -> None:
        self._is_enabled = checked_flag("enabled", enabled)
        for part in self.leaves():
            part.stale()

    def show(self, *given: Any) -> None:
        """Show something else from here on; from any thread."""
        if self.host is None:
            self.receive(*given)
        else:
            self.host.deliver(self, given)

    def hide(self, is_hidden: bool) -> None:
        """Leave it out, or no longer; from any thread."""
        checked_flag("is_hidden", is_hidden)
        if self.host is None:
            self.is_hidden = is_hidden
        else:
            self.host.in_its_thread(lambda: self._hide(is_hidden))

    def _hide(self, is_hidden: bool) -> None:
        before, self.is_hidden = self.is_hidden, is_hidden
        if self.is_hidden != before and self.host is not None:
            self.host.adopt(self)

    def on_change(self, function: Function) -> Function:
        """Have a function called whenever the user has changed the value; it can be a decorator.

        It gets the new value, or nothing if it takes nothing.
        """
        self._listeners.append(checked_function("on_change", function, "the new value"))
        return function

    # What a part of its own defines ----------------------------------------------------------------------------------

    def receive(self, *given: Any) -> None:
        """Take what is to be shown, in the thread of the screen."""
        raise DeclarationError(f"a {type(self).__name__} shows nothing else")

    def hint_keys(self) -> str:
        """Return what its keys do, for the foot, the most needed first."""
        return ""

    @property
    def own_letters(self) -> str:
        """The letters with Alt that open something in it, as the menus of a bar."""
        return ""

    @property
    def letters(self) -> str:
        """The label, of which a letter with Alt gives it the focus; empty if it has none."""
        return ""

    def wants_key(self, key: Key) -> bool:
        """Return True if a key is its own, and does not go to what is around it."""
        resolver = self.resolver
        if resolver.is_pending or (key.text and self.types_text and resolver.keymap.mode.types):
            return True
        return resolver.table.get(key.name, "") in self.ACTIONS

    def catch_up(self, key: Key) -> None:
        """Be what it would be before a key, had the keys before that one been drawn: they came in one burst."""

    def activate(self) -> None:
        """Do what the letter of its label does, once it has the focus."""

    # Around it -------------------------------------------------------------------------------------------------------

    def leaves(self) -> Iterator[Part]:
        """Yield the parts in it that are no groups, in the order of declaration; itself if it is none."""
        yield self

    def shown_leaves(self) -> Iterator[Part]:
        """Yield those of ``leaves`` that are shown; a part that hides some defines this."""
        yield self

    def leaves_out(self, part: Part) -> bool:
        """Return True if one of the parts in it is not shown now, though it is not hidden itself."""
        return False

    @property
    def is_away(self) -> bool:
        """Whether it is not shown, for itself or for what is around it."""
        part: Part | None = self
        while part is not None:
            around = part.parent
            if part.is_hidden or (around is not None and around.leaves_out(part)):
                return True
            part = around
        return False

    def attach(self, host: Host | None, parent: Part | None = None) -> None:
        """Know which screen it is on, and what is around it; raises DeclarationError if it is somewhere else too."""
        is_elsewhere = self.host is not None and (self.host is not host or self.parent is not parent)
        if host is not None and is_elsewhere:
            raise DeclarationError("a part is on one screen at a time, and at one place of it")
        self.host, self.parent = host, parent
        self.is_stale = True

    def stale(self) -> None:
        """Be drawn again; from any thread."""
        self.is_stale = True
        if self.host is not None:
            self.host.touch(self)

    def changed(self) -> None:
        """Tell those who want to know that the user has changed the value."""
        self.stale()
        for function in [*self._listeners]:
            if self.host is not None:
                self.host.call(function, self.value)
            else:
                function(self.value)

    def focus(self, gained: bool) -> None:
        """See ``Widget``."""
        super().focus(gained)
        self.is_stale = True

    @property
    def title_rows(self) -> int:
        """How many rows its title takes."""
        return 1 if self.title and not getattr(self.parent, "names_parts", False) else 0

    def wants(self, columns: int, *, down: bool) -> Wants:
        """Return what it wants of the rows (``down``) or columns around it, in a box ``columns`` wide."""
        size, weight, least, most, hide_below = self.wished
        hint = self.size(columns)
        if down:
            needed, natural, fills = hint.least_rows + self.title_rows, hint.rows + self.title_rows, self.fills_down
        else:
            title = width(self.title)
            needed, natural, fills = max(hint.least_columns, min(title, 8)), max(hint.columns, title), self.fills_across
        if size is not None:
            least = min(size, needed) if least is None else least
            return Wants(size, 1, least, most, hide_below)
        least = needed if least is None else least
        if fills or weight:
            return Wants(None, 1 if weight is None else weight, least, most, hide_below)
        return Wants(max(natural, least), 1, least, most, hide_below)

    def useful_rows(self, columns: int) -> int | None:
        """Return how many rows it can fill in a box so wide, its title included; None if there is no end to that."""
        size, weight, _, most, _ = self.wished
        if size is not None or most is not None:
            return size if size is not None else most
        return None if self.fills_down or weight else self.size(columns).rows + self.title_rows

    def framed(self, columns: int, rows: int) -> Frame:
        """Return the part in its box, its title in the first row, exactly as many rows as the box has."""
        above = self.title_rows if rows > 1 else 0
        frame = self.tried(self.view, lambda error: said_instead(error, columns), columns, rows - above)
        title = (self.title_row(columns),) if above else ()
        body = frame.rows[: rows - above]
        made = (*title, *body, *([()] * (rows - above - len(body))))
        cursor = None if frame.cursor is None else (min(frame.cursor[0] + above, rows - 1), frame.cursor[1])
        return Frame(made, cursor, frame.shape, clicks=frame.clicks.moved(above, 0))

    def tried(self, function: Callable[..., Given], otherwise: Callable[[Exception], Given], *given: Any) -> Given:
        """Return what a ``function`` of this part gives, or what is ``otherwise`` to be had if it fails.

        It does by an object or a function of the program, which makes the text of a row, say: the screen hears of it
        once, and goes on.
        """
        name = function.__name__
        try:
            made = function(*given)
        except Exception as error:
            if self.host is None:
                raise
            if name not in self._broken:
                self._broken.add(name)
                self.host.note_failed(error)
            return otherwise(error)
        self._broken.discard(name)
        return made

    def title_row(self, columns: int) -> Row:
        """Return the title, and a rule up to the edge of the box."""
        text = cut(self.title, max(columns - 2, 1))
        role = "current" if self.has_focus and self.takes_focus else "title"
        rest = columns - width(text) - 1
        return ((text, role), (" " + RULE * rest, "hint")) if rest > 0 else ((text, role),)

    def below(self, columns: int, rows: int) -> tuple[Frame, int] | None:
        """Return what is shown over others, below its first row, with its width; None if nothing is."""
        return None


def said_instead(error: Exception, columns: int) -> Frame:
    """Return what is shown in place of a part that cannot be drawn."""
    return Frame((((cut(fault_text(error), columns), "reason"),),))


def fault_text(error: Exception) -> str:
    """Return in one row what an object or a function of the program has raised."""
    name = type(error).__name__
    try:
        return visible(f"{name}: {error}".partition("\n")[0]).rstrip(": ")
    except Exception:  # what it says has failed too
        return name


def scroll_cell(at: int, top: int, room: int, count: int) -> tuple[str, str]:
    """Return a cell of a scroll bar, as text and role: of ``count`` rows ``room`` are in sight, from ``top`` on."""
    first = top * room // count
    last = max((top + room) * room // count, first + 1)
    return " ", "bar" if first <= at < last else "bar-rest"


def checked_part(given: object) -> Part:
    """Return a part; raises DeclarationError for what is none."""
    if not isinstance(given, Part):
        raise DeclarationError(f"a screen is made of parts, such as Field, Table or Across, not of {given!r}")
    return given
