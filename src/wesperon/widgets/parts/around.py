"""A part around another widget: what it does not do in a way of its own, the inner widget does."""

from __future__ import annotations

from wesperon.widgets.parts.part import Part

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.screen.frame import Frame
    from wesperon.screen.theme import Theme
    from wesperon.values import Complaint
    from wesperon.widgets.widget import Effect


class Around(Part):
    """Shows an ``inner`` widget, which it hands everything on to that a driver or a screen may ask for.

    Keys are not handed on: which of them are the widget's own, and what its outcome means, each part knows.
    """

    rolls = True
    if TYPE_CHECKING:
        #: The widget; a part that makes it when it is wanted has a property.
        inner: Any

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        frame: Frame = self.inner.view(columns, rows)
        return frame

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        super().bind(bindings)
        self.inner.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        super().set_theme(theme)
        self.inner.set_theme(theme)

    def drawn(self) -> None:
        """See ``Widget``."""
        self.inner.drawn()

    def work(self) -> bool:
        """See ``Widget``."""
        return bool(self.inner.work())

    @property
    def growing(self) -> Any:
        """See ``Widget``."""
        return self.inner.growing

    @property
    def text(self) -> str:
        """See ``Widget``."""
        return str(self.inner.text)

    @property
    def syntax(self) -> Any:
        """See ``Widget``."""
        return self.inner.syntax

    def about(self, effect: Effect) -> Any:
        """See ``Widget``."""
        return self.inner.about(effect)

    def returned(self, text: str | Complaint) -> None:
        """See ``Widget``."""
        self.inner.returned(text)

    def refuse(self, complaint: Complaint) -> None:
        """See ``Widget``."""
        self.inner.refuse(complaint)

    @property
    def reader(self) -> Any:
        """See ``Widget``."""
        return self.inner.reader

    @property
    def pending(self) -> str:
        """See ``Widget``."""
        return str(self.inner.pending)
