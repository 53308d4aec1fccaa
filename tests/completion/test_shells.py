"""Completion: what is offered, and the three real shells that it is offered in."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.harness import ROOT, Terminal
from wesperon.completion.shells import SCRIPTS, script

DESK = '''#!{python}
import json
from pathlib import Path
from wesperon import *

NAMES = ["HOLLIN-051 Lantern Nebula", "HOLLIN:064", "it's \\"so\\"", "Übersee 日本", "plain"]

class Options(Form):
    site = slot(one_of(["ridge", "valley"]), default="ridge")

class Add(Command):
    """Add a target."""
    target = slot(one_of(NAMES, note=lambda name: "a target", disabled=lambda name: "no" if name == "plain" else ""))
    filters = slot(any_of(["Red", "Blue", "H,a"]), default=())
    file = slot(default="", suggest=lambda: ["one two", "three"])
    path = slot(Path, default=None, exists="folder")
    guided = slot(bool, default=False)
    def run(self):
        print("GOT", json.dumps([self.target, list(self.filters), self.file, self.shared.site, self.guided]))

class Audit(Command):
    """Look at all."""

TARGETS = CommandGroup("targets", "The catalogue.", [Add])
raise SystemExit(Program("desk", members=[TARGETS, Audit], shared=Options).main())
'''


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder with the program in it, on the path of the shells."""
    made = tmp_path_factory.mktemp("desk")
    (made / "desk").write_text(DESK.format(python=sys.executable))
    (made / "desk").chmod(0o755)
    (made / "plans" / "old").mkdir(parents=True)
    (made / "plans" / "to night.toml").write_text("")
    for shell in SCRIPTS:
        (made / f"complete.{shell}").write_text(script(shell, "desk") + "\n")
    return made


def offered(folder: Path, *words: str) -> list[str]:
    env = {**os.environ, "WESPERON_CANDIDATES": "zsh", "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [folder / "desk", "--", *words], capture_output=True, text=True, env=env, check=True, cwd=folder
    )
    return [line.partition("\t")[0] for line in done.stdout.splitlines()]


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ([""], ["targets", "audit"]),
        (["TA"], ["targets"]),
        (["targets", ""], ["add"]),
        (["--site", ""], ["ridge", "valley"]),
        (["--site=v"], ["--site=valley"]),
        (["targets", "add", "HOLLIN"], ["HOLLIN-051 Lantern Nebula", "HOLLIN:064"]),
        (["targets", "add", "pl"], []),
        (["targets", "add", "--target", "hollin-"], ["HOLLIN-051 Lantern Nebula"]),
        (["targets", "add", "--g"], ["--guided"]),
        (["targets", "add", "--guided", "--g"], []),
        (["targets", "add", "--target=HOLLIN:064", "--ta"], []),
        (["targets", "add", "x", "R"], ["Red"]),
        (["targets", "add", "x", "Red,"], ["Red,Blue", "Red,H\\,a"]),
        (["targets", "add", "x", "Red", "t"], ["three"]),
        (["targets", "add", "--", "HOLLIN:"], ["HOLLIN:064"]),
        (["--asking", "n"], ["never"]),
        (["targets", "add", "--path", "pl"], ["plans/"]),
        (["targets", "add", "--path=plans/"], ["--path=plans/old/"]),
        (["--answers", "plans/"], ["plans/old/", "plans/to night.toml"]),
        (["targets", "add", "--vers"], ["--version"]),
        (["nothing", "x"], []),
    ],
)
def test_what_can_still_be_given_is_offered(words: list[str], found: list[str], folder: Path) -> None:
    assert offered(folder, *words) == found


@pytest.fixture(scope="module", params=["bash", "zsh", "fish"])
def shell(request: pytest.FixtureRequest, folder: Path) -> Iterator[Terminal]:
    """A real shell that has loaded the script, waiting for a line."""
    name = request.param
    if shutil.which(name) is None:
        pytest.skip(f"{name} is not installed")
    argv = {"bash": ["bash", "--norc", "--noprofile"], "zsh": ["zsh", "-f"], "fish": ["fish", "--no-config"]}[name]
    env = {
        "PATH": f"{folder}:{os.environ['PATH']}", "PYTHONPATH": str(ROOT / "src"), "HOME": str(folder),
        "LC_ALL": "C.UTF-8", "PS1": "$ ", "fish_greeting": "", "PYTHONDONTWRITEBYTECODE": "",
    }  # fmt: skip
    with Terminal(argv, columns=150, rows=40, env=env) as terminal:
        terminal.type(f"cd {folder}\r")
        if name == "zsh":
            terminal.type("autoload -Uz compinit; compinit -u -d ./dump; PS1='$ '\r")
        terminal.type(f"source ./complete.{name}; echo rea''dy\r")
        terminal.see("ready")
        terminal.wait(lambda: not terminal.read(0.3), "a quiet shell")
        yield terminal


CASES = [
    ("desk tar\tad\tHOLLIN-\t--g\t", ["HOLLIN-051 Lantern Nebula", [], "", "ridge", True]),
    ("desk targets add HOLLIN:\t", ["HOLLIN:064", [], "", "ridge", False]),
    ("desk targets add --target=HOLLIN-\t", ["HOLLIN-051 Lantern Nebula", [], "", "ridge", False]),
    ("desk targets add --target=HOLLIN:0\t", ["HOLLIN:064", [], "", "ridge", False]),
    ("desk targets add it\t", ['it\'s "so"', [], "", "ridge", False]),
    ("desk targets add Ü\t", ["Übersee 日本", [], "", "ridge", False]),
    ("desk targets add 'HOLLIN-\t", ["HOLLIN-051 Lantern Nebula", [], "", "ridge", False]),
    ("desk targets add HOLLIN:064 Red,B\t one\t", ["HOLLIN:064", ["Red", "Blue"], "one two", "ridge", False]),
    ("desk --answers pl\tto\ttargets add HOLLIN:064", ["HOLLIN:064", [], "", "ridge", False]),
    ("desk --site v\ttar\tadd HOLLIN:064", ["HOLLIN:064", [], "", "valley", False]),
]


@pytest.mark.parametrize(("keys", "got"), CASES, ids=[keys.replace("\t", "^") for keys, _ in CASES])
def test_a_real_shell_completes_the_line_and_the_program_gets_the_value(
    keys: str, got: list[object], shell: Terminal
) -> None:
    shell.type("clear\r")
    shell.wait(lambda: "GOT" not in shell.text() and not shell.read(0.1), "a clear screen")
    for part in keys.split("\t")[:-1] if keys.endswith("\t") else keys.split("\t"):
        shell.type(part)
        shell.wait(lambda: not shell.read(0.1), "the echo")
        shell.type("\t")
        shell.wait(lambda: not shell.read(0.35), "the completion")
    shell.type("\r")
    shell.wait(
        lambda: any(line.startswith("GOT") and line.endswith("]") for line in shell.lines()), "what the program got"
    )
    line = next(line for line in shell.lines() if line.startswith("GOT"))
    assert json.loads(line[4:]) == got


def test_the_tool_prints_the_script_and_says_where_it_goes() -> None:
    argv = [sys.executable, "-m", "wesperon", "completion", "bash", "night-desk"]
    done = subprocess.run(argv, capture_output=True, text=True, check=True)
    assert "goes to ~/.local/share/bash-completion/completions/night-desk" in done.stdout
    assert "complete -o nospace -F _complete_night_desk night-desk" in done.stdout
