"""Messages about a command line that may hold a secret: nothing that may be it is shown in any part of them.

A form with a secret cannot know which of the words is the secret: its name may be misspelt, or a word too many may
have moved it to another slot. So every word that is neither the command nor a name that is known is a *suspect*. In the
repeated line it is ``***``; a problem holds no text; and a reason that would repeat a suspect, or a part of one, is
replaced by one that does not.
"""

from __future__ import annotations

import os
from itertools import pairwise

from wesperon.argv import BUILTIN_OPTIONS, BUILTIN_SWITCHES, MODES, OptionNames, is_plain_word
from wesperon.text.hushing import MASK, Traces, hushed
from wesperon.text.messages import tell
from wesperon.text.spelling import nearest
from wesperon.values.problems import Problem, Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.values.slots import Slot


#: So many words of one problem are replaced one by one in its reason.
MOST_WORDS = 20


def masked(
    problems: Iterable[Problem],
    words: Sequence[str],
    slots: Mapping[str, Slot[Any]],
    command: frozenset[int],
    known: Iterable[str] = (),
) -> Problems:
    """The problems of a command line without anything in them that may be a secret.

    ``slots`` are those that the words may give values to, ``command`` the places of words that name the command,
    ``known`` the names of commands that a message may list.
    """
    names = OptionNames(slots)
    shown, suspects = list(words), dict[int, list[str]]()
    has_ended = False
    for place, word in enumerate(words):
        if place in command:
            continue
        if word == "--" and not has_ended:
            has_ended = True
            continue
        shown[place], suspects[place] = (MASK, [word]) if has_ended else _masked_word(word, names)
    harmless = {"", *MODES, *_files(words), *known}
    traces = Traces({one for some in suspects.values() for one in some} - harmless)

    def masked_one(problem: Problem) -> Problem:
        own = {one for place in problem.words[:MOST_WORDS] for one in suspects.get(place, ())} - harmless
        return _masked_problem(problem, own, traces, slots)

    return Problems([masked_one(problem) for problem in problems], shown)


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


def _masked_problem(problem: Problem, own: set[str], traces: Traces, slots: Mapping[str, Slot[Any]]) -> Problem:
    """A problem without a trace of the suspects; ``own`` are those of the words that it is about."""
    slot = slots.get(problem.slot or "")
    reason, location = problem.reason, problem.location
    if traces.are_in(reason):
        for suspect in sorted(own, key=len, reverse=True):
            reason = hushed(reason, suspect)
        if traces.are_in(reason):
            if slot is not None:
                reason = tell("the given value is not valid here: must be {wanted}", wanted=slot.kind.wants)
            else:
                reason = tell("is not valid here, and not shown, since it may be a secret")
    if location is not None and traces.are_in(location):
        location = None
    return Problem(reason, problem.slot, problem.source, None, None, problem.words, 0, problem.missing, location)
