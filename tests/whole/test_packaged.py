"""The library in a zip file, and where no module has a file: programs run the same, and speak the user's language."""

from __future__ import annotations

import os
import subprocess
import sys
import zipfile
from pathlib import Path

from tests.harness import ROOT
from tests.tables import tabled

MAIN = """
import sys
from wesperon import fill, slot
if sys.argv[1:2] == ["tool"]:
    from wesperon.tool.main import main
    sys.exit(main(sys.argv[2:]))
print(fill(frames=slot(int, low=3)).frames)
"""
#: Loads everything from memory, as a frozen program does: no module has a path, and no loader gives files.
FROZEN = """
import importlib.abc, importlib.machinery, pathlib, sys
root = pathlib.Path(sys.argv.pop(1))
class Memory(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    def find_spec(self, name, path=None, target=None):
        place = root.joinpath(*name.split("."))
        for file, is_package in ((place / "__init__.py", True), (place.with_suffix(".py"), False)):
            if name.partition(".")[0] == "wesperon" and file.exists():
                spec = importlib.machinery.ModuleSpec(name, self, is_package=is_package)
                spec.loader_state = file
                return spec
    def exec_module(self, module):
        exec(compile(module.__spec__.loader_state.read_text(), "<frozen>", "exec"), module.__dict__)
sys.meta_path.insert(0, Memory())
sys.path[:] = [place for place in sys.path if not (pathlib.Path(place) / "wesperon").exists()]
"""


def started(way: str, folder: Path) -> list[str]:
    """Return the words that start the program in one of the ways."""
    if way == "zip":
        path = folder / "program.pyz"
        with zipfile.ZipFile(path, "w") as archive:
            for file in (ROOT / "src" / "wesperon").rglob("*"):
                if file.is_file() and file.suffix != ".pyc":
                    archive.write(file, file.relative_to(ROOT / "src"))
            archive.writestr("__main__.py", MAIN)
        return [sys.executable, "-S", "-E", str(path)]
    (folder / "frozen.py").write_text(FROZEN + MAIN)
    return [sys.executable, str(folder / "frozen.py"), str(ROOT / "src")]


def run(words: list[str], language: str = "") -> subprocess.CompletedProcess[str]:
    """Return what a call prints."""
    environ = {name: value for name, value in os.environ.items() if not name.startswith("PYTHON")}
    environ |= {"LANGUAGE": "", "LC_ALL": language or "C.UTF-8", "WESPERON_ASKING": "never"}
    return subprocess.run(words, env=environ, capture_output=True, text=True, check=False, stdin=subprocess.DEVNULL)


@tabled
def test_a_program_without_files_of_its_own_says_what_is_wrong(way: str, said: str, tmp_path: Path) -> None:
    start = started(way, tmp_path)
    done = run([*start, "2"], "de_DE.UTF-8")
    assert (done.returncode, "Traceback" in done.stderr) == (2, False)
    assert said in done.stderr
    assert run([*start, "4"], "de_DE.UTF-8").stdout == "4\n"
    assert '"2" is too low' in run([*start, "2"]).stderr
    assert "--frames" in run([*start, "--help"], "de_DE.UTF-8").stdout


def test_the_demo_works_in_a_zip_file(tmp_path: Path) -> None:
    start = [*started("zip", tmp_path), "tool", "demo"]
    for words, said in ((["targets", "list"], "HOLLIN-"), (["dome", "--weather=no", "--wind=20"], "too much")):
        done = run([*start, *words])
        assert (done.returncode, done.stderr) == (0, "")
        assert said in done.stdout
