"""The outputs that pages show: each block of ``console`` is run, in a folder with the programs of its page.

``python scripts/shown_outputs.py`` writes what the commands print now into the pages. A program is a block of
``python`` whose first line is its name, ``# desk.py``. A command is a line after ``$``, run by a shell with nobody
there, whose home is that folder; what is below it is what it prints. A file is a block that begins so, as
``# plan.toml``.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parent.parent
PAGES = sorted([ROOT / "README.md", *(ROOT / "docs").glob("*.md")])
FENCE = "```"


def printed(line: str, folder: Path) -> str:
    """Return what a command line prints in a folder, on both streams."""
    homes = {"HOME": str(folder), "XDG_CONFIG_HOME": "", "XDG_STATE_HOME": ""}
    path = f"{Path(sys.executable).parent}:{os.environ['PATH']}"
    environment = {**os.environ, **homes, "PATH": path, "COLUMNS": ""}
    alone = f"import os; os.setsid(); os.execvp('bash', ['bash', '-c', {line!r} + ' 2>&1'])"
    done = subprocess.run(
        [sys.executable, "-c", alone],
        capture_output=True,
        text=True,
        cwd=folder,
        env=environment,
        stdin=subprocess.DEVNULL,
        check=False,
    )
    return done.stdout.rstrip("\n").replace(str(folder), "~")


def renewed(page: str) -> str:
    """Return the text of a page with the outputs that its commands have now."""
    parts = page.split(FENCE)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for at in range(1, len(parts), 2):
            language, _, text = parts[at].partition("\n")
            if text.startswith("# ") and text.partition("\n")[0].endswith((".py", ".toml")):
                (folder / text.partition("\n")[0].removeprefix("# ")).write_text(text)
            elif language == "console" and "$ " in text:
                rows = []
                for line in (row for row in text.split("\n") if row.startswith("$ ")):
                    output = printed(line[2:], folder)
                    rows += [line, *([output] if output else [])]
                parts[at] = "\n".join([language, *rows, ""])
    return FENCE.join(parts)


if __name__ == "__main__":
    for page in PAGES:
        before = page.read_text()
        if f"{FENCE}console" in before and (after := renewed(before)) != before:
            page.write_text(after)
            print(page.relative_to(ROOT))
