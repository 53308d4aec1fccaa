"""Whose turn it is on one terminal, inside a process: threads and tasks ask in the order in which they came.

A turn is taken again by who has it, so that a question may be asked inside another one. Who waits looks again and
again: the one before it may be a task of an event loop as well as a thread, and no lock serves both.

Which descriptors are the terminal of the process is here too: the controlling one (POSIX, Base Definitions, 11.1.3).
Where there is none (a program that an init has started on a console, or one in a session of its own), it is the
terminal that is standard input and an output at once.
"""

from __future__ import annotations

import _thread
import os
import sys
from time import sleep

from wesperon.system.interrupts import critical, interruptible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: How often who waits looks, in seconds.
LOOK = 0.02


class Asker:
    """Who wants the turn: a thread, and the task that runs in it if an event loop does."""

    __slots__ = ("task", "thread")

    def __init__(self) -> None:
        self.thread = _thread.get_ident()
        self.task = _task()


class Turn:
    """The turn on one terminal."""

    def __init__(self) -> None:
        self._lock = _thread.allocate_lock()
        #: Who has it now.
        self.holder: Asker | None = None
        self._count = 0
        self._queue: list[Asker] = []

    @critical
    def take(self) -> bool:
        """Wait for the turn and take it. Return False if it is taken again, inside.

        An interrupt is raised only while it is waited for: one between taking the turn and telling so would leave it
        taken for ever.
        """
        asker = Asker()
        if self._try(asker, blocks=True):
            return self._count == 1
        try:
            while not self._try(asker, blocks=True):
                pause(LOOK)
        finally:
            self._withdraw(asker)
        return self._count == 1

    async def reserve(self) -> None:
        """Wait for the turn inside an event loop; the next ``take`` has it at once."""
        import asyncio

        asker = Asker()
        try:
            while not self._try(asker, blocks=False):
                await asyncio.sleep(LOOK)
            self._count -= 1  # until it is taken
        finally:
            self._withdraw(asker)

    def end(self) -> bool:
        """Let go of what was taken last. Return True if others may have the turn now."""
        with self._lock:
            self._count -= 1
            if not self._count:
                self.holder = None
            return not self._count

    @property
    def is_free(self) -> bool:
        """Whether nobody has it."""
        return self.holder is None

    def _try(self, asker: Asker, *, blocks: bool) -> bool:
        with self._lock:
            holder = self.holder
            if holder is not None and not self._count and holder.task is not None and holder.task.done():
                holder = self.holder = None  # it was reserved by a task that ended before it was taken
            if holder is not None:
                # A call that blocks the thread of the holder cannot wait for it: it is asked inside. A task can, unless
                # it is the holder's own, or runs in a loop that a call inside the question has begun.
                inside = holder.thread == asker.thread and (
                    blocks or holder.task is asker.task or (holder.task is None and self._count > 0)
                )
                if not inside:
                    self._enqueue(asker)
                    return False
            # A task of the thread that this call would block meanwhile can only come after it.
            elif self._queue and self._queue[0] is not asker and not (blocks and self._queue[0].thread == asker.thread):
                self._enqueue(asker)
                return False
            if holder is None:
                self.holder = asker
            self._count += 1
            return True

    def _enqueue(self, asker: Asker) -> None:
        if asker not in self._queue:
            self._queue.append(asker)

    def _withdraw(self, asker: Asker) -> None:
        with self._lock:
            if asker in self._queue:
                self._queue.remove(asker)


@interruptible
def pause(seconds: float) -> None:
    """Wait for a moment, unless the user interrupts that."""
    sleep(seconds)


def _task() -> Any:
    """Return the task that runs in this thread; None outside of an event loop."""
    if "asyncio" not in sys.modules:
        return None
    from asyncio import _get_running_loop, current_task  # another thread may be loading it: this waits

    return None if _get_running_loop() is None else current_task()


#: The device that is taken for the terminal of the process, since it has no controlling one; 0 if none is.
_adopted = 0


def is_own_terminal(handle: int) -> bool:
    """Return True if a descriptor is the terminal of the process."""
    try:
        os.tcgetpgrp(handle)  # fails on everything else
    except (OSError, AttributeError):
        try:
            return bool(_adopted) and os.fstat(handle).st_rdev == _adopted
        except OSError:  # closed: it is not the terminal that was adopted
            return False
    return True


def adopt() -> str:
    """Return the path of the terminal that is standard input and an output; empty if there is none."""
    global _adopted
    try:
        if not os.isatty(0):
            return ""
        device = os.fstat(0).st_rdev
        if not any(os.isatty(handle) and os.fstat(handle).st_rdev == device for handle in (1, 2)):
            return ""
        path = os.ttyname(0)
    except OSError:  # standard input is no terminal, so there is none to adopt
        return ""
    _adopted = device
    return path
