"""How the parts of a row or a column share its cells.

Each part has its least first. What is left goes to those that want a certain size, in the order of declaration, and
then by weight, cell by cell, so that more room never makes a part smaller as long as the same parts are shown. Parts
that may be hidden go from the last one on.
"""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence


class Wants(Frozen):
    """What one part wants: ``size`` cells, or else a share of what is left, by ``weight``.

    It has ``least`` cells at least and ``most`` at most. It is left out where it would have fewer than ``hide_below``,
    if that is not 0.
    """

    size: int | None = None
    weight: int = 1
    least: int = 1
    most: int | None = None
    hide_below: int = 0


def shares(room: int, parts: Sequence[Wants]) -> list[int]:
    """Return the cells of each part, 0 for one that is hidden.

    Together they are ``room`` or less, and less only if every part has what it wants at most. Where not even the least
    of all parts fits, each has its least, and together they are more than ``room``: then they are to be scrolled.
    """
    hideable = [at for at, one in enumerate(parts) if one.hide_below]
    while True:
        hidden = {at for at in range(len(parts)) if at not in shown_of(parts, hideable)}
        kept = [at for at in range(len(parts)) if at not in hidden]
        sizes = _shared(room, [parts[at] for at in kept])
        found = dict(zip(kept, sizes, strict=True))
        if not hideable or (sum(sizes) <= room and all(found[at] >= parts[at].hide_below for at in hideable)):
            return [found.get(at, 0) for at in range(len(parts))]
        hideable.pop()


def shown_of(parts: Sequence[Wants], hideable: Sequence[int]) -> set[int]:
    """Return the indices of the parts that are shown if these of them that may be hidden are."""
    return {at for at, one in enumerate(parts) if not one.hide_below} | set(hideable)


def _shared(room: int, parts: Sequence[Wants]) -> list[int]:
    sizes = [one.least for one in parts]
    left = room - sum(sizes)
    for at, one in enumerate(parts):
        if one.size is not None and left > 0:
            more = min(max(_most(one) - sizes[at], 0), left)
            sizes[at] += more
            left -= more
    growing = [at for at, one in enumerate(parts) if one.size is None and one.weight > 0 and sizes[at] < _most(one)]
    while left > 0 and growing:
        at = _next(sizes, parts, growing)
        sizes[at] += 1
        left -= 1
        if sizes[at] >= _most(parts[at]):
            growing.remove(at)
    return sizes


def _next(sizes: Sequence[int], parts: Sequence[Wants], growing: Sequence[int]) -> int:
    """Return which part gets the next cell: the one furthest below its share, of those that are not above it by then.

    This is the quota method of apportionment: shares are within a cell of the weights, and never shrink as cells are
    added (Balinski and Young, 1975).
    """
    weight = sum(parts[at].weight for at in growing)
    cells = sum(sizes[at] for at in growing) + 1
    below = [at for at in growing if sizes[at] * weight < cells * parts[at].weight]
    return min(below or growing, key=lambda at: ((sizes[at] + 1) / parts[at].weight, at))


def _most(part: Wants) -> int:
    """Return the most cells that a part takes."""
    size = part.size if part.size is not None else 1 << 30
    return max(min(size, part.most if part.most is not None else size), part.least)
