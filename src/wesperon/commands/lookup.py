"""From words to the command that they name.

The words are read from the left: the first plain word names a member of the program, the next one a member of that
group, until a command is reached. Names of shared slots may be anywhere, with their values; all other names belong
after the command. Where a group has a default command with positions, its members are named in full, and any other word
is the first value of the default command; inside a console that is called by its name, like all others.
"""

from __future__ import annotations

from wesperon.argv import BUILTIN_OPTIONS, is_plain_word
from wesperon.argv.option_words import OptionNames
from wesperon.commands.invocation import Invocation
from wesperon.frozen import later
from wesperon.values import Complaint, quoted, tell
from wesperon.values.problems import Problem, Problems
from wesperon.values.records import WORDS, slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.argv import errors, masking
    from wesperon.commands import listing, tree_secrets
    from wesperon.commands.command_tree import CommandGroup
    from wesperon.commands.program import Program
    from wesperon.text import spelling, truncate
    from wesperon.values.problems import Problem
    from wesperon.values.slots import Slot
else:
    errors = later("wesperon.argv.errors")
    masking = later("wesperon.argv.masking")
    listing = later("wesperon.commands.listing")
    tree_secrets = later("wesperon.commands.tree_secrets")
    spelling = later("wesperon.text.spelling")
    truncate = later("wesperon.text.truncate")

#: The shortest name of a command that a word beside a default command may be near to, so that it is a problem.
LEAST_NEAR = 5


def find(
    program: Program,
    word: str,
    group: CommandGroup,
    at: int = 0,
    words: Sequence[str] = (),
    also_known: Sequence[str] = (),
    *,
    inside: bool = False,
) -> str:
    """Return the name of the member of a group that ``word`` means; see :meth:`Program.find`.

    ``word`` is at the index ``at`` of ``words``. ``also_known`` are names that may have been meant, too.
    """
    folded = word.lower()
    if name := group.named(folded, inside=inside):
        return name
    offered = listing.offered(group, inside=inside)
    meant = [one for one in offered if one.startswith(folded)] if program.prefixes and folded else []
    if len({offered[one] for one in meant}) == 1:
        return offered[meant[0]]
    if meant:
        reason = tell("{word} is ambiguous: {list}", word=quoted(word), list=truncate.listed(meant, tell(" or ")))
    elif word in group.left_out:
        reason = tell("{word} is left out: {reason}", word=quoted(word), reason=group.left_out[word])
    else:
        known = [*dict.fromkeys(offered.values()), *also_known]
        near = spelling.nearest(word, [*offered, *also_known], most=len(known))
        hint = (
            tell("nearest: {list}", list=truncate.listed(near))
            if near
            else tell("there are: {list}", list=truncate.listed(known))
        )
        if len(near or known) > truncate.MOST_NAMES:
            hint += tell("; {help} lists them", help="help" if also_known else "--help")
        reason = tell("{word} is not a command of {name}; {hint}", word=quoted(word), name=group.name, hint=hint)
    raise Problems([Problem(reason, None, WORDS, word, words=(at,))], words or (word,))


def _member(
    program: Program, call: Invocation, words: Sequence[str], at: int, also_known: Sequence[str], *, inside: bool
) -> str:
    """Return the name of the member that a word of a line means; empty if it is the first value of the default command.

    Raises Problems, without what may be a secret.
    """
    group, word = call.groups[-1], words[at]
    if word.lower() in group.old:
        call.renamed.append((word, group.old[word.lower()]))
        return group.old[word.lower()]
    try:
        if not (inside or call.is_help) and (first := call.first_position) is not None:
            return _in_full(group, word, at, words, first)
        return find(program, word, group, at, words, also_known if group is program else (), inside=inside)
    except Problems as found:
        before = _name_before(program, call, words, at)
        problems = found if before is None else Problems([before], words)
        if not tree_secrets.may_have_secrets(program):
            raise problems from None
        # Which command was meant, and so what of the words is secret, is not known: none after it is repeated.
        offered = listing.offered(group)
        is_near = bool(spelling.nearest(word, offered)) or any(one.startswith(word.lower()) for one in offered)
        is_command = is_near or (word.isascii() and word.islower() and word.replace("-", "").isalpha())
        shown = {at - 1} if before is not None else {at} if is_command else set()
        slots = {**tree_secrets.loaded_slots(program), **call.shared}
        raise masking.masked(problems, words, slots, frozenset(call.indices | shown), offered) from None


def _in_full(group: CommandGroup, word: str, at: int, words: Sequence[str], first: Slot[Any]) -> str:
    """Return the name of the member that ``word`` names; empty if it is a value of ``first``, the first position.

    Raises Problems for a word that is near the name of a member: a command that was misspelt is never a value.
    """
    if name := group.named(word.lower()):
        return name
    long = [name for name in listing.offered(group) if len(name) >= LEAST_NEAR]
    near = [name for name in long if spelling.edits(word.lower(), name, 1) == 1]
    if not near or _is_choice(first, word):
        return ""
    reason = tell(
        "{word} is not a command, but near one: write {list}, or put -- before it if it is meant as {name}",
        word=quoted(word),
        list=truncate.listed(near, tell(" or ")),
        name=f"--{first.word}",
    )
    raise Problems([Problem(reason, None, WORDS, word, words=(at,))], words)


def _is_choice(slot: Slot[Any], word: str) -> bool:
    """Return True if a word is one of the choices of a slot, as far as they are known."""
    if slot.kind.choices is None or slot.kind.choices.known is None:
        return False
    try:
        slot.combine([word])
    except Complaint:
        return False
    return True


def _name_before(program: Program, call: Invocation, words: Sequence[str], at: int) -> Problem | None:
    """Return what is wrong with the name right before a word that names no command: the word may be its value."""
    word, group = words[at - 1] if at else "", call.groups[-1]
    if is_plain_word(word) or "=" in word or names_of(program, call).is_declared(word):
        return None
    tree_secrets.load_all(group)
    commands = {
        name: OptionNames(slots_of(member.loaded), program.prefixes)
        for name, member in group.members.items()
        if member.is_loaded and isinstance(member.loaded, type)
    }
    return errors.before_command(words, at - 1, commands)


def names_of(program: Program, call: Invocation) -> OptionNames:
    """Return the names that may be where the command is not named yet."""
    return OptionNames({**call.shared, **call.default_slots}, program.prefixes)


def invocation_of(
    program: Program, words: Sequence[str], also_known: Sequence[str] = (), *, inside: bool = False
) -> Invocation:
    """Follow ``words`` to the command that they name; see :meth:`Program.invocation`."""
    call = Invocation(program, words)
    at = 0
    if words[:1] in (["help"], ("help",)) and program.members and not (program.named("help") or "help" in program.old):
        call.is_help, at = True, 1
        call.indices.add(0)
    while call.command is None and at < len(words):
        if not call.groups[-1].members and not inside:  # a program of one command, that has no name of its own
            break
        if is_plain_word(words[at]):
            try:
                name = _member(program, call, words, at, also_known, inside=inside)
            except Problems as problems:
                problems.command, problems.lists_commands = tuple(call.names), True
                raise
            if not name:
                call.is_default = True
                break
            call.step(name, at)
            at += 1
        elif words[at] == "--" and not inside and call.first_position is not None:
            call.is_default = True
            break
        else:
            at += _length(words, at, names_of(program, call))
    return call


def _length(words: Sequence[str], at: int, names: OptionNames) -> int:
    """Return how many words a name takes before the command: itself, and its value if it wants one."""
    word = words[at]
    if word == "--" or "=" in word:
        return 1
    if word.startswith("--"):
        name = word[2:]
        if name in BUILTIN_OPTIONS:
            return 2
        candidates = names.candidates(names.old.get(name, name))
        return 2 if len(candidates) == 1 and names.long[candidates[0]][0].wants_word else 1
    for offset in range(1, len(word)):
        slot = names.short.get(word[offset])
        if slot is None or slot.shape.takes_text:
            return 2 if slot is not None and slot.wants_word and offset + 1 == len(word) else 1
    return 1
