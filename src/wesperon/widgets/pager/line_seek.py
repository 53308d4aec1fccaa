"""The way to the line of a number: lines are counted up to it, slice by slice, and what has not come is waited for."""

from __future__ import annotations

from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.widgets.pager.text_view import TextView


class LineSeek:
    """The number of the line that is wanted; 0 for none."""

    def __init__(self) -> None:
        self.number = 0
        #: What is to be said at the end of the way; empty for nothing.
        self.message = ""

    @property
    def is_on(self) -> bool:
        """Whether a line is still to be reached."""
        return self.number > 0

    def begin(self, number: int) -> None:
        """Want a line, counted from 1."""
        self.number = max(number, 1)

    def stop(self) -> None:
        """Want no line."""
        self.number = 0

    def step(self, view: TextView) -> bool:
        """Go on. Return True if something changed, False if there is nothing to do before more of the text comes."""
        if not self.number:
            return False
        offset = view.numbers.offset(self.number)
        if offset is not None and offset < len(view.source.data):
            self.stop()
            view.jump((offset, 0))
            return True
        if view.numbers.step():
            return True
        if not view.source.is_whole:
            return False
        self.message = tell("there is no line {number}: this is the end", number=f"{self.number:,}")
        self.stop()
        view.jump(view.end())
        return True
