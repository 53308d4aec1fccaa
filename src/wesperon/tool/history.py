"""``wesperon history``: what was entered in the console of a program, and lines from elsewhere put into it."""

from __future__ import annotations

import re
from pathlib import Path

from wesperon import Command, CommandGroup, Refusal, confirm, one_of, slot
from wesperon.console import open_console
from wesperon.context import current
from wesperon.output.result_formats import json_text
from wesperon.output.results import Told
from wesperon.terminal.interaction import Asked
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.reached import DriverAtHand
from wesperon.text.escape import visible, visible_lines
from wesperon.text.truncate import counted
from wesperon.widgets.history_page import HistoryPage
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

    from wesperon.history.history_file import History
    from wesperon.terminal.interaction import Interaction

FORMS = {
    "json-lines": "an object with time, status and text on each line",
    "plain": "the text as it was typed",
}


def opened(program: str) -> History:
    """Return the history of a program."""
    return open_console.opened(True, program)


class Show(Command):
    """Show what was entered in the console of a program, the oldest first, with time (UTC) and status."""

    examples = ("history show desk", "history show desk --find HOLLIN-051 --last 20")
    program = slot(ask="Program", help="the name of the program")
    find = slot(default="", named_only=True, help="only entries that hold this text")
    last = slot(int, default=None, low=1, named_only=True, help="how many to show, the newest; all if not given")

    def run(self) -> str:
        """Return a line for each entry; further lines of one are below its first."""
        history = opened(self.program)
        found = [entry for entry in history.entries() if self.find in entry.text]
        if history.fault and "No such file" not in history.fault:
            raise Refusal(history.fault)
        rows, data = [], []
        for entry in found[-self.last :] if self.last else found:
            time = "{}-{:02}-{:02} {:02}:{:02}:{:02}".format(*entry.time) if entry.time else " " * 19
            first, *more = entry.text.split("\n")
            data.append({"time": time.strip() or None, "status": entry.status, "text": entry.text})
            status = "" if entry.status is None else str(entry.status)
            rows += [f"{time}  {status:>3}  {visible(first)}", *[f"{'':24}  {visible(line)}" for line in more]]
        return Told("\n".join(rows) or "nothing was entered", data)


class Look(Command):
    """Look through the history of a program on a page, and print what was put together there."""

    in_steps = True
    examples = ("history look desk",)
    program = slot(ask="Program", help="the name of the program")

    def run(self) -> Interaction[int]:
        """Open the page; what was put together is printed."""
        history = opened(self.program)
        options = DriverOptions({"name": self.program}, environ=current().environ)
        with DriverAtHand(self.program) as driver:
            if driver is None:
                raise Refusal("a page requires a terminal; history show prints the entries", 2)
            outcome = yield Asked(driver, HistoryPage(history), options)
        if isinstance(outcome, Answered) and outcome.value.text:
            current().print(visible_lines(outcome.value.text))
        return 0


class Export(Command):
    """Print the history of a program for other programs, the oldest first."""

    examples = (
        "history export desk > night.jsonl",
        "history export desk --form=plain --find HOLLIN-051",
    )
    program = slot(ask="Program", help="the name of the program")
    form = slot(one_of(list(FORMS), note=FORMS.get), default="json-lines", named_only=True, help="the form of an entry")
    find = slot(default="", named_only=True, help="only entries that hold this text")

    def run(self) -> Iterator[Any]:
        """Yield a line for each entry; in the plain form, the lines of each; with ``--as``, what the lines say."""
        for entry in opened(self.program).entries():
            if self.find not in entry.text:
                continue
            if self.form == "plain":
                yield entry.text
                continue
            time = "{:04}-{:02}-{:02}T{:02}:{:02}:{:02}Z".format(*entry.time) if entry.time else None
            data = {"time": time, "status": entry.status, "text": entry.text}
            yield json_text(data, indent=None) if self.shared.as_ == "text" else data


class Remove(Command):
    """Remove entries from the history of a program for good: those that a regular expression is found in."""

    examples = ("history remove desk 'login .*'", "history remove --yes desk swordfish")
    program = slot(ask="Program", help="the name of the program")
    pattern = slot(re.Pattern, "Pattern", help="a regular expression, as Python has them")
    yes = slot(bool, default=False, help="do not ask whether they are to be removed")

    def run(self) -> str:
        """Return how many were removed; raises Refusal if that is not wanted."""
        history, pattern = opened(self.program), self.pattern
        found = sum(pattern.search(entry.text) is not None for entry in history.entries())
        said = counted(found, "entry", "entries")
        if found and not self.yes and not confirm(f"Remove {said} for good?", unattended=False):
            raise Refusal("nothing was removed: answer yes, or give --yes")
        try:
            removed = history.remove_all(lambda text: pattern.search(text) is not None) if found else 0
        except OSError as error:
            raise Refusal(f"nothing is removed: {error.strerror}") from None
        if history.fault:
            raise Refusal(history.fault)
        return Told(f"{counted(removed, 'entry', 'entries')} removed", {"removed": removed})


class Import(Command):
    """Put lines from a file into the history of a program, an entry each, in their order."""

    examples = ("history import desk lines.txt",)
    program = slot(ask="Program", help="the name of the program")
    file = slot(Path, "File", exists="file", help="a text file")

    def run(self) -> str:
        """Return how many there were."""
        history = opened(self.program)
        with self.file.open(encoding="utf-8", errors="replace", newline="\n") as lines:
            count = history.add_plain(lines)
        if history.fault:
            raise Refusal(history.fault)
        return Told(
            f"{counted(count, 'entry', 'entries')} added to {history.path}", {"added": count, "file": str(history.path)}
        )


HISTORY = CommandGroup("history", "What was entered in the console of a program.", [Look, Show, Export, Remove, Import])
