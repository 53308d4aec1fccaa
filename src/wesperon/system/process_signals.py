"""The signals of the process, while something is open on its terminal: one owner, with a stack of those who have it.

Only the main thread may handle signals, and there is one handler for each, so what is opened inside something else
cannot have handlers of its own: the last one would win, and the first one lose. Here everything that opens is put on a
stack and taken off again; the handlers belong to the stack.

    a signal that ends the process    a console is left in good order, the innermost one first; without one, and the
                                      second time, all terminals are given back and the process ends by that signal
    SIGINT                            see ``interrupts``
    SIGTSTP, SIGCONT, SIGWINCH        go to the one on top
    what the program handles itself   its own handler is called at once; an exception that it raises in the midst of our
                                      steps is raised where nothing is half done: by the question that is open

Python calls handlers between two steps of the main thread, which does not run as long as it waits: a *wake-up
descriptor* ends the wait whichever thread the system gave the signal to. The one that was set before (an event loop has
one) gets the same bytes, and is set again at the end.
"""

from __future__ import annotations

import _thread
import os
import sys

from wesperon.frozen import later
from wesperon.system.interrupts import INTERRUPTIBLE, critical, mark_at
from wesperon.system.signals import HEARERS, block, ending_signals, signals, signals_to_handle, stop_process, unblock

TYPE_CHECKING = False
if TYPE_CHECKING:
    from types import FrameType
    from typing import Any

    from wesperon.system import late_signals
else:
    late_signals = later("wesperon.system.late_signals")

#: What a shell adds to the number of a signal to say that it has ended a process.
BY_SIGNAL = 128
#: The signals on which a console is left in good order.
LEAVING = tuple(getattr(signals, name) for name in ("SIGTERM", "SIGHUP") if hasattr(signals, name))


class Holder:
    """What is open on the terminal of the process, as its signals see it."""

    #: The descriptor that ends the wait of the main thread when a byte is written there; -1 if it has none.
    bell = -1
    #: Whether it reads keys from the terminal.
    is_driver = True

    def give_back(self) -> None:
        """Let the terminal be as it was found, at once: the process ends."""

    def leave_by(self, number: int) -> bool:
        """Leave in good order because of a signal. Return False if that is not its way."""
        return False

    def is_at_work(self) -> bool:
        """Return True if code of the program runs in it, which is to be interrupted so that it can be left."""
        return False

    def stops_act(self) -> bool:
        """Return True if an interrupt is to stop what runs in it, whatever handles interrupts otherwise."""
        return False

    def ring(self) -> None:
        """End the wait of the main thread."""

    def resized(self) -> None:
        """Take note that the terminal has another size."""

    def stop(self) -> None:
        """Stop the process where nothing is half drawn."""

    def go_on(self) -> None:
        """Take note that the process has gone on."""


class ProcessSignals:
    """The owner; there is one, :data:`SIGNALS`."""

    def __init__(self) -> None:
        self._stack: list[Holder] = []
        #: The handlers that were there before, while ours are.
        self._before: dict[int, Any] = {}
        #: How many of the stack were opened in the main thread, and the wake-up descriptors that they found.
        self._opened = 0
        self._woken_before: dict[int, int] = {}
        self._process = self._thread = 0
        self._ours: dict[int, tuple[Any, Any]] = {}
        #: The signals by which consoles are being left, and whether the process is ending.
        self._left_by: set[int] = set()
        self._is_dying = False
        #: Whether an interrupt has come that nobody has taken yet.
        self.is_interrupted = False
        #: What handlers of the program have raised, and nobody has taken yet.
        self.raised: list[BaseException] = []

    # Opening and closing ---------------------------------------------------------------------------------------------

    def open(self, holder: Holder) -> bool:
        """Put a holder on top. Return False in a thread, where no signal can be handled: a guard is wanted there."""
        try:
            if not self._opened:
                self._handle_none()
                self._handle_all()
        except ValueError:  # not in the main thread
            self._stack.append(holder)
            return False
        self._stack.append(holder)
        if holder.bell >= 0 and hasattr(signals, "set_wakeup_fd"):
            try:
                self._woken_before[holder.bell] = signals.set_wakeup_fd(holder.bell, warn_on_full_buffer=False)
            except ValueError:  # not in the main thread
                return False
        elif not _is_main():
            return False
        self._opened += 1
        return True

    @critical
    def hold(self) -> Holder | None:
        """Have interrupts wait, or be events of what is open, until ``let_go`` of what this returns.

        Between these nothing can come that leaves a step undone. None: in a thread, where no signal can be handled.
        """
        if not _is_main():
            return None
        held = Holder()
        held.is_driver = False
        self.open(held)
        return held

    @critical
    def let_go(self, held: Holder | None) -> None:
        """Undo ``hold``, and raise what has come meanwhile if nothing is open that takes it."""
        if held is not None:
            self.close(held, in_main=True)
            self.settle_interrupt()

    def pass_on(self, holder: Holder, numbers: bytes) -> None:
        """Give the numbers of signals that came to the bell of a holder to the descriptor that was set before it."""
        before = self._woken_before.get(holder.bell, -1)
        if before >= 0:
            try:
                os.write(before, numbers)
            except OSError:  # it is full, or nobody reads it any more
                pass

    def close(self, holder: Holder, *, in_main: bool, ignores_interrupts: bool = False) -> None:
        """Take a holder off; ``in_main`` is what ``open`` gave.

        ``ignores_interrupts``: the process ends by an interrupt now, so that no further one matters.
        """
        self._stack.remove(holder)
        if not in_main:
            return
        before = self._woken_before.pop(holder.bell, None)
        if before is not None:
            for bell, earlier in self._woken_before.items():  # who was opened inside may be closed later
                if earlier == holder.bell:
                    self._woken_before[bell] = before
            now = signals.set_wakeup_fd(before)
            if now != holder.bell:  # somebody has set another one meanwhile, which stays
                signals.set_wakeup_fd(now)
        if ignores_interrupts and signals.SIGINT in self._before:
            del self._before[signals.SIGINT]
            signals.signal(signals.SIGINT, signals.SIG_IGN)
        self._opened -= 1
        # A thread that still asks cannot handle signals; without it, these handlers do what is done by default.
        if not self._opened and not self._stack:
            self._handle_none()

    def _handle_all(self) -> None:
        self._process, self._thread = os.getpid(), _thread.get_ident()
        self._ours = self._ours or self._find_ours()
        self._left_by.clear()
        try:
            # SIGINT is the first one: an interrupt that comes later waits, and finds everything done.
            for number, (over_default, over_own) in self._ours.items():
                before = signals.getsignal(number)
                is_default = before == signals.SIG_DFL or getattr(before, "does_as_default", False)
                handler = over_default if is_default else over_own if callable(before) else None
                if handler is not None:
                    self._before[number] = before  # first: it may be called at once
                    signals.signal(number, handler)
        except BaseException:
            self._handle_none()
            raise

    def _find_ours(self) -> dict[int, tuple[Any, Any]]:
        """Return the handlers of the signals that the program left at their default, and of those that it handles."""
        numbers = signals_to_handle()
        ours: dict[int, tuple[Any, Any]] = {}
        if signals.SIGINT in numbers:
            ours[signals.SIGINT] = None, self._call_own
        ours.update(dict.fromkeys(numbers, (None, self._call_own)))
        ours.update(dict.fromkeys(ending_signals(numbers), (self._end, self._call_own)))
        for name, *handlers in (
            ("SIGINT", self._end, self._interrupt),
            ("SIGWINCH", self._resized, self._resized),
            ("SIGTSTP", self._stop, self._call_own),
            ("SIGCONT", self._go_on, self._call_own),
        ):
            if hasattr(signals, name):
                over_default, over_own = handlers
                ours[getattr(signals, name)] = over_default, over_own
        return ours

    def _handle_none(self) -> None:
        """Set the handlers that were there before, unless the program has set others meanwhile.

        The signals wait until that is done, and what another thread has taken meanwhile comes again.
        """
        if not self._before:
            return
        # Without other threads, nobody else can take a signal.
        late = late_signals.LateSignals() if "threading" in sys.modules else None
        blocked = block([*self._before])
        try:
            self._set_before()
        finally:
            unblock(blocked)
            if late is not None:
                late.send_again()

    def _set_before(self) -> None:
        ours = (self._end, self._interrupt, self._call_own, self._resized, self._stop, self._go_on)
        # SIGINT is the last one: from there on an interrupt is raised, and must find everything done.
        for number, before in sorted(self._before.items(), key=lambda item: item[0] == signals.SIGINT):
            if signals.getsignal(number) in ours:
                signals.signal(number, before)
            del self._before[number]

    @property
    def hears_sizes(self) -> bool:
        """Whether a signal tells of another size of the terminal."""
        return getattr(signals, "SIGWINCH", 0) in self._before

    # Interrupts ------------------------------------------------------------------------------------------------------

    def pop_interrupt(self) -> bool:
        """Return True if an interrupt has come that is to be an event; it is taken with that."""
        taken, self.is_interrupted = self.is_interrupted, False
        return taken

    def settle_interrupt(self) -> None:
        """Raise what has come where nothing could be raised: an interrupt, or what a handler of the program raised.

        As long as something is still open, that takes it.
        """
        if self._opened:
            return
        if (error := self.pop_raised()) is not None:
            raise error
        if self.is_interrupted:
            self.is_interrupted = False
            before: Any = self._before.get(signals.SIGINT) or signals.getsignal(signals.SIGINT)
            if self._is_own(before):
                before(signals.SIGINT, None)
            elif before != signals.SIG_IGN:
                raise KeyboardInterrupt

    def _is_own(self, handler: Any) -> bool:
        """Return True if a handler of SIGINT is the program's own, or that of an event loop."""
        return callable(handler) and handler not in (signals.default_int_handler, self._interrupt)

    def _interrupt(self, number: int, frame: FrameType | None) -> None:
        mark = mark_at(frame)
        if mark == INTERRUPTIBLE and os.getpid() == self._process and any(one.stops_act() for one in self._stack):
            raise KeyboardInterrupt  # that of an event loop would end the task in which all of this runs
        if self._is_own(self._before.get(number)):
            self._call_own(number, frame)
            return
        if self._is_somebody_elses(number):
            return
        if mark == INTERRUPTIBLE or (not mark and self._top() is None):
            raise KeyboardInterrupt
        self.is_interrupted = True
        self._ring()

    def _ring(self) -> None:
        for holder in reversed(self._stack):
            holder.ring()

    # Signals that the program handles itself -------------------------------------------------------------------------

    def _call_own(self, number: int, frame: FrameType | None) -> None:
        """Call the handler of the program; what it raises waits, unless code of the program runs."""
        handler = self._before.get(number)
        if not callable(handler):
            return
        try:
            handler(number, frame)
        except BaseException as error:
            if os.getpid() != self._process or mark_at(frame) in ("", INTERRUPTIBLE):
                raise
            self.raised.append(error)
            self._ring()

    def pop_raised(self) -> BaseException | None:
        """Return what a handler of the program has raised first and nobody has taken yet.

        It is called in the thread of the handlers.
        """
        if not self.raised or _thread.get_ident() != self._thread:
            return None
        return self.raised.pop(0)

    # The other signals -----------------------------------------------------------------------------------------------

    def _end(self, number: int, frame: FrameType | None) -> None:
        """Leave in good order if that can be done, else give the terminal back and end by the same signal."""
        if self._is_somebody_elses(number):
            return
        if number in LEAVING and number not in self._left_by:
            is_first = not self._left_by
            self._left_by.add(number)
            # A second signal of another sort (a terminal that closes sends more than one) is no hurry.
            left = [holder.leave_by(number) for holder in reversed(self._stack)] if is_first else [True]
            if any(left):
                # What works now is interrupted once: a second interrupt would find what is around it.
                if is_first and any(holder.is_at_work() for holder in self._stack):
                    os.kill(os.getpid(), signals.SIGINT)  # last, since it may raise KeyboardInterrupt right here
                return
        self.die(number)

    def die(self, number: int) -> None:
        """Give all terminals back, the one on top first, and end by a signal."""
        if self._is_dying:  # another signal, in the midst of this
            return
        self._is_dying = True
        for holder in reversed(self._stack):
            try:
                holder.give_back()
            except Exception:  # no way back remains untried because another one failed
                pass
        block([number])
        try:
            signals.signal(number, signals.SIG_DFL)
            os.kill(os.getpid(), number)
        finally:
            if hasattr(signals, "pthread_sigmask"):
                signals.pthread_sigmask(signals.SIG_UNBLOCK, [number])
        os._exit(BY_SIGNAL + number)  # the first process of a container does not end by a signal

    def _is_somebody_elses(self, number: int) -> bool:
        """Return True in a child that was forked meanwhile, whose signals are its own and do as by default."""
        if os.getpid() == self._process:
            return False
        before = self._before.get(number, signals.SIG_DFL)
        signals.signal(number, before)
        os.kill(os.getpid(), number)
        return True

    def _resized(self, number: int, frame: FrameType | None) -> None:
        for holder in self._stack:
            holder.resized()
        self._call_own(number, frame)

    def _stop(self, number: int, frame: FrameType | None) -> None:
        top = self._top()
        if top is None or self._is_somebody_elses(number):
            stop_process(only_self=True)
        else:
            top.stop()

    def _go_on(self, number: int, frame: FrameType | None) -> None:
        top = self._top()
        if top is not None and os.getpid() == self._process:
            top.go_on()
        for hearer in HEARERS:
            hearer.continued()

    def _top(self) -> Holder | None:
        """Return the one that has the terminal now."""
        return next((holder for holder in reversed(self._stack) if holder.is_driver), None)


def _is_main() -> bool:
    """Return True if this is the main thread, which alone may set a handler."""
    if not hasattr(signals, "set_wakeup_fd"):
        return True
    try:
        signals.set_wakeup_fd(signals.set_wakeup_fd(-1))
    except ValueError:  # Python says so in any other thread
        return False
    return True


#: The owner.
SIGNALS = ProcessSignals()
