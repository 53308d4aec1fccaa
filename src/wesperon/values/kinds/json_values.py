"""Values of JSON (RFC 8259): an object, a list, a text in quotes, a number, true or false."""

from __future__ import annotations

import json

from wesperon.values import Complaint, tell
from wesperon.values.kind import Kind

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class JsonKind(Kind[object]):
    """What a JSON text means. ``null`` is none, since a value that is there is meant."""

    wanted = "a JSON value"
    example = '{"frames": 3}'
    placeholder = "JSON"
    is_structured = True

    def parse(self, text: str) -> object:
        """Return what the text means; raises Complaint where it is at fault."""
        try:
            value = json.loads(text, object_pairs_hook=_object, parse_constant=_no_number)
        except json.JSONDecodeError as error:
            raise Complaint(tell("is not a JSON value: {reason}", reason=error.msg), error.pos) from None
        except (ValueError, RecursionError) as error:
            raise Complaint(tell("is not a JSON value: {reason}", reason=str(error))) from None
        return self.validate(value)

    def format(self, value: object) -> str:
        """Return the text, on one line."""
        return json.dumps(value, ensure_ascii=False)

    def validate(self, value: Any) -> object:
        """Return the value; raises Complaint for what JSON cannot say, and for null."""
        if value is None:
            raise Complaint(tell("null is no value here: leave it out"))
        try:
            json.dumps(value, allow_nan=False)
        except (TypeError, ValueError, RecursionError):
            raise self.refused(value) from None
        return value


def _object(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """Return an object; raises ValueError for a name that is in it twice, of which one would be lost."""
    found: dict[str, Any] = {}
    for name, value in pairs:
        if name in found:
            raise ValueError(tell("{name} is in it twice", name=json.dumps(name)))
        found[name] = value
    return found


def _no_number(text: str) -> object:
    raise ValueError(tell("{name} is no number of JSON", name=text))


JSON = JsonKind()
