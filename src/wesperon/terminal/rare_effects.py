"""What a driver does for a widget so rarely that few runs load it: the page of the history, and the clipboard."""

from __future__ import annotations

from binascii import b2a_base64

from wesperon.screen.ecma48 import OSC, ST
from wesperon.widgets.history_page import HistoryPage
from wesperon.widgets.widget import COPY, HISTORY, Answered, Ended

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Generator
    from typing import Any

    from wesperon.terminal.driver import Loop

#: The number of the operating system command that sets the clipboard: beyond the standard, terminals share it.
CLIPBOARD = 52


def copy(loop: Loop) -> None:
    """Put the text that a widget has copied on the clipboard of the terminal, in base64 (RFC 4648)."""
    data = b2a_base64(loop.widget.about(COPY).encode("utf-8", "replace"), newline=False).decode()
    with loop.screen.lock:
        loop.driver.send(f"{OSC}{CLIPBOARD};c;{data}{ST}")


def show_history(loop: Loop) -> Generator[None, list[Any], None]:
    """Open the page of the history over a widget, until it is left; what was put together is in the widget."""
    driver, widget = loop.driver, loop.widget
    past, write = widget.about(HISTORY)
    page = HistoryPage(past, write=write)
    loop.screen.hide(driver.size()[0])
    yield from loop.__class__(driver, page, loop.options).steps()
    outcome = page.outcome
    if isinstance(outcome, Answered) and outcome.value.text:
        widget.returned(outcome.value.text)
    elif isinstance(outcome, Ended):  # so does what is below it
        driver.end_widget()
