"""Completion: what is offered, and the three real shells that it is offered in.

Modules: ``completion.shells``.
"""

from __future__ import annotations

import inspect
import json
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest

import wesperon
from tests.harness import ROOT, Terminal
from tests.tables import tabled
from wesperon.completion.shells import SHELLS, script

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
    what = slot(one_of(["What?", "W*", "[x]", "$HOME", "a~b"]), default=None)
    path = slot(Path, default=None)
    def run(self):
        print("GOT", json.dumps([self.what, str(self.path), "", "", False]))

TARGETS = CommandGroup("targets", "The catalogue.", [Add])
raise SystemExit(Program("desk", members=[TARGETS, Audit], shared=Options).main())
'''


LOOKOUT = """#!{python}
from wesperon import Form, slot

class Look(Form):
    target = slot()

Look.fill()
open("canary", "w").close()
"""


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Return a folder with the program in it, on the path of the shells."""
    made = tmp_path_factory.mktemp("desk")
    (made / "desk").write_text(DESK.format(python=sys.executable))
    (made / "desk").chmod(0o755)
    (made / "plans" / "old").mkdir(parents=True)
    (made / "Desk top").mkdir()
    (made / "Desk top" / "inside").mkdir()
    (made / "What1").write_text("")
    (made / "plans" / "to night.toml").write_text("")
    (made / "lookout").write_text(LOOKOUT.format(python=sys.executable))
    (made / "lookout").chmod(0o755)
    for shell in SHELLS:
        (made / f"complete.{shell}").write_text(script(shell, "desk") + "\n" + script(shell, "lookout") + "\n")
    return made


def offered(folder: Path, *words: str) -> list[str]:
    env = {**os.environ, "WESPERON_CANDIDATES": "zsh", "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [folder / "desk", "--", *words], capture_output=True, text=True, env=env, check=True, cwd=folder
    )
    return [line.partition("\t")[0] for line in done.stdout.splitlines()]


@tabled
def test_what_can_still_be_given_is_offered(words: list[str], found: list[str], folder: Path) -> None:
    assert offered(folder, *words) == found


@pytest.fixture(scope="module", params=["bash", "zsh", "fish"])
def shell(request: pytest.FixtureRequest, folder: Path) -> Iterator[Terminal]:
    """Yield a real shell that has loaded the script, waiting for a line."""
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
    ('desk audit "Wh\t', ["What?", "None", "", "", False]),
    ("desk audit 'Wh\t", ["What?", "None", "", "", False]),
    ("desk audit Wh\t", ["What?", "None", "", "", False]),
    ("desk audit a~\t", ["a~b", "None", "", "", False]),
    ("desk audit --path ~/De\tins\t", [None, "HOME/Desk top/inside", "", "", False]),
]


@pytest.mark.parametrize(("keys", "got"), CASES, ids=[keys.replace("\t", "^") for keys, _ in CASES])
def test_a_real_shell_completes_the_line_and_the_program_gets_the_value(
    keys: str, got: list[object], shell: Terminal, folder: Path
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
    assert json.loads(line[4:]) == [one.replace("HOME", str(folder)) if isinstance(one, str) else one for one in got]


def test_the_tool_prints_the_script_and_says_where_it_goes() -> None:
    argv = [sys.executable, "-m", "wesperon", "completion", "bash", "night-desk"]
    done = subprocess.run(argv, capture_output=True, text=True, check=True)
    assert "goes to ~/.local/share/bash-completion/completions/night-desk" in done.stdout
    assert "complete -o nospace -F _complete_night_desk night-desk" in done.stdout


#: Those of them that have nothing to offer: what they read is not the line of the shell.
SILENT = ("split", "Console", "a program", "a guide", "a form that", "a question")
#: Each way in which a program may read its words; what comes after it must not run while a shell asks.
ENTRANCES = {
    "Form.fill": "Exposure.fill()",
    "Form.fill, with the words of the process": "Exposure.fill(sys.argv[1:])",
    "Form.fill_async": "asyncio.run(Exposure.fill_async())",
    "fill with a form": "fill(Exposure)",
    "fill with slots": "fill(target=slot(), seconds=slot(float))",
    "Program.main": "Program('desk', default_command=Expose).main() or sys.exit()",
    "Program.main, with these words": "sys.exit(Program('desk', default_command=Expose).main(sys.argv[1:]))",
    "Program.call": "Program('desk', members=[], default_command=Expose).call(sys.argv[1:])",
    "Program.call_async": "asyncio.run(Program('desk', default_command=Expose).call_async(sys.argv[1:]))",
    "run": "run(expose)",
    "Guide.walk": "Guide('guide.toml').walk()",
    "split": "split()",
    "split, with the words of the process": "split(sys.argv[1:])",
    "Console.run": "Console(Program('desk', members=[Expose])).run()",
    "Console.run_async": "asyncio.run(Console(Program('desk', members=[Expose])).run_async())",
    "Console.run_file": "Console(Program('desk', members=[Expose])).run_file('desk.commands')",
    "Console.run_file_async": "asyncio.run(Console(Program('desk', members=[Expose])).run_file_async('desk.commands'))",
    "a form with other words before": "Exposure.fill(['Lantern', '3'])\nExposure.fill()",
    "a program with other words before": "Program('desk', default_command=Expose).main(['Lantern', '3'])",
    "a program with other words, called": "Program('desk', default_command=Expose).call(['Lantern', '3'])",
    "a guide with other words": "Guide('guide.toml').walk(['--seconds=3'])",
    "a form that lacks something": "Exposure.fill([])",
    "an error that is caught": "try:\n    Exposure.fill()\nexcept BaseException:\n    pass",
    "a question of the program's own": "input('Well? ')\nExposure.fill()",
    "two forms": "Exposure.fill(); Exposure.fill()",
}
ENTRANCE = """
import asyncio, subprocess, sys
print("before")
from wesperon import Command, Console, Form, Guide, Program, fill, run, slot, split
print("candidate?")
print("candidate?", file=sys.stderr)
CHILD = "from wesperon import fill, slot; open('child', 'w').write(str(*fill(['9'], n=slot(int))))"
subprocess.run([sys.executable, "-c", CHILD])
class Exposure(Form):
    target = slot(suggest=["Lantern", "Wicker"])
    seconds = slot(float)
class Expose(Command):
    target = slot(suggest=["Lantern", "Wicker"])
    seconds = slot(float)
    def run(self):
        open("canary", "w").close()
def expose(target: str, seconds: float):
    open("canary", "w").close()
ENTRANCE
open("canary", "w").close()
"""
GUIDE = """
start = "seconds"
[steps.seconds]
kind = "integer"
ask = "Seconds"
next = "stop"
[steps.stop]
ends = "done"
"""


@pytest.mark.parametrize("name", ENTRANCES)
@pytest.mark.parametrize("shell_name", ["bash", "zsh", "fish"])
def test_no_entrance_does_the_programs_work_while_a_shell_asks(name: str, shell_name: str, tmp_path: Path) -> None:
    (tmp_path / "guide.toml").write_text(GUIDE)
    code = ENTRANCE.replace("ENTRANCE\n", ENTRANCES[name] + "\n")
    words = ["--", "desk --se", "--se"] if shell_name == "bash" else ["--", "--se"]
    env = {**os.environ, "WESPERON_CANDIDATES": shell_name, "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [sys.executable, "-c", code, *words], cwd=tmp_path, env=env, capture_output=True, text=True, timeout=60,
        stdin=subprocess.DEVNULL,
    )  # fmt: skip
    assert done.stderr == ""
    assert done.returncode == 0 or name.startswith(("a form that", "a question"))  # which end by an error
    assert not (tmp_path / "canary").exists()
    assert "candidate?" not in done.stdout
    assert (tmp_path / "child").read_text() == "9"  # what it starts is not asked
    assert done.stdout.count("--seconds") == (not name.startswith(SILENT)), done.stdout


def test_every_public_way_in_is_among_them() -> None:
    """Whatever takes words, or runs what does."""
    found = set()
    for name in wesperon.__all__:
        one = getattr(wesperon, name)
        members = {key: vars(one).get(key) for key in dir(one)} if isinstance(one, type) else {name: one}
        for key, member in members.items():
            function = getattr(member, "__func__", member)
            if not inspect.isfunction(function) or key.startswith("_"):
                continue
            begins = key.startswith(("run", "main", "call", "walk", "fill"))
            if begins or "words" in inspect.signature(function).parameters:
                found.add(f"{name}.{key}" if isinstance(one, type) else name)
    # These look words up, or run what has been filled already.
    found -= {"Program.invocation", "Command.run", "Program.listen", "Console.on_leave"}
    found -= {"Screen.run", "Screen.run_async", "Screen.call_later"}  # a screen has no words
    tried = {name.partition(",")[0].replace(" with slots", "").replace(" with a form", "") for name in ENTRANCES}
    assert found <= tried


def test_tab_in_a_real_shell_does_not_run_a_script(shell: Terminal, folder: Path) -> None:
    canary = folder / "canary"
    assert not canary.exists()
    shell.type("clear\r")
    shell.wait(lambda: not shell.read(0.1), "a clear screen")
    shell.type("lookout --ta")
    shell.wait(lambda: not shell.read(0.1), "the echo")
    for _ in range(3):
        shell.type("\t")
        shell.wait(lambda: not shell.read(0.35), "the completion")
    shell.see("--target")
    assert not canary.exists()
    shell.type("x\r")
    shell.wait(canary.exists, "a run of the script")
    canary.unlink()


def test_a_completion_loads_nothing_that_only_running_a_command_needs(tmp_path: Path) -> None:
    program = tmp_path / "desk.py"
    program.write_text(
        "import os, sys\nleave = os._exit\n"
        "os._exit = lambda status: (open('loaded', 'w').write(' '.join(sys.modules)), leave(status))\n"
        "from wesperon import Command, Program, slot\nclass Expose(Command):\n    target = slot()\n"
        "raise SystemExit(Program('desk', members=[Expose]).main())\n"
    )
    environ = {**os.environ, "WESPERON_CANDIDATES": "bash"}
    argv = [sys.executable, str(program), "expose", ""]
    subprocess.run(argv, env=environ, capture_output=True, check=True, cwd=tmp_path)
    loaded = {*(tmp_path / "loaded").read_text().split()}
    assert "wesperon.completion.candidates" in loaded
    assert not loaded & {"contextlib", "re", "enum", "dataclasses", "typing", "inspect", "pathlib", "logging"}
    above = ("wesperon.terminal", "wesperon.widgets", "wesperon.console")
    assert not {name for name in loaded if name.startswith(above)}
