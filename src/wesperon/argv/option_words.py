"""Words that begin with a hyphen: which name each is, and which word is its value.

Loaded once a command line has one.
"""

from __future__ import annotations

from wesperon.argv import BUILTIN_OPTIONS, BUILTIN_SWITCHES, WordValue, give, is_plain_word
from wesperon.frozen import later
from wesperon.values import MISSING
from wesperon.values.kind import opposite
from wesperon.values.records import HELP_LETTER
from wesperon.values.slots import VERBATIM

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.argv import ParsedArgs, errors, rivals
    from wesperon.values.slots import Slot
else:
    errors = later("wesperon.argv.errors")
    rivals = later("wesperon.argv.rivals")

#: How many unknown names are compared with the right ones; nobody reads more.
MOST_HINTS = 20

#: The words that nobody means as a plain one after a switch.
YES_OR_NO = ("yes", "no", "true", "false", "on", "off")


class OptionNames:
    """The declared names, and the one slot that each means."""

    def __init__(self, slots: Mapping[str, Slot[Any]], prefixes: bool = True) -> None:
        self.slots = slots
        self.prefixes = prefixes
        self.long: dict[str, tuple[Slot[Any], bool]] = {}
        self.short: dict[str, Slot[Any]] = {}
        #: Those of them that say no.
        self.denying: set[str] = set()
        #: Old names, each with the one that it has now.
        self.old: dict[str, str] = {}
        #: The slot whose words are kept as they are, from the first one on.
        self.verbatim = next((slot for slot in slots.values() if slot.rest == VERBATIM), None)
        #: Whether a word may be a secret, which no message repeats.
        self.has_secret = any(slot.secret for slot in slots.values())
        switches = []
        for slot in slots.values():
            self.long[slot.word] = (slot, True)
            if not slot.shape.takes_text:
                switches.append(slot)
            for letter in slot.short or ():
                self.short[letter] = slot
            for letter in slot.short_no or ():
                self.short[letter] = slot
                self.denying.add(letter)
            for old in slot.renamed_from:
                self.old[old] = slot.word
        for slot in switches:  # declared names go before
            if (no := opposite(slot.word)) not in BUILTIN_SWITCHES and no not in BUILTIN_OPTIONS:
                self.long.setdefault(no, (slot, False))
                for old in slot.renamed_from:
                    self.old.setdefault(opposite(old), no)

    @property
    def takes_numbers(self) -> bool:
        """Whether a word of ``-`` and digits is a value: a position takes a number, and no digit is a name."""
        if any(letter.isdigit() for letter in self.short):
            return False
        return any(slot.kind.takes_numbers and not slot.named_only for slot, _ in self.long.values())

    def candidates(self, name: str) -> list[str]:
        """Return the long names that ``name`` may mean: itself, else those that begin with it and that help shows."""
        if name in self.long:
            return [name]
        if not (self.prefixes and name):
            return []
        return [long for long, (slot, _) in self.long.items() if long.startswith(name) and slot.is_listed]

    def keeps_next(self, reading: ParsedArgs) -> bool:
        """Return True if the next plain word is the first of those that are kept: all positions before are filled."""
        if self.verbatim is None:
            return False
        others = [slot for slot in self.slots.values() if slot is not self.verbatim]
        return all(slot.named_only or slot.name in reading.given for slot in others)

    def is_declared(self, word: str) -> bool:
        """Return True if the word is a declared name, so that it cannot be the value of the name before it."""
        if word.startswith("--"):
            name = word[2:].partition("=")[0]
            is_own = name in BUILTIN_SWITCHES or name in BUILTIN_OPTIONS
            return is_own or name in self.old or bool(self.candidates(name))
        return word[:1] == "-" and (word[1:2] in self.short or word[1:2] == HELP_LETTER)


def read_options(reading: ParsedArgs, names: OptionNames, hyphened: Sequence[int]) -> int:
    """Read the words at the places ``hyphened``, and note the plain ones between them; the place after the last."""
    if names.verbatim is not None:
        return _up_to_verbatim(reading, names, names.verbatim)
    at = 0
    for place in hyphened:
        if place < at:  # the value of the name before
            continue
        reading.plain.extend(range(at, place))
        word = reading.words[place]
        at = place + 1
        if word == "--":
            break
        if word.startswith("--"):
            at = _long(reading, names, place)
        elif word == "-" or (is_plain_word(word) and names.takes_numbers):
            reading.plain.append(place)
        else:
            at = _letters(reading, names, place)
    return at


def _up_to_verbatim(reading: ParsedArgs, names: OptionNames, verbatim: Slot[Any]) -> int:
    """Read the words before those that are kept as they are, from left to right; the place of the first of these.

    A plain word is for the first position that is open at that place; ``--`` ends the names, and is none of them.
    """
    words, at = reading.words, 0
    if len(names.slots) == 1:
        return _up_to_words_alone(reading, names)
    positions = [slot for slot, _ in names.long.values() if not slot.named_only and slot is not verbatim]
    while at < len(words):
        word = words[at]
        if word == "--" and at not in reading.command:
            return at + 1
        if at in reading.command:
            at += 1
        elif word.startswith("--"):
            at = _long(reading, names, at)
        elif word[:1] == "-" and word != "-" and not (names.takes_numbers and is_plain_word(word)):
            at = _letters(reading, names, at)
        else:
            open_slots = [one for one in positions if one.name not in reading.given]
            if any(one.rules for one in open_slots):
                open_slots = rivals.without_rivals(reading, open_slots, names.slots)
            slot = next(iter(open_slots), None)
            if slot is None:
                return at
            at = give(reading, slot, WordValue(word, at), at + 1)
    return at


def _up_to_words_alone(reading: ParsedArgs, names: OptionNames) -> int:
    """Read the words before those that are kept, where nothing else is declared: then no other word is a name.

    So ``test -f FILE`` and ``expr -1 + 2`` are declared. The program's own names are read if they are all that there
    is, or in front.
    """
    words = reading.words
    at = next((at for at in range(len(words)) if at not in reading.command), len(words))
    while at < len(words) and words[at][:2] == "--" and words[at][2:].partition("=")[0] in BUILTIN_OPTIONS:
        at = _long(reading, names, at)
    left = words[at:]
    if left == (f"-{HELP_LETTER}",):
        return _letters(reading, names, at)
    if len(left) == 1 and left[0][:2] == "--" and left[0][2:].partition("=")[0] in BUILTIN_SWITCHES:
        return _long(reading, names, at)
    return at + 1 if left[:1] == ("--",) else at


def _long(reading: ParsedArgs, names: OptionNames, at: int) -> int:
    """Read ``--name`` at a place; the place of the next word."""
    word = reading.words[at]
    name, equals, text = word[2:].partition("=")
    offset = len(word) - len(text)
    if name in BUILTIN_SWITCHES and (not equals or (name, text) == ("help", "all")):
        reading.builtin[name] = text or "yes"
        return at + 1
    if name in BUILTIN_OPTIONS:
        return _builtin_value(reading, names, at, name, text if equals else None)
    if name in names.old:
        reading.renamed.append((f"--{name}", f"--{names.old[name]}"))
        name = names.old[name]
    candidates = names.candidates(name)
    if len(candidates) != 1:
        hinted = len(reading.problems) < MOST_HINTS
        reading.problems.append(errors.unknown(names, at, word, name, candidates, hinted=hinted))
        return at + 1
    slot, positive = names.long[candidates[0]]
    if not positive and equals:
        reading.problems.append(errors.value_of_no(slot, at, word, text))
        return at + 1
    if equals:
        return give(reading, slot, WordValue(text, at, offset), at + 1)
    if not slot.shape.takes_text:
        give(reading, slot, WordValue("yes" if positive else "no", at), at + 1)
        return _after_switch(reading, names, slot, at)
    if slot.alone is not MISSING:
        return _alone(reading, names, slot, at)
    return _next_word(reading, names, slot, at, f"--{slot.word}")


def _alone(reading: ParsedArgs, names: OptionNames, slot: Slot[Any], at: int, offset: int = 0) -> int:
    """Give a slot the value of its name alone, which is at an offset in its word; the place of the next word.

    That word is never its value. One of its choices there is a problem, as yes and no after a switch are.
    """
    give(reading, slot, WordValue(slot.format(slot.alone), at, offset), at + 1)
    following = at + 1
    reading.alone[following] = slot
    choices = slot.kind.choices
    if following >= len(reading.words) or following in reading.command or choices is None:
        return following
    if not is_plain_word(reading.words[following]) or choices.find(reading.words[following]) is None:
        return following
    if names.keeps_next(reading):
        return following
    reading.problems.append(errors.value_after_switch(reading, slot, at))
    return following + 1


def _after_switch(reading: ParsedArgs, names: OptionNames, slot: Slot[Any], at: int) -> int:
    """Return the place of the next word after a switch; a word that could be meant as its value is a problem."""
    following = at + 1
    if following >= len(reading.words) or reading.words[following] not in YES_OR_NO or following in reading.command:
        return following
    if names.keeps_next(reading):  # true and false are commands, too
        return following
    reading.problems.append(errors.value_after_switch(reading, slot, at))
    return following + 1


def _letters(reading: ParsedArgs, names: OptionNames, at: int) -> int:
    """Read ``-x``, ``-xtext`` or a cluster of switches at a place; the place of the next word."""
    word = reading.words[at]
    for offset in range(1, len(word)):
        slot = names.short.get(word[offset])
        if slot is None and word[offset] == HELP_LETTER:
            reading.builtin["help"] = "yes"
            continue
        if slot is None:
            reading.problems.append(errors.unknown_letter(names, at, word, offset))
            return at + 1
        if slot.shape.takes_text:
            if offset + 1 < len(word):
                return give(reading, slot, WordValue(word[offset + 1 :], at, offset + 1), at + 1)
            if slot.alone is not MISSING:
                return _alone(reading, names, slot, at, offset)
            return _next_word(reading, names, slot, at, f"-{word[offset]}")
        give(reading, slot, WordValue("no" if word[offset] in names.denying else "yes", at, offset), at + 1)
    return at + 1 if slot is None else _after_switch(reading, names, slot, at)


def _next_word(reading: ParsedArgs, names: OptionNames, slot: Slot[Any], at: int, name: str) -> int:
    """Give the word after a name to its slot; the place of the next word."""
    words = reading.words
    if _is_value(reading, names, at + 1):
        return give(reading, slot, WordValue(words[at + 1], at + 1), at + 2)
    reading.problems.append(errors.no_value(reading, slot, at, name))
    return at + 1


def _is_value(reading: ParsedArgs, names: OptionNames, at: int) -> bool:
    """Return True if there is a word at a place that the name before it may take as its value."""
    words = reading.words
    return at < len(words) and at not in reading.command and words[at] != "--" and not names.is_declared(words[at])


def _builtin_value(reading: ParsedArgs, names: OptionNames, at: int, name: str, text: str | None) -> int:
    """Read one of the program's own names that has a value; the place of the next word."""
    words = reading.words
    places: tuple[int, ...] = (at,)
    if text is None and _is_value(reading, names, at + 1):
        text = words[at + 1]
        places = (at, at + 1)
    allowed = BUILTIN_OPTIONS[name]
    if name == "answers" and name in reading.builtin:
        reading.problems.append(errors.builtin_repeated(name, places[-1]))
    elif text and (allowed is None or text in allowed):
        reading.builtin[name] = text
    else:
        reading.problems.append(errors.not_allowed(name, text, allowed, places[-1]))
    return places[-1] + 1
