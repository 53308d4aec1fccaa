"""How the values that a program wants are put into words."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.core.slots import Slot


def hint(slot: Slot[Any]) -> str:
    """What is wanted, in a few words: the kind and its bounds."""
    unit = f" {slot.unit}" if slot.unit else ""
    low, high = slot.low, slot.high
    wanted = slot.kind.wanted
    if slot.several:
        return f"{wanted}; several with blanks between"
    if slot.kind.bounded == "length" or (low is None and high is None):
        return "" if wanted == "text" else wanted + unit
    if high is None:
        return f"{wanted}, {slot.kind_text(low)}{unit} or more"
    if low is None:
        return f"{wanted}, {slot.kind_text(high)}{unit} or less"
    return f"{wanted} from {slot.kind_text(low)} to {slot.kind_text(high)}{unit}"


def in_words(slot: Slot[Any]) -> str:
    """How the slot is given on the command line, with a placeholder for the value."""
    return f"--{slot.word}" if slot.kind.is_switch else f"--{slot.word}={slot.kind.placeholder}"


def secret_places(slot: Slot[Any]) -> str:
    """Where a secret may come from instead of the command line."""
    places = ["an answers file (--answers)", "an answer at the terminal"]
    if slot.piped:
        places.insert(0, "standard input")
    if slot.env:
        places.insert(0, f"{slot.env} in the environment")
    return "it may come from " + ", ".join(places[:-1]) + " or " + places[-1]
