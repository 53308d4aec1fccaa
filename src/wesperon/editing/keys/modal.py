"""The modal family of keys: insert, command and replace mode, as POSIX has them for ``vi`` and for the line of ``sh``.

In insert mode every other key does what it does in the modeless family, so that Ctrl and Alt with a letter, arrows and
completion are there as well; Escape goes to command mode.
"""

from __future__ import annotations

from wesperon.editing.keys import modeless
from wesperon.editing.keys.family import Family, Mode

#: Keys of command mode that are motions; an operator takes one of them as well.
MOTIONS: dict[str, str] = {
    "h": "move-column-back",
    "left": "move-column-back",
    "backspace": "move-column-back",
    "ctrl-h": "move-column-back",
    "l": "move-column-forward",
    "right": "move-column-forward",
    "space": "move-column-forward",
    "w": "move-word-start-forward",
    "W": "move-blank-word-start-forward",
    "e": "move-word-end-forward",
    "E": "move-blank-word-end-forward",
    "b": "move-word-start-back",
    "B": "move-blank-word-start-back",
    "g e": "move-word-end-back",
    "g E": "move-blank-word-end-back",
    "0": "move-line-start",
    "home": "move-line-start",
    "^": "move-line-first-sign",
    "_": "move-line-here",
    "$": "move-line-last-char",
    "end": "move-line-last-char",
    "|": "move-column",
    "%": "move-bracket-match",
    "f": "find-char-forward",
    "F": "find-char-back",
    "t": "till-char-forward",
    "T": "till-char-back",
    ";": "repeat-find",
    ",": "repeat-find-reversed",
}
#: What an operator is called by.
OPERATORS: dict[str, str] = {
    "d": "delete",
    "c": "change",
    "y": "copy",
    "g ~": "toggle-case",
    "g u": "lowercase",
    "g U": "uppercase",
    ">": "shift-forward",
    "<": "shift-back",
}
#: The beginnings of the other keys that do in command mode what they do in the modeless family.
KEPT = ("ctrl-", "shift-", "f1", "enter", "alt-enter", "alt-up")
COMMAND: dict[str, str] = {
    **{
        key: name
        for key, name in modeless.TABLE.items()
        if key.startswith(("ctrl-", "shift-", "f1", "enter", "alt-enter", "alt-up"))
    },
    **MOTIONS,
    **OPERATORS,
    "enter": "accept",
    "ctrl-j": "accept",
    "escape": "cancel",
    "x": "delete-char",
    "delete": "delete-char",
    "X": "delete-char-before",
    "D": "delete-to-line-end",
    "C": "change-to-line-end",
    "s": "change-char",
    "S": "change-line",
    "Y": "copy-line",
    "i": "insert-before",
    "insert": "insert-before",
    "a": "insert-after",
    "I": "insert-at-line-start",
    "A": "insert-at-line-end",
    "R": "mode-replace",
    "r": "replace-char",
    "~": "toggle-char-case",
    "p": "paste-after",
    "P": "paste-before",
    ".": "repeat-change",
    "v": "mode-visual",
    "V": "mode-visual-lines",
    "u": "undo",
    "ctrl-r": "redo",
    '"': "use-register",
    "j": "recall-newer",
    "down": "recall-newer",
    "+": "move-line-down-first-sign",
    "k": "recall-older",
    "up": "recall-older",
    "-": "move-line-up-first-sign",
    "G": "move-to-line",
    "g g": "move-to-first-line",
    "o": "open-line-below",
    "O": "open-line-above",
    "J": "join-lines",
    "/": "search-back",
    "?": "search-forward",
    "#": "accept-as-comment",
    "=": "list-candidates",
    "*": "insert-candidates",
}
#: Alt with a character is Escape and the character, as a terminal sends it.
INSERT: dict[str, str] = {
    **{key: name for key, name in modeless.TABLE.items() if not (key.startswith("alt-") and len(key) == 5)},
    "escape": "mode-command",
    "ctrl-[": "mode-command",
}
REPLACE: dict[str, str] = INSERT
#: The modes as people know them.
LABELS = {"insert": "insert mode", "command": "command mode", "replace": "replace mode", "visual": "visual mode"}

#: The objects that an operator takes, by the keys after ``i`` (inner) and ``a`` (around).
OBJECTS: dict[str, str] = {
    "w": "word",
    "W": "blank-word",
    '"': "double-quotes",
    "'": "single-quotes",
    "`": "backquotes",
    **dict.fromkeys("()b", "parentheses"),
    **dict.fromkeys("[]", "brackets"),
    **dict.fromkeys("{}B", "braces"),
    **dict.fromkeys("<>", "angles"),
}
#: What may follow an operator.
OPERATOR: dict[str, str] = {
    **MOTIONS,
    **OPERATORS,
    "j": "move-line-down",
    "down": "move-line-down",
    "k": "move-line-up",
    "up": "move-line-up",
    "+": "move-line-down-first-sign",
    "-": "move-line-up-first-sign",
    "_": "move-line-here",
    "G": "move-to-line",
    "g g": "move-to-first-line",
    "escape": "cancel",
    "ctrl-c": "interrupt",
    **{
        f"{key} {of}": f"{where}-{name}"
        for key, where in (("i", "inner"), ("a", "around"))
        for of, name in OBJECTS.items()
    },
}
#: What keys do to a selection.
VISUAL_TABLE: dict[str, str] = {
    **{key: name for key, name in modeless.TABLE.items() if key.startswith(("ctrl-c", "f1"))},
    **MOTIONS,
    **{
        key: name for key, name in OPERATOR.items() if name in ("move-line-down", "move-line-up") or key[0] in "ia+-_Gg"
    },
    "d": "delete-selection",
    "x": "delete-selection",
    "delete": "delete-selection",
    "c": "change-selection",
    "s": "change-selection",
    "y": "copy-selection",
    "~": "toggle-case-selection",
    "u": "lowercase-selection",
    "U": "uppercase-selection",
    ">": "shift-forward-selection",
    "<": "shift-back-selection",
    "J": "join-selection",
    "r": "replace-selection",
    "p": "paste-over-selection",
    "o": "exchange-ends",
    '"': "use-register",
    "v": "mode-visual",
    "V": "mode-visual-lines",
    "escape": "mode-command",
    "enter": "accept",
}

MODAL = Family(
    "modal",
    {
        "insert": Mode(INSERT, shape="bar", label=LABELS["insert"]),
        "command": Mode(COMMAND, types=False, counts=True, shape="block", label=LABELS["command"]),
        "operator": Mode(OPERATOR, types=False, counts=True, shape="underline", label=LABELS["command"]),
        "visual": Mode(VISUAL_TABLE, types=False, counts=True, shape="block", label=LABELS["visual"]),
        "replace": Mode(REPLACE, shape="underline", label=LABELS["replace"]),
    },
    "insert",
    modeless.LAYERS,
    frozenset(OPERATORS.values()),
    has_commands=True,
)
