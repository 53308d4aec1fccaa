"""A console with commands of every sort: ``desk.py sync|async [SOURCE OF NOISE]...``."""

from __future__ import annotations

import asyncio
import subprocess
import sys
import threading
import time

from campaign.programs import noise
from wesperon import Command, Console, Form, Program, one_of, progress, slot
from wesperon.long_work import watch, work


class Say(Command):
    """Say a text."""

    text = slot(ask="Text")

    def run(self) -> str:
        """Give it back."""
        return f"said {self.text!r}"


class Point(Command):
    """Ask for two values."""

    target = slot(one_of(["Lantern", "Thimble"]), "Target")
    frames = slot(int, "Frames")

    def run(self) -> str:
        """Say what it is."""
        return f"{self.target} {self.frames}"


class Nap(Command):
    """Take a moment."""

    def run(self) -> None:
        """Sleep and print."""
        for number in range(10):
            time.sleep(0.03)
            print("nap", number)


class Child(Command):
    """Run a child to its end."""

    def run(self) -> None:
        """Wait for it."""
        subprocess.run(["sh", "-c", "echo child begins; sleep 0.05; echo child ends"], check=False)


class Inner(Command):
    """Open a console inside."""

    def run(self) -> object:
        """Return the same once more."""
        console = Console(Program("inner", members=[Say, Nap, Inner]), history=False, driver=outer.driver_in_use)
        return console.run_async() if outer.is_async else console.run()


class Look(Command):
    """Open a loop of Python."""

    def run(self) -> object:
        """Over nothing."""
        return outer.python({})


class Aside(Command):
    """Have a thread ask."""

    def run(self) -> None:
        """Do not wait for it."""

        class Note(Form):
            note = slot(ask="Aside")

        def ask() -> None:
            print("noted", ascii(Note.fill([], resume=False).note))

        threading.Thread(target=noise.tidy, args=(ask,), daemon=True).start()


#: Work is shown almost at once.
watch.AT_FIRST = 0.05
setattr(work, "AT_FIRST", 0.05)  # noqa: B010


class Cool(Command):
    """Work that shows how far it is, in the background too."""

    background = True

    def run(self) -> str:
        """Iterate."""
        for number in progress(range(60), "Cooling"):
            time.sleep(0.03)
            if number % 20 == 19:
                print("cooling", number)
        return "cold"


outer = Console(
    Program("desk", members=[Say, Point, Nap, Child, Inner, Look, Aside, Cool]),
    history=False,
    background=3,
    at_leaving="stop",
)


def main() -> None:
    """Run it."""
    way, *names = sys.argv[1:]
    noise.begin(names)
    outer.on_leave(lambda: print("<left>", flush=True))
    status = asyncio.run(outer.run_async()) if way == "async" else outer.run()
    print("<status>", status, flush=True)
    sys.exit(status)


if __name__ == "__main__":
    noise.tidy(main)
