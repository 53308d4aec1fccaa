"""Time: checks that take theirs, time-outs of any size, loops that are closed.

Modules: ``terminal.interaction``, ``terminal.asyncio_driver``.
"""

from __future__ import annotations

import math
import termios

import pytest
from hypothesis import given
from hypothesis import strategies as st

from campaign.modes import left_set
from tests.harness import CTRL_C, ENTER, Terminal, python
from tests.terminal.test_tty_driver import driver_on
from wesperon.terminal.inbox import TimeLeft, TimeOut
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.tty_events import LONGEST_WAIT
from wesperon.values import DeclarationError
from wesperon.values.wishes import LONGEST

SLOW = """
import sys, time
from wesperon import Form, Complaint, slot
def check(text):
    print("looking for", text, flush=True)
    time.sleep(0.1 if text == "quick" else 30 if text == "slow" else 0.8)
    if text == "no":
        raise Complaint("not this one")
class Note(Form):
    note = slot(check=check)
print("got", Note.fill([]).note)
"""


@pytest.mark.parametrize("plain", ["", "1"])
def test_a_slow_check_says_so_and_can_be_stopped(plain: str) -> None:
    with Terminal(python("-c", SLOW), env={"WESPERON_PLAIN": plain}) as terminal:
        terminal.see("note")
        terminal.wait(lambda: not terminal.read(0.2), "silence")
        terminal.type("slow" + ENTER)
        terminal.wait(lambda: b"being checked" in terminal.received, "the word that it is checked")
        terminal.see("looking for slow")
        if not plain:  # Ctrl-C is a signal now, and must not throw away what was drawn and not shown yet
            flags = termios.ISIG | termios.NOFLSH
            terminal.wait(lambda: termios.tcgetattr(terminal.process.fd)[3] & flags == flags, "the key that stops")
        terminal.type(CTRL_C)
        terminal.see("the check was stopped")
        assert "^C" not in terminal.text().replace("slow^C", "") or plain
        terminal.wait(lambda: not terminal.read(0.2), "silence")
        if not plain:  # what was typed is still there
            assert "note  slow" in terminal.text()
            assert "being checked" not in terminal.text()
            terminal.type("\x15")
        terminal.type("fine" + ENTER)
        terminal.see("got fine")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
        assert left_set(terminal.received) == []


WAITS = """
import asyncio, sys, time
from wesperon import ask, ask_async, choose, confirm

def slow(value=None):
    if str(value).endswith("x"):
        time.sleep(60)

async def asked():
    ticking = asyncio.create_task(asyncio.sleep(100))
    said = await ask_async("Note", {given})
    ticking.cancel()
    return said

print("got", {runs})
"""


@pytest.mark.parametrize("runs", ['ask("Note", {given})', "asyncio.run(asked())"])
@pytest.mark.parametrize(("given", "keys"), [("check=slow", "x" + ENTER), ("check=slow, live=True", "x")])
@pytest.mark.parametrize("family", ["modeless", "modal"])
def test_what_is_called_is_stopped_in_a_loop_as_in_none_at_the_first_key(
    runs: str, given: str, keys: str, family: str
) -> None:
    program = WAITS.format(given=given, runs=runs.format(given=given))
    with Terminal(python("-c", program), env={"WESPERON_KEYS": family}) as terminal:
        terminal.see("Note")
        terminal.type(keys)
        terminal.see("Ctrl-C: stop that")
        terminal.type(CTRL_C)
        terminal.see("was stopped")
        terminal.type("\x7fy" + ENTER)
        terminal.see("got y")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


def test_a_quick_check_says_nothing_and_a_slow_one_that_refuses_is_mended() -> None:
    with Terminal(python("-c", SLOW)) as terminal:
        terminal.see("note")
        terminal.quiet()
        terminal.type("no" + ENTER)
        terminal.wait(lambda: b"being checked" in terminal.received, "the word that it is checked")
        terminal.see("not this one")
        terminal.quiet()
        assert "being checked" not in terminal.text()
        terminal.type("\x15quick" + ENTER)
        terminal.see("got quick")
        assert terminal.end() == 0
    with Terminal(python("-c", SLOW)) as terminal:
        terminal.answer("note", "quick")
        assert terminal.end() == 0
        assert b"being checked" not in terminal.received


def test_keys_typed_while_a_check_takes_its_time_are_not_lost() -> None:
    program = SLOW.replace("note = slot(check=check)", "note = slot(check=check)\n    more = slot()")
    with Terminal(python("-c", program.replace("Note.fill([]).note", "*Note.fill([])"))) as terminal:
        terminal.see("note")
        terminal.quiet()
        terminal.type("fine" + ENTER)
        terminal.wait(lambda: b"being checked" in terminal.received, "the word that it is checked")
        terminal.type("ahead" + ENTER)
        terminal.see("got fine ahead")
        assert terminal.end() == 0


@given(st.floats(allow_nan=False) | st.integers(-5, 10**30))
def test_a_timeout_of_any_size_is_waited_for_in_pieces_that_the_system_takes(seconds: float) -> None:
    timeout = DriverOptions({"timeout": seconds}).timeout
    assert timeout is None or 0 <= timeout <= LONGEST
    driver, _ = driver_on([], timeout=seconds)
    assert (driver.waits is None) == (timeout is None)
    assert driver.waits is None or 0 <= driver.waits <= LONGEST_WAIT
    if timeout is None or timeout > 10**6:
        return
    begin = driver.clock.monotonic()
    events = [*driver.wait()]
    while not isinstance(events[-1], TimeOut):
        events += driver.wait()
    lefts = [event.seconds for event in events if isinstance(event, TimeLeft)]
    assert len(lefts) == len(events) - 1 <= 12
    assert lefts == sorted(lefts, reverse=True)
    assert driver.clock.monotonic() - begin == pytest.approx(timeout, abs=0.01)


@pytest.mark.parametrize("wrong", ["x", math.nan, True, [1]])
def test_a_timeout_that_is_no_number_is_refused(wrong: object) -> None:
    with pytest.raises(DeclarationError, match="must be a number of seconds"):
        DriverOptions({"timeout": wrong})


@pytest.mark.parametrize("timeout", ["9999999", "1e300", "inf"])
def test_a_timeout_from_the_environment_may_be_as_long_as_anybody_likes(timeout: str) -> None:
    program = "from wesperon import fill, slot; print('got', fill([], note=slot()).note)"
    with Terminal(python("-c", program), env={"WESPERON_TIMEOUT": timeout}) as terminal:
        terminal.wait(lambda: b"note" in terminal.received or terminal.is_closed, "a question")
        if timeout == "inf" and terminal.is_closed:
            assert "WESPERON_TIMEOUT" in terminal.text()
            return
        terminal.answer("note", "x")
        terminal.see("got x")
        assert terminal.end() == 0


CLOSED = """
import asyncio, sys, termios
from wesperon import Form, slot
class Note(Form):
    note = slot()
    more = slot()
async def main():
    await Note.fill_async([], resume=False)
before = termios.tcgetattr(0)
loop = asyncio.new_event_loop()
task = loop.create_task(main())
loop.call_later(0.6, loop.stop)
loop.run_forever()
assert termios.tcgetattr(0) != before
loop.close()
assert termios.tcgetattr(0) == before
assert "close" not in loop.__dict__
print("asked again:", Note.fill([], resume=False).note)  # the terminal is free for others
sys.stderr = None
"""


def test_a_loop_that_is_closed_while_a_question_is_open_leaves_the_terminal_as_it_was() -> None:
    with Terminal(python("-c", CLOSED)) as terminal:
        terminal.wait(lambda: terminal.text().count("note") == 2, "the second question")
        terminal.quiet()
        terminal.type("x" + ENTER)
        terminal.see("more")
        terminal.quiet()
        terminal.type("y" + ENTER)
        terminal.see("asked again: x")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
        assert left_set(terminal.received) == []
