"""What could not work as it is declared: the keywords of a slot are examined where it is declared.

Loaded with the first slot that says more than its kind.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.argument_types import SLOT, refuse_types
from wesperon.values.calls import refuse_coroutine
from wesperon.values.kind import ONE, SWITCH
from wesperon.values.slots import LAST, VERBATIM, spelled

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    from wesperon.values import bounds
    from wesperon.values.kind import Kind
    from wesperon.values.slots import Slot

    #: Whether a slot breaks a rule, and what is said then, with its ``slot`` and its ``kind`` put in.
    Rules = tuple[tuple[Callable[[Slot[Any]], object], str], ...]
else:
    bounds = later("wesperon.values.bounds")

DIGITS = "0123456789"
FOUR = "one of the four names that every program has"
#: What a path may have to lead to (``exists``).
PLACES = ("file", "folder", "either", "nothing", "parent")


def examine(slot: Slot[Any], given: Mapping[str, Any] | None = None) -> None:
    """Raise DeclarationError for a slot that could not work as declared; ``given`` are the keywords that it names.

    What goes with what is in tables, in the order in which a fault is looked for: one that another would follow from
    comes first.
    """
    slot.is_examined = True
    examine_keywords(slot, given)
    refuse(slot, OF_THE_KIND)
    if slot.step is not None:
        examine_step(slot)
    refuse(slot, OF_THE_SHAPE)
    if misuse := slot.shape.misuse(slot):
        raise DeclarationError(misuse)
    refuse(slot, OF_NUMBERS)
    for bound in (slot.low, slot.high):
        if bound is not None and not callable(bound):
            examine_value(bound, int if slot.kind.bounded == "length" else None, slot.kind)
    if slot.low is not None and slot.high is not None and is_reversed(slot):
        raise DeclarationError(f"low={slot.low!r} is above high={slot.high!r}: no value could be right")
    for name in ("default", "initial"):
        examine_default(slot, name)
    if slot.alone is not MISSING:
        examine_alone(slot)


def examine_keywords(slot: Slot[Any], given: Mapping[str, Any] | None = None) -> None:
    """Raise DeclarationError for keywords that could not work with any kind; ``given`` are those that are named."""
    if given is not None:
        slot.keeps_position, slot.repeats_said = given.get("named_only") is False, "repeats" in given
    if slot.__dict__["help"] is False:
        slot.help, slot.is_listed = "", False
    refuse_types("", slot.__dict__, SLOT)
    for name in ("default", "initial", "low", "high", "suggest", "applies"):
        if callable(slot.__dict__[name]):
            refuse_coroutine(name, slot.__dict__[name])
    examine_old_names(slot)
    refuse(slot, OF_KEYWORDS)
    if slot.pattern is not None:
        bounds.examine_pattern(slot.pattern)


def refuse(slot: Slot[Any], rules: Rules) -> None:
    """Raise DeclarationError for the first of the rules that a slot breaks."""
    for is_broken, said in rules:
        if is_broken(slot):
            raise DeclarationError(said.format(slot=slot, kind=slot.kind))


def examine_old_names(slot: Slot[Any]) -> None:
    """Spell the earlier names of a slot as options; raise DeclarationError for what is no name."""
    if slot.renamed_from:
        given = (slot.renamed_from,) if isinstance(slot.renamed_from, str) else tuple(slot.renamed_from)
        slot.renamed_from = tuple([spelled(name) for name in given])
        for name in slot.renamed_from:
            if not name.replace("-", "").isidentifier():
                raise DeclarationError(f"renamed_from={slot.renamed_from!r}: {name!r} is no name")


def examine_default(slot: Slot[Any], name: str) -> None:
    """Raise DeclarationError for a default, or an initial value, that the slot itself would refuse."""
    value = slot.__dict__[name]
    # What a function gives, or what must be within bounds that one gives, is looked at when it is known.
    if value is MISSING or value is None or callable(value) or slot.depends or (name == "initial" and value == LAST):
        return
    if slot.exists is not None:  # what is on the disk is looked at when the value is used, not where it is declared
        plain = slot.copied()
        plain.kind = slot.kind.anywhere()  # type: ignore[attr-defined]
        _valid(plain, name, plain.validate)
        slot.depends = slot.depends or name == "default"
        return
    slot.__dict__[name] = _valid(slot, name, slot.validate)


def examine_alone(slot: Slot[Any]) -> None:
    """Raise DeclarationError for a value of a name alone that the slot would refuse, or that no word could say."""
    slot.alone = _valid(slot, "alone", slot.validate_one)
    if slot.is_blank(slot.format(slot.alone)):
        raise DeclarationError(f"alone={slot.alone!r}: an empty text is no value of {slot.kind.wanted}")


def _valid(slot: Slot[Any], name: str, validate: Callable[[Any], Any]) -> Any:
    """Return what a keyword says as a value of the slot; raises DeclarationError."""
    try:
        return validate(slot.__dict__[name])
    except Complaint as complaint:
        given = "***" if slot.secret else repr(slot.__dict__[name])
        raise DeclarationError(f"{name}={given}: {complaint.reason}") from None


def examine_last(form: type, name: str, slots: Mapping[str, Slot[Any]]) -> None:
    """Raise DeclarationError for positions after the slot that keeps words as they are: they would get none."""
    after = [one for one, slot in slots.items() if not slot.named_only or one == name]
    if after[-1] != name:
        raise DeclarationError(f"{form.__name__}: {after[-1]} is after {name}, whose rest='verbatim' takes all words")


def is_reversed(slot: Slot[Any]) -> bool:
    """Return True if the lower bound is above the upper one."""
    try:
        return bool(slot.low > slot.high)
    except TypeError:  # one of two times has a time zone
        return False


def clash(form: type, name: str, other: str) -> DeclarationError:
    """Return the error about a name on the command line that is also that of another slot, or of every program's."""
    return DeclarationError(f"{form.__name__}: {name} is also {f'that of {other}' if other else FOUR}")


def examine_step(slot: Slot[Any]) -> None:
    """Raise DeclarationError for a step by which the arrow keys could not change a value."""
    kind, step = slot.kind, slot.step
    if not kind.has_steps:
        also = ": a kind of your own needs text= for it" if slot.kind.placeholder == "VALUE" else ""
        raise DeclarationError(f"step says nothing about {kind.wanted}{also}")
    try:
        first = kind.first(None if callable(slot.low) else slot.low, 0.0)
        changes = kind.step_by(first, 1, step) != first
    except OverflowError:  # the next value is out of reach
        changes = True
    except Exception:
        changes = False
    if not changes:
        raise DeclarationError(f"step={step!r} is no step for {kind.wanted}")


def examine_value(bound: Any, wanted: type | None, kind: Kind[Any]) -> None:
    """Raise DeclarationError for a bound that is not of the kind that it bounds."""
    try:
        right = isinstance(bound, wanted) if wanted else kind.validate(bound) == bound
        right = right and bool(wanted or bound <= bound)
    except (Complaint, TypeError):  # it has no order
        right = False
    if not right:
        raise DeclarationError(f"{bound!r} is no bound for {kind.wanted}")


def _are_letters(text: str) -> bool:
    """Return True for letters and digits of ASCII, none of them twice."""
    is_each = all(char.isalpha() or char in DIGITS for char in text)
    return bool(text) and is_each and len({*text}) == len(text)


#: What is wrong with one keyword, or with two of them, whatever the kind.
OF_KEYWORDS: Rules = (
    (
        lambda slot: slot.short is not None and not _are_letters(slot.short),
        "short={slot.short!r}: short names are letters or digits, each once",
    ),
    (
        lambda slot: slot.short_no is not None and not _are_letters(slot.short_no),
        "short_no={slot.short_no!r}: short names are letters or digits, each once",
    ),
    (
        lambda slot: slot.exists is not None and slot.exists not in PLACES,
        f"exists={{slot.exists!r}} is not one of {', '.join(PLACES)}",
    ),
    (
        lambda slot: slot.secret not in (True, False, "anywhere") or (slot.twice and not slot.secret),
        "secret is True, False or 'anywhere', and twice goes with a secret",
    ),
    (
        lambda slot: len(slot.mask) > 1 or not slot.mask.isprintable(),
        "mask={slot.mask!r}: one character, or none",
    ),
    (
        lambda slot: slot.initial is not MISSING and slot.default is not (None if slot.initial is None else MISSING),
        "initial is a value that is still asked for, default one that is not: say one of them",
    ),
    (
        lambda slot: slot.initial is not MISSING and slot.initial is not None and slot.secret,
        "a secret has no initial value: it would be shown, or kept",
    ),
    (
        lambda slot: slot.keeps_position and slot.named_only,
        "named_only=False: a switch, a secret, what may be named alone and what applies only sometimes "
        "are given by name",
    ),
    (
        lambda slot: slot.repeats not in ("error", "last"),
        "repeats={slot.repeats!r} is not one of 'error', 'last'",
    ),
    (lambda slot: slot.pattern_says and slot.pattern is None, "pattern_says goes with a pattern"),
    (
        lambda slot: slot.suggest_as not in ("", "list", "grid", "inline"),
        "suggest_as={slot.suggest_as!r} is not one of 'list', 'grid', 'inline'",
    ),
    (
        lambda slot: slot.piped not in (True, False, "stream"),
        "piped={slot.piped!r} is not one of True, False, 'stream'",
    ),
)
#: What a kind of value cannot have.
OF_THE_KIND: Rules = (
    (
        lambda slot: slot.pattern is not None and slot.kind.bounded != "length",
        "pattern says nothing about {kind.wanted}",
    ),
    (
        lambda slot: slot.exists is not None and not slot.kind.leads_somewhere,
        "exists says nothing about {kind.wanted}",
    ),
    (
        lambda slot: slot.lines and (slot.secret or slot.shape is not ONE or slot.kind.choices is not None),
        "lines goes with one text, and not with a secret",
    ),
    (
        lambda slot: slot.secret and (slot.shape is SWITCH or slot.kind.choices is not None),
        "{kind.wanted} cannot be a secret",
    ),
)
OF_THE_SHAPE: Rules = (
    (
        lambda slot: slot.initial is None and (slot.shape.repeats or slot.can_be_empty),
        "initial=None lets one answer be None: several values, and texts of low=0, may be empty",
    ),
    (
        lambda slot: slot.short_no is not None and slot.shape.takes_text,
        "short_no={slot.short_no!r} turns a switch off, and {kind.wanted} is none: slot(bool, ...) is one",
    ),
    (
        lambda slot: slot.alone is None or (slot.alone is not MISSING and (slot.rest or slot.secret)),
        "alone={slot.alone!r} is a value of a name that may have none: not None, and not with rest or a secret",
    ),
    (
        lambda slot: (
            slot.alone is not MISSING
            and (not slot.shape.takes_text or slot.shape.name_of(slot) is not None or slot.kind.depends)
        ),
        "alone={slot.alone!r}: a switch is alone anyway, and pairs or late choices are never known from a name alone",
    ),
    (
        lambda slot: slot.lines and (slot.kind.has_steps or slot.kind.leads_somewhere),
        "lines says nothing about {kind.wanted}",
    ),
    (
        lambda slot: slot.short and slot.shape is SWITCH and slot.default is True and not slot.short_no,
        "short={slot.short!r}: the switch is on already, so -{slot.short} would do nothing; "
        "short_no has the letter that turns it off",
    ),
    (
        lambda slot: slot.rest == VERBATIM and (slot.kind.wanted != "text" or slot.piped or slot.named_only),
        "rest='verbatim' keeps words as they are: texts, from the command line alone, not named_only, piped or applies",
    ),
    (
        lambda slot: not slot.kind.bounded and (slot.low is not None or slot.high is not None),
        "low and high say nothing about {kind.wanted}",
    ),
)
#: How many values there may be.
OF_NUMBERS: Rules = (
    (
        lambda slot: (slot.many or slot.rest) and (not slot.shape.splits or (slot.many and slot.rest)),
        "many or rest goes with a kind of one value, and not both together",
    ),
    (
        lambda slot: (
            slot.repeats == "last" and (((slot.many or slot.rest) and slot.kind.shape is ONE) or slot.shape.counts)
        ),
        "repeats='last' says that one value counts, many and rest that all do: say one of them",
    ),
    (
        lambda slot: slot.series is not None and not slot.shape.takes_text,
        "a list of yes and no is no value of a switch: slot(bool, many=True) is how often it is given",
    ),
    (
        lambda slot: not slot.shape.splits and (slot.least or slot.most is not None),
        "least and most go with many, rest, or inside any_of(...)",
    ),
    (
        lambda slot: (
            slot.shape.splits
            and not (isinstance(slot.least, int) and slot.least >= 0 and (slot.most is None or slot.most >= 1))
        ),
        "least={slot.least!r} and most={slot.most!r}: whole numbers, from 0 and from 1",
    ),
    (
        lambda slot: slot.shape.splits and slot.is_asked_for and slot.has_fallback and slot.can_be_empty,
        "a question for texts that may be empty (low=0) needs least=1, or a default such as ()",
    ),
    (
        lambda slot: (
            slot.shape.splits and slot.can_be_empty and not slot.least and slot.default not in (MISSING, (), [])
        ),
        "no line could say that there are no texts: texts of low=0 need least=1, or default=()",
    ),
    (
        lambda slot: slot.most is not None and slot.least > slot.most,
        "least={slot.least} is more than most={slot.most}: no number of values could be right",
    ),
)
