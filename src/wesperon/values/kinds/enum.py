"""Enum classes as kinds: a menu of their members, each labelled with its value."""

from __future__ import annotations

from wesperon.values.kinds.choices import Choices, OneOf

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any


def make(given: Any, settings: Mapping[str, Any]) -> OneOf[Any]:
    """Return the kind of an ``Enum`` class."""
    return OneOf(Choices(list(given)))
