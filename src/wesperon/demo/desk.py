"""The night desk as a service: a prompt that stays open while the mast, the dome and the camera go on by themselves."""

from __future__ import annotations

import logging
import threading
import time
from typing import Annotated, Any

from wesperon import Command, Console, Heard, Program, Refusal, one_of, slot, working
from wesperon.demo.observatory import TARGETS, too_low
from wesperon.package_files import path_of

#: The commands that the desk begins with.
EVENING = path_of("wesperon.demo", "data", "evening.desk")
#: Seconds between two messages of the mast; what it measures, one after the other, in metres per second.
EVERY = 5.0
GUSTS = (4, 6, 5, 9, 12, 8, 5, 3)
#: Degrees that the dome turns in a second; that the camera cools at a time, and how often it does in a second.
TURN, COOL, SHOWN = 60, 1, 7

mast = logging.getLogger("desk.mast")


class Observatory:
    """State of dome, camera and wind. The angle of the dome in degrees, the camera in degrees Celsius."""

    def __init__(self) -> None:
        self.dome = self.aim = 0
        self.camera = 15
        self.winds: list[tuple[str, int]] = []


OBSERVATORY = Observatory()


class Slew(Command):
    """Turn the dome to a target."""

    background = True
    target = slot(one_of(TARGETS, note="what", aliases=lambda target: target.number, disabled=too_low), "Target")

    def run(self) -> str:
        """Turn, and say how far it is."""
        aim = OBSERVATORY.aim = 4 * self.target.height % 360
        while (left := aim - OBSERVATORY.dome) != 0:
            if OBSERVATORY.aim != aim:
                raise Refusal("the dome was sent elsewhere")
            OBSERVATORY.dome += max(min(left, TURN), -TURN)
            print(f"the dome is at {OBSERVATORY.dome} degrees")
            time.sleep(1)
        return f"the dome looks at {self.target}"


class Cool(Command):
    """Cool the camera."""

    background = True
    degrees = slot(int, "Degrees", low=-60, high=15, unit="C")

    def run(self) -> str:
        """Cool, and show how far it is."""
        begun = OBSERVATORY.camera
        with working("Cooling", total=abs(self.degrees - begun), unit="degrees") as work:
            while OBSERVATORY.camera != self.degrees:
                left = self.degrees - OBSERVATORY.camera
                OBSERVATORY.camera += max(min(left, COOL), -COOL)
                work.set(abs(OBSERVATORY.camera - begun))
                time.sleep(1 / SHOWN)
        return "the camera is ready"


def wind(last: Annotated[int, slot(low=1, high=100)] = 5) -> list[dict[str, Any]] | str:
    """Show what the mast has measured.

    Arguments:
        last: how many measurements

    """
    found = OBSERVATORY.winds[-last:]
    return [{"at": at, "wind, m/s": wind} for at, wind in found] or "the mast has measured nothing yet"


class Park(Command):
    """Turn the dome away from the wind."""


class Inside(Command):
    """Look inside with Python: `observatory` has the dome, the camera and the wind."""

    def run(self) -> Any:
        """Open the loop of Python; its status."""
        return DESK.python({"observatory": OBSERVATORY, "targets": TARGETS})


PROGRAM = Program("desk", "1.0", "The night desk.", [Slew, Cool, wind, Park, Inside], log=True)
DESK = Console(PROGRAM, first_file=EVENING, background=3, at_leaving="stop", output_files=True)


@DESK.listen("park")
def turn_away(heard: Heard) -> None:
    """Do what the command says."""
    OBSERVATORY.dome = OBSERVATORY.aim = 0
    print("the dome is parked")


def watch(left: threading.Event) -> None:
    """Measure the wind until the desk is left, and say so above the line."""
    number = 0
    while not left.wait(EVERY):
        wind = GUSTS[number % len(GUSTS)]
        number += 1
        OBSERVATORY.winds.append((time.strftime("%H:%M:%S"), wind))
        DESK.say(f"mast: wind of {wind} m/s")
        mast.debug("measurement %d", number)


class Desk(Command):
    """Open the night desk: a prompt that stays while the mast, the dome and the camera go on."""

    def run(self) -> None:
        """Open it; raises Refusal with its status."""
        left = threading.Event()
        DESK.on_leave(left.set)
        threading.Thread(target=watch, args=(left,), daemon=True).start()
        print("The night desk of Hollin Ridge. Tab shows what there is; exit or Ctrl-D leaves.")
        if status := DESK.run():
            raise Refusal("", status)
