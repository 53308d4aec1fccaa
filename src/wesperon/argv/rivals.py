"""Positions that step aside: another slot has taken their place. Loaded if slots of a form go together."""

from __future__ import annotations

from wesperon.values import Complaint
from wesperon.values.rules import is_given, rivals_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping
    from typing import Any

    from wesperon.argv import ParsedArgs
    from wesperon.values.slots import Slot


def without_rivals(
    reading: ParsedArgs, positions: Iterable[Slot[Any]], slots: Mapping[str, Slot[Any]]
) -> list[Slot[Any]]:
    """Return the positions that words can fill: one of which a rival was named, or is a position before it, cannot."""
    taken = named(reading, slots)
    left = []
    for slot in positions:
        if not rivals_of(slot) & taken:
            left.append(slot)
            taken.add(slot.name)
    return left


def named(reading: ParsedArgs, slots: Mapping[str, Slot[Any]]) -> set[str]:
    """Return the slots that words give a value, by name so far; a switch that is denied has none."""
    return {name for name in reading.given if _says_something(slots[name], [one.text for one in reading.given[name]])}


def _says_something(slot: Slot[Any], texts: list[str]) -> bool:
    if slot.shape.takes_text:
        return not slot.shape.splits or any(not slot.is_blank(text) for text in texts)
    try:
        return is_given(slot, slot.combine(texts if slot.shape.counts else texts[-1:]))
    except Complaint:  # it was meant to say something
        return True
