"""What may be at a place of the command line: the candidates of completion in a shell.

Everything is taken from the declaration and from the words before; nothing is offered that cannot be given any more.
"""

from __future__ import annotations

import os

from wesperon.argv import BUILTIN_OPTIONS, BUILTIN_SWITCHES, is_plain_word, read_words
from wesperon.argv.option_words import OptionNames
from wesperon.frozen import later
from wesperon.output.timed_pull import timed_pull
from wesperon.system.folders import entries as entries_of
from wesperon.text.escape import visible
from wesperon.values import MISSING
from wesperon.values.candidate import Candidate
from wesperon.values.phrases import hint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.argv import rivals
    from wesperon.values import rules as values_rules
    from wesperon.values.slots import Slot
else:
    rivals = later("wesperon.argv.rivals")
    values_rules = later("wesperon.values.rules")

#: The most candidates for one place.
MOST = 2_000


def candidates(
    slots: Mapping[str, Slot[Any]], before: Sequence[str], word: str, command: frozenset[int] = frozenset()
) -> list[Candidate]:
    """Return the candidates for a word that has been begun, after the words before it.

    ``command`` are the places of words before it that name the command.
    """
    names = OptionNames(slots)
    if names.verbatim is not None and _keeps(slots, names.verbatim, before, command):
        if names.verbatim.suggest is None:
            return matching(paths(word, folders=False), word)
        return matching(_values(names.verbatim, word, _answers(slots, before, command)), word)
    ended = "--" in before
    if before and not ended:
        slot = wants(names, before, command)
        if slot is not None:
            return matching(_values(slot, word, _answers(slots, before, command)), word)
        if before[-1] in ("--asking", "--answers"):
            return matching(_builtin_values(before[-1][2:], word), word)
    if word.startswith("--") and "=" in word and not ended:
        name, _, text = word[2:].partition("=")
        head = f"--{name}="
        if name in BUILTIN_OPTIONS:
            found = _builtin_values(name, text)
        else:
            meant = names.candidates(name)
            answers = _answers(slots, before, command)
            found = _values(names.long[meant[0]][0], text, answers) if len(meant) == 1 else []
        return matching([Candidate(head + one.text, one.note, one.goes_on) for one in found], word)
    if word.startswith("-") and not ended:
        return matching(_names(names, slots, before, command), word)
    return matching(_plain(slots, before, word, command), word)


def matching(found: Iterable[Candidate], word: str) -> list[Candidate]:
    """Return those that begin with the word; if none does, those that do in another letter case.

    A text that cannot be shown as it is cannot be completed: what a shell would put in means something else.
    """
    every = [one for one in found if visible(one.text) == one.text]
    exact = [one for one in every if one.text.startswith(word)]
    folded = word.casefold()
    return (exact or [one for one in every if one.text.casefold().startswith(folded)])[:MOST]


def wants(names: OptionNames, before: Sequence[str], command: frozenset[int]) -> Slot[Any] | None:
    """Return the slot whose name is the last of the words before and wants its value now."""
    last = before[-1]
    if len(before) - 1 in command or is_plain_word(last) or "=" in last:
        return None
    if last.startswith("--"):
        meant = names.candidates(names.old.get(last[2:], last[2:]))
        slot = names.long[meant[0]][0] if len(meant) == 1 else None
    else:
        letters = [names.short.get(letter) for letter in last[1:]]
        slot = letters[-1] if all(one is not None and not one.shape.takes_text for one in letters[:-1]) else None
    return slot if slot is not None and slot.wants_word else None


def _names(
    names: OptionNames, slots: Mapping[str, Slot[Any]], before: Sequence[str], command: frozenset[int]
) -> list[Candidate]:
    """Return the names that can still be given."""
    reading = read_words(slots, before, command=command)
    taken = rivals.named(reading, slots) if reading.has_rules else set[str]()
    found = []
    for long, (slot, _) in names.long.items():
        if slot.secret is True or not slot.is_listed or (taken and values_rules.rivals_of(slot) & taken):
            continue
        if slot.name in reading.given and not slot.shape.repeats:
            continue
        note = visible(slot.help or slot.ask or hint(slot)) if slot.shape.takes_text else visible(slot.help)
        if not slot.wants_word:
            found.append(Candidate(f"--{long}", note))
        if slot.shape.takes_text:
            found.append(Candidate(f"--{long}=", note, goes_on=True))
    own = [Candidate(f"--{name}") for name in BUILTIN_SWITCHES]
    own += [Candidate(f"--{name}=", goes_on=True) for name in BUILTIN_OPTIONS if name not in reading.builtin]
    return found + own


def _plain(
    slots: Mapping[str, Slot[Any]], before: Sequence[str], word: str, command: frozenset[int]
) -> list[Candidate]:
    """Return the values of the slot that a plain word at this place would fill."""
    reading = read_words(slots, [*before, word], command=command)
    place = len(before)
    for name, given in reading.given.items():
        if any(one.word == place for one in given):
            return _values(slots[name], word, _answers(slots, before, command))
    return []


def _keeps(slots: Mapping[str, Slot[Any]], slot: Slot[Any], before: Sequence[str], command: frozenset[int]) -> bool:
    """Return True if the word after some words is kept as it is: another one is already, or ``--`` ends the names."""
    given = read_words(slots, [*before, "--help"], command=command).given.get(slot.name, ())
    return any(one.word == len(before) for one in given)


class _Answers:
    """The values that words before have given, as attributes."""


def _answers(slots: Mapping[str, Slot[Any]], before: Sequence[str], command: frozenset[int]) -> _Answers:
    """Return what is known of the values from the words before, and of those with a default."""
    known = _Answers()
    given = read_words(slots, before, command=command).given
    for name, slot in slots.items():
        try:
            here = slot.resolve(known)
            texts = [one.text for one in given.get(name, ())]
            value = here.combine(texts) if texts else here.fallback(known)
        except Exception:  # what was given is wrong, or it depends on what is not known
            continue
        if value is not MISSING:
            known.__dict__[name] = value
    return known


def _values(slot: Slot[Any], word: str, answers: _Answers) -> list[Candidate]:
    """Return the values that a slot may have, as texts; none where a function of the program cannot tell yet."""
    try:
        here = slot.resolve(answers)
        complete = COMPLETIONS.get(here.kind.completion)
        if complete is not None:
            return complete(here, word)
        if here.suggest is None:
            return []
        from wesperon.values.suggestions import Suggestions, note_of, text_of

        suggestions = Suggestions(here.suggest, answers)
        timed_pull(suggestions.source, 50 * MOST)
        return [Candidate(text_of(item), visible(note_of(item))) for item in suggestions.items]
    except Exception:  # a function of the program failed: a key never costs the line
        return []


def _choices(slot: Slot[Any], word: str) -> list[Candidate]:
    """Return the labels of all choices that can be taken now."""
    choices: Any = slot.kind.choices
    timed_pull(choices.source, 50 * MOST)
    return [
        Candidate(_word_for(choices, at), visible(choices.note(at)))
        for at in range(min(len(choices), 50 * MOST))
        if not choices.disabled(at)
    ]


def _word_for(choices: Any, at: int) -> str:
    """Return the label of a choice, or a further word for it if the label cannot be shown as it is."""
    words: list[str] = [choices.label(at), *choices.further(at)]
    return next((word for word in words if visible(word) == word), words[0])


def _sets(slot: Slot[Any], word: str) -> list[Candidate]:
    """Return the labels that may follow in a list with commas, those that are in it already left out."""
    head, comma, _ = word.rpartition(",")
    taken = set(head.split(",")) if comma else set()
    choices: Any = slot.kind.choices
    timed_pull(choices.source, 50 * MOST)
    labels = [(choices.label(at), choices.note(at)) for at in range(len(choices)) if not choices.disabled(at)]
    if comma:
        labels = [(label.replace("\\", "\\\\").replace(",", "\\,"), note) for label, note in labels]
    return [Candidate(head + comma + label, visible(note)) for label, note in labels if label not in taken]


def paths(word: str, *, folders: bool) -> list[Candidate]:
    """Return the files and folders that begin so; a folder's name ends in a slash, after which the word goes on."""
    head, slash, tail = word.rpartition("/")
    try:
        entries = sorted(entries_of(os.path.expanduser(head + slash) or "."))
    except (OSError, ValueError):  # no folder, or none that may be read, or no name at all: nothing begins so
        return []
    found = []
    for name, is_folder in entries:
        if name.startswith(".") and not tail.startswith("."):
            continue
        if is_folder:
            found.append(Candidate(f"{head}{slash}{name}/", goes_on=True))
        elif not folders:
            found.append(Candidate(head + slash + name))
    return found


def _builtin_values(name: str, word: str) -> list[Candidate]:
    """Return the values of one of the names that every program has."""
    allowed = BUILTIN_OPTIONS[name]
    return paths(word, folders=False) if allowed is None else [Candidate(text) for text in allowed]


def _zones() -> list[Candidate]:
    from zoneinfo import available_timezones

    return [Candidate(name) for name in sorted(available_timezones())]


#: What completes a kind, by ``Kind.completion``: a function from the slot and the word so far.
COMPLETIONS: dict[str, Callable[[Slot[Any], str], list[Candidate]]] = {
    "choices": _choices,
    "choice-sets": _sets,
    "yes-no": lambda slot, word: [Candidate("yes"), Candidate("no")],
    "zones": lambda slot, word: _zones(),
    "paths": lambda slot, word: paths(word, folders=slot.exists == "folder"),
}
