"""The page of keys, made from the tables: ``python scripts/key_page.py`` writes ``docs/keys.md``."""

from __future__ import annotations

from pathlib import Path

from wesperon.editing.keys.action_help import GROUPS
from wesperon.editing.keys.bindings import MODIFIERS, NAMED
from wesperon.editing.keys.modeless import MODELESS
from wesperon.editing.keys.resolver import spoken

PAGE = Path(__file__).parent.parent / "docs" / "keys.md"
HEAD = """# Keys

Made from the tables by `scripts/key_page.py`. `wesperon keys` shows what each key of your terminal sends and does;
`wesperon keys --list` prints this page with your own bindings in it. How to change them is in
[Editing](guide-editing.md).

- A count before a key repeats it: Alt with digits, Alt-- first for the other direction. Digits behind the first need no
  Alt.
- Escape and then a key is that key with Alt.
- What a key does is an act, named verb, unit, direction. Acts without a key can be bound.
"""
NAMES = """
## Names of keys

In a file of bindings, a key is a character or one of {named}, with {modifiers} before it. Keys of a sequence have
blanks between them. Letter case matters for single characters only, and not behind `ctrl-`.
"""


def shown(keys: str) -> str:
    """The keys in a cell of a table."""
    return f"`{spoken(keys)}`" if "`" not in keys else spoken(keys)


def page() -> str:
    """The text of the page."""
    parts = [HEAD]
    for group, acts in GROUPS.items():
        rows = [
            f"| {', '.join(shown(key) for key, name in MODELESS.items() if name == act)} | `{act}` | {does} |"
            for act, does in acts.items()
        ]
        parts.append("\n".join([f"\n## {group}\n", "| key | act | what it does |", "| --- | --- | --- |", *rows, ""]))
    named = ", ".join(f"`{name}`" for name in NAMED if not name[1:].isdigit())
    modifiers = ", ".join(f"`{modifier}`" for modifier in MODIFIERS)
    parts.append(NAMES.format(named=f"{named}, `f1` to `f20`", modifiers=modifiers))
    return "".join(parts)


if __name__ == "__main__":
    PAGE.write_text(page())
    print(PAGE)
