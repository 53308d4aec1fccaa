"""Drivers: what runs a widget until it has an outcome.

``Driver`` is the loop that all of them share; a driver of its own kind says where events come from, where text goes and
how large the terminal is. Use it as a context: the terminal is the widget's between ``enter`` and ``leave``, which do
nothing if they are nested.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Closed, Position, Resize
from wesperon.screen.painter import Painter
from wesperon.screen.theme import Theme
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.widget import CLEAR_SCREEN, PREFERENCES, Answered, Ended, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Generator, Mapping
    from types import TracebackType
    from typing import Any, Self

    from wesperon.editing.edits import TextState
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Frame
    from wesperon.terminal.preferences import Preferences
    from wesperon.widgets.widget import Growing, Outcome, Widget


class DriverOptions:
    """How a program wants its questions run.

    ``timeout`` are the seconds after which a question that nobody answers ends as if the terminal were gone; ``mouse``
    whether the mouse is the program's; ``style`` names a style of Pygments for the colours of languages, which else are
    of the terminal's own palette. ``keys`` names the family of keys, ``theme`` the theme, or maps roles to what they
    look like over the usual one; ``environ`` is the environment, of which the user's wishes go before. ``bindings``
    maps keys to actions, ``actions`` functions that bindings may name (see ``editing.bindings``), and ``program`` is
    the name under which the user may have some.
    """

    def __init__(
        self,
        program: str = "",
        *,
        timeout: float | None = None,
        mouse: bool = False,
        style: str = "",
        keys: str = "",
        theme: str | Mapping[str, str] = "",
        environ: Mapping[str, str] | None = None,
        bindings: Mapping[str, object] | None = None,
        actions: Mapping[str, Callable[[TextState], TextState]] | None = None,
    ) -> None:
        self.program = program
        self.timeout = timeout
        #: What the program wants, and what holds once the user's preferences are known.
        self.wanted_mouse = self.mouse = mouse
        self.style = style
        if keys not in ("", "modeless", "modal"):
            from wesperon.values import DeclarationError

            raise DeclarationError(f"keys={keys!r} is none of 'modeless', 'modal'")
        self.keys = keys
        if theme:
            from wesperon.screen.themes import checked

            checked(theme)
        self.theme = theme
        self.environ = environ or {}
        self.bindings = bindings or {}
        self.actions = actions or {}


class _Unlocked:
    """Replaces a lock if there is one thread."""

    def __enter__(self) -> None: ...

    def __exit__(self, *error: object) -> None: ...


class Driver:
    """Runs widgets one after the other on one terminal."""

    def __init__(self, look: Mapping[str, str], colours: int = 16) -> None:
        self.theme = Theme(dict(look), colours)
        self.inline = Painter(self.theme.roles)
        #: What draws now: inline, or on the full screen.
        self.painter: Painter = self.inline
        self.queue: list[Event] = []
        self.depth = 0
        self.options = DriverOptions()
        #: Whether the process ends once the user stops the questions, so that no interrupt matters any more then.
        self.ends_process = False
        self.bindings: Bindings | None = None
        self.is_bound = False
        #: What the user prefers, once it is known that there is something; what was changed while the program runs.
        self.preferences: Preferences | None = None
        self.changes: dict[str, str] = {}
        self._knows_preferences = False
        #: What is to be shown above the widget, in order; a lock of :mod:`threading` where others say something.
        self.told: list[str] = []
        #: Whether there is more to show than when the widget was shown last, and what failed while it was drawn.
        self.has_grown = False
        #: Whether the widget has work for a moment without keys, and whether that has come.
        self.wants_pause = self.is_pause = False
        #: What is to be said below the widget about the time that is left.
        self.notice = ""
        #: Whether the widget that is open is to end, as if the terminal were gone.
        self.is_ending = False
        self.failed: list[BaseException] = []
        self.fed: list[Any] = []
        self.lock: Any = _Unlocked()
        #: What takes the output of the process while a widget is open, if something does (``console.stray_output``).
        self.stray: Any = None
        #: Whose turn it is to use it among the tasks of an event loop (``forms.interaction.Turn``).
        self.turn: Any = None

    #: Whether it can tell that no key has come for a moment (``is_pause``); else there is one after each.
    knows_pauses = False
    #: Whether it asks in plain lines, which show no widget but those that have such a form.
    is_plain = False
    #: Whether a user sits at it, whose answers are worth keeping.
    is_terminal = False

    @property
    def is_own(self) -> bool:
        """Whether its terminal is that of the process, where everything that the process prints goes too."""
        return False

    def size(self) -> tuple[int, int]:
        """The columns and rows of the terminal, at least 1 each."""
        raise NotImplementedError

    def wait(self) -> list[Event]:
        """The next events; none where only something was told meanwhile."""
        raise NotImplementedError

    def send(self, text: str) -> None:
        """Show a text that a painter made."""
        raise NotImplementedError

    def enter(self) -> None:
        """Take the terminal."""

    def ignore_sigint(self) -> None:
        """Let no further interrupt through until the terminal is given back: the user has made one."""

    def leave(self) -> None:
        """Give the terminal back as it was."""

    def is_lent(self) -> bool:
        """Whether another program has the terminal, while no widget is open."""
        return False

    def close(self) -> None:
        """Let go of the terminal for good."""

    def wake(self) -> None:
        """Have ``wait`` return soon; may be called from any thread."""

    def begin(self) -> None:
        """Called when a widget is opened."""

    def resize(self, columns: int, rows: int) -> None:
        """Called before anything is drawn on a terminal of another size than that of the last frame."""

    def listen(self) -> None:
        """Called before the first event is waited for."""

    def has_input(self) -> bool:
        """Whether events are there already."""
        return False

    def feed_from(self, supply: Growing, widget: Widget) -> None:
        """Take all that comes from a growing source; a driver that can goes on meanwhile."""
        while supply.pull():
            pass

    def preference_files(self) -> list[str]:
        """The files that say what the user prefers."""
        return []

    def edit_outside(self, text: str, syntax: object) -> str:
        """The text as the user's own editor leaves it; raises Complaint if there is none."""
        raise Complaint(tell("there is no editor on this terminal"))

    def __enter__(self) -> Self:
        with self.lock:
            if not self.depth:
                self._open()
            self.depth += 1
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if self.depth == 1 and self.stray is not None:
            self.stray.end()  # without the lock, which those need who still say something
        with self.lock:
            self.depth -= 1
            if not self.depth:
                if self.painter.rows:  # an exception came while a widget was open
                    self.send(self.painter.abandon())
                self._tell_all()
                self.leave()

    def _open(self) -> None:
        if self.stray is not None:
            self.stray.begin()
        try:
            self.enter()
            try:
                self.send(self.beginning())
            except BaseException:
                self.leave()
                raise
        except BaseException:
            if self.stray is not None:
                self.stray.end()
            raise

    def beginning(self) -> str:
        """What is sent once the terminal is taken, before the first frame."""
        return self.painter.start(self.size()[0])

    def look_at(self, frame: Frame) -> None:
        """Called with each frame before it is drawn."""

    def say(self, text: str) -> None:
        """Show finished lines above the widget that is open, or at once if none is; from any thread.

        While another program has the terminal, an editor or a pager that a command runs, they wait. Each line of the
        text is safe to show; needs ``lock`` if there are several threads.
        """
        with self.lock:
            self.told.append(text)
            if self.depth:
                if len(self.told) == 1:  # else the one that shows them is woken already
                    self.wake()
            elif not self.is_lent():
                self._tell_all()

    def run(self, widget: Widget) -> Outcome:
        """Show the widget and give it events until it has an outcome; its record stays on the screen."""
        for _ in self.turns(widget):
            self.queue = self.wait()
        assert widget.outcome is not None
        return widget.outcome

    def end_widget(self) -> None:
        """Have the widget that is open end as if the terminal were gone; from any thread."""
        self.is_ending = self.has_grown = True
        if self.depth:
            self.wake()

    async def answer(self, widget: Widget) -> Outcome:
        """Run the widget inside an event loop; a driver that cannot wait there blocks."""
        return self.run(widget)

    async def turn_comes(self) -> None:
        """Wait inside an event loop until the terminal can be taken without blocking."""

    def turns(self, widget: Widget) -> Generator[None]:
        """Run the widget; each turn comes where events are wanted, to be put into the queue by then."""
        is_bound = False
        self.begin()
        self._prefer()
        self.theme.style = self.options.style
        widget.set_theme(self.theme)
        self.painter = self._full_screen() if widget.is_full_screen else self.inline
        with self:
            while widget.outcome is None:
                if self.is_ending:
                    self.is_ending = False
                    widget.press(Closed())
                    if widget.outcome is None:
                        widget.outcome = Ended()
                    break
                columns, rows = self.size()
                if self.painter.rows and (columns != self.painter.columns or rows != self.painter.height):
                    self.resize(columns, rows)
                self._tell_all()
                self._feed(widget)
                if self.is_pause:
                    widget.pause()
                frame = widget.view(columns, rows)
                if not self.knows_pauses and widget.wants_pause:
                    widget.pause()
                    frame = widget.view(columns, rows)
                if self.notice:
                    frame = self._noticed(frame, columns, rows)
                self.look_at(frame)
                self.send(self.painter.paint(frame, columns, rows))
                if not is_bound:  # what only keys need is loaded once the question is there to read
                    is_bound = True
                    self.listen()
                    self._bind(widget)
                    if widget.mode_label:  # known only now
                        continue
                if not self.queue and not self._work(widget):
                    self.wants_pause, self.is_pause = widget.wants_pause, False
                    yield
                self._press(widget)
                if widget.driver_request == PREFERENCES:
                    widget.driver_request = ""
                    yield from self._show_preferences()
                    self._bind(widget)
                elif widget.driver_request:
                    self._grant(widget)
            if isinstance(widget.outcome, Interrupted):
                self.ignore_sigint()
            columns, rows = self.size()
            self._tell_all()
            widget.pause()
            frame = widget.view(columns, rows)
            self.look_at(frame)
            self.send(self.painter.finish(frame, columns))

    def _noticed(self, frame: Frame, columns: int, rows: int) -> Frame:
        """The frame with the notice in a last row, which takes the place of another if there is no room."""
        from wesperon.screen.frame import Frame as Made
        from wesperon.screen.width import cut

        kept = frame.rows[: max(rows - 1, 1)] if rows > 1 else ()
        return Made((*kept, ((cut(self.notice, columns - 1), "reason"),)), frame.cursor, frame.shape)

    def _feed(self, widget: Widget) -> None:
        """Begin to take from the growing sources of the widget; raises what has failed there."""
        self.has_grown = False
        if self.failed:
            raise self.failed.pop()
        for source in widget.growing:
            if not any(source is one for one in self.fed):
                self.fed.append(source)
                self.feed_from(source, widget)

    def _work(self, widget: Widget) -> bool:
        """Run background work until there are keys. Return True if it is all done, and there is something to show."""
        if not widget.work():
            return False
        while not self.has_input():
            if not widget.work():
                return True
        return False

    def _press(self, widget: Widget) -> None:
        """Give the widget the events that are there; those after its outcome or a request wait."""
        for taken, event in enumerate(self.queue, 1):
            if not isinstance(event, (Resize, Position)):
                widget.press(event)
            if widget.outcome is not None or widget.driver_request:
                del self.queue[:taken]
                return
        self.queue.clear()

    def _tell_all(self) -> None:
        """Show what was told, above the widget."""
        if self.told:
            with self.lock:
                told, self.told = self.told, []
            self.send(self.painter.above("\n".join(told).split("\n"), self.size()[0]))

    def _bind(self, widget: Widget) -> None:
        """Give the widget the bindings of the program and of the user, which are looked for once."""
        options = self.options
        if not self.is_bound:
            self.is_bound = True
            if options.bindings or options.actions or options.keys or options.environ.get("WESPERON_KEYS"):
                self.gather()
            if self.preferences is not None:
                self.bindings, faults = self.preferences.bindings(options.bindings, options.actions)
                for fault in (*self.preferences.faults, *faults):
                    self.say(fault)
        if self.bindings is None:
            from wesperon.editing.keys.bindings import UNCHANGED

            self.bindings = UNCHANGED
        widget.bind(self.bindings)

    def _prefer(self) -> None:
        """Have what the user prefers hold before anything is shown, if there is something."""
        options = self.options
        if not self._knows_preferences:
            self._knows_preferences = True
            says = any(options.environ.get(name) for name in ("WESPERON_THEME", "WESPERON_MOUSE"))
            if options.theme or says or self.preference_files():
                self.gather()
        if self.preferences is not None:
            options.mouse = self.preferences.values["mouse"] == "yes"

    def gather(self) -> Preferences:
        """Put together what the user prefers, and have it hold."""
        from wesperon.screen.themes import ROLES
        from wesperon.terminal.preferences import preferences_of

        options = self.options
        wanted = {"keys": options.keys, "theme": options.theme, "mouse": options.wanted_mouse}
        made = preferences_of(self.preference_files(), wanted, options.environ, self.changes)
        roles = self.theme.roles
        for role in ROLES:
            roles.pop(role, None)
        roles.update(made.look(self.theme.colours))
        self.preferences = made
        return made

    def _show_preferences(self) -> Generator[None]:
        """Open the page of preferences over the widget, until it is left."""
        self.send(self.painter.hide(self.size()[0]))
        page = self.preferences_page()
        yield from self.turns(page)
        self.take_preferences(page.outcome)
        if isinstance(page.outcome, Ended):  # so does what is below it
            self.is_ending = True

    def preferences_page(self) -> Widget:
        """The page of preferences, which shows each change at once."""
        from wesperon.widgets.preferences_page import PreferencesPage

        made, before = self.preferences or self.gather(), self.changes
        options = self.options

        def tried(values: Mapping[str, str]) -> None:
            self.changes = {**before, **values}
            self.gather()
            self.painter.forget_rows()

        return PreferencesPage(made.values, made.origins, options.program, tried)

    def take_preferences(self, outcome: Outcome | None) -> None:
        """Have what was chosen on the page hold, and keep it where that is wanted."""
        from wesperon.widgets.preferences_page import Chosen

        if isinstance(outcome, Answered) and isinstance(outcome.value, Chosen):
            chosen = outcome.value
            if chosen.keeps_for is not None:
                from wesperon.terminal.preferences_file import write_preferences

                for fault in write_preferences(chosen.keeps_for, chosen.values):
                    self.say(fault)
        self.is_bound, self.bindings = True, None
        made = self.gather()
        options = self.options
        self.bindings, _ = made.bindings(options.bindings, options.actions)
        mouse = made.values["mouse"] == "yes"
        if mouse != options.mouse:
            options.mouse = mouse
            self.mouse_changed()

    def mouse_changed(self) -> None:
        """Called when the mouse is to be the program's while the terminal is taken, or no longer."""

    def _grant(self, widget: Widget) -> None:
        """Do what the widget cannot do itself."""
        request, widget.driver_request = widget.driver_request, ""
        columns, _ = self.size()
        if request == CLEAR_SCREEN:
            self.send(self.painter.clear(columns))
            return
        text: str | Complaint
        self.send(self.painter.hide(columns))
        try:
            text = self.edit_outside(widget.text, widget.syntax or "")
        except Complaint as complaint:
            text = complaint
        self.send(self.painter.start(columns))
        widget.returned(text)

    def _full_screen(self) -> Painter:
        from wesperon.screen.full_screen import FullScreenPainter

        return FullScreenPainter(self.theme.roles)
