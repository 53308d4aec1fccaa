"""Which of the choices of a menu are in sight: a window that moves as little as it can, with headings above groups."""

from __future__ import annotations

from wesperon.text.escape import visible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.values.kinds.choice_list import Choices

    #: What is in a row: the index of a choice among those listed, or the heading of a group.
    SightRow = tuple[int | None, str]

#: The most rows of choices shown at a time.
IN_SIGHT = 12


class Viewport:
    """The window on a list of choices; ``top`` is the first one in it, ``page`` how many it holds.

    They are those of the frame that was drawn last (:meth:`drawn`): to make a frame moves nothing.
    """

    def __init__(self, choices: Choices[Any]) -> None:
        self.choices = choices
        self.top = 0
        self.page = IN_SIGHT
        self._viewed = (0, IN_SIGHT)

    def drawn(self) -> None:
        """Note that the rows that were made last are on the screen."""
        self.top, self.page = self._viewed

    def rows(self, listed: Sequence[int], current: int, room: int) -> list[SightRow]:
        """Return what of the indexes ``listed`` is in sight in ``room`` rows, the current choice among them."""
        count = len(listed)
        top = max(min(self.top, current, count - 1), current - room + 1, 0)
        if not self.choices.has_groups:
            page = max(min(room, count), 1)
            top = max(min(top, count - page), 0)
            self._viewed = top, page
            return [(at, "") for at in range(top, min(top + room, count))]
        sight = self._grouped(listed, top, room)
        while (current, "") not in sight and top < current:
            top += 1
            sight = self._grouped(listed, top, room)
        while top and len(sight) < room:
            more = self._grouped(listed, top - 1, room)
            if (count - 1, "") not in more:
                break
            sight, top = more, top - 1
        self._viewed = top, max(sum(at is not None for at, _ in sight), 1)
        return sight

    def _grouped(self, listed: Sequence[int], top: int, room: int) -> list[SightRow]:
        """Return the rows from the ``top`` on, with a heading wherever the group changes."""
        sight: list[SightRow] = []
        before = ""
        for at in range(top, len(listed)):
            heading = visible(self.choices.group(listed[at]))
            if heading and heading != before and room > 1:
                sight.append((None, heading))
            before = heading
            sight.append((at, ""))
            if len(sight) >= room:
                break
        return sight[:room]
