"""Rules: which slots of a form go together. Loaded with the first form that has one.

    exactly_one    one of them is given, no more
    at_most_one    one of them may be given
    at_least_one   one of them is given, or several
    all_or_none    all of them are given, or none is
    needs          if the first is given, so is the second

A slot is *given* if its value is not None, not several of which there are none, and of a switch yes (of a count, above
0). A text is given even if it is empty: only a slot that says ``low=0`` takes one, and then it is an answer.

A rule is an attribute of its form that is no slot: on a record it is computed from the values. Each slot knows its
rules (``Slot.rules``), so that whatever has the slots of a form has its rules too (``rules_of``).
"""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.text.truncate import listed
from wesperon.values import MISSING, DeclarationError, Generic, T, subscripted
from wesperon.values.construction import change_slots
from wesperon.values.dependencies import examine_order
from wesperon.values.kind import BOOL
from wesperon.values.kinds.choices import any_of, one_of
from wesperon.values.phrases import in_words
from wesperon.values.slots import KEYWORDS, Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any, Never, Self, overload

    from wesperon.values.records import Record

#: How often the order is looked through; a chain of more rules, each declared before the one that it needs, is rare.
MOST_PASSES = 20

__all__ = ["Rule", "all_or_none", "at_least_one", "at_most_one", "exactly_one", "needs"]


class Rule(Generic[T]):
    """Which slots of a form go together; made by :func:`exactly_one` and the like."""

    if not TYPE_CHECKING:
        __class_getitem__ = subscripted

    #: What makes it, which is its name in files too.
    sort = ""
    #: Whether one that is given rules out the others.
    excludes = False

    def __init__(self, names: Sequence[str], ask: str | None) -> None:
        self.names = tuple(names)
        self.ask = ask
        #: The attribute of the form; empty if there is none.
        self.name = ""
        for name in self.names:
            if not isinstance(name, str):
                raise DeclarationError(f"{self.sort}({name!r}): names of slots are texts, as {self.sort}('a', 'b')")
        if len({*self.names}) < max(len(self.names), 2):
            raise DeclarationError(f"{self.sort}({', '.join(map(repr, self.names))}): name two slots, or more")
        if ask is not None and not isinstance(ask, str):
            raise DeclarationError(f"{self.sort}(ask={ask!r}): must be a text")

    def __set_name__(self, owner: Any, name: str) -> None:
        self.name = name
        owner._rules = (*getattr(owner, "_rules", ()), self)

    if TYPE_CHECKING:

        @overload
        def __get__(self, record: None, owner: type) -> Self: ...
        @overload
        def __get__(self, record: object, owner: type) -> T: ...
        def __get__(self, record: object | None, owner: type) -> Any:
            """Return the value on a record."""

        def __set__(self, record: Never, value: T) -> None:
            """Be no attribute that can be assigned to."""

    else:

        def __get__(self, record, owner):
            if record is None:
                return self
            # While a form is being filled, what was chosen is here before there are values.
            return record.__dict__[self.name] if self.name in record.__dict__ else self.value(self.given_in(record))

        def __set__(self, record, value):
            raise AttributeError(f"{self.name} is read-only: it says which slots are given")

    def __repr__(self) -> str:
        return f"<{self.sort} of {', '.join(self.names)}>"

    @property
    def key(self) -> str:
        """What it is called where it is asked for."""
        return self.name if self.name[:1] != "_" and self.name else " ".join(self.names)

    @property
    def asked_after(self) -> tuple[str, ...]:
        """The slots that are asked for after the rule, as it may say that they are needed."""
        return self.names

    def given_in(self, record: Any) -> tuple[str, ...]:
        """Return the slots that a record has a value for, in the order of the rule."""
        slots: Mapping[str, Slot[Any]] = record._slots
        return tuple([name for name in self.names if is_given(slots[name], record.__dict__.get(name))])

    def value(self, given: tuple[str, ...]) -> Any:
        """Return what the rule is on a record with these values."""
        return given[0] if given else None

    def missing(self, given: Sequence[str], possible: Sequence[str]) -> tuple[str, ...]:
        """Return the slots of which a value is missing: one of them, or each (``takes_each``).

        ``given`` are those that have one, ``possible`` those that apply.
        """
        return ()

    #: Whether each of the missing ones is needed, so that there is nothing to choose.
    takes_each = False
    #: What is between its slots in a line of usage (POSIX, Base Definitions, 12.1); empty if each is by itself.
    joint = ""
    #: Whether a line of usage has no brackets around them.
    is_required = False
    #: Whether it has a question of its own, which of its slots are to be given.
    is_asked = True
    #: What that question begins with if none is given.
    nothing: Any = MISSING

    def is_broken(self, given: Sequence[str], possible: Sequence[str]) -> bool:
        """Return True if values do not go together."""
        return (self.excludes and len(given) > 1) or bool(self.missing(given, possible))

    def reason(self, slots: Mapping[str, Slot[Any]], given: Sequence[str], possible: Sequence[str]) -> str:
        """Return what is wrong if it is broken, after the name of the first slot of ``at_fault``."""
        if self.excludes and len(given) > 1:
            others = listed([f"--{slots[name].word}" for name in given[1:]], tell(" and "))
            return tell("excludes {others}: give only one of them", others=others)
        missing = [as_word(slots[name]) for name in self.missing(given, possible)]
        if self.takes_each:
            return tell("also needs {list}", list=listed(missing, tell(" and ")))
        return tell("{wanted} is needed: {list}", wanted=tell(self.wanted), list=listed(missing, tell(" or ")))

    #: How many of its slots go together.
    wanted = ""

    def at_fault(self, given: Sequence[str]) -> tuple[str, ...]:
        """Return the slots that a complaint is about."""
        return tuple(given) or self.names

    def sentence(self, slots: Mapping[str, Slot[Any]]) -> str:
        """Return the rule as a help page says it."""
        names = [f"--{slots[name].word}" for name in self.names]
        return tell("{wanted}: {list}", wanted=tell(self.wanted), list=", ".join(names))

    def as_slot(self, slots: Mapping[str, Slot[Any]], among: Sequence[str] = ()) -> RuleSlot:
        """Return the question which of the slots is to be given, or which of some ``among`` them."""
        return RuleSlot(
            self,
            one_of([*(among or self.names)], _label_in(slots, self.names), note=_note_in(slots)),
            tell("Which one"),
        )


class RuleSlot(Slot["Any"]):
    """The question which slots of a rule are to be given; no value of the record."""

    def __init__(self, rule: Rule[Any], kind: Any, ask: str) -> None:
        super().__init__(kind, rule.ask or ask, dict(KEYWORDS))
        self.rule, self.name, self.is_examined = rule, rule.key, True


class ExactlyOne(Rule["str | None"]):
    """One of the slots is given, no more."""

    sort, excludes, joint, is_required = "exactly_one", True, "|", True
    wanted = "exactly one of these"

    def missing(self, given: Sequence[str], possible: Sequence[str]) -> tuple[str, ...]:
        """See ``Rule``."""
        return () if given else tuple(possible)


class AtMostOne(Rule["str | None"]):
    """One of the slots may be given."""

    sort, excludes, joint, nothing = "at_most_one", True, "|", ""
    wanted = "at most one of these"

    def as_slot(self, slots: Mapping[str, Slot[Any]], among: Sequence[str] = ()) -> RuleSlot:
        """See ``Rule``; it may be none, which is the empty name."""
        return super().as_slot(slots, (*(among or self.names), ""))


class AtLeastOne(Rule["tuple[str, ...]"]):
    """One of the slots is given, or several."""

    sort = "at_least_one"
    wanted = "at least one of these"

    def value(self, given: tuple[str, ...]) -> Any:
        """See ``Rule``."""
        return given

    def missing(self, given: Sequence[str], possible: Sequence[str]) -> tuple[str, ...]:
        """See ``Rule``."""
        return () if given else tuple(possible)

    def as_slot(self, slots: Mapping[str, Slot[Any]], among: Sequence[str] = ()) -> RuleSlot:
        """See ``Rule``."""
        kind = any_of([*(among or self.names)], _label_in(slots, self.names), note=_note_in(slots), least=1)
        return RuleSlot(self, kind, tell("Which of these"))


class AllOrNone(Rule[bool]):
    """All of the slots are given, or none is."""

    sort, takes_each, joint, nothing = "all_or_none", True, " ", False
    wanted = "all of these or none"

    def value(self, given: tuple[str, ...]) -> Any:
        """See ``Rule``."""
        return bool(given)

    def missing(self, given: Sequence[str], possible: Sequence[str]) -> tuple[str, ...]:
        """See ``Rule``."""
        found = {*given}
        return tuple([name for name in possible if name not in found]) if found else ()

    def as_slot(self, slots: Mapping[str, Slot[Any]], among: Sequence[str] = ()) -> RuleSlot:
        """See ``Rule``; whether they are to be given."""
        names = listed([slots[name].label for name in among or self.names], tell(" and "))
        return RuleSlot(self, BOOL, tell("Give {names}", names=names))


class Needs(Rule[bool]):
    """If the first slot is given, so is the second."""

    sort, takes_each, is_asked = "needs", True, False

    @property
    def asked_after(self) -> tuple[str, ...]:
        """See ``Rule``."""
        return self.names[1:]

    def value(self, given: tuple[str, ...]) -> Any:
        """See ``Rule``."""
        return self.names[0] in given

    def missing(self, given: Sequence[str], possible: Sequence[str]) -> tuple[str, ...]:
        """See ``Rule``."""
        first, second = self.names
        return (second,) if first in given and second not in given and second in possible else ()

    def at_fault(self, given: Sequence[str]) -> tuple[str, ...]:
        """See ``Rule``."""
        return self.names[:1]

    def sentence(self, slots: Mapping[str, Slot[Any]]) -> str:
        """See ``Rule``."""
        first, second = (f"--{slots[name].word}" for name in self.names)
        return tell("{first} needs {second}", first=first, second=second)


def exactly_one(*names: str, ask: str | None = None) -> Rule[str | None]:
    """Declare that exactly one of the slots with these names is given.

    It is written into the body of a form, ``source = exactly_one("pattern", "pattern_file")``, or into ``rules=[...]``
    of :func:`wesperon.run` and :meth:`wesperon.Command.from_function`. Each slot has ``default=None`` (a switch no,
    several values none). What is missing is asked for: first which one, by the question ``ask``, then its value. A
    position of which another slot takes the place steps aside. On a record the value is the name of the slot that was
    given, or None if none was.

    Returns the rule; raises DeclarationError for fewer than two names.

    Example:
        >>> class Search(Form):
        ...     pattern = slot(default=None)
        ...     pattern_file = slot(default=None)
        ...     source = exactly_one("pattern", "pattern_file")
        >>> Search.fill(["--pattern-file=nebulae.txt"]).source
        'pattern_file'

    """
    return ExactlyOne(names, ask)


def at_most_one(*names: str, ask: str | None = None) -> Rule[str | None]:
    """Declare that one of the slots with these names may be given, and no more; see :func:`exactly_one`.

    The ``names`` and the question ``ask``, the value on a record and the errors are the same; none is asked for but
    under ``--asking all``.

    Example:
        >>> class Search(Form):
        ...     count = slot(bool, default=False)
        ...     quiet = slot(bool, default=False)
        ...     output = at_most_one("count", "quiet")
        >>> Search.fill(["--quiet"]).output
        'quiet'

    """
    return AtMostOne(names, ask)


def at_least_one(*names: str, ask: str | None = None) -> Rule[tuple[str, ...]]:
    """Declare that one of the slots with these names is given, or several; see :func:`exactly_one`.

    The ``names``, the question ``ask`` and the errors are the same. On a record the value is a tuple of the names of
    those that were given.

    Example:
        >>> class Watch(Form):
        ...     dome = slot(bool, default=False)
        ...     mast = slot(bool, default=False)
        ...     what = at_least_one("dome", "mast")
        >>> Watch.fill(["--mast", "--dome"]).what
        ('dome', 'mast')

    """
    return AtLeastOne(names, ask)


def all_or_none(*names: str, ask: str | None = None) -> Rule[bool]:
    """Declare that all of the slots with these names are given, or none; see :func:`exactly_one`.

    The ``names`` and errors are the same; ``ask`` is whether they are to be given, asked under ``--asking all``. If one
    is given, the others are asked for. On a record the value is whether they were given.

    Example:
        >>> class Plan(Form):
        ...     rows = slot(int, default=None)
        ...     columns = slot(int, default=None)
        ...     is_mosaic = all_or_none("rows", "columns")
        >>> Plan.fill(["3", "4"]).is_mosaic
        True

    """
    return AllOrNone(names, ask)


def needs(name: str, other: str) -> Rule[bool]:
    """Declare that the slot ``other`` is given if the slot ``name`` is; see :func:`exactly_one`.

    Where it is missing, it is asked for. On a record the value is whether ``name`` was given.

    Example:
        >>> class Remove(Form):
        ...     days = slot(int, default=None)
        ...     confirmed = slot(bool, default=False)
        ...     is_partial = needs("days", "confirmed")
        >>> Remove.fill(["30", "--confirmed"]).is_partial
        True

    """
    return Needs((name, other), None)


def in_body(rules: Any) -> dict[str, Rule[Any]]:
    """Return what the body of a class has for the ``rules`` of a function; raises DeclarationError."""
    if not isinstance(rules, (list, tuple)) or not all(isinstance(one, Rule) for one in rules):
        raise DeclarationError(f"rules={rules!r}: must be a list, such as [exactly_one('pattern', 'pattern_file')]")
    return {one.name or f"_rule_{at}": one for at, one in enumerate(rules)}


def is_given(slot: Slot[Any], value: Any) -> bool:
    """Return True if a value of a slot is one that was given, as rules have it."""
    if value is None or value is MISSING:
        return False
    if not slot.shape.takes_text:
        return bool(value)
    return bool(value) if isinstance(value, (tuple, list, dict)) else True


def as_word(slot: Slot[Any]) -> str:
    """Return how a slot is given by name; of a secret that no word may hold the name alone."""
    return f"--{slot.word}" if slot.secret is True else in_words(slot)


def rules_of(slots: Mapping[str, Slot[Any]]) -> list[Rule[Any]]:
    """Return the rules of some slots, in the order of their declaration; those of which all slots are there."""
    found = dict.fromkeys(rule for slot in slots.values() for rule in slot.rules)
    return [rule for rule in found if all(name in slots for name in rule.names)]


def in_order(slots: Mapping[str, Slot[Any]]) -> list[Slot[Any]]:
    """Return the slots in the order in which a form comes to them, with its rules among them."""
    rules = {rule.key: rule for rule in rules_of(slots)}
    declared = {name: at for at, name in enumerate(slots)}
    # A place is a tuple, and what comes right after it is a longer one: so nothing is ever moved in a list.
    places: dict[str, tuple[int, ...]] = {name: (at,) for name, at in declared.items()}
    for _ in range(MOST_PASSES):  # a rule whose slots another one has moved comes after these
        before = dict(places)
        for number, (key, rule) in enumerate(rules.items()):
            first = [places[name] for name in rule.names if name not in rule.asked_after]
            last = max(declared[name] for name in rule.names)
            places[key] = max([(last, number), *[(*one, number) for one in first]])
            for name in rule.asked_after:
                places[name] = max(places[name], (*places[key], declared[name]))
        if places == before:
            break
    ordered = sorted(places, key=places.__getitem__)
    return [rules[name].as_slot(slots) if name in rules else slots[name] for name in ordered]


def rivals_of(slot: Slot[Any]) -> set[str]:
    """Return the names of the slots that exclude a slot."""
    return {name for rule in slot.rules if rule.excludes for name in rule.names} - {slot.name}


def possible_of(rule: Rule[Any], slots: Mapping[str, Slot[Any]], answers: object) -> list[str]:
    """Return the slots of a rule that apply with these answers; what cannot be told yet does."""
    possible = []
    for name in rule.names:
        try:
            is_skipped = slots[name].is_skipped(answers)
        except AttributeError:  # it depends on a value that is not there
            is_skipped = False
        if not is_skipped:
            possible.append(name)
    return possible


def broken_of(record: Record) -> tuple[str, tuple[str, ...]] | None:
    """Return why the values of a record do not go together, and the slots at fault; None if they do."""
    slots: Mapping[str, Slot[Any]] = record._slots
    for rule in rules_of(slots):
        given, possible = rule.given_in(record), possible_of(rule, slots, record)
        if rule.is_broken(given, possible):
            return rule.reason(slots, given, possible), rule.at_fault(given)
    return None


def apply_rules(cls: Any) -> None:
    """Have the slots of a class know its rules; raises DeclarationError for slots that can be in none."""
    rules = [rule for base in reversed(cls.__mro__) for rule in base.__dict__.values() if isinstance(rule, Rule)]
    cls._rules = tuple([rule for rule in dict.fromkeys(rules) if getattr(cls, rule.name) is rule])
    methods = {name for base in cls.__mro__ for name in base.__dict__.get("_methods", ())}
    for rule in cls._rules:
        for name in rule.names:
            _examine_member(cls, rule, name)
        if rule.name in methods:
            raise DeclarationError(
                f"{cls.__name__}: a rule cannot be called {rule.name}, which has a meaning of its own"
            )
    known: dict[str, tuple[Rule[Any], ...]] = {}
    for rule in cls._rules:
        for name in rule.names:
            known[name] = (*known.get(name, ()), rule)
    change_slots(cls, lambda slot: {"rules": own} if (own := known.get(slot.name, ())) != slot.rules else {})
    examine_order(cls.__name__, {slot.name: slot for slot in in_order(cls._slots)})


def _examine_member(cls: Any, rule: Rule[Any], name: str) -> None:
    """Raise DeclarationError for a name that is no slot, or one that always has a value."""
    slot = cls._slots.get(name)
    called = f"{cls.__name__}: {rule.sort}({', '.join(map(repr, rule.names))})"
    if slot is None:
        raise DeclarationError(f"{called}: there is no slot {name}{suggestion(name, cls._slots, declared=True)}")
    none = slot.shape.none(slot) if slot.default is MISSING else slot.default
    if none is MISSING or callable(none) or is_given(slot, none) or slot.initial is not MISSING:
        right = "default=False" if not slot.shape.takes_text else "no values" if slot.shape.splits else "default=None"
        raise DeclarationError(f"{called}: {name} may be left out, so it needs {right}")


def _label_in(slots: Mapping[str, Slot[Any]], names: Sequence[str]) -> Callable[[str], str]:
    """Return what is in the menu for a slot: its label, or its name where two have one label."""
    labels = [slots[name].label for name in names]
    return lambda name: (
        tell("none of these") if not name else slots[name].label if labels.count(slots[name].label) == 1 else name
    )


def _note_in(slots: Mapping[str, Slot[Any]]) -> Callable[[str], str]:
    def note(name: str) -> str:
        slot = slots.get(name)
        if slot is None:
            return ""
        return slot.help or (slot.ask if slot.ask and slot.ask != slot.label else "")

    return note
