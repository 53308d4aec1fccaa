"""From keys to actions: the one resolver, for every widget and every family.

Most keys do what the table says at once. Some things make that depend on the keys before:

- A sequence: keys that together have an entry, such as Ctrl-X Ctrl-E. While the keys so far begin one, nothing happens.
  A key that fits no sequence is dropped with those before it.
- Escape and then a key is that key with Alt, unless Escape has an entry of its own.
- A count: Alt with digits, a hyphen first for a negative one; in a mode that says so, digits alone. It goes to the
  action that follows.
- An action that wants a key: a jump takes the character that follows, ``insert-literal`` the key as it is, and
  ``use-register`` the name of a register for the action after it.
- An operator waits for a motion; both counts are multiplied. Its own key again means the whole line.

Recorded keys are kept (``macros``), without those that ended the recording.
"""

from __future__ import annotations

from wesperon.editing.keys.events import TYPE, Action, Key, typing

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.family import Keymap
    from wesperon.editing.keys.macros import Macros

#: The most that a count can be.
MOST = 9_999
#: Actions that take the key that follows.
WANTING = (
    *("insert-literal", "jump-char-forward", "jump-char-back", "use-register", "replace-char", "replace-selection"),
    *("find-char-forward", "find-char-back", "till-char-forward", "till-char-back"),
    *("set-place", "move-to-mark", "move-to-mark-line", "record-register", "play-register", "insert-register"),
)
#: The motion of an operator whose key is pressed twice.
WHOLE_LINE = "move-line-whole"
#: Keys taken literally that are not Ctrl and a letter, by what they send.
LITERALS = {"enter": "\r", "tab": "\t", "backspace": "\x7f", "escape": "\x1b", "ctrl-space": "\x00"}


class KeyResolver:
    """The keys pressed so far that have not done anything yet.

    ``keymap`` gives the keymap of a mode by its name, ``mode`` is the mode at first, ``operators`` the actions that
    wait for a motion, ``waiting`` the mode by which keys are read meanwhile; empty for the same.
    """

    def __init__(
        self,
        keymap: Callable[[str], Keymap],
        mode: str,
        macros: Macros,
        operators: frozenset[str] = frozenset(),
        waiting: str = "",
    ) -> None:
        self._keymap_of = keymap
        self._waiting = waiting
        self.operators = operators
        self.macros = macros
        self.keys: list[Key] = []
        self.wanting = ""
        self.digits = ""
        self.register = ""
        #: An operator that waits for its motion, with the count before it.
        self.operator: Action | None = None
        #: How many keys the last action took.
        self.length = 1
        self._pressed = 0
        self.enter_mode(mode)

    def enter_mode(self, name: str) -> None:
        """Read keys by another mode of the family from here on."""
        self.mode = name
        self.keymap = self._keymap_of(name)
        self._read_by(self.keymap)
        self._types = self.keymap.mode.types

    def _read_by(self, keymap: Keymap) -> None:
        self.table, self.begun = keymap.table, keymap.begun

    @property
    def is_pending(self) -> bool:
        """Whether the keys so far wait for another."""
        return bool(self.keys or self.wanting or self.digits or self.operator or self.register)

    @property
    def shown(self) -> str:
        """What is pending, as people read it; empty if nothing is."""
        parts = [f"register {self.register}"] if self.register else []
        parts += [f"count {self.digits}"] if self.digits else []
        if self.operator is not None:
            parts.append(f"{self.operator.name}: how far?")
        if self.wanting:
            parts.append("literal" if self.wanting == "insert-literal" else "which character?")
        if self.keys:
            parts.append(" ".join(spoken(key.name) for key in self.keys) + " ...")
        return "   ".join(parts)

    def forget_escape(self) -> None:
        """Drop an Escape that waits for another key."""
        if self.keys and self.keys[-1].name == "escape":
            self.keys.pop()
            self._pressed -= 1

    def hand_over(self, around: KeyResolver, key: Key) -> bool:
        """Leave a sequence that has begun here to the one around this, if only there a key goes on with it."""
        if not self.keys:
            return False
        keys = " ".join([*(one.name for one in self.keys), key.name])
        if keys in self.table or keys in self.begun or not (keys in around.table or keys in around.begun):
            return False
        around.keys, self.keys, self._pressed = self.keys, [], 0
        self._dropped()
        return True

    def press(self, key: Key) -> Action | None:
        """Return what the key does, now that it is pressed; ``None`` while it is pending."""
        if self.macros.recording is not None:
            self.macros.note(key)
        self._pressed += 1
        if (
            self._types
            and key.text
            and not self.is_pending
            and key.name not in self.table
            and key.name not in self.begun
        ):
            self._pressed = 0
            return typing(key.text)
        action = self._press(key)
        if action is not None:
            self.length, self._pressed = self._pressed, 0
        return action

    def _press(self, key: Key) -> Action | None:
        if self.wanting:
            name, text = self.wanting, literal(key)
            self.wanting = ""
            if not text or key.name == "ctrl-g":
                return self._dropped()
            if name == "use-register":
                self.register = text
                return None
            return self._made(name, text)
        if self.keys and self.keys[-1].name == "escape" and "escape" not in self.table:
            self.keys.pop()
            key = with_alt(key)
        if self._counts(key):
            return None
        self.keys.append(key)
        keys = " ".join(one.name for one in self.keys)
        found = self.table.get(keys)
        if found is None and (keys in self.begun or (key.name == "escape" and len(self.keys) == 1)):
            return None
        is_lone = len(self.keys) == 1
        self.keys = []
        if found is not None:
            if found == "record-register" and self.macros.recording is not None:
                return self._made("record-keys-end")
            if found not in WANTING:
                return self._made(found)
            self.wanting = found
            return None
        return self._made(TYPE, key.text) if is_lone and key.text and self._types else self._dropped()

    def _counts(self, key: Key) -> bool:
        """Return True if the key belongs to a count, which then has it."""
        if self.keys or (key.name in self.table and not (self.keymap.mode.counts and key.name == "0" and self.digits)):
            return False
        digit = key.name.removeprefix("alt-")
        is_digit = len(digit) == 1 and digit in "0123456789"
        begins = key.name == "alt--" and not self.digits
        bare = self.keymap.mode.counts or self.digits
        if not (begins or (is_digit and (digit != key.name or bare))):
            return False
        if len(self.digits) < 6:
            self.digits += digit
        return True

    def _made(self, name: str, text: str = "") -> Action | None:
        """Return the action of this name, with everything that was pressed before it.

        Return None while it waits for a motion.
        """
        digits, self.digits = self.digits, ""
        count = None if not digits else -1 if digits == "-" else int(digits)
        operator = self.operator
        if operator is not None:
            self.operator = None
            self._read_by(self.keymap)
            if count is not None or operator.count is not None:
                count = (1 if count is None else count) * (1 if operator.count is None else operator.count)
            motion = WHOLE_LINE if name == operator.name else name
            return Action(operator.name, _bounded(count), text, operator.register, motion)
        register, self.register = self.register, ""
        action = Action(name, _bounded(count), text, register)
        if name in self.operators:
            self.operator = action
            if self._waiting:
                self._read_by(self._keymap_of(self._waiting))
            return None
        return action

    def _dropped(self) -> Action:
        """No action: what was pressed means nothing."""
        self.digits, self.register, self.operator = "", "", None
        self._read_by(self.keymap)
        return Action("")


def _bounded(count: int | None) -> int | None:
    return None if count is None else max(-MOST, min(count, MOST))


def literal(key: Key) -> str:
    """Return the characters that a key sends, as far as it is a character or a control character; else nothing."""
    if key.text:
        return key.text
    if key.name in LITERALS:
        return LITERALS[key.name]
    char = key.name.removeprefix("ctrl-")
    return chr(ord(char.upper()) ^ 0x40) if len(char) == 1 and char != key.name and "@" <= char.upper() <= "_" else ""


def with_alt(key: Key) -> Key:
    """Return the key pressed together with Alt; the modifiers keep their order."""
    rest = key.name.removeprefix("ctrl-")
    if rest.startswith("alt-"):
        return key
    return Key(("ctrl-" if rest != key.name else "") + "alt-" + rest)


def spoken(keys: str) -> str:
    """Return a key or a sequence as people write it: ``ctrl-x e`` is ``Ctrl-X e``."""
    return " ".join(_spoken_one(key) for key in keys.split(" "))


def _spoken_one(key: str) -> str:
    modifiers = []
    while (name := next((one for one in ("ctrl-", "alt-", "shift-") if key.startswith(one) and key != one), "")) != "":
        modifiers.append(name.capitalize())
        key = key[len(name) :]
    if len(key) > 1:
        key = " ".join(part.capitalize() for part in key.split("-"))
    return "".join(modifiers) + (key.upper() if modifiers and len(key) == 1 else key)
