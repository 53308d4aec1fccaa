"""Diagnostics of one area, turned on from outside: ``WESPERON_LOG=argv,terminal``.

Everything goes through the standard :mod:`logging`, a logger for each area below ``wesperon``, so a program may as well
send it where its own messages go. This module is loaded only where ``WESPERON_LOG`` is set. Texts that were typed or
given are not logged, only what became of them.
"""

from __future__ import annotations

import logging

from wesperon.context import current

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.context import Context

VARIABLE, FILE = "WESPERON_LOG", "WESPERON_LOG_FILE"

#: The areas, and what each tells.
AREAS = {
    "argv": "which word belongs to which slot",
    "sources": "where each value came from, and what was asked",
    "terminal": "when the terminal was taken, given back or resized",
    "commands": "which command a line called, and its status",
}


class _Ready(logging.NullHandler):
    """Marks a logger whose areas are set up."""


def area(name: str) -> logging.Logger:
    """Return the logger of an area; the first call sets up those that the environment asks for."""
    root = logging.getLogger("wesperon")
    if not any(isinstance(handler, _Ready) for handler in root.handlers):
        root.addHandler(_Ready())
        _set_up(current())
    return logging.getLogger(f"wesperon.{name}")


def _set_up(context: Context) -> None:
    asked = [word.strip() for word in context.environ.get(VARIABLE, "").split(",") if word.strip()]
    path = context.environ.get(FILE)
    try:
        handler: logging.Handler = logging.FileHandler(path, encoding="utf-8") if path else logging.StreamHandler()
    except OSError as error:
        handler = logging.StreamHandler()
        context.print(f"{FILE}: {path} cannot be written: {error.strerror}", error=True)
    handler.setFormatter(logging.Formatter("%(asctime)s %(name)s: %(message)s"))
    for name in asked:
        if name not in AREAS:
            context.print(f"{VARIABLE}: {name!r} is no area; there are {', '.join(AREAS)}", error=True)
            continue
        logger = logging.getLogger(f"wesperon.{name}")
        logger.setLevel(logging.DEBUG)
        logger.addHandler(handler)
        logger.propagate = False
