"""Kinds whose values are picked from a list: ``one_of`` and ``any_of``.

The program's own objects go in and come out. The word for a choice is its label; ``aliases`` may give it further words.
"""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.values import Complaint, DeclarationError, T, overload
from wesperon.values.calls import refuse_coroutine
from wesperon.values.kind import Kind
from wesperon.values.kinds.choice_list import Choices, DynamicChoices, is_function, wants_answers
from wesperon.values.phrases import value_in_words
from wesperon.values.shapes_of_several import CHOICE_SET

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping
    from typing import Any

    from wesperon.values.kinds.choice_list import About, Aliases, Label, Reason

#: The most choices that have a key each.
MOST_BY_KEY = 30

__all__ = ["AnyOf", "Choices", "OneOf", "any_of", "one_of"]


class OneOf(Kind[T]):
    """One of several objects: a menu."""

    wanted = "one of the choices"
    placeholder = "CHOICE"
    strips = False
    question = "menu"
    completion = "choices"
    choices: Choices[T]

    def __init__(self, choices: Choices[T], *, by_key: bool = False) -> None:
        self.choices = choices
        self.depends = isinstance(choices, DynamicChoices)
        self.by_key = by_key
        if by_key:
            self.question = "key-menu"
            if not self.depends:
                examine_letters(choices)

    @property
    def takes_numbers(self) -> bool:  # type: ignore[override]
        """Whether the choices are numbers."""
        known = () if self.depends else self.choices.objects
        return any(isinstance(one, (int, float)) and not isinstance(one, bool) for one in known)

    @property
    def wants(self) -> str:
        """How many there are to choose from."""
        if self.depends or self.choices.is_growing:
            return tell(self.wanted)
        return tell("one of the {count} choices", count=f"{len(self.choices):,}")

    def resolve(self, answers: object) -> OneOf[T]:
        """Return the kind with its choices resolved for these answers; raises Complaint if there are none."""
        if not isinstance(self.choices, DynamicChoices):
            return self
        return OneOf(self.choices.resolve(answers), by_key=self.by_key)

    def parse(self, text: str) -> T:
        """Return the object with this label or word; raises Complaint."""
        at = self.choices.find(text)
        if at is None:
            raise self.choices.unknown(text)
        return self.choices.check(at)

    def format(self, value: T) -> str:
        """Return the label of the object."""
        at = self.choices.index_of(value)
        if at is None:
            raise self.refused(value)
        return self.choices.label(at)

    def validate(self, value: Any) -> T:
        """Return the program's own object that is, or equals, the value; raises Complaint."""
        at = self.choices.index_of(value)
        if at is None:
            raise Complaint(tell("{value} is not {wanted}", value=value_in_words(value), wanted=self.wants))
        return self.choices.check(at)


def examine_letters(choices: Choices[Any]) -> None:
    """Raise DeclarationError if two choices begin with one letter, letter case aside, or one with none."""
    letters: dict[str, str] = {}
    choices.pull_all(MOST_BY_KEY + 1)
    if len(choices) > MOST_BY_KEY:
        raise DeclarationError(f"by_key goes with {MOST_BY_KEY} choices at most: each has a letter of its own")
    for label in choices.labels():
        letter = label[:1].casefold()
        if letter in letters or not letter.strip():
            other = f"{letters[letter]!r} and " if letter in letters else ""
            raise DeclarationError(f"by_key=True: {other}{label!r} have no letter of their own to begin with")
        letters[letter] = label


class AnyOf(Kind["tuple[T, ...]"]):
    r"""Some of several objects: checkboxes. A tuple in the order of the choices.

    As text: a word equal to a label, else labels with commas between them, in which ``\,`` is a comma and ``\\`` a
    backslash of a label. Commas at the very end are no further labels. The empty text is the empty set.
    """

    wanted = "any of the choices"
    placeholder = "CHOICE,..."
    strips = False
    question = "checkboxes"
    completion = "choice-sets"
    choices: Choices[T]
    takes_empty = True
    shape = CHOICE_SET

    def __init__(self, choices: Choices[T], least: int = 0, most: int | None = None) -> None:
        for name, count in (("least", least), ("most", most)):
            if not isinstance(count, int) and not (name == "most" and count is None):
                raise DeclarationError(f"{name}={count!r}: must be how many may be chosen")
        self.choices = choices
        self.least = least
        self._most = most
        self.depends = isinstance(choices, DynamicChoices)
        if least < 0 or not (least <= self.most or (most is None and (self.depends or choices.is_growing))):
            raise DeclarationError(
                tell("least={least} and most={most} leave nothing that could be chosen", least=least, most=most)
            )

    @property
    def limits(self) -> tuple[int, int | None]:
        """The least and the most that may be chosen; None if the choices, and so how many they are, are not known."""
        return self.least, self._most if self.choices.known is None else self.most

    @property
    def most(self) -> int:
        """The most that may be chosen."""
        return len(self.choices) if self._most is None else self._most

    @property
    def wants(self) -> str:
        """How many there are to choose from."""
        if self.depends or self.choices.is_growing:
            return tell(self.wanted)
        return tell("any of the {count} choices", count=f"{len(self.choices):,}")

    def resolve(self, answers: object) -> AnyOf[T]:
        """Return the kind with its choices resolved for these answers; raises Complaint if there are none."""
        if not isinstance(self.choices, DynamicChoices):
            return self
        choices = self.choices.resolve(answers)
        least = self.least if choices.is_growing else min(self.least, len(choices))
        return AnyOf(choices, least, self._most)

    def parse(self, text: str) -> tuple[T, ...]:
        """Return the objects that the text names; raises Complaint at the first label that is none."""
        return self.combine(self.indexes_of(text))

    def indexes_of(self, text: str) -> set[int]:
        """Return the indexes of the choices that the text names; raises Complaint."""
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

    def combine(self, indexes: set[int]) -> tuple[T, ...]:
        """Return the objects with these indexes, in the order of the choices.

        Raises Complaint for too few or too many.
        """
        if len(indexes) < self.least:
            raise Complaint(tell("{count} chosen: choose at least {least}", count=len(indexes), least=self.least))
        if len(indexes) > self.most:
            raise Complaint(tell("{count} chosen: choose at most {most}", count=len(indexes), most=self.most))
        return tuple([self.choices.objects[at] for at in sorted(indexes)])

    def format(self, value: tuple[T, ...]) -> str:
        """Return the labels of the objects, with commas between them."""
        labels = [self.choices.label(at) for at in sorted(self._indexes(value))]
        if len(labels) == 1:
            return labels[0]
        text = ",".join([label.replace("\\", "\\\\").replace(",", "\\,") for label in labels])
        while text and self.choices.find(text) is not None:
            text += ","
        return text

    def display(self, value: tuple[T, ...]) -> str:
        """Return the labels of the objects, with commas and blanks between them; "none" for the empty set."""
        return ", ".join([self.choices.label(at) for at in sorted(self._indexes(value))]) or tell("none")

    def validate(self, value: Any) -> tuple[T, ...]:
        """Return the program's own objects that are, or equal, those of the value; raises Complaint."""
        try:
            values = tuple(value)
        except TypeError:
            raise self.refused(value) from None
        indexes = self._indexes(values)
        for at in indexes:
            self.choices.check(at)
        return self.combine(indexes)

    def _indexes(self, values: tuple[Any, ...]) -> set[int]:
        indexes = set()
        for value in values:
            at = self.choices.index_of(value)
            if at is None:
                raise Complaint(
                    tell(
                        "{value} is not one of the {count:,} choices",
                        value=value_in_words(value),
                        count=len(self.choices),
                    )
                )
            indexes.add(at)
        return indexes


@overload
def one_of(
    choices: Mapping[str, T],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    aliases: Aliases[T] = ...,
    disabled: Reason[T] = ...,
    group: About[T] = ...,
    by_key: bool = ...,
) -> OneOf[T]: ...
@overload
def one_of(
    choices: Iterable[T] | Callable[..., Iterable[T]],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    aliases: Aliases[T] = ...,
    disabled: Reason[T] = ...,
    group: About[T] = ...,
    by_key: bool = ...,
) -> OneOf[T]: ...
def one_of(
    choices: Iterable[T] | Mapping[str, T] | Callable[..., Any],
    label: Label[T] = None,
    *,
    note: About[T] = None,
    aliases: Aliases[T] = None,
    disabled: Reason[T] = None,
    group: About[T] = None,
    by_key: bool = False,
) -> OneOf[T]:
    """Return a kind: one of the program's own objects, picked from a menu or named by its label.

    ``choices`` are the objects: a list, an ``Enum`` class, a mapping from label to object, a generator (whose objects
    are taken as they come, while the menu is open), or a function of the answers so far that gives one of these.
    ``label``, ``note`` (shown beside the label), ``aliases`` (further words for the same choice), ``disabled`` (why it
    cannot be chosen now) and ``group`` (the heading above it and its neighbours of the same group) are functions of the
    object, names of its attributes, or mappings from object to text; ``disabled`` may be a function of the object and
    the answers so far, too. ``by_key``: the first letter of a choice accepts it at once, and nothing filters the list,
    as for yes, no, all, quit. Raises DeclarationError if two choices have one label, or by key one letter.

    Example:
        >>> fields = {"Lantern": 12, "Thimble": 3}
        >>> slot(one_of(fields)).parse("thimble")
        3

    """
    found = _choices(choices, label=label, note=note, aliases=aliases, disabled=disabled, group=group)
    return OneOf(found, by_key=by_key)


@overload
def any_of(
    choices: Mapping[str, T],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    aliases: Aliases[T] = ...,
    disabled: Reason[T] = ...,
    group: About[T] = ...,
    least: int = ...,
    most: int | None = ...,
) -> AnyOf[T]: ...
@overload
def any_of(
    choices: Iterable[T] | Callable[..., Iterable[T]],
    label: Label[T] = ...,
    *,
    note: About[T] = ...,
    aliases: Aliases[T] = ...,
    disabled: Reason[T] = ...,
    group: About[T] = ...,
    least: int = ...,
    most: int | None = ...,
) -> AnyOf[T]: ...
def any_of(
    choices: Iterable[T] | Mapping[str, T] | Callable[..., Any],
    label: Label[T] = None,
    *,
    note: About[T] = None,
    aliases: Aliases[T] = None,
    disabled: Reason[T] = None,
    group: About[T] = None,
    least: int = 0,
    most: int | None = None,
) -> AnyOf[T]:
    """Return a kind: a tuple of ``least`` to ``most`` objects of the program, in the order of the choices.

    On a terminal it is a list of checkboxes, as a word the labels with commas between them. ``choices``, ``label``,
    ``note``, ``aliases``, ``disabled`` and ``group`` are those of :func:`one_of`.

    Example:
        >>> slot(any_of(["red", "green", "blue"], least=1)).parse("blue,red")
        ('red', 'blue')

    """
    return AnyOf(
        _choices(choices, label=label, note=note, aliases=aliases, disabled=disabled, group=group), least, most
    )


def _refuse_text(choices: object) -> None:
    """Raise DeclarationError for choices that would be the letters of a text, or that are nothing to go through."""
    if isinstance(choices, (str, bytes)):  # its letters are meant by nobody
        raise DeclarationError(f"{choices!r} is one text: write a list of choices, such as [{choices!r}]")
    if not hasattr(choices, "__iter__") and not callable(choices):
        raise DeclarationError(f"{choices!r} are no choices: write a list, a mapping, an Enum class or a function")


def _choices(given: Any, **about: Any) -> Choices[Any]:
    """Return the choices of a list, a mapping, an ``Enum``, a generator, or a function of the answers before."""
    _refuse_text(given)
    for what, function in {"choices": given, **about}.items():
        refuse_coroutine(what, function)
    if is_function(given) or wants_answers(about["disabled"]):
        return DynamicChoices(given, **about)
    return Choices(given, **about)


def _pieces(text: str) -> list[tuple[str, int]]:
    """Return the labels between the commas, unescaped, each with the offset at which it begins."""
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
    while len(pieces) > 1 and not pieces[-1][0].strip():  # commas at the very end are no further labels
        pieces.pop()
    return pieces
