"""Questions of other threads, asked in dialogs of the screen that has the terminal: the thread waits for its answer."""

from __future__ import annotations

import threading

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Awaitable, Callable
    from typing import Any, Protocol

    class Running(Protocol):
        """The screen."""

        is_async: bool
        #: The questions of other threads that are not answered yet.
        questions: set[Any]

        def call_soon(self, function: Callable[[], Any]) -> None:
            """Have a function called in the thread of the screen."""


class Question:
    """A question that a thread waits for; ``left`` is raised there if the screen ends before it is answered."""

    def __init__(self, left: Exception | None) -> None:
        self.answer: Any = None
        self.error: BaseException | None = left
        self.is_done = threading.Event()

    def close(self, answer: Any, error: BaseException | None) -> None:
        """Have the thread go on with an answer, or an error."""
        self.answer, self.error = answer, error
        self.is_done.set()


def asked(
    screen: Running, ask: Callable[[], Any], ask_async: Callable[[], Awaitable[Any]], left: Exception | None
) -> Any:
    """Ask in the thread of a screen; return the answer in this one, or raise what has come of it.

    ``ask_async`` asks inside an event loop. ``left`` is raised if the screen ends before there is an answer; if it is
    None, the answer is None.
    """
    question = Question(left)

    def begin() -> Any:
        if screen.is_async:
            return begin_async()
        try:
            question.close(ask(), None)
        except Exception as error:
            question.close(None, error)
        except BaseException:  # the screen is to end: the question is left
            question.close(None, left)
            raise
        return None

    async def begin_async() -> None:
        try:
            question.close(await ask_async(), None)
        except Exception as error:
            question.close(None, error)
        except BaseException:  # the screen is to end: the question is left
            question.close(None, left)
            raise

    screen.questions.add(question)
    screen.call_soon(begin)
    question.is_done.wait()
    screen.questions.discard(question)
    if question.error is not None:
        raise question.error
    return question.answer
