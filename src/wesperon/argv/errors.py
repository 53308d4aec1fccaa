"""What can be wrong with the words of a command line, as problems. Loaded only if something is."""

from __future__ import annotations

from itertools import pairwise

from wesperon.argv import BUILTIN_OPTIONS, BUILTIN_SWITCHES, MODES, is_plain_word
from wesperon.text.quoting import join
from wesperon.text.spelling import nearest
from wesperon.text.truncate import counted, listed
from wesperon.values import Complaint, DeclarationError, quoted, tell
from wesperon.values.kind import opposite
from wesperon.values.phrases import secret_places
from wesperon.values.problems import MOST_FAULTS, Problem
from wesperon.values.records import WORDS, slots_of
from wesperon.values.shapes_of_several import PAIRS
from wesperon.values.slots import VERBATIM
from wesperon.values.together import complaint_together

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.argv import ParsedArgs, WordValue
    from wesperon.argv.option_words import OptionNames
    from wesperon.argv.rest_words import RestWords
    from wesperon.values.records import Record
    from wesperon.values.slots import Slot


def examined_words(words: Any) -> list[str]:
    """Return the words that a call gives, as a list; raises DeclarationError for what is no sequence of texts."""
    if isinstance(words, (str, bytes, dict)) or not hasattr(words, "__iter__"):
        given = "one text" if isinstance(words, str) else f"of type {type(words).__name__}"
        raise DeclarationError(f'the words are {given}: give a list of texts, as ["--frames", "5"]')
    found = [*words]
    for word in found:
        if not isinstance(word, str):
            raise DeclarationError(f"the word {word!r} is of type {type(word).__name__}: words are texts")
    return found


def unknown(
    names: OptionNames, at: int, word: str, name: str, candidates: list[str], *, hinted: bool = True
) -> Problem:
    """Return a long name that means no slot, or more than one; ``hinted``: with the nearest right ones."""
    shown = quoted("--" + name)[1:-1]
    if candidates:
        among = listed([f"--{candidate}" for candidate in candidates], tell(" or "))
        reason = tell("{shown} is ambiguous: {among}", shown=shown, among=among)
    else:
        near = nearest(name, [*names.long, *BUILTIN_SWITCHES, *BUILTIN_OPTIONS]) if hinted else []
        hint = tell("; nearest: {list}", list=", ".join("--" + long for long in near)) if near else ""
        reason = tell("{shown} is unknown{hint}", shown=shown, hint=hint)
    return Problem(reason, None, WORDS, word, words=(at,))


def before_command(words: Sequence[str], at: int, commands: Mapping[str, OptionNames]) -> Problem | None:
    """Return a name before the command that is unknown there; None if the word after it may as well be what is wrong.

    ``commands`` are the names that each command knows.
    """
    word = words[at]
    owners = [command for command, names in commands.items() if names.is_declared(word)]
    shown = quoted(word)[1:-1]
    if owners:
        reason = tell(
            "{shown} belongs to {commands}: write it after the command",
            shown=shown,
            commands=listed(owners, tell(" or ")),
        )
    else:
        near = nearest(word.lstrip("-"), dict.fromkeys(name for names in commands.values() for name in names.long))
        if word[:2] != "--" or not (near or any(one in commands for one in words[at + 2 :])):
            return None
        hint = tell("; nearest: {list}", list=", ".join("--" + long for long in near)) if near else ""
        reason = tell("{shown} is unknown{hint}", shown=shown, hint=hint)
    return Problem(reason, None, WORDS, word, words=(at,))


def unknown_letter(names: OptionNames, at: int, word: str, offset: int) -> Problem:
    """Return a letter in a word with one hyphen that means no slot."""
    shown = quoted("-" + word[offset])[1:-1]
    long = names.candidates(word[1:]) if len(word) > 2 or word[1:] in names.long else []
    hint = tell("; with two hyphens, --{long} is", long=long[0]) if len(long) == 1 else ""
    where = "" if offset == 1 else " in it"
    if offset == 1 and is_plain_word(word) and not names.has_secret:
        value = quoted(word)[1:-1]
        hint = tell("; if {value} is no name, write -- {value}, or ./{value} for a file", value=value)
    return Problem(
        tell("{shown}{where} is unknown{hint}", shown=shown, where=where, hint=hint),
        None,
        WORDS,
        word,
        offset,
        (at,),
    )


def numbers_with_plus(reading: ParsedArgs, slots: Mapping[str, Slot[Any]]) -> list[Problem]:
    """Return the words of ``+`` and digits that would be texts or paths by position: some programs have such names.

    After ``--``, and where a pattern or choices say what a text is, they are meant.
    """
    words = reading.words
    end = words.index("--") if "--" in words else len(words)
    found = []
    for name, given in reading.given.items():
        slot = slots[name]
        if (
            slot.kind.takes_numbers
            or slot.rest == VERBATIM
            or slot.pattern is not None
            or slot.kind.choices is not None
        ):
            continue
        for one in given:
            at, word = one.word, words[one.word]
            if word[:1] == "+" and word[1:].isdecimal() and word.isascii() and at in reading.plain and at < end:
                shown = "" if reading.hides else quoted(word)[1:-1]
                reason = tell("{word} is no name here", word=quoted(word)) if shown else tell("is no name here")
                if shown:
                    reason += tell("; if it is meant as it is, write -- {value}, or ./{value} for a file", value=shown)
                found.append(Problem(reason, name, WORDS, word, words=(at,)))
    return found


def value_of_no(slot: Slot[Any], at: int, word: str, text: str) -> Problem:
    """Return a switch that was denied by its name and by a value."""
    reason = tell(
        "--{no} takes no value: write --{word}={part}",
        no=opposite(slot.word),
        word=slot.word,
        part=quoted(text or "no")[1:-1],
    )
    return Problem(reason, slot.name, WORDS, word, words=(at,))


def value_after_switch(reading: ParsedArgs, slot: Slot[Any], at: int) -> Problem:
    """Return a word that could be meant as the value of the switch, or of the name alone, before it."""
    text = reading.words[at + 1]
    reason = tell(
        "takes no word after it: write --{word}={text}, or put {shown} elsewhere",
        word=slot.word,
        text=text,
        shown=quoted(text),
    )
    return Problem(reason, slot.name, WORDS, text, words=(at + 1,))


def no_value(reading: ParsedArgs, slot: Slot[Any], at: int, name: str) -> Problem:
    """Return a name whose value does not follow."""
    words = reading.words
    follows = tell("the line ends")
    if at + 1 < len(words):
        follows = (
            tell("another name follows") if reading.hides else tell("{words} follows", words=quoted(words[at + 1]))
        )
    reason = tell(
        "{name} requires a value, {wanted}, but {follows}: write --{word}={placeholder}",
        name=name,
        wanted=slot.kind.wants,
        follows=follows,
        word=slot.word,
        placeholder=slot.kind.placeholder,
    )
    return Problem(reason, slot.name, WORDS, words[at], words=(at,))


def not_allowed(name: str, text: str | None, allowed: Sequence[str] | None, at: int) -> Problem:
    """Return one of the names that every program has, with a value that it does not take."""
    got = quoted(text) if text else tell("nothing")
    wanted = (
        tell("must be one of {list}", list=", ".join(allowed))
        if allowed
        else tell("must be the name of a file, or - for standard input")
    )
    return Problem(
        tell("--{name} {wanted}, got {got}", name=name, wanted=wanted, got=got), None, WORDS, text, words=(at,)
    )


def too_many(
    reading: ParsedArgs, places: Sequence[int], slots: Sequence[Slot[Any]], named: Mapping[str, Slot[Any]]
) -> Problem:
    """Plain words for which there is no slot; ``slots`` are those that plain words can fill, ``named`` all by name."""
    wanted = len(slots)
    if reading.hides:
        reason = tell(
            "{count} too many: {wanted} expected",
            count=counted(len(places), "word"),
            wanted=counted(wanted, "word"),
        )
        return Problem(reason, None, WORDS, None, words=tuple(places))
    after_alone = _after_alone(reading, places[0])
    texts = _shown([reading.words[at] for at in places])
    can = counted(wanted, "word") if wanted else tell("none")
    reason = tell("{count} too many: {texts}; {can} expected", count=counted(len(places), "word"), texts=texts, can=can)
    if after_alone:
        return Problem(reason + after_alone, None, WORDS, reading.words[places[0]], words=tuple(places))
    after = _after_name(reading, slots, named)
    line, joined = mended(reading, slots)
    if after is not None and (not line or not _are_right(reading, slots)):
        reading.is_mended = True
        return after
    if line:
        reading.is_mended, places = True, joined
        reason = tell(
            "{count} given, {wanted} expected; with quotes: {line}",
            count=counted(len(reading.plain), "word"),
            wanted=wanted,
            line=line,
        )
    return Problem(reason, None, WORDS, reading.words[places[0]], words=tuple(places))


def _after_alone(reading: ParsedArgs, at: int) -> str:
    """Return how to write a word that is at fault as the value of the name before it, which takes no word."""
    slot, text = reading.alone.get(at), reading.words[at]
    if slot is None or reading.hides or not _fits(slot, text):
        return ""
    return tell("; as the value of --{word} it is --{word}={text}", word=slot.word, text=quoted(text)[1:-1])


def mended(reading: ParsedArgs, slots: Sequence[Slot[Any]]) -> tuple[str, list[int]]:
    """Return the line as it should have been typed, with the words that quotes would join to one.

    ``slots`` are those that plain words can fill, in order. One run of neighbours is joined, as long as there are words
    too many; the first such run that the slots can all read is the one, if there is a sign that quotes were lost.
    """
    plain = reading.plain
    surplus = len(plain) - len(slots)
    apart = any(following - at != 1 for at, following in pairwise(plain))
    # Each run is tried against each slot, so the work grows with a power of these; nobody types longer lines.
    if not 0 < surplus < 30 or len(plain) > 40 or apart:
        return "", []
    texts = [reading.words[at] for at in plain]
    # Where the words are right as they are, all but those left over, only the last of them can have lost its quotes.
    are_right = _are_right(reading, slots)
    for start, slot in enumerate(slots):
        if are_right and start + 1 < len(slots):
            continue
        if slot.shape.splits or not _may_hold_blanks(slot):
            continue
        joined = [*texts[:start], " ".join(texts[start : start + surplus + 1]), *texts[start + surplus + 1 :]]
        if all(_fits(one, text) for one, text in zip(slots, joined, strict=True)):
            before, follows = reading.words[: plain[0]], reading.words[plain[-1] + 1 :]
            return join([*before, *joined, *follows]), plain[start : start + surplus + 1]
    return "", []


def _after_name(reading: ParsedArgs, slots: Sequence[Slot[Any]], named: Mapping[str, Slot[Any]]) -> Problem | None:
    """Return the words too many right after the value of a name: more values, or a text that lost its quotes."""
    words, plain = reading.words, reading.plain
    surplus = len(plain) - len(slots)
    for name, given in reading.given.items():
        slot, one = named[name], given[-1]
        follow = [*range(one.word + 1, one.word + surplus + 1)]
        left = [words[at] for at in plain if at not in follow]
        if one.word in plain or not {*follow} <= {*plain}:
            continue
        if not all(_fits(other, text) for other, text in zip(slots, left, strict=True)):
            continue
        before, after = words[: one.word], words[one.word + surplus + 1 :]
        further = [words[at] for at in follow]
        if slot.shape.splits and all(_fits(slot, text) for text in further):
            line = join([*before, words[one.word], *(f"--{slot.word}={text}" for text in further), *after])
        elif not slot.shape.splits and _may_hold_blanks(slot) and _fits(slot, " ".join([one.text, *further])):
            line = join([*before, " ".join([words[one.word], *further]), *after])
        else:
            continue
        texts, count = _shown(further), counted(surplus, "word")
        if slot.shape.splits:
            reason = tell(
                "{count} too many: {texts}; with the name before each: {line}", count=count, texts=texts, line=line
            )
            return Problem(reason, None, WORDS, further[0], words=tuple(follow))
        reason = tell("{count} too many: {texts}; with quotes: {line}", count=count, texts=texts, line=line)
        return Problem(reason, None, WORDS, further[0], words=(one.word, *follow))
    return None


def _shown(words: Sequence[str]) -> str:
    """Return the first of some words, in quotes."""
    return " ".join([quoted(word) for word in words[:3]]) + (" ..." if len(words) > 3 else "")


def _are_right(reading: ParsedArgs, slots: Sequence[Slot[Any]]) -> bool:
    """Return True if the words are right for their slots, all but those left over."""
    return all(_fits(slot, reading.words[at]) for slot, at in zip(slots, reading.plain, strict=False))


def _may_hold_blanks(slot: Slot[Any]) -> bool:
    return slot.kind.keeps_blanks or slot.kind.choices is not None


def _fits(slot: Slot[Any], text: str) -> bool:
    try:
        slot.shape.parse_word(slot, text)
    except Complaint:
        return False
    return True


def given_again(slot: Slot[Any], given: list[WordValue] | RestWords) -> list[Problem]:
    """Return what is wrong with a slot that was named more than once; what is to count is left.

    Of ``repeats="last"`` that is the last (of pairs, that of each name); of a switch one, if all say the same.
    """
    if isinstance(given, list) and slot.repeats == "last":
        has_names = slot.shape.name_of(slot) is not None
        given[:] = {one.text.partition("=")[0].strip() if has_names else "": one for one in given}.values()
        return []
    if isinstance(given, list) and not slot.shape.takes_text:
        try:
            if len({slot.kind.parse(one.text) for one in given}) == 1:
                del given[1:]
                return []
        except Complaint:  # said where it is converted
            pass
    return [repeated(slot, given)]


def repeated(slot: Slot[Any], given: Sequence[WordValue] | RestWords) -> Problem:
    """Return a slot of one value that was given several."""
    if slot.secret:
        return secret_word(slot, given)
    # The carets show all of them; three, cut, are enough to know what it is about.
    texts = " and ".join(quoted(one.text, 20) for one in [*given][:3])
    reason = tell("is given {count} times, {texts}: must be given once", count=len(given), texts=texts)
    return Problem(reason, slot.name, WORDS, given[-1].text, words=tuple(one.word for one in given))


def builtin_repeated(name: str, at: int) -> Problem:
    """Return one of the names that every program has, given again."""
    return Problem(tell("--{name} is given more than once", name=name), None, WORDS, None, words=(at,))


def empty(slot: Slot[Any], given: Sequence[WordValue]) -> Problem:
    """Words that say nothing, for a slot whose value is something."""
    words = tuple(one.word for one in given)
    reason = tell("is empty: must be {wanted}", wanted=slot.kind.wants)
    return Problem(reason, slot.name, WORDS, given[0].text, words=words, offset=given[0].offset)


def empty_and_unreadable(slot: Slot[Any], given: Sequence[WordValue] | RestWords, reading: ParsedArgs) -> list[Problem]:
    """Return what is wrong with texts of which some are empty: those, and the others that cannot be read."""
    blank = [one for one in given if slot.is_blank(one.text)]
    others = [one for one in given if not slot.is_blank(one.text)] if slot.shape.repeats else []
    return [empty(slot, blank), *(_unreadable_alone(slot, others, reading))]


def unreadable(
    slot: Slot[Any], given: Sequence[WordValue] | RestWords, joint: Complaint, reading: ParsedArgs
) -> list[Problem]:
    """Return a problem for each text that cannot be parsed.

    ``joint`` is the error of all together, if each alone is valid.
    """
    if faults := _unreadable_alone(slot, given, reading):
        return faults
    if slot.shape is PAIRS and (twice := _given_twice(slot, given)):
        given = twice
    places = tuple(one.word for one in given)
    return [Problem(joint.reason, slot.name, WORDS, given[0].text, None, places, given[0].offset)]


def _given_twice(slot: Slot[Any], given: Iterable[WordValue]) -> list[WordValue]:
    """Return the words of pairs whose names are given more than once; only those of the first such name."""
    by_name: dict[Any, list[WordValue]] = {}
    for one in given:
        by_name.setdefault(slot.parse(one.text)[0], []).append(one)
    return next((found for found in by_name.values() if len(found) > 1), [])


def _unreadable_alone(slot: Slot[Any], given: Iterable[WordValue], reading: ParsedArgs) -> list[Problem]:
    """Return a problem for each text that cannot be read by itself."""
    faults: list[Problem] = []
    for one in given:
        if len(faults) == MOST_FAULTS:
            break  # nobody reads more, and each may be compared with very many labels
        try:
            slot.shape.parse_word(slot, one.text)
        except Complaint as complaint:
            at, text = complaint.position, None if slot.secret else one.text
            reason = complaint.reason + _after_alone(reading, one.word)
            faults.append(Problem(reason, slot.name, WORDS, text, at, (one.word,), one.offset))
    return faults


def refuse_mode(reading: ParsedArgs, mode: str, asking: str | None) -> None:
    """Raise the error about a ``mode`` of asking that there is not: of the program's ``asking``, or the environment."""
    if mode == asking:
        raise DeclarationError(f"asking={asking!r} is not one of {', '.join(MODES)}")
    reason = tell("WESPERON_ASKING must be one of {list}, got {mode}", list=", ".join(MODES), mode=quoted(mode))
    raise reading.refused([Problem(reason, None, "env", mode)])


def check_together(record: Record, reading: ParsedArgs) -> None:
    """Raise Problems if the values of a record do not go together."""
    complaint = complaint_together(record)
    if complaint is not None:
        raise reading.refused([together(reading, record, complaint)])


def together(reading: ParsedArgs, record: Any, complaint: Complaint) -> Problem:
    """Return a complaint about values together: about the first slot that it names, with the words of all of them."""
    names = list(complaint.slot or "")
    words = [one.word for name in names for one in reading.given.get(name, ())]
    if not names:
        return Problem(complaint.reason)
    slot: Slot[Any] = slots_of(record)[names[0]]
    given = list(reading.given.get(names[0], []))
    text = given[0].text if len(given) == 1 and not slot.secret else None
    return Problem(
        complaint.reason,
        names[0],
        record.origins.get(names[0]),
        text,
        complaint.position if text is not None else None,
        words=tuple(dict.fromkeys(words)),
        offset=given[0].offset if text is not None else 0,
    )


def secret_word(slot: Slot[Any], given: Sequence[WordValue] | RestWords) -> Problem:
    """Return a secret on the command line, where everybody who lists the processes can read it."""
    reason = tell(
        "is secret and not accepted as an argument, which other users could read; {slot}", slot=secret_places(slot)
    )
    words = tuple(one.word for one in given)
    return Problem(reason, slot.name, WORDS, None, words=words, offset=given[0].offset)
