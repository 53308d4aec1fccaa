"""The history as a page: earlier entries to look through, and to put together to the next input.

The entries are in the order in which they were made, the newest at the bottom, where it opens. What is typed filters
them. Nothing but what is in sight is looked for (``editing.history_view.Past``): a step up or down costs one step of a
search, whatever the size of the history.

    typing      narrows the list to the entries that hold the text
    Tab         picks the current entry, or no longer; the order of picking is that of the next input
    Enter       the value: the entries that were picked, a line each, else the current one
    Delete      removes the current entry for good, once it is confirmed
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.frame import ClickMap, Frame
from wesperon.screen.layout import CURRENT_MARK, foot_row
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell, tell_many
from wesperon.values import Complaint
from wesperon.widgets.filtering import marked
from wesperon.widgets.key_rows import key_rows
from wesperon.widgets.typed_row import Page
from wesperon.widgets.widget import Answered, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import ClassVar

    from wesperon.editing.history_view import Entry, Past
    from wesperon.editing.keys.events import Event, Mouse
    from wesperon.screen.frame import Row

#: The most rows that show what was put together.
MOST_BELOW = 6
#: What stands for a line end inside an entry that is shown in one row.
LINE_END = " \\n "
FOOT = "Enter: accept   Tab: pick   Delete: remove   F1: all keys   Ctrl-G: back"
FOOT_OF_HELP = "any key: back"
FOOT_OF_REMOVAL = "Enter: remove all entries of this text for good   any other key: keep"


MEANINGS: dict[str, str] = {
    "toggle-mark": "pick the current entry, or no longer",
    "accept-if-whole": "take what was picked, else the current entry, as the next input",
    "move-up": "the entry before",
    "move-down": "the entry after",
    "move-page-up": "a screen back",
    "move-page-down": "a screen on",
    "move-text-start": "the oldest entry",
    "move-text-end": "the newest entry",
    "delete-text-whole": "no filter",
    "keep-favourite": "keep the text as a favourite, or no longer",
    "toggle-favourites": "only favourites, or all entries again",
    "remove-entry": "remove all entries of the text for good, once that is confirmed",
    "write-entries": "write what was picked to a file of commands",
    "cancel": "back, with nothing",
}


class PutTogether(Frozen):
    """The value: the ``text`` of the next input, which is empty if nothing was picked."""

    text: str


class HistoryPage(Page):
    """Shows the entries of a ``past``.

    ``write`` writes texts to a file of commands by its name, and raises Complaint if that fails; None if there are no
    such files. The value is a :class:`PutTogether`.
    """

    def __init__(self, past: Past, *, write: Callable[[str, list[str]], object] | None = None) -> None:
        super().__init__()
        self.entries = past
        self.write = write
        past.load()
        self.needle = ""
        #: Whether only those are shown that are kept as favourites.
        self.only_favourites = False
        #: What was picked, in that order.
        self.picked: list[Entry] = []
        self.message = ""
        #: Whether a removal is to be confirmed; whether the page of keys is shown.
        self.removes = self.shows_help = False
        #: The entries in sight, the oldest first, and the place of the current one among them.
        self.sight: list[Entry] = []
        self.place = 0
        self._version = past.version
        self._room = 10
        self._fill()

    # The list --------------------------------------------------------------------------------------------------------

    def older(self, entry: Entry | None) -> Entry | None:
        """Return the entry before one that is listed; the newest for None."""
        while (entry := self.entries.older(entry, self.needle, begins=False, seen=())) is not None:
            if not self.only_favourites or self.entries.is_favourite(entry.text):
                return entry
        return None

    def _newer(self, entry: Entry) -> Entry | None:
        """Return the entry after one that is listed."""
        while (found := self.entries.newer(entry, self.needle, begins=False, seen=())) is not None:
            if not self.only_favourites or self.entries.is_favourite(found.text):
                return found
            entry = found
        return None

    def _heed_removals(self) -> None:
        """List what is there by now, if something was removed: the current entry, else one as near to it as can be."""
        if self._version == self.entries.version:
            return
        self._version = self.entries.version
        self.picked = [found for one in self.picked if (found := self.entries.find(one)) is not None]
        near = [*self.sight[self.place :], *reversed(self.sight[: self.place])]
        current = next((found for one in near if (found := self.entries.find(one)) is not None), None)
        if current is None:
            self._fill()
        else:
            self.sight, self.place = [current], 0

    def _fill(self) -> None:
        """List from the newest entry on, which is the current one."""
        self.sight = []
        while len(self.sight) < self._room:
            found = self.older(self.sight[0] if self.sight else None)
            if found is None:
                break
            self.sight.insert(0, found)
        self.place = max(len(self.sight) - 1, 0)

    def _fit(self, room: int) -> None:
        """Have as many entries in sight as there is room for, the current one among them."""
        self._room = room
        while len(self.sight) > room:
            if self.place > 0:
                del self.sight[0]
                self.place -= 1
            else:
                del self.sight[-1]
        while self.sight and len(self.sight) < room:
            if (found := self._newer(self.sight[-1])) is not None:
                self.sight.append(found)
            elif (found := self.older(self.sight[0])) is not None:
                self.sight.insert(0, found)
                self.place += 1
            else:
                break

    @property
    def current(self) -> Entry | None:
        """The entry that keys are about."""
        return self.sight[self.place] if self.sight else None

    def _go(self, by: int) -> None:
        for _ in range(abs(by)):
            if by < 0 and self.place > 0:
                self.place -= 1
            elif by > 0 and self.place < len(self.sight) - 1:
                self.place += 1
            elif self.sight:
                found = self.older(self.sight[0]) if by < 0 else self._newer(self.sight[-1])
                if found is None:
                    break
                if by < 0:
                    self.sight = [found, *self.sight[: self._room - 1]]
                else:
                    self.sight = [*self.sight[-self._room + 1 :], found] if self._room > 1 else [found]
                    self.place = len(self.sight) - 1

    # Events ----------------------------------------------------------------------------------------------------------

    def handle(self, event: Event) -> None:
        """See ``Widget``; any event ends what was said."""
        self._heed_removals()
        self.message = ""
        super().handle(event)

    def do(self, action: object) -> None:
        """See ``Widget``; a removal is confirmed with Enter alone."""
        if self.shows_help:
            self.shows_help = False
            return
        removes, self.removes = self.removes, False
        name = getattr(action, "name", "")
        if removes:
            if self.ACTIONS.get(name) == "enter":
                self._remove()
            return
        super().do(action)  # type: ignore[arg-type]

    def type(self, text: str, times: int = 1) -> None:
        """Make the text longer that entries must hold."""
        self.seek(self.needle + text * max(times, 0))

    def paste(self, text: str) -> None:
        """See ``type``."""
        self.seek(self.needle + text)

    def shorter(self) -> None:
        """Make the text shorter by a character."""
        self.seek(self.needle[:-1])

    def every(self) -> None:
        """Filter by nothing."""
        self.seek("")

    def seek(self, needle: str) -> None:
        """Filter by another text."""
        self.needle = needle
        self._fill()

    def click(self, event: Mouse) -> None:
        """Make the entry under the mouse the current one; pick it if it is."""
        if isinstance(event.hit, int) and event.hit < len(self.sight):
            if self.place == event.hit:
                self.pick()
            else:
                self.place = event.hit

    def wheel(self, by: int) -> None:
        """Go up or down."""
        self._go(by)

    def up(self) -> None:
        """To the entry before."""
        self._go(-self.action.times)

    def down(self) -> None:
        """To the entry after."""
        self._go(self.action.times)

    def page_up(self) -> None:
        """Up by a screen."""
        self._go(-self.action.times * max(self._room, 1))

    def page_down(self) -> None:
        """Down by a screen."""
        self._go(self.action.times * max(self._room, 1))

    def first(self) -> None:
        """To the oldest entry that is listed."""
        oldest = self.entries.oldest()
        if oldest is None:
            return
        listed = self.needle in oldest.text and (not self.only_favourites or self.entries.is_favourite(oldest.text))
        start = oldest if listed else self._newer(oldest)
        if start is not None:
            self.sight, self.place = [start], 0

    def last(self) -> None:
        """To the newest entry."""
        self._fill()

    # What is done with an entry --------------------------------------------------------------------------------------

    def pick(self) -> None:
        """Pick the current entry, or no longer."""
        current = self.current
        if current is None:
            return
        if current in self.picked:
            self.picked.remove(current)
        else:
            self.picked.append(current)

    def keep(self) -> None:
        """Keep the current entry as a favourite, or no longer."""
        if self.current is not None:
            self.entries.keep_favourite(self.current.text, not self.entries.is_favourite(self.current.text))

    def favourites(self) -> None:
        """Show only favourites, or all entries again."""
        self.only_favourites = not self.only_favourites
        self._fill()

    def remove(self) -> None:
        """Ask whether the current entry is to be removed."""
        self.removes = self.current is not None

    def _remove(self) -> None:
        current = self.current
        if current is None:
            return
        try:
            count = self.entries.remove(current.text)
        except OSError as error:
            self.message = tell("nothing is removed: {why}", why=visible(error.strerror or type(error).__name__))
            return
        self.message = tell_many("{count} entry removed", "{count} entries removed", count)

    def write_down(self) -> None:
        """Type the name of a file of commands to which what was picked is written."""
        write, texts = self.write, self._texts()
        if write is None or not texts:
            return

        def read(text: str) -> Callable[[], object]:
            if not text.strip():
                raise Complaint(tell("must be the name of a file"))
            write(text.strip(), texts)
            return lambda: setattr(self, "message", tell("written to {name}", name=visible(text.strip())))

        self.ask(tell("Write to the file"), read)

    def _texts(self) -> list[str]:
        if self.picked:
            return [entry.text for entry in self.picked]
        return [self.current.text] if self.current is not None else []

    def enter(self) -> None:
        """Accept what was put together."""
        self.outcome = Answered(PutTogether("\n".join(self._texts())))

    def give_up(self) -> None:
        """Leave with nothing."""
        self.outcome = Answered(PutTogether(""))

    def interrupt(self) -> None:
        """Leave for good."""
        self.outcome = Interrupted()

    def show_help(self) -> None:
        """Show what the keys do, until another key."""
        self.shows_help = True

    # View ------------------------------------------------------------------------------------------------------------

    def view(self, columns: int, rows: int) -> Frame:
        """Return the entries, what was put together, the filter and the foot."""
        if self.outcome is not None:
            return Frame(())
        self._heed_removals()
        if self.shows_help:
            keys = key_rows(self.resolver.keymap.table, MEANINGS, columns)[: max(rows - 1, 1)]
            return Frame((*keys, foot_row(tell(FOOT_OF_HELP), columns)), (0, 0))
        below = self._below(columns, max(rows // 3, 1) if rows > 4 else 0)
        self._fit(max(rows - len(below) - (2 if rows > 2 else 1), 1))
        listed = [self._row(at, entry, columns) for at, entry in enumerate(self.sight)]
        hits: list[object] = list(range(len(listed)))
        missing = self._room - len(listed)
        made: list[Row] = [*[() for _ in range(missing)], *listed, *below]
        place = (missing + self.place if listed else 0, 0)
        if rows > 2:
            label = tell("Filter")
            text = visible(self.needle)
            made.append((("  " + label + "  ", "label"), (cut(text, max(columns - width(label) - 6, 1)), "")))
        if rows > 1:
            if self.typed is not None:
                row, cursor = self.typed.view(columns)
                return Frame((*made, row), (len(made), cursor))
            made.append(self._foot(columns))
        return Frame(tuple(made[:rows]), place, clicks=ClickMap(hits=(*[None] * missing, *hits)))

    def _row(self, at: int, entry: Entry, columns: int) -> Row:
        """Return the row of an entry: its time and status, whether it is picked, its text."""
        time, status = self.entries.details(entry)
        is_current = at == self.place
        before = CURRENT_MARK if is_current else " " * len(CURRENT_MARK)
        number = f"[{self.picked.index(entry) + 1}]" if entry in self.picked else ""
        stamp = "{:04}-{:02}-{:02} {:02}:{:02}".format(*time[:5]) if time else " " * 16
        shown_status = "" if status is None else str(status)
        favourite = "*" if self.entries.is_favourite(entry.text) else " "
        head: Row = (
            (before, "current" if is_current else ""),
            (stamp, "note"),
            (f" {shown_status:>3} ", "reason" if status else "note"),
            (f"{favourite}{number:<4}", "marked"),
        )
        text = cut(entry.text.replace("\n", LINE_END), max(columns - sum(len(part) for part, _ in head) - 1, 1))
        needle = [self.needle.casefold()] if self.needle else []
        role, match = ("current", "current-match") if is_current else ("", "match")
        return (*head, *marked(text, needle, role, match))

    def _below(self, columns: int, room: int) -> list[Row]:
        """Return what was put together, under a rule."""
        if not self.picked or not room:
            return []
        title = tell("Next input")
        rows: list[Row] = [((f"  {title}", "title"),)]
        lines = [line for entry in self.picked for line in entry.text.split("\n")]
        most = min(MOST_BELOW, max(room - 1, 1))
        rows += [((cut("    " + visible(line), columns - 1), ""),) for line in lines[:most]]
        if len(lines) > most:
            rows[-1] = ((cut("    ...", columns - 1), "note"),)
        return rows

    def _foot(self, columns: int) -> Row:
        if self.removes:
            return ((cut("  " + tell(FOOT_OF_REMOVAL), columns - 1), "reason"),)
        if self.message:
            return ((cut("  " + self.message, columns - 1), "note"),)
        said = tell("favourites") if self.only_favourites else ""
        if not self.sight:
            said = tell("no entry holds this") if self.needle else tell("nothing was entered")
        return foot_row(tell(FOOT), columns, said)

    LAYERS: ClassVar[tuple[str, ...]] = ("history",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **dict.fromkeys(("move-up", "recall-older"), "up"),
        **dict.fromkeys(("move-down", "recall-newer"), "down"),
        "move-page-up": "page_up",
        "move-page-down": "page_down",
        **dict.fromkeys(("move-text-start", "recall-oldest", "move-line-start"), "first"),
        **dict.fromkeys(("move-text-end", "recall-newest", "move-line-end"), "last"),
        "delete-char-back": "shorter",
        "delete-text-whole": "every",
        "toggle-mark": "pick",
        "remove-entry": "remove",
        "keep-favourite": "keep",
        "toggle-favourites": "favourites",
        "write-entries": "write_down",
        **dict.fromkeys(("accept", "accept-if-whole", "accept-unless-whole"), "enter"),
        **dict.fromkeys(("cancel", "go-back", "delete-char-forward-or-end", "show-history"), "give_up"),
        "interrupt": "interrupt",
        "clear-screen": "clear_screen",
        "show-help": "show_help",
    }
