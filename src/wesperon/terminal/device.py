"""Devices: one terminal, as a driver runs widgets on it.

A device is two things, and what differs from terminal to terminal:

    screen    the painter, what was said above it, the theme (``live_screen``)
    seat      whose terminal it is: turns, signals, what is printed meanwhile (``seat``)

One of its own kind says where events come from, where text goes and how large the terminal is. All that it learns comes
through its inbox (``inbox``). ``opened`` takes the terminal for several widgets in a row.
"""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import later
from wesperon.system.interrupts import critical
from wesperon.terminal.inbox import Grown, Inbox, Leave, Said
from wesperon.terminal.live_screen import LiveScreen
from wesperon.terminal.preferred import DriverOptions, Preferred
from wesperon.terminal.seat.seat import Seat
from wesperon.text.messages import tell, tell_many
from wesperon.values import Complaint
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from types import TracebackType
    from typing import Any, Self

    from wesperon.screen.frame import Frame, Row
    from wesperon.system.process_signals import Holder
    from wesperon.terminal import foot_rows
    from wesperon.terminal.inbox import TimeLeft
    from wesperon.widgets.widget import Growing, Outcome, Widget
else:
    foot_rows = later("wesperon.terminal.foot_rows")


class Device:
    """One terminal, and who sits at it: what is shown and read there, and what it is set to."""

    def __init__(self, look: Mapping[str, str], colours: int = 16, seat: Seat | None = None) -> None:
        self.screen = LiveScreen(look, colours, self.send)
        self.inbox = Inbox(self.wake)
        #: The clock of who sits at it.
        self.clock: Any = current().clock
        self.seat = Seat() if seat is None else seat
        #: Whether its terminal is that of the process, where everything that the process prints goes too.
        self.is_own = self.seat.is_own
        self.preferred = Preferred(self.screen.theme)
        #: The options with which it was opened last.
        self.options = DriverOptions()
        #: Whether the user has stopped the questions, so that a further interrupt says nothing new.
        self.is_stopped = False

    #: The rows of long work to be shown above the line of a console, and whether such a line is open.
    work: tuple[Row, ...] = ()
    shows_work = False

    #: What the signals of the process see of it, if its terminal is that of the process.
    holder: Holder

    #: Whether it can tell that no key has come for a moment (``inbox.Pause``); else there is a pause after each.
    knows_pauses = False
    #: Whether what a key types at the end of a line may be shown without a frame (``Widget.echo``).
    echoes = False
    #: Whether it asks in plain lines, which show no widget but those that have such a form.
    is_plain = False
    #: Whether a question has ended since nobody answered in time.
    has_timed_out = is_left = False
    #: The screen of parts that runs on it, which shows as dialogs what else is asked; None if none does.
    stage: Any = None
    #: Whether another program has the terminal for a while, so that nothing is drawn.
    is_aside = False
    #: The widget that is open, which says when it is to be woken.
    woken: Widget | None = None
    #: Whether a user sits at it, whose answers are worth keeping.
    is_terminal = False
    #: Whether the last event has begun something in another task, which has its turn before the next one.
    gives_way = False
    #: How many widgets are open on it, each by what another one has called.
    open_widgets = 0

    @property
    def depth(self) -> int:
        """How often it has been opened inside itself; 0: the terminal is not its own now."""
        return self.seat.depth_of(self)

    @property
    def is_lent_by_stage(self) -> bool:
        """Whether a screen of parts that runs in this thread has the terminal, and asks on it for others."""
        return self.stage is not None and self.depth > 0 and self.stage.is_here

    @property
    def alarm(self) -> float | None:
        """When the widget that is open is to be woken, by the clock; None: never."""
        at: float | None = None if self.woken is None else self.woken.wakes_at
        return at

    @property
    def can_stop(self) -> bool:
        """Whether the key that suspends stops the process, as it does in a program that reads no keys."""
        return False

    # What differs from terminal to terminal --------------------------------------------------------------------------

    def size(self) -> tuple[int, int]:
        """Return the columns and rows of the terminal, at least 1 each."""
        raise NotImplementedError

    def wait(self) -> list[Any]:
        """Wait for events, and return all that are there: those of the inbox (``inbox.take``), and those of keys."""
        raise NotImplementedError

    def send(self, text: str) -> None:
        """Show a text that a painter made."""
        raise NotImplementedError

    def enter(self) -> None:
        """Set the modes of the terminal."""

    def hand_back(self) -> None:
        """Let the terminal be as it was found, for now or for good."""

    def take_again(self) -> None:
        """Set the modes again after ``hand_back``."""

    def watch(self, *, in_main: bool) -> None:
        """Prepare before the terminal is taken; ``in_main``: the signals of the process reach this driver."""

    def unwatch(self) -> None:
        """Tidy up after the terminal was given back."""

    def is_lent(self) -> bool:
        """Return True if another program has the terminal, while no widget is open."""
        return False

    def close(self) -> None:
        """Let go of the terminal for good."""

    def wake(self) -> None:
        """Wake ``wait``, which returns soon; from any thread, and from a signal handler."""

    def use(self, options: DriverOptions) -> None:
        """Take the options of the widget that is opened, and what the user prefers, before anything is shown."""
        self.has_timed_out = self.is_left = False  # that nobody answered the one before says nothing of this one
        self.options = options
        self.preferred.before_the_first_frame(options, self.preference_files)

    def note_stop(self) -> None:
        """Take note that the user has stopped the questions."""
        self.is_stopped = True

    def begin(self) -> None:
        """Open a widget: time counts from here on."""

    def await_pause(self, awaits: bool) -> None:
        """Say whether the next wait is to end with ``inbox.Pause`` if no key comes for a moment."""

    def clear(self) -> None:
        """Empty the screen; the frame is drawn at its top."""
        self.screen.clear(self.size()[0])

    def resize(self, columns: int, rows: int) -> None:
        """Prepare to draw on a terminal of another size than that of the last frame."""

    def listen(self) -> None:
        """Prepare to wait for the first event."""

    def expect_commands(self, expects: bool) -> None:
        """Know whether keys may be commands, so that Escape and a letter are hardly ever one key on a slow line."""

    def has_input(self) -> bool:
        """Return True if events are there already."""
        return bool(self.inbox)

    def feed(self, number: int, source: Growing, count: int) -> None:
        """Take from a growing source until it has ``count`` items; a driver that can goes on meanwhile."""
        before = source.count
        if source.pull(count) and source.count > before:
            self.inbox.post(Grown(number, source.count))  # so that more may be wanted

    def fill_screen(self, *, is_nested: bool) -> None:
        """Take the alternate screen: over a widget nobody has, since the terminal is taken already."""
        if is_nested:
            self.screen.start(self.size()[0])

    def empty_screen(self) -> None:
        """Note that the alternate screen was left."""

    def end_feeding(self) -> None:
        """Take no more: the widget has ended."""

    def suspend(self, *, only_self: bool) -> None:
        """Stop the process as the terminal would have, and take the terminal again when it goes on."""

    def come_back(self) -> None:
        """Take the terminal again, and begin below what another one has shown."""
        self.go_on_drawing()

    def go_on_drawing(self) -> None:
        """Begin below what others have shown while the process was stopped; the settings are there again."""
        self.screen.start(self.size()[0])

    def put_aside(self) -> None:
        """Take the frame away, since something is opened above it on the same terminal."""

    def preference_files(self) -> list[str]:
        """Return the files that say what the user prefers."""
        return []

    def mouse_changed(self) -> None:
        """Take the mouse for the program while the terminal is taken, or no longer."""

    def edit_outside(self, text: str, syntax: object) -> str:
        """Return the text as the user's own editor leaves it; raises Complaint if there is none."""
        raise Complaint(tell("there is no editor on this terminal"))

    def begin_drawing(self) -> None:
        """Begin on a row of its own, once the terminal is taken."""
        self.screen.start(self.size()[0])

    def time_left(self, event: TimeLeft) -> str:
        """Return what is said about the time that is left."""
        return tell_many(
            "  {count} second left to answer",
            "  {count} seconds left to answer",
            event.seconds,
        )

    def look_at(self, frame: Frame) -> None:
        """Look at a frame before it is drawn."""

    def guarded(self, widget: Widget, event: Any, act: Callable[[Any], object]) -> None:
        """Have an event acted on, which may call functions of the program.

        Where the user can see and say so, it is told if that takes long, and may be stopped.
        """
        act(event)

    def begin_widget(self) -> None:
        """Note that a widget opens, maybe by what another one has called."""
        self.open_widgets += 1

    def finish_widget(self) -> None:
        """Note that a widget has ended."""
        self.open_widgets -= 1

    # Taking the terminal ---------------------------------------------------------------------------------------------

    def opened(self, options: DriverOptions) -> Opened:
        """Return a context in which the terminal is taken; inside itself it does nothing."""
        return Opened(self, options)

    def __enter__(self) -> Self:
        """Take the terminal with the options of the last time."""
        self.open(self.options)
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.seat.leave(self)

    def open(self, options: DriverOptions) -> None:
        """Wait for the turn on the terminal, and take it; ``seat.leave`` gives it back."""
        if not self.depth:
            self.use(options)
        self.seat.enter(self, options)

    def take(self) -> None:
        """Set the modes and begin on a row of its own; called by the seat."""
        self.is_stopped = False
        self.work = ()  # what is shown is sent again
        if self.seat.foot is not None:
            self.seat.foot.hide()
        self.enter()
        self.begin_drawing()

    def abandon(self) -> None:
        """Leave what is drawn, if an exception has come while it was; called by the seat."""
        self.screen.abandon()

    @critical
    def give(self) -> None:
        """Leave what is drawn, show what was said, and let the terminal be as it was found; called by the seat."""
        try:
            self.screen.abandon()  # an exception came while a widget was open
            with self.screen.lock:
                self.show_said()
        finally:
            self.hand_back()

    # Saying ----------------------------------------------------------------------------------------------------------

    def say(self, text: str) -> None:
        """Show finished lines above the widget that is open, or at once if none is; from any thread.

        While another program has the terminal, an editor or a pager that a command runs, they wait. Each line of the
        text is safe to show.
        """
        self.inbox.post(Said(text))
        if not self.depth:
            with self.screen.lock:
                if not self.depth and not self.is_lent():
                    self.show_said()

    def show_work(self, rows: Sequence[Row]) -> None:
        """Show rows of long work above the line that is open, if it is one of a console; else when one is."""
        if tuple(rows) != self.work:
            self.work = tuple(rows)
            if self.depth and self.shows_work:
                self.inbox.post(Grown(-1, 0))  # as if a list had grown: the widget is drawn again
            elif not self.is_own:
                with self.screen.lock:
                    if self.seat.foot is None:
                        self.seat.foot = foot_rows.FootRows(self.send, self.size, self.screen.theme.roles)
                    if not self.depth:
                        self.seat.foot.show(self.work)

    def show_said(self) -> None:
        """Show what was said and waits."""
        if self.inbox and (said := self.inbox.pop_said()):
            self.show(said)

    def show(self, said: list[str]) -> None:
        """Show lines above the widget; it is to be drawn again."""
        if self.stage is not None:
            self.stage.hear(said)
        foot = self.seat.foot
        if foot is not None and foot.rows and not self.depth:
            foot.say("\n".join(said))
        else:
            self.screen.above(said, self.size()[0])
        self.inbox.note_shown(len(said))

    def end_widget(self) -> None:
        """End the widget that is open, or the next one, as if the terminal were gone; from any thread."""
        self.inbox.post(Leave())

    def forget_leave(self) -> None:
        """Forget an ``end_widget`` that has ended no widget yet."""
        self.inbox.drop(Leave)

    def preferences_page(self, options: DriverOptions | None = None) -> Widget:
        """Return the page of preferences, which shows each change at once."""
        return self.preferred.page(
            self.options if options is None else options,
            self.preference_files(),
            lambda: self.screen.painter.forget_rows(),
        )

    def apply_preferences(self, outcome: Outcome | None) -> None:
        """Apply what was chosen on the page, and keep it if that is wanted."""
        from wesperon.widgets.preferences_page import Chosen

        chosen = outcome.value if isinstance(outcome, Answered) and isinstance(outcome.value, Chosen) else None
        before = self.preferred.mouse
        for fault in self.preferred.apply(chosen, self.options, self.preference_files()):
            self.say(fault)
        if self.preferred.mouse != before:
            self.mouse_changed()


class Opened:
    """The time in which a device has its terminal.

    What a screen asks is asked on the terminal that the screen has, also by a task that may outlive it.
    """

    def __init__(self, device: Device, options: DriverOptions) -> None:
        self.device = device
        self.options = options
        self._is_lent = False

    def __enter__(self) -> Device:
        self._is_lent = self.device.is_lent_by_stage
        if not self._is_lent:
            self.device.open(self.options)
        return self.device

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if not self._is_lent:
            self.device.__exit__(kind, error, trace)
