"""Records: a class whose body declares slots, and its filled instances.

A record is filled once, by who made it, and stays as it is. ``origins`` tells where each value came from.
Everything here is pure; how values are found is the business of ``sources``.
"""

from wesperon.values import MISSING, DeclarationError, overload
from wesperon.values.kind import opposite
from wesperon.values.slots import LAST, Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Mapping
    from typing import Any, ClassVar, Self, dataclass_transform

    from wesperon.values.rules import Rule
    from wesperon.values.signatures import Given
else:

    def dataclass_transform(**keywords):
        """Return what a checker reads; it does nothing."""
        return overload


#: Where a value can come from.
WORDS, ENV, ANSWERS, SETTINGS, PIPE, ASKED, DEFAULT, GIVEN = (
    "words", "env", "answers", "settings", "pipe", "asked", "default", "given",
)  # fmt: skip


#: The sources of a value that no word gave, in order: the first one that has something for a slot gives its value. Each
#: has a function that says whether it may have something, for a run where this was given. Both ways of filling a record
#: follow this list: the fast one (``form``), which needs none of them, and the other (``forms.precedence``).
SOURCES: "tuple[tuple[str, Callable[[Slot[Any], Given], object]], ...]" = (
    (ENV, lambda slot, given: slot.env),
    (ANSWERS, lambda slot, given: given["answers"]),
    (SETTINGS, lambda slot, given: given["settings"]),
    (PIPE, lambda slot, given: slot.piped),
    (ASKED, lambda slot, given: given["asks_all"] or slot.is_asked_for),
    (DEFAULT, lambda slot, given: callable(slot.default) or slot.applies is not None or slot.depends),
)

#: What is wrong with a value that was given for a slot that is skipped.
NOT_HERE = "does not apply with the values before it"

#: The long names that every program has of its own.
RESERVED = ("help", "version", "asking", "answers")
#: The letter of the first of them, where no slot has it.
HELP_LETTER = "h"


@dataclass_transform(kw_only_default=True)
class Record:
    """A set of values, declared as slots in the body of a subclass."""

    _slots: "ClassVar[dict[str, Slot[Any]]]" = {}
    #: Which of its slots go together; a rule in the body of a class joins them.
    _rules: "ClassVar[tuple[Rule[Any], ...]]" = ()
    #: Whether a slot begins with the value of the last run.
    _keeps_last: "ClassVar[bool]" = False
    #: Whether a slot is a secret.
    _has_secrets: "ClassVar[bool]" = False
    #: The file that declares it; empty for a class of a program.
    _declared_in: "ClassVar[str]" = ""
    #: Methods that mean something to a program, so that no slot can have their names; each class adds its own.
    _methods: "ClassVar[frozenset[str]]" = frozenset({"check", "origins"})

    def __init_subclass__(cls, **keywords: "Any") -> None:
        super().__init_subclass__(**keywords)
        own = {name: value for name, value in cls.__dict__.items() if isinstance(value, Slot)}
        slots: dict[str, Slot[Any]] = {}
        for base in reversed(cls.__mro__[1:]):
            slots.update(base.__dict__.get("_slots", {}))
        slots.update(own)
        cls._slots = {name: slot for name, slot in slots.items() if isinstance(getattr(cls, name), Slot)}
        if own:
            _check_names(cls)
        if cls._rules:
            from wesperon.values.rules import apply_rules

            apply_rules(cls)

    @classmethod
    def with_slots(cls, name: str, slots: "Mapping[str, Slot[Any]]", body: "Mapping[str, Any]") -> "type[Self]":
        """Return a subclass with these slots, in their order, which may have any names, those of methods too."""
        free = {own: slot for own, slot in slots.items() if not hasattr(cls, own)}
        made: type[Self] = made_class(name, (cls,), {**body, **free})
        if len(free) < len(slots):
            made._slots = {**cls._slots, **slots}
            _check_names(made, is_free=True)
            if made._rules:
                from wesperon.values.rules import apply_rules

                apply_rules(made)
        return made

    def __init__(self, /, *given: "Any", **values: "Any") -> None:
        """Make a record of values, by name; raises Problems that hold everything wrong with them.

        Values are of the slots' own kinds, not texts, and are checked like values that were read.
        """
        from wesperon.values.construction import construct

        construct(self, given, values)

    @classmethod
    def of(cls, values: "Mapping[str, Any]", origins: "Mapping[str, str]", *, uses_settings: bool = False) -> "Self":
        """Return a record of values that have been checked already."""
        record = cls.__new__(cls)
        record.__dict__.update(values)
        record.__dict__["_provenance"] = origins, uses_settings
        return record

    def check(self) -> None:
        """Look at all values together; a form of a program's own says here what is wrong with them.

        It is called once each value is right by itself, from whatever source they come. Raises Complaint with the
        ``slot`` at fault, or the names of several: at a question the cursor goes to the first of them, on the command
        line there are carets under their words. A ValueError is a complaint about all of them.
        """

    @property
    def origins(self) -> "Mapping[str, str]":
        """Where each value came from.

        ``words``, ``env``, ``answers``, ``settings``, ``pipe``, ``asked``, ``default``, or ``given`` by the program.
        """
        return dict(self.__dict__["_provenance"][0])

    def __iter__(self) -> "Iterator[Any]":
        return (self.__dict__[name] for name in self._slots)

    def __eq__(self, other: object) -> bool:
        if type(other) is not type(self):
            return NotImplemented
        from wesperon.values.comparison import are_equal

        return all(map(are_equal, self, other))

    def __hash__(self) -> int:
        from wesperon.values.comparison import hashable

        return hash((type(self), *map(hashable, self)))

    def __repr__(self) -> str:
        inside = ", ".join(
            f"{name}={'<secret>' if slot.secret else repr(self.__dict__.get(name, MISSING))}"
            for name, slot in self._slots.items()
        )
        return f"{type(self).__name__}({inside})"


def _check_names(cls: "type[Record]", *, is_free: bool = False) -> None:
    """Raise DeclarationError for names that would clash on the command line or, unless ``is_free``, with methods."""
    methods = [name for base in cls.__mro__ for name in base.__dict__.get("_methods", ())]
    taken: dict[str, str] = dict.fromkeys(RESERVED, "")
    letters: dict[str, str] = {}
    rest = [name for name, slot in cls._slots.items() if slot.rest]
    if len(rest) > 1:
        raise DeclarationError(f"{cls.__name__}: {rest[0]} and {rest[1]} both want the rest of the words; one can")
    if rest and cls._slots[rest[0]].rest is not True:
        from wesperon.values.examination import examine_last

        examine_last(cls, rest[0], cls._slots)
    has_functions, renamed, switches, clashes, one_way = False, [], [], [], []
    for name, slot in cls._slots.items():
        if not slot.is_examined:
            from wesperon.values.examination import examine

            examine(slot)
        if slot.secret:
            cls._has_secrets = True
        if slot.initial is not MISSING:
            cls._keeps_last = cls._keeps_last or slot.initial == LAST
            has_functions = has_functions or callable(slot.initial)
        if slot.depends or slot.applies is not None or callable(slot.default):
            has_functions = True
        if (name in methods and not is_free) or name.startswith("_"):
            raise DeclarationError(f"{cls.__name__}: a slot cannot be called {name}, which has a meaning of its own")
        word = slot.word
        if word in taken:
            clashes.append((f"--{word} of {name}", taken[word]))
        taken[word] = name
        if slot.short or slot.short_no:
            for letter in (slot.short or "") + (slot.short_no or ""):
                if letter in letters:
                    clashes.append((f"-{letter} of {name}", letters[letter]))
                letters[letter] = name
        if slot.renamed_from:
            renamed.append(slot)
        if not slot.shape.takes_text:
            switches.append(slot)
    for slot in switches:
        word = opposite(slot.word)
        other = taken.setdefault(word, slot.name)  # of two switches, each has the name that it declares
        if other and cls._slots[other].shape.takes_text:
            if slot.word.startswith("no-"):  # the other one is what its name denies
                one_way.append(slot.name)
            else:
                clashes.append((f"--{word} of {other}", slot.name))
    for slot in renamed:
        for old in slot.renamed_from:
            if old in taken:
                clashes.append((f"--{old}, the old name of {slot.name},", taken[old]))
            taken[old] = slot.name
    if clashes:
        from wesperon.values.examination import clash

        raise clash(cls, *clashes[0])
    if one_way:
        from wesperon.values.construction import change_slots

        change_slots(cls, lambda slot: {"is_one_way": True} if slot.name in one_way else {})
    if has_functions:
        from wesperon.values.dependencies import examine_order

        examine_order(cls.__name__, cls._slots)


def slots_of(form: "type[Record] | Record") -> "Mapping[str, Slot[Any]]":
    """Return the slots that the class of a record declares, by name."""
    return form._slots


def keeps_last(form: "type[Record]") -> bool:
    """Return True if a slot of a form begins with the value of the last run."""
    return form._keeps_last


def has_secrets(form: "type[Record] | Record") -> bool:
    """Return True if a slot of a form is a secret."""
    return form._has_secrets


def note_call(record: Record, names: "tuple[str, ...] | list[str]", shared: "Any" = None, whole: "Any" = None) -> None:
    """Keep with a record of a command the call that it is for; see ``provenance.Provenance``."""
    origins, uses_settings = (*record.__dict__["_provenance"], False)[:2]
    record.__dict__["_provenance"] = (origins, uses_settings, tuple(names), shared, whole)


def made_class(name: str, bases: "tuple[type[Any], ...]", body: "dict[str, Any]", **said: "Any") -> "Any":
    """Return a new class, whose line has these keywords; an interrupt in it is raised as one."""
    try:
        return type(name, bases, body, **said)
    except RuntimeError as error:  # Python 3.11 wraps what comes out of __set_name__
        if isinstance(error.__cause__, KeyboardInterrupt):
            raise error.__cause__ from None
        raise
