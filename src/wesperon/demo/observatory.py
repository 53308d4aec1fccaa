"""Data of the observatory: targets and filters. All of it is invented."""

from __future__ import annotations

from wesperon.core.frozen import frozen


@frozen
class Target:
    """Something to look at. ``height`` is its greatest height above the horizon tonight, in degrees."""

    number: str
    name: str
    what: str
    height: int

    def __str__(self) -> str:
        return f"{self.number} {self.name}"


@frozen
class Filter:
    """A filter in the wheel; ``band`` is what it lets through, in nanometres."""

    name: str
    band: str


TARGETS = [
    Target("HR-007", "Harrow Cluster", "open cluster", 61),
    Target("HR-012", "Kestrel Galaxy", "spiral galaxy", 48),
    Target("HR-019", "The Anvil", "dark nebula", 33),
    Target("HR-023", "Miller's Pair", "double star", 70),
    Target("HR-038", "Wicker Nebula", "planetary nebula", 55),
    Target("HR-051", "Lantern Nebula", "emission nebula", 64),
    Target("HR-064", "Sickle Group", "galaxy group", 29),
    Target("HR-077", "Old Ember", "red giant", 12),
]

FILTERS = [
    Filter("Clear", "380 to 750"),
    Filter("Blue", "390 to 500"),
    Filter("Green", "500 to 580"),
    Filter("Red", "590 to 700"),
    Filter("H-alpha", "653 to 660"),
    Filter("O-III", "497 to 504"),
]

#: Lower than this, the dome's rim stands in the way.
LOWEST = 20


def too_low(target: Target) -> str:
    """Why a target cannot be observed tonight; empty where it can."""
    return "" if target.height >= LOWEST else f"it rises to {target.height} degrees only"
