"""The message about problems: the command line once more with carets under what is wrong, then each reason."""

from __future__ import annotations

from wesperon.screen.table import MARGIN, entries, texts
from wesperon.screen.width import cut, width, wrap
from wesperon.text.escape import visible
from wesperon.text.messages import tell, tell_many
from wesperon.text.quoting import quote
from wesperon.text.truncate import counted, cut_middle
from wesperon.values.slots import spelled

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence

    from wesperon.screen.frame import Row
    from wesperon.values.problems import Problem, Problems

#: The most columns that one word takes in the repeated line.
WORD_COLUMNS = 60
#: The most words that are repeated.
MOST_WORDS = 60
#: The most problems of one sort that are reported one by one: of one slot, or of none.
MOST_PROBLEMS = 20
#: The width of a message that no terminal shows.
NO_LIMIT = 100_000


def report(problems: Problems, program: Sequence[str], columns: int | None, *, more: str = "") -> str:
    """Return the problems as a message for people: see ``report_rows``."""
    return "\n".join(texts(report_rows(problems, program, columns, more=more)))


def report_rows(
    problems: Problems, program: Sequence[str], columns: int | None, *, more: str = "", in_words: bool = False
) -> list[Row]:
    """Return the line, carets under the words at fault, the reason of each problem, what is missing, and a pointer.

    ``program`` are the words with which the command line begins; ``columns`` the width of the terminal that shows the
    message, ``None`` if none does: then no line is broken. ``more`` is the line that says where to read more.
    ``in_words``: the places of the words are said, for who does not see carets.
    """
    listed = _listed(problems)
    limit = max(columns - 1, 10) if columns else NO_LIMIT
    others = [problem for problem in listed if problem.wanted is None]
    missing = [problem.wanted for problem in listed if problem.wanted is not None]
    rows = [] if in_words else _marked_line(listed, program, problems.words or (), limit)
    if not rows and len(listed) == 1 and listed[0].slot is None and not (in_words and listed[0].words):
        return [*_wrapped(f"{' '.join(program)}: {listed[0].sentence}".removeprefix(": "), limit), *_more(more, limit)]
    has_line = bool(rows)
    if not rows:
        count = sum(problem.missing for problem in problems)
        what = counted(len(problems), "problem")
        if count == len(problems):
            what = tell_many("{count} value is missing", "{count} values are missing", count)
        rows = _wrapped(f"{' '.join(program)}: {what}".removeprefix(": "), limit)
    if others:
        rows += _reason_rows(others, len(problems) - len(listed), limit, in_words=in_words)
    if missing:
        if has_line or others:
            rows += _wrapped(tell("Missing:"), limit)
        rows += entries([(name, visible(text)) for name, text in missing], limit, role="reason")
    return [*rows, *_more(more, limit)]


def _more(text: str, limit: int) -> list[Row]:
    return _wrapped(text, limit) if text else []


def _wrapped(text: str, limit: int, role: str = "") -> list[Row]:
    return [((line, role),) for line in wrap(visible(text), limit)]


def reasons(problems: Problems, columns: int, gutter: int = 0) -> list[str]:
    """Return a row for each problem: the name of its slot, right-aligned in a gutter, and the reason beside it."""
    listed = _listed(problems)
    return texts(_reason_rows(listed, len(problems) - len(listed), columns, gutter))


def _reason_rows(
    listed: Sequence[Problem], left: int, columns: int, gutter: int = 0, *, in_words: bool = False
) -> list[Row]:
    """Return the rows of some problems; ``left`` are more of one sort, which are counted."""
    if in_words:
        return [row for problem in listed for row in _wrapped(_said(problem), columns)]
    pairs = [_named(problem) for problem in listed]
    gutter = max(max(width(name) for name, _ in pairs) + 2, 4, gutter)
    if gutter > columns // 2:
        gutter = 4
    rows: list[Row] = []
    for name, reason in pairs:
        rows += _reason(name, visible(reason), gutter, columns)
    if left:
        rows += _reason("", tell("and {count:,} more like these", count=left), gutter, columns)
    return rows


def _named(problem: Problem) -> tuple[str, str]:
    """Return the name that a problem is about, for the gutter, and the reason.

    A reason may begin with the name itself.
    """
    if problem.slot:
        shown = f"--{spelled(problem.slot)}"
        return shown, problem.sentence.removeprefix(f"{shown} ")
    name, _, rest = problem.sentence.partition(" ")
    return (name, rest) if name.startswith("-") and rest and problem.words else ("", problem.sentence)


def _said(problem: Problem) -> str:
    """Return a problem in one sentence: which word it is about, the name, the reason."""
    numbered = [tell("word {number}", number=at + 1) for at in problem.words[:1]]
    names = [f"--{spelled(problem.slot)}"] if problem.slot else []
    about = ", ".join([*numbered, *names])
    return f"{about}: {problem.sentence}" if about else problem.sentence


def _listed(problems: Problems) -> list[Problem]:
    """Return the problems that are reported one by one: the first of each sort."""
    counts: dict[tuple[str | None, bool], int] = {}
    listed = []
    for problem in problems:
        sort = (problem.slot if not problem.missing else None, problem.missing)
        counts[sort] = counts.get(sort, 0) + 1
        if counts[sort] <= MOST_PROBLEMS:
            listed.append(problem)
    return listed


def _reason(name: str, reason: str, gutter: int, limit: int) -> list[Row]:
    """Return a name in the gutter and the reason beside it, wrapped."""
    if width(name) > gutter - MARGIN:
        reason, name = f"{name} {reason}", ""
    return entries([(name, reason)], limit, gutter=gutter, role="reason")


def _marked_line(problems: Sequence[Problem], program: Sequence[str], words: Sequence[str], limit: int) -> list[Row]:
    """Return the command line and a line of carets under it; nothing if no word is at fault."""
    at_fault = {index: problem for problem in reversed(problems) for index in problem.words}
    if not at_fault:
        return []
    parts = [(visible(quote(word)), 0) for word in program]
    kept = _kept(words, at_fault, limit - sum(len(text) + 1 for text, _ in parts))
    skipped = False
    for index, word in enumerate(words):
        if index in kept:
            parts.append(_part(word, at_fault.get(index), index))
        elif not skipped:
            parts.append(("...", 0))
        skipped = index not in kept
    row: list[tuple[str, str]] = []
    spans, column = [], 0
    for text, marked in parts:
        column += width(text)
        spans.append((column - marked, column))
        column += 1
        plain = text if not marked else text[:-marked] if marked < len(text) else ""
        row += [((" " if row else "") + plain, ""), *([(text[len(plain) :], "fault")] if marked else [])]
    marks = carets(spans)
    shown = " ".join([text for text, _ in parts])
    if width(shown) > limit:
        return [((cut(shown, limit), ""),), ((marks[:limit].rstrip(), "reason"),)]
    return [tuple(row), ((marks, "reason"),)]


def carets(spans: Iterable[tuple[int, int]]) -> str:
    """Return a line of carets under these columns, each pair a first one and the one after the last."""
    line = ""
    for start, end in sorted(span for span in spans if span[0] < span[1]):
        line = line.ljust(start) + "^" * (end - max(start, len(line)))
    return line


def _part(word: str, problem: Problem | None, index: int) -> tuple[str, int]:
    """Return a word as it is shown, and how many of its last columns are marked."""
    shown = cut_middle(visible(quote(word)), WORD_COLUMNS)
    if problem is None:
        return shown, 0
    plain = shown == word and index == problem.words[0] and 0 < problem.offset < len(word)
    return shown, max(len(word) - problem.offset if plain else width(shown), 1)


def _kept(words: Sequence[str], at_fault: dict[int, Problem], limit: int) -> set[int]:
    """Return the indices of the words to repeat: all, or if these are too many, those at fault and beside them."""
    shown = sum(min(len(word) + 3, WORD_COLUMNS + 1) for word in words[: MOST_WORDS + 1])
    if len(words) <= MOST_WORDS and shown <= limit:
        return set(range(len(words)))
    faults = sorted(at_fault)[:MOST_WORDS]
    near = {index + step for index in faults for step in (-1, 0, 1)} if len(faults) < 4 else set(faults)
    return (
        near if sum(min(len(words[at]), WORD_COLUMNS) for at in near if 0 <= at < len(words)) < limit else set(faults)
    )
