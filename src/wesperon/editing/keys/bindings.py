"""Bindings of the user's own, and of the program's: checked, and made ready for a line.

A binding is a key, or a sequence of keys with blanks between, and what it does: the name of an act, a mapping with a
text to put in (``{"text": "..."}``), a function from draft to draft, or the name of such a function of the program. An
empty text takes a binding away. Key names are those of ``editing.events``, in any letter case but for single
characters, the modifiers in any order.
"""

from __future__ import annotations

from wesperon.editing.edits import TextState, insert
from wesperon.editing.keys.action_help import ACTIONS
from wesperon.editing.keys.modeless import MODELESS, prefixes
from wesperon.ground import quoted
from wesperon.text.spelling import suggestion

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

#: Keys with a name of their own.
NAMED = (
    "up", "down", "left", "right", "home", "end", "page-up", "page-down", "insert", "delete", "backspace", "enter",
    "tab", "space", "escape", "middle", *(f"f{number}" for number in range(1, 21)),
)  # fmt: skip
MODIFIERS = ("ctrl-", "alt-", "shift-")
#: Keys that terminals send as others.
SAME = {"ctrl-i": "tab", "ctrl-m": "enter", "ctrl-[": "escape", "ctrl-@": "ctrl-space", "ctrl-?": "backspace"}


class Bindings:
    """Keys to the names of acts or of functions, and these functions."""

    def __init__(self) -> None:
        self.keys: dict[str, str] = {}
        self.functions: dict[str, Callable[[TextState], TextState]] = {}

    def add(
        self, table: Mapping[str, object], functions: Mapping[str, Callable[[TextState], TextState]]
    ) -> dict[str, str]:
        """Take what a table says; key to reason for what it says wrongly, which is left out.

        ``functions`` are those of the program, by the names that a file may use.
        """
        faults: dict[str, str] = {}
        spelled: dict[str, str] = {}
        for written, does in table.items():
            keys, fault = read_keys(written)
            name, reason = self._named(written, does, functions)
            begun = prefixes(dict.fromkeys(spelled, ""))
            longer = begun.get(keys)
            shorter = next((other for other in spelled if keys.startswith(other + " ")), None)
            if fault or reason:
                faults[written] = fault or reason
            elif longer is not None:
                faults[written] = f"{keys} begins {longer}, which is bound too: neither can stand for both"
            elif shorter is not None:
                faults[written] = f"{keys} can never be typed, since {shorter} alone is bound"
            else:
                spelled[keys] = name
        self.keys.update(spelled)
        self.functions.update(functions)
        return faults

    def hidden(self) -> dict[str, str]:
        """The sequences of the family that cannot be typed any more, each with the key that hides it."""
        return {
            sequence: keys
            for keys, name in self.keys.items()
            if name
            for sequence in MODELESS
            if sequence.startswith(keys + " ")
        }

    def _named(
        self, written: str, does: object, functions: Mapping[str, Callable[[TextState], TextState]]
    ) -> tuple[str, str]:
        """The name that a key is bound to, and what is wrong with it."""
        if isinstance(does, str):
            if not does or does in ACTIONS or does in functions:
                return does, ""
            return "", f"{quoted(does)} is no act{suggestion(does, [*ACTIONS, *functions])}"
        if isinstance(does, dict) and list(does) == ["text"] and isinstance(does["text"], str):
            text: str = does["text"]
            name = f"text {text}"
            self.functions[name] = lambda draft: insert(draft, text)
            return name, ""
        if callable(does):
            name = f"function {written}"
            self.functions[name] = does
            return name, ""
        return "", f'{quoted(repr(does))} is none of an act\'s name, {{ text = "..." }}, a function'


def read_keys(text: str) -> tuple[str, str]:
    """A key or a sequence as key tables have it, and what is wrong with it."""
    keys = []
    for part in text.split():
        key, fault = _read_key(part)
        if fault:
            return "", fault
        keys.append(key)
    if not keys:
        return "", "a key is wanted, such as ctrl-t"
    if len(keys[0]) == 1 or keys[0] == "space":
        return "", f"{keys[0]} types a character: bind it with ctrl- or alt-, or behind another key"
    return " ".join(keys), ""


def _read_key(part: str) -> tuple[str, str]:
    rest, found = part, set()
    while (modifier := next((one for one in MODIFIERS if rest.lower().startswith(one) and rest != one), "")) != "":
        found.add(modifier)
        rest = rest[len(modifier) :]
    name = rest.lower() if len(rest) > 1 or "ctrl-" in found else rest
    if len(name) > 1 and name not in NAMED:
        return "", f"{quoted(part)} is no key{suggestion(name, NAMED)}"
    if "shift-" in found and len(name) == 1:
        return "", f"{quoted(part)}: terminals send shift with a character as another character"
    key = "".join(modifier for modifier in MODIFIERS if modifier in found) + name
    return SAME.get(key, key), ""
