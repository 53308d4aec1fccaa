"""The page of keys, made from the tables: ``python scripts/key_page.py`` writes ``docs/keys.md``."""

from __future__ import annotations

from pathlib import Path

from wesperon.editing.keys import modal
from wesperon.editing.keys.action_help import ACTIONS, GROUPS, MODAL_GROUPS, layer_name
from wesperon.editing.keys.bindings import MODIFIERS, NAMED
from wesperon.editing.keys.modeless import LAYERS, TABLE
from wesperon.editing.keys.resolver import spoken

PAGE = Path(__file__).parent.parent / "docs" / "keys.md"
MODAL_PAGE = PAGE.with_name("keys-modal.md")
MODAL_HEAD = """# Keys of the modal family

For who edits with `vi`: what each key does in the modal family, to look up. It is turned on by `keys = "modal"` in
`preferences.toml`, `WESPERON_KEYS=modal`, or `keys="modal"` in a program ([Editing](guide-editing.md)).

Motions, operators, commands and what keys do while inserting are those of POSIX `vi` and of the `vi` line mode of
POSIX `sh`. In neither standard, but shared by several editors that follow them: selections, objects, keys that begin
with `g`, `q` that records, `*` and `#` in several lines, `Ctrl-R`, `Ctrl-A` and `Ctrl-O`.

- A line opens in insert mode, where keys do what they do in [the other family](keys.md); Escape goes to command mode.
  The mode is in the foot line, and the shape of the cursor shows it.
- In command mode a count is before a command, an operator waits for a motion (both may have a count), and `"` and a
  letter name a register; a capital adds to it. Enter accepts. What an insertion puts in is one step that can be undone.
- Where the two standards differ, several lines follow `vi`, and one line follows the line mode of `sh`; so does the
  line of a console until it has several.
- Escape acts at once, also if another key follows it immediately.

The page is made from the tables by `scripts/key_page.py`.
"""
HEAD = """# Keys

What each key does in a text, a line, a menu, to look up. `wesperon keys` shows what each key of your terminal sends and
does; `wesperon keys --list` prints this page with your own bindings in it. How to change them is in
[Editing](guide-editing.md); the keys of the other family are in [Keys of the modal family](keys-modal.md).

- A count before a key repeats it: Alt with digits, Alt-- first for the other direction. Digits after the first need no
  Alt.
- Escape and then a key is that key with Alt.
- What a key does is an action, named verb, unit, direction. Actions without a key can be bound.
- In menus, checkboxes and the like, keys do what the tables at the end say; everything else is as in a line.

The page is made from the tables by `scripts/key_page.py`.
"""
NAMES = """
## Names of keys

In a file of bindings, a key is a character or one of {named}, with {modifiers} before it. Keys of a sequence have
blanks between them. Letter case matters for single characters only, and not after `ctrl-`.
"""


def shown(keys: str) -> str:
    """Return the keys in a cell of a table."""
    text = spoken(keys).replace("|", "\\|")
    return f"`{text}`" if "`" not in text else f"`` {text} ``"


def row(keys: list[str], action: str, does: str) -> str:
    """Return a row of a table; an action without a key is that of an operator that is typed twice."""
    named = ", ".join(dict.fromkeys(keys)) or "the operator again"
    return f"| {named} | `{action}` | {does.replace('`', '`` ` ``')} |"


def page() -> str:
    """Return the text of the page."""
    parts = [HEAD]
    heading = ["| key | action | what it does |", "| --- | --- | --- |"]
    for group, actions in GROUPS.items():
        rows = [
            row([shown(key) for key, name in TABLE.items() if name == action] or ["none"], action, does)
            for action, does in actions.items()
        ]
        parts.append("\n".join([f"\n## {group}\n", *heading, *rows, ""]))
    for layer, table in LAYERS.items():
        rows = [f"| {shown(key)} | `{action}` | {ACTIONS[action]} |" for key, action in table.items()]
        parts.append("\n".join([f"\n## In {layer_name(layer)}\n", *heading, *rows, ""]))
    named = ", ".join(f"`{name}`" for name in NAMED if not name[1:].isdigit())
    modifiers = ", ".join(f"`{modifier}`" for modifier in MODIFIERS)
    parts.append(NAMES.format(named=f"{named}, `f1` to `f20`", modifiers=modifiers))
    return "".join(parts)


def modal_page() -> str:
    """Return the text of the page of the modal family."""
    parts = [MODAL_HEAD]
    heading = ["| key | action | what it does |", "| --- | --- | --- |"]
    named = set()
    for group, actions in MODAL_GROUPS.items():
        rows = []
        for action, does in actions.items():
            tables: tuple[dict[str, str], ...] = (modal.COMMAND, modal.OPERATOR, modal.VISUAL_TABLE, modal.ONE_LINE)
            if group == "While inserting" or action == "mode-command":
                tables = (modal.INSERT,)
            elif group == "Choices":
                tables = (modal.MENU,)
            keys = [shown(key) for table in tables for key, name in table.items() if name == action]
            rows.append(row(keys, action, does))
            named.add(action)
        parts.append("\n".join([f"\n## {group}\n", *heading, *rows, ""]))
    rest = [(key, name) for key, name in modal.COMMAND.items() if name not in named and TABLE.get(key) != name]
    tables_of = {
        "What else is in command mode": rest,
        "What keys of command mode do in one line": list(modal.ONE_LINE.items()),
        "In menus, checkboxes and the last look": list(modal.MENU.items()),
    }
    for title, table in tables_of.items():
        rows = [row([shown(key)], name, ACTIONS[name]) for key, name in table]
        parts.append("\n".join([f"\n## {title}\n", *heading, *rows, ""]))
    return "".join(parts)


if __name__ == "__main__":
    PAGE.write_text(page())
    MODAL_PAGE.write_text(modal_page())
    print(PAGE, MODAL_PAGE)
