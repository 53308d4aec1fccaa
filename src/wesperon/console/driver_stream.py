"""The standard streams of a console on a terminal that is not the process's own."""

from __future__ import annotations

import io

from wesperon.text.escape import visible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.terminal.driver import Driver


class DriverStream(io.TextIOBase):
    """A text stream whose lines are shown by a driver, above the widget that is open.

    Characters that would act on the terminal appear in their visible form. The last line is shown once it has its end,
    or when the stream is flushed by :meth:`end_line`.
    """

    encoding = "utf-8"

    def __init__(self, driver: Driver) -> None:
        self.driver = driver
        self._rest = ""

    def write(self, text: str) -> int:
        """Show all lines that are complete now; the number of characters taken."""
        *lines, self._rest = (self._rest + text).split("\n")
        if lines:
            self.driver.say("\n".join([visible(line) for line in lines]))
        return len(text)

    def end_line(self) -> None:
        """Show what was written last, although its line has no end."""
        if self._rest:
            self.write("\n")
