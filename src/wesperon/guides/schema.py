"""The JSON Schema (draft 2020-12) of the files that hold guides, made of the reader's tables."""

from __future__ import annotations

from wesperon.documents.question_set import KEYS
from wesperon.documents.set_schema import DRAFT, SLOT_NAME, definitions, key, said, slot_table, table
from wesperon.guides.reader import QUESTION, STEP

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


def guide_schema() -> dict[str, Any]:
    """Return the schema of a guide."""
    keys = {**STEP, **{key: KEYS[key] for key in QUESTION}}
    step = {name: key(name, *entry) for name, entry in keys.items()}
    way = table({"when": {"$ref": "#/$defs/condition"}, "to": {"type": "string"}}, "to")
    step["next"] = {
        "description": STEP["next"][1],
        "oneOf": [
            {"type": "string"},
            {"type": "object", "additionalProperties": {"type": "string"}},
            # The last one goes without a condition.
            {"type": "array", "items": way, "contains": {"not": {"required": ["when"]}}, "maxContains": 1},
        ],
    }
    asks = {"anyOf": [{"required": [name]} for name in QUESTION]}
    ends = {"required": ["ends"], "properties": {"ends": {"not": {"const": False}}}}
    declared = slot_table(step)
    declared["allOf"] += [
        {"anyOf": [{"required": ["says"], "properties": {"says": {"minLength": 1}}}, asks, ends]},
        {"if": ends, "then": {"not": {"required": ["next"]}}, "else": {"required": ["next"]}},
        {"if": {"required": ["next"], "properties": {"next": {"type": "object"}}}, "then": asks},
    ]
    steps = {
        "type": "object",
        "minProperties": 1,
        "propertyNames": {"pattern": SLOT_NAME},
        "additionalProperties": declared,
    }
    properties = {**said(), "start": {"type": "string"}, "steps": steps}
    return {
        "$schema": DRAFT,
        "title": "A guide",
        **table(properties, "steps"),
        "$defs": definitions({"learned": {"type": "string"}}),
    }
