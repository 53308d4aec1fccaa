"""What a source other than the words has for a slot, and how it becomes the slot's value."""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.values import Complaint, tell
from wesperon.values.problems import MOST_FAULTS, Problem, Problems
from wesperon.values.streams import Stream
from wesperon.values.words import split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.slots import Slot


class Source:
    """Where values come from beside the words and the user; see ``values.records.SOURCES`` for their order."""

    #: What records say of a value that came from here.
    origin = ""

    def find(self, slot: Slot[Any]) -> Found | None:
        """What there is for a slot; None if there is nothing, as here."""
        return None

    def value(self, slot: Slot[Any], found: Found) -> Any:
        """The slot's value; raises Problems."""
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
    """The value: a text is read like a word, anything else must be of the slot's kind. Raises Complaint.

    A text for a slot of several values is split into words as a POSIX shell splits a line.
    """
    value = found.value
    if isinstance(value, Stream):
        return value.read_by(slot)
    if isinstance(value, str):
        if slot.several:
            return slot.combine([word for word, _ in split_words(value)])
        return slot.combine([value])
    if isinstance(value, list):
        if slot.kind.is_set:
            return slot.combine_indexes({index for item in value for index in _indexes(slot, item)})
        if not slot.several:
            raise Complaint(tell("got a list: must be {wanted}", wanted=slot.kind.wants))
        return slot.counted(
            tuple([slot.parse(item) if isinstance(item, str) else slot.validate_one(item) for item in value])
        )
    if isinstance(value, dict) and slot.kind.is_pairs:
        return slot.counted(tuple([_pair(slot, name, one) for name, one in value.items()]))
    if isinstance(value, dict):
        raise Complaint(tell("got a table: must be {wanted}", wanted=slot.kind.wants))
    return slot.validate([value] if slot.several or slot.kind.is_set else value)


def problems_of(slot: Slot[Any], found: Found, origin: str, joint: Complaint) -> list[Problem]:
    """The problems with what was found: one for each item that is wrong, else what is wrong with all together."""
    faults = []
    whole = found.value if isinstance(found.value, str) and not slot.secret else None
    for item, offset in _items(slot, found.value):
        complaint = _fault(slot, item)
        if complaint is not None:
            at = None if complaint.position is None or whole is None else complaint.position + offset
            faults.append(Problem(complaint.reason, slot.name, origin, whole, at, location=found.location))
        if len(faults) == MOST_FAULTS:
            break  # nobody reads more, and each may be compared with very many labels
    return faults or [Problem(joint.reason, slot.name, origin, whole, joint.position, location=found.location)]


def _items(slot: Slot[Any], value: Any) -> list[tuple[Any, int]]:
    """The items of what was found for a slot of several values, each with its offset in the text."""
    if not (slot.several or slot.kind.is_set):
        return []
    if isinstance(value, list):
        return [(item, 0) for item in value]
    if isinstance(value, dict) and slot.kind.is_pairs:
        return [(item, 0) for item in value.items()]
    try:
        return list(split_words(value)) if isinstance(value, str) and slot.several else []
    except Complaint:  # a quote is not closed
        return []


def _fault(slot: Slot[Any], item: Any) -> Complaint | None:
    """What is wrong with one item; None if nothing is."""
    try:
        if slot.kind.is_set:
            _indexes(slot, item)
        elif isinstance(item, str) and slot.is_blank(item):
            return Complaint(tell("is empty: must be {wanted}", wanted=slot.kind.wants))
        elif slot.kind.is_pairs and isinstance(item, tuple):
            _pair(slot, *item)
        elif isinstance(item, str):
            slot.parse(item)
        else:
            slot.validate_one(item)
    except Complaint as complaint:
        return complaint
    return None


def _pair(slot: Slot[Any], name: str, value: Any) -> Any:
    """The pair of a table's key and its value, which may be a text; raises Complaint."""
    kind: Any = slot.kind
    if isinstance(value, str):
        return slot.validate_one((kind.names.parse(name), kind.values.parse(value)))
    try:
        return slot.validate_one((kind.names.parse(name), value))
    except Complaint as complaint:
        raise Complaint(f"{name}: {complaint.reason}") from None


def is_blank(slot: Slot[Any], found: Found) -> bool:
    """Whether what was found counts as missing."""
    if found.value is None:
        return True
    if not isinstance(found.value, str):
        return False
    return not found.value.strip() if slot.several else slot.is_blank(found.value)


def _indexes(slot: Slot[Any], item: Any) -> set[int]:
    kind: Any = slot.kind
    if isinstance(item, str):
        at = kind.choices.find(item)
        if at is None:
            raise kind.choices.unknown(item)
    else:
        at = kind.choices.index_of(item)
        if at is None:
            from wesperon.values.phrases import value_in_words

            shown, count = value_in_words(item), len(kind.choices)
            raise Complaint(tell("{value} is not one of the {count:,} choices", value=shown, count=count))
    kind.choices.check(at)
    return {at}
