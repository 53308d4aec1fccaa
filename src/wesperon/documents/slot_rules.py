"""What the keys of a slot in a file may hold, and which of them go together, as JSON Schema says it.

The reader finds the same by declaring the slot (``values.examination``). What only the names and the texts of a file
decide is not here: that a bound can be read, that a choice is there, that two names differ.
"""

from __future__ import annotations

from wesperon.values.examination import PLACES
from wesperon.values.kinds.registry import KINDS, kind_named

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    Schema = dict[str, Any]

#: A name that a slot had.
OLD_NAME = "^[A-Za-z][A-Za-z0-9_-]*$"
#: Letters and digits, each once.
LETTERS = r"^(?!.*(.).*\1)([^\W\d_]|[0-9])+$"
#: What a key may hold, beyond its type.
NARROWED: dict[str, Schema] = {
    "exists": {"enum": list(PLACES)},
    "suggest_as": {"enum": ["", "list", "grid", "inline"]},
    "short": {"pattern": LETTERS},
    "short_no": {"pattern": LETTERS},
    "rest": {"enum": [True, False, "verbatim"]},
    "repeats": {"enum": ["error", "last"]},
    "help": {"not": {"enum": [True]}},
    "mask": {"maxLength": 1},
    "env": {"pattern": r"^[^\s=\x00]+$"},
    "secret": {"enum": [True, False, "anywhere"]},
    "step": {"not": {"enum": [0]}},
    "least": {"minimum": 0},
    "most": {"minimum": 1},
    "renamed_from": {"pattern": OLD_NAME, "items": {"type": "string", "pattern": OLD_NAME}},
    "suggest": {"items": {"type": "string"}, "additionalProperties": {"type": "string"}},
}
#: The kinds that are made of choices.
OF_CHOICES = ("one-of", "any-of")


def rules() -> list[Schema]:
    """Return what the keys of a slot may say together, a schema for each rule."""
    plain = {name: kind_named(name, {}) for name in KINDS if name not in OF_CHOICES}
    bounded = {name: kind.bounded for name, kind in plain.items() if kind.bounded}
    with_lines = [
        name for name, kind in plain.items() if kind.shape.takes_text and not (kind.has_steps or kind.leads_somewhere)
    ]
    secret = _holds("secret", True, "anywhere")
    several = {"anyOf": [_holds("many", True), _holds("rest", True, "verbatim"), _is("pairs")]}
    others = (_holds("piped", True), _holds("named_only", True), _has("applies"))
    counted = {"anyOf": [*several["anyOf"], _is("any-of")]}
    found = [
        {"if": _is(*OF_CHOICES), "then": _has("choices"), "else": _not(_has("choices"))},
        _if(_has("pattern"), _is(*(name for name, by in bounded.items() if by == "length"))),
        _if(_holds("pattern_says", longer=0), _has("pattern")),
        _if(_has("exists"), _is(*(name for name, kind in plain.items() if kind.leads_somewhere))),
        _if(_has("step"), _is(*(name for name, kind in plain.items() if kind.has_steps))),
        _if({"anyOf": [_has("low"), _has("high")]}, _is(*bounded)),
        _if(secret, _not(_is("boolean", *OF_CHOICES))),
        _if(_holds("many", True), _not(_is("any-of"))),
        _if(_holds("rest", True, "verbatim"), _not(_is("boolean", "any-of"))),
        _if(_holds("rest", True, "verbatim"), _not(_holds("many", True))),
        _if(_holds("lines", True), {"allOf": [_is(*with_lines), _not(secret), _not(several)]}),
        _if(_holds("twice", True), secret),
        _if(_has("short_no"), _is("boolean")),
        _if(_has("alone"), _not({"anyOf": [secret, _is("boolean", "pairs"), _holds("rest", True, "verbatim")]})),
        _if(_holds("rest", "verbatim"), {"allOf": [_is("text"), *map(_not, others)]}),
        _if(_holds("repeats", "last"), _not({"anyOf": [_holds("many", True), _holds("rest", True, "verbatim")]})),
        _if({"anyOf": [_has("most"), _holds("least", above=0)]}, counted),
        _if(_has("initial"), {"allOf": [_not(_has("default")), {"anyOf": [_holds("initial", None), _not(secret)]}]}),
        _if(_holds("initial", None), _not(counted)),
        _if(_is("pairs"), _not(_has("suggest"))),
    ]
    for name, by in bounded.items():
        bound = {"type": "integer"} if by == "length" else _value_of(name)
        found.append(_if(_is(name), {"properties": {"low": bound, "high": bound}}))
    for name in KINDS:
        one = {"type": ["string", "number", "boolean", "null"]} if name in OF_CHOICES else _value_of(name, empty=True)
        listed = {"type": "array", "items": one}
        is_set = {} if name == "any-of" else several
        for key in ("default", "initial"):
            both = {"properties": {key: {"anyOf": [one, listed]}}}
            found.append(_if(_is(name), {"if": is_set, "then": both, "else": {"properties": {key: one}}}))
        alone = _value_of(name) if name not in OF_CHOICES else {"anyOf": [one, listed]} if name == "any-of" else one
        found.append(_if(_is(name), {"properties": {"alone": alone}}))
    return found


def _value_of(name: str, *, empty: bool = False) -> Schema:
    """Return a value of a kind in a file: a text, or its own type."""
    types = ["string", *{KINDS[name].json} - {"string"}, *(["null"] if empty else [])]
    return {"type": types}


def _is(*names: str) -> Schema:
    """Return a slot of one of these kinds; without a name it is text, or one of its choices."""
    unnamed = [_not(_has("choices"))] * ("text" in names) + [_has("choices")] * ("one-of" in names)
    return {
        "anyOf": [
            {"properties": {"kind": {"enum": list(names)}}, "required": ["kind"]},
            *({"allOf": [_not(_has("kind")), one]} for one in unnamed),
        ]
    }


def _has(key: str) -> Schema:
    return {"required": [key]}


def _holds(key: str, *values: object, above: int | None = None, longer: int | None = None) -> Schema:
    """Return a slot whose key has one of some values, or one above a number, or a text that is longer."""
    held: Schema = {"enum": list(values)} if values else {}
    if above is not None:
        held = {"exclusiveMinimum": above}
    if longer is not None:
        held = {"minLength": longer + 1}
    return {"properties": {key: held}, "required": [key]}


def _if(condition: Schema, then: Schema) -> Schema:
    return {"if": condition, "then": then}


def _not(schema: Schema) -> Schema:
    return {"not": schema}
