"""The guides do what they say: every step of the first one is run, and its output compared."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

import wesperon
import wesperon.testing
from scripts import reference_page, shown_outputs
from scripts.key_page import MODAL_PAGE, PAGE, modal_page, page
from tests.harness import HOMES, ROOT, Terminal, python
from wesperon import fill, one_of, slot
from wesperon.history.history_file import History
from wesperon.testing import Session

GUIDE = ROOT / "docs" / "guide-raw-words.md"


def blocks(page: Path) -> list[tuple[str, str]]:
    """Return the language and the text of each block of code, in order."""
    parts = page.read_text().split("```")[1::2]
    return [(part.partition("\n")[0], part.partition("\n")[2]) for part in parts]


@pytest.mark.parametrize("page", [page for page in shown_outputs.PAGES if "```console" in page.read_text()], ids=str)
def test_what_a_page_shows_is_what_its_commands_print(page: Path) -> None:
    text = page.read_text()
    assert text == shown_outputs.renewed(text)


def test_the_first_guide_shows_many_of_them() -> None:
    assert GUIDE.read_text().count("\n$ ") > 15


def test_the_plain_lines_of_the_guide_are_what_a_terminal_shows() -> None:
    shown = next(text for language, text in blocks(ROOT / "docs" / "guide-asking.md") if language == "text")
    notes = {"Lantern Nebula": "at 55 degrees", "Thimble Group": "at 12 degrees"}
    asked = {"target": slot(one_of([*notes], note=notes), "Target"), "frames": slot(int, "Frames")}
    with Session(lambda: fill([], **asked), environment={"WESPERON_PLAIN": "1"}) as session:
        for answer in re.findall(r"^\w+ \(.*\): (.*)$", shown, re.M):
            session.type(answer).press("enter")
        assert session.screen.rstrip("\n") == shown.rstrip("\n")


def test_the_history_of_the_guide_is_one_that_is_read(tmp_path: Path) -> None:
    shown = next(text for language, text in blocks(ROOT / "docs" / "guide-editing.md") if text.startswith("# wesperon"))
    (tmp_path / "history.txt").write_text(shown)
    found = History(str(tmp_path / "history.txt")).older(None, "", begins=True, seen=())
    assert found is not None
    assert found.text == "expose HOLLIN-051 90"


def test_the_page_of_keys_is_that_of_the_tables() -> None:
    assert PAGE.read_text() == page()
    assert MODAL_PAGE.read_text() == modal_page()


@pytest.mark.parametrize("name", ["guide-editing.md", "guide-asking.md", "guide-commands.md", "guide-testing.md"])
def test_the_programs_of_a_guide_run(name: str, tmp_path: Path) -> None:
    programs = [text for language, text in blocks(ROOT / "docs" / name) if language == "python" and "import" in text]
    assert programs
    for number, text in enumerate(programs):
        program = tmp_path / f"{number}.py"
        program.write_text(text)
        environment = {**os.environ, **HOMES, "PYTHONPATH": str(ROOT)}
        done = subprocess.run(
            [sys.executable, "-c", f"import os; os.setsid(); exec(open({str(program)!r}).read())", "--help"],
            capture_output=True, text=True, env=environment, stdin=subprocess.DEVNULL,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr


def test_the_reference_is_that_of_the_code_and_names_every_name() -> None:
    """Every public name, its members but for those that are inner, its keywords; every variable that is read."""
    page = reference_page.PAGE.read_text()
    assert page == reference_page.page()
    named = set(re.findall(r"\w+", " ".join(re.findall("`[^`\n]+`", page))))
    for module in (wesperon, wesperon.testing):
        for name in module.__all__:
            bases = [base for base in getattr(getattr(module, name), "__mro__", ()) if "wesperon" in base.__module__]
            inner = {member for base in bases for member in reference_page.INNER.get(base.__name__, "").split()}
            own = set() if "*" in inner else {member for base in bases for member in vars(base) if member[0] != "_"}
            assert {name, *own} - inner <= named, (name, own - inner - named)
    source = "\n".join(path.read_text() for path in (ROOT / "src").rglob("*.py"))
    known = {name for names in reference_page.VARIABLES for name in names.split(", ")}
    assert set(re.findall(r"WESPERON_[A-Z_]+[A-Z]", source)) <= known
    read = set(re.findall(r"""environ(?:\.get\(|\[)"([A-Z_]+)\"""", source))
    assert read <= {*known, "HOME", "TMUX", "XTERM_VERSION", "STY", "PATH"}, read - known


@pytest.mark.parametrize("page", sorted((ROOT / "docs").glob("*.md")), ids=lambda page: page.name)
def test_a_page_begins_with_what_it_is_for_and_its_tables_are_whole(page: Path) -> None:
    _, _, first = page.read_text().split("\n")[:3]
    assert first[0].isupper() or first[0] == "`", "a sentence, before any code or heading"
    for table in re.findall(r"(?:^\|.*\n)+", page.read_text(), re.M):
        counts = {len(re.findall(r"(?<!\\)\|", row)) for row in table.strip().split("\n")}
        assert len(counts) == 1, table[:200]
        assert all(re.sub("``.*?``", "", row).count("`") % 2 == 0 for row in table.split("\n"))


def test_the_way_of_a_word_is_as_it_is_drawn() -> None:
    done = subprocess.run([sys.executable, "-m", "scripts.way_of_a_word", "--check"], cwd=ROOT, capture_output=True)
    assert done.returncode == 0, "python -m scripts.way_of_a_word draws it again"


def test_every_test_that_the_page_on_posix_names_exists() -> None:
    page = (ROOT / "docs" / "posix.md").read_text()
    tests = "\n".join(path.read_text() for path in (ROOT / "tests").rglob("test_*.py"))
    named = {word.strip("`:") for word in page.replace(",", " ").split() if "test_" in word}
    assert len(named) > 5
    for name in named:
        assert f"def {name}(" in tests or (ROOT / "tests" / name).exists(), name


PAGES = sorted([ROOT / "README.md", *(ROOT / "docs").glob("*.md")])
PROGRAMS = [
    (f"{page.name}:{number}", text)
    for page in PAGES
    for number, (language, text) in enumerate(blocks(page))
    if language == "python" and "from wesperon" in text
] + [(path.name, path.read_text()) for path in sorted((ROOT / "examples").glob("*.py"))]


@pytest.mark.parametrize(("name", "text"), PROGRAMS, ids=[name for name, _ in PROGRAMS])
def test_no_program_of_the_docs_ends_in_a_trace(name: str, text: str, tmp_path: Path) -> None:
    """With words that fit nothing, at a terminal that is left, with a pipe, and with nobody there."""
    program = tmp_path / "program.py"
    program.write_text(text)
    place = ROOT / "examples" if name.endswith(".py") else tmp_path
    environment = {**os.environ, **HOMES, "PYTHONPATH": str(ROOT), "XDG_STATE_HOME": str(tmp_path)}
    alone = f"import os, sys; os.setsid(); os.execv(sys.executable, [sys.executable, {str(program)!r}, *sys.argv[1:]])"
    for words, given in ((["x", "--nothing=1", "y", "z"], ""), ([], "1\nx\n\n"), ([], "")):
        done = subprocess.run(
            [sys.executable, "-c", alone, *words], input=given, capture_output=True, text=True, env=environment,
            cwd=place, timeout=60,
        )  # fmt: skip
        assert "Traceback" not in done.stderr, (words, given)
    with Terminal(python(str(program)), env={"XDG_STATE_HOME": str(tmp_path), "PYTHONPATH": str(ROOT)}) as terminal:
        terminal.wait(lambda: terminal.is_closed or terminal.is_raw(), "a question or the end")
        for key in ("\x03", "\x04"):
            if not terminal.is_closed:
                terminal.wait(lambda: terminal.is_closed or not terminal.read(0.1), "a key, or the end")
                terminal.type(key)
        terminal.wait(lambda: terminal.is_closed, "the end")
        assert "Traceback" not in terminal.everything()


def test_the_page_of_short_answers_has_sixty_of_them_and_their_code_is_right() -> None:
    import ast

    import wesperon.kinds

    rows = [row for row in (ROOT / "docs" / "how-do-i.md").read_text().split("\n") if row.startswith("| ")]
    answers = [row for row in rows if not row.startswith(("| How do I", "| ---"))]
    assert len(answers) >= 60
    known = {*wesperon.__all__, *wesperon.kinds.__all__, "form", "console", "slot"}
    for row in answers:
        for code in re.findall(r"`([a-zA-Z_.]+\(.*?\)|await [^`]*|raise [^`]*)`", row):
            tree = ast.parse(code.replace("...", "None") if "..." in code and "[...]" not in code else code)
            for call in (
                node for node in ast.walk(tree) if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
            ):
                assert call.func.id in {*known, "load", "print", "run", "check", "Session", "Scripted"}, code  # type: ignore[attr-defined]
    linked = set(re.findall(r"\]\(([a-z-]+\.md)", "\n".join(rows)))
    assert all((ROOT / "docs" / name).exists() for name in linked)
