"""The simple parts: a text, and a button."""

from __future__ import annotations

from wesperon.screen.frame import Frame
from wesperon.screen.width import cut, width, wrap
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.widgets.parts.checked import checked_flag, function_or_none
from wesperon.widgets.parts.part import Part
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any, ClassVar

    from wesperon.editing.keys.events import Mouse

#: The widest that a text wants to be, in columns.
WIDEST = 72
#: A button has room for so many columns at least: a short label is never cut.
LEAST_BUTTON = 12


class Label(Part):
    r"""A text on a screen, broken into rows where it must be.

    ``text`` is what it says; ``show(text)`` changes it. ``role`` is one of the roles of the theme, such as ``"note"``
    or ``"reason"``. The other keywords are those of every part.

    Example:
        >>> Label("The dome is open.").value
        'The dome is open.'

    """

    def __init__(self, text: str = "", *, role: str = "", **place: Any) -> None:
        super().__init__(**place)
        self.role = role
        self.shown = ""
        self.receive(text)

    @property
    def value(self) -> str:
        """The text."""
        return self.shown

    def receive(self, text: object = "", *more: Any) -> None:
        """See ``Part``."""
        self.shown = str(text)
        self._wrapped: tuple[int, list[str]] = (-1, [])
        self.stale()

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        lines = [visible(line) for line in self.shown.split("\n")]
        widest = max(min(max(width(line) for line in lines), WIDEST), 1)
        rows = max(len(self._rows(columns)), 1)
        return SizeHint(min(widest, 8), rows, widest, rows)  # what does not fit is scrolled, and never cut

    def _rows(self, columns: int) -> list[str]:
        """Return the rows in so many columns, which are asked for several times."""
        if self._wrapped[0] != columns:
            lines = self.shown.split("\n")
            self._wrapped = columns, [row for line in lines for row in wrap(visible(line), max(columns, 1)) or [""]]
        return self._wrapped[1]

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        return Frame(tuple([((row, self.role),) for row in self._rows(columns)[:rows]]))


class Button(Part):
    """A button: Enter, the space bar or a click calls its action.

    ``label`` is on it, and a letter of it with Alt presses it; ``action`` is called with no arguments, and may be a
    coroutine function where a loop runs. Enter after the last field presses the one with ``default=True``. The other
    keywords are those of every part.

    Example:
        >>> Button("Expose", lambda: None).letters
        'Expose'

    """

    takes_focus = is_button = True
    fills_across = False

    def __init__(
        self, label: str, action: Callable[[], Any] | None = None, *, default: bool = False, **place: Any
    ) -> None:
        super().__init__(**place)
        if not isinstance(label, str) or not label.strip():
            raise DeclarationError(f"Button({label!r}): must have a label")
        self.label = visible(label)
        self.action_function = function_or_none("action", action)
        self.is_default = checked_flag("default", default)

    @property
    def value(self) -> str:
        """The label."""
        return self.label

    @property
    def letters(self) -> str:
        """See ``Part``."""
        return self.label

    def receive(self, label: object = "", *more: Any) -> None:
        """Show another label."""
        self.label = visible(str(label))
        self.stale()

    def activate(self) -> None:
        """Call the action."""
        if not self.enabled:
            return
        self.changed()
        if self.action_function is not None:
            if self.host is not None:
                self.host.call(self.action_function)
            else:
                self.action_function()

    def click(self, event: Mouse) -> None:
        """See ``Widget``."""
        self.activate()

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        wide = width(self.label) + 4
        return SizeHint(min(wide, LEAST_BUTTON), 1, wide, 1)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        label = cut(self.label, max(columns - 4, 1))
        at = self.letter_at(label)
        role = "current" if self.has_focus else "marked" if self.is_default else ""
        letter = "current-match" if self.has_focus else "match"
        spans = [("[ ", role), (label[:at], role), (label[at : at + 1], letter), (label[at + 1 :], role), (" ]", role)]
        return Frame((tuple([span for span in spans if span[0]]),), (0, 2))

    def letter_at(self, label: str) -> int:
        """Return the place in a ``label`` of the letter that presses it, past the end if there is none."""
        letter = self.host.letter_of(self) if self.host is not None else ""
        at = label.lower().find(letter) if letter else -1
        return at if at >= 0 else len(label)

    def hint_keys(self) -> str:
        """See ``Part``."""
        return tell("Enter: press")

    LAYERS = ("button",)
    ACTIONS: ClassVar[dict[str, str]] = {"accept": "activate"}
