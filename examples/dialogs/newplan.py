"""Start the folder of a night plan: a generator of projects, with a last look before anything is written."""

from pathlib import Path
from typing import Annotated

from wesperon import any_of, one_of, run, slot

PARTS = {"targets": "label,seconds\n", "weather": "hour,wind\n", "log": ""}


def newplan(
    title: Annotated[str, slot("What is the plan called?")],
    folder: Annotated[Path, slot(Path, "In which folder?", exists="nothing")],
    site: Annotated[str, slot(one_of(["Hollin Ridge", "Quill Moor"]), "For which site?")],
    parts: Annotated[tuple[str, ...], slot(any_of(list(PARTS), least=1), "With which parts?")],
) -> str:
    """Start the folder of a night plan."""
    folder.mkdir(parents=True)
    (folder / "plan.toml").write_text(f"title = {title!r}\nsite = {site!r}\n")
    for part in parts:
        (folder / f"{part}.csv").write_text(PARTS[part])
    return f"{folder} has {', '.join(sorted(path.name for path in folder.iterdir()))}"


run(newplan, review=True)
