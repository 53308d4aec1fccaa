"""The painter of the full screen: frames that fill the alternate screen, with the interface of the inline painter.

What differs: the first row of the frame is that of the screen, so that every row can be reached without scrolling; what
is to be put above the frame waits until the screen is left; and a change of size draws everything again.
"""

from __future__ import annotations

from wesperon.screen.ecma48 import ALTERNATE_OFF, ALTERNATE_ON, CR, CUP_HOME, ED, EL, NEXT_ROW
from wesperon.screen.frame import Frame
from wesperon.screen.painter import Painter

#: More rows than any screen has: none of them is below what is there already.
EVERY_ROW = 1 << 30


class FullScreenPainter(Painter):
    """Draws frames on the alternate screen."""

    def __init__(self, look: dict[str, str]) -> None:
        super().__init__(look)
        self._waiting: list[str] = []
        self._is_on = False

    def start(self, columns: int) -> str:
        """The text that switches to the alternate screen and empties it."""
        self.forget(columns)
        self._is_on = True
        return ALTERNATE_ON + CUP_HOME + ED

    def forget(self, columns: int) -> None:
        """Take the screen as empty, the cursor in its first row and column."""
        super().forget(columns)
        self.depth = EVERY_ROW

    def finish(self, frame: Frame, columns: int) -> str:
        """The text that leaves the alternate screen, with what has waited and the last frame below what was there."""
        text = self._ended() + self._leave()
        below = Painter(self.look)
        text += " " * columns + CR + EL if frame.rows else ""
        below.forget(columns)
        self.forget(columns)
        return text + below.finish(frame, columns)

    def above(self, lines: list[str], columns: int) -> str:
        """Nothing yet: the lines are put out when the screen is left."""
        self._waiting += lines
        return ""

    def hide(self, columns: int) -> str:
        """The text that leaves the alternate screen for a while."""
        text = self._ended() + self._leave()
        self.forget(columns)
        return text

    def abandon(self) -> str:
        """The text that leaves the alternate screen, with what has waited."""
        return self.hide(self.columns)

    def resized(self, columns: int, height: int, found: tuple[int, int] | None, breaks: bool) -> None:
        """Nothing is to be found out, since the first row is that of the screen; the next frame is drawn in full."""
        self.is_stale = True

    def _restart(self, columns: int) -> None:
        """Empty the screen, for another width."""
        self.forget(columns)
        self.out.append(CUP_HOME + ED)

    def _leave(self) -> str:
        """Back to the other screen, with what has waited."""
        if not self._is_on:
            return ""
        self._is_on = False
        waiting, self._waiting = self._waiting, []
        return ALTERNATE_OFF + "".join([line + NEXT_ROW for line in waiting])
