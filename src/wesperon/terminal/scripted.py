"""The scripted driver: events from a list, frames kept in memory. No terminal is needed."""

from __future__ import annotations

from wesperon.editing.keys.bindings import read_keys
from wesperon.editing.keys.events import Closed, Key, Resize, typed
from wesperon.frozen import Frozen, later
from wesperon.screen.theme import UNCOLOURED
from wesperon.terminal.alarm import Alarm
from wesperon.terminal.driver import Driver
from wesperon.terminal.elsewhere import give_turns

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Iterable, Sequence
    from typing import Any

    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Frame
else:
    asyncio = later("asyncio")


class Press(Frozen):
    """A key in a script: ``Press("down", 5)``. ``name`` is its name, ``times`` how often it is pressed.

    Example:
        >>> class Plan(Form):
        ...     target = slot(one_of(["Lantern", "Thimble", "Wicker"]))
        >>> Plan.fill([], driver=Scripted([Press("down", 2), Press("enter")])).target
        'Wicker'

    """

    name: str
    times: int = 1


class Scripted(Driver):
    """Runs widgets on a list of events.

    ``script`` is the list; ``columns`` and ``rows`` are the size of the terminal. Each step comes in one piece: a
    ``str`` is typed, ``Press`` is a key, ``Paste`` and ``Resize`` are events, and so is a list of them, as
    ``Driver.inbox.tap`` gets them: a run that was written down is played again. After the last step the terminal is
    gone, as if it had been closed. ``frames`` holds what was shown as text, each frame that differs from the one before
    it, ``views`` the frames themselves; ``said`` holds the lines shown above the questions; ``sent`` is what a terminal
    would have got.

    Example:
        >>> class Plan(Form):
        ...     frames = slot(int, low=1)
        >>> driver = Scripted(["3", Press("enter")])
        >>> Plan.fill([], driver=driver).frames
        3
        >>> print(driver.frames[0])
          frames
          Enter: accept   Up Down: change   Ctrl-C: stop   a whole number, 1 or more

    """

    def __init__(
        self, script: Iterable[str | Press | Event | Sequence[Any]] = (), *, columns: int = 80, rows: int = 24
    ) -> None:
        super().__init__(UNCOLOURED, 0)
        self.columns, self.rows = columns, rows
        self.script = [_events(step) for step in script]
        self.frames: list[str] = []
        self.views: list[Frame] = []
        self.said: list[str] = []
        self.sent: list[str] = []

    def size(self) -> tuple[int, int]:
        """Return the size that the script has set."""
        return self.columns, self.rows

    def wait(self) -> list[Any]:
        """Return the events of the next step."""
        if self.inbox:
            return self.inbox.pop_all()
        has_news = self.woken is not None and self.woken.has_news
        if has_news or ((alarm := self.alarm) is not None and self.clock.monotonic() >= alarm):
            return [Alarm()]
        if not self.script:
            return [Closed()]
        events = self.script.pop(0)
        for event in events:
            if isinstance(event, Resize):
                self.columns, self.rows = event.columns, event.rows
        return events

    async def events(self) -> list[Any]:
        """Return the events of the next step, after turns of the other tasks, since it may be for what they open."""
        await give_turns()
        has_ended = self.woken is not None and self.woken.outcome is not None
        return [] if has_ended else self.wait()

    def send(self, text: str) -> None:
        """Keep ``text``, what a terminal would have got."""
        if text:
            self.sent.append(text)

    def say(self, text: str) -> None:
        """Keep the lines of ``text``, and show them."""
        self.said += text.split("\n")
        super().say(text)

    def look_at(self, frame: Frame) -> None:
        """Keep ``frame``, unless it looks like the last one."""
        text = frame.text()
        if not self.frames or self.frames[-1] != text:
            self.frames.append(text)
            self.views.append(frame)


def _events(step: str | Press | Event | Sequence[Any]) -> list[Event]:
    if isinstance(step, str):
        return [typed(char) for char in step]
    if isinstance(step, (list, tuple)):
        return [*step]
    return [key_named(step.name)] * step.times if isinstance(step, Press) else [step]  # type: ignore[list-item]


def key_named(name: str) -> Key:
    """Return the key of a name, as a terminal would send it; raises ValueError for a name that no key has."""
    key, fault = read_keys(name, types=False) if name != " " else ("space", "")
    if fault or " " in key:
        raise ValueError(fault or f"{name!r} is more than one key")
    return typed(" " if key == "space" else key) if len(key) == 1 or key == "space" else Key(key)
