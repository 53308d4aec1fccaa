"""Random commands in a line of ours and in a reference editor, compared: the text, the cursor, and what was cut.

``python -m tests.editing.reference_editor N [SEED] [lines]`` compares N scripts, 5,000 at a time. The editor is started
without any configuration; it takes one command after the other, each as a step of its own.
"""

from __future__ import annotations

import json
import random
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.events import Key
from wesperon.editing.keys.modal import MODAL
from wesperon.widgets.line import Line
from wesperon.widgets.several_lines import SeveralLines

EDITOR = shutil.which("vim")
TEXTS = [
    "lantern nebula, 5 s", "  two  lamps  ", "a.b(c[d]{e})f", "one", "", "x", "foo_bar baz-qux", "((a) b) c", "  ",
    "a b c d", "HOLLIN-051 (Lantern)", "end.", "aXbXcXd", "...a...",
    "say 'a b' \"c d\" x", "<a (b [c] {d}) > e", "f(a, (b), c) `ls` ",
]  # fmt: skip
MOTIONS = [
    "h",
    "l",
    "w",
    "W",
    "e",
    "E",
    "b",
    "B",
    "ge",
    "gE",
    "0",
    "^",
    "$",
    "|",
    "%",
    "fa",
    "Fa",
    "tb",
    "T ",
    "f ",
    ";",
    ",",
]
SEVERAL = [
    "one two\n  three four\nfive", "a\n\nb c\n\n\nd", "f(a,\n  b)\n", "  x\n    y\nz", "\n", "lantern\nnebula\n051",
    "a b\nc d\ne f\ng h",
]  # fmt: skip
#: Motions that do not go over the end of a line in visual mode, nor stop on the way.
SELECTING = [one for one in MOTIONS if one not in ("%", "|", "$", "w", "W", "l", "e", "E", "ge", "gE")]
VERTICAL = ["j", "k", "+", "-", "_", "G", "gg"]
OBJECTS = [where + of for where in "ia" for of in "wW\"'`()b[]{}B<>"]
PLAIN = ["x", "X", "D", "rz", "~", "p", "P", ".", "Y"]
INSERTS = ["i", "a", "I", "A", "C", "s", "S", "R"]
TYPED = ["q", "new", "", "a b"]

SCRIPT = """
let cases = json_decode(join(readfile({given!r}), "\\n"))
let out = []
for case in cases
  enew!
  set undolevels=-1 shiftwidth=4 expandtab
  call setline(1, split(case[0], "\\n", 1))
  set undolevels=1000
  call cursor(1, 1)
  call setreg('"', '')
  call setcharsearch({{'char': ''}})
  let seen = []
  for keys in case[1]
    let &undolevels = &undolevels
    silent! execute "normal! " .. keys
    let taken = substitute(getreg('"'), '\\n$', '', '')
    call add(seen, [join(getline(1, '$'), "\\n"), [line('.'), charcol('.') - 1], taken])
  endfor
  call add(out, seen)
endfor
call writefile([json_encode(out)], {result!r})
qall!
"""


def script(generator: random.Random) -> tuple[str, list[str]]:
    """A text, and commands for it."""
    commands = ["ik\x1b", "f~", "yl"]  # so that there is something to repeat, to look for, and to put in
    for _ in range(generator.randint(1, 8)):
        count = generator.choice(["", "", "", "2", "3"])
        kind = generator.random()
        motion = generator.choice(MOTIONS)
        inner = generator.choice(["", "", "2"])
        if motion in ("0", "$", "%", "^"):
            count = inner = ""
        if kind < 0.4:
            commands.append(count + motion)
        elif kind < 0.65:
            operator = generator.choice(["d", "d", "y", "g~", "gu", "gU"])
            if generator.random() < 0.4:
                motion = generator.choice(OBJECTS)
                inner = count = ""
            if motion in ("ge", "gE"):  # where the way is too short, the editor goes it as far as it can
                inner = count = ""
            if operator[0] == "g" and motion in "0^|h":  # of nothing, the editor changes one character
                operator = "d"
            commands.append(count + operator + inner + motion)
        elif kind < 0.75:
            if motion in ("ge", "gE"):
                inner = count = ""
            commands.append(count + "c" + inner + motion + generator.choice(TYPED) + "\x1b")
        elif kind < 0.85:
            key = generator.choice(INSERTS)
            commands.append(("" if key in "CS" else count) + key + generator.choice(TYPED) + "\x1b")
        elif kind < 0.9:
            way = "".join(generator.choice(SELECTING) for _ in range(2))
            keys = generator.choice(["d", "x", "y", "~", "u", "U", "rz", "cnew\x1b", "od", "\x1b", "p"])
            if keys == "p" and any(command[-1] == "Y" or command[0] == "V" or "S" in command for command in commands):
                keys = "x"
            commands.append(("v" if keys == "p" else generator.choice("vvV")) + way + keys)
        else:
            key = generator.choice(PLAIN)
            if key in "pP" and any(command[-1] == "Y" or command[0] == "V" or "S" in command for command in commands):
                key = "~"  # whole lines are lines in several lines only
            if key == "." and any(sign in command for sign in "g%S;," for command in commands):
                count = ""  # a count of % is another motion
            commands.append(("" if key == "D" else count) + key)
            if key in ("x", "D", "rz", "~") and generator.random() < 0.4:
                commands.append("u")
    return generator.choice(TEXTS), commands


def script_of_lines(generator: random.Random) -> tuple[str, list[str]]:
    """The same for a text of several lines."""
    _, commands = script(generator)
    more = [
        one
        for one in commands
        if one != "u"
        and not (one[0] == "v" and one[-1] == "p")  # where whole lines are put into one, the ends of lines differ
        and "$" not in one
        and one[-2:] not in ("iw", "aw", "iW", "aW")
    ]
    for _ in range(generator.randint(1, 6)):
        count = generator.choice(["", "", "2", "3"])
        motion = generator.choice(VERTICAL)
        operated = [f"{operator}{count}{motion}" for operator in ("d", "y", ">")]
        changed = [f"c{count}{motion}new\x1b", "onew\x1b", "O  new\x1b"]
        doubled = [f"{count}{keys}" for keys in ("dd", "yy", "p", "P", ">>", "<<")]
        other = [count + motion, "J", "gu" + motion.replace("k", "j")]
        made = generator.choice([*operated, *changed, *doubled, *other])
        more.insert(generator.randint(3, max(len(more), 3)), made)
    return generator.choice(SEVERAL), more


def reference(scripts: list[tuple[str, list[str]]]) -> list[list[list[object]]]:
    """What the editor makes of scripts: after each command the text, the cursor, and the unnamed register."""
    assert EDITOR is not None
    with tempfile.TemporaryDirectory() as folder:
        given, result, program = (Path(folder) / name for name in ("given", "result", "program"))
        given.write_text(json.dumps(scripts))
        program.write_text(SCRIPT.format(given=str(given), result=str(result)))
        argv = [EDITOR, "-u", "NONE", "-i", "NONE", "-n", "-N", "-es", "--not-a-term", "-S", str(program)]
        subprocess.run(argv, stdin=subprocess.DEVNULL, capture_output=True, check=False, timeout=600)
        made: list[list[list[Any]]] = json.loads(result.read_text())
    for one in (one for seen in made for one in seen):
        line, column = one[1]
        one[1] = sum(len(row) + 1 for row in str(one[0]).split("\n")[: line - 1]) + column
    return made


def ours(text: str, commands: list[str]) -> list[list[object]]:
    """The same in a line of ours."""
    bindings = Bindings(MODAL)
    line = SeveralLines(str) if "\n" in text else Line(str)
    line.bind(bindings)
    press(line, "\x1b")
    line.editor.replace(type(line.draft)(text, 0))
    line.editor.past.clear()
    seen: list[list[object]] = []
    for command in commands:
        press(line, command)
        if line.resolver.is_pending or line.resolver.mode != "command":
            press(line, "\x1b")
        ring = line.memory.ring
        seen.append([line.text, line.draft.cursor, (ring[-1] if ring else "").removesuffix("\n")])
    return seen


def press(line: Line, keys: str) -> None:
    """Press keys, one for each character."""
    for char in keys:
        line.press(Key("escape") if char == "\x1b" else Key("space", " ") if char == " " else Key(char, char))


def compare(count: int, seed: int, *, lines: bool = False) -> list[str]:
    """The scripts, of so many, whose outcome differs, with where it does; ``lines``: on texts of several lines."""
    generator = random.Random(seed)
    scripts = [script_of_lines(generator) if lines else script(generator) for _ in range(count)]
    differences = []
    for (text, commands), theirs in zip(scripts, reference(scripts), strict=True):
        before, failed, emptied = text, False, False
        for at, (one, other) in enumerate(zip(ours(text, commands), theirs, strict=True)):
            command = commands[at]
            # The editor repeats, and undoes, what could not be done; and what was copied is gone once nothing is.
            if lines and one[0] == other[0] == before and one[2] == (other[2] or one[2]) and one[1] != other[1]:
                break  # an operator whose motion is too short leaves the cursor where it is
            if command[0] == "V":
                other[1] = one[1]
            if command[0] in "vV" and other[0] == before:
                break  # a motion that fails ends the whole command there
            if command[-1] == "." and any(earlier[0] in "vV" for earlier in commands[:at]):
                break  # what was done to a selection is not repeated
            if command[-1] == "." and (one[0] == before or "Y" in commands):
                break  # a change that cannot be repeated; whole lines
            if command[-2:].lower() == "aw" and one[0] == other[0] == before:
                break  # at the end of a line the cursor goes on, though nothing is done
            if (command[-1] in ".u" and failed) or (command[-1] in "pP" and emptied):
                break
            is_change = command.lstrip("23")[0] not in "hlwWeEbB0^$|%fFtT;,yY" and command[:2] not in ("ge", "gE")
            failed = other[0] == before if is_change else failed
            before, emptied = str(other[0]), not other[2]
            if one[:2] != other[:2] or one[2] != (other[2] or one[2]):
                differences.append(f"{text!r} {commands[: at + 1]!r}: {one} instead of {other}")
                break
            if command[0] == "V":
                break  # where the cursor is after a change of whole lines is not compared
    return differences


if __name__ == "__main__":
    LINES = "lines" in sys.argv
    seed = int(sys.argv[2]) if sys.argv[2:3] and sys.argv[2].isdecimal() else random.randrange(10**6)
    print("seed", seed)
    found = [one for part in range(0, int(sys.argv[1]), 5000) for one in compare(5000, seed + part, lines=LINES)]
    print("\n".join(found[:40]))
    print(f"{len(found)} of {sys.argv[1]} differ")
    raise SystemExit(bool(found))
