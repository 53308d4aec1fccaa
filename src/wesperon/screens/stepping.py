"""A coroutine of the program, run step by step: each of them is watched as a function that a key has called."""

from __future__ import annotations

from wesperon.system.interrupts import interruptible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Generator
    from typing import Any, Protocol

    class Watching(Protocol):
        """The screen that runs (``screens.running.Running``)."""

        def watch(self, act: Callable[[Any], object]) -> None:
            """Call what may take its time: the user is told then, and may stop it."""


class Stepped:
    """Awaits ``waiting`` for a ``screen``; the result is None if the user has stopped a step of it."""

    def __init__(self, screen: Watching, waiting: Any) -> None:
        self.screen = screen
        self._steps: Any = waiting.__await__()
        #: What the last step has given: a future to wait for, or, as its end, the result.
        self._given: list[Any] = []
        self._result: Any = None

    def __await__(self) -> Generator[Any, Any, Any]:
        step: Callable[[Any], object] = self._next
        while True:
            self._given.clear()
            self.screen.watch(step)
            if not self._given:  # it has ended, by itself or by the user
                return self._result
            try:
                yield self._given[0]
            except GeneratorExit:
                self._steps.close()
                raise
            except BaseException as error:  # the task is cancelled, or what it has waited for has failed
                step = self._thrower(error)
            else:
                step = self._next

    def _next(self, _: object) -> None:
        self._go(next)

    def _thrower(self, error: BaseException) -> Callable[[Any], None]:
        return lambda _: self._go(lambda steps: steps.throw(error))

    @interruptible
    def _go(self, step: Callable[[Any], Any]) -> None:
        """Take a step; the coroutine runs until it waits for something, or ends."""
        try:
            self._given.append(step(self._steps))
        except StopIteration as end:
            self._result = end.value
