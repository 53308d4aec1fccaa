"""The signals of the system, under ``signals``.

:mod:`signal` gives names to the numbers of ``_signal``, by means of :mod:`enum` and much that comes with it: a tenth of
the time until the first question is on the screen. Here the numbers will do; if there is no ``_signal``, the module
itself does as well, since its names are equal to the numbers.

What the library does with them is here too: it has them wait, starts threads that get none, and stops the process.
"""

from __future__ import annotations

import _thread
import os

TYPE_CHECKING = False
if TYPE_CHECKING:
    import signal as signals
    from collections.abc import Callable, Iterable
    from typing import Any
else:
    try:
        import _signal as signals
    except ImportError:
        import signal as signals

#: Signals that do not end a process by default, or that nothing can handle (POSIX, ``<signal.h>``).
HARMLESS = ("SIGCHLD", "SIGCLD", "SIGCONT", "SIGURG", "SIGWINCH", "SIGINFO", "SIGTSTP", "SIGTTIN", "SIGTTOU")
UNSTOPPABLE = ("SIGKILL", "SIGSTOP")
#: Signals of a fault of the process itself. A handler that returns would have the fault come again for ever, so they
#: are left alone: the process ends there and then.
FAULTS = ("SIGSEGV", "SIGBUS", "SIGFPE", "SIGILL")
#: Those that want to know that the process goes on after it was stopped (``continued``).
HEARERS: list[Any] = []


def signals_to_handle() -> list[int]:
    """Return the numbers of all signals that can be handled and are no fault of the process itself."""
    if not hasattr(signals, "valid_signals"):
        return []
    left_out = {getattr(signals, name, 0) for name in (*UNSTOPPABLE, *FAULTS)}
    return sorted(signals.valid_signals() - left_out)


def ending_signals(numbers: Iterable[int]) -> set[int]:
    """Return those of these signals that end a process by default, SIGINT among them."""
    return {*numbers} - {getattr(signals, name, 0) for name in HARMLESS}


def block(numbers: Iterable[int]) -> Any:
    """Block these signals in this thread, once Python has handled those it has noted. Return what ``unblock`` takes."""
    if not hasattr(signals, "pthread_sigmask"):
        return None
    return signals.pthread_sigmask(signals.SIG_BLOCK, [*numbers])


def unblock(blocked: Any) -> None:
    """Undo ``block``; what a handler of a signal that has come meanwhile raises is raised here."""
    if blocked is not None:
        signals.pthread_sigmask(signals.SIG_SETMASK, blocked)


def raise_if_own(error: Exception) -> None:
    """Raise an error that a handler of the program has raised here, of a signal that came: the system gives numbers."""
    if isinstance(error, OSError) and error.errno is None:
        raise error


__all__ = [
    "block",
    "call_held",
    "ending_signals",
    "raise_if_own",
    "signals",
    "signals_to_handle",
    "start_thread",
    "stop_process",
    "unblock",
]


def call_held(function: Callable[..., object], *given: object) -> None:
    """Call a function between whose steps no interrupt is raised; one that comes meanwhile is handled afterwards.

    It is for what takes a moment, and where nothing is open that owns the signals (``process_signals``).
    """
    came: list[int] = []

    def note(number: int, frame: object) -> None:
        came.append(number)

    before = signals.getsignal(signals.SIGINT)
    is_held = callable(before)
    if is_held:
        try:
            signals.signal(signals.SIGINT, note)
        except ValueError:  # in a thread, where no interrupt is raised
            is_held = False
    if not is_held:
        function(*given)
        return
    try:
        function(*given)
    finally:
        signals.signal(signals.SIGINT, before)
        if came:
            os.kill(os.getpid(), signals.SIGINT)


def start_thread(function: Callable[..., object], *given: object) -> None:
    """Call a function with these arguments in a thread that gets no signals and that the end of the process ends.

    A signal that the system gives to another thread than the main one leaves the main thread asleep; so this one takes
    none. A thread begins with the mask of the one that starts it, hence the block around the start. Code of the program
    must not run there: a child that it started would have every signal blocked for good.
    """
    if not hasattr(signals, "pthread_sigmask"):
        _thread.start_new_thread(function, given)
        return
    before = signals.pthread_sigmask(signals.SIG_BLOCK, signals.valid_signals())
    try:
        _thread.start_new_thread(function, given)
    finally:
        signals.pthread_sigmask(signals.SIG_SETMASK, before)


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
    except OSError:  # a system without /proc: the others have to go by the terminal's own signal
        return
    for process in listed:
        try:
            if process != own and os.getpgid(process) == group:
                os.kill(process, number)
        except OSError:  # it has ended, or is somebody else's
            pass
