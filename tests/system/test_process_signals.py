"""One owner of the signals: whatever is opened and closed in whatever order, all is as it was in the end.

Modules: ``system.process_signals``, ``system.late_signals``.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from types import FrameType

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon.system.interrupts import critical, interruptible, mark_at, waiting
from wesperon.system.process_signals import Holder, ProcessSignals
from wesperon.system.signals import FAULTS, HARMLESS, UNSTOPPABLE, ending_signals, signals_to_handle


class Open(Holder):
    """Something that is open, and writes down what it is told."""

    def __init__(self, name: str, told: list[str], leaves: bool) -> None:
        self.name, self.told, self.leaves = name, told, leaves
        self.is_driver = not leaves
        self.read_end, self.bell = os.pipe()
        os.set_blocking(self.bell, False)

    def give_back(self) -> None:
        self.told.append(f"{self.name} gives back")
        if self.name == "1":
            raise OSError("it fails, and the others come all the same")

    def leave_by(self, number: int) -> bool:
        if self.leaves:
            self.told.append(f"{self.name} leaves")
        return self.leaves

    def ring(self) -> None: ...

    def close(self) -> None:
        os.close(self.read_end)
        os.close(self.bell)


def state() -> tuple[dict[int, object], int]:
    handlers: dict[int, object] = {number: signal.getsignal(number) for number in signal.valid_signals()}
    wakeup = signal.set_wakeup_fd(-1)
    signal.set_wakeup_fd(wakeup)
    return handlers, wakeup


def own(number: int, frame: FrameType | None) -> None: ...


@given(st.lists(st.tuples(st.booleans(), st.integers(0, 9), st.booleans()), max_size=8), st.booleans())
def test_handlers_and_the_wake_up_descriptor_are_given_back(
    steps: list[tuple[bool, int, bool]], replaces: bool
) -> None:
    """Opened and closed at random; the program's own handler, set meanwhile, stays."""
    signals, told = ProcessSignals(), list[str]()
    before = state()
    stack: list[tuple[Open, bool]] = []
    for opens, place, leaves in steps:
        if opens or not stack:
            holder = Open(str(len(stack)), told, leaves)
            stack.append((holder, signals.open(holder)))
            assert signal.getsignal(signal.SIGUSR2) == signals._end
        else:
            holder, in_main = stack.pop(place % len(stack) if leaves else -1)
            signals.close(holder, in_main=in_main)
            holder.close()
    inherited = signal.getsignal(signal.SIGUSR2)
    if replaces:
        signal.signal(signal.SIGUSR2, own)
    while stack:
        holder, in_main = stack.pop()
        signals.close(holder, in_main=in_main)
        holder.close()
    if replaces:
        assert signal.getsignal(signal.SIGUSR2) is own
        signal.signal(signal.SIGUSR2, before[0][signal.SIGUSR2])  # type: ignore[arg-type]
    after = state()
    assert after[0] == before[0], inherited
    signal.set_wakeup_fd(before[1])


class Ended(BaseException):
    """Stands for the end of the process."""


@pytest.mark.parametrize("consoles", [(), ("0",), ("0", "2")])
@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP, signal.SIGUSR1])
def test_consoles_are_left_from_the_inside_and_terminals_given_back_from_the_top(
    consoles: tuple[str, ...], number: signal.Signals, monkeypatch: pytest.MonkeyPatch
) -> None:
    signals, told = ProcessSignals(), list[str]()
    holders = [Open(str(place), told, str(place) in consoles) for place in range(3)]

    def kill(process: int, by: int) -> None:
        raise Ended(by)

    opened = [signals.open(holder) for holder in holders]
    try:
        monkeypatch.setattr(os, "kill", kill)
        in_order = number in (signal.SIGTERM, signal.SIGHUP) and bool(consoles)
        for again in range(2 if in_order else 1):
            if in_order and not again:
                signals._end(number, None)
                assert told == [f"{name} leaves" for name in sorted(consoles, reverse=True)]
                other = signal.SIGHUP if number == signal.SIGTERM else signal.SIGTERM
                signals._end(other, None)  # one of another sort is no hurry
                told.clear()
            else:
                with pytest.raises(Ended):
                    signals._end(number, None)
                assert told == ["2 gives back", "1 gives back", "0 gives back"]
    finally:
        monkeypatch.undo()
        signal.signal(number, signal.SIG_DFL)
        for holder, in_main in zip(reversed(holders), reversed(opened), strict=True):
            signals.close(holder, in_main=in_main)
            holder.close()


def test_every_signal_is_either_handled_or_left_for_a_reason() -> None:
    ending = ending_signals(signals_to_handle())
    handled = {signal.Signals(number).name for number in ending if number < signal.SIGRTMIN}
    left = {number.name for number in signal.Signals if number < signal.SIGRTMIN} - handled
    assert left <= {*HARMLESS, *UNSTOPPABLE, *FAULTS}
    assert {"SIGTERM", "SIGUSR1", "SIGALRM", "SIGINT", "SIGABRT", "SIGPIPE"} <= handled


@st.composite
def nests(draw: st.DrawFn) -> list[str]:
    return draw(st.lists(st.sampled_from(["critical", "waiting", "interruptible", ""]), max_size=6))


@given(nests())
def test_the_innermost_function_with_a_mark_decides_about_an_interrupt(marks: list[str]) -> None:
    marking = {"critical": critical, "waiting": waiting, "interruptible": interruptible}

    def innermost() -> str:
        return mark_at(sys._getframe())

    function = innermost
    for mark in reversed(marks):
        namespace: dict[str, object] = {"inner": function}
        exec("def outer():\n    return inner()", namespace)
        made = namespace["outer"]
        function = marking[mark](made) if mark else made  # type: ignore[assignment,type-var]
    assert function() == next((mark for mark in reversed(marks) if mark), "")


LATE = """
import os, sys, threading
from types import SimpleNamespace
from wesperon.system.process_signals import SIGNALS
seen = []
sys.unraisablehook = seen.append

def set_before():
    sys.unraisablehook(SimpleNamespace(exc_value=OSError("Signal 15 ignored due to race condition")))
    sys.unraisablehook(SimpleNamespace(exc_value=ValueError("Signal 15 ignored due to race condition")))
    sys.unraisablehook(SimpleNamespace(exc_value=OSError("the disk is gone")))
    print(len(seen), flush=True)

SIGNALS._before[15], SIGNALS._set_before = 0, set_before
SIGNALS._handle_none()
print("lost")
"""


def test_a_signal_for_whose_handler_it_was_too_late_comes_again() -> None:
    ended = subprocess.run([sys.executable, "-c", LATE], capture_output=True, text=True, check=False)
    assert (ended.returncode, ended.stdout) == (-signal.SIGTERM, "2\n")
