"""Records made directly, of values of the program's own: ``Exposure(frames=3, seconds=30.0)``."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any

from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.problems import Problem, Problems
from wesperon.values.provenance import note_origins
from wesperon.values.records import DEFAULT, GIVEN, NOT_HERE, has_secrets, slots_of
from wesperon.values.secrets import Hushing
from wesperon.values.slots import Slot
from wesperon.values.together import complaint_together

if TYPE_CHECKING:
    from wesperon.values.records import Record


def construct(record: Record, given: tuple[Any, ...], values: Mapping[str, Any]) -> None:
    """Put checked values into a new record; raises Problems that hold everything wrong with them.

    Values that are ``given`` without a name are a DeclarationError.
    """
    if given:
        names = ", ".join(f"{name}=..." for name in slots_of(record)) or "name=..."
        raise DeclarationError(f"a record is made of values by name: {type(record).__name__}({names})")
    if not has_secrets(record):
        _construct(record, values)
        return
    with Hushing(record):
        _construct(record, values)


def _construct(record: Record, values: Mapping[str, Any]) -> None:
    slots = slots_of(record)
    faults: list[tuple[str, str, str | None, int | None, bool]] = [
        (f"there is no value of this name{suggestion(name, slots)}", name, None, None, False)
        for name in values
        if name not in slots
    ]
    origins = {}
    for name, slot in slots.items():
        value = values.get(name, MISSING)
        try:
            if slot.is_skipped(record):
                record.__dict__[name], origins[name] = slot.skipped(record), DEFAULT
                if value not in (MISSING, None, record.__dict__[name]):
                    faults.append((tell(NOT_HERE), name, None, None, False))
                continue
            is_blank = isinstance(value, str) and not slot.kind.is_structured and slot.is_blank(value)
            if value is MISSING or (is_blank and value != slot.default):
                value = slot.fallback(record)
                origins[name] = DEFAULT
            else:
                value = slot.resolve(record).validate(value)
                origins[name] = GIVEN
        except AttributeError:
            if not faults:
                raise
            continue  # it depends on a value that is missing, which has been told
        except Complaint as complaint:
            got = values.get(name)
            text = got if isinstance(got, str) and not slot.secret else None
            faults.append((complaint.reason, name, text, complaint.position, False))
            continue
        if value is MISSING:
            faults.append((tell("is missing: must be {wanted}", wanted=slot.kind.wants), name, None, None, True))
            continue
        record.__dict__[name] = value
    if faults:
        raise Problems(
            Problem(reason, name, GIVEN, text, position, missing=missing)
            for reason, name, text, position, missing in faults
        )
    note_origins(record, origins)
    together = complaint_together(record)
    if together is not None:
        at_fault = next(iter(together.slot or ()), None)
        raise Problems([Problem(together.reason, at_fault, GIVEN if at_fault else None)])


def change_slots(cls: Any, changes_of: Callable[[Slot[Any]], Mapping[str, Any]]) -> None:
    """Change the slots of a class, as copies: ``changes_of`` gives the attributes that one is to have, if any."""
    for name, slot in list(cls._slots.items()):
        if changes := changes_of(slot):
            copy = slot.copied()
            copy.__dict__.update(changes)
            cls._slots[name] = copy
            if isinstance(getattr(cls, name, None), Slot):
                type.__setattr__(cls, name, copy)
