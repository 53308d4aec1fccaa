"""Usage lines: how a command is called, in the notation of POSIX (Base Definitions, 12.1)."""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.values import MISSING
from wesperon.values.slots import VERBATIM

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.values import rules
    from wesperon.values.slots import Slot
else:
    rules = later("wesperon.values.rules")


def usage(program: Sequence[str], slots: Mapping[str, Slot[Any]], shared: Mapping[str, Slot[Any]] | None = None) -> str:
    """Return a command line in the notation of POSIX (Base Definitions, 12.1): what is in brackets can be left out.

    Positions come first, but where words are kept as they are. A value before one that is required cannot be left out
    by position, even if it has a default. Of the ``shared`` values those are in it that are required. A secret that no
    word may hold is not.
    """
    placed = operands(slots)
    named = {
        name: _in_usage(slot)
        for name, slot in slots.items()
        if slot.named_only and slot.secret is not True and (slot.is_listed or is_required(slot))
    }
    required = {
        name: _in_usage(slot)
        for name, slot in (shared or {}).items()
        if slot.secret is not True and ((slot.rules and slot.is_listed) or is_required(slot))
    }
    has_last = any(slot.rest == VERBATIM for slot in slots.values())
    shown = {**named, **required, **placed} if has_last else {**placed, **named, **required}
    return " ".join([*program, *_grouped({**(shared or {}), **slots}, shown)])


def _grouped(slots: Mapping[str, Slot[Any]], shown: Mapping[str, str]) -> list[str]:
    """Return how some slots are given, those of one rule together: ``A|B``, ``[A|B]``, ``[A B]``."""
    if not any(slot.rules for slot in slots.values()):
        return [*shown.values()]
    found: list[str] = []
    left = dict(shown)
    joining = [rule for rule in rules.rules_of(slots) if rule.joint]
    for name, text in shown.items():
        if name not in left:
            continue
        rule = next((rule for rule in joining if name in rule.names), None)
        names = [name] if rule is None else [one for one in rule.names if one in left]
        parts = [left.pop(one) for one in names]
        if rule is None:
            found.append(text)
        else:
            inside = rule.joint.join([part[1:-1] if part.startswith("[") else part for part in parts])
            found.append(inside if rule.is_required else f"[{inside}]")
    return found


def _in_usage(slot: Slot[Any]) -> str:
    """Return a value by its name, in brackets if it may be left out; of a switch the name that changes something."""
    name = slot.shape.names(slot)[-1 if slot.default is True else 0] + slot.shape.ellipsis
    return name if is_required(slot) else f"[{name}]"


def operands(slots: Mapping[str, Slot[Any]]) -> dict[str, str]:
    """Return what of these is given by position, by their names: ``TARGET``, ``[SECONDS]``, ``[FILE...]``.

    Those that are left out of help are left out at the end, where nothing has to be counted past them.
    """
    by_position = [slot for slot in slots.values() if not slot.named_only]
    while by_position and not by_position[-1].is_listed and not is_required(by_position[-1]):
        by_position.pop()
    last = max((at for at, slot in enumerate(by_position) if is_required(slot)), default=-1)
    shown = {}
    for at, slot in enumerate(by_position):
        name = slot.word.upper() + ("..." if slot.rest else "")
        shown[slot.name] = name if is_required(slot) or (at < last and not slot.rest) else f"[{name}]"
    return shown


def is_required(slot: Slot[Any]) -> bool:
    """Return True if a value must come from somewhere."""
    return slot.default is MISSING and slot.applies is None and slot.shape.none(slot) is MISSING
