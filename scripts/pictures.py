"""Pictures of the main commands in a real terminal window, cropped to what they show, for the README and the guides.

``make pictures`` renews all of them; ``python scripts/pictures.py NAME...`` those named; ``--to FOLDER`` puts them
elsewhere, and ``--typed NAME LINE [KEYS...]`` takes one of any command line typed into the window. Needs Xvfb, xterm,
xdotool and ImageMagick.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path

ROOT = Path(__file__).parent.parent
FOLDER = ROOT / "docs" / "screenshots"
NEEDED = ("Xvfb", "xterm", "xdotool", "import", "convert")
WIDTH, HEIGHT = 1280, 800
DEADLINE = 30.0
#: The ground of the window, and how much of it is left around what is shown.
GROUND, MARGIN = "#101418", 16

#: Name of the picture to what is typed: texts, and keys by the names of X between angle brackets.
PICTURES: dict[str, list[str | float]] = {
    "question": ["cd {programs}; clear<Return>", "python expose.py 'Thimble Group'<Return>", "<space><Down><space>"],
    "report": ["python nightplan.py 'Lantern Nebula' 4x5 90 --puase 5<Return>"],
    "menu": ["wesperon demo<Return>", "<Down><Down><Down><Down><Down>"],
    "card": [
        "python nightcard.py<Return>",
        "<Return>",
        "<Down><space><Down><Down><Down><space><Return>",
        "2031-04-17<Return>12<Return>90s<Return>y<Return>",
        "wick<Return>",
        "i",
    ],
    "guide": ["wesperon demo dome<Return>", "y<Return>n<Return>", "<Down>"],
    "console": [
        "wesperon demo desk<Return>",
        "slew HOLLIN-051<Return>",
        "wnd<Return>",
        "jobs<Return>",
        "slew HOLLIN-0<Tab>",
    ],
    "plain": [
        "WESPERON_PLAIN=1 wesperon demo --target HOLLIN-051<Return>",
        "1,4-5<Return>",
        "5m<Return>",
        "300<Return>",
        "first light<Return>",
    ],
    "help": ["cd {programs}; clear<Return>", "python expose.py --help<Return>"],
    "commands": [
        "wesperon demo queue<Return>",
        "printf '90s\\n2m30s\\n1h\\n' | wesperon demo sum<Return>",
        "wesperon demo targets show HOLLIN-051<Return>",
        "wesperon demo instruments cameras --as json<Return>",
    ],
    "preferences": [
        "COLORTERM=truecolor wesperon demo desk<Return>",
        "preferences<Return>",
        "<Down><Down><Right>",
    ],
    "themes": ["COLORTERM=truecolor wesperon theme dark<Return>"],
    "visual": [
        "WESPERON_KEYS=modal python nightscript.py<Return>",
        "[HOLLIN-051]<Return>seconds = 90<Return>frames = 4<Return>guided = true<Escape>",
        "kkwvjb",
    ],
    "work": ["clear; python nightstack.py<Return>", 6.6],
    "history": [
        "wesperon demo desk<Return>",
        "slew HOLLIN-051<Return>",
        "wind<Return>",
        "expose HOLLIN-051<Return>",
        "park<Return>",
        "history<Return>",
        "<Up><Tab><Up><Up><Tab>",
    ],
    "screen": ["clear; python exposure.py<Return>", "<Tab><space>"],
    "skydesk": ["clear; python skydesk.py<Return>", 9.5],
    "compare": ["clear; python compare.py data/before data/after<Return>", "<Down><Down><Down>"],
    "pager": ["python nightlog.py<Return>", "/gusts<Return>", "nn"],
    "file": [
        "wesperon demo desk<Return>",
        "run data/faulty.desk HOLLIN-051<Return>",
    ],
}

SHELL = """
PS1='$ '
PATH={bin}:$PATH
export XDG_STATE_HOME={folder}/state XDG_CONFIG_HOME={folder}/config
cd {examples}
unset PROMPT_COMMAND HISTFILE
"""


class Window:
    """A terminal window on a screen of its own."""

    def __init__(self) -> None:
        self.folder = tempfile.mkdtemp()
        self.programs = Path(self.folder) / "programs"
        self.programs.mkdir()
        for block in (ROOT / "README.md").read_text().split("```python\n# ")[1:]:
            name, _, text = block.partition("\n")
            (self.programs / name).write_text(text.partition("```")[0])
        start = Path(self.folder) / "start"
        start.write_text(SHELL.format(folder=self.folder, bin=Path(sys.executable).parent, examples=ROOT / "examples"))
        read_end, write_end = os.pipe()
        screen = f"{WIDTH}x{HEIGHT}x24"
        self.server = subprocess.Popen(
            ["Xvfb", "-displayfd", str(write_end), "-screen", "0", screen, "-nolisten", "tcp"],
            pass_fds=[write_end],
            stderr=subprocess.DEVNULL,
        )
        os.close(write_end)
        with os.fdopen(read_end) as told:
            self.display = f":{told.readline().strip()}"
        self.env = {**os.environ, "DISPLAY": self.display, "LC_ALL": "C.UTF-8"}
        self.xterm = subprocess.Popen(
            [
                "xterm",
                "-fa",
                "DejaVu Sans Mono",
                "-fs",
                "15",
                "-geometry",
                "97x31+0+0",
                "-b",
                "12",
                "+sb",
                "-bg",
                GROUND,
                "-fg",
                "#d8dee4",
                "-e",
                "bash",
                "--noprofile",
                "--rcfile",
                str(start),
                "-i",
            ],
            env=self.env,
            stderr=subprocess.DEVNULL,
        )
        self.run("xdotool", "search", "--sync", "--class", "xterm")
        self.settle()

    def run(self, *argv: str) -> None:
        """Run a program against the screen."""
        subprocess.run(argv, env=self.env, check=True, stdout=subprocess.DEVNULL, timeout=DEADLINE)

    def type(self, text: str) -> None:
        """Type a text with keys between angle brackets."""
        rest = text
        while rest:
            before, opened, rest = rest.partition("<")
            if before:
                self.run("xdotool", "type", "--delay", "5", before)
            if opened:
                key, _, rest = rest.partition(">")
                self.run("xdotool", "key", "--delay", "5", key)

    def picture(self) -> bytes:
        """Return the screen as PNG."""
        done = subprocess.run(
            ["import", "-window", "root", "-strip", "png:-"], env=self.env, check=True, capture_output=True
        )
        return done.stdout

    def settle(self) -> bytes:
        """Wait until the screen stays as it is; its picture."""
        end = time.monotonic() + DEADLINE
        last, same = b"", 0
        while time.monotonic() < end:
            now = self.picture()
            same = same + 1 if now == last else 0
            if same >= 2:
                return now
            last = now
            time.sleep(0.25)
        raise TimeoutError("the screen never came to rest")

    def close(self) -> None:
        """Close the window and its screen."""
        for process in (self.xterm, self.server):
            process.terminate()
            process.wait()
        shutil.rmtree(self.folder)


def cropped(picture: bytes) -> bytes:
    """Return the picture without what is empty at its right and below, but for a margin."""
    edges = [
        "-shave",
        "2x2",
        "-bordercolor",
        GROUND,
        "-border",
        "1",
        "-trim",
        "+repage",
        "-border",
        str(MARGIN),
        "png:-",
    ]
    done = subprocess.run(["convert", "png:-", *edges], input=picture, capture_output=True, check=True)
    return done.stdout


def take(name: str, steps: Sequence[str | float], folder: Path) -> None:
    """Take one picture in a new window; a number is seconds to wait, of what never comes to rest."""
    window = Window()
    try:
        picture = b""
        for number, step in enumerate(steps):
            if isinstance(step, str):
                window.type(step.replace("{programs}", str(window.programs)))
            else:
                time.sleep(step)
            waits = not isinstance(step, str) or not isinstance([*steps, ""][number + 1], str)
            picture = window.picture() if waits else window.settle()
        folder.mkdir(parents=True, exist_ok=True)
        (folder / f"{name}.png").write_bytes(cropped(picture))
        print(folder / f"{name}.png")
    finally:
        window.close()


def main(words: list[str]) -> int:
    """Take the pictures that the words name; all of them if none is named."""
    lacking = [name for name in NEEDED if shutil.which(name) is None]
    if lacking:
        print(f"not installed: {', '.join(lacking)}", file=sys.stderr)
        return 1
    folder = FOLDER
    if words[:1] == ["--to"]:
        folder, words = Path(words[1]), words[2:]
    if words[:1] == ["--typed"]:
        take(words[1], words[2:], folder)
        return 0
    unknown = [name for name in words if name not in PICTURES]
    if unknown:
        print(f"no such picture: {', '.join(unknown)}; there are {', '.join(PICTURES)}", file=sys.stderr)
        return 2
    for name in words or PICTURES:
        take(name, PICTURES[name], folder)
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
