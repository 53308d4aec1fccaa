"""What a source other than the words has for a slot, and how it becomes the slot's value."""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.values import Complaint, tell
from wesperon.values.problems import MOST_FAULTS, Problem, Problems
from wesperon.values.streams import Stream

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.slots import Slot


class Source:
    """Where values come from beside the words and the user; see ``values.records.SOURCES`` for their order."""

    #: What records say of a value that came from here.
    origin = ""

    def find(self, slot: Slot[Any]) -> Found | None:
        """Return what there is for a slot; None if there is nothing, as here."""
        return None

    def value(self, slot: Slot[Any], found: Found) -> Any:
        """Return the slot's value; raises Problems."""
        try:
            return value_of(slot, found)
        except Complaint as complaint:
            raise Problems(problems_of(slot, found, self.origin, complaint)) from None


class Found(Frozen):
    """Something that a source has: a text, a value of the source's own, or a list of both.

    ``location`` says where, for people: ``TARGET in the environment``, ``tonight.toml, line 3``.
    """

    value: Any
    location: str


def value_of(slot: Slot[Any], found: Found) -> Any:
    """Return the value: a text is read like a word, anything else must be of the slot's kind. Raises Complaint.

    A text for a slot of several values is split into words as a POSIX shell splits a line.
    """
    value = found.value
    if isinstance(value, Stream):
        return value.read_by(slot)
    if isinstance(value, str):
        return slot.shape.parse_line(slot, value)
    if isinstance(value, list):
        return slot.shape.parse_list(slot, value)
    if isinstance(value, dict):
        return slot.shape.parse_table(slot, value)
    return slot.shape.value_of_item(slot, value)


def problems_of(slot: Slot[Any], found: Found, origin: str, joint: Complaint) -> list[Problem]:
    """Return the problems with what was found: one for each item at fault, else one for all together."""
    faults = []
    whole = found.value if isinstance(found.value, str) and not slot.secret else None
    for item, offset in slot.shape.parts(found.value):
        complaint = _fault(slot, item)
        if complaint is not None:
            at = None if complaint.position is None or whole is None else complaint.position + offset
            faults.append(Problem(complaint.reason, slot.name, origin, whole, at, location=found.location))
        if len(faults) == MOST_FAULTS:
            break  # nobody reads more, and each may be compared with very many labels
    return faults or [Problem(joint.reason, slot.name, origin, whole, joint.position, location=found.location)]


def _fault(slot: Slot[Any], item: Any) -> Complaint | None:
    """Return what is wrong with one item; None if nothing is."""
    try:
        if isinstance(item, str) and slot.is_blank(item):
            return Complaint(tell("is empty: must be {wanted}", wanted=slot.kind.wants))
        slot.shape.parse_item(slot, item)
    except Complaint as complaint:
        return complaint
    return None


def is_blank(slot: Slot[Any], found: Found) -> bool:
    """Return True if what was found counts as missing."""
    if found.value is None:
        return True
    if not isinstance(found.value, str):
        return False
    return slot.is_blank(found.value) or (slot.shape.splits and not found.value.strip())
