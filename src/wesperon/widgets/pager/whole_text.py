"""A text that is in memory, whole, as the pager shows it; and the page of keys, which is one."""

from __future__ import annotations

from wesperon.editing.keys.action_help import ACTIONS
from wesperon.editing.keys.resolver import KeyResolver, spoken
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence


class WholeText:
    """A text with a ``name``, of which no more comes; see ``text_view.PagedSource``."""

    is_whole = True
    may_change = hurries = False
    version = 0
    said = ""

    def __init__(self, name: str, data: bytes) -> None:
        self.name = name
        self.data = data

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


def key_page(resolver: KeyResolver, actions: Sequence[str]) -> WholeText:
    """Return the page of what the keys of a resolver do, in the order of the ``actions``."""
    keys: dict[str, list[str]] = {}
    for key, name in resolver.keymap.table.items():
        if name in actions:
            keys.setdefault(name, []).append(spoken(key))
    rows = [("  ".join(keys[name]), tell(ACTIONS[name])) for name in actions if name in keys]
    gutter = max(len(shown) for shown, _ in rows) if rows else 0
    text = "".join(f"  {shown:>{gutter}}  {does}\n" for shown, does in rows)
    return WholeText(tell("keys"), text.encode())
