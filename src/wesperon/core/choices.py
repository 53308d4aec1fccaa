"""Kinds whose values are picked from a list: ``one_of`` and ``any_of``.

The program's own objects go in and come out. The word for a choice is its label; ``also`` may give it further
words. Operations and their costs, for ``n`` choices:

    declare                 n steps for up to 1,000 choices (labels are compared), one step for more
    label, note, barred     one call of the program's function, when asked for
    text to choice          one look-up; the table of labels is built at the first, in n steps
    object to choice        one look-up by identity, else n comparisons
"""

from __future__ import annotations

from wesperon.core import Complaint, DeclarationError, Generic, T, overload, quoted
from wesperon.core.kinds import Kind

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping
    from typing import Any

    #: From an object to a text about it: a function, or the name of an attribute.
    About = Callable[[T], str | None] | str | None
    Also = Callable[[T], str | Iterable[str] | None] | str | None
    Label = Callable[[T], str] | str | None

#: Up to here the labels are compared when the choices are declared, beyond when the first text is looked up.
EAGER = 1_000
#: Up to here a complaint lists the choices.
LISTED = 6


class Choices(Generic[T]):
    """A list of objects with a label, and perhaps a note, further words, a reason why not, for each."""

    def __init__(
        self,
        choices: Iterable[T] | Mapping[str, T],
        label: Label[T] = None,
        note: About[T] = None,
        also: Also[T] = None,
        barred: About[T] = None,
    ) -> None:
        self._labels: list[str] | None = None
        if hasattr(choices, "keys"):
            mapping: Any = choices
            self._labels = [str(key) for key in mapping]
            self.objects: list[T] = [mapping[key] for key in mapping]
        else:
            self.objects = list(choices)
        self._label = _getter(label) or _plain_label
        self._note = _getter(note)
        self._also = _getter(also)
        self._barred = _getter(barred)
        self._by_text: dict[str, int] | None = None
        self._by_identity: dict[int, int] | None = None
        if not self.objects:
            raise DeclarationError("there is nothing to choose from: the list of choices is empty")
        if len(self.objects) <= EAGER:
            self._table()

    def __len__(self) -> int:
        return len(self.objects)

    def label(self, at: int) -> str:
        """The label of the choice at a place."""
        return str(self._label(self.objects[at])) if self._labels is None else self._labels[at]

    def note(self, at: int) -> str:
        """What is said beside the label; may be empty."""
        return str(self._note(self.objects[at]) or "") if self._note else ""

    def barred(self, at: int) -> str:
        """Why the choice cannot be taken; empty where it can."""
        return str(self._barred(self.objects[at]) or "") if self._barred else ""

    def labels(self) -> Iterable[str]:
        """Every label, in order, made when asked for."""
        return (self.label(at) for at in range(len(self)))

    def find(self, text: str) -> int | None:
        """The place of the choice with this label or word: exactly, else with the blanks around it taken off."""
        table = self._table()
        at = table.get(text)
        return table.get(text.strip()) if at is None else at

    def place(self, value: Any) -> int | None:
        """The place of an object among the choices: the same object first, else an equal one."""
        if self._by_identity is None:
            self._by_identity = {id(value): at for at, value in enumerate(self.objects)}
        at = self._by_identity.get(id(value))
        if at is None:
            at = next((at for at, own in enumerate(self.objects) if own == value), None)
        return at

    def check(self, at: int) -> T:
        """The object at a place; raises Complaint where it is barred."""
        reason = self.barred(at)
        if reason:
            raise Complaint(f"{quoted(self.label(at))} cannot be chosen: {reason}", 0)
        return self.objects[at]

    def unknown(self, text: str, position: int | None = None) -> Complaint:
        """The complaint about a text that names no choice."""
        from wesperon.core.nearest import suggestion

        if len(self) <= LISTED:
            hint = "; choose from: " + ", ".join(quoted(label)[1:-1] for label in self.labels())
        else:
            hint = suggestion(text, self.labels())
        return Complaint(f"{quoted(text)} is none of the {len(self):,} choices{hint}", position)

    def _table(self) -> dict[str, int]:
        if self._by_text is None:
            table: dict[str, int] = {}
            for at, label in enumerate(self.labels()):
                self._enter(table, label, at)
            if self._also:
                for at, value in enumerate(self.objects):
                    words = self._also(value) or ()
                    for word in (words,) if isinstance(words, str) else words:
                        if table.get(word) != at:
                            self._enter(table, word, at)
            self._by_text = table
        return self._by_text

    def _enter(self, table: dict[str, int], text: str, at: int) -> None:
        if not text.strip():
            raise DeclarationError(f"choice {at + 1} ({quoted(repr(self.objects[at]))}) has an empty label")
        if text in table:
            raise DeclarationError(
                f"choices {table[text] + 1} and {at + 1} are both called {quoted(text)}: "
                "give each a label (or a word of also) of its own"
            )
        table[text] = at


class OneOf(Kind[T]):
    """One of several objects: a menu."""

    placeholder = "CHOICE"
    trims = False

    def __init__(self, choices: Choices[T]) -> None:
        self.choices = choices
        self.wanted = f"one of the {len(choices):,} choices"

    def read(self, text: str) -> T:
        """The object with this label or word; raises Complaint."""
        at = self.choices.find(text)
        if at is None:
            raise self.choices.unknown(text)
        return self.choices.check(at)

    def text(self, value: T) -> str:
        """The label of the object."""
        at = self.choices.place(value)
        if at is None:
            raise self.refused(value)
        return self.choices.label(at)

    def admit(self, value: Any) -> T:
        """The program's own object that is, or equals, the value; raises Complaint."""
        at = self.choices.place(value)
        if at is None:
            raise Complaint(f"{quoted(repr(value))} is not {self.wanted}")
        return self.choices.check(at)


class AnyOf(Kind["tuple[T, ...]"]):
    r"""Some of several objects: checkboxes. A tuple in the order of the choices.

    As text: a word equal to a label, else labels with commas between them, in which ``\,`` is a comma and ``\\`` a
    backslash of a label. A comma at the very end is no further label. The empty text is the empty set.
    """

    placeholder = "CHOICE,..."
    trims = False
    takes_empty = True
    unites = True

    def __init__(self, choices: Choices[T], least: int = 0, most: int | None = None) -> None:
        self.choices = choices
        self.least = least
        self.most = len(choices) if most is None else most
        if not 0 <= least <= self.most:
            raise DeclarationError(f"least={least} and most={most} leave nothing that could be chosen")
        self.wanted = f"any of the {len(choices):,} choices"

    def read(self, text: str) -> tuple[T, ...]:
        """The objects that the text names; raises Complaint at the first label that is none."""
        return self.gather(self.places(text))

    def places(self, text: str) -> set[int]:
        """The places of the choices that the text names; raises Complaint."""
        if not text.strip():
            return set()
        at = self.choices.find(text)
        if at is not None:
            self.choices.check(at)
            return {at}
        found = set()
        for piece, start in _pieces(text):
            at = self.choices.find(piece)
            if at is None:
                raise self.choices.unknown(piece.strip(), start + len(piece) - len(piece.lstrip()))
            try:
                self.choices.check(at)
            except Complaint as complaint:
                raise Complaint(complaint.reason, start) from None
            found.add(at)
        return found

    def gather(self, places: set[int]) -> tuple[T, ...]:
        """The objects at the places, in the order of the choices; raises Complaint for too few or too many."""
        if len(places) < self.least:
            raise Complaint(f"{len(places)} chosen, at least {self.least} wanted")
        if len(places) > self.most:
            raise Complaint(f"{len(places)} chosen, at most {self.most} wanted")
        return tuple([self.choices.objects[at] for at in sorted(places)])

    def text(self, value: tuple[T, ...]) -> str:
        """The labels of the objects, with commas between them."""
        labels = [self.choices.label(at) for at in sorted(self._places(value))]
        if len(labels) == 1:
            return labels[0]
        text = ",".join([label.replace("\\", "\\\\").replace(",", "\\,") for label in labels])
        while text and self.choices.find(text) is not None:
            text += ","
        return text

    def admit(self, value: Any) -> tuple[T, ...]:
        """The program's own objects that are, or equal, those of the value; raises Complaint."""
        try:
            values = tuple(value)
        except TypeError:
            raise self.refused(value) from None
        places = self._places(values)
        for at in places:
            self.choices.check(at)
        return self.gather(places)

    def _places(self, values: tuple[Any, ...]) -> set[int]:
        places = set()
        for value in values:
            at = self.choices.place(value)
            if at is None:
                raise Complaint(f"{quoted(repr(value))} is none of the {len(self.choices):,} choices")
            places.add(at)
        return places


@overload
def one_of(
    choices: Mapping[str, T],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    also: Also[T] = ...,
    barred: About[T] = ...,
) -> OneOf[T]: ...
@overload
def one_of(
    choices: Iterable[T],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    also: Also[T] = ...,
    barred: About[T] = ...,
) -> OneOf[T]: ...
def one_of(
    choices: Iterable[T] | Mapping[str, T],
    label: Label[T] = None,
    *,
    note: About[T] = None,
    also: Also[T] = None,
    barred: About[T] = None,
) -> OneOf[T]:
    """A kind: one of the program's own objects, picked from a menu or named by its label.

    ``choices`` are the objects, or a mapping from label to object. ``label``, ``note`` (said beside the label),
    ``also`` (further words for the same choice) and ``barred`` (why it cannot be chosen now) are functions of the
    object, or names of its attributes. Raises DeclarationError where two choices have one label.
    """
    return OneOf(Choices(choices, label, note, also, barred))


@overload
def any_of(
    choices: Mapping[str, T],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    also: Also[T] = ...,
    barred: About[T] = ...,
    least: int = ...,
    most: int | None = ...,
) -> AnyOf[T]: ...
@overload
def any_of(
    choices: Iterable[T],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    also: Also[T] = ...,
    barred: About[T] = ...,
    least: int = ...,
    most: int | None = ...,
) -> AnyOf[T]: ...
def any_of(
    choices: Iterable[T] | Mapping[str, T],
    label: Label[T] = None,
    *,
    note: About[T] = None,
    also: Also[T] = None,
    barred: About[T] = None,
    least: int = 0,
    most: int | None = None,
) -> AnyOf[T]:
    """A kind: a tuple of the program's own objects, in the order of the choices, from ``least`` to ``most`` of them.

    On a terminal a list of checkboxes, as a word the labels with commas between them. The other arguments are those
    of :func:`one_of`.
    """
    return AnyOf(Choices(choices, label, note, also, barred), least, most)


def _getter(given: Callable[[T], Any] | str | None) -> Callable[[T], Any] | None:
    """A function of the object, from a function or from the name of an attribute."""
    if isinstance(given, str):
        name = given
        return lambda value: getattr(value, name)
    return given


def _plain_label(value: object) -> str:
    """The label of an object that was given none: the value of an ``Enum`` member, else ``str``."""
    return str(value.value) if hasattr(type(value), "__members__") else str(value)  # type: ignore[attr-defined]


def _pieces(text: str) -> list[tuple[str, int]]:
    """The labels between the commas, unescaped, each with the offset at which it begins."""
    pieces: list[tuple[str, int]] = []
    start = at = 0
    piece: list[str] = []
    while at < len(text):
        char = text[at]
        if char == "\\" and text[at + 1 : at + 2] in ("\\", ","):
            at += 1
            piece.append(text[at])
        elif char == ",":
            pieces.append(("".join(piece), start))
            piece, start = [], at + 1
        else:
            piece.append(char)
        at += 1
    if piece or not pieces:
        pieces.append(("".join(piece), start))
    return pieces
