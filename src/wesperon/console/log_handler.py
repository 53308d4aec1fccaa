"""Messages of the standard :mod:`logging` above the line of a console."""

from __future__ import annotations

import logging

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.console.console import Console


class ConsoleLogHandler(logging.Handler):
    """Shows each record above the line that is being typed."""

    def __init__(self, console: Console) -> None:
        super().__init__()
        self.console = console

    def emit(self, record: logging.LogRecord) -> None:
        """Show one record."""
        try:
            self.console.say(self.format(record))
        except Exception:
            self.handleError(record)
