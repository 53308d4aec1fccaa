"""``wesperon page``: the pager from a shell, on files or on what comes through a pipe."""

from __future__ import annotations

import os
from pathlib import Path

from wesperon import Command, Refusal, page, slot
from wesperon.context import current
from wesperon.paging.sources import stream_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: The name of standard input among files (POSIX, Utility Syntax Guidelines, 13).
STANDARD_INPUT = "-"


class Page(Command):
    """Read long texts, a screen at a time: files, or what comes through a pipe.

    F1 shows all keys. Where standard output is no terminal, everything is written there as it comes.
    """

    examples = ("page night.log", "page --heading=1 --follow night.log", "page --pick targets.txt")
    file = slot(str, rest=True, low=0, help="files, one after the other; - is standard input, also if there is none")
    heading = slot(int, default=0, low=0, named_only=True, help="how many first lines stay in sight")
    pick = slot(bool, default=False, help="print the lines that were marked, at the end")
    follow = slot(bool, default=False, short="f", help="begin at the end, and stay there while more comes")

    def run(self) -> str | None:
        """Page them; the lines that were marked, if that is wanted."""
        try:
            picked = page(self._sources(), heading=self.heading, pick=self.pick, follow=self.follow)
        except OSError as error:
            raise Refusal(f"{error.filename}: {error.strerror}") from None
        return "\n".join(picked) if picked else None

    def _sources(self) -> Any:
        names = [*dict.fromkeys(self.file or [STANDARD_INPUT])]
        found = {name: _standard_input() if name == STANDARD_INPUT else Path(name) for name in names}
        return found if len(found) > 1 or names != [STANDARD_INPUT] else found[STANDARD_INPUT]


def _standard_input() -> Any:
    """Return standard input as it comes; raises Refusal for a terminal, whose keys are for the pager."""
    stream = current().stdin
    if stream is None or stream.isatty():
        raise Refusal("give a file, or send something through a pipe: standard input is the terminal", 2)
    try:
        return stream_of(open(os.dup(stream.fileno()), "rb", buffering=0), "")
    except (OSError, ValueError, AttributeError):  # not one of the system's
        return stream
