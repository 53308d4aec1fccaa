"""The way of a word, from ``run(function, words)`` to the call of the function, drawn for ``docs/design.md``.

``python -m scripts.way_of_a_word`` follows the calls of one run and writes the picture between its marks there; with
``--check`` it changes nothing, and the status is 1 if the picture is another one. A row is a module, in the order in
which the way comes to it, with what it is asked to do first; below are the calls that lead to a higher folder.
"""

from __future__ import annotations

import io
import sys
from contextlib import redirect_stdout
from pathlib import Path
from types import FrameType
from typing import Any

from scripts.layers import LAYERS
from wesperon import run

PAGE = Path(__file__).parent.parent / "docs" / "design.md"
BEGIN, END = "<!-- the way of a word -->\n", "<!-- its end -->\n"
HEIGHTS = {name: height for height, names in enumerate(LAYERS) for name in names}


def expose(target: str, frames: int = 1) -> None:
    """Expose one target."""


def way(**keywords: Any) -> tuple[list[tuple[str, str]], list[tuple[str, str]]]:
    """Return the modules on the way with the first function called in each, and the calls that lead to a higher folder.

    With ``keywords`` of ``run`` it is that of a program of one command.
    """
    steps: list[tuple[str, str]] = []
    climbs: list[tuple[str, str]] = []

    def follow(frame: FrameType, event: str, argument: Any) -> None:
        name = str(frame.f_globals.get("__name__", ""))
        if event != "call" or not name.startswith("wesperon.") or frame.f_code.co_name.startswith("<"):
            return
        module = name.removeprefix("wesperon.")
        if module not in dict(steps):
            steps.append((module, frame.f_code.co_qualname))
        caller = frame.f_back
        before = str(caller.f_globals.get("__name__", "")) if caller else ""
        if before.startswith("wesperon.") and _height(before) < _height(name):
            call = before.removeprefix("wesperon."), f"{module}.{frame.f_code.co_qualname}"
            if call not in climbs:
                climbs.append(call)

    for _ in range(2):  # the first time loads modules
        steps.clear()
        climbs.clear()
        with redirect_stdout(io.StringIO()):
            sys.setprofile(follow)
            try:
                run(expose, ["HOLLIN-051", "--frames=4"], **keywords)
            finally:
                sys.setprofile(None)
    return steps, climbs


def _height(name: str) -> int:
    return HEIGHTS.get(name.split(".")[1], -1) if "." in name else -1


def picture() -> str:
    """Return the text of both pictures."""
    return f"A function alone:\n\n{_drawn(*way())}\nAs a program, `run(expose, words, replay=True)`:\n\n" + _drawn(
        *way(replay=True)
    )


def _drawn(steps: list[tuple[str, str]], climbs: list[tuple[str, str]]) -> str:
    widest = max(len(module) for module, _ in steps)
    rows = [f"{number:3}  {module:{widest}}  {function}" for number, (module, function) in enumerate(steps, 1)]
    above = [f"     {before:{widest}}  calls {after}" for before, after in climbs]
    said = ["", f"{len(climbs)} calls to a higher folder" + (":" if climbs else "."), *above]
    return "```text\n" + "\n".join([*rows, *said]) + "\n```\n"


def main() -> int:
    """Write the picture; the status."""
    text = PAGE.read_text(encoding="utf-8")
    before, _, rest = text.partition(BEGIN)
    made = before + BEGIN + picture() + END + rest.partition(END)[2]
    if "--check" in sys.argv:
        return int(made != text)
    PAGE.write_text(made, encoding="utf-8")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
