"""Name-value pairs: ``--tag depth=3 --tag seeing=2`` is ``{"depth": 3, "seeing": 2}``.

The kind is that of one pair; a slot of it always takes several, and its value is a dictionary of all of them.
"""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.values import Complaint, DeclarationError, Generic, T, quoted
from wesperon.values.examination import examine
from wesperon.values.kind import Kind, kind_of
from wesperon.values.shapes_of_several import PAIRS
from wesperon.values.slots import KEYWORDS, Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any, TypeVar

    V = TypeVar("V")
else:
    V = None
    Generic = {(T, V): object}

#: What is between a name and its value.
SIGN = "="


class PairsKind(Kind["tuple[T, V]"], Generic[T, V]):
    """A pair of a name and a value, with ``=`` between them; ``names`` and ``values`` are slots that read each."""

    wanted = "a name and a value with = between them"
    shape = PAIRS
    strips = False  # each part keeps its blanks, or not, by its own kind
    question = "list"

    def __init__(self, names: Slot[T], values: Slot[V]) -> None:
        self.names = names
        self.values = values
        self.placeholder = self.row_placeholder = f"NAME{SIGN}{values.kind.placeholder}"
        self.example = f"depth{SIGN}{values.kind.example or 'deep'}"

    def parse(self, text: str) -> tuple[T, V]:
        """Return the name and the value; raises Complaint."""
        name, sign, value = text.partition(SIGN)
        if not sign:
            example = self.example
            reason = tell("{text} has no = after a name: must be such as {example}", text=quoted(text), example=example)
            raise Complaint(reason, len(text))
        if not name.strip():
            raise Complaint(tell("{text} has no name before the =", text=quoted(text)), 0)
        found = self.names.parse(name)
        start = len(name) + len(SIGN)
        if self.values.is_blank(value) and not self.values.kind.keeps_blanks:
            name, wanted = quoted(name)[1:-1], self.values.kind.wants
            raise Complaint(tell("the value of {name} is empty: must be {wanted}", name=name, wanted=wanted), start)
        try:
            return found, self.values.parse(value)
        except Complaint as complaint:
            at = None if complaint.position is None else complaint.position + start
            raise Complaint(complaint.reason, start if at is None else at) from complaint.__cause__

    def format(self, value: tuple[T, V]) -> str:
        """Return the name, ``=`` and the value."""
        return f"{self.names.format(value[0])}{SIGN}{self.values.format(value[1])}"

    def validate(self, value: Any) -> tuple[T, V]:
        """Return the pair itself, each part checked; raises Complaint."""
        if not isinstance(value, tuple) or len(value) != 2:
            raise self.refused(value)
        name = self.names.validate(value[0])
        shown = self.names.format(name)
        if SIGN in shown or not shown.strip():
            raise Complaint(tell("{name} cannot be a name: it is empty, or has a =", name=quoted(shown)))
        return name, self.values.validate(value[1])


#: What a name or a value of a pair may say of itself.
OF_A_PART = frozenset(("low", "high", "pattern", "pattern_says", "check", "exists", "text", "unit"))


def make(given: Any, settings: Mapping[str, Any]) -> PairsKind[Any, Any]:
    """Return the kind of ``dict[NAME, VALUE]``; of ``dict`` alone, both are text."""
    parts = getattr(given, "__args__", ()) or (str, str)
    if len(parts) != 2:
        raise DeclarationError(f"{given} is no kind: pairs are dict[str, int]")
    return PairsKind(*[_slot(part) for part in parts])


def _slot(given: Any) -> Slot[Any]:
    """Return what reads one part; ``Annotated[int, slot(low=0)]`` says more about it."""
    own = next((one for one in getattr(given, "__metadata__", ()) if isinstance(one, Slot)), None)
    settings: dict[str, Any] = {key: own.__dict__[key] for key in KEYWORDS} if own else dict(KEYWORDS)
    kind = (
        own.kind if own and own.names_kind else kind_of(getattr(given, "__origin__", given) if own else given, settings)
    )
    if kind.shape.repeats:
        raise DeclarationError(f"{given} is no kind of one name or value")
    for name, value in {**settings, "ask": own.ask if own else None}.items():
        if name not in OF_A_PART and value is not KEYWORDS.get(name):
            reason = f"{name}= in a part of pairs does nothing: say it of all, as slot(dict[...], {name}=...)"
            raise DeclarationError(f"{reason}; a part takes {', '.join(sorted(OF_A_PART))}")
    made: Slot[Any] = Slot(kind, None, settings)
    if own:
        examine(made)
    return made
