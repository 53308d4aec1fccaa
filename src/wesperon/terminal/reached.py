"""The driver for who asks: that of the context, or one on the controlling terminal, which is closed afterwards."""

from __future__ import annotations

from contextlib import contextmanager

from wesperon.context import current
from wesperon.frozen import later
from wesperon.terminal import tty_driver

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator

    from wesperon.terminal import asyncio_driver
    from wesperon.terminal.driver import Driver
else:
    asyncio_driver = later("wesperon.terminal.asyncio_driver")


def reach(program: str, *, is_async: bool) -> Driver | None:
    """Return a new driver on the controlling terminal, which the caller closes; None if nobody is there.

    ``program`` is the name under which its user may prefer something; ``is_async``: it is used inside an event loop.
    """
    if is_async:
        return asyncio_driver.reach(program)
    return tty_driver.reach(program)


@contextmanager
def driver_at_hand(program: str, *, is_async: bool = False) -> Iterator[Driver | None]:
    """Give the driver of the context, else one that is reached, and closed at the end; None if nobody is there."""
    given: Driver | None = current().driver
    if given is not None:
        yield given
        return
    driver = reach(program, is_async=is_async)
    try:
        yield driver
    finally:
        if driver is not None:
            driver.close()
