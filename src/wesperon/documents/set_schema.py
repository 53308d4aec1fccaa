"""JSON Schemas (draft 2020-12) of the files that declare sets of questions, made of the reader's tables."""

from __future__ import annotations

from wesperon.documents.choice_lists import CHOICE, CHOICES_FILE
from wesperon.documents.question_set import KEYS, SORTS, TESTS
from wesperon.documents.rule_tables import OTHERS
from wesperon.documents.rule_tables import SORTS as RULES
from wesperon.documents.slot_rules import NARROWED, rules
from wesperon.values.kinds.registry import KINDS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

DRAFT = "https://json-schema.org/draft/2020-12/schema"
TYPES = {str: "string", bool: "boolean", int: "integer", float: "number", list: "array", dict: "object"}
SLOT_NAME, COMMAND_NAME = "^[A-Za-z][A-Za-z0-9_]*$", "^[A-Za-z][A-Za-z0-9-]*$"


def set_schema() -> dict[str, Any]:
    """Return the schema of a set of questions."""
    own = {"slots": slots(KEYS), "rules": rule_list(), "commands": {"$ref": "#/$defs/commands"}}
    properties, level = {**said(), **own}, {"description": {"type": "string"}, **own}
    commands = {"type": "object", "propertyNames": {"pattern": COMMAND_NAME}, "additionalProperties": table(level)}
    return {
        "$schema": DRAFT,
        "title": "A set of questions",
        **table(properties),
        "anyOf": [{"required": [key], "properties": {key: {"minProperties": 1}}} for key in ("slots", "commands")],
        "$defs": {**definitions(), "commands": commands},
    }


def said() -> dict[str, Any]:
    """Return what both sets and guides may say at their top."""
    return {
        **{key: {"type": "string"} for key in ("name", "description", "version")},
        "choices": {"type": "object", "additionalProperties": {"$ref": "#/$defs/choices"}},
    }


def slots(keys: Mapping[str, tuple[tuple[type, ...], str]]) -> dict[str, Any]:
    """Return a table of slots that may say these keys."""
    slot = slot_table({name: key(name, *entry) for name, entry in keys.items()})
    return {"type": "object", "propertyNames": {"pattern": SLOT_NAME}, "additionalProperties": slot}


def rule_list() -> dict[str, Any]:
    """Return a list of rules: each of one sort, with the names of its slots."""
    name = {"type": "string", "pattern": SLOT_NAME}
    more: dict[str, Any] = {key: {"type": "string", "description": says} for key, says in OTHERS.items()}
    more["name"] = {**more["name"], "pattern": "^([A-Za-z][A-Za-z0-9_]*)?$"}
    found = []
    for sort in RULES:
        names = {"type": "array", "items": name, "minItems": 2, "uniqueItems": True}
        pair = {**names, "maxItems": 2}
        found.append(table({"needs": pair, "name": more["name"]} if sort == "needs" else {sort: names, **more}, sort))
    return {"type": "array", "items": {"oneOf": found}}


def slot_table(properties: Mapping[str, Any], *required: str) -> dict[str, Any]:
    """Return a table that declares a slot, with what its keys may say together."""
    return {**table(properties, *required), "allOf": rules()}


def key(name: str, types: tuple[type, ...], says: str) -> dict[str, Any]:
    """Return what one key may hold."""
    made: dict[str, Any] = {"description": says, **NARROWED.get(name, {})}
    if name == "kind":
        return {**made, "enum": list(KINDS)}
    if name == "applies":
        return {**made, "$ref": "#/$defs/condition"}
    if name == "choices":
        return {**made, "anyOf": [{"type": "string"}, {"$ref": "#/$defs/choices"}]}
    if types:
        names = [TYPES[one] for one in types]
        made["type"] = names[0] if len(names) == 1 else names
    return made


def definitions(conditions: Mapping[str, Any] | None = None) -> dict[str, Any]:
    """Return what is referred to; ``conditions`` are further things that a condition may say."""
    texts = {"type": ["string", "array"], "items": {"type": "string"}}
    choice = table({**{key: {"type": "string"} for key in CHOICE}, "value": {}, "aliases": texts}, "label")
    listed = {"type": "array", "minItems": 1, "items": {"anyOf": [{"type": ["string", "number"]}, choice]}}
    one = {"$ref": "#/$defs/condition"}
    several = {"type": "array", "minItems": 1, "items": one}
    wanted: dict[str, Any] = {"slot": {"type": "string"}, "all": several, "any": several, "not": one}
    value = {"type": ["string", "number", "boolean"]}
    tests = {test: {"type": "array", "items": value} if test == "one_of" else value for test in TESTS}
    by_slot = {**table({"slot": wanted["slot"], **tests}, "slot"), "maxProperties": 2}
    others = {**{sort: wanted[sort] for sort in SORTS if sort != "slot"}, **(conditions or {})}
    return {
        "choices": {"anyOf": [listed, table({key: {"type": "string"} for key in CHOICES_FILE}, "file")]},
        "condition": {"oneOf": [by_slot, *(table({sort: what}, sort) for sort, what in others.items())]},
    }


def table(properties: Mapping[str, Any], *required: str) -> dict[str, Any]:
    """Return a table with these keys and no others."""
    made = {"type": "object", "properties": dict(properties), "additionalProperties": False}
    return {**made, "required": list(required)} if required else made
