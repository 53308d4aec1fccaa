"""Bounds and patterns: what is wrong with a value outside of them. Loaded with the first such value."""

from __future__ import annotations

import re

from wesperon.text.messages import tell_many
from wesperon.values import Complaint, DeclarationError, quoted, tell
from wesperon.values.calls import call_with_optional_answers
from wesperon.values.examination import examine_value, is_reversed
from wesperon.values.phrases import bound_text

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.slots import Slot


def out_of_bounds(slot: Slot[Any], value: Any, text: str | None) -> Complaint:
    """Return the complaint about a value outside the bounds of its slot.

    ``text`` is what was given for it, if it was one.
    """
    length = slot.kind.bounded == "length"
    measure = len(value) if length else value
    shown = quoted(str(value) if text is None else text)
    unit = f" {slot.unit}" if slot.unit else ""
    try:
        over = slot.low is None or measure >= slot.low
        _ = slot.high is None or measure <= slot.high
    except TypeError:
        if getattr(value, "tzinfo", None) is None:
            return Complaint(tell("{value} has no time zone, unlike its bounds", value=shown))
        return Complaint(tell("{value} has a time zone, unlike its bounds", value=shown))
    low, high = (None if bound is None else bound_text(slot, bound) for bound in (slot.low, slot.high))
    if length:
        allowed = _length(slot.low, slot.high, over)
    elif low is not None and high is not None:
        allowed = tell("must be from {low} to {high}{unit}", low=low, high=high, unit=unit)
    elif over:
        allowed = tell("must be at most {value}{unit}", value=high, unit=unit)
    else:
        allowed = tell("must be at least {value}{unit}", value=low, unit=unit)
    reason = tell("{value} is {how}: {allowed}", value=shown, how=tell(slot.kind.beyond[over]), allowed=allowed)
    return Complaint(reason, slot.high if over and length else None)


def _length(low: int | None, high: int | None, over: bool) -> str:
    """Return how many characters a text must have, one that is longer than ``high`` if it is ``over``."""
    if low is not None and high is not None and low != high:
        return tell("must have {low} to {high} characters", low=low, high=high)
    if low is not None and low == high:
        return tell_many("must have {count} character", "must have {count} characters", low)
    if over:
        return tell_many("must have at most {count} character", "must have at most {count} characters", high or 0)
    return tell_many("must have at least {count} character", "must have at least {count} characters", low or 0)


def resolve_bounds(slot: Slot[Any], answers: object) -> None:
    """Return a slot whose bounds are what its functions of the ``answers`` give.

    Raises Complaint if no value is within them, and DeclarationError for what is no bound.
    """
    for name in ("low", "high"):
        given = getattr(slot, name)
        if callable(given):
            bound = call_with_optional_answers(given, answers)
            if bound is not None:
                try:
                    examine_value(bound, int if slot.kind.bounded == "length" else None, slot.kind)
                except DeclarationError as error:
                    raise DeclarationError(f"{name} of {slot.name}: {error}") from None
            setattr(slot, name, bound)
    if slot.low is not None and slot.high is not None and is_reversed(slot):
        low, high = bound_text(slot, slot.low), bound_text(slot, slot.high)
        raise Complaint(
            tell("no value is possible with the values before it: must be from {low} to {high}", low=low, high=high)
        )


def examine_pattern(pattern: Any) -> None:
    """Raise DeclarationError for what is no regular expression."""
    try:
        re.compile(pattern)
    except (re.error, TypeError, ValueError, OverflowError, RecursionError) as error:
        raise DeclarationError(f"pattern={pattern!r} is no regular expression: {error}") from None


def check_pattern(pattern: Any, value: str, says: str = "") -> None:
    """Raise Complaint unless the whole of a text matches a regular expression; ``says`` is what that is in words."""
    if re.fullmatch(pattern, value) is None:
        if says:
            raise Complaint(tell("{value} is not valid: must be {wanted}", value=quoted(value), wanted=says))
        form = getattr(pattern, "pattern", pattern)
        raise Complaint(tell("{value} does not match the pattern {form}", value=quoted(value), form=form))
