"""The driver for who asks: that of the context, or one on the controlling terminal, which is closed afterwards."""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import later
from wesperon.terminal import tty_driver

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.terminal import asyncio_driver
    from wesperon.terminal.driver import Driver
else:
    asyncio_driver = later("wesperon.terminal.asyncio_driver")


class DriverAtHand:
    """Give the driver of the context, else one that is reached, and closed at the end; None if nobody is there.

    A class, since all of ``contextlib`` would be costly before the first question.
    """

    def __init__(self, program: str, *, is_async: bool = False) -> None:
        self.program, self.is_async = program, is_async
        self._own: Driver | None = None

    def __enter__(self) -> Driver | None:
        given: Driver | None = current().driver
        if given is None:
            given = self._own = (asyncio_driver if self.is_async else tty_driver).reach(self.program)
        return given

    def __exit__(self, *raised: object) -> None:
        own, self._own = self._own, None
        if own is not None:
            own.close()
