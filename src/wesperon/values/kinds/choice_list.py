"""The objects to choose from: the program's own, each with a label.

They may be more than are there yet: what a generator gives is taken from it when somebody wants it. Operations and
their costs, for ``n`` choices:

    declare                 n steps for up to 1,000 choices (labels are compared), one step for more
    label, note, disabled     one call of the program's function, when asked for
    text to choice          one look-up; the table of labels is built at the first, in n steps
    object to choice        one look-up by identity, else n comparisons
    all labels              n calls
"""

from __future__ import annotations

from _thread import RLock

from wesperon.frozen import later
from wesperon.text.messages import tell
from wesperon.values import Complaint, DeclarationError, Generic, T, quoted, subscripted
from wesperon.values.calls import FAULTS, call_with_optional_answers
from wesperon.values.problems import Refusal
from wesperon.values.pull_source import PullSource

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping
    from typing import Any

    #: From an object to a text about it: a function, the name of an attribute, or a mapping.
    About = Callable[[T], str | None] | Mapping[Any, str] | str | None
    #: The same, of which a function may take the answers so far as well.
    Reason = Callable[[T], str | None] | Callable[[T, Any], str | None] | Mapping[Any, str] | str | None
    Aliases = Callable[[T], str | Iterable[str] | None] | Mapping[Any, str | Iterable[str]] | str | None
    Label = Callable[[T], str] | Mapping[Any, str] | str | None

    from wesperon.text import spelling
else:
    spelling = later("wesperon.text.spelling")

#: Up to here the labels are compared when the choices are declared, beyond when the first text is looked up.
COMPARED_AT_ONCE = 1_000
#: Up to here a complaint lists the choices.
LISTED = 6


class Choices(Generic[T]):
    """Objects with a label, and perhaps a note, further words, a group, a reason why not, for each."""

    if not TYPE_CHECKING:
        __class_getitem__ = subscripted

    def __init__(
        self,
        choices: Iterable[T] | Mapping[str, T],
        label: Label[T] = None,
        note: About[T] = None,
        aliases: Aliases[T] = None,
        disabled: About[T] = None,
        group: About[T] = None,
        *,
        is_late: bool = False,
        takes_any_label: bool = False,
    ) -> None:
        #: Whether labels may be equal, or blank: nobody names a choice by its label.
        self._takes_any_label = takes_any_label
        #: The indices of choices that share a text, which only those known late may; None if none may.
        self._shared: dict[str, list[int]] | None = {} if is_late else None
        self._labels: list[str] | None = None
        #: Where the objects are, and where further ones come from.
        self.source: PullSource[T]
        #: Held while the tables below are brought up to what is there: a declaration is used by many threads.
        self._indexing = RLock()
        self._own_labels = label is not None
        self._about: dict[str, Callable[[T], Any] | None] = {
            "label": _getter(label, plain_label) or plain_label,
            "note": _getter(note),
            "aliases": _getter(aliases),
            "disabled": _getter(disabled),
            "group": _getter(group),
        }
        self._by_text: dict[str, int] = {}
        self._entered = 0
        #: The indices by text in one letter case, and how many texts are in that.
        self._by_folded: dict[str, set[int]] = {}
        self._folded = 0
        self._by_identity: dict[int, int] = {}
        self._identified = 0
        self._collect(choices)

    def _collect(self, choices: Any) -> None:
        """Take in the objects; of a generator as they are wanted."""
        if hasattr(type(choices), "keys"):
            self._labels = [str(key) for key in choices]
            self.source = PullSource(None, [choices[key] for key in choices])
        elif hasattr(choices, "__next__"):
            self.source = PullSource(choices)
            self._shared = {}
            return
        else:
            self.source = PullSource(None, list(choices))
        if not self.objects:
            raise DeclarationError(tell("there is nothing to choose from: the list of choices is empty"))
        if len(self.objects) <= COMPARED_AT_ONCE:
            self._enter_all()

    @property
    def known(self) -> Choices[T] | None:
        """The choices that there are whatever the answers; None if they depend on them."""
        return self

    @property
    def objects(self) -> list[T]:
        """The objects that are there by now."""
        return self.source.items

    def __len__(self) -> int:
        """Return how many there are by now."""
        return len(self.source.items)

    @property
    def is_growing(self) -> bool:
        """Whether more may come."""
        return self.source.is_growing

    @property
    def has_groups(self) -> bool:
        """Whether the choices are in groups."""
        return self._about["group"] is not None

    def pull(self) -> bool:
        """Pull one more choice from where they come from, which may take its time. Return False if there was none."""
        before = len(self)
        self.source.pull(before + 1)
        return len(self) > before

    def pull_all(self, most: int | None = None) -> None:
        """Take all that come, until there are ``most``."""
        self.source.pull(most)

    def label(self, at: int) -> str:
        """Return the label of the choice at an index; raises DeclarationError if the program's function fails."""
        return str(self._said("label", at)) if self._labels is None else self._labels[at]

    def note(self, at: int) -> str:
        """Return what is said beside the label; may be empty."""
        return str(self._said("note", at) or "")

    def disabled(self, at: int) -> str:
        """Return why the choice cannot be taken; empty if it can."""
        return str(self._said("disabled", at) or "")

    def group(self, at: int) -> str:
        """Return the heading under which the choice is; may be empty."""
        return str(self._said("group", at) or "")

    def further(self, at: int) -> tuple[str, ...]:
        """Return the further words for the choice."""
        words = self._said("aliases", at) or ()
        if not hasattr(words, "__iter__"):
            raise DeclarationError(f"aliases gave {words!r} for {self.objects[at]!r}: must give words")
        return (words,) if isinstance(words, str) else tuple(words)

    def _said(self, what: str, at: int) -> Any:
        function = self._about[what]
        if function is None:
            return None
        try:
            return function(self.objects[at])
        except Exception as error:
            raise self._failed(what, at, error) from error

    def _failed(self, what: str, at: int, error: Exception) -> DeclarationError:
        """Return the error that a function of the program's own has failed, and for which choice."""
        try:
            which = quoted(repr(self.objects[at]))
        except Exception:
            which = type(self.objects[at]).__name__
        reason = f"{type(error).__name__}: {error}".rstrip(": ")
        return DeclarationError(
            tell(
                "{what} of choice {at} ({which}) cannot be made: {reason}",
                what=what,
                at=at + 1,
                which=which,
                reason=reason,
            )
        )

    def labels(self) -> Iterable[str]:
        """Return every label, in order, made when asked for."""
        return (self.label(at) for at in range(len(self)))

    def texts(self, first: int, last: int) -> list[str]:
        """Return what is looked through for a part of it: each label, with further words after it."""
        if self._labels is not None:
            texts = self._labels[first:last]
        else:
            objects: list[Any] = self.objects[first:last]
            plain = not self._own_labels and set(map(type, objects)) <= {str}
            texts = objects if plain else [self.label(at) for at in range(first, last)]
        if self._about["aliases"] is None:
            return texts
        return ["\0".join((text, *self.further(at))) for at, text in enumerate(texts, first)]

    def find(self, text: str) -> int | None:
        """Return the index of the choice with this label or word.

        That is exactly, else with the blanks around it taken off, else in any letter case if only one choice is meant.
        """
        for wanted in dict.fromkeys((text, text.strip())):
            self._enter_all()
            while wanted not in self._by_text and self.pull():
                self._enter_all()
            if wanted in self._by_text:
                return None if self._shared and wanted in self._shared else self._by_text[wanted]
        with self._indexing:
            return self._find_folded(text)

    def _find_folded(self, text: str) -> int | None:
        if self._folded != len(self._by_text):
            self._folded, self._by_folded = len(self._by_text), {}
            for known, at in self._by_text.items():
                self._by_folded.setdefault(known.casefold(), set()).add(at)
        meant = self._by_folded.get(text.strip().casefold(), ())
        if len(meant) != 1 or (self._shared and text.strip().casefold() in map(str.casefold, self._shared)):
            return None
        return next(iter(meant))

    def index_of(self, value: Any) -> int | None:
        """Return the index of an object among the choices: the same object first, else an equal one."""
        at = self._index_by(value, 0)
        while at is None and self.pull():
            at = self._index_by(value, len(self.objects) - 1)
        return at

    def _index_by(self, value: Any, first: int) -> int | None:
        objects = self.objects
        with self._indexing:
            for at in range(self._identified, count := len(objects)):
                self._by_identity.setdefault(id(objects[at]), at)
            self._identified = count
        found = self._by_identity.get(id(value))
        if found is None:
            found = next((at for at in range(first, len(objects)) if objects[at] == value), None)
        return found

    def with_reasons(self, disabled: Callable[[T], Any] | None) -> Choices[T]:
        """Return the same choices, of which ``disabled`` says why they cannot be taken."""
        made: Choices[T] = Choices.__new__(Choices)
        made.__dict__.update(self.__dict__)
        made._about = {**self._about, "disabled": _getter(disabled)}
        return made

    def check(self, at: int) -> T:
        """Return the object at an index; raises Complaint if it is disabled."""
        reason = self.disabled(at)
        if reason:
            raise Complaint(tell("{label} cannot be chosen: {reason}", label=quoted(self.label(at)), reason=reason), 0)
        return self.objects[at]

    def unknown(self, text: str, position: int | None = None) -> Complaint:
        """Return the complaint about a text that names no choice, or more than one."""
        shared = self.sharing(text)
        if shared:
            notes = ", ".join([quoted(self.note(at))[1:-1] for at in shared if self.note(at)][:LISTED])
            reason = tell("{text} names {count} choices", text=quoted(text), count=len(shared))
            hint = tell("; no word tells them apart: choose one in its list")
            return Complaint(reason + (f" ({notes})" if notes else "") + hint, position)
        if len(self) <= LISTED:
            listed = ", ".join(quoted(label)[1:-1] for label in self.labels())
            hint = tell("; choose from: {choices}", choices=listed)
        else:
            hint = spelling.suggestion(text, self.labels())
        reason = tell("{text} is not one of the {count} choices", text=quoted(text), count=f"{len(self):,}")
        if self.source.ended_early:
            hint += "; " + tell("further ones could not be loaded: {error}", error=self.source.ended_early)
        return Complaint(reason + hint, position)

    def sharing(self, text: str) -> list[int]:
        """Return the indices of the choices that have this label or word, if some share it.

        Those of a generator are looked at as far as they have been seen.
        """
        if not self._shared:
            return []
        exact = self._shared.get(text) or self._shared.get(text.strip())
        if exact:
            return exact
        folded = text.strip().casefold()
        shared = {at for known, indices in self._shared.items() if known.casefold() == folded for at in indices}
        return (
            sorted(shared | {at for known, at in self._by_text.items() if known.casefold() == folded}) if shared else []
        )

    def _enter_all(self) -> None:
        """Bring the table of labels and words up to what is there."""
        if self._entered == len(self.objects):
            return
        with self._indexing:
            self._enter_new()

    def _enter_new(self) -> None:
        first, count = self._entered, len(self.objects)
        if first == count:
            return
        self._entered = count
        for at in range(first, count):
            self._enter(self.label(at), at)
        if self._about["aliases"] is not None:
            for at in range(first, count):
                for word in self.further(at):
                    if self._by_text.get(word) != at:
                        self._enter(word, at)

    def _enter(self, text: str, at: int) -> None:
        if self._takes_any_label:
            self._by_text.setdefault(text, at)
            return
        if not text.strip():
            shown = quoted(repr(self.objects[at]))
            raise DeclarationError(tell("choice {at} ({which}) has an empty label", at=at + 1, which=shown))
        if text in self._by_text and self._shared is not None:
            self._shared.setdefault(text, [self._by_text[text]]).append(at)
            return
        if text in self._by_text:
            raise DeclarationError(
                tell(
                    "choices {first} and {second} are both called {text}: "
                    "give each a label (or a word of aliases) of its own",
                    first=self._by_text[text] + 1,
                    second=at + 1,
                    text=quoted(text),
                )
            )
        self._by_text[text] = at


class DynamicChoices(Choices[T]):
    """Choices that depend on the answers before; until these are there, there are none.

    ``function`` gives them, ``disabled`` says of an object and the answers why it cannot be chosen. If only the latter
    depends on the answers, the choices are ``known``.
    """

    def __init__(self, given: Any, disabled: Any = None, **about: Any) -> None:
        super().__init__(iter(()), **about)
        self.function: Callable[..., Any] | None = given if is_function(given) else None
        self.about = about
        self.reason = disabled
        self._known: Choices[T] | None = None if self.function is not None else Choices(given, **about)
        self.pull()

    @property
    def known(self) -> Choices[T] | None:
        """The choices, if only whether they can be taken depends on the answers."""
        return self._known

    def resolve(self, answers: object) -> Choices[T]:
        """Return the choices with these answers; raises Complaint if there are none."""
        reason = self.reason
        disabled = (lambda one: reason(one, answers)) if wants_answers(reason) else reason
        if self.function is None:
            assert self._known is not None
            self._known.pull_all()
            return self._known.with_reasons(disabled)
        try:
            given = call_with_optional_answers(self.function, answers)
        except (Complaint, Refusal, DeclarationError, *FAULTS):
            raise
        except Exception as error:
            shown = f"{type(error).__name__}: {error}".rstrip(": ")
            raise Complaint(tell("there is nothing to choose from: {error}", error=shown)) from error
        if isinstance(given, (str, bytes)) or not hasattr(given, "__iter__"):
            name = getattr(self.function, "__name__", "the function")
            raise DeclarationError(f"{name} gave {given!r}, which are no choices: must give a list, or the like")
        if not hasattr(given, "__next__") and not hasattr(type(given), "keys"):
            given = list(given)
        if not hasattr(given, "__next__") and not len(given):
            raise Complaint(tell("there is nothing to choose from with the values before it"))
        return Choices(given, disabled=disabled, is_late=True, **self.about)


def is_function(given: Any) -> bool:
    """Return True if choices are given as a function that gives them."""
    return callable(given) and not hasattr(type(given), "__iter__")


def wants_answers(disabled: Any) -> bool:
    """Return True if what says why a choice is disabled takes the answers so far beside the object."""
    code = getattr(getattr(disabled, "__func__", disabled), "__code__", None)
    if code is None or not callable(disabled):
        return False
    defaults = getattr(getattr(disabled, "__func__", disabled), "__defaults__", None) or ()
    return bool(code.co_argcount - len(defaults) - hasattr(disabled, "__self__") == 2)


def _getter(given: Any, missing: Callable[[T], Any] | None = None) -> Callable[[T], Any] | None:
    """Return a function of the object, from a function, the name of an attribute, or a mapping.

    ``missing`` is asked about an object that the mapping does not have.
    """
    if isinstance(given, str):
        name = given
        return lambda value: getattr(value, name)
    if given is not None and hasattr(type(given), "__getitem__") and not callable(given):
        mapping = given
        return lambda value: mapping[value] if value in mapping else missing(value) if missing else None
    return given  # type: ignore[no-any-return]


def plain_label(value: object) -> str:
    """Return the label of an object that was given none: the value of an ``Enum`` member, else ``str``."""
    return str(value.value) if hasattr(type(value), "__members__") else str(value)  # type: ignore[attr-defined]
