"""What is said while a screen runs, the newest last."""

from __future__ import annotations

from collections import deque

from wesperon.screen.width import wrap
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.widgets.parts.checked import checked_count
from wesperon.widgets.parts.rows_part import RowsPart

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.screen.frame import Row


class MessageView(RowsPart):
    """Messages, the newest in the last row; what the program prints while the screen runs is among them.

    ``show(text)`` adds one. The last ``keeps`` lines are kept. It stays at the end unless the user has gone up. The
    other keywords are those of every part.

    Example:
        >>> messages = MessageView()
        >>> messages.show("the mast is up")
        >>> messages.value
        ('the mast is up',)

    """

    adds = True

    def __init__(self, *, keeps: int = 10_000, **place: Any) -> None:
        super().__init__(**place)
        self.lines: deque[str] = deque(maxlen=checked_count("keeps", keeps, 1, "a number of lines"))
        self.follows = True

    @property
    def value(self) -> tuple[str, ...]:
        """The lines that are kept."""
        return tuple(self.lines)

    @property
    def count(self) -> int:
        """See ``RowsPart``."""
        return len(self.lines)

    def receive(self, text: object = "", *more: Any) -> None:
        """See ``Part``."""
        before = len(self.lines)
        new = [visible(line) for line in str(text).split("\n")]
        self.lines.extend(new)
        if self.follows:
            self.at = len(self.lines) - 1
        else:
            self.at = max(self.at - max(before + len(new) - len(self.lines), 0), 0)
        self.stale()

    def moved(self) -> None:
        """See ``RowsPart``: at the end it follows."""
        self.follows = self.at >= self.count - 1

    def rows_in_sight(self, first: int, count: int, columns: int) -> Sequence[Row]:
        """See ``RowsPart``; a long line is cut, its rest is in the row of who goes there."""
        made: list[Row] = []
        for number in range(first, first + count):
            text = (wrap(self.lines[number], columns) or [""])[0]
            is_current = number == self.at and self.has_focus
            made.append(((text, "current" if is_current else ""),))
        return made

    def hint_keys(self) -> str:
        """See ``Part``."""
        return tell("Up Down: move   End: follow")

    @property
    def letters(self) -> str:
        """See ``Part``."""
        return self.title
