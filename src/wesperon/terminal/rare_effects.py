"""What a driver does for a widget so rarely that few runs load it: pages over it, the user's editor, the clipboard."""

from __future__ import annotations

from binascii import b2a_base64

from wesperon.screen.ecma48 import OSC, ST
from wesperon.values import Complaint
from wesperon.widgets.history_page import HistoryPage
from wesperon.widgets.widget import COPY, HISTORY, Answered, Ended

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Generator
    from typing import Any

    from wesperon.terminal.device import Device
    from wesperon.terminal.preferred import DriverOptions
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


def edit_outside(driver: Device, widget: Widget) -> None:
    """Edit the text of the widget in the user's own editor."""
    columns, _ = driver.size()
    text: str | Complaint
    driver.screen.hide(columns)
    try:
        text = driver.edit_outside(widget.text, widget.syntax or "")
    except Complaint as complaint:
        text = complaint
    driver.screen.start(columns)
    widget.returned(text)


def show_preferences(
    driver: Device, widget: Widget, options: DriverOptions, steps: Callable[[Widget], Generator[None, list[Any], None]]
) -> Generator[None, list[Any], None]:
    """Open the page of preferences over the widget, until it is left; ``steps`` runs it."""
    driver.screen.hide(driver.size()[0])
    page: Any = driver.preferences_page(options)
    page.is_full_screen = widget.is_full_screen  # what is on the main screen stays there
    yield from steps(page)
    if widget.is_full_screen:
        driver.screen.start(driver.size()[0])
    driver.apply_preferences(page.outcome)
    if isinstance(page.outcome, Ended):  # so does what is below it
        driver.end_widget()
