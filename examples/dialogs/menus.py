"""A tree of menus: groups and commands with headings; a command asks for what it needs, and the way back leads up."""

from wesperon import Command, CommandGroup, Program, one_of, slot


class Expose(Command):
    """Put an exposure into the queue."""

    section = "Tonight"
    target = slot(one_of(["Lantern Nebula", "Thimble Group"]), "Target")
    seconds = slot(int, "Seconds", low=1, high=3600)

    def run(self) -> str:
        """Queue it."""
        return f"queued {self.target}, {self.seconds} s"


def open_dome() -> str:
    """Open the dome."""
    return "the dome is open"


def close_dome() -> str:
    """Close the dome."""
    return "the dome is closed"


def wind() -> str:
    """Say how strong the wind is."""
    return "4 m/s"


dome = CommandGroup("dome", "The dome.", {"open": open_dome, "close": close_dome}, section="Hardware")
mast = CommandGroup("mast", "The weather mast.", [wind], section="Hardware")
site = CommandGroup("site", "All that stands outside.", [dome, mast], section="Hardware")
raise SystemExit(Program("menus", members=[Expose, site]).main())
