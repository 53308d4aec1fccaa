"""Dialogs: a message, a choice, a file or folder, long work. While a screen runs they are over it.

Without a screen they are questions, as everywhere: the same calls serve a script.
"""

from __future__ import annotations

import functools
import os
import threading
from pathlib import Path

from wesperon.context import current
from wesperon.forms.one_question import ask, ask_async
from wesperon.frozen import later
from wesperon.screens.running import Dialog
from wesperon.system import folders
from wesperon.terminal.elsewhere import in_thread, stage_elsewhere
from wesperon.terminal.interaction import Asked, play, play_async
from wesperon.text.escape import visible, visible_lines
from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.values.kinds.choices import any_of, one_of
from wesperon.values.problems import Problems
from wesperon.widgets.parts.boxes import Across, Down
from wesperon.widgets.parts.checked import checked_function, checked_text
from wesperon.widgets.parts.figures import Meter
from wesperon.widgets.parts.listing import Listing
from wesperon.widgets.parts.simple_parts import Button, Label
from wesperon.widgets.widget import Answered, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable, Sequence
    from typing import Any

    from wesperon.long_work import progress
    from wesperon.long_work.work import Work
    from wesperon.screens.running import Running
    from wesperon.terminal.interaction import Interaction
    from wesperon.widgets.parts.levels import Level
else:
    asyncio = later("asyncio")
    progress = later("wesperon.long_work.progress")

#: What ends the name of a folder in a list, and the way to the one above.
FOLDER, ABOVE = os.sep, ".."


def running_screen() -> Running | None:
    """Return the screen that runs on the terminal of the context in force, if this is its thread."""
    stage: Running | None = getattr(current().driver, "stage", None)
    return stage if stage is not None and stage.is_here else None


def show_message(text: str, *, title: str = "", buttons: Sequence[str] = ()) -> str:
    """Show a message until a button is pressed; return its label.

    ``text`` is the message, ``title`` that of the dialog; ``buttons`` are labels, the first one that of Enter, the last
    one what comes back if the dialog is left; empty for one that says OK. Without a screen the message is printed, and
    which of several it is to be is a question: nobody there gives the last one too.

    Example:
        >>> show_message("The dome is open.")
        The dome is open.
        'OK'

    """
    labels = _labels(buttons)
    screen = running_screen()
    if screen is None and (stage := stage_elsewhere()) is not None:
        pressed = stage.ask_for(show_message, show_message_async, text, title=title, buttons=labels)
        return labels[-1] if pressed is None else str(pressed)
    if screen is None:
        try:
            return _said(text, labels) or str(ask(_which(text), one_of(labels), initial=labels[0]))
        except Problems:
            return labels[-1]
    found: str | None = play(closed(screen, functools.partial(open_message, screen, text, title, labels)))
    return labels[-1] if found is None else found


async def show_message_async(text: str, *, title: str = "", buttons: Sequence[str] = ()) -> str:
    """Show a message inside an event loop, whose other tasks go on.

    ``text``, ``title`` and ``buttons`` are those of :func:`show_message`, and so is the label.

    Example:
        >>> asyncio.run(show_message_async("The dome is open."))
        The dome is open.
        'OK'

    """
    screen, labels = running_screen(), _labels(buttons)
    if screen is None and stage_elsewhere() is not None:
        return await in_thread(functools.partial(show_message, text, title=title, buttons=buttons))
    if screen is None:
        try:
            return _said(text, labels) or str(await ask_async(_which(text), one_of(labels), initial=labels[0]))
        except Problems:
            return labels[-1]
    steps = closed(screen, functools.partial(open_message, screen, text, title, labels))
    found: str | None = await play_async(steps)
    return labels[-1] if found is None else found


def _said(text: str, labels: Sequence[str]) -> str:
    """Print a message, of one with several labels all but its last line; return the label if there is but one."""
    lines = [visible(line) for line in str(text).split("\n")]
    printed = lines if len(labels) == 1 else lines[:-1]
    if printed:
        current().print("\n".join(printed))
    return labels[0] if len(labels) == 1 else ""


def _which(text: str) -> str:
    """Return the question that a message with several buttons ends with."""
    return visible(str(text).split("\n")[-1]) or tell("Which?")


def _labels(buttons: Any) -> list[str]:
    """Return the labels of the buttons of a message; raises DeclarationError for what are none."""
    if isinstance(buttons, str | bytes) or not hasattr(buttons, "__iter__"):
        raise DeclarationError(f"buttons={buttons!r}: must be a list of labels")
    return [checked_text("buttons", label) for label in buttons] or [tell("OK")]


def closed(screen: Running, opens: Callable[[], Level]) -> Interaction[Any]:
    """Open a dialog over a screen, in steps; return what it is closed with, None if it is left."""
    outcome = yield Asked(screen.driver, Dialog(opens), screen.options)
    if isinstance(outcome, Interrupted):
        raise KeyboardInterrupt
    return outcome.value if isinstance(outcome, Answered) else None


def open_message(screen: Running, text: str, title: str, labels: Sequence[str]) -> Level:
    """Show a message over a screen that runs, until a button with one of the labels is pressed."""
    buttons = [
        Button(label, functools.partial(screen.close_top, label), default=at == 0) for at, label in enumerate(labels)
    ]
    return screen.open(Down(Label(text), Label("", hide_below=1), Across(*buttons)), title)


def choose(question: str, choices: Any, *, several: bool = False, title: str = "") -> Any:
    """Have one of several ``choices`` chosen, or with ``several`` any of them; None if the dialog is left.

    The ``question`` is above the list, ``title`` is that of the dialog; ``choices`` are those of :func:`one_of`.
    Without a screen it is a question; see :func:`ask`.

    Example:
        >>> targets = ["Lantern", "Thimble", "Wicker"]
        >>> screen = Screen(Button("Target", lambda: screen.close(choose("Which target?", targets))))
        >>> screen.run(driver=Scripted([Press("enter"), Press("down"), Press("enter")]))
        'Thimble'

    """
    screen = running_screen()
    if screen is None and (stage := stage_elsewhere()) is not None:
        return stage.ask_for(choose, choose_async, question, choices, several=several, title=title)
    if screen is None:
        return ask(question, any_of(choices) if several else one_of(choices))
    return play(closed(screen, functools.partial(_open_choice, screen, question, choices, several, title)))


async def choose_async(question: str, choices: Any, *, several: bool = False, title: str = "") -> Any:
    """Have one of several chosen inside an event loop, whose other tasks go on.

    ``question``, ``choices``, ``several`` and ``title`` are those of :func:`choose`, and so is what is returned.

    Example:
        >>> async def pick():
        ...     screen.close(await choose_async("Which target?", ["Lantern", "Thimble"]))
        >>> screen = Screen(Button("Target", pick))
        >>> asyncio.run(screen.run_async(driver=Scripted([Press("enter"), Press("down"), Press("enter")])))
        'Thimble'

    """
    screen = running_screen()
    if screen is None and stage_elsewhere() is not None:
        return await in_thread(functools.partial(choose, question, choices, several=several, title=title))
    if screen is None:
        return await ask_async(question, any_of(choices) if several else one_of(choices))
    return await play_async(closed(screen, functools.partial(_open_choice, screen, question, choices, several, title)))


def _open_choice(screen: Running, question: str, choices: Any, several: bool, title: str) -> Level:
    listing = Listing(choices, several=several)
    if listing.choices is not None and not listing.choices.is_growing:
        listing = Listing(choices, several=several, most=len(listing.choices) + 1)  # and what is typed
    if not several:
        listing.action_function = screen.close_top
    buttons = Across(
        Button(tell("Choose"), lambda: screen.close_top(listing.value), default=True),
        Button(tell("Back"), screen.close_top),
    )
    return screen.open(Down(Label(question), listing, buttons), title)


def choose_file(
    question: str = "", *, start: str | os.PathLike[str] = ".", folder: bool = False, title: str = ""
) -> Path | None:
    """Have a file chosen, or with ``folder`` a folder, beginning in the folder ``start``; None if the dialog is left.

    The ``question`` is above the list, ``title`` is that of the dialog. Typing narrows the list; files that are
    hidden, and a new folder, have buttons. Without a screen it is a question for a path.

    Example:
        >>> (folder / "night.toml").touch()
        >>> screen = Screen(Button("Open", lambda: screen.close(choose_file(start=folder))))
        >>> screen.run(driver=Scripted([Press("enter"), "night", Press("enter")])).name
        'night.toml'

    """
    _check_folder(folder)
    screen = running_screen()
    found: Path | None
    if screen is None and (stage := stage_elsewhere()) is not None:
        found = stage.ask_for(choose_file, choose_file_async, question, start=start, folder=folder, title=title)
    elif screen is None:
        found = ask(question or (tell("Folder") if folder else tell("File")), Path)
    else:
        found = play(closed(screen, FolderDialog(screen, start, question, title, is_folder=folder).open))
    return found


async def choose_file_async(
    question: str = "", *, start: str | os.PathLike[str] = ".", folder: bool = False, title: str = ""
) -> Path | None:
    """Have a file or folder chosen inside an event loop, whose other tasks go on.

    ``question``, ``start``, ``folder`` and ``title`` are those of :func:`choose_file`, and so is the path.

    Example:
        >>> (folder / "night.toml").touch()
        >>> async def pick():
        ...     screen.close(await choose_file_async(start=folder))
        >>> screen = Screen(Button("Open", pick))
        >>> asyncio.run(screen.run_async(driver=Scripted([Press("enter"), "night", Press("enter")]))).name
        'night.toml'

    """
    _check_folder(folder)
    screen = running_screen()
    found: Path | None
    if screen is None and stage_elsewhere() is not None:
        found = await in_thread(functools.partial(choose_file, question, start=start, folder=folder, title=title))
    elif screen is None:
        found = await ask_async(question or (tell("Folder") if folder else tell("File")), Path)
    else:
        found = await play_async(closed(screen, FolderDialog(screen, start, question, title, is_folder=folder).open))
    return found


def _check_folder(folder: object) -> None:
    if not isinstance(folder, bool):
        raise DeclarationError(f"folder={folder!r}: must be True or False; the folder to begin in is start=")


class FolderDialog:
    """The entries of a folder, in a dialog of a ``screen``."""

    def __init__(
        self, screen: Running, start: str | os.PathLike[str], question: str, title: str, *, is_folder: bool
    ) -> None:
        self.screen, self.question, self.title = screen, question, title
        folder = Path(start).absolute()
        self.folder = folder if folder.is_dir() else folder.parent
        self.wants_folder = is_folder
        self.shows_hidden = False
        self.level: Any = None
        self.where = Label("", role="title")
        self.said = Label("", role="reason")
        self.listing = Listing(action=self.enter)

    def open(self) -> Level:
        """Open it over the screen."""
        level = self.level = self.screen.open(self._content(), self.title)
        return level

    def _content(self) -> Down:
        buttons = [Button(tell("Choose"), self.choose, default=True), Button(tell("Above"), self.go_above)]
        makes = self.make_folder_beside if self.screen.is_async else self.make_folder
        buttons += [Button(tell("Hidden files"), self.toggle_hidden), Button(tell("New folder"), makes)]
        self.list()
        head = [Label(self.question)] if self.question else []
        return Down(*head, self.where, self.listing, self.said, Across(*buttons))

    def list(self) -> None:
        """List the folder: folders first, each by name."""
        self.where.show(str(self.folder))
        self.said.show("")
        try:
            entries = folders.entries(self.folder)
        except OSError as error:
            self.said.show(error.strerror or str(error))
            entries = []
        if not self.shows_hidden:
            entries = [one for one in entries if not one[0].startswith(".")]
        if self.wants_folder:
            entries = [one for one in entries if one[1]]
        entries.sort(key=lambda one: (not one[1], one[0].lower(), one[0]))
        names = [name + FOLDER if is_folder else name for name, is_folder in entries]
        self.listing.show(([ABOVE] if self.folder.parent != self.folder else []) + names)

    def enter(self, name: str) -> None:
        """Go into a folder, or choose a file."""
        if name == ABOVE:
            self.go_above()
        elif name.endswith(FOLDER):
            self._go_to(self.folder / name[: -len(FOLDER)])
        else:
            self.screen.close_level(self.level, self.folder / name)

    def choose(self) -> None:
        """Choose what is current; of folders, the one that is listed if none is."""
        name = self.listing.value
        if self.wants_folder:
            is_inner = name is not None and name != ABOVE
            self.screen.close_level(self.level, self.folder / name.rstrip(FOLDER) if is_inner else self.folder)
        elif name is not None:
            self.enter(name)

    def go_above(self) -> None:
        """List the folder around this one."""
        self._go_to(self.folder.parent)

    def _go_to(self, folder: Path) -> None:
        """List another folder, all of it: what was typed was for the one before."""
        self.folder = folder
        self.listing.list_all()
        self.list()

    def toggle_hidden(self) -> None:
        """List what is hidden, or no longer."""
        self.shows_hidden = not self.shows_hidden
        self.list()

    def make_folder(self) -> None:
        """Ask for a name, and make a folder of it."""
        self.make(ask(tell("Name of the new folder"), str))

    async def make_folder_beside(self) -> None:
        """Do the same while other tasks go on."""
        self.make(await ask_async(tell("Name of the new folder"), str))

    def make(self, name: str) -> None:
        """Make a folder of this name."""
        try:
            (self.folder / name).mkdir()
        except OSError as error:
            self.said.show(f"{name}: {error.strerror}")
            return
        self.list()
        self.listing.settle(name + FOLDER)


class Stopped(Exception):
    """Raised in the function of :func:`show_work` once the user has stopped it."""


class DialogWork:
    """What the function of :func:`show_work` says of its work over a screen, as to that of :func:`working`.

    Each call raises Stopped once the user has stopped the work.
    """

    def __init__(self, meter: Meter) -> None:
        self.meter = meter
        self._label, self._total = meter.label, meter.total
        self._count: float = 0
        self.is_stopped = False

    @property
    def label(self) -> str:
        """What it is called; may be changed while it runs."""
        return self._label

    @label.setter
    def label(self, label: str) -> None:
        self._label = checked_text("label", label)
        self._show()

    @property
    def total(self) -> float | None:
        """How much there is to do, None if that is not known; may be changed while it runs."""
        return self._total

    @total.setter
    def total(self, total: float | None) -> None:
        self._total = total
        self._show()

    @property
    def count(self) -> float:
        """How much has been done."""
        return self._count

    def add(self, n: float = 1) -> None:
        """Count ``n`` more."""
        self.set(self._count + n)

    def set(self, n: float) -> None:
        """Say that ``n`` have been done by now."""
        self._count = n
        self._show()

    def say(self, text: object) -> None:
        """Print a ``text`` on standard error; control characters appear in their visible form."""
        self._show()
        print(visible_lines(str(text)), file=current().stderr)

    def _show(self) -> None:
        if self.is_stopped:
            raise Stopped
        self.meter.show(self)


def show_work(label: str, function: Callable[[Any], Any] | Callable[[], Any], *, total: float | None = None) -> Any:
    """Run a ``function`` in a thread, with a meter in a dialog and a button that stops it; return its result.

    The ``label`` says what is being done. ``function`` gets what it says its progress by, as that of :func:`working`:
    ``work.add()``, ``set``, ``say``, ``label``, ``total``, ``count``. Each raises once the user has stopped it; then
    the result is None. What the function raises is raised here. ``total`` is how much there is to do. Without a screen
    the function is called here, inside ``with working(...)``.

    Example:
        >>> show_work("Stacking", lambda work: [work.add() for _ in range(3)] and "stacked")
        'stacked'

    """
    screen = running_screen()
    function = checked_function("function", function, "the work")
    if screen is None:
        return _in_a_row(label, function, total)
    return play(_worked(screen, label, function, DialogWork(Meter(label, total=total))))


async def show_work_async(
    label: str, function: Callable[[Any], Any] | Callable[[], Any], *, total: float | None = None
) -> Any:
    """Run a ``function`` in a thread inside an event loop, whose other tasks go on.

    ``label``, ``function`` and ``total`` are those of :func:`show_work`, and so are the result and the errors.

    Example:
        >>> asyncio.run(show_work_async("Stacking", lambda work: [work.add() for _ in range(3)] and "stacked"))
        'stacked'

    """
    screen = running_screen()
    function = checked_function("function", function, "the work")
    if screen is None:
        return await asyncio.to_thread(_in_a_row, label, function, total)
    return await play_async(_worked(screen, label, function, DialogWork(Meter(label, total=total))))


def _in_a_row(label: str, function: Callable[[Work], Any], total: float | None) -> Any:
    """Run the function of :func:`show_work` where there is no screen, and show how far it is in a row."""
    with progress.working(label, total=total) as work:
        return function(work)


def _worked(screen: Running, label: str, function: Callable[[DialogWork], Any], work: DialogWork) -> Interaction[Any]:
    """Run the function of :func:`show_work` in a thread and show how far it is, in steps; return its result."""
    outcome: list[Any] = [None, None]
    levels: list[Level] = []

    def run() -> None:
        try:
            outcome[0] = function(work)
        except Stopped:
            pass
        except BaseException as error:  # whatever it is, it is raised where the work was begun
            outcome[1] = error
        screen.call_soon(lambda: screen.close_level(levels[0]))

    def stop() -> None:
        work.is_stopped = True

    def opened() -> Level:
        levels.append(screen.open(Down(work.meter, Across(Button(tell("Stop"), stop))), label))
        threading.Thread(target=run, daemon=True).start()
        return levels[0]

    try:
        yield from closed(screen, opened)
    finally:
        work.is_stopped = True
    if outcome[1] is not None:
        raise outcome[1]
    return outcome[0]
