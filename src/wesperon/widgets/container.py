"""Widgets side by side or below each other, of which one has the focus.

A container is a widget too, so that containers may be in containers. Each part draws into its own share of the box
(``screen.shares``); keys and pastes go to the part that has the focus, a click to the one that it hits.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Key, Mouse
from wesperon.frozen import Frozen
from wesperon.screen.frame import Frame, above, beside
from wesperon.screen.overlay import Region, Regions
from wesperon.screen.shares import Wants, shares
from wesperon.widgets.widget import SizeHint, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.theme import Theme
    from wesperon.widgets.widget import Growing

#: The keys that go from part to part, where the part itself does nothing with them.
STEPS = {"tab": 1, "shift-tab": -1}


class Part(Frozen):
    """A widget in a container, and what it wants of the room."""

    widget: Widget
    wants: Wants = Wants()


class Container(Widget):
    """Shows its ``parts`` side by side (``across``) or below each other; its outcome is that of the first that ends."""

    def __init__(self, parts: Sequence[Part], *, across: bool = False) -> None:
        super().__init__()
        self.parts = tuple(parts)
        self.across = across
        self.at = 0
        self._sizes: list[int] = [1] * len(self.parts)
        for number, part in enumerate(self.parts):
            part.widget.focus(number == 0)

    @property
    def focused(self) -> Widget:
        """The part that has the focus."""
        return self.parts[self.at].widget

    def handle(self, event: Event) -> None:
        """Hand an event on to the part that has the focus, or is hit; Tab goes on where that does nothing with it."""
        if isinstance(event, Key) and event.name in STEPS and not self.uses(event.name):
            self.step(STEPS[event.name])
            return
        if isinstance(event, Mouse):
            if not isinstance(event.hit, tuple):  # beside all parts
                return
            number, event = event.hit
            self.go_to(number)
        self.want(self.focused.press(event))
        self.outcome = self.focused.outcome

    def uses(self, key: str) -> bool:
        """Return True if the part that has the focus does something with a key itself."""
        widget, step = self.focused, STEPS.get(key, 0)
        if isinstance(widget, Container):
            return widget.uses(key) or 0 <= widget.at + step < len(widget.parts)
        return widget.uses(key)

    def step(self, by: int) -> None:
        """Give the focus to the next part that is shown, or the one before."""
        for count in range(1, len(self.parts) + 1):
            number = (self.at + by * count) % len(self.parts)
            if self._sizes[number]:
                self.go_to(number)
                return

    def go_to(self, number: int) -> None:
        """Give the focus to a part."""
        if number != self.at:
            self.focused.focus(False)
            self.at = number
        self.focused.focus(self.has_focus)

    def focus(self, gained: bool) -> None:
        """See ``Widget``; the part that had the focus last has it again."""
        super().focus(gained)
        self.focused.focus(gained)

    def view(self, columns: int, rows: int) -> Frame:
        """Return the parts, each in its share; see ``Widget``."""
        sizes = shares(columns if self.across else rows, [part.wants for part in self.parts])
        frames: list[Frame] = []
        regions: list[Region] = []
        place = 0
        for number, (part, size) in enumerate(zip(self.parts, sizes, strict=True)):
            wide, high = (size, rows) if self.across else (columns, size)
            if not size:
                regions.append(Region(0, 0, 0, 0, Regions(())))
                continue
            made = _filled(part.widget.view(max(wide - 1, 1), high), high)
            if number != self.at or not self.has_focus:
                made = Frame(made.rows, None, clicks=made.clicks)
            row, column = (0, place) if self.across else (place, 0)
            regions.append(Region(row, column, high, wide, made.clicks))
            frames.append(made if self.across else beside((made, wide)))
            place += size
        self._viewed = sizes
        shown = [size for size in sizes if size]
        frame = beside(*zip(frames, shown, strict=True)) if self.across else above(*frames)
        return Frame(frame.rows, frame.cursor, frame.shape, clicks=Regions(tuple(regions)))

    def drawn(self) -> None:
        """See ``Widget``; a part that is not shown loses the focus."""
        self._sizes = self._viewed
        for part, size in zip(self.parts, self._sizes, strict=True):
            if size:
                part.widget.drawn()
        if not self._sizes[self.at] and any(self._sizes):
            self.step(1)

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``: what all parts want together."""
        hints = [part.widget.size(columns) for part in self.parts]
        if self.across:
            least = sum(hint.least_columns + 1 for hint in hints), max(hint.least_rows for hint in hints)
            return SizeHint(*least, columns, max(hint.rows for hint in hints))
        least = max(hint.least_columns for hint in hints), sum(hint.least_rows for hint in hints)
        return SizeHint(*least, columns, sum(hint.rows for hint in hints))

    def foot(self) -> str:
        """Return what the keys do in the part that has the focus."""
        return self.focused.foot()

    def status(self) -> str:
        """Return what the part that has the focus says."""
        return self.focused.status()

    @property
    def growing(self) -> Sequence[tuple[Growing, int]]:
        """What all parts want."""
        return [wanted for part in self.parts for wanted in part.widget.growing]

    def work(self) -> bool:
        """Return one slice of the work of each part. Return True if a view changed."""
        changed = [part.widget.work() for part in self.parts]  # each of them, not only up to the first that says yes
        return any(changed)

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        for part in self.parts:
            part.widget.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        for part in self.parts:
            part.widget.set_theme(theme)


def _filled(frame: Frame, rows: int) -> Frame:
    """Return a frame with exactly so many rows."""
    made = (*frame.rows[:rows], *([()] * (rows - len(frame.rows))))
    return Frame(made, frame.cursor, frame.shape, frame.current, frame.clicks)
