"""Spelling suggestions for unknown names."""

from __future__ import annotations

from wesperon.text.escape import quoted
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

#: Longer texts are not compared: nobody mistypes a name of this length, and time grows with its square.
LONGEST = 64
#: Nor more candidates than this; at most this many are compared letter by letter.
MOST_CANDIDATES, MOST_COMPARED = 20_000, 1_000
#: So many names that are wrong have the nearest right ones said with them in one report; of more nobody reads them.
MOST_HINTS = 20


def nearest(got: str, candidates: Iterable[str], most: int = 3) -> list[str]:
    """Return the candidates that ``got`` may have been meant for, the nearest first; at most ``most``.

    Letter case is set aside. A candidate that begins with ``got`` or holds it comes first; then those within a
    third of its length in edits (a character added, dropped, changed, or exchanged with its neighbour).
    """
    wanted = got.casefold().strip()
    if not wanted or len(wanted) > LONGEST:
        return []
    allowed = max(len(wanted) // 3, int(len(wanted) > 2))
    found: list[tuple[int, int, str]] = []
    letters, compared = set(wanted), 0
    for at, candidate in enumerate(candidates):
        if at >= MOST_CANDIDATES:
            break
        folded = candidate[: 4 * LONGEST].casefold()
        if folded.startswith(wanted):
            found.append((0, at, candidate))
        elif len(wanted) > 2 and wanted in folded:
            found.append((1, at, candidate))
        elif abs(len(folded) - len(wanted)) <= allowed and compared < MOST_COMPARED:
            # Each letter that one of them has more often takes an edit: this costs a tenth of the comparison below.
            differences = [wanted.count(letter) - folded.count(letter) for letter in letters.union(folded)]
            if max(sum(one for one in differences if one > 0), -sum(one for one in differences if one < 0)) > allowed:
                continue
            compared += 1
            needed = edits(wanted, folded, allowed)
            if needed <= allowed:
                found.append((1 + needed, at, candidate))
    return [*dict.fromkeys([candidate for _, _, candidate in sorted(found)])][:most]


def suggestion(got: str, candidates: Iterable[str], *, declared: bool = False) -> str:
    """``; nearest: a, b`` for the end of a complaint, or an empty text.

    ``declared``: the candidates are names of this library, for which the trade may have other words.
    """
    names: list[str] = []
    if declared:
        from wesperon.text.trade_words import our_words

        candidates = list(candidates)
        names = our_words(got, set(candidates))
    names = names or nearest(got, candidates)
    return tell("; nearest: {list}", list=", ".join(quoted(name)[1:-1] for name in names)) if names else ""


def edits(a: str, b: str, most: int) -> int:
    """Return the number of single edits between two texts, neighbouring exchanges included.

    ``most`` + 1 if there are more.
    """
    before = previous = list(range(len(b) + 1))
    for i, char in enumerate(a, 1):
        row = [i] + [most + 1] * len(b)
        for j in range(max(i - most, 1), min(i + most, len(b)) + 1):
            other = b[j - 1]
            cost = min(previous[j] + 1, row[j - 1] + 1, previous[j - 1] + (char != other))
            if i > 1 and j > 1 and char == b[j - 2] and a[i - 2] == other:
                cost = min(cost, before[j - 2] + 1)
            row[j] = cost
        if min(row) > most:
            return most + 1
        before, previous = previous, row
    return min(previous[-1], most + 1)
