"""``wesperon keys``: what each key of a terminal sends, what it is called, and what it does."""

from __future__ import annotations

from wesperon import Command, Refusal, slot
from wesperon.context import current
from wesperon.editing.keys.action_help import ACTIONS, GROUPS, MODAL_GROUPS, layer_name
from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.events import Key, Paste
from wesperon.editing.keys.family import Keymap
from wesperon.editing.keys.resolver import spoken
from wesperon.output.results import Told
from wesperon.screen.width import wrap
from wesperon.terminal.decoder import Decoder
from wesperon.terminal.preferences import load
from wesperon.terminal.tty_driver import TtyDriver, reach_port
from wesperon.text.escape import visible
from wesperon.text.truncate import counted
from wesperon.user_folders import preference_files

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.editing.keys.events import Event

#: Columns for what a key sends and for its name.
SENT, NAMED = 16, 16
HEADING = f"  {'sends':{SENT}}  {'key':{NAMED}}  does"


class Keys(Command):
    """Show what each key sends, what it is called, and what it does; Ctrl-C twice ends it.

    With --list, or with nobody at a terminal, print all keys that do something, bindings of your own included.
    """

    examples = ("keys", "keys --list", "keys --list --program 'night desk'")
    list_ = slot(bool, default=False, help="print all keys that do something")
    program = slot(default="", named_only=True, help="with the bindings for this program")

    def run(self) -> str | None:
        """Return the list, or None after the keys have been shown."""
        bindings, faults = load({}, {}, preference_files(self.program), environ=current().environ)
        keymap = bindings.keymap(bindings.family.start)
        port = None if self.list_ else reach_port()
        if port is None:
            return Told("\n".join([*listed(keymap, bindings), *faults]), data_of(keymap, bindings, faults))
        driver = TtyDriver(port)
        try:
            with driver:
                _show(driver, keymap, faults)
        finally:
            driver.close()
        return None


def listed(keymap: Keymap, bindings: Bindings) -> list[str]:
    """Return all keys by what they do, in the groups of the page of keys; then what is in the way of others."""
    rows: list[str] = []
    for group, acts in GROUPS.items():
        rows += [*([""] if rows else []), group]
        for act, does in acts.items():
            keys = ", ".join(spoken(key) for key, name in keymap.table.items() if name == act) or "no key"
            rows.append(f"  {act:{26}}  {keys}" + (f"\n  {'':26}  {does}"))
    for group, acts in (MODAL_GROUPS if bindings.family.has_commands else {}).items():
        rows += ["", group]
        for act, does in acts.items():
            found = dict.fromkeys(
                spoken(key)
                for mode in bindings.family.modes
                for key, name in bindings.keymap(mode, ("one-line",) if group == "In one line" else ()).table.items()
                if name == act
            )
            rows.append(f"  {act:{26}}  {', '.join(found) or 'no key'}\n  {'':26}  {does}")
    for layer, table in bindings.family.layers.items():
        rows += ["", f"In {layer_name(layer)}"]
        rows += [f"  {spoken(key):{26}}  {ACTIONS[name]}" for key, name in table.items()]
    own = {key: name for key, name in bindings.keys.items() if name not in ACTIONS}
    if own:
        rows += ["", "Of your own"]
        rows += [f"  {spoken(key):{26}}  {visible(name) or 'nothing'}" for key, name in own.items()]
    rows += [
        f"  {spoken(sequence)} cannot be typed: {spoken(key)} is bound" for sequence, key in bindings.hidden().items()
    ]
    return rows


def data_of(keymap: Keymap, bindings: Bindings, faults: list[str]) -> dict[str, Any]:
    """Return it as data: the actions with their keys, the keys of choices, the faults of the user's own."""
    return {
        "actions": [
            {
                "group": group,
                "action": act,
                "does": does,
                "keys": [key for key, name in keymap.table.items() if name == act],
            }
            for group, acts in GROUPS.items()
            for act, does in acts.items()
        ],
        "layers": {layer: dict(table) for layer, table in bindings.family.layers.items()},
        "own": dict(bindings.keys),
        "hidden": bindings.hidden(),
        "problems": faults,
    }


def _show(driver: TtyDriver, keymap: Keymap, faults: list[str]) -> None:
    """Show each key that is pressed, until Ctrl-C comes twice in a row."""
    decoder = Decoder()
    driver.send("".join(f"{line}\r\n" for line in [*faults, "Press keys; Ctrl-C twice ends it.", "", HEADING]))
    sent, interrupts = b"", 0
    while interrupts < 2:
        has_keys, _ = driver.port.wait(decoder.timeout if decoder.is_pending else driver.options.timeout)
        if not has_keys and not decoder.is_pending:
            return
        try:
            data = driver.port.read() if has_keys else b""
        except OSError as error:
            raise Refusal(str(error)) from None
        for byte in data:
            sent += bytes((byte,))
            events = decoder.feed(sent[-1:])
            if events:
                _show_rows(driver, sent, events, keymap)
                interrupts = interrupts + 1 if events == [Key("ctrl-c")] else 0
                sent = b""
            elif not decoder.is_inside:
                _show_rows(driver, sent, [None], keymap)
                sent = b""
        if not has_keys:
            _show_rows(driver, sent, decoder.flush() or [None], keymap)
            sent = b""


def _show_rows(driver: TtyDriver, sent: bytes, events: Sequence[Event | None], keymap: Keymap) -> None:
    """Show what some bytes mean, a key in each row; what it does goes on below if there is no room for it."""
    columns = driver.size()[0] - 1
    left = SENT + NAMED + 6 if columns >= 2 * (SENT + NAMED) else 4
    for event in events:
        first, does = _row(sent, event, keymap)
        rows = wrap(does, max(columns - left, 1))
        if left > 4:
            first += rows.pop(0)
        driver.send("".join(f"{row}\r\n" for row in [first.rstrip(), *(" " * left + row for row in rows)]))


def _row(sent: bytes, event: Event | None, keymap: Keymap) -> tuple[str, str]:
    """Return what is in the table for a key: what it sends and its name, in their columns, and what it does."""
    shown = visible(sent.decode("utf-8", "replace")).replace(" ", "space")
    shown = shown if len(shown) <= SENT else shown[: SENT - 3] + "..."
    if isinstance(event, Paste):
        return f"  {shown:{SENT}}  {'a paste':{NAMED}}  ", f"puts in {counted(len(event.text), 'character')}"
    if not isinstance(event, Key):
        return f"  {shown:{SENT}}  {'no key':{NAMED}}  ", "nothing"
    act = keymap.table.get(event.name)
    if act is None and event.name in keymap.begun:
        does = "begins " + ", ".join(spoken(keys) for keys in keymap.table if keys.startswith(event.name + " "))
    elif event.name == "escape" and act is None:
        does = "makes of the next key the same with Alt"
    elif act is None:
        does = f'types "{event.text}"' if event.text else "nothing"
    else:
        does = f"{act}: {ACTIONS[act]}" if act in ACTIONS else visible(act) or "nothing"
    return f"  {shown:{SENT}}  {spoken(event.name):{NAMED}}  ", does
