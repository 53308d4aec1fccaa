"""The moves in a text: for each action a function, which gives the text view another part in sight.

Each takes the view and the action that a key means, and returns what is to be said, if anything is. A move ends
following; where it counts, its count is that of the action.
"""

from __future__ import annotations

from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Action
    from wesperon.widgets.pager.text_view import TextView

    Move = Callable[[TextView, Action], str]

#: The names of the place where the last jump began.
LAST_JUMP = ("'", "`")
#: A step sideways is one part in so many of the width.
SIDEWAYS = 2


def _by(rows: Callable[[TextView], int]) -> Move:
    """Return the move by so many rows, as often as the action says."""

    def move(view: TextView, action: Action) -> str:
        view.move(action.times * rows(view))
        return ""

    return move


def _start(view: TextView, action: Action) -> str:
    view.jump(view.start())
    return ""


def _end(view: TextView, action: Action) -> str:
    view.jump(view.end())
    return ""


def _share(view: TextView, action: Action) -> str:
    to_share(view, (action.count or 0) / 100)
    return ""


def to_share(view: TextView, share: float) -> None:
    """Move to a part of the text, from 0 to 1, by its bytes."""
    size = len(view.source.data)
    if share >= 1:
        view.jump(view.end())
    elif size:
        view.jump((view.pieces.start(min(int(size * max(share, 0)), size - 1)), 0))


def _sideways(by: int) -> Move:
    def move(view: TextView, action: Action) -> str:
        layout = view.layout
        if layout.is_broken:
            return tell("lines are broken here, so nothing is to the side: w cuts them")
        step = max(layout.columns // SIDEWAYS, 1) if action.count is None else action.count
        layout.left = max(layout.left + by * step, 0)
        return ""

    return move


def _set_place(view: TextView, action: Action) -> str:
    if view.top is None:
        return ""
    view.marks[action.text] = view.top
    return tell("marked as {name}", name=action.text)


def _to_place(view: TextView, action: Action) -> str:
    place = view.came_from if action.text in LAST_JUMP else view.marks.get(action.text)
    if place is not None:
        view.jump(place)
        return ""
    if not view.marks:
        return tell("nothing is marked as {name}", name=action.text)
    known = ", ".join(sorted(view.marks))
    return tell("nothing is marked as {name}; there are {list}", name=action.text, list=known)


#: Action to what it does.
MOVES: dict[str, Move] = {
    "move-up": _by(lambda view: -1),
    "move-down": _by(lambda view: 1),
    "move-page-up": _by(lambda view: -view.room),
    "move-page-down": _by(lambda view: view.room),
    "move-half-page-up": _by(lambda view: -max(view.room // 2, 1)),
    "move-half-page-down": _by(lambda view: max(view.room // 2, 1)),
    "move-text-start": _start,
    "move-text-end": _end,
    "move-to-share": _share,
    "move-columns-back": _sideways(-1),
    "move-columns-forward": _sideways(1),
    "set-place": _set_place,
    "move-to-mark": _to_place,
}
