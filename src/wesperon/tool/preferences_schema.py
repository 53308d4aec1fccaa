"""The JSON Schema of ``preferences.toml`` (draft 2020-12), made from the tables."""

from __future__ import annotations

from wesperon.editing.keys.families import FAMILIES, family_named
from wesperon.screen.themes import ROLES
from wesperon.widgets.preferences import ALL, MEANINGS, NUMBERS, PREFERENCES, SWITCHES

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


def schema() -> dict[str, Any]:
    """Return the schema; what it allows the reader takes without a fault, but for names of keys and actions."""
    does = {
        "oneOf": [
            {"type": "string"},
            {
                "type": "object",
                "properties": {"text": {"type": "string"}},
                "required": ["text"],
                "additionalProperties": False,
            },
        ]
    }
    families = {
        name: {
            "type": "object",
            "properties": {mode: {"type": "object", "additionalProperties": does} for mode in family_named(name).modes},
            "additionalProperties": does,
        }
        for name in FAMILIES
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "What a user prefers",
        "type": "object",
        "properties": {
            **{
                name: (
                    {"type": "boolean", "description": MEANINGS[name]}
                    if name in SWITCHES
                    else {"enum": list(one.values()), "description": MEANINGS[name]}
                    if name not in NUMBERS
                    else {"anyOf": [{"const": ALL}, {"type": "integer", "minimum": 1}], "description": MEANINGS[name]}
                )
                for name, one in PREFERENCES.items()
            },
            "roles": {
                "type": "object",
                "description": "what roles of text look like, over the theme",
                "properties": {role: {"type": "string", "description": what} for role, what in ROLES.items()},
                "additionalProperties": False,
            },
            "bindings": {
                "type": "object",
                "description": "keys, and what they do: an action, a function of the program, or a text",
                "properties": families,
                "additionalProperties": does,
            },
        },
        "additionalProperties": False,
    }
