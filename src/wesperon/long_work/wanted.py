"""What of the work is to be shown: by the environment, the user's preferences, and who has the terminal."""

from __future__ import annotations

import os
import sys

from wesperon.context import PROCESS, current
from wesperon.frozen import later
from wesperon.screen.theme import is_plain, roles_for
from wesperon.user_folders import preference_files

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any, TypeVar

    from wesperon import scope
    from wesperon.context import Context
    from wesperon.long_work.work import Work
    from wesperon.terminal import preferences

    T = TypeVar("T")
else:
    scope = later("wesperon.scope")
    preferences = later("wesperon.terminal.preferences")

#: Variables by which somebody may say what is looked for here; without them, and without files, all is as usual.
VARIABLES = ("WESPERON_PROGRESS", "WESPERON_THEME")


def is_quiet(work: Work) -> bool:
    """Return True if nothing of the work but what is said and what has failed is wanted."""
    return work.is_never or _preferred(work.context, "progress") == "no"


def wants_lines(context: Context) -> bool:
    """Return True if the terminal cannot move its cursor, or the user wants plain lines; so it is taken on Windows."""
    return sys.platform == "win32" or is_plain(context.environ) or _preferred(context, "plain") == "yes"


def roles_of(context: Context) -> dict[str, str]:
    """Return what the roles of text look like."""
    if _is_usual(context):
        return roles_for(context.environ)
    return preferences.roles_for_output(context.environ, context.program_name)


def _is_usual(context: Context) -> bool:
    return not any(context.environ.get(name) for name in VARIABLES) and not preference_files(context.program_name)


def _preferred(context: Context, name: str) -> str:
    """Return a preference of the user; empty if nothing is said."""
    if _is_usual(context):
        return ""
    files = preference_files(context.program_name)
    return preferences.preferences_of(files, environ=context.environ).values[name]


def is_in_background(context: Context = PROCESS) -> bool:
    """Return True if the process is in a background process group of its terminal (POSIX, Base Definitions, 11.1.4).

    What a ``context`` shows elsewhere has nothing to do with that.
    """
    if not context.is_process:
        return False
    for handle in (2, 1, 0):
        try:
            return os.tcgetpgrp(handle) != os.getpgrp()
        except (OSError, AttributeError):  # it leads elsewhere, or the system knows no groups
            continue
    try:
        terminal = os.open("/dev/tty", os.O_RDONLY | os.O_NOCTTY | os.O_CLOEXEC)
    except (OSError, AttributeError):  # there is no terminal, so that nothing is in its background
        return False
    try:
        return os.tcgetpgrp(terminal) != os.getpgrp()
    except OSError:  # the terminal has gone
        return False
    finally:
        os.close(terminal)


def in_force(context: Context, make: Callable[..., T], *given: Any) -> T:
    """Return what is made while a context is in force; nothing is loaded for that of the process."""
    if context is current():
        return make(*given)
    with scope.within(context):
        return make(*given)
