"""From keys to acts.

Most keys do what the table says at once. Four things make that depend on the keys before:

- A sequence: keys that together have an entry, such as Ctrl-X Ctrl-E. While the keys so far begin one, nothing happens.
  A key that fits no sequence is dropped with those before it.
- Escape and then a key is that key with Alt, unless Escape has an entry of its own.
- A count: Alt with digits, a hyphen first for a negative one. It goes to the act that follows; digits right behind it
  belong to it.
- An act that wants a key: a jump takes the character that follows, and ``insert-literal`` the key as it is.

Recorded keys are kept in the memory, without those that ended the recording.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Key
from wesperon.editing.keys.modeless import prefixes
from wesperon.frozen import frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.editor import Memory

#: The most that a count can be.
MOST = 9_999
#: Acts that take the key behind them.
WANTING = ("insert-literal", "jump-char-forward", "jump-char-back")
#: The act of a key that types something.
TYPE = "type"
#: Keys taken literally that are not Ctrl and a letter, by what they send.
LITERALS = {"enter": "\r", "tab": "\t", "backspace": "\x7f", "escape": "\x1b", "ctrl-space": "\x00"}


@frozen
class Action:
    """What is to be done: the name, how often, and the text that the key types or that was wanted."""

    name: str
    count: int | None = None
    text: str = ""


class KeyResolver:
    """The keys pressed so far that have not done anything yet."""

    def __init__(self, keymap: dict[str, str], memory: Memory) -> None:
        self.keymap = keymap
        self.begun = prefixes(keymap)
        self.memory = memory
        self.keys: list[Key] = []
        self.wanting = ""
        self.digits = ""
        #: How many keys the last act took.
        self.length = 1
        self._pressed = 0

    @property
    def is_pending(self) -> bool:
        """Whether the keys so far wait for another."""
        return bool(self.keys or self.wanting or self.digits)

    @property
    def shown(self) -> str:
        """What is pending, as people read it; empty where nothing is."""
        parts = [f"count {self.digits}"] if self.digits else []
        if self.wanting:
            parts.append("literal" if self.wanting == "insert-literal" else "to which character?")
        if self.keys:
            parts.append(" ".join(spoken(key.name) for key in self.keys) + " ...")
        return "   ".join(parts)

    def press(self, key: Key) -> Action | None:
        """What the key does, now that it is pressed; ``None`` while it is pending."""
        recording = self.memory.recording
        if recording is not None:
            recording.append(key)
        self._pressed += 1
        if not self.is_pending and key.text and key.name not in self.keymap and key.name not in self.begun:
            self._pressed = 0
            return Action(TYPE, None, key.text)
        act = self._press(key)
        if act is not None:
            self.length, self._pressed = self._pressed, 0
        return act

    def _press(self, key: Key) -> Action | None:
        if self.wanting:
            name, text = self.wanting, literal(key)
            self.wanting = ""
            return self._act(name, text) if text and key.name != "ctrl-g" else self._act("")
        if self.keys and self.keys[-1].name == "escape" and "escape" not in self.keymap:
            self.keys.pop()
            key = with_alt(key)
        if self._counts(key):
            return None
        self.keys.append(key)
        name = " ".join(one.name for one in self.keys)
        act = self.keymap.get(name)
        if act is None and (name in self.begun or (key.name == "escape" and len(self.keys) == 1)):
            return None
        if act in WANTING:
            self.wanting, self.keys = act, []
            return None
        is_lone = len(self.keys) == 1
        self.keys = []
        if act is not None:
            return self._act(act)
        return self._act(TYPE, key.text) if is_lone and key.text else self._act("")

    def _counts(self, key: Key) -> bool:
        """Whether the key belongs to a count, which then has it."""
        if self.keys or key.name in self.keymap:
            return False
        digit = key.name.removeprefix("alt-")
        is_digit = len(digit) == 1 and digit in "0123456789"
        begins = key.name == "alt--" and not self.digits
        if not (begins or (is_digit and (digit != key.name or self.digits))):
            return False
        if len(self.digits) < 6:
            self.digits += digit
        return True

    def _act(self, name: str, text: str = "") -> Action:
        digits, self.digits = self.digits, ""
        if not digits:
            return Action(name, None, text)
        count = -1 if digits == "-" else int(digits)
        return Action(name, max(-MOST, min(count, MOST)), text)


def literal(key: Key) -> str:
    """The characters that a key sends, as far as it is a character or a control character; else nothing."""
    if key.text:
        return key.text
    if key.name in LITERALS:
        return LITERALS[key.name]
    char = key.name.removeprefix("ctrl-")
    return chr(ord(char.upper()) ^ 0x40) if len(char) == 1 and char != key.name and "@" <= char.upper() <= "_" else ""


def with_alt(key: Key) -> Key:
    """The key pressed together with Alt; the modifiers keep their order."""
    rest = key.name.removeprefix("ctrl-")
    if rest.startswith("alt-"):
        return key
    return Key(("ctrl-" if rest != key.name else "") + "alt-" + rest)


def spoken(keys: str) -> str:
    """A key or a sequence as people write it: ``ctrl-x e`` is ``Ctrl-X e``."""
    return " ".join(_spoken_one(key) for key in keys.split(" "))


def _spoken_one(key: str) -> str:
    modifiers = []
    while (name := next((one for one in ("ctrl-", "alt-", "shift-") if key.startswith(one) and key != one), "")) != "":
        modifiers.append(name.capitalize())
        key = key[len(name) :]
    if len(key) > 1:
        key = " ".join(part.capitalize() for part in key.split("-"))
    return "".join(modifiers) + (key.upper() if modifiers and len(key) == 1 else key)
