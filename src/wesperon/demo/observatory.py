"""Data of the observatory, read from the files beside this one. All of it is invented."""

from __future__ import annotations

import tomllib

from wesperon.frozen import Frozen
from wesperon.package_files import read_file

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class Target(Frozen):
    """Something to look at. ``height`` is its greatest height above the horizon tonight, in degrees."""

    number: str
    name: str
    what: str
    height: int

    def __str__(self) -> str:
        return f"{self.number} {self.name}"


class Filter(Frozen):
    """A filter in the wheel; ``band`` is what it lets through, in nanometres."""

    name: str
    band: str


def load(name: str) -> dict[str, Any]:
    """Return the tables of a data file."""
    return tomllib.loads(read_file("wesperon.demo", "data", f"{name}.toml").decode())


TARGETS = [Target(**row) for row in load("targets")["targets"]]
FILTERS = [Filter(**row) for row in load("instruments")["filters"]]

#: Lower than this, the dome's rim is in the way.
LOWEST = 20


def too_low(target: Target) -> str:
    """Return why a target cannot be observed tonight; empty if it can."""
    return "" if target.height >= LOWEST else f"it rises to {target.height} degrees only"


def target_called(number: str) -> Target:
    """Return the target with a number of the catalogue."""
    return next(target for target in TARGETS if target.number == number)
