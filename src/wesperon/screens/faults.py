"""What a function of the program has raised while a screen runs: shown in a dialog, whose trace is folded."""

from __future__ import annotations

import traceback

from wesperon.frozen import later
from wesperon.screens.stepping import Stepped
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.values.calls import refuse_result
from wesperon.values.problems import Problems, Refusal
from wesperon.widgets.parts.boxes import Across, Down
from wesperon.widgets.parts.simple_parts import Button, Label
from wesperon.widgets.widget import Ended

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable
    from types import TracebackType
    from typing import Any, Protocol

    from wesperon.widgets.parts.levels import Level
    from wesperon.widgets.parts.part import Part
    from wesperon.widgets.widget import Outcome

    class Running(Protocol):
        """The screen that runs (``screens.running.Running``)."""

        gives_way: bool
        failure: BaseException | None
        tasks: set[Any]

        def open(self, content: Part, title: str = "") -> Level:
            """Show a content in a dialog."""

        def close_level(self, level: Level, result: Any = None) -> None:
            """Take a dialog away."""

        def end_with(self, outcome: Outcome) -> None:
            """End the screen."""

        def fail(self, error: Exception) -> None:
            """Show what a function of the program has raised."""

        def stop_for(self, error: BaseException) -> None:
            """End the screen for an interrupt, or the end of the program, and raise it then."""

        def call_soon(self, function: Callable[[], Any]) -> None:
            """Have a function called in the thread of the screen."""

        def watch(self, act: Callable[[Any], object]) -> None:
            """Call what may take its time: the user is told then, and may stop it."""


else:
    asyncio = later("asyncio")

#: The most rows of a trace that are shown.
MOST_ROWS = 12


def refuse_given(result: object, function: Callable[..., Any]) -> None:
    """Raise DeclarationError if a function that was written for a screen gave a result, at which nobody looks.

    A lambda gives one whatever it is for, as in ``Button("About", lambda: show_message("hello"))``, and so may a
    function that was there before.
    """
    name = getattr(function, "__qualname__", "")
    if result is not None and hasattr(function, "__code__") and not name.endswith("<lambda>"):
        raise refuse_result(result, name, "Refusal")


def show(screen: Running, error: Exception) -> None:
    """Show an error in a dialog, from which the user goes on, or ends the screen, which raises it.

    What the program refuses, or says to be wrong with a value, is no failure: it is said, and nothing else.
    """
    if isinstance(error, Refusal | Complaint | Problems):
        ok = Button(tell("OK"), lambda: screen.close_level(level), default=True)
        level = screen.open(Down(Label(str(error), role="reason"), Label("", hide_below=1), Across(ok)))
        return
    trace = Label("")
    trace.hide(True)

    def unfold() -> None:
        trace.show("\n".join(trace_of(error)))
        trace.hide(not trace.is_hidden)

    def end() -> None:
        screen.failure = error
        screen.end_with(Ended())

    buttons = Across(
        Button(tell("Go on"), lambda: screen.close_level(level), default=True),
        Button(tell("Show where"), unfold),
        Button(tell("End"), end),
    )
    said = said_of(error)
    blank = Label("", hide_below=1)
    level = screen.open(Down(Label(said, role="reason"), trace, blank, buttons), tell("This has failed"))


def said_of(error: Exception) -> str:
    """Return what a function of the program has raised."""
    return visible(f"{type(error).__name__}: {error}" if str(error) else type(error).__name__)


def trace_of(error: Exception) -> list[str]:
    """Return the last lines of the trace of an error."""
    parts = traceback.format_exception(type(error), error, _trace(error))
    return [line for part in parts for line in part.rstrip().split("\n")][-MOST_ROWS:]


def _trace(error: Exception) -> TracebackType | None:
    """Return the trace of an error without the steps of the library to the program, unless there are no others."""
    trace = error.__traceback__
    while trace is not None and trace.tb_frame.f_globals.get("__name__", "").startswith("wesperon."):
        trace = trace.tb_next
    return error.__traceback__ if trace is None else trace


def loop_for(waiting: Any, function: Callable[..., Any]) -> asyncio.AbstractEventLoop:
    """Return the event loop for a coroutine of the program; where none runs, that is a fault of the program."""
    try:
        return asyncio.get_running_loop()
    except RuntimeError:
        waiting.close()
        name = getattr(function, "__qualname__", repr(function))
        raise TypeError(f"{name} is a coroutine function, and no event loop runs: use run_async()") from None


def start(screen: Running, waiting: Any, function: Callable[..., Any]) -> None:
    """Run a coroutine of the program beside the screen, which shows what it raises."""

    async def run() -> None:
        try:
            refuse_given(await Stepped(screen, waiting), function)
        except Exception as error:
            failed = error
            screen.call_soon(lambda: screen.fail(failed))
        except (KeyboardInterrupt, SystemExit) as error:  # which would else come out of the loop, past the screen
            stopped = error
            screen.call_soon(lambda: screen.stop_for(stopped))

    loop = loop_for(waiting, function)
    screen.gives_way = True
    screen.tasks.add(task := loop.create_task(run()))
    task.add_done_callback(screen.tasks.discard)
