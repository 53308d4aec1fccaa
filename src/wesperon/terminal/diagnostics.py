"""Diagnostics of one area, turned on from outside: ``WESPERON_LOG=argv,terminal``.

Everything goes through the standard :mod:`logging`, a logger for each area below ``wesperon``, so a program may as well
send it where its own messages go. This module is loaded only where ``WESPERON_LOG`` is set. Texts that were typed or
given are not logged, only what became of them.
"""

from __future__ import annotations

import logging
import os
import sys

VARIABLE, FILE = "WESPERON_LOG", "WESPERON_LOG_FILE"

#: The areas, and what each tells.
AREAS = {
    "argv": "which word belongs to which slot",
    "sources": "where each value came from, and what was asked",
    "terminal": "when the terminal was taken, given back or resized",
    "commands": "which command a line called, and its status",
}

_ready: set[str] = set()


def area(name: str) -> logging.Logger:
    """The logger of an area; the first call sets up those that the environment asks for."""
    if not _ready:
        _set_up()
    return logging.getLogger(f"wesperon.{name}")


def _set_up() -> None:
    _ready.add("")
    asked = [word.strip() for word in os.environ.get(VARIABLE, "").split(",") if word.strip()]
    path = os.environ.get(FILE)
    try:
        handler: logging.Handler = logging.FileHandler(path, encoding="utf-8") if path else logging.StreamHandler()
    except OSError as error:
        handler = logging.StreamHandler()
        print(f"{FILE}: {path} cannot be written: {error.strerror}", file=sys.stderr)
    handler.setFormatter(logging.Formatter("%(asctime)s %(name)s: %(message)s"))
    for name in asked:
        if name not in AREAS:
            print(f"{VARIABLE}: {name!r} is no area; there are {', '.join(AREAS)}", file=sys.stderr)
            continue
        logger = logging.getLogger(f"wesperon.{name}")
        logger.setLevel(logging.DEBUG)
        logger.addHandler(handler)
        logger.propagate = False
