"""Two folders side by side: which files differ, and how. The arrows choose, Enter shows the difference."""

from __future__ import annotations

import difflib
import filecmp
from pathlib import Path

from wesperon import Across, Down, Label, Pager, Screen, Table, run


def state(left: Path, right: Path, name: str) -> str:
    """Return what is to be said of a file."""
    if not (left / name).exists():
        return "only right"
    if not (right / name).exists():
        return "only left"
    return "the same" if filecmp.cmp(left / name, right / name, shallow=False) else "differs"


def size(folder: Path, name: str) -> int | None:
    """Return the size of a file in bytes, None if there is none."""
    path = folder / name
    return path.stat().st_size if path.is_file() else None


def lines(folder: Path, name: str) -> list[str]:
    """Return the lines of a file, none if it is no text."""
    try:
        return (folder / name).read_text().splitlines()
    except (OSError, UnicodeDecodeError):
        return []


def compare(left: Path, right: Path) -> None:
    """Compare two folders on one screen."""
    names = sorted({path.name for folder in (left, right) for path in folder.iterdir() if path.is_file()})
    rows = [(name, size(left, name), size(right, name), state(left, right, name)) for name in names]
    table = Table(rows, ["file", "left", "right", "state"], title="Files", weight=2)
    shown = Pager("", title="Difference", weight=3)
    counts = Label(f"{sum(row[3] != 'the same' for row in rows)} of {len(rows)} files differ", role="note")

    def show(row: tuple[str, int | None, int | None, str]) -> None:
        found = difflib.unified_diff(lines(left, row[0]), lines(right, row[0]), "left", "right", lineterm="")
        shown.show("\n".join(found) or row[3])

    table.on_change(show)
    if rows:
        show(rows[0])
    Screen(Down(Across(table, shown, divided=True), counts), title=f"{left} and {right}").run()


if __name__ == "__main__":
    run(compare)
