"""The JSON Schema (draft 2020-12) of the files that hold guides, made of the reader's tables."""

from __future__ import annotations

from wesperon.documents.question_set import KEYS
from wesperon.documents.set_schema import DRAFT, SLOT_NAME, definitions, key, said, table
from wesperon.guides.reader import QUESTION, STEP

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


def guide_schema() -> dict[str, Any]:
    """The schema of a guide."""
    keys = {**STEP, **{key: KEYS[key] for key in QUESTION}}
    step = {name: key(name, *entry) for name, entry in keys.items()}
    way = table({"when": {"$ref": "#/$defs/condition"}, "to": {"type": "string"}}, "to")
    step["next"] = {
        "description": STEP["next"][1],
        "oneOf": [
            {"type": "string"},
            {"type": "object", "additionalProperties": {"type": "string"}},
            {"type": "array", "items": way, "minItems": 1},
        ],
    }
    steps = {
        "type": "object",
        "minProperties": 1,
        "propertyNames": {"pattern": SLOT_NAME},
        "additionalProperties": table(step),
    }
    properties = {**said(), "start": {"type": "string"}, "steps": steps}
    return {
        "$schema": DRAFT,
        "title": "A guide",
        **table(properties, "steps"),
        "$defs": definitions({"learned": {"type": "string"}}),
    }
