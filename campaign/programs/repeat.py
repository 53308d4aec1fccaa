"""A loop of a small language: each text comes back as it was; ``repeat.py [SOURCE OF NOISE]...``."""

from __future__ import annotations

import sys

from campaign.programs import noise
from wesperon import Console


def main() -> None:
    """Run it."""
    noise.begin(sys.argv[1:])
    console = Console(evaluate=lambda text: "got " + ascii(text), name="repeat", history=False)
    sys.exit(console.run())


if __name__ == "__main__":
    noise.tidy(main)
