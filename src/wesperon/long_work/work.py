"""Pieces of work: what the program says of them, and what they have come to.

The work itself pays for next to nothing. What is iterated over is handed to the loop by an iterator of C
(``progress``); nobody but the one that looks from outside, 20 times a second at most, computes anything. Who looks
is a thread (``watch``) that sleeps through the first second: work that is done by then has loaded nothing and shown
nothing, and started a thread at most.

A piece of work begins once and ends once; what comes after its end does nothing. In a child that was forked meanwhile
it has ended too: it is the parent's.
"""

from __future__ import annotations

import _thread
import sys
import time

from wesperon.context import current
from wesperon.frozen import later
from wesperon.long_work.watch import AT_FIRST, WATCH
from wesperon.system.interrupts import critical
from wesperon.system.signals import call_held

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from types import TracebackType
    from typing import Any, Self

    from wesperon import values
    from wesperon.long_work import board, last_line, remote
    from wesperon.long_work.remote import Receiver, Remote
    from wesperon.values import secrets
else:
    values, secrets = later("wesperon.values"), later("wesperon.values.secrets")
    board, remote = later("wesperon.long_work.board"), later("wesperon.long_work.remote")
    last_line = later("wesperon.long_work.last_line")

#: What has become of a piece of work; the last three are those of ``widgets.meter``.
NEW, RUNNING, DONE, STOPPED, FAILED = "new", "running", "done", "stopped", "failed"
#: Exceptions by which somebody stops the work, by their names: one of them is of a module that may not be loaded.
STOPS = ("KeyboardInterrupt", "SystemExit", "GeneratorExit", "CancelledError")


class Work:
    """One piece of work; made by ``working`` and ``progress``, and used by the program from any thread.

    It begins with its block or its loop, and ends once: as done, as stopped (``break``, Ctrl-C) or as failed. What is
    called on it after its end does nothing.

    Arguments:
        label: what it is called
        total: how much there is to do, as far as that is known
        unit: what is counted, such as ``"frames"``; ``"bytes"`` are shown in binary multiples
        capture: whether what is printed meanwhile is kept above the row

    Example:
        >>> with working("Cooling", total=3) as work:
        ...     work.add()
        ...     work.label = "Cooling the camera"
        ...     work.fail("no power")
        ...     work.add()
        >>> work.count, work.total
        (1, 3)

    """

    def __init__(self, label: str, total: float | None, unit: str, *, capture: bool = True) -> None:
        self._label = _checked_text("label", label)
        self._total = _checked_total(total)
        self.unit = _checked_text("unit", unit)
        self.capture = capture
        #: In whose name it is shown: the streams, the clock, the user's wishes.
        self.context = current()
        self.clock: Any = self.context.clock
        self.state, self.reason = NEW, ""
        #: When it began and ended, by its clock.
        self.begun = self.ended = 0.0
        #: Whether anything is counted: only then there is a count to show. Whether a row or line of it was shown.
        self.is_counted = total is not None
        self.is_shown = False
        self._lock = _thread.RLock()
        self._added: float = 0
        #: How much of what is iterated over has passed; what receives from other processes.
        self._passed: Callable[[], float] | None = None
        self._receiver: Receiver | None = None

    # What the program says -------------------------------------------------------------------------------------------

    @property
    def label(self) -> str:
        """What it is called; may be changed while it runs."""
        return self._label

    @label.setter
    def label(self, label: str) -> None:
        label = _checked_text("label", label)
        if self.state in (NEW, RUNNING):
            self._label = label
            self._step()

    @property
    def total(self) -> float | None:
        """How much there is to do, None if that is not known; may be changed while it runs."""
        return self._total

    @total.setter
    def total(self, total: float | None) -> None:
        total = _checked_total(total)
        if self.state in (NEW, RUNNING):
            self._total = total
            self.is_counted = self.is_counted or total is not None
            self._step()

    @property
    def count(self) -> float:
        """How much has been done."""
        self._receive(waits=False)
        with self._lock:
            return max(self._added + (0 if self._passed is None else self._passed()), 0)

    def add(self, n: float = 1) -> None:
        """Count ``n`` more."""
        with self._lock:
            if self.state in (NEW, RUNNING):
                self._added += n
                self.is_counted = True
        if self.clock is not time:
            self._step()

    def set(self, n: float) -> None:
        """Say that ``n`` have been done by now."""
        with self._lock:
            if self.state in (NEW, RUNNING):
                self._added = n - (0 if self._passed is None else self._passed())
                self.is_counted = True
        if self.clock is not time:
            self._step()

    def say(self, text: object) -> None:
        """Print a ``text`` on standard error, above the row; control characters appear in their visible form."""
        if self.state in (NEW, RUNNING):
            board.BOARD.say(self, str(text))

    def fail(self, reason: object = "") -> None:
        """End the work as one that has failed, for a ``reason``; its row stays."""
        self.end(FAILED, str(reason))

    def remote(self) -> Remote:
        """Return what a worker in another process counts with.

        It can be pickled, and has ``add``, ``set`` and ``say``. Made once for the work, whose end it does not outlive.
        """
        with self._lock:
            if self._receiver is None:
                self._receiver = remote.Receiver()
            return self._receiver.remote

    def aside(self) -> Aside:
        """Return a context in which the rows are gone, so that a child process may have the terminal."""
        return Aside(self)

    # Beginning and ending --------------------------------------------------------------------------------------------

    def __enter__(self) -> Self:
        self.begin()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.end(*outcome_of(error))

    def begin(self) -> None:
        """Begin; what has ended begins again, from nothing."""
        if self.state == RUNNING:
            return
        try:
            self._begin()
        except BaseException:  # what a handler of a signal raises: nobody else would end it
            self.stop()
            raise

    def _begin(self) -> None:
        with self._lock:
            if self.state != NEW:
                self._added, self._passed, self.reason = 0, None, ""
            self.state = RUNNING
            self.begun = self.clock.monotonic()
        if self.clock is time and not self.is_never:
            WATCH.begin(self)

    def end(self, state: str, reason: str = "") -> None:
        """End in a ``state``, for a ``reason``, once; a line is left if it took more than a moment, or failed."""
        with self._lock:
            if self.state != RUNNING:
                return
        self._receive(waits=True)
        call_held(self._end, state, reason)

    def _end(self, state: str, reason: str) -> None:
        with self._lock:
            if self.state != RUNNING:  # another thread was faster
                return
            count = max(self._added + (0 if self._passed is None else self._passed()), 0)
            self.state, self.reason = state, reason
            self.ended = self.clock.monotonic()
            self._added, self._passed = count, None
            receiver, self._receiver = self._receiver, None
        if receiver is not None:
            receiver.close()
        WATCH.end(self)
        if state == FAILED or (not self.is_never and (self.is_shown or self.seconds >= AT_FIRST)):
            # With no row on the screen its last line is a line like any other.
            (board.BOARD.end if "wesperon.long_work.board" in sys.modules else last_line.say_ended)(self)

    def _receive(self, *, waits: bool) -> None:
        """Count and say what other processes have."""
        receiver = self._receiver
        if receiver is not None:
            receiver.receive(self)
            receiver.say(self, waits=waits)

    @critical
    def stop(self) -> None:
        """End as work that somebody has stopped."""
        self.end(STOPPED)

    def forget(self) -> None:
        """End without a word: this process is a child of the one whose work it is."""
        self.state, self._receiver, self.is_shown = STOPPED, None, False
        self._lock = _thread.RLock()

    @property
    def is_never(self) -> bool:
        """Whether the environment wants nothing shown but what is said and what has failed; a job asks nobody else."""
        context = self.context
        is_never = context.environ.get("WESPERON_ASKING") == "never" or context.environ.get("WESPERON_PROGRESS") == "no"
        return is_never and not getattr(context.stderr, "shows_work", False)

    @property
    def seconds(self) -> float:
        """For how long it has gone on."""
        return float((self.clock.monotonic() if self.state == RUNNING else self.ended) - self.begun)

    def _step(self) -> None:
        """Show what there is to show now: nobody else looks at a clock that is not the process's own."""
        if self.clock is not time and self.state == RUNNING and self.seconds >= AT_FIRST and not self.is_never:
            board.BOARD.look([self])


class Aside:
    """The time in which the rows are gone; around what has the terminal for itself."""

    def __init__(self, work: Work) -> None:
        self.work = work

    def __enter__(self) -> None:
        board.BOARD.put_aside(self.work)

    def __exit__(self, *error: object) -> None:
        board.BOARD.come_back(self.work)


def outcome_of(error: BaseException | None) -> tuple[str, str]:
    """Return how work ends that an exception has left, and the reason to show."""
    if error is None:
        return DONE, ""
    if error.__class__.__name__ in STOPS or isinstance(error, KeyboardInterrupt):
        return STOPPED, ""
    reason = str(error) or error.__class__.__name__
    return FAILED, secrets.hush_text(reason) if "wesperon.values.secrets" in sys.modules else reason


def _checked_text(name: str, text: str) -> str:
    if isinstance(text, str):
        return text
    raise values.DeclarationError(f"{name}={text!r} must be a text")


def _checked_total(total: float | None) -> float | None:
    if total is None or (isinstance(total, (int, float)) and not isinstance(total, bool) and total >= 0):
        return total
    raise values.DeclarationError(f"total={total!r} must be a number from 0, or None if it is not known")
