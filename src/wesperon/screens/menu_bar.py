"""A menu bar: menus of entries, in the first row of a screen; of a program, its commands.

F10, a letter with Alt or a click opens it. The arrows go through menus and entries, Enter chooses, Escape leaves; then
the part that had the focus before has it again.
"""

from __future__ import annotations

from contextlib import contextmanager, nullcontext
from copy import copy
from functools import partial

from wesperon.commands.command_tree import CommandGroup, summary_of
from wesperon.commands.listing import summaries
from wesperon.commands.program import Program
from wesperon.editing.keys.bindings import read_keys
from wesperon.frozen import Frozen, later
from wesperon.screen.frame import ClickMap, Frame
from wesperon.screen.overlay import overlay
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.values.problems import Problems, Refusal
from wesperon.widgets.parts.checked import function_or_none
from wesperon.widgets.parts.part import Part
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable, Iterator, Mapping, Sequence
    from contextlib import AbstractContextManager
    from typing import Any, ClassVar

    from wesperon.editing.keys.events import Key, Mouse
    from wesperon.screen.frame import Row
    from wesperon.screens import dialogs
    from wesperon.screens.running import Running

    #: Menus by their titles: lists of entries, in which a mapping is a menu of its own.
    Menus = Mapping[str, "Sequence[MenuEntry | Mapping[str, Any]]"]
else:
    asyncio = later("asyncio")
    dialogs = later("wesperon.screens.dialogs")

#: What is after an entry that leads to further ones, and the mark of one that is on.
FURTHER, MARK, NO_MARK = ">", "[x] ", "[ ] "
#: Columns between a label and what is beside it, and the least that a menu has.
BETWEEN, LEAST_WIDE = 2, 8
#: The keys that mean the same on every screen, so that none of them chooses an entry.
OF_EVERY_SCREEN = frozenset(("ctrl-c", "ctrl-d", "f1", "f10"))
#: What is at both sides of a menu, and the columns that an edge takes with the blank beside it.
SIDE, EDGE = "│", 2


class MenuEntry(Frozen):
    """An entry of a menu: its ``label``, and the ``action`` that is called when it is chosen.

    ``keys`` is the key that does the same, as it is shown, where the part with the focus does nothing with it. ``off``
    is the reason why it cannot be chosen now, or a function that returns it; empty if it can. ``marked`` says whether
    it is on, or is a function that returns it, for an entry with a mark. Several entries in a menu of their own are a
    mapping: ``{"Lamps": [MenuEntry("Red", ...)]}``.

    Example:
        >>> MenuEntry("Park", lambda: None, keys="F8").label
        'Park'

    """

    label: str
    action: Callable[[], Any] | None = None
    keys: str = ""
    off: Any = ""
    marked: Any = None

    @property
    def reason(self) -> str:
        """Why it cannot be chosen now; empty if it can."""
        return str(self.off() if callable(self.off) else self.off)


class MenuBar(Part):
    """The menus of a screen, which ``Screen(..., menus=MenuBar(...))`` shows in its first row.

    ``menus`` is a mapping from titles to lists of :class:`MenuEntry`, where a mapping in a list is a menu in the menu;
    or a :class:`Program`: its groups are menus, and choosing a command asks for its values in a dialog and runs it; or
    a list of these.

    Example:
        >>> bar = MenuBar({"Dome": [MenuEntry("Open", lambda: None), MenuEntry("Close", lambda: None)]})
        >>> bar.value
        ('Dome',)

    """

    takes_focus = is_bar = True

    def __init__(self, menus: Menus | Program | Sequence[Menus | Program]) -> None:
        super().__init__()
        parts: Sequence[Any] = menus if isinstance(menus, (list, tuple)) else [menus]
        found: dict[str, Any] = {}
        for one in parts:
            if not isinstance(one, Program) and not hasattr(one, "items"):
                raise DeclarationError(f"MenuBar({one!r}): must be a Program, or a mapping from titles to entries")
            found.update(menus_of(one, one) if isinstance(one, Program) else one)
        if not found:
            raise DeclarationError("MenuBar() of nothing: it needs a menu at least")
        self.menus = [(visible(str(title)), _entries(title, given)) for title, given in found.items()]
        self._by_key = {key: entry for _, entry in reversed(self.all_entries()) if (key := _key_of(entry))}
        #: The menu that is open, and the entry that is current in it and in the menus inside it; empty if none is.
        self.at = 0
        self.path: list[int] = []

    @property
    def value(self) -> tuple[str, ...]:
        """The titles."""
        return tuple([title for title, _ in self.menus])

    def open_menus(self) -> list[list[Any]]:
        """Return the entries of the menu that is open, and of those that are open inside it."""
        if not self.path:
            return []
        opened = [self.menus[self.at][1]]
        for at in self.path[:-1]:
            opened.append(opened[-1][at][1])
        return opened

    def all_entries(self) -> list[tuple[str, MenuEntry]]:
        """Return the entries of all menus, each with its label after those of the menus that it is in."""

        def inside(path: str, entries: list[Any]) -> Iterator[tuple[str, MenuEntry]]:
            for entry in entries:
                if isinstance(entry, tuple):
                    yield from inside(f"{path}{entry[0]}: ", entry[1])
                else:
                    yield path + _label(entry), entry

        return [found for title, entries in self.menus for found in inside(f"{title}: ", entries)]

    # Keys ------------------------------------------------------------------------------------------------------------

    def wants_key(self, key: Key) -> bool:
        """See ``Part``: while it has the focus all keys are its own, but for those that leave the screen."""
        return key.name not in ("ctrl-c", "ctrl-d")

    def down(self) -> None:
        """Open the menu, or go to the entry below."""
        self._move(1)

    def up(self) -> None:
        """Go to the entry above."""
        self._move(-1)

    def _move(self, by: int) -> None:
        if not self.path:
            self.path = [0]
        else:
            self.path[-1] = (self.path[-1] + by) % len(self.open_menus()[-1])
        self.stale()

    def right(self) -> None:
        """Open the menu of an entry, else the next menu."""
        if self.path and isinstance(self.open_menus()[-1][self.path[-1]], tuple):
            self.path.append(0)
        else:
            self._turn(1)
        self.stale()

    def left(self) -> None:
        """Close a menu inside another, else open the menu before."""
        if len(self.path) > 1:
            self.path.pop()
        else:
            self._turn(-1)
        self.stale()

    def _turn(self, by: int) -> None:
        self.at = (self.at + by) % len(self.menus)
        self.path = [0] if self.path else []

    def enter(self) -> None:
        """Choose the entry, or open its menu."""
        if not self.path:
            self._move(1)
            return
        entry = self.open_menus()[-1][self.path[-1]]
        if isinstance(entry, tuple):
            self.path.append(0)
            self.stale()
        elif not entry.reason:
            self.close()
            if entry.action is not None and self.host is not None:
                self.host.call(entry.action)

    def choose_by(self, key: str) -> bool:
        """Choose the entry of a ``key``; one that is off says why. Return False if there is none."""
        entry = self._by_key.get(key)
        if entry is None:
            return False
        if self.host is not None:
            self.host.call(partial(_chosen, entry))
        return True

    def cancel(self) -> None:
        """Close the innermost menu, or leave the bar."""
        if self.path:
            self.path.pop()
            self.stale()
        else:
            self.close()

    def close(self) -> None:
        """Leave the bar: who had the focus before has it again."""
        self.path = []
        self.stale()
        if self.host is not None:
            self.host.leave_bar(self)

    def type(self, text: str, times: int = 1) -> None:
        """Go to the next entry whose label begins with a letter."""
        opened = self.open_menus()
        if not opened:
            found = [at for at, (title, _) in enumerate(self.menus) if title.lower().startswith(text.lower())]
            if found:
                self.at, self.path = found[0], [0]
                self.stale()
            return
        labels = [_label(entry) for entry in opened[-1]]
        count = len(labels)
        for step in range(1, count + 1):
            at = (self.path[-1] + step) % count
            if labels[at].lower().startswith(text.lower()):
                self.path[-1] = at
                self.stale()
                return

    @property
    def own_letters(self) -> str:
        """See ``Part``: the first letter of each title."""
        return "".join([title[:1].lower() for title, _ in self.menus])

    def open_by(self, letter: str) -> bool:
        """Open the menu whose title begins with a ``letter``. Return False if there is none."""
        found = [at for at, (title, _) in enumerate(self.menus) if title[:1].lower() == letter]
        if found:
            self.at, self.path = found[0], [0]
            self.stale()
        return bool(found)

    def click(self, event: Mouse) -> None:
        """See ``Widget``: a title opens its menu, an entry is chosen."""
        if isinstance(event.hit, tuple):
            found = [(depth, at) for left, right, depth, at in event.hit if left <= event.column < right]
            if found:
                depth, at = found[0]
                self.path = [*self.path[:depth], at]
                self.enter()
            return
        left = 0
        for number, (title, _) in enumerate(self.menus):
            left += width(title) + 3
            if event.column < left:
                self.at, self.path = number, [] if self.path and self.at == number else [0]
                self.stale()
                return

    # View ------------------------------------------------------------------------------------------------------------

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        return SizeHint(8, 1, sum(width(title) + 3 for title, _ in self.menus), 1)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        spans: list[tuple[str, str]] = []
        used = at = 0
        for number, (title, _) in enumerate(self.menus):
            text = cut(f" {title} ", max(columns - used, 0)) if used + width(title) + 2 > columns else f" {title} "
            if number == self.at:
                at = used
            role = "current" if number == self.at and self.has_focus else "label"
            spans += [(text, role), (" ", "")]
            used += width(text) + 1
            if used >= columns:
                break
        return Frame((tuple([span for span in spans if span[0]]),), (0, min(at + 1, columns)))

    def below(self, columns: int, rows: int) -> tuple[Frame, int] | None:
        """See ``Part``: the menu that is open, and those inside it beside it."""
        if not self.has_focus or not self.path:
            return None
        place = sum(width(title) + 3 for title, _ in self.menus[: self.at])
        whole = Frame(((),) * rows)
        hits: list[list[tuple[int, int, int, int]]] = [[] for _ in range(rows)]
        beside = high = before = 0  # the row of the entry that leads to a menu, and the first column of its menu
        for depth, entries in enumerate(self.open_menus()):
            labels = max(width(_marked(entry)) for entry in entries)
            besides = max(width(_beside(entry)) for entry in entries)
            wide = min(max(labels + besides + (BETWEEN if besides else 0) + 2 * EDGE, LEAST_WIDE), columns)
            if place + wide > columns:  # no room at the right
                place = before - wide + len(SIDE) if depth and before >= wide else columns - wide
            current = self.path[depth]
            first = max(min(current - rows + 1, len(entries) - rows), 0)
            seen = entries[first : first + rows]
            top = max(min(beside, rows - len(seen)), 0)
            made = []
            for row, entry in enumerate(seen, top):
                at = first + row - top
                made.append(self._row(entry, labels, wide, is_current=at == current))
                hits[row].insert(0, (place, place + wide, depth, at))
            whole = overlay(whole, Frame(tuple(made)), top, place, wide)
            high = max(high, top + len(seen))
            before, beside = place, top + current - first
            cursor = beside, min(place + EDGE, columns - 1)
            place += wide - len(SIDE)  # menus share the edge between them
        clicks = ClickMap(hits=tuple([tuple(row) for row in hits[:high]]))
        edge = max([right for row in hits for _, right, _, _ in row])
        return Frame(whole.rows[:high], cursor, clicks=clicks), edge

    def _row(self, entry: Any, labels: int, wide: int, *, is_current: bool) -> Row:
        """Return an entry, in a menu ``wide`` columns wide whose labels take ``labels`` of them."""
        label, beside = _marked(entry), _beside(entry)
        is_off = not isinstance(entry, tuple) and entry.reason
        role = "current" if is_current else "note" if is_off else ""
        text = f" {label}{' ' * (labels - width(label) + BETWEEN)}{beside}" if beside else f" {label}"
        room = wide - 2 * len(SIDE)
        return (SIDE, "hint"), (cut(text, room) + " " * (room - width(text)), role), (SIDE, "hint")

    def status(self) -> str:
        """See ``Widget``: what the entry does, or why it cannot be chosen."""
        opened = self.open_menus()
        if not opened:
            return ""
        entry = opened[-1][self.path[-1]]
        if isinstance(entry, tuple):
            return ""
        reason = entry.reason
        return tell("not now: {reason}", reason=visible(reason)) if reason else ""

    def hint_keys(self) -> str:
        """See ``Part``."""
        return tell("Enter: choose   arrows: move   Escape: back")

    LAYERS = ("rows", "tabs")
    ACTIONS: ClassVar[dict[str, str]] = {
        "move-up": "up",
        "move-down": "down",
        "move-char-back": "left",
        "move-char-forward": "right",
        "accept": "enter",
        "cancel": "cancel",
    }


def _label(entry: Any) -> str:
    return str(entry[0]) if isinstance(entry, tuple) else visible(entry.label)


def _marked(entry: Any) -> str:
    """Return the label of an entry, after its mark if it has one."""
    if isinstance(entry, tuple) or entry.marked is None:
        return _label(entry)
    is_on = entry.marked() if callable(entry.marked) else entry.marked
    return (MARK if is_on else NO_MARK) + _label(entry)


def _beside(entry: Any) -> str:
    """Return what is beside the label of an entry: its keys, what it does, or that there are more."""
    return FURTHER if isinstance(entry, tuple) else visible(entry.keys)


def _check(entry: MenuEntry) -> None:
    if isinstance(entry.action, (list, tuple)):
        raise DeclarationError(
            f"the action of {entry.label!r}={entry.action!r}: must be a function; "
            f"a menu in a menu is a mapping, {{{entry.label!r}: [...]}}"
        )
    function_or_none(f"the action of {entry.label!r}", entry.action)
    if not isinstance(entry.keys, str):
        raise DeclarationError(f'the keys of {entry.label!r}={entry.keys!r}: must be a text, such as "F8"')
    if not callable(entry.off) and not isinstance(entry.off, str):
        raise DeclarationError(f"{entry.label!r}, off={entry.off!r}: must be the reason, or a function that returns it")
    if not callable(entry.marked) and not isinstance(entry.marked, (bool, type(None))):
        raise DeclarationError(f"{entry.label!r}, marked={entry.marked!r}: must be true or false, or a function of it")


def _chosen(entry: MenuEntry) -> Any:
    """Do what an entry does; raises Refusal with the reason if it is off."""
    if reason := entry.reason:
        raise Refusal(reason)
    return entry.action() if entry.action is not None else None


def _key_of(entry: MenuEntry) -> str:
    """Return the name of the key that chooses an entry; empty if there is none, or if it is one of every screen."""
    name, fault = read_keys(entry.keys, types=False)
    return "" if fault or " " in name or name in OF_EVERY_SCREEN or entry.action is None else name


def _entries(title: object, given: Any) -> list[Any]:
    """Return the entries of a menu; a menu in it is its title with its entries."""
    made: list[Any] = []
    if not isinstance(given, (list, tuple)):
        raise DeclarationError(f"the menu {title!r} is {given!r}: must be a list of entries")
    for entry in given:
        if isinstance(entry, MenuEntry):
            _check(entry)
            made.append(entry)
        elif hasattr(entry, "items"):
            made += [(visible(str(inner)), _entries(inner, more)) for inner, more in entry.items()]
        else:
            raise DeclarationError(f"the menu {title!r} has {entry!r}: must be a MenuEntry, or a mapping of menus")
    if not made:
        raise DeclarationError(f"the menu {title!r} has no entries")
    return made


def menus_of(program: Program, group: CommandGroup, names: tuple[str, ...] = ()) -> dict[str, list[Any]]:
    """Return the commands of a program as menus: those at its top in a menu of its name, groups in one each."""
    own: list[Any] = []
    menus: dict[str, list[Any]] = {}
    for name in summaries(group):
        loaded = group.members[name].loaded
        path = (*names, name)
        if isinstance(loaded, CommandGroup):
            inner = menus_of(program, loaded, path)
            first = inner.pop(_titled(loaded.name), [])
            menus[_titled(name)] = [*first, *({title: entries} for title, entries in inner.items())]
        else:
            own.append(MenuEntry(_titled(name), _runs(program, path), keys=_short(summary_of(loaded))))
    return ({_titled(group.name): own} if own else {}) | menus


def _titled(name: str) -> str:
    """Return the name of a command as it is in a menu."""
    label = name.replace("-", " ")
    return label[:1].upper() + label[1:]


def _runs(program: Program, names: tuple[str, ...]) -> Callable[[], Any]:
    # Nobody can give it words there, so that all values are asked for, in one dialog.
    asking = copy(program)
    asking.wishes = {**program.wishes, "layout": "screen"}

    words = [*names, "--asking=all"]

    def run() -> Any:
        screen = dialogs.running_screen()
        if screen.is_async if screen is not None else _loop_runs():
            return run_beside(screen)
        with _result_shown(screen, _titled(names[-1])):
            (program if screen is None else asking).call(words)
        return None

    async def run_beside(screen: Running | None) -> None:
        with _result_shown(screen, _titled(names[-1])):
            await (program if screen is None else asking).call_async(words)

    return run


def _loop_runs() -> bool:
    """Return whether this is inside an event loop."""
    try:
        asyncio.get_running_loop()
    except RuntimeError:
        return False
    return True


@contextmanager
def _result_shown(screen: Running | None, title: str) -> Iterator[None]:
    """Show what a command prints, where no part shows it; nothing if its dialog was left, or there is no screen."""
    keeping: AbstractContextManager[list[str]] = nullcontext([]) if screen is None else screen.keeping_printed()
    try:
        with keeping as printed:
            yield
    except Problems as problems:
        if not all(one.missing for one in problems):
            raise
    else:
        if printed and screen is not None:
            dialogs.open_message(screen, "\n".join(printed), title, [tell("OK")])


def _short(summary: str) -> str:
    """Return what is said beside a command; nothing if it is long."""
    return summary if width(summary) <= 48 else ""
