"""Messages about a command line that may hold a secret: nothing that may be it is shown in any part of them.

A form with a secret cannot know which of the words is the secret: its name may be misspelt, or a word too many may
have moved it to another slot. So every word that is neither the command nor a name that is known is a *suspect*. In the
repeated line it is ``***``; a problem holds no text; and a reason that would repeat a suspect, or a part of one, is
replaced by one that does not.
"""

from __future__ import annotations

import os
from itertools import pairwise

from wesperon.argv.grammar import BUILTIN_OPTIONS, BUILTIN_SWITCHES, MODES, OptionNames, is_plain_word
from wesperon.text.hushing import MASK, hushed, repeats
from wesperon.text.messages import tell
from wesperon.text.spelling import nearest
from wesperon.values.problems import Problem, Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.values.slots import Slot


def masked(
    problems: Iterable[Problem], words: Sequence[str], slots: Mapping[str, Slot[Any]], command: frozenset[int]
) -> Problems:
    """The problems of a command line without anything in them that may be a secret.

    ``slots`` are those that the words may give values to, ``command`` the places of words that name the command.
    """
    names = OptionNames(slots)
    shown, suspects = list(words), set()
    has_ended = False
    for place, word in enumerate(words):
        if place in command:
            continue
        if word == "--" and not has_ended:
            has_ended = True
            continue
        shown[place], suspect = (MASK, [word]) if has_ended else _masked_word(word, names)
        suspects.update(suspect)
    suspects -= {*MODES, *_files(words)}
    hidden = sorted((one for one in suspects if one), key=len, reverse=True)
    return Problems([_masked_problem(problem, hidden, slots) for problem in problems], shown)


def _masked_word(word: str, names: OptionNames) -> tuple[str, list[str]]:
    """A word as it may be shown, and what in it may be a secret."""
    if is_plain_word(word):
        return MASK, [word]
    if word.startswith("--"):
        name, equals, text = word[2:].partition("=")
        known = [*names.long, *BUILTIN_SWITCHES, *BUILTIN_OPTIONS]
        is_known = name in known or bool(names.candidates(name)) or bool(nearest(name, known))
        return f"--{name if is_known else MASK}{equals}{MASK if equals else ''}", [text] if is_known else [name, text]
    for at, letter in enumerate(word[1:], 1):
        slot = names.short.get(letter)
        if slot is None:
            return word[:at] + MASK, [word[1:], word[at:]]
        if not slot.kind.is_switch:
            rest = word[at + 1 :]
            return word[: at + 1] + (MASK if rest else ""), [rest]
    return word, []


def _files(words: Sequence[str]) -> list[str]:
    """The names of answers files in the words that exist: no secret."""
    given = [word.partition("=")[2] for word in words if word.startswith("--answers=")]
    given += [following for word, following in pairwise(words) if word == "--answers"]
    return [name for name in given if name == "-" or os.path.isfile(name)]


def _masked_problem(problem: Problem, suspects: Sequence[str], slots: Mapping[str, Slot[Any]]) -> Problem:
    slot = slots.get(problem.slot or "")
    reason, location = problem.reason, problem.location
    for suspect in suspects:
        if repeats(reason, suspect):
            reason = hushed(reason, suspect)
    if any(repeats(reason, suspect) for suspect in suspects):
        if slot is not None:
            reason = tell("the given value is not valid here: must be {wanted}", wanted=slot.kind.wants)
        else:
            reason = tell("is not valid here, and not shown, since it may be a secret")
    if location is not None and any(repeats(location, suspect) for suspect in suspects):
        location = None
    words = problem.words
    return Problem(reason, problem.slot, problem.source, None, None, words, 0, problem.missing, location)
