"""Bindings of the user's own, and of the program's: checked, and made ready for a line.

A binding is a key, or a sequence of keys with blanks between, and what it does: the name of an action, a mapping with a
text to put in (``{"text": "..."}``), a function from draft to draft, or the name of such a function of the program. An
empty text takes a binding away. Key names are those of ``editing.keys.events``, in any letter case but for single
characters, the modifiers in any order.
"""

from __future__ import annotations

from wesperon.editing.keys.action_help import ACTIONS, CHOOSING, OF_MODAL, PAGING
from wesperon.editing.keys.families import FAMILIES
from wesperon.editing.keys.family import Family, Keymap, prefixes
from wesperon.editing.keys.modeless import MODELESS
from wesperon.editing.text_state import TextState, insert
from wesperon.text.spelling import suggestion
from wesperon.values import quoted, tell

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

#: The ways out of a question: of each group at least one action must have a key.
ACCEPTING = ("accept", "accept-if-whole", "accept-unless-whole")
WAYS_OUT = (
    ACCEPTING,
    ("accept", "accept-unless-whole", "delete-char-forward-or-end"),
    ("interrupt",),
)


def way_out(names: tuple[str, ...]) -> str:
    """Return what actions of ``WAYS_OUT`` do, in words."""
    said = (tell("accept an answer"), tell("accept a text of several lines"), tell("stop asking"))
    return said[WAYS_OUT.index(names)]


class Bindings:
    """Keys to the names of actions or of functions, and these functions, on top of a family."""

    def __init__(self, family: Family = MODELESS) -> None:
        self.family = family
        self.keys: dict[str, str] = {}
        #: What characters do in the lines of a console, where the program binds them (``editing.keys.characters``).
        self.characters: dict[str, str] = {}
        #: Those of one mode only, by its name.
        self.of_mode: dict[str, dict[str, str]] = {}
        #: How the user wants what a word may become to be shown: list, grid or inline; empty if that is not said.
        self.suggestions = ""
        #: The mode in which a text opens, if the user wants another one than the family has.
        self.start_mode = ""
        self.functions: dict[str, Callable[[TextState], TextState]] = {}
        self._made: dict[tuple[str, tuple[str, ...], frozenset[str] | None], Keymap] = {}

    def start(self, *, chooses: bool) -> str:
        """Return the mode in which a widget opens: one that lists choices, or one that takes a text."""
        if chooses:
            return self.family.choosing or self.family.start
        return self.start_mode if self.start_mode in self.family.modes else self.family.start

    def keymap(self, mode: str, layers: tuple[str, ...] = (), known: frozenset[str] | None = None) -> Keymap:
        """Return the keymap of a mode for a widget that asks for these layers.

        ``known`` are the actions that the widget does; a binding to another one leaves its key to the family.
        ``None``: it is a line, and does all but those for choices.
        """
        key = (mode, layers, known)
        made = self._made.get(key)
        if made is None:
            of = self.family.modes[mode]
            table = dict(of.table)
            for layer in layers:
                table.update(self.family.layers.get(layer, {}))
                table.update(self.family.layers.get(f"{layer}@{mode}", {}))
            own = {**self.keys, **self.of_mode.get(mode, {})}
            if own:
                table.update(
                    {
                        keys: name
                        for keys, name in own.items()
                        if not name or (name not in CHOOSING and name not in PAGING if known is None else name in known)
                    }
                )
            made = self._made[key] = Keymap(of, table)
        return made

    def add_tables(
        self, table: Mapping[str, object], functions: Mapping[str, Callable[[TextState], TextState]]
    ) -> list[tuple[tuple[str, ...], str]]:
        """Take what a table says, and the tables in it for one family, and in these for one of its modes.

        Return what is wrong, each with its path in the table; everything else holds.
        """
        plain = {key: does for key, does in table.items() if not (key in FAMILIES and isinstance(does, dict))}
        faults: list[tuple[tuple[str, ...], str]]
        faults = [((key,), reason) for key, reason in self.add(plain, functions).items()]
        for family, inner in table.items():
            if family not in FAMILIES or not isinstance(inner, dict):
                continue
            modes = {name: does for name, does in inner.items() if isinstance(does, dict) and list(does) != ["text"]}
            general = {key: does for key, does in inner.items() if key not in modes}
            is_ours = family == self.family.name
            if is_ours:
                faults += [((family, key), reason) for key, reason in self.add(general, functions).items()]
            for mode, bound in modes.items():
                if is_ours and mode not in self.family.modes:
                    known = ", ".join(self.family.modes)
                    reason = tell("the family has no mode {name}; there are {list}", name=quoted(mode), list=known)
                    faults.append(((family, mode), reason))
                elif is_ours:
                    found = self.add(bound, functions, mode)
                    faults += [((family, mode, key), reason) for key, reason in found.items()]
        return faults

    def add(
        self,
        table: Mapping[str, object],
        functions: Mapping[str, Callable[[TextState], TextState]],
        mode: str = "",
    ) -> dict[str, str]:
        """Take what a table says; key to reason for what it says wrongly, which is left out.

        ``functions`` are those of the program, by the names that a file may use. A binding that takes away the last key
        with which a question can be left is refused. With a ``mode`` they hold in that one only, where keys that type
        nothing there may be bound too.
        """
        types = self.family.modes[mode].types if mode else True
        faults: dict[str, str] = {}
        spelled: dict[str, str] = {}
        written_as: dict[str, str] = {}
        for written, does in table.items():
            keys, fault = read_keys(written, types=types)
            name, reason = self.named(written, does, functions)
            begun = prefixes(dict.fromkeys(spelled, ""))
            longer = begun.get(keys)
            shorter = next((other for other in spelled if keys.startswith(other + " ")), None)
            if fault or reason:
                faults[written] = fault or reason
            elif longer is not None:
                faults[written] = tell(
                    "{keys} begins {longer}, which is bound too: one key cannot do both", keys=keys, longer=longer
                )
            elif shorter is not None:
                faults[written] = tell(
                    "{keys} can never be typed, since {shorter} alone is bound", keys=keys, shorter=shorter
                )
            else:
                spelled[keys], written_as[keys] = name, written
        while (taken := self._takes_away(spelled, mode)) is not None:
            keys, names = taken
            del spelled[keys]
            faults[written_as[keys]] = tell(
                "takes away the last key to {what}: bind another key to {names} first",
                what=way_out(names),
                names=tell(" or ").join(names),
            )
        (self.of_mode.setdefault(mode, {}) if mode else self.keys).update(spelled)
        self.functions.update(functions)
        self._made.clear()
        return faults

    def _takes_away(self, spelled: dict[str, str], only: str) -> tuple[str, tuple[str, ...]] | None:
        """Return the last of the bindings that has to go so that a question can be left; None if all can stay.

        Returns its keys, and the actions that they are the last ones for.
        """
        for name, mode in self.family.modes.items():
            if only and name != only:
                continue
            before = {**mode.table, **self.keys, **self.of_mode.get(name, {})}
            after = {**before, **spelled}
            # Of the keys of the family for an answer only Enter counts: nobody looks for another.
            own = {*self.keys, *self.of_mode.get(name, {}), *spelled}
            begun = prefixes(spelled)
            for names in WAYS_OUT:
                left = {
                    keys: does
                    for keys, does in after.items()
                    if keys not in begun and (names is not ACCEPTING or keys in own or keys == "enter")
                }
                if names_in(before, names) and not names_in(left, names):
                    taking = [keys for keys in reversed(spelled) if before.get(keys.split(" ")[0]) in names]
                    taking.sort(key=lambda keys: keys.split(" ")[0] != "enter")
                    return (taking or [next(reversed(spelled))])[0], names
        return None

    def hidden(self) -> dict[str, str]:
        """Return the sequences of the family that cannot be typed any more, each with the key that hides it."""
        return {
            sequence: keys
            for keys, name in self.keys.items()
            if name
            for mode in self.family.modes.values()
            for sequence in mode.table
            if sequence.startswith(keys + " ")
        }

    def named(
        self, written: str, does: object, functions: Mapping[str, Callable[[TextState], TextState]]
    ) -> tuple[str, str]:
        """Return the name that a key is bound to, and what is wrong with it."""
        if isinstance(does, str) and does in OF_MODAL and not self.family.has_commands:
            return "", tell("{name} is an action of the modal family of keys", name=does)
        if isinstance(does, str):
            if not does or does in ACTIONS or does in functions:
                return does, ""
            hint = suggestion(does, [*ACTIONS, *functions], declared=True)
            return "", tell("{name} is not an action{hint}", name=quoted(does), hint=hint)
        if isinstance(does, dict) and list(does) == ["text"] and isinstance(does["text"], str):
            text: str = does["text"]
            name = f"text {text}"
            self.functions[name] = lambda draft: insert(draft, text)
            return name, ""
        if callable(does):
            name = f"function {written}"
            self.functions[name] = does
            return name, ""
        wanted = tell('the name of an action, { text = "..." }, or a function')
        return "", tell("must be {wanted}, got {got}", wanted=wanted, got=quoted(repr(does)))


#: The family alone, for widgets that nothing was bound for; a constant.
UNCHANGED = Bindings()


def names_in(table: Mapping[str, str], names: tuple[str, ...]) -> bool:
    """Return True if a key or a sequence that can be typed is bound to one of these actions."""
    return any(name in names and not _is_hidden(keys, table) for keys, name in table.items())


def _is_hidden(keys: str, table: Mapping[str, str]) -> bool:
    """Return True if a sequence cannot be typed, since keys that begin it do something by themselves."""
    parts = keys.split(" ")
    return any(table.get(" ".join(parts[:count])) for count in range(1, len(parts)))


def read_keys(text: str, *, types: bool = True) -> tuple[str, str]:
    """Return a key or a sequence as key tables have it, and what is wrong with it.

    ``types``: in the mode that it is for, keys type their characters, so that a character alone cannot be bound.
    """
    keys = []
    for part in text.split():
        key, fault = _read_key(part)
        if fault:
            return "", fault
        keys.append(key)
    if not keys:
        return "", tell("must be a key, such as ctrl-t")
    if types and (len(keys[0]) == 1 or keys[0] == "space"):
        return "", tell("{key} types a character: bind it with ctrl- or alt-, or after another key", key=keys[0])
    return " ".join(keys), ""


def _read_key(part: str) -> tuple[str, str]:
    rest, found = part, set()
    while (modifier := next((one for one in MODIFIERS if rest.lower().startswith(one) and rest != one), "")) != "":
        found.add(modifier)
        rest = rest[len(modifier) :]
    name = rest.lower() if len(rest) > 1 or "ctrl-" in found else rest
    if len(name) > 1 and name not in NAMED:
        hint = suggestion(name, NAMED, declared=True)
        return "", tell("{name} is not a key{hint}", name=quoted(part), hint=hint)
    if "shift-" in found and len(name) == 1:
        return "", tell("{key}: terminals send shift with a character as another character", key=quoted(part))
    key = "".join(modifier for modifier in MODIFIERS if modifier in found) + name
    return SAME.get(key, key), ""
