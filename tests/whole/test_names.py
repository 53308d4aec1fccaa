"""Names in prose: what docstrings, comments and pages name of this tree is there."""

from __future__ import annotations

import ast
import importlib
import re
from pathlib import Path

from tests.harness import ROOT

SOURCE, TESTS = ROOT / "src" / "wesperon", ROOT / "tests"
TOPS = {path.stem for path in SOURCE.iterdir() if path.suffix == ".py" or (path / "__init__.py").exists()}
PAGES = [
    *SOURCE.rglob("*.py"),
    *TESTS.rglob("test_*.py"),
    *(ROOT / "docs").glob("*.md"),
    ROOT / "CONTRIBUTING.md",
    ROOT / "README.md",
]
#: A module with so many lines has a test module that names it.
LARGE = 100
#: Words that mean one thing in names of functions (CONTRIBUTING, Words), each with the only folder of such names.
MEANINGS = {"take": "terminal", "lend": "terminal", "walk": "guides"}
#: In these pages, names of the reader's own that look like ours.
OWN = {"history.txt", "console.say", "console.listen", "values.site", "wesperon/"}
DOTTED = re.compile(r"`(?:wesperon\.)?([a-z_]+(?:\.(?!py`)[A-Za-z_]+)+)(?:\(\))?`")
FILED = re.compile(r"`([a-z_]+(?:/[a-z_-]+)*(?:\.py|/))`")


def is_there(name: str) -> bool:
    """Whether a dotted name leads to a module, or to something in one; what only type checkers see is there, too."""
    parts = name.split(".")
    for at in range(len(parts), 0, -1):
        try:
            one = importlib.import_module(".".join(["wesperon", *parts[:at]]))
        except ImportError:
            continue
        text = Path(str(one.__file__)).read_text()
        return all(
            hasattr(one, part) or re.search(rf"^ +class {part}\b|^{part} = ", text, re.M) for part in parts[at : at + 1]
        )
    return False


def test_every_name_in_prose_is_there() -> None:
    lost = []
    for page in PAGES:
        text = page.read_text()
        lost += [
            (page.name, name) for name in DOTTED.findall(text) if name.split(".")[0] in TOPS and not is_there(name)
        ]
        for name in FILED.findall(text):
            if not any((base / name).exists() for base in (ROOT, SOURCE)) and not [*ROOT.glob(f"[!.]*/**/{name}")]:
                lost.append((page.name, name))
    assert [one for one in lost if one[1] not in OWN] == []


def test_whoever_changes_a_module_finds_its_tests() -> None:
    named: set[str] = set()
    for path in TESTS.rglob("test_*.py"):
        said = (ast.get_docstring(ast.parse(path.read_text())) or "").partition("Modules: ")[2]
        named.update(re.findall(r"``([a-z0-9_.]+)``", said))
    large = {
        ".".join(path.relative_to(SOURCE).with_suffix("").parts).removesuffix(".__init__")
        for path in SOURCE.rglob("*.py")
        if path.read_text().count("\n") >= LARGE
    }
    assert large - named == {"__init__"}
    assert sorted(name for name in named if not is_there(name)) == []


def test_a_word_in_the_names_of_functions_has_one_meaning() -> None:
    strayed = []
    for path in SOURCE.rglob("*.py"):
        folder = path.relative_to(SOURCE).parts[0]
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
                word = node.name.strip("_").split("_")[0]
                if MEANINGS.get(word, folder) != folder:
                    strayed.append((path.name, node.name))
    assert strayed == []
