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
    "(": "move-sentence-back",
    ")": "move-sentence-forward",
    "{": "move-paragraph-back",
    "}": "move-paragraph-forward",
    "+": "move-line-down-first-sign",
    "-": "move-line-up-first-sign",
    "G": "move-to-line",
    "g g": "move-to-first-line",
    "H": "move-to-top",
    "M": "move-to-middle",
    "L": "move-to-bottom",
    "/": "search-text-forward",
    "?": "search-text-back",
    "n": "repeat-search",
    "N": "repeat-search-reversed",
    "*": "search-word-forward",
    "#": "search-word-back",
    "`": "move-to-mark",
    "'": "move-to-mark-line",
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
    **{key: name for key, name in modeless.TABLE.items() if key.startswith(KEPT)},
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
    "o": "open-line-below",
    "O": "open-line-above",
    "J": "join-lines",
    "g J": "join-lines-bare",
    "R": "mode-replace",
    "r": "replace-char",
    "~": "toggle-char-case",
    "p": "paste-after",
    "P": "paste-before",
    "g p": "paste-after-and-go-on",
    "g P": "paste-before-and-go-on",
    ".": "repeat-change",
    "v": "mode-visual",
    "V": "mode-visual-lines",
    "ctrl-v": "mode-visual-block",
    "g v": "select-again",
    "u": "undo",
    "ctrl-r": "redo",
    '"': "use-register",
    "m": "set-place",
    "q": "record-register",
    "@": "play-register",
    "j": "recall-newer",
    "down": "recall-newer",
    "k": "recall-older",
    "up": "recall-older",
}
#: What keys of command mode do in a text of one line, as the line mode of ``sh`` has them.
ONE_LINE: dict[str, str] = {
    "+": "recall-newer",
    "-": "recall-older",
    "G": "recall-oldest",
    "/": "search-back",
    "?": "search-forward",
    "n": "search-again",
    "N": "search-again-reversed",
    "#": "accept-as-comment",
    "=": "list-candidates",
    "*": "insert-candidates",
    "\\": "complete",
    "_": "append-last-word",
    "U": "undo-all",
}
#: Alt with a character is Escape and the character, as a terminal sends it.
INSERT: dict[str, str] = {
    **{key: name for key, name in modeless.TABLE.items() if not (key.startswith("alt-") and len(key) == 5)},
    "escape": "mode-command",
    "ctrl-[": "mode-command",
    "ctrl-w": "erase-word-back",
    "ctrl-u": "erase-line-back",
    "ctrl-t": "shift-line-forward",
    "ctrl-d": "shift-line-back-or-end",
    "ctrl-r": "insert-register",
    "ctrl-o": "mode-command-once",
    "ctrl-a": "insert-again",
}
REPLACE: dict[str, str] = INSERT
#: While what is looked for is typed.
SEARCH: dict[str, str] = {
    **INSERT,
    **dict.fromkeys(("up", "ctrl-p", "ctrl-r"), "search-back"),
    **dict.fromkeys(("down", "ctrl-n"), "search-forward"),
}
#: The modes as people know them.
LABELS = {
    "insert": "insert mode",
    "command": "command mode",
    "replace": "replace mode",
    "visual": "visual mode",
}

#: The objects that an operator takes, by the keys after ``i`` (inner) and ``a`` (around).
OBJECTS: dict[str, str] = {
    "w": "word",
    "W": "blank-word",
    "s": "sentence",
    "p": "paragraph",
    '"': "double-quotes",
    "'": "single-quotes",
    "`": "backquotes",
    **dict.fromkeys("()b", "parentheses"),
    **dict.fromkeys("[]", "brackets"),
    **dict.fromkeys("{}B", "braces"),
    **dict.fromkeys("<>", "angles"),
}
_OF_OBJECTS = {
    f"{key} {of}": f"{where}-{name}" for key, where in (("i", "inner"), ("a", "around")) for of, name in OBJECTS.items()
}
_VERTICAL = {"j": "move-line-down", "down": "move-line-down", "k": "move-line-up", "up": "move-line-up"}
#: What may follow an operator.
OPERATOR: dict[str, str] = {
    **MOTIONS,
    **OPERATORS,
    **_VERTICAL,
    **_OF_OBJECTS,
    "~": "toggle-case",
    "u": "lowercase",
    "U": "uppercase",
    "escape": "cancel",
    "ctrl-c": "interrupt",
}
#: What keys do to a selection.
VISUAL_TABLE: dict[str, str] = {
    **{key: name for key, name in modeless.TABLE.items() if key.startswith(("ctrl-c", "f1"))},
    **MOTIONS,
    **_VERTICAL,
    **_OF_OBJECTS,
    "d": "delete-selection",
    "x": "delete-selection",
    "delete": "delete-selection",
    "c": "change-selection",
    "s": "change-selection",
    "y": "copy-selection",
    "D": "delete-selected-lines",
    "X": "delete-selected-lines",
    "C": "change-selected-lines",
    "S": "change-selected-lines",
    "R": "change-selected-lines",
    "Y": "copy-selected-lines",
    "I": "insert-before-selection",
    "A": "insert-after-selection",
    "~": "toggle-case-selection",
    "g ~": "toggle-case-selection",
    "u": "lowercase-selection",
    "g u": "lowercase-selection",
    "U": "uppercase-selection",
    "g U": "uppercase-selection",
    ">": "shift-forward-selection",
    "<": "shift-back-selection",
    "J": "join-selection",
    "g J": "join-bare-selection",
    "r": "replace-selection",
    "p": "paste-over-selection",
    "P": "paste-over-and-keep",
    "o": "exchange-ends",
    "O": "exchange-sides",
    '"': "use-register",
    "v": "mode-visual",
    "V": "mode-visual-lines",
    "ctrl-v": "mode-visual-block",
    "g v": "select-again",
    "escape": "mode-command",
    "ctrl-[": "mode-command",
    "enter": "accept",
}
#: What keys do in menus and the like: letters are commands, until something is to be looked for.
MENU: dict[str, str] = {
    "j": "move-down",
    "k": "move-up",
    "ctrl-f": "move-page-down",
    "ctrl-b": "move-page-up",
    "ctrl-d": "move-page-down",
    "ctrl-u": "move-page-up",
    "g g": "move-text-start",
    "G": "move-text-end",
    "n": "move-down",
    "N": "move-up",
    "/": "mode-insert",
    "i": "mode-insert",
}
#: What keys do in the pager, beside those of both families.
PAGER: dict[str, str] = {
    "0": "move-columns-back",
    "`": "move-to-mark",
}
#: The layers by widget, and those of a mode.
LAYERS: dict[str, dict[str, str]] = {
    **modeless.LAYERS,
    "one-line@command": ONE_LINE,
    "menu@command": MENU,
    "menu@insert": {"enter": "mode-command"},
    "checkboxes@command": {"x": "toggle-mark"},
    "pager@command": PAGER,
    "rows@insert": {"ctrl-f": "move-page-down", "ctrl-b": "move-page-up"},
    "table@insert": {
        "j": "move-down",
        "k": "move-up",
        "h": "move-char-back",
        "l": "move-char-forward",
        "G": "move-text-end",
    },
    "preferences@command": {
        "h": "move-char-back",
        "l": "move-char-forward",
        "left": "move-char-back",
        "right": "move-char-forward",
    },
}

MODAL = Family(
    "modal",
    {
        "insert": Mode(INSERT, shape="bar", label=LABELS["insert"]),
        "command": Mode(COMMAND, types=False, counts=True, shape="block", label=LABELS["command"]),
        "operator": Mode(OPERATOR, types=False, counts=True, shape="underline", label=LABELS["command"]),
        "visual": Mode(VISUAL_TABLE, types=False, counts=True, shape="block", label=LABELS["visual"]),
        "replace": Mode(REPLACE, shape="underline", label=LABELS["replace"]),
        "search": Mode(SEARCH, shape="bar", label=LABELS["command"]),
    },
    "insert",
    LAYERS,
    frozenset(OPERATORS.values()),
    has_commands=True,
    choosing="command",
)
