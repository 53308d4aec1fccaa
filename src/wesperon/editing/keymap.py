"""Which key does which edit, in the modeless family of keys."""

from __future__ import annotations

#: Key name to the name of an edit.
MODELESS: dict[str, str] = {
    "left": "move-char-left",
    "right": "move-char-right",
    "ctrl-b": "move-char-left",
    "ctrl-f": "move-char-right",
    "ctrl-left": "move-word-left",
    "ctrl-right": "move-word-right",
    "alt-left": "move-word-left",
    "alt-right": "move-word-right",
    "alt-b": "move-word-left",
    "alt-f": "move-word-right",
    "home": "move-line-start",
    "end": "move-line-end",
    "ctrl-a": "move-line-start",
    "ctrl-e": "move-line-end",
    "backspace": "delete-char-back",
    "ctrl-h": "delete-char-back",
    "delete": "delete-char-forward",
    "ctrl-d": "delete-char-forward",
    "alt-backspace": "delete-word-back",
    "ctrl-backspace": "delete-word-back",
    "ctrl-w": "delete-blank-word-back",
    "alt-d": "delete-word-forward",
    "ctrl-delete": "delete-word-forward",
    "ctrl-u": "delete-line-start",
    "ctrl-k": "delete-line-end",
    "ctrl-t": "exchange-chars",
}
