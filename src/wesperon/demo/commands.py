"""The commands of the demo: the night desk of the observatory."""

from __future__ import annotations

import time
from datetime import timedelta
from typing import Annotated, Any

from wesperon import Command, CommandGroup, Guide, any_of, one_of, slot, working
from wesperon.demo.observatory import FILTERS, TARGETS, Target, load, target_called, too_low
from wesperon.output.results import Told
from wesperon.output.terminal_size import is_terminal
from wesperon.package_files import path_of
from wesperon.text.escape import visible
from wesperon.text.truncate import counted
from wesperon.values.kinds.dates import DURATION

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.guides.guide import GuideResult

#: What there is in the catalogue.
SORTS = sorted({target.what for target in TARGETS})
#: How long the demo takes to expose, in seconds, and in how many steps it says how far a frame is.
LASTS, STEPS = 3.0, 30


class Expose(Command):
    """Plan one exposure at an invented observatory, Hollin Ridge.

    Asks for a target, filters, seconds and a note, as far as the words do not say them.
    """

    examples = (
        "demo expose HOLLIN-051 Red,H-alpha 300 'first light'",
        "demo expose --seconds 90 --target HOLLIN-007 --asking never --filters Clear --note=",
    )
    target = slot(one_of(TARGETS, note="what", aliases=lambda target: target.number, disabled=too_low), "Target")
    filters = slot(any_of(FILTERS, "name", note=lambda glass: f"{glass.band} nm", least=1), "Filters")
    seconds = slot(float, "Seconds each", low=0.1, high=3600, unit="s")
    note = slot(ask="Note", low=0, high=200)

    def run(self) -> str:
        """Return the finished card, what it comes to, and the line that gives it again."""
        total = len(self.filters) * self.seconds
        if is_terminal():
            self.expose(total)
        light = f"{counted(len(self.filters), 'frame')}, {total:g} s of light"
        text = f"Planned at Hollin Ridge:\n\n{self}\n\n{light}. The same again:\n\n  {visible(self.replay())}"
        plan = {"target": str(self.target), "filters": [str(one) for one in self.filters], "seconds": self.seconds}
        return Told(text, {**plan, "note": self.note, "light": total, "again": self.replay()})

    def expose(self, total: float) -> None:
        """Take the frames, so much faster than a camera that all of them take three seconds."""
        with working("Exposing", total=total, unit="s") as work:
            for glass in self.filters:
                work.label = f"Exposing in {glass.name}"
                for _ in range(STEPS):
                    time.sleep(LASTS / STEPS / len(self.filters))
                    work.add(self.seconds / STEPS)
            work.label = "Exposing"


def queue() -> list[dict[str, Any]]:
    """Show tonight's queue."""
    return [
        {
            "at": f"{row['at']:%H:%M}",
            "target": str(target_called(row["target"])),
            "filters": ", ".join(row["filters"]),
            "each": each,
            "total": each * len(row["filters"]),
        }
        for row in load("queue")["queue"]
        for each in [DURATION.parse(row["each"])]
    ]


def sum_(*times: Annotated[timedelta, slot("Times", low=timedelta(0), least=1, piped=True)]) -> str:
    """Add up exposure times, given as words or piped in, a line each.

    Arguments:
        times: such as 90s or 1h30m

    """
    total = sum(times, timedelta())
    text = f"{counted(len(times), 'exposure')}: {DURATION.format(total)}"
    return Told(text, {"exposures": len(times), "total": total})


def list_(*, what: Annotated[str | None, slot(one_of(SORTS), help="of one sort")] = None) -> list[dict[str, Any]]:
    """List the catalogue, the highest first."""
    chosen = [target for target in TARGETS if what in (None, target.what)]
    return [
        {"number": target.number, "name": target.name, "what": target.what, "height": target.height}
        for target in sorted(chosen, key=lambda target: -target.height)
    ]


def show(target: Annotated[Target, slot(one_of(TARGETS, aliases=lambda target: target.number), "Target")]) -> Any:
    """Show one target."""
    return {"Number": target.number, "Name": target.name, "What": target.what, "Height": f"{target.height} degrees"}


def filters() -> list[dict[str, Any]]:
    """List the filters in the wheel."""
    return list(load("instruments")["filters"])


def cameras() -> list[dict[str, Any]]:
    """List the cameras."""
    return list(load("instruments")["cameras"])


class Dome(Command):
    """Find out why the dome will not open, step by step.

    Answers may be given beforehand, by the names of the steps or in a file: wesperon demo dome --answers dome.toml
    """

    word = slot(str, rest=True, low=0, help="answers, as --lamp=no")

    def run(self) -> str:
        """Return what was found out."""
        walk = Guide(path_of("wesperon.demo", "data", "dome.toml")).walk(self.word)
        return Told(told(walk), {"says": walk.says, "learned": walk.learned})


def told(walk: GuideResult) -> str:
    """Return what a way through a guide came to: what it said last, unless that is shown, and what was learned."""
    learned = "".join(f"\n  - {fact}" for fact in walk.learned)
    said = [] if walk.shown and is_terminal() else [walk.says]
    return "\n\n".join([*said, *([f"Found on the way:{learned}"] if learned else [])])


DEMO = CommandGroup(
    "demo",
    "The night desk of an invented observatory; with no command, it plans one exposure.",
    [
        Expose,
        Dome,
        ("wesperon.demo.desk:Desk", "Open the night desk: a prompt that stays while the mast and the dome go on."),
        queue,
        Command.from_function(sum_, examples=["demo sum 90s 2m30s 1h"]),
        CommandGroup("targets", "The catalogue of targets.", [list_, show]),
        CommandGroup("instruments", "What is at the telescope.", [filters, cameras]),
    ],
    default_command=Expose,
)
