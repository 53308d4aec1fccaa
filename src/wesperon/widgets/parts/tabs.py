"""Tabs: several contents, one of which is shown, under a row with their titles."""

from __future__ import annotations

from wesperon.screen.frame import ClickMap, Frame
from wesperon.screen.width import cut, width
from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.widgets.parts.boxes import Placed, place
from wesperon.widgets.parts.part import Box, Part, checked_part
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any, ClassVar

    from wesperon.editing.keys.events import Mouse
    from wesperon.screen.frame import Row
    from wesperon.widgets.parts.part import Host


class Tabs(Part):
    """Several parts, one of which is shown; the row above them has their titles.

    ``parts`` are any parts, each with a ``title``. ``value`` is the title of the one that is shown, and ``show(title)``
    shows another. The other keywords are those of every part.

    Example:
        >>> tabs = Tabs(Label("clear", title="Weather"), Label("open", title="Dome"))
        >>> tabs.show("Dome")
        >>> tabs.value
        'Dome'

    """

    #: Whether the titles of the parts are in what is around them.
    names_parts = True

    def __init__(self, *parts: Part, **given: Any) -> None:
        super().__init__(**given)
        self.parts = [checked_part(part) for part in parts]
        titles = [part.title for part in self.parts]
        if not titles or not all(titles) or len(set(titles)) < len(titles):
            raise DeclarationError("Tabs() needs parts, each with a title of its own")
        self.current = 0
        self.row = TabRow(self)

    @property
    def value(self) -> str:
        """The title of the part that is shown."""
        return self.parts[self.current].title

    def receive(self, title: object = "", *more: Any) -> None:
        """See ``Part``."""
        titles = [part.title for part in self.parts]
        if title not in titles:
            raise DeclarationError(f"there is no tab {title!r}; there are: {', '.join(titles)}")
        self.current = titles.index(str(title))
        self.stale()

    def turn(self, to: int) -> None:
        """Show the part with the number ``to``, as the user wants."""
        to %= len(self.parts)
        if to != self.current:
            self.current = to
            self.row.stale()
            self.changed()

    def leaves(self) -> Iterator[Part]:
        """See ``Part``."""
        yield self.row
        for part in self.parts:
            yield from part.leaves()

    def leaves_out(self, part: Part) -> bool:
        """See ``Part``."""
        return part is not self.row and part is not self.parts[self.current]

    def shown_leaves(self) -> Iterator[Part]:
        """See ``Part``."""
        yield self.row
        yield from self.parts[self.current].shown_leaves()

    def attach(self, host: Host | None, parent: Part | None = None) -> None:
        """See ``Part``."""
        super().attach(host, parent)
        for part in (self.row, *self.parts):
            part.attach(host, self)

    @property
    def fills_across(self) -> bool:  # type: ignore[override]
        """See ``Part``."""
        return any(part.fills_across for part in self.parts)

    @property
    def fills_down(self) -> bool:  # type: ignore[override]
        """See ``Part``."""
        return any(part.fills_down for part in self.parts)

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``: that of the largest part."""
        hints = [part.size(columns) for part in self.parts]
        return SizeHint(
            max(hint.least_columns for hint in hints),
            1 + max(hint.least_rows for hint in hints),
            max(max(hint.columns for hint in hints), self.row.size(columns).columns),
            1 + max(hint.rows for hint in hints),
        )

    def place(self, box: Box, clip: Box, focused: Part | None) -> Iterator[Placed]:
        """Yield the row of titles, and the part that is shown below it, in a ``box`` of which ``clip`` is in sight.

        ``focused`` is the part that has the focus.
        """
        part = self.parts[self.current]
        if box.rows < 2 and any(one is focused for one in part.shown_leaves()):  # there is room for one of the two
            yield Placed(self.row, box, Box(box.row, box.column, 0, 0))
            yield from place(part, box, clip, focused)
            return
        first = Box(box.row, box.column, 1, box.columns)
        yield Placed(self.row, first, first.inside(clip))
        rest = Box(box.row + 1, box.column, max(box.rows - 1, 0), box.columns)
        yield from place(part, rest, rest.inside(clip), focused)

    def view(self, columns: int, rows: int) -> Frame:
        """Return nothing: its parts are drawn by themselves."""
        return Frame(())


class TabRow(Part):
    """The titles of tabs; Left and Right go from one to the other."""

    takes_focus = True

    def __init__(self, tabs: Tabs) -> None:
        super().__init__()
        self.tabs = tabs

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        return SizeHint(8, 1, sum(width(part.title) + 4 for part in self.tabs.parts), 1)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        spans: list[tuple[str, str]] = []
        at = 0
        for number, part in enumerate(self.tabs.parts):
            text = f" {part.title} "
            if number == self.tabs.current:
                at = sum(width(one) for one, _ in spans)
                role = "current" if self.has_focus else "title"
            else:
                role = "note"
            spans += [(text, role), ("│", "hint")]
        row: Row = tuple(spans[:-1])
        used = 0
        cut_row: list[tuple[str, str]] = []
        for text, role in row:
            text = cut(text, max(columns - used, 0)) if used + width(text) > columns else text
            used += width(text)
            cut_row.append((text, role))
        return Frame(
            (tuple([span for span in cut_row if span[0]]),), (0, min(at + 1, columns)), clicks=ClickMap(hits=("tabs",))
        )

    def click(self, event: Mouse) -> None:
        """See ``Widget``."""
        left = 0
        for number, part in enumerate(self.tabs.parts):
            left += width(part.title) + 3
            if event.column < left:
                self.tabs.turn(number)
                return

    def previous(self) -> None:
        """To the tab before."""
        self.tabs.turn(self.tabs.current - 1)

    def next(self) -> None:
        """To the next tab."""
        self.tabs.turn(self.tabs.current + 1)

    def hint_keys(self) -> str:
        """See ``Part``."""
        return tell("Left Right: another tab")

    LAYERS = ("tabs",)
    ACTIONS: ClassVar[dict[str, str]] = {"move-char-back": "previous", "move-char-forward": "next"}
