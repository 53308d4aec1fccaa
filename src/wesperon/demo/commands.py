"""The commands of the demo."""

from __future__ import annotations

from wesperon import Command, any_of, one_of, slot
from wesperon.core.cutting import counted
from wesperon.core.visible import visible
from wesperon.demo.observatory import FILTERS, TARGETS, too_low


class Demo(Command):
    """Plan one exposure at an invented observatory, Hollin Ridge.

    Asks for a target, filters, seconds and a note, as far as the words do not say them.
    """

    target = slot(one_of(TARGETS, note="what", also=lambda target: target.number, barred=too_low), "Target")
    filters = slot(any_of(FILTERS, "name", note=lambda glass: f"{glass.band} nm", least=1), "Filters")
    seconds = slot(float, "Seconds each", low=0.1, high=3600, unit="s")
    note = slot(ask="Note", low=0, high=200)

    def run(self) -> str:
        """The finished card, what it comes to, and the line that gives it again."""
        total = len(self.filters) * self.seconds
        light = f"{counted(len(self.filters), 'frame')}, {total:g} s of light"
        return f"Planned at Hollin Ridge:\n\n{self}\n\n{light}. The same again:\n\n  {visible(self.replay())}"


class Tour(Command):
    """Play the demo by itself: type the answers, and print each screen on the way. Needs no terminal."""

    def run(self) -> None:
        """Print the screens, then what the demo prints."""
        from wesperon.demo.tour import play

        play()
