"""Stopping the process until it is continued, as the key of the terminal does."""

from __future__ import annotations

import _thread
import os

from wesperon.system.signals import block, signals, unblock


def stop_process(*, only_self: bool) -> None:
    """Stop the process until SIGCONT, and the others of its group unless ``only_self``."""
    number = signals.SIGTSTP
    try:
        before = signals.getsignal(number)
        blocked = block([number])
        try:
            signals.signal(number, signals.SIG_DFL)
        finally:
            unblock(blocked)
    except ValueError:  # in a thread, which cannot set the handler: the signal that needs none does the same
        before, number = None, signals.SIGSTOP if signals.getsignal(number) != signals.SIG_DFL else number
    try:
        if before is None:
            # The main thread gets what is sent to the process, and this one would go on for a moment; sent to both, the
            # second would stop it once more after it was continued. So it goes to the others, and to this thread.
            if not only_self:
                _signal_others_of_group(number)
            signals.pthread_kill(_thread.get_ident(), number)
        elif only_self:
            os.kill(os.getpid(), number)
        else:
            os.killpg(0, number)
    finally:
        if before is not None:
            signals.signal(signals.SIGTSTP, before)


def _signal_others_of_group(number: int) -> None:
    """Send a signal to all other processes of the group, as far as the system lists them (``/proc``)."""
    own, group = os.getpid(), os.getpgrp()
    try:
        listed = [int(name) for name in os.listdir("/proc") if name.isdigit()]
    except OSError:
        return
    for process in listed:
        try:
            if process != own and os.getpgid(process) == group:
                os.kill(process, number)
        except OSError:  # it has ended, or is somebody else's
            pass
