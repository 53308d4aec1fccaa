"""Error messages for texts that are no values: of numbers, with the offset of the fault, and of other kinds."""

from __future__ import annotations

from wesperon.values import Complaint, quoted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.kind import Kind


def no_value(kind: Kind[Any], text: str, position: int | None = None, *, hint: str = "") -> Complaint:
    """Return the complaint about a text that is no value of a kind; ``hint`` says why."""
    reason = tell(
        "{text} is not {wanted}, such as {example}", text=quoted(text), wanted=kind.wants, example=kind.example
    )
    return Complaint(reason + hint, position)


def number_fault(kind: Kind[Any], text: str, detail: str = "", *, fraction: bool) -> Complaint:
    """Return the complaint about a text that is not a number, with the offset of the first wrong character."""
    if "digits" in detail and "limit" in detail:
        return Complaint(
            tell(
                "{text} has {count:,} digits: too many for a whole number here",
                text=quoted(text),
                count=len(text),
            )
        )
    position = _first_misfit(text, fraction)
    hint = tell("such as {example}", example=kind.example)
    if not fraction and text[position : position + 1] in ".,":
        hint = tell("{hint}, with no fraction", hint=hint)
    return Complaint(tell("{text} is not {wanted}, {hint}", text=quoted(text), wanted=kind.wants, hint=hint), position)


def check_digits(value: int) -> None:
    """Raise Complaint for an integer with more digits than Python converts to text."""
    try:
        str(value)
    except ValueError:
        digits = int(value.bit_length() * 0.30103) + 1
        raise Complaint(
            tell("the value has about {count:,} digits: too many for a whole number here", count=digits)
        ) from None


def _first_misfit(text: str, fraction: bool) -> int:
    """Return the offset of the first character with which the text stops being the beginning of a number.

    The grammar is that of Python's literals: sign, digits with single ``_`` between them and, for numbers with a
    fraction, a point and an exponent.
    """
    at = 1 if text[:1] in ("+", "-") else 0
    point = exponent = False
    digit_before = False
    while at < len(text):
        char = text[at]
        if char.isdecimal():
            digit_before = True
        elif char == "_" and digit_before and text[at + 1 : at + 2].isdecimal():
            digit_before = False
        elif fraction and char == "." and not point and not exponent:
            point = True
            digit_before = digit_before or text[at + 1 : at + 2].isdecimal()
        elif fraction and char in "eE" and not exponent and digit_before:
            exponent = True
            digit_before = False
            if text[at + 1 : at + 2] in ("+", "-"):
                at += 1
        else:
            return at
        at += 1
    return at
