"""The areas of a program's log, turned on and off: from outside with ``DESK_LOG=mast,dome:info``, inside by a console.

An area is a logger of :mod:`logging` by its name, with or without the program's name before it: the area ``mast`` of
the program ``desk`` is ``mast`` as well as ``desk.mast``. Where the program has no handler of its own, messages go to
standard error, or to the file that ``DESK_LOG_FILE`` names.
"""

from __future__ import annotations

import atexit
import logging
import os
import sys

from wesperon.context import current
from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.text.truncate import listed
from wesperon.values import Complaint, quoted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

#: What an area may be set to, beside the names of levels.
ON, OFF = "on", "off"
LEVELS = {ON: logging.DEBUG, OFF: logging.CRITICAL + 1, "debug": logging.DEBUG, "info": logging.INFO}
LEVELS |= {"warning": logging.WARNING, "error": logging.ERROR, "critical": logging.CRITICAL}


class AreaHandler(logging.Handler):
    """Prints messages on standard error, unless the program has a handler for all of its messages by then."""

    def emit(self, record: logging.LogRecord) -> None:
        """Print one message."""
        if not logging.root.handlers:
            try:
                current().print(self.format(record), error=True)
            except (OSError, ValueError):  # closed, full, or nobody reads it
                pass


def variable(program: str) -> str:
    """Return the environment variable that turns areas of a program on: ``night desk`` has ``NIGHT_DESK_LOG``."""
    return "".join([char if char.isalnum() and char.isascii() else "_" for char in program.upper()]) + "_LOG"


def turn_on(program: str, environ: Mapping[str, str]) -> None:
    """Turn on what the environment asks for; what is wrong there is printed, and does no harm."""
    name, wanted, there = variable(program), [], set(logging.root.manager.loggerDict)
    for part in environ.get(name, "").split(","):
        area, _, level = part.strip().partition(":")
        if area:
            try:
                set_area(program, area, level or ON, environ)
                wanted.append(area)
            except Complaint as complaint:
                current().print(f"{name}: {complaint.reason}", error=True)
    if wanted and environ is os.environ:  # of the process itself, at whose end it is said
        late = [area for area in wanted if not there & {area, f"{program}.{area}"}]
        heard = {area: _Heard(_loggers(program, area)) for area in late}
        atexit.register(lambda: _tell_unheard(program, heard))


class _Heard:
    """Whether anybody has used the loggers of an area, which may be made late: by what they log, or who holds them."""

    def __init__(self, names: Sequence[str]) -> None:
        self.loggers = [logging.getLogger(name) for name in names]
        self.has_logged = False
        for logger in self.loggers:
            logger.addFilter(self._hear)

    def _hear(self, record: logging.LogRecord) -> bool:
        self.has_logged = True
        return True

    @property
    def is_used(self) -> bool:
        """Whether there is such an area."""
        below = tuple(f"{logger.name}." for logger in self.loggers)
        if self.has_logged or any(name.startswith(below) for name in logging.root.manager.loggerDict):
            return True
        # A logger nobody has logged to yet is made when its module is imported, and is a name there in every program.
        # A copy of both: a thread may import something meanwhile.
        held = [value for module in list(sys.modules.values()) for value in list(vars(module).values())]
        return any(value is logger for value in held for logger in self.loggers)


def _tell_unheard(program: str, heard: Mapping[str, _Heard]) -> None:
    """Say of which areas that were wanted there was none, when the process ends."""
    unknown = [area for area, one in heard.items() if not one.is_used]
    known = [area for area in areas(program) if area not in unknown]
    for area in unknown:
        hint = suggestion(area, known) or (tell("; there are: {list}", list=listed(known)) if known else "")
        reason = tell("there is no area {area}{hint}", area=quoted(area), hint=hint)
        try:
            current().print(f"{variable(program)}: {reason}", error=True)
        except (OSError, ValueError):  # closed, or nobody reads it
            pass


def set_area(program: str, area: str, level: str, environ: Mapping[str, str]) -> None:
    """Set an area to ``on``, ``off`` or the name of a level; raises Complaint if ``level`` is not one of them."""
    number = LEVELS.get(level.lower())
    if number is None:
        known = ", ".join(LEVELS)
        raise Complaint(tell("{level} is not a level of a log: must be one of {list}", level=quoted(level), list=known))
    for name in _loggers(program, area):
        logger = logging.getLogger(name)
        logger.setLevel(number)
        if not any(isinstance(handler, AreaHandler | logging.FileHandler) for handler in logger.handlers):
            logger.addHandler(_handler(program, environ))


def areas(program: str) -> dict[str, str]:
    """Return the areas that there are now, with what each is set to.

    Those of this library, and of other packages, are not among them.
    """
    found = {}
    for name, logger in sorted(logging.root.manager.loggerDict.items()):
        own = name.removeprefix(f"{program}.")
        if isinstance(logger, logging.Logger) and not name.startswith("wesperon") and name != program:
            level = logger.getEffectiveLevel()
            found[own] = OFF if level > logging.CRITICAL else logging.getLevelName(level).lower()
    return found


def find_area(program: str, area: str) -> str:
    """Return the area itself; raises Complaint, with the nearest, if no logger has that name."""
    known = areas(program)
    if area not in known and area not in logging.root.manager.loggerDict:
        hint = suggestion(area, known)
        raise Complaint(tell("there is no area {area}{hint}", area=quoted(area), hint=hint))
    return area


def _loggers(program: str, area: str) -> list[str]:
    """Return the loggers that an area means: those that exist, else all that may come to be."""
    names = [area, f"{program}.{area}"]
    return [name for name in names if name in logging.root.manager.loggerDict] or names


def _handler(program: str, environ: Mapping[str, str]) -> logging.Handler:
    path = environ.get(f"{variable(program)}_FILE")
    handler: logging.Handler = AreaHandler()
    if path:
        try:
            handler = logging.FileHandler(path, encoding="utf-8")
        except OSError as error:
            current().print(f"{variable(program)}_FILE: {path}: {error.strerror}", error=True)
    handler.setFormatter(logging.Formatter("%(asctime)s %(name)s %(levelname)s: %(message)s", "%H:%M:%S"))
    return handler
