"""What a driver shows: a frame by a painter, what was said above it, and a notice below it.

Everything that draws holds ``lock``, since two threads may: the one that runs the widget, and the one that shows a sign
of life while a check takes its time. Each of them leaves a whole frame.
"""

from __future__ import annotations

import _thread

from wesperon.screen.frame import Frame as Made
from wesperon.screen.painter import Painter
from wesperon.screen.theme import Theme
from wesperon.screen.width import cut

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence

    from wesperon.screen.frame import Frame


class LiveScreen:
    """The part of a terminal's screen that a widget is drawn on; ``send`` writes to the terminal."""

    def __init__(self, look: Mapping[str, str], colours: int, send: Callable[[str], None]) -> None:
        self.theme = Theme(dict(look), colours)
        self.send = send
        self.lock = _thread.RLock()
        #: What draws now: inline, or on the full screen.
        self.painter: Painter = Painter(self.theme.roles)
        self._others: list[Painter] = []
        #: What is said below the widget: a warning in a row of its own, or a word in the place of its foot.
        self.notice = self.aside = ""
        #: Whether the terminal has changed its size, even if it has the same again.
        self.is_disturbed = False
        self._frame: Frame | None = None
        #: Whether the rows of the painter are newer than that frame, and whether it was drawn as it is.
        self._has_echoed, self._is_bare = False, True

    def begin(self, *, is_full: bool) -> None:
        """Draw on the full screen, or inline, until ``end``."""
        self._others.append(self.painter)
        if is_full:
            from wesperon.terminal.kept_lines import full_screen_painter

            self.painter = full_screen_painter(self.theme.roles)

    def end(self) -> None:
        """Draw as before; a screen that was left by an exception is left here."""
        self._send_last(self.painter.leave_screen() + self.painter.held())
        self.painter = self._others.pop()
        self._frame = None

    def is_resized(self, columns: int, rows: int) -> bool:
        """Return True if the terminal has had another size since the last frame was drawn."""
        painter = self.painter
        is_other = columns != painter.columns or rows != painter.height
        return bool(painter.rows) and (self.is_disturbed or is_other)

    def draw(self, frame: Frame, columns: int, rows: int) -> None:
        """Make the screen show a frame, with the notice if there is one."""
        with self.lock:
            self._frame, self._has_echoed = frame, False
            self._is_bare = not (self.notice or self.aside)
            if not self._is_bare:
                frame = noticed(frame, self.notice, self.aside, columns, rows)
            self.send(self.painter.paint(frame, columns, rows))

    def echo(self, text: str, columns: int, rows: int) -> bool:
        """Show a plain text at the cursor, at the end of its row. Return False if the frame has to be drawn."""
        painter = self.painter
        if not self._is_bare or self.notice or self.aside or self.is_disturbed:
            return False
        if columns != painter.columns or rows != painter.height:
            return False
        with self.lock:
            sent = painter.echo(text)
            if sent is None:
                return False
            self._has_echoed = True
            self.send(sent)
            return True

    def draw_again(self, columns: int, rows: int) -> None:
        """Show the last frame again, with the notice that there is now."""
        with self.lock:
            frame = self._frame
            if frame is not None and self._has_echoed:
                cursor = (self.painter.at_row, self.painter.at_column or 0)
                frame = Made(tuple(self.painter.rows), cursor, frame.shape, clicks=frame.clicks)
            if frame is not None:
                self.draw(frame, columns, rows)

    def finish(self, frame: Frame, columns: int) -> None:
        """Leave a last frame on the screen."""
        with self.lock:
            self._frame = None
            self._send_last(self.painter.finish(frame, columns))

    def above(self, said: Sequence[str], columns: int) -> None:
        """Put lines above the frame, for good; the frame is to be drawn again."""
        if said:
            with self.lock:
                self.send(self.painter.above("\n".join(said).split("\n"), columns))

    def start(self, columns: int) -> None:
        """Begin on a row of its own."""
        with self.lock:
            self.send(self.painter.before_start())
            self.send(self.painter.start(columns))

    def hide(self, columns: int) -> None:
        """Take the frame away; ``start`` comes next."""
        with self.lock:
            self._send_last(self.painter.hide(columns))

    def clear(self, columns: int) -> None:
        """Empty the screen; the frame is to be drawn again, at its top."""
        with self.lock:
            self.send(self.painter.clear(columns))

    def abandon(self) -> None:
        """Leave everything as it is, with the cursor below it; ``start`` comes next."""
        with self.lock:
            if self.painter.rows:
                self._send_last(self.painter.abandon())

    def _send_last(self, text: str) -> None:
        """Send what leaves the full screen, if it is one, with the lines that have waited for that.

        Only then it counts as left: a signal that ends the process in between leaves it once more.
        """
        self.send(text)
        self.painter.note_left()
        self.painter.note_shown()


def noticed(frame: Frame, notice: str, aside: str, columns: int, rows: int) -> Frame:
    """Return the frame with a notice in a last row, which takes the place of another if there is no room.

    ``aside`` takes the place of the foot, unless the cursor is there.
    """
    kept = frame.rows
    if aside:
        has_foot = len(kept) > 1 and (frame.cursor is None or frame.cursor[0] < len(kept) - 1)
        kept = (*(kept[:-1] if has_foot else kept), ((cut(aside, columns - 1), "foot"),))
    if notice:
        kept = (*(kept[: max(rows - 1, 1)] if rows > 1 else ()), ((cut(notice, columns - 1), "reason"),))
    return Made(kept, frame.cursor, frame.shape)
