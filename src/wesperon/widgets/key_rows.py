"""What the keys of a page do, in rows: made of the keys that hold, so that those of the user are in it too."""

from __future__ import annotations

from wesperon.editing.keys.resolver import spoken
from wesperon.screen.table import entries
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping

    from wesperon.screen.frame import Row

#: The most keys that are shown of one action: the rest do the same.
MOST_KEYS = 3


def key_rows(table: Mapping[str, str], meanings: Mapping[str, str], columns: int) -> list[Row]:
    """Return what keys do, in the order of the ``meanings`` of actions; ``table`` is from keys to actions.

    Of several keys those are named that are pressed alone, and the shortest.
    """
    keys: dict[str, list[str]] = {}
    for key, action in table.items():
        keys.setdefault(action, []).append(spoken(key))
    return entries(
        [
            (", ".join(sorted(keys[action], key=_rank)[:MOST_KEYS]), tell(does))
            for action, does in meanings.items()
            if action in keys
        ],
        columns,
    )


def _rank(key: str) -> tuple[bool, int]:
    """Return whether a key is held together with another, and its length."""
    return "-" in key[1:], len(key)
