"""A widget around another one: what it does not do in a way of its own, the inner widget does."""

from __future__ import annotations

from wesperon.widgets.widget import Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.editing.keys.resolver import KeyResolver
    from wesperon.screen.frame import Frame, Row
    from wesperon.screen.theme import Theme
    from wesperon.values import Complaint
    from wesperon.widgets.widget import Effect, Growing, Outcome, SizeHint


class Delegate(Widget):
    """Hands everything on to the widget that it is around now, ``inner``; see :class:`Widget` for each member.

    It has nothing of its own: outcome, complaint and keys are those of the inner widget.
    """

    def __init__(self, inner: Widget) -> None:
        self.inner = inner

    @property
    def outcome(self) -> Outcome | None:
        """How the inner widget has ended."""
        return self.inner.outcome

    @outcome.setter
    def outcome(self, outcome: Outcome | None) -> None:
        self.inner.outcome = outcome

    @property
    def complaint(self) -> Complaint | None:
        """What is wrong with what was given so far."""
        return self.inner.complaint

    @complaint.setter
    def complaint(self, complaint: Complaint | None) -> None:
        self.inner.complaint = complaint

    def press(self, event: Event) -> Effect | None:
        """See ``Widget``."""
        return self.inner.press(event)

    def focus(self, gained: bool) -> None:
        """See ``Widget``."""
        self.inner.focus(gained)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        return self.inner.view(columns, rows)

    def drawn(self) -> None:
        """See ``Widget``."""
        self.inner.drawn()

    def echo(self) -> str:
        """See ``Widget``."""
        return self.inner.echo()

    def uses(self, key: str) -> bool:
        """See ``Widget``."""
        return self.inner.uses(key)

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        return self.inner.size(columns)

    def begins_beside(self) -> bool:
        """See ``Widget``."""
        return self.inner.begins_beside()

    def hides_question(self) -> bool:
        """See ``Widget``."""
        return self.inner.hides_question()

    def foot(self) -> str:
        """See ``Widget``."""
        return self.inner.foot()

    def status(self) -> str:
        """See ``Widget``."""
        return self.inner.status()

    @property
    def reader(self) -> KeyResolver | None:
        """See ``Widget``."""
        return self.inner.reader

    @property
    def pending(self) -> str:
        """See ``Widget``."""
        return self.inner.pending

    def record_text(self) -> str:
        """See ``Widget``."""
        return self.inner.record_text()

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """See ``Widget``."""
        return self.inner.record(columns, unit)

    def work(self) -> bool:
        """See ``Widget``."""
        return self.inner.work()

    @property
    def wants_pause(self) -> bool:
        """See ``Widget``."""
        return self.inner.wants_pause

    def pause(self) -> None:
        """See ``Widget``."""
        self.inner.pause()

    @property
    def growing(self) -> Sequence[tuple[Growing, int]]:
        """See ``Widget``."""
        return self.inner.growing

    @property
    def wakes_at(self) -> float | None:
        """See ``Widget``."""
        return self.inner.wakes_at

    @property
    def mode_label(self) -> str:
        """See ``Widget``."""
        return self.inner.mode_label

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        self.inner.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        self.inner.set_theme(theme)

    @property
    def text(self) -> str:
        """See ``Widget``."""
        return self.inner.text

    @property
    def syntax(self) -> Any:
        """See ``Widget``."""
        return self.inner.syntax

    @property
    def draft_text(self) -> str:
        """See ``Widget``."""
        return self.inner.draft_text

    def about(self, effect: Effect) -> Any:
        """See ``Widget``."""
        return self.inner.about(effect)

    def keep_draft(self) -> None:
        """See ``Widget``."""
        self.inner.keep_draft()

    def refuse(self, complaint: Complaint) -> None:
        """See ``Widget``."""
        self.inner.refuse(complaint)

    def returned(self, text: str | Complaint) -> None:
        """See ``Widget``."""
        self.inner.returned(text)
