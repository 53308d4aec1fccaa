"""Events that came in one burst: some are handled later than others, when more is drawn, or by what opens.

What handles one of them may open a question with a loop of its own, for which the others are: it lays them down first.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Mouse
from wesperon.terminal.alarm import Alarm
from wesperon.terminal.inbox import Said

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections import deque
    from collections.abc import Callable, Iterable
    from typing import Any

    from wesperon.terminal.device import Device
    from wesperon.terminal.inbox import Inbox


def handle_all(driver: Device, came: list[Any], handle: Callable[[Any], bool]) -> None:
    """Handle the events of a turn until ``handle`` returns True; all that was said is shown first, at once."""
    inbox = driver.inbox
    inbox.came, hand = came, inbox.hand
    said = [event.text for event in came if event.__class__ is Said]
    if said:
        driver.show(said)
    hand.extend([event for event in came if event.__class__ is not Said])
    while hand:
        if handle(hand.popleft()):
            break
    lay_down(inbox)


def with_alarm(events: list[Any]) -> list[Any]:
    """Return events before which the widget is to look at what has come from elsewhere."""
    return events if not events or events[0].__class__ is Alarm else [Alarm(), *events]


def lay_down(inbox: Inbox, *, is_elsewhere: bool = False) -> None:
    """Put back what is in hand, and have the rest of what came written down.

    If it is for something that opens now, clicks are lost: they were made on what was to be seen before.
    """
    hand, came = inbox.hand, inbox.came
    inbox.came = []
    if inbox.tap is not None:
        inbox.tap(handled(came, len(hand)))
    if hand:
        inbox.put_back(without_clicks(hand) if is_elsewhere else hand)
        hand.clear()


def handled(came: list[Any], left: int) -> list[Any]:
    """Return the events without the last ones that are not handled yet; all that was said is shown at once."""
    count = sum([event.__class__ is not Said for event in came]) - left
    kept: list[Any] = []
    for event in came:
        is_said = event.__class__ is Said
        if is_said or count > 0:
            kept.append(event)
            count -= not is_said
    return kept


def without_clicks(events: Iterable[Any]) -> list[Any]:
    """Return the events without clicks, which were made on something else than what is to be seen when they come."""
    return [event for event in events if event.__class__ is not Mouse or event.action != "press"]


def aim_all(hand: deque[Any], aimed: Callable[[Mouse], Mouse]) -> None:
    """Have clicks that wait until more is drawn hit what is to be seen now; ``aimed`` gives each with that."""
    for _ in range(len(hand)):
        event = hand.popleft()
        if event.__class__ is Mouse:
            event = aimed(event)
            if event.hit is None and event.action == "press":
                continue  # it hit nothing
        hand.append(event)
