"""What a program costs, in every way of starting it: instructions of whole processes, beside the raw program.

``python benchmarks/ways.py [PART OF A NAME ...]`` measures all, or those whose name has one of the parts. Each program
is run as valgrind's callgrind counts it, which is the same on every run: a question until the first write that has
its label, every other program to its end. The floor beside each figure is the raw program after as many empty modules
as the run on Wesperon loads: what no library of so many files can do without.
"""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import NamedTuple

import ptyprocess
from first_question import UNTIL_FRAME

HERE = Path(__file__).parent
SOURCE = HERE.parent / "src" / "wesperon"

THREE = """
from wesperon import fill, slot
frames, seconds, gap = fill(frames=slot(int), seconds=slot(int), gap=slot(int))
print(frames * (seconds + gap) - gap)
"""
RAW_THREE = """
import sys
frames, seconds, gap = int(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3])
print(frames * (seconds + gap) - gap)
"""
FUNCTION = '''
from wesperon import run

def plan(frames: int, seconds: int, gap: int) -> int:
    """Say how long a series of exposures takes."""
    return frames * (seconds + gap) - gap

run(plan)
'''
ONE = '''
from wesperon import Command, Program, slot

class Light(Command):
    """Light a lamp."""
    frames = slot(int)
    seconds = slot(int)
    def run(self):
        print(self.frames * self.seconds)

raise SystemExit(Program("desk", members=[Light]).main())
'''
ONE_FUNCTION = '''
from wesperon import Program

def light(frames: int, seconds: int) -> int:
    """Light a lamp."""
    return frames * seconds

raise SystemExit(Program("desk", members=[light]).main())
'''
RAW_ONE = """
import sys
if sys.argv[1] == "light":
    frames, seconds = int(sys.argv[2]), int(sys.argv[3])
    print(frames * seconds)
"""
HUNDRED = "from wesperon import Program\nraise SystemExit(Program('desk', members=[{}]).main())\n".format(
    ", ".join(f"('part{at // 5}:Command{at}', 'The {at}th.')" for at in range(100))
)
PART = '''
from wesperon import Command, slot
class Command{0}(Command):
    """The {0}th."""
    frames = slot(int)
    seconds = slot(int)
    def run(self):
        print(self.frames * self.seconds)
'''
RAW_HUNDRED = "import sys\n" + "".join(
    f"{'if' if at == 0 else 'elif'} sys.argv[1] == 'command{at}':\n    print(int(sys.argv[2]) * int(sys.argv[3]))\n"
    for at in range(100)
)
QUESTION = "from wesperon import fill, slot\nfill(target=slot(ask='Target'))\n"
MENU = "from wesperon import fill, one_of, slot\nfill(target=slot(one_of(['wide', 'b', 'c']), 'Target'))\n"
CARD = "from wesperon import fill, slot\nfill(target=slot(ask='Target'), frames=slot(int), when=slot(float))\n"
CONSOLE = ONE.replace("Command, Program", "Command, Console, Program").replace(
    'raise SystemExit(Program("desk", members=[Light]).main())', 'Console(Program("Target", members=[Light])).run()'
)
INPUT = "input('Target ')\n"
NOTHING = "pass\n"
PREFERENCES = 'theme = "dark"\nkeys = "modeless"\n\n[bindings]\n"ctrl-t" = "undo"\n'


class Way(NamedTuple):
    """A way of starting a program: what it is compared with, its words, and what is around it.

    ``is_asked``: it is run in a terminal, until its first frame. ``budget`` is how many times the raw program it may
    cost; None if there is none. ``files`` are written to the folder of the user (``config/``, ``state/``) or beside it.
    """

    ours: str
    raw: str
    words: tuple[str, ...] = ()
    budget: float | None = None
    is_asked: bool = False
    status: int = 0
    environ: tuple[tuple[str, str], ...] = ()
    files: tuple[tuple[str, str], ...] = ()


NEVER = (("WESPERON_ASKING", "never"),)
ASKED_BY_BASH = (("WESPERON_CANDIDATES", "bash"), ("COMP_LINE", "desk l"), ("COMP_POINT", "6"))
PREFERRED = (("config/wesperon/preferences.toml", PREFERENCES),)
REMEMBERED = (("state/Target/history.txt", "HISTORY"),)
PARTS = tuple((f"part{file}.py", "".join(PART.format(5 * file + number) for number in range(5))) for file in range(20))
WAYS: dict[str, Way] = {
    "a script of three numbers": Way(THREE, RAW_THREE, ("4", "90", "5"), 1.20),
    "the same, asking nothing": Way(THREE, RAW_THREE, ("4", "90", "5"), 1.20, environ=NEVER),
    "a function that returns": Way(FUNCTION, RAW_THREE, ("4", "90", "5"), 1.23),
    "a function that returns, asking nothing": Way(FUNCTION, RAW_THREE, ("4", "90", "5"), 1.23, environ=NEVER),
    "a program of one command": Way(ONE, RAW_ONE, ("light", "3", "4"), 1.4),
    "a program of one function": Way(ONE_FUNCTION, RAW_ONE, ("light", "3", "4"), 1.4),
    "a program of a hundred commands": Way(HUNDRED, RAW_HUNDRED, ("command50", "3", "4"), files=PARTS),
    "a wrong word": Way(THREE, RAW_THREE, ("4", "9o", "5"), status=2),
    "help": Way(THREE, RAW_THREE, ("--help",)),
    "completion": Way(ONE, NOTHING, environ=ASKED_BY_BASH),
    "a question": Way(QUESTION, INPUT, budget=2.2, is_asked=True),
    "a question, with preferences": Way(QUESTION, INPUT, budget=2.4, is_asked=True, files=PREFERRED),
    "a menu": Way(MENU, INPUT, is_asked=True),
    "a card of three": Way(CARD, INPUT, is_asked=True),
    "a console's first line": Way(CONSOLE, INPUT, budget=3.3, is_asked=True, files=REMEMBERED),
}  # fmt: skip
COUNTED = re.compile(r"(?m)^(?:summary|totals): (\d+)")
HISTORY_ENTRIES = 100_000


def history() -> str:
    """Return a history file of many entries, as the history itself writes them."""
    from wesperon.history.history_file import History

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "history.txt"
        kept = History(str(path))
        for number in range(HISTORY_ENTRIES):
            kept.add(f"light {number % 977} {number % 31}")
        return path.read_text(encoding="utf-8")


def run(command: list[str], program: str, way: Way, folder: Path) -> str:
    """Run a program in the surroundings of a way. Return what it printed."""
    (folder / "program.py").write_text(program, encoding="utf-8")
    kept = {name: text for name, text in os.environ.items() if not name.startswith(("WESPERON_", "PYTHON", "XDG_"))}
    environ = {
        **kept,
        "PYTHONHASHSEED": "0",
        "PYTHONPATH": str(SOURCE.parent),
        "XDG_CONFIG_HOME": str(folder / "config"),
        "XDG_STATE_HOME": str(folder / "state"),
        **dict(way.environ),
    }
    if not way.is_asked:
        done = subprocess.run(command, capture_output=True, text=True, env=environ)
        assert done.returncode == way.status or way.ours not in program, done.stderr
        return done.stderr
    child = ptyprocess.PtyProcess.spawn(command, env=environ)
    child.write(b"x\r")
    said = b""
    try:
        while True:
            said += os.read(child.fd, 1 << 16)
    except OSError:  # it has ended
        child.wait()
    return said.decode(errors="replace")


def counted(program: str, way: Way, folder: Path) -> int:
    """Return how many instructions a program takes."""
    out = folder / "counted"
    counter = ["valgrind", "--tool=callgrind", f"--callgrind-out-file={out}"]
    run([*counter, sys.executable, str(folder / "program.py"), *way.words], program, way, folder)
    found = COUNTED.search(out.read_text())
    assert found is not None
    return int(found[1])


def hollow(raw: str, program: str, way: Way, folder: Path) -> str:
    """Return the raw program after the import of as many empty modules as the program loads of the package."""
    said = run([sys.executable, "-X", "importtime", str(folder / "program.py"), *way.words], program, way, folder)
    names = [name for name in re.findall(r"\| +(wesperon[.\w]*)", said) if name != "wesperon.argv"]
    for name in names:
        place = folder.joinpath("hollow", *name.split(".")[1:])
        path = place / "__init__.py" if SOURCE.joinpath(*name.split(".")[1:]).is_dir() else place.with_suffix(".py")
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text("", encoding="utf-8")
    for place in [folder / "hollow", *(folder / "hollow").rglob("*/")]:
        (place / "__init__.py").touch()
    subprocess.run([sys.executable, "-m", "compileall", "-q", str(folder / "hollow")], check=True)
    return "".join(f"import {name.replace('wesperon', 'hollow', 1)}\n" for name in names) + raw


def measure(name: str, way: Way) -> bool:
    """Measure one way and print it. Return False if it is over its budget."""
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place)
        for path, text in way.files:
            (folder / path).parent.mkdir(parents=True, exist_ok=True)
            (folder / path).write_text(history() if text == "HISTORY" else text, encoding="utf-8")
        if way.files and not way.is_asked:
            subprocess.run([sys.executable, "-m", "compileall", "-q", place], check=True)
        ours = (UNTIL_FRAME if way.is_asked else "") + way.ours
        counted(ours, way, folder)  # compiles what has changed
        cost, raw = counted(ours, way, folder), counted(way.raw, way, folder)
        floor = counted(hollow(way.raw, ours, way, folder), way, folder)
    is_within = way.budget is None or cost / raw <= way.budget
    verdict = "" if way.budget is None else f"; {'within' if is_within else 'OVER'} {way.budget}"
    millions = f"{cost / 1e6:.1f} to {raw / 1e6:.1f} million"
    print(f"{name}: {cost / raw:.3f} times ({millions}), floor {floor / raw:.3f}{verdict}", flush=True)
    return is_within


def main() -> int:
    """Measure the ways; the status is 1 if one is over its budget."""
    if shutil.which("valgrind") is None:
        print("not counted: valgrind is not installed")
        return 0
    wanted = [name for name in WAYS if not sys.argv[1:] or any(part in name for part in sys.argv[1:])]
    return max([0] + [1 - measure(name, WAYS[name]) for name in wanted])


if __name__ == "__main__":
    raise SystemExit(main())
