"""One way in: a run is the list of its events, and can be played again.

Modules: ``terminal.inbox``, ``terminal.driver``.
"""

from __future__ import annotations

from itertools import groupby
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.terminal.test_tty_driver import driver_on
from wesperon import any_of, one_of, slot
from wesperon.editing.keys.events import Key, Resize, typed
from wesperon.forms.questions import Ask, question
from wesperon.terminal.inbox import Inbox, Leave, Said
from wesperon.testing import Scripted
from wesperon.widgets.widget import Ended, Widget

#: Not Ctrl-Z: it stops the process that runs the tests, and those beside it.
KEYS = st.binary(max_size=3).filter(lambda data: b"\x1a" not in data) | st.sampled_from(
    [
        b"a",
        b"12",
        b"\x1b[A",
        b"\x1b[B",
        b"\x1b[D",
        b"\x7f",
        b"\t",
        b"\r",
        b"\x12",
        b" ",
        b"\x1b[200~x y\x1b[201~",
        b"\x1b",
    ]
)
DECLARED = {
    "text": lambda: slot(ask="Note"),
    "number": lambda: slot(int, low=1, high=20),
    "menu": lambda: slot(one_of(["wide", "narrow", "none"])),
    "growing": lambda: slot(one_of(str(number) for number in range(1_000))),
    "checks": lambda: slot(any_of(["wide", "narrow", "none"])),
}


def widget_of(name: str) -> Widget:
    declared: Any = DECLARED[name]()  # type: ignore[no-untyped-call]
    declared.name = "note"
    return question(Ask(declared), 4)


@settings(max_examples=40)
@given(
    st.sampled_from(sorted(DECLARED)),
    st.lists(st.tuples(st.sampled_from([0.0, 0.01, 0.2]), KEYS), max_size=12),
    st.lists(st.sampled_from([Said("the mast reports wind"), Resize(33, 24), Leave()]), max_size=2),
)
def test_a_run_that_was_written_down_is_the_same_when_it_is_played(
    name: str, pieces: list[tuple[float, bytes]], others: list[Any]
) -> None:
    driver, port = driver_on([(pause, data) for pause, data in pieces if data])
    written: list[list[Any]] = []
    frames: list[str] = []
    driver.inbox.tap = lambda events: written.append([*events])
    driver.look_at = lambda frame: frames.append(frame.text())  # type: ignore[method-assign]
    driver.feed = lambda number, source, count: source.pull(count)  # type: ignore[method-assign,assignment]
    driver.edit_outside = lambda text, syntax: text  # type: ignore[method-assign]
    first = widget_of(name)
    steps = driver.steps(first)
    next(steps)
    try:
        while port.pieces:
            for other in others[:1]:
                if isinstance(other, Resize):
                    port.columns = other.columns
                driver.inbox.post(others.pop(0))
            steps.send(driver.wait())
        driver.is_gone = True
        while True:
            steps.send(driver.wait())
    except StopIteration:
        pass
    second = widget_of(name)
    player = Scripted(written)
    player.knows_pauses = True
    shown: list[str] = []
    player.look_at = lambda frame: shown.append(frame.text())  # type: ignore[method-assign]
    player.feed = lambda number, source, count: source.pull(count)  # type: ignore[method-assign,assignment]
    assert player.run(second) == first.outcome or isinstance(first.outcome, Ended)
    assert shown[-1] == frames[-1]
    # A frame is left out if the next event has come meanwhile, which is a matter of time.
    fewer, more = sorted(([text for text, _ in groupby(made)] for made in (shown, frames)), key=len)
    rest = iter(more)
    assert all(text in rest for text in fewer), (fewer, more)


@given(st.lists(st.sampled_from([Said("a"), Said("b"), Leave(), Resize(1, 1)]), max_size=12), st.integers(0, 12))
def test_events_are_taken_in_their_order_whoever_takes_them(events: list[Any], cut: int) -> None:
    rung: list[int] = []
    inbox = Inbox(lambda: rung.append(1))
    for event in events:
        inbox.post(event)
    assert len(rung) == bool(events)
    taken = inbox.pop_all()
    assert taken == events
    inbox.put_back(taken[cut:])
    inbox.post(typed("x"))
    said = inbox.pop_said()
    assert said == [event.text for event in events[cut:] if isinstance(event, Said)]
    inbox.drop(Leave)
    rest = [event for event in events[cut:] if not isinstance(event, (Said, Leave))]
    assert inbox.pop_all() == [*rest, Key("x", "x")]
