"""One question of a kind: ``question.py KIND [SOURCE OF NOISE]...``; prints what it got."""

from __future__ import annotations

import sys
import time
from pathlib import Path
from typing import Any

from campaign.programs import noise
from wesperon import Complaint, Form, any_of, fill, one_of, slot

LENSES = [f"lens {number}" for number in range(60)]


def slowly(text: str) -> str:
    """Return a check that takes its time, and prints."""
    print("<check>")
    time.sleep(0.4)
    if text == "no":
        raise Complaint("not this one")
    return text


SLOTS = {
    "text": slot(ask="Note"),
    "number": slot(int, "Frames", low=1),
    "spin": slot(int, "Gain", step=5, initial=10),
    "secret": slot(ask="Key word", secret=True, twice=True),
    "lines": slot(ask="Log", lines=True, syntax="python"),
    "menu": slot(one_of(LENSES), "Lens"),
    "endless": slot(one_of(f"lens {number}" for number in iter(int, 1)), "Lens"),
    "checks": slot(any_of(LENSES), "Lenses"),
    "path": slot(Path, "File"),
    "yes": slot(bool, "Open the dome"),
    "many": slot(ask="Names", many=True, least=1),
    "pairs": slot(dict[str, int], "Gains", least=1),
    "suggest": slot(ask="Place", suggest=LENSES),
    "slow": slot(slowly, "Slow"),
}


def main() -> None:
    """Ask, and print the answer."""
    kind, *names = sys.argv[1:]
    noise.begin(names)
    asked: type[Any] = type("Asked", (Form,), {"answer": SLOTS[kind]})
    answer = fill(asked, [], mouse="mouse" in names, resume=False).answer
    print(f"got {answer!a}", flush=True)


if __name__ == "__main__":
    noise.tidy(main)
