"""How the parts of a row or a column share its cells."""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence


class Wants(Frozen):
    """What one part wants: ``size`` cells, or else a share of what is left, by ``weight``.

    It has ``least`` cells at least and ``most`` at most; where its share would be below ``hide_below`` it is left out.
    """

    size: int | None = None
    weight: int = 1
    least: int = 1
    most: int | None = None
    hide_below: int = 0


def shares(room: int, parts: Sequence[Wants]) -> list[int]:
    """Return the cells of each part, 0 for one that is left out.

    Together they are ``room``, unless every part has its most. If not all parts can have their least, the last ones
    are left out.
    """
    kept = list(range(len(parts)))
    while kept:
        sizes = _shared(room, [parts[at] for at in kept])
        hidden = [at for at, size in zip(kept, sizes, strict=True) if size < max(parts[at].hide_below, 1)]
        if sum(sizes) <= room and not hidden:
            found = dict(zip(kept, sizes, strict=True))
            return [found.get(at, 0) for at in range(len(parts))]
        kept.remove(hidden[-1] if hidden else kept[-1])
    return [0] * len(parts)


def _shared(room: int, parts: Sequence[Wants]) -> list[int]:
    """Sizes within the bounds of each part: what is fixed first, then the rest by weight, until nothing is left."""
    sizes = [_within(one, one.size if one.size is not None else one.least) for one in parts]
    growing = [at for at, one in enumerate(parts) if one.size is None and one.weight > 0]
    left = room - sum(sizes)
    while left > 0 and growing:
        total = sum(parts[at].weight for at in growing)
        # The part furthest below its share gets the next cells; of several the first one.
        level = min(growing, key=lambda at: (sizes[at] + 1) / parts[at].weight)
        step = max(left // (2 * total), 1) if len(growing) > 1 else left
        more = _within(parts[level], sizes[level] + step) - sizes[level]
        if more <= 0:
            growing.remove(level)
            continue
        sizes[level] += more
        left -= more
    return sizes


def _within(part: Wants, size: int) -> int:
    return max(min(size, part.most) if part.most is not None else size, part.least)
