"""What a driver does for a widget so rarely that few runs load it: the page of the history, and the clipboard."""

from __future__ import annotations

from binascii import b2a_base64

from wesperon.screen.ecma48 import OSC, ST
from wesperon.widgets.history_page import HistoryPage
from wesperon.widgets.widget import COPY, HISTORY, Answered, Ended

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Generator
    from typing import Any

    from wesperon.terminal.device import Device
    from wesperon.widgets.widget import Widget

#: The number of the operating system command that sets the clipboard: beyond the standard, terminals share it.
CLIPBOARD = 52


def copy(device: Device, widget: Widget) -> None:
    """Put the text that a widget has copied on the clipboard of the terminal, in base64 (RFC 4648)."""
    data = b2a_base64(widget.about(COPY).encode("utf-8", "replace"), newline=False).decode()
    with device.screen.lock:
        device.send(f"{OSC}{CLIPBOARD};c;{data}{ST}")


def show_history(
    device: Device, widget: Widget, run: Callable[[Widget], Generator[None, list[Any], None]]
) -> Generator[None, list[Any], None]:
    """Open the page of the history over a widget, until it is left; what was put together is in the widget.

    ``run`` runs another widget.
    """
    past, write = widget.about(HISTORY)
    page = HistoryPage(past, write=write)
    device.screen.hide(device.size()[0])
    yield from run(page)
    outcome = page.outcome
    if isinstance(outcome, Answered) and outcome.value.text:
        widget.returned(outcome.value.text)
    elif isinstance(outcome, Ended):  # so does what is below it
        device.end_widget()
