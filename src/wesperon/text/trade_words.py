"""From the trade's words to ours: read only where a name in a declaration, a file or a binding is wrong.

A word is here only if several independent programs share it for the same thing.
"""

from __future__ import annotations

#: A word to the names that this library has for it; which of them is meant depends on where the word was used.
OURS: dict[str, tuple[str, ...]] = {
    # Keywords of slots.
    "min": ("low",), "minimum": ("low",), "max": ("high",), "maximum": ("high",), "prompt": ("ask",),
    "question": ("ask",), "description": ("help",), "regex": ("pattern",), "regexp": ("pattern",),
    "validate": ("check",), "validator": ("check",), "password": ("secret",), "hidden": ("secret",),
    "multiline": ("lines",), "multiple": ("many",), "repeat": ("many",), "language": ("syntax",),
    "increment": ("step",), "choices": ("one-of",), "options": ("choices",), "envvar": ("env",),
    # Kinds in files.
    "string": ("text",), "str": ("text",), "int": ("integer",), "float": ("number",), "double": ("number",),
    "real": ("number",), "bool": ("boolean",), "datetime": ("date-time",), "timestamp": ("date-time",),
    "timedelta": ("duration",), "file": ("path",), "directory": ("path",), "enum": ("one-of",), "choice": ("one-of",),
    # Keys.
    "pgup": ("page-up",), "pageup": ("page-up",), "pgdn": ("page-down",), "pgdown": ("page-down",),
    "pagedown": ("page-down",), "esc": ("escape",), "del": ("delete",), "ins": ("insert",), "return": ("enter",),
    "bs": ("backspace",),
    # Actions.
    "upcase-word": ("uppercase-word",), "downcase-word": ("lowercase-word",), "yank": ("paste",),
}  # fmt: skip


def our_words(word: str, known: set[str]) -> list[str]:
    """Return the names that are meant by a word of the trade, as far as they are known here."""
    return [name for name in OURS.get(word.strip().casefold(), ()) if name in known]
