"""Environment variables as a source."""

from __future__ import annotations

from wesperon.context import current
from wesperon.sources.source import Found, Source

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

    from wesperon.values.slots import Slot


class Environment(Source):
    """The variables that slots name with ``env=``."""

    origin = "env"

    def __init__(self, variables: Mapping[str, str] | None = None) -> None:
        self.variables = current().environ if variables is None else variables

    def find(self, slot: Slot[Any]) -> Found | None:
        """Return the text of the slot's variable."""
        text = self.variables.get(slot.env) if slot.env else None
        return None if text is None else Found(text, f"{slot.env} in the environment")
