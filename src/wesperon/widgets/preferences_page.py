"""The page of preferences: what holds, what it may be, and what it would look like, changed while the program runs."""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.frame import Frame, above, beside
from wesperon.screen.layout import CURRENT_MARK, foot_row, marked_gutter
from wesperon.screen.width import cut, width
from wesperon.text.messages import tell
from wesperon.widgets.preferences import MEANINGS, PREFERENCES
from wesperon.widgets.widget import Answered, SizeHint, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import ClassVar

    from wesperon.screen.frame import Row

#: The row below the preferences that says for whom they are kept.
KEEP = "keep"
#: Columns between a value and the sample, and those that the sample takes.
GAP, SAMPLED = 8, 34
#: A sample of every sort of text, in rows: what it is, and its role.
SAMPLE: tuple[tuple[tuple[str, str], ...], ...] = (
    (("target", "label"), ("  Lantern", ""), (" Nebula", "hint")),
    (("Lantern Nebula", "current"), ("  HOLLIN-051", "note")),
    (("[x] red ", "marked"), ("[ ] blue ", ""), ("bl", "match"), ("ue", "")),
    (("expose", "known"), (" ", ""), ("12,5", "fault"), ("  no number", "reason")),
    (("if", "keyword"), (" frames", "name"), (" == ", ""), ("12", "constant"), (': "sky"', "string")),
    (("Enter: accept", "foot"),),
)


class Chosen(Frozen):
    """What was changed on the page: the values by name, and the program that they are kept for.

    ``keeps_for`` is empty for all programs, None if they hold for this run only.
    """

    values: Mapping[str, str]
    keeps_for: str | None


class PreferencesPage(Widget):
    """Shows and changes preferences.

    ``values`` are those that hold, ``origins`` where each is from, ``program`` is the name of the program. ``tried`` is
    called with the values whenever one changes, so that everything on the screen follows; with the old ones if the page
    is left without taking the new ones. The outcome is a :class:`Chosen`.
    """

    FOOT = "Enter: accept   Up Down: move   Left Right: change   Ctrl-G: as before"

    def __init__(
        self,
        values: Mapping[str, str],
        origins: Mapping[str, str],
        program: str,
        tried: Callable[[Mapping[str, str]], None],
    ) -> None:
        super().__init__()
        self.old = dict(values)
        self.values = dict(values)
        self.origins = dict(origins)
        self.program = program
        self.tried = tried
        self.at = 0
        self.keeps = 0

    @property
    def names(self) -> list[str]:
        """The rows: the preferences, and for whom they are kept."""
        return [*PREFERENCES, KEEP]

    def keepers(self) -> list[tuple[str | None, str]]:
        """For whom the changes may be kept, and how that is called."""
        own = [(self.program, tell("for {program}", program=self.program))] if self.program else []
        return [(None, tell("for this run")), *own, ("", tell("for all programs"))]

    def size(self, columns: int) -> SizeHint:
        """Return a row for each preference, and two for what is said of them."""
        return SizeHint(20, 3, columns, len(self.names) + 2)

    def view(self, columns: int, rows: int) -> Frame:
        """Return the preferences, the sample beside them if there is room, and what the keys do."""
        if self.outcome is not None:
            return Frame(())
        gutter = max(map(width, self.names))
        room = max(width(value) for value in (*self.keepers_shown(), *(v for name in PREFERENCES for v in _all(name))))
        count = max(min(len(self.names), rows - 2), 1)
        first = max(self.at - count + 1, 0)
        listed = [self._row(at, name, gutter, columns) for at, name in enumerate(self.names)][first : first + count]
        frame = Frame(tuple(listed), (self.at - first, gutter) if self.has_focus else None)
        left = gutter + room + GAP
        if columns >= left + SAMPLED:
            frame = beside((frame, left), (Frame(SAMPLE[:count]), columns - left))
        below = (((cut(self._about(), columns), "note"),), foot_row(tell(self.FOOT), columns))
        return above(frame, Frame(below[: max(rows - count, 0)]))

    def _about(self) -> str:
        """Return what is said of the current row."""
        name = self.names[self.at]
        if name == KEEP:
            return tell("how long the changes hold")
        return tell("{what}; now from: {origin}", what=tell(MEANINGS[name]), origin=self.origins[name])

    def keepers_shown(self) -> list[str]:
        """Return how those are called for whom changes may be kept."""
        return [shown for _, shown in self.keepers()]

    def _row(self, at: int, name: str, gutter: int, columns: int) -> Row:
        value = self.keepers_shown()[self.keeps] if name == KEEP else self.values[name]
        is_changed = name in self.changed
        role = "current" if at == self.at else "marked" if is_changed else ""
        label = " " * (gutter - width(name)) + name
        mark = ((" *", "note"),) if is_changed else ()
        before = ((label, "label"), (" " * len(CURRENT_MARK), ""))
        shown = before if at != self.at else marked_gutter(before)
        return (*shown, (cut(value, max(columns - gutter - 2, 1)), role), *mark)

    def up(self) -> None:
        """To the row above."""
        self.at = (self.at - 1) % len(self.names)

    def down(self) -> None:
        """To the row below."""
        self.at = (self.at + 1) % len(self.names)

    def next_value(self) -> None:
        """Take the next value in the current row."""
        self._change(1)

    def value_before(self) -> None:
        """Take the value before in the current row."""
        self._change(-1)

    def _change(self, step: int) -> None:
        name = self.names[self.at]
        if name == KEEP:
            self.keeps = (self.keeps + step) % len(self.keepers())
            return
        values = _all(name)
        at = values.index(self.values[name]) if self.values[name] in values else 0
        self.values[name] = values[(at + step) % len(values)]
        self.tried(self.changed)

    @property
    def changed(self) -> dict[str, str]:
        """What is other than it was."""
        return {name: value for name, value in self.values.items() if value != self.old[name]}

    def enter(self) -> None:
        """Take what was changed."""
        self.outcome = Answered(Chosen(self.changed, self.keepers()[self.keeps][0]))

    def give_up(self) -> None:
        """Leave everything as it was."""
        self.tried({})
        self.outcome = Answered(Chosen({}, None))

    CHOOSES = True
    LAYERS: ClassVar[tuple[str, ...]] = ("menu", "preferences")
    ACTIONS: ClassVar[dict[str, str]] = {
        **dict.fromkeys(("move-up", "recall-older"), "up"),
        **dict.fromkeys(("move-down", "recall-newer"), "down"),
        **dict.fromkeys(("move-char-forward", "toggle-answer"), "next_value"),
        "move-char-back": "value_before",
        **dict.fromkeys(("accept", "accept-if-whole", "accept-unless-whole"), "enter"),
        **dict.fromkeys(
            ("cancel", "go-back", "show-preferences", "interrupt", "delete-char-forward-or-end"), "give_up"
        ),
        "clear-screen": "clear_screen",
    }


def _all(name: str) -> tuple[str, ...]:
    return PREFERENCES[name].values()
