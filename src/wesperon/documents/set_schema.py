"""JSON Schemas (draft 2020-12) of the files that declare sets of questions, made of the reader's tables."""

from __future__ import annotations

from wesperon.documents.choice_lists import CHOICE, CHOICES_FILE
from wesperon.documents.question_set import KEYS, TESTS
from wesperon.values.kinds.registry import KINDS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

DRAFT = "https://json-schema.org/draft/2020-12/schema"
TYPES = {str: "string", bool: "boolean", int: "integer", float: "number", list: "array", dict: "object"}
SLOT_NAME, COMMAND_NAME = "^[A-Za-z][A-Za-z0-9_]*$", "^[A-Za-z][A-Za-z0-9-]*$"


def set_schema() -> dict[str, Any]:
    """The schema of a set of questions."""
    properties = {**said(), "slots": slots(KEYS), "commands": {"$ref": "#/$defs/commands"}}
    level = {"description": {"type": "string"}, "slots": slots(KEYS), "commands": {"$ref": "#/$defs/commands"}}
    commands = {"type": "object", "propertyNames": {"pattern": COMMAND_NAME}, "additionalProperties": table(level)}
    return {
        "$schema": DRAFT,
        "title": "A set of questions",
        **table(properties),
        "anyOf": [{"required": ["slots"]}, {"required": ["commands"]}],
        "$defs": {**definitions(), "commands": commands},
    }


def said() -> dict[str, Any]:
    """What both sets and guides may say at their top."""
    return {
        **{key: {"type": "string"} for key in ("name", "description", "version")},
        "choices": {"type": "object", "additionalProperties": {"$ref": "#/$defs/choices"}},
    }


def slots(keys: Mapping[str, tuple[tuple[type, ...], str]]) -> dict[str, Any]:
    """A table of slots that may say these keys."""
    slot = table({name: key(name, *entry) for name, entry in keys.items()})
    return {"type": "object", "propertyNames": {"pattern": SLOT_NAME}, "additionalProperties": slot}


def key(name: str, types: tuple[type, ...], says: str) -> dict[str, Any]:
    """What one key may hold."""
    made: dict[str, Any] = {"description": says}
    if name == "kind":
        return {**made, "enum": list(KINDS)}
    if name == "applies":
        return {**made, "$ref": "#/$defs/condition"}
    if name == "choices":
        return {**made, "oneOf": [{"type": "string"}, {"$ref": "#/$defs/choices"}]}
    if types:
        names = [TYPES[one] for one in types]
        made["type"] = names[0] if len(names) == 1 else names
    return made


def definitions(conditions: Mapping[str, Any] | None = None) -> dict[str, Any]:
    """What is referred to; ``conditions`` are further things that a condition may say."""
    choice = table(
        {**{key: {"type": "string"} for key in CHOICE}, "value": {}, "aliases": {"type": ["string", "array"]}}, "label"
    )
    listed = {"type": "array", "minItems": 1, "items": {"anyOf": [{"type": ["string", "number"]}, choice]}}
    several = {"type": "array", "items": {"$ref": "#/$defs/condition"}}
    condition = {
        "slot": {"type": "string"}, **{test: {} for test in TESTS}, "one_of": {"type": "array"},
        "all": several, "any": several, "not": {"$ref": "#/$defs/condition"}, **(conditions or {}),
    }  # fmt: skip
    return {
        "choices": {"oneOf": [listed, table({key: {"type": "string"} for key in CHOICES_FILE}, "file")]},
        "condition": table(condition),
    }


def table(properties: Mapping[str, Any], *required: str) -> dict[str, Any]:
    """What both sets and guides may say at their top."""
    made = {"type": "object", "properties": dict(properties), "additionalProperties": False}
    return {**made, "required": list(required)} if required else made
