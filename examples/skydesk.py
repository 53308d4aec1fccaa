"""The observatory's desk on one screen: the queue, the wind, what the mast says, a command line and a menu bar."""

from __future__ import annotations

import math
import shlex
import threading
import time

from wesperon import (
    Across,
    Button,
    Column,
    Down,
    Field,
    Label,
    Listing,
    MessageView,
    Meter,
    Problems,
    Program,
    Screen,
    Table,
    Trend,
    slot,
)

QUEUE = [
    ["HOLLIN-051", "Lantern Nebula", 90, "clear"],
    ["HOLLIN-064", "Thimble Group", 60, "red"],
    ["HOLLIN-077", "Wicker Cluster", 120, "green"],
    ["HOLLIN-102", "Ladder Cluster", 45, "blue"],
]

seconds = Column("seconds", slot=slot(int, "Seconds", low=1))
queue = Table(QUEUE, ["entry", "target", seconds, "filter"], title="Queue", weight=3)
wind = Trend(low=0, high=20, unit="m/s", title="Wind", size=6)
mast = MessageView(title="Mast")
frames = Meter("Frames", total=40)
dome = Listing(["closed", "half open", "open"], title="Dome", size=4)
sky = Label("waiting for the mast", role="note")


def slew(target: str) -> None:
    """Turn to a target."""
    print(f"slewing to {target}")


def expose(count: int = 1, seconds: float = 60) -> None:
    """Take frames of the first entry."""
    print(f"{count} frames of {QUEUE[0][0]}, {seconds:g} s each")


def park() -> None:
    """Close the dome and park."""
    dome.show(["closed", "half open", "open"])
    print("parked")


@dome.on_change
def moved(place: str) -> None:
    """Say where the dome is."""
    print(f"the dome is {place}")


def watch() -> None:
    """Ask the mast four times a second, in a thread of its own."""
    for number in range(100_000):
        speed = 9 + 6 * math.sin(number / 9) + 2 * math.sin(number / 2.3)
        wind.show(speed)
        frames.show(number % 41)
        if number % 8 == 0:
            mast.show(
                f"{20 + number // 240:02}:{number // 4 % 60:02} {'gusts' if speed > 14 else 'steady'}, {speed:.1f} m/s"
            )
            sky.show("clouds from the west" if speed > 14 else "clear")
        time.sleep(0.25)


night = Program("night", members=[slew, expose, park])
command = Field(slot(str, "Command", low=0, suggest=["slew", "expose", "park"]), value="")


def run_line() -> None:
    """Run what is in the command line."""
    try:
        words = shlex.split(command.value)
        if words:
            night.call(words)
    except (ValueError, Problems) as error:
        print(error)
    command.show("")


def leave() -> None:
    """Leave the desk."""
    desk.close("the desk is closed")


desk = Screen(
    Down(
        Across(
            Down(queue, frames, weight=3),
            Down(wind, dome, sky, weight=2),
            divided=True,
        ),
        mast,
        command,
        Across(Button("Run", run_line, default=True), Button("Park", park), Button("Leave", leave)),
    ),
    title="Observatory",
    menus=night,
    bindings={"f8": park},
)

if __name__ == "__main__":
    desk.call_later(0.1, threading.Thread(target=watch, daemon=True).start)
    print(desk.run() or "left")
