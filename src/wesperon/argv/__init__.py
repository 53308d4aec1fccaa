"""The command line: its grammar is here, since every program loads it. Imports screen and below.

Which word belongs to which slot:

Names come first, wherever they are; the words that are left fill the slots that were not named, in the order of
declaration. No word is converted here, so a word is assigned by its leading characters only, never by its content:

    word            is
    --              the end of the names: every word after it is a plain word
    --name          a switch: yes; otherwise the next word is the value, whatever it looks like, unless it is --
                    or itself a declared name; after a switch, yes or no is a mistake for --name=no
    --no-name       a switch: no; of a switch no-name, --name
    --name=text     the value, for switches too; the text may be empty
                    where the slot may be named alone, its value then
    -x              the same by its letter
    -xtext          the value after the letter; after switches further letters may follow: -qvm30
    -h              --help, if no slot has that letter
    -5  -.5         a plain word: a negative number
    -               a plain word; standard input, where its slot is piped
    anything else   a plain word

A name may be cut to a beginning that no other has; an exact name wins. The names that every program has (``help``,
``version``, ``asking``, ``answers``) are never cut. An unknown name swallows nothing. A name is once, unless its
slot takes several. A ``rest`` slot takes every plain word that is left; slots declared after it take theirs from the
end.

The reference for what is silent here are the POSIX Utility Syntax Guidelines (Base Definitions, 12.2).
"""

from wesperon.values import MISSING, Complaint
from wesperon.values.records import DEFAULT, SOURCES, WORDS, Record, slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any, TypeVar

    from wesperon.argv.rest_words import RestWords
    from wesperon.values.problems import Problem, Problems
    from wesperon.values.signatures import Given
    from wesperon.values.slots import Slot

    R = TypeVar("R", bound=Record)


class WordValue:
    """A text that a word gave to a slot: which word, and where in it the text begins."""

    __slots__ = ("offset", "text", "word")

    def __init__(self, text: str, word: int, offset: int = 0) -> None:
        self.text = text
        self.word = word
        self.offset = offset


class ParsedArgs:
    """What the words said, before anything is converted.

    ``given`` holds the texts for each slot by name, ``own`` those for the names that every program has; ``command``
    are the indices of words that named the command and belong to no slot; ``claims`` the slots for which a word ``-``
    is, and its index; ``is_mended`` whether the one thing wrong is quotes that were lost; ``hides`` the slots, if one
    of them is a secret: then no message shows what may be it.
    """

    def __init__(self, words: "Sequence[str]", command: frozenset[int] = frozenset()) -> None:
        self.words = tuple(words)
        self.command = command
        self.given: dict[str, list[WordValue] | RestWords] = {}
        self.builtin: dict[str, str] = {}
        self.problems: list[Problem] = []
        self.plain: list[int] = []
        self.claims: dict[str, int] = {}
        #: Old names that were used, each with the one that it has now.
        self.renamed: list[tuple[str, str]] = []
        #: Whether some slots go together (``values.rules``).
        self.has_rules = False
        #: The slots that were named alone, by the place after that.
        self.alone: dict[int, Slot[Any]] = {}
        self.is_mended = False
        self.hides: Mapping[str, Slot[Any]] = {}
        #: Makes the exception where no slot of its own is a secret, but one of another command may be.
        self.masks: Callable[[Iterable[Problem]], Problems] | None = None

    def refused(self, problems: "Iterable[Problem]") -> "Problems":
        """Return the problems as an exception that repeats the words, without what may be a secret."""
        if self.hides:
            from wesperon.argv.masking import masked

            return masked(problems, self.words, self.hides, self.command)
        if self.masks is not None:
            return self.masks(problems)
        from wesperon.values.problems import Problems

        return Problems(problems, self.words)


#: When to ask: not at all, for what is missing and has no default, for everything that no word gave.
NEVER, IF_MISSING, ALL = MODES = ("never", "missing", "all")

#: The names that every program has, and whether a value follows.
BUILTIN_SWITCHES = ("help", "version")
BUILTIN_OPTIONS: dict[str, tuple[str, ...] | None] = {"asking": MODES, "answers": None}


def words_of(words: "Sequence[str]") -> list[str]:
    """Return the words that a call gives, as a list; raises DeclarationError for what is no sequence of texts."""
    if type(words) in (list, tuple) and {*map(type, words)} <= {str}:
        return [*words]
    from wesperon.argv.errors import examined_words

    return examined_words(words)


def read_words(
    slots: "Mapping[str, Slot[Any]]",
    words: "Sequence[str]",
    *,
    prefixes: bool = True,
    command: frozenset[int] = frozenset(),
) -> "ParsedArgs":
    """Give each word to its slot. Problems are collected in the reading, none is raised."""
    reading = ParsedArgs(words, command)
    at = 0
    # Only words with a hyphen in front need a look; the plain ones between them are taken in runs.
    if hyphened := [index for index, word in enumerate(words) if word[:1] == "-"]:
        from wesperon.argv.option_words import OptionNames, read_options

        at = read_options(reading, OptionNames(slots, prefixes), hyphened)
    reading.plain.extend(range(at, len(words)))
    if command:
        reading.plain = [index for index in reading.plain if index not in command]
    for slot in slots.values():
        if slot.secret:
            reading.hides = slots
        if slot.rules:
            reading.has_rules = True
    _assign(reading, slots)
    if reading.plain and " +" in " ".join(("", *words)):
        from wesperon.argv.errors import numbers_with_plus

        reading.problems += numbers_with_plus(reading, slots)
    _repeated(reading, slots)
    return reading


def is_plain_word(word: str) -> bool:
    """Return True if a word is no name: it has no hyphen in front, is one alone, or is a negative number."""
    return word[:1] != "-" or word == "-" or word[1].isdigit() or (word[1] == "." and word[2:3].isdigit())


def give(reading: "ParsedArgs", slot: "Slot[Any]", given: "WordValue", following: int) -> int:
    """Note a text for a slot; ``following`` is passed through, the index of the next word."""
    series: Any = reading.given.setdefault(slot.name, [])
    series.append(given)
    return following


def _assign(reading: "ParsedArgs", slots: "Mapping[str, Slot[Any]]") -> None:
    """Give the plain words to the slots that were not named."""
    open_slots = [slot for slot in slots.values() if not slot.named_only and slot.name not in reading.given]
    if reading.has_rules:
        from wesperon.argv.rivals import without_rivals

        open_slots = without_rivals(reading, open_slots, slots)
    plain = reading.plain
    split = next((at for at, slot in enumerate(open_slots) if slot.rest), None)
    if split is None:
        front, back = open_slots, []
    else:
        front, back = open_slots[:split], open_slots[split + 1 :]
    for slot, at in zip(front, plain, strict=False):
        give(reading, slot, WordValue(reading.words[at], at), 0)
    left = plain[len(front) :]
    last = left[max(len(left) - len(back), 0) :] if back else []
    for slot, at in zip(back, last, strict=False):
        give(reading, slot, WordValue(reading.words[at], at), 0)
    left = left[: len(left) - len(last)]
    if split is not None:
        if left:
            from wesperon.argv.rest_words import RestWords

            reading.given[open_slots[split].name] = RestWords(reading.words, left)
    elif left:
        from wesperon.argv.errors import too_many

        problem = too_many(reading, left, front, slots)
        reading.problems[:] = [problem] if reading.is_mended else [*reading.problems, problem]


def _repeated(reading: "ParsedArgs", slots: "Mapping[str, Slot[Any]]") -> None:
    """Find the slots that were given more than once and take one value only."""
    for name, given in reading.given.items():
        if len(given) > 1 and (not slots[name].shape.repeats or slots[name].repeats != "error"):
            from wesperon.argv.errors import given_again

            reading.problems += given_again(slots[name], given)


def convert(slots: "Mapping[str, Slot[Any]]", reading: "ParsedArgs") -> "dict[str, Any]":
    """Return the values of the texts that the words gave, by slot; what cannot be read joins the reading's problems.

    An empty text that cannot be a value is a problem; ``--name=`` alone gives a slot of several values none.
    """
    values: dict[str, Any] = {}
    for name, all_given in reading.given.items():
        slot = slots[name]
        if slot.secret is True:
            from wesperon.argv.errors import secret_word

            reading.problems.append(secret_word(slot, all_given))
            continue
        if slot.initial is None and slot.may_be_none([one.text for one in all_given]):
            values[name] = None
            continue
        if slot.kind.depends:  # read once the answers before it are there
            continue
        if slot.piped and len(all_given) == 1 and all_given[0].text == "-":
            reading.claims[name] = all_given[0].word
            continue
        if not isinstance(all_given, list):
            quickly = slot.shape.parse_quickly(slot, all_given.texts)
            if quickly is not None:
                values[name] = quickly
                continue
        given = [one for one in all_given if not slot.is_blank(one.text)]
        if len(given) < len(all_given):  # typed on purpose
            none = MISSING
            if len(all_given) == 1 and reading.words[all_given[0].word].startswith("-") and slot.piped != "stream":
                none = slot.shape.none(slot)  # a name without a value: no values
            if none is not MISSING:
                values[name] = none
            else:
                from wesperon.argv.errors import empty_and_unreadable

                reading.problems += empty_and_unreadable(slot, all_given, reading)
            continue
        if len(all_given) > 1 and not slot.shape.repeats:
            continue
        try:
            value = slot.combine([one.text for one in given])
            if not slot.depends:  # its bounds come with the answers before it
                values[name] = value
        except Complaint as complaint:
            from wesperon.argv.errors import unreadable

            reading.problems.extend(unreadable(slot, given, complaint, reading))
    return values


def fill_from_words(
    form: "type[R]",
    reading: ParsedArgs,
    environ: "Mapping[str, str]",
    asking: str | None = None,
    settings: str | None = None,
) -> "tuple[R | None, dict[str, Any], str]":
    """Return a record, if the words and constant defaults fill it, else None; the values that the words gave.

    The third is when to ask.

    ``asking`` and ``settings`` are what the program says. Raises Problems if the words do not say what to do, or the
    values do not go together.
    """
    mode = mode_of(reading, environ, asking)
    if reading.is_mended:  # what the words would say without their quotes is beside the point
        raise reading.refused(reading.problems)
    slots = slots_of(form)
    values = convert(slots, reading)
    origins = dict.fromkeys(values, WORDS)
    if not reading.problems and not reading.claims:
        given: Given = {"answers": reading.builtin.get("answers"), "settings": settings, "asks_all": mode == ALL}
        for name, slot in slots.items():
            if name not in values or slot.applies is not None:
                if any(may_fill(slot, given) for _, may_fill in SOURCES):
                    break
                values[name], origins[name] = slot.fallback(None), DEFAULT
        else:
            if mode != ALL:
                made = form.of(values, origins)
                made.__dict__["_typed"] = reading.given, reading.words
                is_broken = None
                if reading.has_rules:
                    from wesperon.values.rules import broken_of

                    is_broken = broken_of(made)
                if is_broken is None:
                    if form.check is not Record.check:
                        from wesperon.argv.errors import check_together

                        check_together(made, reading)
                    return made, values, mode
    return None, {name: value for name, value in values.items() if origins[name] == WORDS}, mode


def mode_of(reading: ParsedArgs, environ: "Mapping[str, str]", asking: str | None = None) -> str:
    """Return when to ask: as the words say, else the environment, else the program; raises Problems."""
    mode = reading.builtin.get("asking") or environ.get("WESPERON_ASKING") or asking or IF_MISSING
    if mode not in MODES:
        from wesperon.argv.errors import refuse_mode

        refuse_mode(reading, mode, asking)
    return mode
