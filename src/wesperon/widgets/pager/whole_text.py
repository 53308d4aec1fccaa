"""A text that is in memory, whole, as the pager shows it."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.widgets.pager.pieces import Bytes


class WholeText:
    """A text with a ``name`` that is there already; see ``text_view.PagedSource``."""

    is_whole = True
    may_change = hurries = False

    def __init__(self, name: str, data: Bytes) -> None:
        self.name = name
        self.data = data
        self.version = 0
        self.said = ""

    @property
    def count(self) -> int:
        """How many bytes there are."""
        return len(self.data)

    def pull(self, count: int) -> bool:
        """Return False: all is there."""
        return False

    def look(self) -> bool:
        """Return False: it never changes."""
        return False

    def read_again(self) -> None:
        """Do nothing: there is nothing else."""
