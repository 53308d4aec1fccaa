"""The shapes of values that several texts make: items in a row, pairs of names and values, sets of choices.

See ``values.kind`` for what a shape is.
"""

from __future__ import annotations

from wesperon.text.quoting import join
from wesperon.values import MISSING, Complaint, quoted, tell
from wesperon.values.kind import Shape
from wesperon.values.phrases import value_in_words
from wesperon.values.words import split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Sequence
    from typing import Any

    from wesperon.values.kinds.choices import AnyOf
    from wesperon.values.kinds.pairs import PairsKind
    from wesperon.values.slots import Slot


class Several(Shape):
    """Values that can be iterated: each item adds to them."""

    repeats = True

    def value_of_item(self, slot: Slot[Any], item: Any) -> Any:
        """See ``Shape``; a text is one item, however many words it has."""
        return self.parse_list(slot, [item])

    def items(self, value: Any) -> Iterable[Any]:
        """See ``Shape``."""
        return value  # type: ignore[no-any-return]

    def as_data(self, slot: Slot[Any], value: Any, item_as_data: Callable[[Slot[Any], Any], Any]) -> Any:
        """See ``Shape``."""
        return [item_as_data(slot, item) for item in value]

    def parts(self, found: Any) -> list[tuple[Any, int]]:
        """See ``Shape``: the items of a list."""
        return [(item, 0) for item in found] if isinstance(found, list) else []


class Many(Several):
    """A tuple, or another series, of an item for each text."""

    splits = True
    ellipsis = "..."

    def parse(self, slot: Slot[Any], texts: Sequence[str]) -> Any:
        """See ``Shape``."""
        return self.count(slot, tuple([slot.parse(text) for text in texts]))

    def validate(self, slot: Slot[Any], value: Any) -> Any:
        """See ``Shape``; the value is anything that can be iterated, but a text."""
        if isinstance(value, str) or not hasattr(value, "__iter__"):
            if slot.secret:
                raise Complaint(tell("the given value is not a sequence of values"))
            raise Complaint(tell("{value} is not a sequence of values", value=value_in_words(value)))
        return self.count(slot, tuple([slot.validate_one(item) for item in value]))

    def count(self, slot: Slot[Any], values: tuple[Any, ...]) -> Any:
        """Return the value of some items; raises Complaint if there are too few or too many, or empty texts among them.

        An empty text is an item only if the slot says so (``low=0``).
        """
        if slot.kind.keeps_blanks and "" in values and slot.is_blank(""):
            raise Complaint(tell("is empty: must be {wanted}", wanted=slot.kind.wants))
        if len(values) < slot.least:
            raise too_few(slot, len(values))
        if slot.most is not None and len(values) > slot.most:
            raise too_many(slot, len(values))
        return self.gather(slot, values)

    def gather(self, slot: Slot[Any], values: tuple[Any, ...]) -> Any:
        """Return the value of so many items as there may be; raises Complaint."""
        return slot.streamed(values) if slot.series is None else slot.series(values)

    def words(self, slot: Slot[Any], value: Any) -> list[str]:
        """See ``Shape``."""
        return [slot.format(item) for item in self.items(value if slot.piped != "stream" else value.items)]

    def texts(self, slot: Slot[Any], value: Any) -> list[str]:
        """See ``Shape``."""
        return self.words(slot, value)

    def none(self, slot: Slot[Any]) -> Any:
        """See ``Shape``."""
        return MISSING if slot.least else self.gather(slot, ())

    def question(self, slot: Slot[Any]) -> str:
        """See ``Shape``: a list of rows if the name may be given again, else one line of words."""
        if slot.many:
            return "list"
        if slot.kind.choices is not None:
            return "suggested"
        return "line" if slot.kind.question == "spin" else slot.kind.question

    def parse_line(self, slot: Slot[Any], line: str) -> Any:
        """See ``Shape``; the words of the line are split as a POSIX shell splits them."""
        values = []
        for word, start in split_words(line):
            try:
                values.append(slot.parse(word))
            except Complaint as complaint:
                raise Complaint(complaint.reason, start + (complaint.position or 0)) from complaint.__cause__
        return self.count(slot, tuple(values))

    def line(self, texts: Sequence[str]) -> str | None:
        """See ``Shape``."""
        return join(list(texts))

    def parse_quickly(self, slot: Slot[Any], texts: list[str]) -> Any:
        """See ``Shape``."""
        if slot.kind.fast_parse is None or slot.depends or slot.check or slot.pattern is not None or slot.exists:
            return None
        try:
            values = tuple(map(slot.kind.fast_parse, texts))
            low, high = (slot.low, slot.high) if values else (None, None)
            if (low is None or min(values) >= low) and (high is None or max(values) <= high):
                return self.count(slot, values)
        except ValueError:  # a Complaint too: it is said with the word that is at fault
            pass
        return None

    def parse_list(self, slot: Slot[Any], values: list[Any]) -> Any:
        """See ``Shape``."""
        return self.count(slot, tuple([self.parse_item(slot, item) for item in values]))

    def parts(self, found: Any) -> list[tuple[Any, int]]:
        """See ``Shape``: also the words of a text."""
        try:
            return list(split_words(found)) if isinstance(found, str) else super().parts(found)
        except Complaint:  # a quote is not closed
            return []


class Pairs(Many):
    """A dictionary, of a name and a value for each text."""

    def parse_item(self, slot: Slot[Any], item: Any) -> Any:
        """See ``Shape``; a pair of a table has a name that is a text, and a value that may be one."""
        if isinstance(item, str):
            return slot.parse(item)
        if not isinstance(item, tuple):
            return slot.validate_one(item)
        name, value = item
        kind: PairsKind[Any, Any] = slot.kind  # type: ignore[assignment]
        if isinstance(value, str):
            return slot.validate_one((kind.names.parse(name), kind.values.parse(value)))
        try:
            return slot.validate_one((kind.names.parse(name), value))
        except Complaint as complaint:
            raise Complaint(f"{name}: {complaint.reason}") from None

    def validate(self, slot: Slot[Any], value: Any) -> Any:
        """See ``Shape``; the value is a mapping, or an iterable of pairs."""
        return super().validate(slot, value.items() if hasattr(type(value), "keys") else value)

    def name_of(self, slot: Slot[Any]) -> Callable[[str], Any] | None:
        """See ``Shape``."""
        return lambda row: slot.parse(row)[0]

    def misuse(self, slot: Slot[Any]) -> str:
        """See ``Shape``."""
        is_used = slot.piped == "stream" or slot.suggest is not None
        return "name-value pairs are no stream, and have no suggestions" if is_used else ""

    def gather(self, slot: Slot[Any], values: tuple[Any, ...]) -> Any:
        """See ``Many``; a name that is given twice is a Complaint."""
        made = {}
        for name, value in values:
            if name in made:
                kind: PairsKind[Any, Any] = slot.kind  # type: ignore[assignment]
                shown = quoted(kind.names.format(name))[1:-1]
                raise Complaint(tell("{name} is given more than once: must be given once", name=shown))
            made[name] = value
        return made

    def items(self, value: Any) -> Iterable[Any]:
        """See ``Shape``."""
        return value.items()  # type: ignore[no-any-return]

    def as_data(self, slot: Slot[Any], value: Any, item_as_data: Callable[[Slot[Any], Any], Any]) -> Any:
        """See ``Shape``."""
        kind: PairsKind[Any, Any] = slot.kind  # type: ignore[assignment]
        return {kind.names.format(name): item_as_data(kind.values, item) for name, item in value.items()}

    def parse_table(self, slot: Slot[Any], table: dict[str, Any]) -> Any:
        """See ``Shape``."""
        return self.count(slot, tuple([self.parse_item(slot, pair) for pair in table.items()]))

    def parts(self, found: Any) -> list[tuple[Any, int]]:
        """See ``Shape``: also the pairs of a table."""
        return [(pair, 0) for pair in found.items()] if isinstance(found, dict) else super().parts(found)


class ChoiceSet(Several):
    """A tuple of choices, in their order; each text may name several."""

    some = "any of"
    some_of = "any of {list}"

    def parse(self, slot: Slot[Any], texts: Sequence[str]) -> Any:
        """See ``Shape``."""
        return self.combine(slot, {index for text in texts for index in self.parse_word(slot, text)})

    def parse_word(self, slot: Slot[Any], text: str) -> Any:
        """See ``Shape``; the indexes of the choices that the text names, with commas between them."""
        return _set_of(slot).indexes_of(text)

    def parse_item(self, slot: Slot[Any], item: Any) -> Any:
        """See ``Shape``; a text is one label, whatever commas it has."""
        choices = _set_of(slot).choices
        at = choices.find(item) if isinstance(item, str) else choices.index_of(item)
        if at is None and isinstance(item, str):
            raise choices.unknown(item)
        if at is None:
            shown, count = value_in_words(item), len(choices)
            raise Complaint(tell("{value} is not one of the {count:,} choices", value=shown, count=count))
        choices.check(at)
        return {at}

    def combine(self, slot: Slot[Any], indexes: set[int]) -> Any:
        """Return the value of the choices with these indexes (from 0); raises Complaint."""
        return slot.checked(_set_of(slot).combine(indexes))

    def texts(self, slot: Slot[Any], value: Any) -> list[str]:
        """See ``Shape``."""
        return [slot.format((item,)) for item in value]

    def parse_list(self, slot: Slot[Any], values: list[Any]) -> Any:
        """See ``Shape``."""
        return self.combine(slot, {index for item in values for index in self.parse_item(slot, item)})


def _set_of(slot: Slot[Any]) -> AnyOf[Any]:
    return slot.kind  # type: ignore[return-value]


def too_few(slot: Slot[Any], count: int) -> Complaint:
    """Return the complaint about a ``count`` of values that is below ``least``."""
    return Complaint(tell("{count} given: give at least {least}", count=count, least=slot.least))


def too_many(slot: Slot[Any], count: int) -> Complaint:
    """Return the complaint about a ``count`` of values that is above ``most``."""
    return Complaint(tell("{count} given: give at most {most}", count=count, most=slot.most))


MANY, PAIRS, CHOICE_SET = Many(), Pairs(), ChoiceSet()
