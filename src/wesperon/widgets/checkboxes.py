"""Checkboxes: a menu in which several choices are marked."""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.menu import MARKED, Menu
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any, ClassVar

    from wesperon.values.kinds.choice_list import Choices


class Checkboxes(Menu):
    """Asks for some of several choices; ``accept`` takes the set of their places."""

    FOOT = "Enter: accept   Space: mark   Up Down: move   Type: filter   Ctrl-A: all or none   Ctrl-C: stop"
    FOOT_OF_COMMANDS = "Enter: accept   Space: mark   j k: move   /: filter   Ctrl-A: all or none   Ctrl-C: stop"
    MORE = (
        *Menu.MORE,
        ("Ctrl-A", "mark all that are listed, or none"),
        ("Ctrl-T", "invert the marks of all that are listed"),
        ("Ctrl-R", "mark everything from the last change to here"),
        ("Shift-Up Shift-Down", "extend the mark to the next one"),
    )
    comma = True

    def __init__(
        self,
        choices: Choices[Any],
        accept: Callable[[Any], Any],
        *,
        marked: Iterable[int] = (),
        complaint: Complaint | None = None,
    ) -> None:
        super().__init__(choices, accept, complaint=complaint)
        self.marked = set(marked)
        self.first_marks = frozenset(self.marked)
        #: The choice whose mark was changed last.
        self.changed: int | None = None

    def record_text(self) -> str:
        """Return the labels of what was chosen."""
        if not isinstance(self.outcome, Answered):
            return ""
        return ", ".join([self.choices.label(at) for at in sorted(self.marked)]) or tell("none")

    @property
    def draft_text(self) -> str:
        """The labels of what is marked, as the text that means them; empty as long as nothing was changed."""
        if self.marked == self.first_marks:
            return ""
        labels = [self.choices.label(at) for at in sorted(self.marked)]
        return ",".join([label.replace("\\", "\\\\").replace(",", "\\,") for label in labels])

    def _counts(self) -> list[str]:
        return [tell("{count} marked", count=f"{len(self.marked):,}")]

    def _mark(self, at: int, columns: int) -> str:
        return "" if columns <= MARKED else "[x] " if at in self.marked else "[ ] "

    def _role(self, at: int) -> str:
        return "marked" if at in self.marked else ""

    def change(self) -> None:
        """Mark the current choice, or take its mark away."""
        at = self.current
        if at < 0:
            return
        reason = self.choices.disabled(at)
        if reason and at not in self.marked:
            self.complaint = Complaint(tell("this one cannot be chosen: {reason}", reason=reason))
            return
        self.marked ^= {at}
        self.changed = at

    def change_all(self) -> None:
        """Mark all that are listed; if they are, take the marks away."""
        free = {at for at in self.listed if not self.choices.disabled(at)}
        self.marked = self.marked - free if free <= self.marked else self.marked | free

    def turn_over(self) -> None:
        """Mark those listed that are not, and only them."""
        self.marked ^= {at for at in self.listed if at in self.marked or not self.choices.disabled(at)}

    def change_range(self) -> None:
        """Give all from the last changed one to here the mark that it has, or has not."""
        listed = self.listed
        if self.changed is None or self.changed not in listed or not listed:
            self.change()
            return
        ends = sorted((listed.index(self.changed), min(self.at, len(listed) - 1)))
        self._become(self.changed in self.marked, listed[ends[0] : ends[1] + 1])

    def change_up(self) -> None:
        """Go up, with the mark of this one."""
        self._go_on(self.up)

    def change_down(self) -> None:
        """Go down, with the mark of this one."""
        self._go_on(self.down)

    def _go_on(self, move: Callable[[], None]) -> None:
        if self.listed:
            if self.changed is None:
                self.change()
            is_marked = self.current in self.marked
            move()
            self._become(is_marked, [self.current])

    def _become(self, is_marked: bool, places: Iterable[int]) -> None:
        if is_marked:
            self.marked |= {at for at in places if not self.choices.disabled(at)}
        else:
            self.marked -= set(places)

    def pick(self) -> None:
        """Mark it, or take its mark away."""
        self.change()

    def enter(self) -> None:
        """Accept what is marked, or say what is wrong with it."""
        self._try(set(self.marked))

    LAYERS: ClassVar[tuple[str, ...]] = ("menu", "checkboxes")
    ACTIONS: ClassVar[dict[str, str]] = {
        **Menu.ACTIONS,
        "toggle-mark": "change",
        "toggle-all-marks": "change_all",
        "invert-marks": "turn_over",
        "extend-marks": "change_range",
        "extend-mark-up": "change_up",
        "extend-mark-down": "change_down",
    }
