"""A screen while it runs: what is shown from other threads, functions of the program, time, and dialogs.

Everything happens in the thread of the screen: what others want comes through a queue, and an alarm of the driver
(``Widget.wakes_at``) has it looked at, thirty times a second at most. A function of the program that opens a dialog
waits for it: meanwhile the events of the screen are handled by a loop of its own (``until``).
"""

from __future__ import annotations

import _thread
import time
from collections import deque
from contextlib import contextmanager
from functools import partial
from heapq import heappop, heappush
from itertools import count

from wesperon.context import current
from wesperon.editing.keys.events import Closed
from wesperon.frozen import later
from wesperon.scope import within
from wesperon.screens.field import Field
from wesperon.screens.inside import Inside
from wesperon.system.interrupts import interruptible
from wesperon.terminal.alarm import Alarm
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import MISSING, Complaint
from wesperon.values.problems import Problems, Refusal
from wesperon.widgets.delegate import Delegate
from wesperon.widgets.parts.boxes import Across, Down
from wesperon.widgets.parts.message_view import MessageView
from wesperon.widgets.parts.screen_widget import ScreenWidget, letters_of
from wesperon.widgets.parts.simple_parts import Button
from wesperon.widgets.widget import Answered, Ended, Interrupted, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable, Iterator
    from typing import Any

    from wesperon.editing.keys.events import Event
    from wesperon.screens import faults, from_threads
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.widgets.parts.levels import Level
    from wesperon.widgets.parts.part import Part
    from wesperon.widgets.parts.table import Column, Table
    from wesperon.widgets.widget import Outcome
else:
    asyncio = later("asyncio")
    faults = later("wesperon.screens.faults")
    from_threads = later("wesperon.screens.from_threads")

#: The least seconds between two frames that nobody has pressed a key for.
FRAME = 1 / 30
#: So many messages and numbers may wait to be shown.
MOST_WAITING = 2_000


class Timer:
    """A function to be called at a point in time; ``cancel`` has it not called."""

    def __init__(self, at: float, function: Callable[[], Any]) -> None:
        self.at, self.function = at, function
        self.is_cancelled = False

    def cancel(self) -> None:
        """Have it not called."""
        self.is_cancelled = True


class Running(ScreenWidget):
    """Runs a screen on a ``driver``; its outcome is the result of the screen."""

    acts = True

    def __init__(self, content: Part, driver: Driver, options: DriverOptions, **settings: Any) -> None:
        self.driver, self.options = driver, options
        #: Where functions of the program are called: what they ask is asked on the same terminal.
        self.context = current().derive(driver=driver)
        self.thread = _thread.get_ident()
        self._given: deque[tuple[Part, tuple[Any, ...]]] = deque()
        #: What is to be shown by parts that show one thing at a time: only the last of it matters.
        self._latest: dict[Part, tuple[Any, ...]] = {}
        self._calls: deque[Callable[[], Any]] = deque()
        #: What is to be called later: when, a number of its own, and what; what is due first is first (``heapq``).
        self._timers: list[tuple[float, int, Timer]] = []
        self._numbers = count()
        self._is_due = False
        #: Whether an event is being handled, after which everything is drawn.
        self._handles = False
        self._drawn_at = 0.0
        self._fails = False
        #: Whether an error ends the screen at once.
        self.raises = False
        #: What a function of the program has raised, to be raised once the screen has ended.
        self.failure: BaseException | None = None
        self._letters: dict[Part, str] = {}
        #: What was printed since each of the commands that run began, where no part shows that.
        self._printed: list[list[str]] = []
        #: Whether it runs inside an event loop, whose other tasks are to go on.
        self.is_async = False
        #: Coroutines of the program that run beside it.
        self.tasks: set[Any] = set()
        #: Questions of other threads that are not answered yet.
        self.questions: set[Any] = set()
        super().__init__(content, **settings)

    # Host ------------------------------------------------------------------------------------------------------------

    @property
    def is_here(self) -> bool:
        """Whether this is the thread of the screen."""
        return _thread.get_ident() == self.thread

    @property
    def lends(self) -> bool:
        """Whether what is asked here, though no function of the screen asks it, is asked in a dialog: by a task."""
        return self.is_async and self.is_here

    def ask_for(
        self,
        ask: Callable[..., Any],
        ask_async: Callable[..., Any],
        *given: Any,
        left: Exception | None = None,
        **named: Any,
    ) -> Any:
        """Call one of these in the thread of the screen, for another one, which waits; see ``from_threads.asked``."""
        return from_threads.asked(self, partial(ask, *given, **named), partial(ask_async, *given, **named), left)

    def deliver(self, part: Part, given: tuple[Any, ...]) -> None:
        """See ``Host``."""
        if self.is_here:
            part.receive(*given)
            self.touch(part)
        else:
            if part.adds:
                while len(self._given) > MOST_WAITING and self.outcome is None:
                    time.sleep(FRAME)  # who says more than can be shown waits, so that memory stays bounded
                self._given.append((part, given))
            else:
                self._latest[part] = given
            self.nudge()

    def touch(self, part: Part) -> None:
        """See ``Host``."""
        if self.is_here:
            self._relayout(part)
        self._note_change()

    def note_failed(self, error: Exception) -> None:
        """See ``Host``; it is shown once the screen is drawn."""
        self.call_soon(lambda: self.fail(error))

    def _note_change(self) -> None:
        """Have the screen drawn again, unless an event is being handled, after which it is drawn anyway."""
        if not (self.is_here and self._handles):
            self.nudge()

    def open(self, content: Part, title: str = "") -> Level:
        """See ``ScreenWidget``; also from a task."""
        level = super().open(content, title)
        self._note_change()
        return level

    def close_level(self, level: Level, result: Any = None) -> None:
        """See ``ScreenWidget``; also from a task."""
        super().close_level(level, result)
        self._note_change()

    def letter_of(self, part: Part) -> str:
        """See ``Host``."""
        return self._letters.get(part, "")

    def adopt(self, part: Part) -> None:
        """See ``Host``."""
        self._letters.update(letters_of(self.top.content))
        super()._join(self.top)
        for level in self.levels:
            level.arrangement.forget()

    def go_on(self, part: Part) -> None:
        """See ``Host``."""
        if part is self.focused:
            self.enter()

    def in_its_thread(self, function: Callable[[], Any]) -> None:
        """See ``Host``."""
        if self.is_here:
            function()
        else:
            self.call_soon(function)

    def _relayout(self, part: Part) -> None:
        """Compute the places again: the part may want another size."""
        for level in self.levels:
            level.arrangement.reconsider(part)

    def call_soon(self, function: Callable[[], Any]) -> None:
        """Have a function called in the thread of the screen; from any thread."""
        self._calls.append(function)
        self.nudge()

    def nudge(self) -> None:
        """Have the screen look at what has come; from any thread."""
        if not self._is_due:
            self._is_due = True
            self.driver.wake()

    @property
    def has_news(self) -> bool:  # type: ignore[override]
        """See ``Widget``."""
        return self._is_due or (bool(self._timers) and self._timers[0][0] <= self.driver.clock.monotonic())

    @property
    def wakes_at(self) -> float | None:
        """See ``Widget``."""
        at = self._timers[0][0] if self._timers else None
        if self._is_due:
            soon = self._drawn_at + FRAME
            return soon if at is None else min(at, soon)
        return at

    # Events ----------------------------------------------------------------------------------------------------------

    def handle(self, event: Event) -> None:
        """Take one event, and what has come from elsewhere."""
        handled, self._handles = self._handles, True
        try:
            self._receive_shown()
            if isinstance(event, Alarm):
                self._is_due = False
                self._call_all()
                self._run_timers()
                self.top.arrangement.heed()
            else:
                super().handle(event)
        except Exception as error:  # a check, a kind or a list of the program has raised it
            self.fail(error)
        finally:
            self._handles = handled
        if self.top.arrangement.laid is None:
            self.gives_way = True  # the next key may depend on places, which are computed when it is drawn

    def _call_all(self) -> None:
        """Call what is to be called in the thread of the screen.

        Only at an alarm, which is no key: what is called may open a dialog, and a key that waits meanwhile is for that.
        """
        for _ in range(len(self._calls)):
            if self._calls:
                self.call(self._calls.popleft())

    def _receive_shown(self) -> None:
        """Take what other threads want shown."""
        # No more than is there by now: others may go on. What is called may open a dialog, which takes the rest.
        for _ in range(len(self._latest) + len(self._given)):
            if self._latest:
                part, given = self._latest.popitem()
            elif self._given:
                part, given = self._given.popleft()
            else:
                break
            self.call(part.receive, *given)
            self._relayout(part)

    def _run_timers(self) -> None:
        now = self.driver.clock.monotonic()
        while self._timers and self._timers[0][0] <= now:
            _, _, timer = heappop(self._timers)
            if not timer.is_cancelled:
                self.call(timer.function)

    def drawn(self) -> None:
        """See ``Widget``."""
        super().drawn()
        self._drawn_at = self.driver.clock.monotonic()

    def _join(self, level: Level) -> None:
        level.content.attach(self)
        self._letters.update(letters_of(level.content))
        super()._join(level)

    @interruptible
    def call(self, function: Callable[..., Any], *given: Any) -> None:
        """Call a function of the program; what it raises is shown."""
        try:
            with within(self.context):
                result = function(*given)
                if result is not None and hasattr(result, "__await__"):
                    faults.start(self, result, function)
                else:
                    faults.refuse_given(result, function)
        except (KeyboardInterrupt, SystemExit, GeneratorExit):
            raise
        except Exception as error:
            self.fail(error)

    def watch(self, act: Callable[[Any], object]) -> None:
        """Call what may take its time: the user is told then, and may stop it."""
        self.driver.guarded(self, None, act)

    def fail(self, error: Exception) -> None:
        """Show what a function of the program has raised; the user goes on, or ends the screen.

        Where the screen is that of a form it ends, and raises it as the card does.
        """
        if self.raises:
            self.failure = error
            self.end_with(Ended())
        elif isinstance(error, Problems) and all(one.missing for one in error):  # the user has left a question of it
            self.said = tell("left without an answer")
        elif isinstance(error, Refusal) and not str(error):
            return
        elif not self._fails:  # the part that loses the focus to the dialog may fail once more
            self._fails = True
            try:
                faults.show(self, error)
            finally:
                self._fails = False

    def stop_for(self, error: BaseException) -> None:
        """End the screen for an interrupt, or the end of the program, and raise it then."""
        if isinstance(error, KeyboardInterrupt):
            self.end_with(Interrupted())
        else:
            self.failure = error
            self.end_with(Ended())

    def end_with(self, outcome: Outcome) -> None:
        """End the screen."""
        self.outcome = outcome
        self._note_change()

    def hear(self, said: list[str]) -> None:
        """Show what was printed in the first part for messages, if there is one; from the thread that draws."""
        view = next((part for part in self.levels[0].content.leaves() if isinstance(part, MessageView)), None)
        if view is not None:
            view.show("\n".join(said))
        elif self._printed:
            self._printed[-1] += said

    @contextmanager
    def keeping_printed(self) -> Iterator[list[str]]:
        """Keep the lines that the program prints meanwhile, if no part shows messages."""
        printed: list[str] = []
        self._printed.append(printed)
        try:
            yield printed
            self.driver.show_said()
        finally:
            self._printed = [kept for kept in self._printed if kept is not printed]

    # Dialogs ---------------------------------------------------------------------------------------------------------

    def until(self, level: Level) -> Any:
        """Handle events until a dialog is closed; its result. Raises KeyboardInterrupt for Ctrl-C."""
        self.driver.run(Until(self, level), self.options)
        if not self._handles:  # a task has asked, and the loop around it knows nothing of what has come meanwhile
            self._is_due = True
            self.driver.wake()
        if isinstance(self.outcome, Interrupted):
            raise KeyboardInterrupt
        return level.result

    def add_timer(self, timer: Timer) -> None:
        """Have a function called at a point in time; from any thread."""
        heappush(self._timers, (timer.at, next(self._numbers), timer))
        if not (self.is_here and self._handles):
            self.driver.wake()

    def let_go(self) -> None:
        """Let everything go: the screen has ended."""
        for level in self.levels:
            level.content.attach(None)
        self._receive_shown()  # what came last is drawn no more, and is the value of its part
        for task in [*self.tasks]:
            task.cancel()
        for question in [*self.questions]:
            question.close(None, question.error)
        for level in self.levels:  # a task that the screen has not begun goes on: nobody has answered it
            if level.on_close is not None:
                level.on_close()

    @contextmanager
    def set_aside(self) -> Iterator[None]:
        """Give the terminal to somebody else for a while."""
        driver = self.driver
        driver.screen.hide(driver.size()[0])
        driver.is_aside = True
        driver.seat.lend(driver)
        try:
            yield
        finally:
            driver.seat.take_back(driver)
            driver.is_aside = False
            driver.screen.start(driver.size()[0])

    def is_over(self, widget: Widget) -> bool:
        """Return True if a widget is to be shown over the screen: the screen, or what it has called, asks for it."""
        return self.is_here and widget is not self and not widget.shares_screen and not widget.is_full_screen

    def run_over(self, widget: Widget) -> Outcome:
        """Run a question of the program in a dialog; return how it has ended."""
        level = self._opened_over(widget)
        self.until(level)
        return _ended(widget, level)

    async def answer_over(self, widget: Widget) -> Outcome:
        """Run a question of a task in a dialog, while the screen goes on."""
        level = self._opened_over(widget)
        closed: asyncio.Future[None] = asyncio.get_running_loop().create_future()

        def go_on() -> None:
            self.gives_way = True  # what the task does now may be what the next key is for
            if not closed.done():
                closed.set_result(None)

        level.on_close = go_on
        self.nudge()
        try:
            await closed
        finally:
            self.close_level(level)
        return _ended(widget, level)

    def _opened_over(self, widget: Widget) -> Level:
        if isinstance(widget, Dialog):
            widget.level = widget.opens()
            return widget.level
        inside = Inside(widget)
        level = self.open(inside)
        inside.close = lambda: self.close_level(level)
        return level

    def close_top(self, result: Any = None) -> None:
        """Close the topmost dialog with a result."""
        if len(self.levels) > 1:
            self.close_level(self.top, result)

    def edit_cell(self, table: Table, index: int, row: Any, column: Column) -> None:
        """See ``Host``."""
        value = table.cell(row, column)
        is_empty = value is None or (isinstance(value, str) and not value)
        try:
            field = Field(column.slot, label=column.heading, value=MISSING if is_empty else value)
        except Complaint as complaint:  # what the data have is wrong, and is there to be mended
            field = Field(column.slot, label=column.heading)
            field.begin_with(visible(str(value)), complaint)

        def accept() -> None:
            if field.check() is None:
                table.set_cell(index, row, column, field.value)  # what was typed stays if that fails
                self.close_level(level)
                table.changed()

        level = self.open(Down(field, Across(Button(tell("Change"), accept, default=True))))

    def finish(self, result: Any) -> None:
        """End the screen with a result."""
        self.end_with(Answered(result))


class Dialog(Widget):
    """A dialog of the screen as something to be asked for, so that a task can wait for it as well; ``opens`` opens it.

    Its outcome is the result that the dialog is closed with.
    """

    def __init__(self, opens: Callable[[], Level]) -> None:
        super().__init__()
        self.opens = opens
        self.level: Level | None = None

    def handle(self, event: Event) -> None:
        """See ``Widget``: nothing comes to it but that it is closed."""
        result = self.level.result if self.level is not None else None
        self.outcome = Ended() if result is None else Answered(result)


def _ended(widget: Widget, level: Level) -> Outcome:
    """Return how a question has ended; one whose dialog was left has no answer. Raises what a function of it has."""
    failure = getattr(level.content, "failure", None)
    if failure is not None:
        raise failure
    if widget.outcome is None:
        widget.press(Closed())
    return widget.outcome or Ended()


class Until(Delegate):
    """The same screen, until one of its dialogs is closed; it is drawn where it is drawn already."""

    is_full_screen = shares_screen = acts = True

    def __init__(self, screen: Running, level: Level) -> None:
        super().__init__(screen)
        self.screen, self.level = screen, level

    @property
    def outcome(self) -> Outcome | None:
        """How the screen has ended, or that the dialog has."""
        if self.screen.outcome is not None:
            return self.screen.outcome
        return Answered(None) if self.level.is_closed else None

    @outcome.setter
    def outcome(self, outcome: Outcome | None) -> None:
        self.screen.outcome = outcome

    @property
    def has_news(self) -> bool:  # type: ignore[override]
        """See ``Widget``."""
        return self.screen.has_news

    @property
    def gives_way(self) -> bool:
        """See ``Widget``."""
        return self.screen.gives_way

    @gives_way.setter
    def gives_way(self, gives_way: bool) -> None:
        self.screen.gives_way = gives_way
