"""A card of questions of every kind: back and forth, a last look, and the line that gives the same again."""

from datetime import date, timedelta
from pathlib import Path

from wesperon import Command, Program, any_of, one_of, slot

TARGETS = {
    "HOLLIN-051 Lantern Nebula": "nebulae", "HOLLIN-038 Wicker Nebula": "nebulae", "HOLLIN-077 Tallow Veil": "nebulae",
    "HOLLIN-007 Harrow Cluster": "clusters", "HOLLIN-064 Thimble Group": "clusters",
    "HOLLIN-012 Kestrel Galaxy": "galaxies", "HOLLIN-090 Ember Spiral": "galaxies",
}  # fmt: skip
OBSERVERS = {"Ida": "first desk", "Ivo": "second desk", "Mara": "dome", "Ravi": "weather mast"}
FILTERS = ["Clear", "Red", "Green", "Blue", "H-alpha"]


class Night(Command):
    """Plan a night at Hollin Ridge, an invented observatory."""

    target = slot(
        one_of(list(TARGETS), group=TARGETS, aliases=lambda name: name.partition(" ")[0]),
        "Target",
        help="What the telescope is turned to.",
    )
    filters = slot(any_of(FILTERS, least=1), "Filters")
    night = slot(date, "Night of", low=date(2031, 1, 1))
    frames = slot(int, "Frames", low=1, high=200)
    each = slot(timedelta, "Each", low=timedelta(seconds=1), help="Such as 90s or 5m.")
    guided = slot(bool, "Guided")
    star = slot(
        one_of(lambda night: [name for name in TARGETS if name != night.target]),
        "Guide by",
        applies=lambda night: night.guided,
    )
    observer = slot(str, "Observer", suggest=OBSERVERS)
    log = slot(Path, "Log file", default=lambda night: Path(f"{night.night:%Y-%m-%d}.log"))
    remarks = slot(str, "Remarks", lines=True, low=0)

    def run(self) -> str:
        """What it comes to."""
        frames = self.frames * len(self.filters)
        return f"{frames} frames for {self.observer}, {frames * self.each} of light"


raise SystemExit(Program("nightcard", default_command=Night, review=True, replay=True).main())
