"""Which descriptors are the terminal of the process: the controlling one (POSIX, Base Definitions, 11.1.3).

Where there is none (a program that an init has started on a console, or one in a session of its own), it is the
terminal that is standard input and an output at once.
"""

from __future__ import annotations

import os

#: The device that is taken for the terminal of the process, since it has no controlling one; 0 if none is.
_adopted = 0


def is_own_terminal(handle: int) -> bool:
    """Whether a descriptor is the terminal of the process."""
    try:
        os.tcgetpgrp(handle)  # fails on everything else
    except (OSError, AttributeError):
        try:
            return bool(_adopted) and os.fstat(handle).st_rdev == _adopted
        except OSError:
            return False
    return True


def adopt() -> str:
    """The path of the terminal that is standard input and an output; empty if there is none."""
    global _adopted
    try:
        if not os.isatty(0):
            return ""
        device = os.fstat(0).st_rdev
        if not any(os.isatty(handle) and os.fstat(handle).st_rdev == device for handle in (1, 2)):
            return ""
        path = os.ttyname(0)
    except OSError:
        return ""
    _adopted = device
    return path
