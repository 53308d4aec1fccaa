"""The output of one line of a console, written to a file: ``COMMAND > FILE``, or ``>>`` to add to it.

The file is written when the command is done, whole, and not at all if it fails. What goes to standard error is shown.
"""

from __future__ import annotations

import io
import os

from wesperon.context import current
from wesperon.files.whole import write_whole
from wesperon.scope import within
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.values.problems import Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.terminal.interaction import Interaction


class OutputFile:
    """Where the output of a line goes: a path, and whether it is added to what is there."""

    def __init__(self, path: str, *, appends: bool) -> None:
        self.path = path
        self.appends = appends
        #: Whether a job writes it, later.
        self.is_delayed = False

    def check(self) -> None:
        """Raise Refusal if it certainly cannot be written; nothing was done then."""
        folder = os.path.dirname(os.path.realpath(self.path))
        if os.path.isdir(self.path):
            raise Refusal(tell("{path}: is a folder", path=self.path), 2)
        if not os.path.isdir(folder):
            raise Refusal(tell("{path}: there is no folder {folder}", path=self.path, folder=folder), 2)

    def around(self, steps: Interaction[int]) -> Interaction[int]:
        """Run the steps; what they print on standard output is in the file once they are done."""
        self.check()
        stream: Any = OutputText()
        with within(current().derive(stdout=stream)):
            status = yield from steps
        if status == 0 and not self.is_delayed:
            try:
                write_whole(self.path, stream.getvalue().encode("utf-8", "surrogateescape"), appends=self.appends)
            except (OSError, ValueError) as error:
                why = getattr(error, "strerror", None) or tell("it is not a valid file name")
                raise Refusal(tell("{path}: cannot be written: {why}", path=self.path, why=why)) from None
        return status

    def later(self, steps: Interaction[int]) -> Interaction[int]:
        """Return the same for steps that go on in the background."""
        self.is_delayed = True
        return OutputFile(self.path, appends=self.appends).around(steps)


class OutputText(io.StringIO):
    """What goes to the file, until it is written."""

    encoding = "utf-8"


def output_of(text: str, words: list[tuple[str, int]]) -> tuple[str, OutputFile | None]:
    """Return a line without where its output goes, and that; raises Complaint if no file is named.

    ``words`` are those of the line, each with the offset at which it begins.
    """
    for at, (word, start) in enumerate(words):
        if text[start] != ">" or at == 0:
            continue
        sign = ">>" if text.startswith(">>", start) else ">"
        named = word.removeprefix(sign)
        rest = words[at + 1 :]
        if named and not rest:
            return text[:start].rstrip(), OutputFile(named, appends=sign == ">>")
        if not named and len(rest) == 1 and rest[0][0]:
            return text[:start].rstrip(), OutputFile(rest[0][0], appends=sign == ">>")
        reason = tell("{sign} requires one file name after it, and nothing more; in quotes it is a word", sign=sign)
        raise Complaint(reason, start)
    return text, None
