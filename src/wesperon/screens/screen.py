"""``Screen``: parts on the whole terminal, until it is closed."""

from __future__ import annotations

import os
from collections import deque
from contextlib import contextmanager

from wesperon.context import PROCESS, current
from wesperon.frozen import later
from wesperon.output.uncaught import tell_uncaught
from wesperon.screens.running import Dialog, Running, Timer
from wesperon.terminal.interaction import Asked, play, play_async
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.reached import DriverAtHand
from wesperon.values import DeclarationError
from wesperon.values.problems import Problem, Problems
from wesperon.widgets.parts.boxes import Down
from wesperon.widgets.parts.checked import checked_function
from wesperon.widgets.parts.part import Part, checked_part
from wesperon.widgets.parts.simple_parts import Button
from wesperon.widgets.widget import Answered, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Mapping
    from typing import Any

    from wesperon.editing.keys import bindings as bound_keys
    from wesperon.screens import as_form, menu_bar, unattended
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.widgets.parts.levels import Level
else:
    as_form = later("wesperon.screens.as_form")
    menu_bar = later("wesperon.screens.menu_bar")
    unattended = later("wesperon.screens.unattended")
    bound_keys = later("wesperon.editing.keys.bindings")


class Screen:
    """A full screen of parts.

    ``content`` is one part, or several in :class:`Across` and :class:`Down`. ``title`` is in its first row.
    ``bindings`` maps keys, such as ``"f5"`` or ``"ctrl-s"``, to functions without arguments, for where the part with
    the focus does nothing with them. ``menus`` is a :class:`MenuBar`, or
    what that takes: a program, or menus by their titles.

    While it runs, Tab goes from part to part, and what the keys do is in the last row. ``run`` gives the result of
    ``close``, None for Ctrl-D; it raises KeyboardInterrupt for Ctrl-C. A screen may be run again.

    Example:
        >>> frames = Field(slot(int, "Frames"), value=12)
        >>> screen = Screen(Down(frames, Button("Expose", lambda: screen.close(frames.value), default=True)))
        >>> screen.run(driver=Scripted([Press("end"), "0", Press("enter")]))
        120

    """

    def __init__(
        self,
        content: Part,
        *,
        title: str = "",
        menus: Any = (),
        bindings: Mapping[str, Callable[[], Any]] | None = None,
    ) -> None:
        self.content = checked_part(content)
        leaves = [*self.content.leaves()]
        if len(set(map(id, leaves))) < len(leaves):
            raise DeclarationError("a part is at one place of a screen only")
        defaults = [part.label for part in self.content.leaves() if isinstance(part, Button) and part.is_default]
        if len(defaults) > 1:
            raise DeclarationError(f"{', '.join(defaults)}: one button is the default, which Enter presses")
        if not isinstance(title, str):
            raise DeclarationError(f"title={title!r}: must be a text")
        self.title = title
        self.menus = menus
        if menus:
            given = menus[0] if isinstance(menus, (list, tuple)) and len(menus) == 1 else menus
            bar = given if isinstance(given, menu_bar.MenuBar) else menu_bar.MenuBar(given)
            self.content = Down(bar, self.content)
        self.bindings = _checked(bindings or {})
        self.running: Running | None = None
        self._timers: deque[tuple[float, Timer]] = deque()

    def run(self, *, driver: Driver | None = None) -> Any:
        """Show the screen until it is closed; return what :meth:`close` got, None for Ctrl-D.

        ``driver`` is for tests. Where nobody can be asked, Problems name the fields that lack a value. Inside another
        screen it is a dialog.
        Raises KeyboardInterrupt for Ctrl-C, and what a function of the program has raised if the user ends the screen
        for it.
        """
        try:
            return play(self._steps(driver, is_async=False))
        except (KeyboardInterrupt, Problems) as error:
            tell_uncaught(error)
            raise

    async def run_async(self, *, driver: Driver | None = None) -> Any:
        """Show the screen inside an event loop, whose other tasks go on; see :meth:`run` for ``driver``."""
        try:
            return await play_async(self._steps(driver, is_async=True))
        except (KeyboardInterrupt, Problems) as error:
            tell_uncaught(error)
            raise

    def close(self, result: Any = None) -> None:
        """End the screen; ``run`` gives the ``result``. From any thread."""
        running = self.running
        if running is None:
            return
        if running.is_here:
            running.finish(result)
        else:
            running.call_soon(lambda: running.finish(result))

    def call_later(self, seconds: float, function: Callable[[], Any]) -> Callable[[], None]:
        """Have a ``function`` called in so many ``seconds``, in the thread of the screen; from any thread.

        Return a function that cancels that.
        """
        checked_function("call_later", function)
        try:
            is_number = isinstance(seconds, int | float) and float(seconds) == float(seconds)
        except OverflowError:
            raise DeclarationError("call_later(): must be a number of seconds that a clock can count") from None
        if not is_number:
            raise DeclarationError(f"call_later({seconds!r}, ...): must be a number of seconds")
        timer = Timer(seconds, function)
        self._timers.append((seconds, timer))
        running = self.running  # only now: it may begin to run meanwhile
        if running is not None:
            self._begin_timers(running)
        return timer.cancel

    def _begin_timers(self, running: Running) -> None:
        """Have time count for what is to be called later; no more than there is by now, since others may go on."""
        now = running.driver.clock.monotonic()
        for _ in range(len(self._timers)):
            try:
                seconds, timer = self._timers.popleft()
            except IndexError:  # another thread has begun it
                break
            timer.at = now + seconds
            running.add_timer(timer)

    def dialog(self, content: Part, *, title: str = "") -> Any:
        """Show a ``content`` under a ``title`` over the screen until it is closed; return what `close_dialog` got.

        It is called by a function of the program in the screen's thread, which waits meanwhile; Escape gives None.
        """
        running = self.running
        if running is None or not running.is_here:
            raise DeclarationError("dialog() is for functions that a screen calls while it runs")
        return running.until(running.open(checked_part(content), title))

    def close_dialog(self, result: Any = None) -> None:
        """Close the topmost dialog with a ``result``; nothing if there is none. From any thread."""
        running = self.running
        if running is None:
            return
        if running.is_here:
            running.close_top(result)
        else:
            running.call_soon(lambda: running.close_top(result))

    @contextmanager
    def aside(self) -> Iterator[None]:
        """Give the terminal to a child process, and take it again afterwards, the screen as it was."""
        running = self.running
        if running is None or not running.is_here:
            yield
            return
        with running.set_aside():
            yield

    def _steps(self, driver: Driver | None, *, is_async: bool) -> Interaction[Any]:
        if self.running is not None:
            raise DeclarationError("this screen runs already")
        name = os.path.splitext(current().program_name)[0]
        if driver is not None:
            return (yield from self._run_on(driver, name, is_async=is_async))
        if current().environ.get("WESPERON_ASKING") == "never":
            raise self._unattended()
        with DriverAtHand(name, is_async=is_async) as found:
            if found is None:
                raise self._unattended()
            return (yield from self._run_on(found, name, is_async=is_async))

    def _run_on(self, driver: Driver, name: str, *, is_async: bool) -> Interaction[Any]:
        if driver.is_plain:
            return (yield from as_form.steps(self, driver, self._begin_timers))
        stage = driver.stage
        if stage is not None and stage.is_here:
            return (yield from self._as_dialog(stage))
        options = DriverOptions({"name": name}, environ=current().environ)
        running = Running(self.content, driver, options, title=self.title, keys=self.bindings)
        running.is_async = is_async
        self.running, driver.stage = running, running
        self._begin_timers(running)
        if driver.is_own:  # tasks and threads that the program has begun ask on it too
            PROCESS.stages.append(running)
        try:
            outcome = yield Asked(driver, running, options)
        finally:
            PROCESS.stages = [stage for stage in PROCESS.stages if stage is not running]
            self.running = driver.stage = None
            running.let_go()
        if running.failure is not None:
            raise running.failure
        if isinstance(outcome, Interrupted):
            raise KeyboardInterrupt
        return outcome.value if isinstance(outcome, Answered) else None

    def _as_dialog(self, running: Running) -> Interaction[Any]:
        """Show the screen over the one that runs, in steps."""

        def opened() -> Level:
            level = running.open(self.content, self.title)
            self.running = _Inside(running, level)  # type: ignore[assignment]
            return level

        try:
            outcome = yield Asked(running.driver, Dialog(opened), running.options)
        finally:
            self.running = None
        return outcome.value if isinstance(outcome, Answered) else None

    def _unattended(self) -> Problems:
        """Return what is missing, since nobody can be asked."""
        return Problems(
            unattended.problems_of(self.content) or [Problem("nobody is there to use the screen", None, None)]
        )


class _Inside:
    """A screen that is run as a dialog of another one."""

    def __init__(self, running: Running, level: Any) -> None:
        self._running, self._layer = running, level

    def __getattr__(self, name: str) -> Any:
        return getattr(self._running, name)

    def finish(self, result: Any) -> None:
        """Close the dialog."""
        self._running.close_level(self._layer, result)


def _checked(bindings: Mapping[str, Callable[[], Any]]) -> dict[str, Callable[[], Any]]:
    made = {}
    if not hasattr(bindings, "items"):
        raise DeclarationError(f"bindings={bindings!r}: must be a mapping from keys to functions")
    for keys, function in bindings.items():
        name, fault = bound_keys.read_keys(keys, types=False)
        if fault or " " in name:
            raise DeclarationError(f"bindings={{{keys!r}: ...}}: {fault or 'must be one key'}")
        if name == "ctrl-c":
            raise DeclarationError(f"bindings={{{keys!r}: ...}}: that key always stops the screen")
        made[name] = checked_function(f"bindings[{keys!r}]", function)
    return made
