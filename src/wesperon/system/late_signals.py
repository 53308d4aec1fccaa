"""Signals that another thread has taken while the handlers were set back: they come again rather than being lost."""

from __future__ import annotations

import os
import sys

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: What Python says of a signal for whose handler it is too late, after the word and the number.
RACE = ["ignored", "due", "to", "race", "condition"]


class LateSignals:
    """Signals that Python has noted, and whose handler became the system's own before Python could call it.

    Another thread may take a signal while the main thread blocks it. Python then reports it as lost; from the making of
    this to ``send_again`` it is not reported, and comes once more.
    """

    def __init__(self) -> None:
        self._numbers: list[int] = []
        self._reported = sys.unraisablehook
        sys.unraisablehook = self._note

    def _note(self, report: Any) -> None:
        words = str(report.exc_value).split()
        if words[:1] == ["Signal"] and words[2:] == RACE and isinstance(report.exc_value, OSError):
            self._numbers.append(int(words[1]))
        else:
            self._reported(report)

    def send_again(self) -> None:
        """Let the system do with them what it does by default."""
        sys.unraisablehook = self._reported
        for number in self._numbers:
            os.kill(os.getpid(), number)
