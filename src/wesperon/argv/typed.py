"""The values of a record in the order in which they were typed. Loaded when a program asks for it."""

from __future__ import annotations

from collections import Counter
from itertools import islice

from wesperon.values.records import WORDS, slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.argv import ParsedArgs
    from wesperon.values.records import Record
    from wesperon.values.slots import Slot

#: The word that ends the names (POSIX, Base Definitions, 12.2, Guideline 10).
END = "--"


def note_typed(record: Any, reading: ParsedArgs) -> None:
    """Keep with a record the words that gave its values."""
    record.__dict__["_typed"] = reading.given, reading.words


def hand_on(whole: Record, part: Record) -> None:
    """Let the record of one form know the words of the record that was filled for several."""
    if "_typed" in whole.__dict__:
        part.__dict__["_typed"] = whole.__dict__["_typed"]


def places_of(record: Record) -> list[tuple[int, int, str, str]]:
    """Return each text that was typed, in order: its word, where in that it is, the name of its slot, and the text."""
    given, _ = record.__dict__.get("_typed", ({}, ()))
    origins = record.origins
    return sorted(
        (one.word, one.offset, name, one.text)
        for name, slot in slots_of(record).items()
        if origins.get(name) == WORDS and not slot.secret
        for one in given.get(name, ())
    )


def in_order(record: Record, *, with_end: bool) -> list[tuple[str, Any]]:
    """Return the names and values; see :meth:`wesperon.Form.in_order`."""
    slots = {name: slot for name, slot in slots_of(record).items() if record.origins.get(name) == WORDS}
    here = {name: slot.resolve(record) for name, slot in slots.items()}
    found = [(place, name, _value(here[name], text)) for place, _, name, text in places_of(record)]
    if with_end and (end := _end(record)) is not None:
        found.append((end, END, None))
        found.sort(key=lambda one: one[0])
    return [(name, value) for _, name, value in found]


def _value(slot: Slot[Any], text: str) -> Any:
    if slot.is_blank(text):
        return None if slot.initial is None else slot.shape.none(slot)
    return slot.shape.parse_word(slot, text) if slot.shape.counts else slot.parse(text)


def _end(record: Record) -> int | None:
    """Return the place of the word that ended the names."""
    given, words = record.__dict__.get("_typed", ({}, ()))
    taken = {one.word for series in given.values() for one in series}
    return next((at for at, word in enumerate(words) if word == END and at not in taken), None)


def arranged(record: Record, words: Mapping[str, Sequence[str]]) -> list[str]:
    """Return the words of each slot, in the order in which they were typed, those of other slots after them.

    Where a value has other words than were typed, all of them are where the first was.
    """
    typed = [name for _, _, name, _ in places_of(record)]
    counts = Counter(typed)
    left = {name: iter(some) for name, some in words.items()}
    made: list[str] = []
    for name in typed:
        some = left.get(name, iter(()))
        made += islice(some, 1) if counts[name] == len(words.get(name, ())) else some
    return [*made, *(word for some in left.values() for word in some)]
