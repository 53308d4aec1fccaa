"""Messages of the standard :mod:`logging` above the line of a console."""

from __future__ import annotations

import logging

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable


class ConsoleLogHandler(logging.Handler):
    """Shows each record above the line that is being typed, by the method ``say`` of a console."""

    def __init__(self, say: Callable[[str], None]) -> None:
        super().__init__()
        self.say = say

    def emit(self, record: logging.LogRecord) -> None:
        """Show one record."""
        try:
            self.say(self.format(record))
        except Exception:
            self.handleError(record)
