"""The one way in: everything that a driver learns comes as an event through its inbox, in the order in which it came.

Keys, pastes, the mouse and sizes come from the terminal (``editing.keys.events``). The others are below: what is said
by other threads, what has come from a growing list, signals, and time itself. So a run is the list of its events: it
can be written down (:attr:`Inbox.tap`) and played again by a driver without a terminal.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Key, Paste
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections import deque
    from collections.abc import Callable, Iterable
    from typing import Any
else:
    from _collections import deque  # all of collections would be the costliest import before the first question

#: More lines than these wait to be shown: who says more waits for a moment, so that memory stays bounded.
MOST_WAITING = 2_000


class Said(Frozen):
    """Lines to be shown above the widget; each is safe to show."""

    text: str


class Grown(Frozen):
    """A source of the widget has more: by now ``count`` items; ``number`` is its place among the sources."""

    number: int
    count: int


class Failed(Frozen):
    """An ``error`` to be raised by the question: a source has failed, or a handler of the program has raised it."""

    error: Any


class Pause(Frozen):
    """No key has come for a moment."""


class TimeLeft(Frozen):
    """The question ends soon if nobody answers: in so many ``seconds``."""

    seconds: int


class TimeOut(Frozen):
    """Nobody has answered in time."""


class Interrupt(Frozen):
    """The signal SIGINT has come."""


class Leave(Frozen):
    """The widget that is open is to end, as if the terminal were gone."""


class Stop(Frozen):
    """The process is to stop; ``only_self``: not the others of its group."""

    only_self: bool


class Continued(Frozen):
    """The process has gone on after it was stopped by another one."""


class Inbox:
    """Events that wait for the loop; ``ring`` ends its wait.

    Any thread may post, and a handler of a signal: nothing here takes a lock.
    """

    def __init__(self, ring: Callable[[], object]) -> None:
        self.ring = ring
        #: Called with all events that the loop takes, if somebody writes them down.
        self.tap: Callable[[list[Any]], object] | None = None
        self._events: deque[Any] = deque()
        #: What a loop has taken in this turn, and what of it is not handled yet (``terminal.bursts``).
        self.came: list[Any] = []
        self.hand: deque[Any] = deque()
        #: What was said and is not certainly on the terminal, though the event may have been taken by now.
        self.unshown: deque[str] = deque(maxlen=MOST_WAITING)

    def __bool__(self) -> bool:
        return bool(self._events)

    @property
    def has_room(self) -> bool:
        """Whether so few events wait that more may come."""
        return len(self._events) <= MOST_WAITING

    def post(self, event: Any) -> None:
        """Put an event in; who waits for some goes on."""
        if event.__class__ is Said:
            self.unshown.append(event.text)
        is_first = not self._events
        self._events.append(event)
        if is_first:
            self.ring()

    def note_shown(self, count: int) -> None:
        """Take note that the first texts that were said are on the terminal; it is called once they are out."""
        for _ in range(min(count, len(self.unshown))):
            self.unshown.popleft()

    def put_back(self, events: Iterable[Any]) -> None:
        """Put events in before all others: they were taken too early."""
        self._events.extendleft(reversed([*events]))

    def pop_all(self) -> list[Any]:
        """Return all events that wait."""
        taken = []
        while self._events:
            taken.append(self._events.popleft())
        return taken

    def pop_said(self) -> list[str]:
        """Return the texts of all that was said, taken out; the other events stay in their order."""
        others, said = [], []
        for event in self.pop_all():
            if isinstance(event, Said):
                said.append(event.text)
            else:
                others.append(event)
        self.put_back(others)
        return said

    def pop_typed(self) -> list[Any]:
        """Return the keys and pastes that wait, taken out; the other events stay in their order."""
        others: list[Any] = []
        typed: list[Any] = []
        for event in self.pop_all():
            (typed if isinstance(event, (Key, Paste)) else others).append(event)
        self.put_back(others)
        return typed

    def drop(self, kind: type[Any]) -> None:
        """Take out all events of a kind."""
        self.put_back([event for event in self.pop_all() if not isinstance(event, kind)])
