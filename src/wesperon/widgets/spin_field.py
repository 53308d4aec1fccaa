"""A line whose value goes up and down by keys: numbers by a unit, dates by a day. Anything may be typed as well."""

from __future__ import annotations

from wesperon.editing.text_state import whole
from wesperon.widgets.line import Line

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any, ClassVar

#: How many units the keys for pages go.
PAGE = 10


class SpinField(Line):
    """Asks for a value that has a next one; ``step`` gives the text of the value that is a number of units further."""

    FOOT = "Enter: accept   Up Down: change   Ctrl-C: stop"

    def __init__(self, *given: Any, step: Callable[[str, int], str], **settings: Any) -> None:
        self.step = step
        super().__init__(*given, **settings)

    def _go(self, units: int) -> None:
        self.editor.become(whole(self.step(self.draft.text, units)))

    def higher(self) -> None:
        """Go one unit up."""
        self._go(1)

    def lower(self) -> None:
        """Go one unit down."""
        self._go(-1)

    def much_higher(self) -> None:
        """Go ten units up."""
        self._go(PAGE)

    def much_lower(self) -> None:
        """Go ten units down."""
        self._go(-PAGE)

    ACTIONS: ClassVar[dict[str, str]] = {
        **Line.ACTIONS,
        "recall-older": "higher",
        "recall-newer": "lower",
        "move-page-up": "much_higher",
        "move-page-down": "much_lower",
    }
