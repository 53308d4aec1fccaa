"""What a command returns, printed for other programs: JSON, CSV, YAML. A series is printed as it comes."""

from __future__ import annotations

import csv
import io
import json

from wesperon.context import current
from wesperon.output.result_texts import fields_of, for_stream, formatted, text_of
from wesperon.values import tell
from wesperon.values.problems import Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any


#: The end of a line of RFC 4180; a line feed is written.
CRLF = "\r\n"


def write_json(result: Any) -> None:
    """Print a result as JSON (RFC 8259)."""
    if not hasattr(result, "__next__"):
        current().print(json_text(plain(result), indent=2))
        return
    begun, before = False, ""
    for item in result:
        current().print(f"{before}," if begun else "[")
        begun, before = True, "  " + json_text(plain(item), indent=2).replace("\n", "\n  ")
    current().print(f"{before}\n]" if begun else "[]")


def write_csv(result: Any) -> None:
    """Print rows as CSV: the fields of RFC 4180, the names of all rows above, a line feed after each row.

    A row has the texts that the command line takes for its values, several values as JSON. Of a series that is not kept
    the names are those of the first row. Raises Refusal for what is no table.
    """
    rows = [result] if fields_of(result) is not None or not _is_series(result) else result
    known = [] if hasattr(rows, "__next__") else [*dict.fromkeys(name for row in rows for name in fields_of(row) or ())]
    is_empty = True
    for row in rows:
        fields = fields_of(row)
        if fields is None:
            raise Refusal(tell("CSV is for tables, rows of names and values, and this is none: --as json has it"))
        if is_empty:
            known, is_empty = known or [*fields], False
            _print_row([str(name) for name in known])
        if not fields.keys() <= {*known}:
            raise Refusal(tell("a row has other names than the first: --as json has them"))
        _print_row([_cell(fields.get(name)) for name in known])
    if is_empty:
        current().print(tell("no rows"), error=True)


def _print_row(cells: list[str]) -> None:
    line = io.StringIO()
    csv.writer(line, lineterminator=CRLF).writerow(cells)  # which has it put both into quotes
    current().print(for_stream(line.getvalue().removesuffix(CRLF)))


def _cell(value: Any) -> str:
    is_several = fields_of(value) is not None or _is_series(value)
    return json_text(plain(value)) if is_several else text_of(value)


def write_yaml(result: Any) -> None:
    """Print a result as YAML 1.1, in which JSON data are; raises Refusal where the extra for YAML is not installed."""
    try:
        import yaml
    except ImportError:
        raise Refusal(tell("YAML needs the extra: pip install 'wesperon[yaml]'")) from None

    def dump(data: Any) -> None:
        said = json.dumps(data, ensure_ascii=False)
        bare = json.loads(said)  # without the types of the program's own
        is_safe = said.isprintable() and _is_encodable(said)  # else in escapes: some line ends are read as blanks
        text: str = yaml.safe_dump(bare, sort_keys=False, allow_unicode=is_safe, width=10_000)
        current().print(for_stream(text.removesuffix("\n").removesuffix("\n...")))

    if not hasattr(result, "__next__"):
        dump(plain(result))
        return
    is_empty = True
    for item in result:
        dump([plain(item)])
        is_empty = False
    if is_empty:
        current().print("[]")


#: How each form but the text is printed, by its word.
WRITERS: Mapping[str, Callable[[Any], None]] = {"json": write_json, "csv": write_csv, "yaml": write_yaml}


def json_text(value: Any, indent: int | None = None) -> str:
    """Return a value as JSON (RFC 8259) for standard output; what acts on a terminal or is not encodable is escaped."""
    text = json.dumps(value, ensure_ascii=False, indent=indent, default=str)
    if not _is_encodable(text):
        return json.dumps(value, indent=indent, default=str)
    if text.isprintable():
        return text
    return "".join([char if char.isprintable() or char == "\n" else _escaped(char) for char in text])


def _is_encodable(text: str) -> bool:
    """Return False for words that are no UTF-8, and for an output that has fewer characters."""
    try:
        text.encode(getattr(current().stdout, "encoding", None) or "utf-8")
    except UnicodeEncodeError:
        return False
    return True


def _escaped(char: str) -> str:
    """Return a character of a JSON string as JSON escapes it."""
    return json.dumps(char)[1:-1]


def plain(value: Any) -> Any:
    """Return the value as JSON has it: records as objects, series as arrays."""
    fields = fields_of(value)
    if fields is not None:
        return {str(name): plain(item) for name, item in fields.items()}
    if isinstance(value, float) and value - value != 0:
        return str(value)  # JSON has no infinity, nor what is no number
    if isinstance(value, (str, int, float, type(None))):
        return value
    if _is_series(value):
        return [plain(item) for item in value]
    return formatted(value)


def _is_series(value: Any) -> bool:
    return hasattr(value, "__iter__") and not isinstance(value, (str, bytes, bytearray))
