"""A guide that branches and comes back."""

from __future__ import annotations

import os
import sys
import tempfile

from campaign.programs import noise
from wesperon import Guide

STEPS = """
start = "lamp"

[steps.lamp]
says = "The dome does not turn."
ask = "Is the lamp on"
kind = "boolean"
next = { yes = "motor", no = "fuse" }

[steps.fuse]
says = "Look at the fuse."
ask = "What is its number"
kind = "integer"
next = "lamp"

[steps.motor]
says = "Listen to the motor."
ask = "Does it hum"
kind = "one-of"
choices = ["loud", "low", "no"]
next = "end"

[steps.end]
says = "Call the day desk."
ends = "done"
"""


def main() -> None:
    """Run it."""
    noise.begin(sys.argv[1:])
    path = os.path.join(tempfile.mkdtemp(), "dome.toml")
    with open(path, "w", encoding="utf-8") as file:
        file.write(STEPS)
    print("got", Guide(path).walk([], resume=False).outcome, flush=True)


if __name__ == "__main__":
    noise.tidy(main)
