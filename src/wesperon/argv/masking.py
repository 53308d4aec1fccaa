"""Messages about a command line that may hold a secret: nothing that may be it is shown in any part of them.

A form with a secret cannot know which of the words is the secret: its name may be misspelt, or a word too many may
have moved it to another slot. So every word that is neither the command nor a name that is known is a *suspect*. In the
repeated line it is ``***``; a problem holds no text; and a reason that would repeat a suspect, or a part of one, is
replaced by one that does not.
"""

from __future__ import annotations

from wesperon.argv import BUILTIN_OPTIONS, BUILTIN_SWITCHES, MODES, is_plain_word
from wesperon.argv.option_words import OptionNames
from wesperon.text.hushing import MASK, Traces, hidden, hushed
from wesperon.text.messages import tell
from wesperon.text.spelling import nearest
from wesperon.values.problems import Problem, Problems
from wesperon.values.secrets import MOST_LABELS, declared_texts

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Collection, Iterable, Mapping, Sequence
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
    """Return the problems of a command line without anything in them that may be a secret.

    ``slots`` are those that the words may give values to, ``command`` the places of words that name the command,
    ``known`` the names of commands that a message may list.
    """
    names = OptionNames(slots)
    harmless = {"", *MODES, *known, *_choices(slots.values())}
    shown, suspects = list(words), dict[int, list[str]]()
    has_ended = is_file = False
    for place, word in enumerate(words):
        if place in command or is_file:
            is_file = False
        elif word == "--" and not has_ended:
            has_ended = True
        elif word not in harmless or not word:
            is_file = word == "--answers" and not has_ended
            shown[place], suspects[place] = (MASK, [word]) if has_ended else _masked_word(word, names)
    return _without(problems, shown, words, suspects, [*harmless, *declared_texts(slots.values())])


def masked_elsewhere(
    problems: Iterable[Problem],
    words: Sequence[str],
    slots: Mapping[str, Slot[Any]],
    command: frozenset[int],
    secrets: Collection[str] | None,
) -> Problems:
    """Return the problems of a line for a command without secrets, in which one may be given to the wrong command.

    ``secrets`` are the long names and the letters of the secrets of other commands; None if they are not known. What
    follows such a name, or one that is near, is not shown.
    """
    names = OptionNames(slots)
    shown, suspects = list(words), dict[int, list[str]]()
    follows = False
    for place, word in enumerate(words):
        if word == "--":
            break
        if place in command or (is_plain_word(word) and not follows):
            continue
        if is_plain_word(word):
            shown[place], suspects[place], follows = MASK, [word], False
            continue
        name, equals, _ = word.lstrip("-").partition("=")
        follows = False
        if word.startswith("--"):
            if name in names.long or names.candidates(name) or not _may_be(name, secrets):
                continue
            shown[place], suspects[place] = _masked_name(word, names, secrets or ())
            follows = not equals
            continue
        at = next((at for at, letter in enumerate(word) if at and letter not in names.short), 0)
        if (
            at
            and (secrets is None or word[at] in secrets)
            and not any(names.short[letter].shape.takes_text for letter in word[1:at])
        ):
            rest = word[at + 1 :]
            shown[place], suspects[place] = word[: at + 1] + (MASK if rest else ""), [rest.lstrip("="), rest]
            follows = not rest
    if not suspects:
        return Problems(problems, words)
    return _without(problems, shown, words, suspects, declared_texts(slots.values()))


def _without(
    problems: Iterable[Problem],
    shown: Sequence[str],
    words: Sequence[str],
    suspects: Mapping[int, list[str]],
    kept: Sequence[str],
) -> Problems:
    """Return the problems without a trace of the suspects; ``shown`` are the words as they may be repeated."""
    harmless = {"", *kept}
    traces = Traces({one for some in suspects.values() for one in some} - harmless)

    def masked_one(problem: Problem) -> Problem:
        own = {one for place in problem.words[:MOST_WORDS] for one in suspects.get(place, ())} - harmless
        names = {words[place]: shown[place] for place in problem.words[:MOST_WORDS] if words[place][:2] == "--"}
        return _masked_problem(problem, own, names, traces, kept)

    return Problems([masked_one(problem) for problem in problems], shown)


def _masked_word(word: str, names: OptionNames) -> tuple[str, list[str]]:
    """Return a word as it may be shown, and what in it may be a secret."""
    if is_plain_word(word):
        return MASK, [word]
    if word.startswith("--"):
        name, equals, text = word[2:].partition("=")
        if equals and name in names.long and not names.long[name][0].secret:
            return word, []
        if name == "answers":
            return word, []
        if name in names.long or name in names.old or name in BUILTIN_SWITCHES or name in BUILTIN_OPTIONS:
            return f"--{name}{equals}{MASK if equals else ''}", [text]
        return _masked_name(word, names)
    for at, letter in enumerate(word[1:], 1):
        slot = names.short.get(letter)
        if slot is None:
            return word[:at] + MASK, [word[1:], word[at:]]
        if slot.shape.takes_text:
            rest = word[at + 1 :]
            return word[: at + 1] + (MASK if rest else ""), [rest]
    return word, []


def _masked_name(word: str, names: OptionNames, secrets: Iterable[str] = ()) -> tuple[str, list[str]]:
    """Return a word with an unknown name, which is shown if it is the beginning of a known one, or near one.

    It is not if it is longer than that of a secret: the rest may be the secret, without the sign between them.
    """
    name, equals, text = word[2:].partition("=")
    hidden = {*secrets, *(long for long, (slot, _) in names.long.items() if slot.secret)}
    known = [*names.long, *BUILTIN_SWITCHES, *BUILTIN_OPTIONS, *secrets]
    near = [long for long in known if long.startswith(name) or nearest(name, [long])]
    is_shown = bool(near) and not any(len(name) > len(long) for long in near if long in hidden)
    return f"--{name if is_shown else MASK}{equals}{MASK if equals else ''}", [text] if is_shown else [name, text]


def _may_be(name: str, secrets: Collection[str] | None) -> bool:
    """Return True if a name may have been meant for one of the secrets, its value glued on or not."""
    return secrets is None or any(
        secret.startswith(name) or name.startswith(secret) or bool(nearest(name, [secret])) for secret in secrets
    )


def _choices(slots: Iterable[Slot[Any]]) -> list[str]:
    """Return the labels that words may be, which say nothing of a secret."""
    labels: list[str] = []
    for slot in slots:
        choices: Any = getattr(slot.kind, "choices", None)
        if choices is not None and not slot.kind.depends and not choices.is_growing and len(choices) <= MOST_LABELS:
            labels += choices.labels()
    return labels


def _masked_problem(
    problem: Problem, own: set[str], names: Mapping[str, str], traces: Traces, kept: Sequence[str]
) -> Problem:
    """Return a problem without a trace of the suspects.

    ``own`` are those of the words that it is about, ``names`` those of the words that are names, as they may be shown.
    """
    reason, location = problem.reason, problem.location
    for word, shown in names.items():
        reason = reason.replace(word, shown).replace(word.partition("=")[0], shown.partition("=")[0])
        if shown.startswith(f"--{MASK}"):
            reason += tell("; it is not shown, since it may hold a secret")
    text = problem.text
    if own or (text is not None and traces.are_in(text, kept)):
        text = None
    if traces.are_in(reason, kept):
        for suspect in sorted(own, key=len, reverse=True):
            reason = hushed(reason, suspect, kept)
        reason = hidden(reason, traces, kept=[*kept, tell("the given value")])
    if location is not None and traces.are_in(location):
        location = None
    position, offset = (problem.position, problem.offset) if text is not None else (None, 0)
    return Problem(
        reason,
        problem.slot,
        problem.source,
        text,
        position,
        problem.words,
        offset,
        problem.missing,
        location,
        problem.timed_out,
    )
