"""``wesperon history``: what was entered in the console of a program, and lines from elsewhere put into it."""

from __future__ import annotations

from pathlib import Path

from wesperon import Command, CommandGroup, Refusal, slot
from wesperon.history.history_file import History, state_file
from wesperon.output.results import Told
from wesperon.text.escape import visible
from wesperon.text.truncate import counted


def opened(program: str) -> History:
    """Return the history of a program."""
    return History(state_file(program), owns_folder=True)


class Show(Command):
    """Show what was entered in the console of a program, the oldest first, with time (UTC) and status."""

    examples = ("history show 'night desk'", "history show 'night desk' --find HOLLIN-051 --last 20")
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


class Import(Command):
    """Put lines from a file into the history of a program, an entry each, in their order."""

    examples = ("history import 'night desk' lines.txt",)
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


HISTORY = CommandGroup("history", "What was entered in the console of a program.", [Show, Import])
