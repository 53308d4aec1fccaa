"""Drivers: what runs a widget on its terminal until it has an outcome.

The loop shows the widget and gives it events; there is one for each widget that runs.

It is a generator that comes back where events are wanted and is sent them: who runs it waits in its own way, blocking
or inside an event loop, and everything else is the same. Each turn:

    draw       what was said, above; then the frame of the widget
    work       a slice of what the widget has to do without keys, as long as no event is there
    events     one after the other; those of the driver itself by the table ``MEANINGS``, all others by the widget

What the widget cannot do itself (an empty screen, the user's editor, the page of preferences) it returns as an effect,
and no further event is given to it until that is done.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Closed, Key, Mouse, Position, Resize
from wesperon.frozen import later
from wesperon.screen.frame import Frame
from wesperon.system.interrupts import interruptible, waiting
from wesperon.terminal.device import Device
from wesperon.terminal.inbox import (
    Continued,
    Failed,
    Grown,
    Interrupt,
    Leave,
    Pause,
    Said,
    Stop,
    TimeLeft,
    TimeOut,
)
from wesperon.widgets.widget import CLEAR_SCREEN, COPY, EDIT_OUTSIDE, HISTORY, PREFERENCES, Ended, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Generator
    from typing import Any

    from wesperon.screen import overlay
    from wesperon.terminal import bursts, elsewhere, rare_effects
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.widgets.widget import Effect, Outcome, Widget
else:
    bursts = later("wesperon.terminal.bursts")
    elsewhere = later("wesperon.terminal.elsewhere")
    overlay = later("wesperon.screen.overlay")
    rare_effects = later("wesperon.terminal.rare_effects")

#: How often it is shown how far background work is, in seconds.
SHOWN_EVERY = 0.1
#: The key that stops the process until SIGCONT.
SUSPEND = "ctrl-z"


class Driver(Device):
    """Runs widgets one after the other on one terminal, each with its options."""

    @waiting
    def run(self, widget: Widget, options: DriverOptions | None = None) -> Outcome:
        """Show the widget and give it events until it has an outcome; its record stays on the screen."""
        if self.stage is not None and self.stage.is_over(widget):
            return self.stage.run_over(widget)  # type: ignore[no-any-return]
        steps = self.steps(widget, options)
        try:
            next(steps)
            while True:
                steps.send(self.wait())
        except StopIteration:
            pass
        finally:
            steps.close()
        assert widget.outcome is not None
        return widget.outcome

    async def answer(self, widget: Widget, options: DriverOptions | None = None) -> Outcome:
        """Run the widget inside an event loop, in which other tasks go on meanwhile."""
        return await elsewhere.answer(self, widget, options)

    async def events(self) -> list[Any]:
        """Return the events that come next, as ``wait`` gives them.

        A driver that cannot wait in an event loop blocks.
        """
        return self.wait()

    async def turn_comes(self) -> None:
        """Wait inside an event loop until the terminal can be taken without blocking.

        Where a screen of this thread is about to begin, that asks in its dialogs once it has begun.
        """
        await elsewhere.turn_comes(self)

    def steps(self, widget: Widget, options: DriverOptions | None = None) -> Generator[None, list[Any], None]:
        """Run the widget; each turn comes where events are wanted, which are to be sent."""
        return Loop(self, widget, self.options if options is None else options).steps()


class Loop:
    """Runs one ``widget`` on a ``driver``."""

    def __init__(self, driver: Driver, widget: Widget, options: DriverOptions) -> None:
        self.driver = driver
        self.widget = widget
        self.options = options
        self.screen = driver.screen
        self.is_bound = False
        #: What the widget wanted at its last event, until it is done.
        self.wanted: Effect | None = None
        #: What was drawn last, in which a click is looked up.
        self._drawn = Frame(())
        self._fed: dict[int, int] = {}

    @waiting
    def steps(self) -> Generator[None, list[Any], None]:
        """Run the widget; each turn comes where events are wanted, which are to be sent."""
        driver, widget, screen, inbox = self.driver, self.widget, self.screen, self.driver.inbox
        is_echoed = False  # whether the screen shows already what the last event has changed
        self._prepare()
        is_nested, shares, woken_before = driver.depth > 0, widget.shares_screen, driver.woken
        if inbox.came:
            bursts.lay_down(inbox, is_elsewhere=True)  # what came with the key that opened this is for this
        if not shares:
            screen.begin(is_full=widget.is_full_screen)
        showed_work, driver.shows_work = driver.shows_work, widget.shows_work
        driver.begin_widget()
        try:
            with driver.opened(self.options):
                if widget.is_full_screen and not shares:
                    driver.fill_screen(is_nested=is_nested)
                while widget.outcome is None:
                    if not is_echoed:
                        self._draw()
                    if not self.is_bound:  # what only keys need is loaded once the question is there to read
                        driver.listen()
                        self._bind()
                        if widget.mode_label:  # known only now
                            continue
                    events: list[Any] = []
                    if not self._work():
                        if not is_echoed:
                            driver.await_pause(widget.wants_pause)
                        driver.woken = widget if widget.acts else None  # all others are woken by keys alone
                        try:
                            events = yield
                        except GeneratorExit:  # the task that waits for it was cancelled
                            widget.press(Closed())
                            widget.outcome = widget.outcome or Ended()
                            if not shares:
                                self._finish()
                            raise
                        if widget.acts and widget.has_news:
                            events = bursts.with_alarm(events)
                    came = events
                    if len(came) == 1 and came[0].__class__ is not Said and inbox.tap is None:
                        self._handle(came[0])  # one key, most of the time
                        if widget.gives_way:
                            driver.gives_way, widget.gives_way = True, False
                    else:
                        bursts.handle_all(driver, came, self._handle_in_turn)
                    wanted, self.wanted, is_echoed = self.wanted, None, False
                    if wanted is None:
                        is_echoed = len(came) == 1 and self._echo(came[0])
                    elif wanted is PREFERENCES:
                        yield from rare_effects.show_preferences(driver, widget, self.options, self._steps_of)
                        self._bind()
                    elif wanted is CLEAR_SCREEN:
                        driver.show_said()  # what was said before the key goes with all else, however keys came
                        driver.clear()
                    elif wanted is HISTORY:
                        yield from rare_effects.show_history(driver, widget, self._steps_of)
                    elif wanted is COPY:
                        rare_effects.copy(driver, widget)
                    elif wanted is EDIT_OUTSIDE:
                        rare_effects.edit_outside(driver, widget)
                if not shares:
                    self._finish()
        finally:
            if inbox.came:
                bursts.lay_down(inbox)
            driver.woken = woken_before  # a task may have opened this one while the other waits
            driver.finish_widget()
            driver.end_feeding()
            if not shares:
                screen.end()
                if widget.is_full_screen:
                    driver.empty_screen()
            driver.shows_work = showed_work

    def _steps_of(self, page: Widget) -> Generator[None, list[Any], None]:
        return Loop(self.driver, page, self.options).steps()

    def _prepare(self) -> None:
        """Make ready for the first frame: options, preferences, theme."""
        driver, options = self.driver, self.options
        driver.use(options)
        driver.begin()
        self.screen.theme.style = options.style
        self.widget.set_theme(self.screen.theme)

    # Drawing ---------------------------------------------------------------------------------------------------------

    def _draw(self) -> None:
        """Show what was said, and the widget below it."""
        driver, widget, screen = self.driver, self.widget, self.screen
        columns, rows = driver.size()
        if screen.is_resized(columns, rows):
            screen.is_disturbed = False
            driver.resize(columns, rows)
        driver.show_said()
        is_growing = self._feed()
        frame = widget.view(columns, rows)
        if not driver.knows_pauses and widget.wants_pause:
            widget.pause()
            frame = widget.view(columns, rows)
        if driver.work and widget.shows_work:
            frame = overlay.with_rows_above(driver.work, frame, rows)
        driver.look_at(frame)
        screen.draw(frame, columns, rows)
        widget.drawn()
        self._drawn = frame
        if is_growing:
            self._feed()  # a view may have found out that more is wanted

    def _echo(self, event: Any) -> bool:
        """Show what a key has typed at the end of a line, if nothing else has changed. Return False if it may have.

        To make and compare a frame took 60% of the time of such a key, of which a user types the most (``benchmarks/
        key.py``). A frame drawn now would send nothing (``tests/terminal/test_echo.py``).
        """
        driver = self.driver
        if not driver.echoes or event.__class__ is not Key:
            return False
        typed = self.widget.echo()
        return bool(typed) and self.screen.echo(typed, *driver.size())

    def _feed(self) -> bool:
        """Pull as much as is wanted from the growing sources of the widget. Return False if there are none."""
        growing = self.widget.growing
        for number, (source, count) in enumerate(growing):
            if count > self._fed.get(number, 0):
                self._fed[number] = count
                self.driver.feed(number, source, count)
        return bool(growing)

    def _finish(self) -> None:
        """Leave the record of the widget on the screen."""
        driver, widget = self.driver, self.widget
        if isinstance(widget.outcome, Interrupted):
            driver.note_stop()
        columns, rows = driver.size()
        driver.show_said()
        widget.pause()
        frame = widget.view(columns, rows)
        driver.look_at(frame)
        self.screen.finish(frame, columns)

    def _bind(self) -> None:
        """Give the widget the bindings of the program and of the user."""
        self.is_bound = True
        bindings, faults = self.driver.preferred.bindings(self.options, self.driver.preference_files())
        for fault in faults:
            self.driver.say(fault)
        self.widget.bind(bindings)
        self.driver.expect_commands(bool(self.widget.mode_label))

    # Events ----------------------------------------------------------------------------------------------------------

    @interruptible
    def _work(self) -> bool:
        """Run background work until there are events. Return True if there is something to show before they come.

        Work that goes on for long is shown on the way, and gives way to other tasks of an event loop.
        """
        widget, driver = self.widget, self.driver
        if not widget.work():
            return False
        end = driver.clock.monotonic() + SHOWN_EVERY
        while not driver.has_input():
            if not widget.work():
                return True
            if driver.clock.monotonic() > end:
                driver.inbox.post(Grown(-1, 0))  # so that it goes on at once
                return False
        return False

    def _handle_in_turn(self, event: Any) -> bool:
        """Handle an event of several. Return True if the others are to wait."""
        widget = self.widget
        self._handle(event)
        if widget.outcome is None and self.wanted is None and not widget.gives_way:
            return False
        if widget.gives_way:
            bursts.aim_all(self.driver.inbox.hand, self._aimed)
        self.driver.gives_way, widget.gives_way = widget.gives_way, False
        return True

    def _handle(self, event: Any) -> None:
        """Do what an event means to the driver, or give it to the widget."""
        meaning = MEANINGS.get(event.__class__)
        if meaning is not None:
            meaning(self, event)
            return
        if event.__class__ is Key and event.name == SUSPEND and self.driver.can_stop:
            self._draw()  # what was typed right before it stays in sight
            self.driver.suspend(only_self=False)
            return
        self.driver.guarded(self.widget, event, self._press)

    @interruptible
    def _press(self, event: Any) -> None:
        """Give an event to the widget, which may call functions of the program."""
        self.wanted = self.widget.press(self._aimed(event) if event.__class__ is Mouse else event)

    def _aimed(self, event: Mouse) -> Mouse:
        """Return a click with what it hits in the picture in which it was made."""
        return self._drawn.clicks.aimed(event) if event.hit is None else event

    def _close(self, event: Any) -> None:
        """End the widget, since nobody can answer any more."""
        if event.__class__ is TimeOut:
            self.driver.has_timed_out = True
        self.widget.press(Closed())
        if self.widget.outcome is None:
            self.widget.outcome = Ended()

    def _interrupt(self, event: Any) -> None:
        self.widget.outcome = Interrupted()

    def _pause(self, event: Any) -> None:
        self.widget.pause()

    def _fail(self, event: Any) -> None:
        raise event.error

    def _count_down(self, event: Any) -> None:
        """Say how much time is left."""
        self.screen.notice = self.driver.time_left(event)

    def _stop(self, event: Any) -> None:
        self.driver.suspend(only_self=event.only_self)

    def _continue(self, event: Any) -> None:
        self.screen.abandon()
        self.driver.go_on_drawing()

    def _disturb(self, event: Any) -> None:
        """Draw all again: the terminal was of another size, if only for a moment, and may have lost what it showed."""
        self.screen.is_disturbed = True

    def _nothing(self, event: Any) -> None:
        """Do nothing: the next turn draws what is new."""


#: What the events of the driver mean; all others are for the widget.
MEANINGS: dict[type[Any], Callable[[Loop, Any], None]] = {
    Grown: Loop._nothing,
    Failed: Loop._fail,
    Pause: Loop._pause,
    TimeLeft: Loop._count_down,
    TimeOut: Loop._close,
    Interrupt: Loop._interrupt,
    Leave: Loop._close,
    Stop: Loop._stop,
    Continued: Loop._continue,
    Resize: Loop._disturb,
    Position: Loop._nothing,
}
