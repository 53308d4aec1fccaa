"""Random commands in a text of ours and in a reference editor, compared: text, cursor, and what registers hold.

``python -m tests.editing.reference_editor N [SEED] [lines]`` compares N scripts, 5,000 at a time. The editor is started
without any configuration; it takes one command after the other, each as a step of its own. A command that fails ends
what is left of its keys, there and here. The status is 1 if more than one script of a thousand differs.
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
from wesperon.editing.keys.modal import MODAL
from wesperon.widgets.line import Line
from wesperon.widgets.modal_line import key_of
from wesperon.widgets.several_lines import SeveralLines

EDITOR = shutil.which("vim")
TEXTS = [
    "lantern nebula, 5 s", "  two  lamps  ", "a.b(c[d]{e})f", "one", "", "x", "foo_bar baz-qux", "((a) b) c", "  ",
    "a b c d", "HOLLIN-051 (Lantern)", "end.", "aXbXcXd", "...a...", "One. Two!  Three? x",
    "say 'a b' \"c d\" x", "<a (b [c] {d}) > e", "f(a, (b), c) `ls` ",
]  # fmt: skip
SEVERAL = [
    "one two\n  three four\nfive", "a\n\nb c\n\n\nd", "f(a,\n  b)\n", "  x\n    y\nz", "\n", "lantern\nnebula\n051",
    "a b\nc d\ne f\ng h", "One. Two\nthree.\n\nFour? (Five.)\n  six", "\n\nab\n  \ncd", "abcdef\nab\n\nabcdefgh\nabc",
]  # fmt: skip
MOTIONS = [
    *("h", "l", "w", "W", "e", "E", "b", "B", "ge", "gE", "0", "^", "$", "|", "%", "fa", "Fa", "tb", "T ", "f ", ";"),
    *(",", "(", ")", "{", "}", "/b\r", "?a\r", "/ne\r", "n", "N", "``", "`m"),
]  # fmt: skip
VERTICAL = ["j", "k", "+", "-", "_", "G", "gg", "'m", "''"]
OBJECTS = [where + of for where in "ia" for of in "wWsp\"'`()b[]{}B<>"]
OPERATORS = ["d", "d", "d", "y", "c", "g~", "gu", "gU", ">", "<"]
PLAIN = ["x", "X", "D", "rz", "~", "p", "P", ".", ".", "Y", "gp", "gP", "J", "gJ"]
INSERTS = ["i", "a", "I", "A", "C", "s", "S", "R", "o", "O"]
TYPED = ["q", "new", "", "a b"]
ON_SELECTION = [
    *("d", "x", "y", "~", "u", "U", "rz", "cnew\x1b", "od", "\x1b", "p", "P", "J", "gJ", ">", "<", "D", "Y", "Cab\x1b"),
    *("Iab\x1b", "Aab\x1b", "Od"),
]
REGISTERS = ["", "", "", "", '"a', '"A', '"_', '"0', '"-', '"1']
#: The beginnings of motions that are something else in one line.
OF_SEVERAL = "/?nN"
#: The beginnings of commands that only move.
MOVING = tuple("hlwWeEbB0^$|%fFtT;,(){}jk+-_GgnN`'/?")
#: One script of so many may differ: what is left are blocks and objects in rare places.
TOLERATED = 1_000
#: How many scripts the editor takes at a time: it keeps every text.
TOGETHER = 400
#: Motions with which blocks are selected.
IN_BLOCKS = ["h", "l", "j", "k", "w", "b", "e", "j", "l"]
#: The registers that are compared.
COMPARED = ['"', "0", "1", "2", "3", "-", "a", "."]
#: What the register b holds, to be played.
MACROS = ["xj", "wdw", "fax", "Iq\x1bj", "~l", "f x", "dd", "jA.\x1b"]

SCRIPT = """
function Held(name)
  return getreg(a:name)
endfunction

function Run(case)
  enew!
  set undolevels=-1 shiftwidth=4 expandtab
  call setline(1, split(a:case[0], "\\n", 1))
  set undolevels=1000
  call cursor(1, 1)
  for name in {registers}
    if name != '.'
      call setreg(name, [])
    endif
  endfor
  call setreg('b', a:case[2])
  let @/ = 'QQ'
  call setcharsearch({{'char': ''}})
  let seen = []
  for keys in a:case[1]
    let &undolevels = &undolevels
    try
      silent execute "normal! " .. keys
    catch
    endtry
    silent! execute "normal! \\<Esc>"
    let held = map({registers}, 'Held(v:val)')
    call add(seen, [join(getline(1, '$'), "\\n"), [line('.'), charcol('.') - 1], held])
  endfor
  return seen
endfunction

function All()
  let out = []
  for case in json_decode(join(readfile({given!r}), "\\n"))
    call add(out, Run(case))
  endfor
  call writefile([json_encode(out)], {result!r})
endfunction

call All()
qall!
"""

Script = tuple[str, list[str], str]


def script(generator: random.Random, *, lines: bool = False) -> Script:
    """Return a text, commands for it, and what the register b holds."""
    commands = ["ik\x1b", "f~", "yl", "mm"]  # so that there is something to repeat, to look for, and to put in
    commands += [command(generator, lines=lines) for _ in range(generator.randint(1, 9))]
    macro = generator.choice([one for one in MACROS if lines or one != "dd"])
    return generator.choice(SEVERAL if lines else TEXTS), commands, macro


def command(generator: random.Random, *, lines: bool) -> str:
    """Return one command."""
    count = generator.choice(["", "", "", "2", "3"])
    inner = generator.choice(["", "", "", "2"])
    register = generator.choice(REGISTERS)
    motions = [*MOTIONS, *VERTICAL, *VERTICAL] if lines else MOTIONS
    motion = generator.choice(motions)
    kind = generator.random()
    if kind < 0.3:
        motion = "w" if not lines and motion[0] in OF_SEVERAL else motion
        return ("" if motion in ("%", "0", "``", "''") else count) + motion
    if kind < 0.6:
        operator = generator.choice(OPERATORS if lines else OPERATORS[:-2])
        if generator.random() < 0.35:
            motion = generator.choice(OBJECTS if lines else [one for one in OBJECTS if one[1] != "p"])
        elif generator.random() < 0.2 and lines:
            motion = operator[-1]
        if operator == "c" and motion[0] in OF_SEVERAL:  # an error does not end the rest of its keys
            motion = "w"
        if motion in ("%", "0"):
            count = inner = ""
        typed = generator.choice(TYPED) + "\x1b" if operator == "c" else ""
        return register + count + operator + inner + motion + typed
    if kind < 0.7:
        key = generator.choice(INSERTS if lines else [one for one in INSERTS if one not in "SoO"])
        return count + key + generator.choice(TYPED) + "\x1b"
    if kind < 0.83:
        sort = generator.choice("vvV\x16") if lines else "v"
        moving = [one for one in motions if one[0] not in OF_SEVERAL]  # an error does not end the rest of its keys
        if sort == "\x16":
            moving = IN_BLOCKS
        way = "".join(generator.choice(["", "", "2"]) + generator.choice(moving) for _ in range(2))
        way = way.replace("2%", "%").replace("20", "0")
        if generator.random() < 0.2 and sort == "v":
            way = generator.choice([one for one in OBJECTS if one[1] not in "ps"])
        register = "" if sort == "\x16" and register == '"A' else register
        keys = generator.choice(ON_SELECTION if lines else [one for one in ON_SELECTION if one[0] not in "DYCJ"])
        if keys[0] in "IA" and sort != "\x16":
            keys = "y"
        return sort + way + (register if keys[0] in "dxyc" else "") + keys
    if kind < 0.87:
        return count + "@b"
    if kind < 0.9:
        return "u"
    key = generator.choice(PLAIN if lines else [one for one in PLAIN if one not in ("Y", "J", "gJ")])
    return (register if key[-1] in "xXDpP" else "") + count + key


def reference(scripts: list[Script]) -> list[list[list[Any]]]:
    """Return what the editor makes of scripts: after each command the text, the cursor, and the registers."""
    assert EDITOR is not None
    if len(scripts) > TOGETHER:
        return [*reference(scripts[:TOGETHER]), *reference(scripts[TOGETHER:])]
    with tempfile.TemporaryDirectory() as folder:
        given, result, program = (Path(folder) / name for name in ("given", "result", "program"))
        given.write_text(json.dumps(scripts))
        program.write_text(SCRIPT.format(given=str(given), result=str(result), registers=json.dumps(COMPARED)))
        argv = [EDITOR, "-u", "NONE", "-i", "NONE", "-n", "-N", "-es", "--not-a-term", "-S", str(program)]
        subprocess.run(argv, stdin=subprocess.DEVNULL, capture_output=True, check=False, timeout=120)
        made: list[list[list[Any]]] = json.loads(result.read_text())
    for one in (one for seen in made for one in seen):
        line, column = one[1]
        one[1] = sum(len(row) + 1 for row in str(one[0]).split("\n")[: line - 1]) + column
    return made


def ours(text: str, commands: list[str], macro: str) -> list[list[Any]]:
    """Return the same in a text of ours."""
    line = SeveralLines(str) if "\n" in text else Line(str)
    line.bind(Bindings(MODAL))
    press(line, "\x1b")
    line.editor.replace(type(line.draft)(text, 0))
    line.editor.undo_steps.clear()
    line.memory.registers["b"], line.memory.needle = macro, "QQ"
    assert line.modal is not None
    seen: list[list[Any]] = []
    for command in commands:
        press(line, command)
        if line.resolver.is_pending or line.editor.finder is not None:
            press(line, "\x1b")
        if line.resolver.mode != "command":
            press(line, "\x1b")
        seen.append([line.text, line.draft.cursor, [line.modal.commands.registers.text(name) for name in COMPARED]])
    return seen


def press(line: Line, keys: str) -> None:
    """Press keys, one for each character, until a command fails."""
    for char in keys:
        line.press(key_of(char))
        if line.modal is not None and line.modal.commands.failed:
            return


def compare(count: int, seed: int, *, lines: bool = False) -> list[str]:
    """The scripts, of so many, whose outcome differs, with where it does; ``lines``: on texts of several lines."""
    generator = random.Random(seed)
    scripts = [script(generator, lines=lines) for _ in range(count)]
    differences = []
    for (text, commands, macro), theirs in zip(scripts, reference(scripts), strict=True):
        before: list[Any] = [text, 0, [""] * len(COMPARED)]
        for at, (one, other) in enumerate(zip(ours(text, commands, macro), theirs, strict=True)):
            if one != other:
                if not is_on_purpose(commands[: at + 1], before, one, other):
                    differences.append(f"{text!r} {commands[: at + 1]!r} {macro!r}:\n  {one}\n  {other}")
                break
            if before[0] == one[0] and not commands[at].startswith(tuple("hlwWeEbB0^$|%fFtT;,(){}jk+-_GgnN`'/?")):
                commands = [
                    *commands[: at + 1],
                    *("" if one[-1:] in (".", "u", "") else one for one in commands[at + 1 :]),
                ]
            before = other
    return differences


def is_on_purpose(commands: list[str], before: list[Any], one: list[Any], other: list[Any]) -> bool:
    """Return True if what a command did, and how it differs, is as meant: see the table in the guide of editing."""
    command = commands[-1]
    if command in ("", "u"):  # the editor undoes, and repeats, what has changed nothing; where the cursor is then
        return not command or one[0] == other[0]
    if command[-1] == "." and any(_is_repeated_otherwise(earlier, command) for earlier in commands):
        return True
    if one[:2] == other[:2] and all(a == b or not b for a, b in zip(one[2], other[2], strict=True)):
        return True  # what was copied is kept where nothing is copied
    if one[0] == other[0] == before[0] and one[2] == other[2] and one[1] == before[1]:
        return True  # an operator that can do nothing leaves the cursor where it is
    if any(f"{where}{word}" in command for where in "ia" for word in "wW") and one[0] == before[0]:
        return True  # a word with the next ones stays in its line
    if not before[0].strip(" ") or not one[0]:
        return True  # nothing but blanks
    has_empty_lines = "\n\n" in before[0] or before[0][:1] == "\n" or before[0][-1:] in ("\n", " ")
    has_empty_lines = has_empty_lines or "\n." in before[0]
    if has_empty_lines and any(part in command for part in ("is", "as", "(", ")")):
        return True  # empty lines, however many, are one bound of sentences
    if any(f"{shift}{count}{where}s" in command for shift in "<>" for count in ("", "2") for where in "ia"):
        return True  # lines of sentences are shifted, not of the empty lines around them
    if command[:1] == "\x16" and (any(key in command for key in "ODC>") or command[-1] in "pP"):
        return True  # the other side of a block in a line that is shorter; blanks in rows that do not reach it
    if "{" in command and "\n" not in before[0]:
        return True  # the start of the only paragraph is the start of the text
    if ("`" in command or "'" in command) and any(earlier[0] not in "mfy" for earlier in commands[:-1]):
        return True  # marks move with the text
    is_case = any(case in command for case in ("g~", "gu", "gU"))
    return is_case and one[:2] == before[:2]  # of nothing, the editor changes one character


def _is_repeated_otherwise(earlier: str, command: str) -> bool:
    """Whether the editor repeats a command in another way: puts over a selection, cases of nothing, what marks tell."""
    return (
        (earlier[:1] in ("v", "V", "\x16") and earlier[-1:] in ("p", "P"))
        or any(part in earlier for part in ("g~", "gu", "gU", "`", "'"))
        or ("%" in earlier and len(command) > 1)
    )


if __name__ == "__main__":
    LINES = "lines" in sys.argv
    seed = int(sys.argv[2]) if sys.argv[2:3] and sys.argv[2].isdecimal() else random.randrange(10**6)
    print("seed", seed)
    found = [one for part in range(0, int(sys.argv[1]), 5000) for one in compare(5000, seed + part, lines=LINES)]
    print("\n".join(found[:40]))
    print(f"{len(found)} of {sys.argv[1]} differ")
    raise SystemExit(len(found) * TOLERATED > int(sys.argv[1]))
