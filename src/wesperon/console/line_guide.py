"""What the line of a console shows while it is typed, and what Tab completes: taken from the commands that it may name.

A word that names a command, and the name of a value that the command has, are shown with weight; what is wanted next is
shown dimly after the cursor.
"""

from __future__ import annotations

from wesperon.argv import is_plain_word, read_words
from wesperon.argv.option_words import OptionNames
from wesperon.completion.candidates import wants
from wesperon.console.entered import is_comment
from wesperon.frozen import later
from wesperon.text.quoting import quote
from wesperon.values import Complaint
from wesperon.values.candidate import Candidate
from wesperon.values.records import slots_of
from wesperon.values.words import open_quote, split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.commands.invocation import Invocation
    from wesperon.commands.program import Program
    from wesperon.output import usage as output_usage
    from wesperon.screen.line_wrap import Marks
    from wesperon.values.slots import Slot
else:
    output_usage = later("wesperon.output.usage")

#: The role of what is known.
KNOWN = "known"
#: Longer lines are not looked at while they are typed.
LONGEST = 2_000
#: How many of the values that are wanted next are shown at most.
MOST_WANTED = 6


class LineGuide:
    """Looks at the text of a line; what it found is kept until the text changes.

    ``owner`` gives the program that the words of a line are for.
    """

    def __init__(self, owner: Callable[[Sequence[str]], Program]) -> None:
        self.owner = owner
        self._text: str | None = None
        self._marks: Marks = ()
        self._wanted = ""

    def marks(self, text: str) -> Marks:
        """Return the stretches of a text that are known: offsets from 0, and their role."""
        self._look(text)
        return self._marks

    def wanted(self, text: str) -> str:
        """Return what is wanted next at the end of a text, with a blank before it if the text has none."""
        self._look(text)
        return self._wanted

    def _look(self, text: str) -> None:
        if text == self._text:
            return
        self._text, self._marks, self._wanted = text, (), ""
        if not text.strip() or len(text) > LONGEST or is_comment(text):
            return
        try:
            mark = open_quote(text)
            words = split_words(text + mark)
            owner = self.owner([words[0][0]])
            call = owner.invocation([word for word, _ in words], inside=True)
        except Exception:  # no such command, an open quote, or a module that does not load
            return
        slots = {**call.shared, **(slots_of(call.command) if call.command else {})}
        self._marks = self._known(OptionNames(slots, owner.prefixes), call, words, text)
        if call.command is not None and not mark:
            self._wanted = _wanted(call, [word for word, _ in words], slots, text)

    def _known(self, names: OptionNames, call: Invocation, words: Sequence[tuple[str, int]], text: str) -> Marks:
        """Return the words that name the command, and the names that it has."""
        marks = []
        for at, (word, start) in enumerate(words):
            if at in call.indices:
                marks.append((start, start + len(word), KNOWN))
            elif word == "--":
                break
            elif not is_plain_word(word) and text.startswith(word, start):
                name = word.partition("=")[0]
                if names.is_declared(word) if word[:2] == "--" else names.is_declared(word[:2]):
                    marks.append((start, start + len(name), KNOWN))
        return tuple(marks)


def _wanted(call: Invocation, words: Sequence[str], slots: Mapping[str, Slot[Any]], text: str) -> str:
    """Return what is wanted after some words: the value of a name, or the values that are not given yet."""
    ends = text[-1] in " \t\n"
    if ends and "--" not in words:
        slot = wants(OptionNames(slots), words, frozenset(call.indices))
        if slot is not None:
            return slot.kind.placeholder
    reading = read_words(slots, list(words), command=frozenset(call.indices))
    if reading.problems:
        return ""
    left = {name: slot for name, slot in slots.items() if name not in reading.given or slot.rest}
    shown = [*output_usage.operands(left).values()]
    more = [*shown[:MOST_WANTED], "..."] if len(shown) > MOST_WANTED else shown
    return ("" if ends or not more else " ") + " ".join(more)


def word_at(text: str, cursor: int) -> tuple[list[str], str, int, str]:
    """Return the words before the one at the cursor; that word as far as the cursor; where it begins.

    The last is the quote that is open in it.
    """
    head = text[:cursor]
    mark = open_quote(head)
    ends_in_backslash = not mark and (len(head) - len(head.rstrip("\\"))) % 2 == 1
    try:
        words = split_words(head[:-1] if ends_in_backslash else head + mark)
    except Complaint:
        return [], "", cursor, ""
    if not mark and (not words or head[-1:] in (" ", "\t", "\n")) and not head.endswith(("\\ ", "\\\t")):
        return [word for word, _ in words], "", cursor, ""
    if not words:
        return [], "", cursor, mark
    word, start = words[-1]
    return [one for one, _ in words[:-1]], word, start, mark


def written(candidates: Sequence[Candidate], begun: str) -> list[Candidate]:
    """Candidates as they are written in a line, all in one way of quoting, so that their beginnings agree.

    ``begun`` is what the user has written of the word; a quote at its beginning is kept.
    """
    mark = begun[:1] if begun[:1] in ("'", '"') else ""
    if not mark and len(candidates) > 1 and any(quote(one.text) != one.text for one in candidates):
        mark = "'"
    return [Candidate(_quoted(one, mark), one.note, one.goes_on, one.text) for one in candidates]


def _quoted(candidate: Candidate, mark: str) -> str:
    text = candidate.text
    if mark == '"':
        made = '"' + "".join("\\" + char if char in '$`"\\' else char for char in text) + '"'
    elif mark == "'":
        made = "'" + text.replace("'", "'\\''") + "'"
    else:
        made = quote(text)
    return made[:-1] if candidate.goes_on and made != text else made
