"""What the head of a class says of all its slots: ``class Copy(Form, named_only=True)``.

Loaded with the first class that says so. Slots are changed as copies: those of a base stay as they are there.
"""

from __future__ import annotations

from wesperon.frozen import remembered
from wesperon.values import DeclarationError
from wesperon.values.construction import change_slots
from wesperon.values.kind import ONE
from wesperon.values.records import made_class
from wesperon.values.slots import Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

#: The keywords, each with what it must be.
KEYWORDS: dict[str, tuple[Callable[[Any], bool], str]] = {
    "named_only": ((lambda given: isinstance(given, bool)), "True or False"),
    "repeats": ((lambda given: given in ("error", "last")), "'error' or 'last'"),
    "env_prefix": (
        (lambda given: isinstance(given, str) and (not given or given.isidentifier())),
        "the beginning of names of environment variables",
    ),
}


def taken_from(keywords: dict[str, Any]) -> dict[str, Any]:
    """Return those of some keywords that are about slots, taken out of them."""
    return {name: keywords.pop(name) for name in KEYWORDS if name in keywords}


def form_of_call(base: type[Any], module: str, slots: dict[str, Any]) -> type[Any]:
    """Return the form of a call that names slots and says something of all; raises DeclarationError."""
    given = {name: value for name, value in slots.items() if isinstance(value, Slot) or hasattr(value, "asked_after")}
    others = {name: value for name, value in slots.items() if name not in given}
    said = taken_from(others)
    for name, value in others.items():
        raise DeclarationError(f"{name}={value!r} is no slot: write {name}=slot(...)")
    made: type[Any] = made_class("Filled", (base,), {"__module__": module, **given}, **said)
    return made


def made_with(cls: Any, make: Callable[..., None], keywords: dict[str, Any]) -> None:
    """Have a class made by ``make``, and change its slots as its ``keywords`` and those of its bases say."""
    said = taken_from(keywords)
    make(**keywords)
    apply_keywords(cls, said)


@remembered(200)
def _form_with(form: type[Any], keywords: tuple[tuple[str, Any], ...]) -> type[Any]:
    made = type(form.__name__, (form,), {"__module__": form.__module__})
    apply_keywords(made, dict(keywords))
    return made


def form_with(form: type[Any], keywords: Mapping[str, Any]) -> type[Any]:
    """Return a form like another one, of which these keywords are said, too; its ``check`` stays."""
    return _form_with(form, tuple(keywords.items()))


def apply_keywords(cls: Any, keywords: Mapping[str, Any]) -> None:
    """Change the slots of a class as its keywords say, and those of its bases; raises DeclarationError."""
    for name, given in keywords.items():
        is_right, wanted = KEYWORDS[name]
        if not is_right(given):
            raise DeclarationError(f"{cls.__name__}: {name}={given!r}: must be {wanted}")
    cls._class_keywords = said = {**cls._class_keywords, **keywords}
    change_slots(cls, lambda slot: _changes(slot, said))


def _changes(slot: Slot[Any], said: Mapping[str, Any]) -> dict[str, Any]:
    """Return what is to be changed of a slot, but for what it says itself."""
    changes: dict[str, Any] = {}
    if said.get("named_only") and not (slot.named_only or slot.rest or slot.keeps_position):
        changes["named_only"] = True
    takes_all = ((slot.many or slot.rest) and slot.kind.shape is ONE) or slot.shape.counts
    if said.get("repeats", slot.repeats) != slot.repeats and not slot.repeats_said and not takes_all:
        changes["repeats"] = said["repeats"]
    if said.get("env_prefix") and slot.env is None:
        changes["env"] = said["env_prefix"] + slot.name.strip("_").upper()
    return changes
