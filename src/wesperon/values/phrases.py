"""How the values that a program wants are put into words."""

from __future__ import annotations

from wesperon.text.escape import quoted
from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.values.kind import FloatKind, IntKind

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.slots import Slot


def hint(slot: Slot[Any], *, one: bool = False) -> str:
    """Return what is wanted in a few words: the kind, its bounds. ``one``: of one value, if there may be several."""
    wanted = _bounded(slot, one=one)
    if slot.initial is not None:
        return wanted
    return tell("{wanted}; may stay empty", wanted=wanted) if wanted else tell("may stay empty")


def _bounded(slot: Slot[Any], *, one: bool) -> str:
    unit = f" {slot.unit}" if slot.unit else ""
    low, high = (None if callable(bound) else bound for bound in (slot.low, slot.high))
    wanted = slot.kind.wants
    if slot.shape.splits and not one:
        count = count_of(slot.least, slot.most)
        if slot.many:
            said = tell("{wanted}; may be given several times", wanted=wanted)
        else:
            said = tell("{wanted}; several, separated by blanks", wanted=wanted)
        return f"{said}, {count}" if count else said
    if callable(slot.low) or callable(slot.high):
        return tell("{wanted}{unit}; its bounds depend on other values", wanted=wanted, unit=unit)
    if slot.pattern_says:
        return str(slot.pattern_says)
    if slot.kind.bounded == "length" or (low is None and high is None):
        if slot.kind.bounded == "length":
            return length_of(low, high)
        return tell("{wanted} in {unit}", wanted=wanted, unit=slot.unit) if unit else wanted
    if high is None:
        return tell("{wanted}, {low}{unit} or more", wanted=wanted, low=bound_text(slot, low), unit=unit)
    if low is None:
        return tell("{wanted}, {high}{unit} or less", wanted=wanted, high=bound_text(slot, high), unit=unit)
    return tell(
        "{wanted} from {low} to {high}{unit}",
        wanted=wanted,
        low=bound_text(slot, low),
        high=bound_text(slot, high),
        unit=unit,
    )


def count_of(least: int, most: int | None) -> str:
    """Return how many values there may be; empty if any number will do."""
    if most is None:
        return tell("at least {least}", least=least) if least else ""
    if least == most:
        return tell("exactly {count}", count=least)
    return tell("{least} to {most}", least=least, most=most) if least else tell("at most {most}", most=most)


def length_of(low: int | None, high: int | None) -> str:
    """Return how long a text may be; empty if any length will do."""
    if high is None:
        if low == 0:
            return tell("may be empty")
        return tell("at least {count} characters", count=low) if low and low > 1 else ""
    if low == high:
        return tell("exactly {count} characters", count=high)
    if low and low > 1:
        return tell("{low} to {high} characters", low=low, high=high)
    return tell("at most {count} characters", count=high)


def bound_text(slot: Slot[Any], bound: Any) -> str:
    """Return a bound as people read it, and as it can be typed."""
    if slot.kind.bounded == "length" or isinstance(slot.kind, (IntKind, FloatKind)):
        return str(bound) if isinstance(bound, int) else f"{bound:.12g}"
    try:
        return slot.kind.format(bound)
    except DeclarationError:  # a kind of a program's own without ``text=``
        return str(bound)


def in_words(slot: Slot[Any]) -> str:
    """Return how the slot is given on the command line, with a placeholder for the value."""
    return slot.shape.names(slot)[0]


def secret_places(slot: Slot[Any]) -> str:
    """Return where a secret may come from instead of the command line."""
    places = [tell("an answers file (--answers)"), tell("an answer at the terminal")]
    if slot.piped:
        places.insert(0, tell("standard input"))
    if slot.env:
        places.insert(0, tell("{env} in the environment", env=slot.env))
    return tell("it may come from ") + ", ".join(places[:-1]) + tell(" or ") + places[-1]


#: What a value of a type is called, by the name of the type; as in TOML, JSON and YAML.
TYPES = {
    "bool": "a boolean",
    "int": "a whole number",
    "float": "a number with a fraction",
    "str": "a text",
    "date": "a date",
    "datetime": "a date and time",
    "time": "a time of day",
    "list": "a list",
    "tuple": "a list",
    "dict": "a table",
}


def another_type(value: object, wanted: str, *, is_text: bool) -> str:
    """Return the complaint about a value of another type than what is wanted; ``is_text``: a text is."""
    shown, name = value_in_words(value), type(value).__name__
    if name not in TYPES:
        return tell("{value} is not {wanted}: it is of type {name}", value=shown, wanted=wanted, name=name)
    if is_text:
        return tell("{value} is not {wanted}: write it in quotes", value=shown, wanted=wanted)
    return tell("{value} is not {wanted}, but {what}", value=shown, wanted=wanted, what=tell(TYPES[name]))


def value_in_words(value: object) -> str:
    """Return a value as a file or a program has it, for a message; only a text is in quotes."""
    name = type(value).__name__
    if name == "bool":
        return str(value).lower()
    if name in ("date", "datetime", "time"):
        return str(value)
    return quoted(value) if isinstance(value, str) else quoted(repr(value))[1:-1]
