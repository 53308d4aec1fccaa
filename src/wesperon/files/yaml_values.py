"""What a YAML document says: texts, lists and tables, with the numbers and switches of the core schema or without.

The scanner and the parser are those of PyYAML. What a plain scalar means is decided here, by the core schema of YAML
1.2.2 (10.3), not by the types of YAML 1.1, for which ``10:30`` is the number 630, ``no`` a switch, and ``010`` eight.
For answers no scalar is anything but a text, or nothing (``null``): the kind of the value says what it means.
"""

from __future__ import annotations

import re

import yaml

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

#: The tag of a scalar without quotes and without a tag.
PLAIN = "plain"
YAML = "tag:yaml.org,2002:"
NOTHING = ("", "~", "null", "Null", "NULL")
SWITCHES = {"true": True, "True": True, "TRUE": True, "false": False, "False": False, "FALSE": False}
#: The numbers of the core schema, and what reads each.
NUMBERS: tuple[tuple[re.Pattern[str], Callable[[str], Any]], ...] = (
    (re.compile(r"[-+]?[0-9]+"), int),
    (re.compile(r"0o[0-7]+"), lambda text: int(text[2:], 8)),
    (re.compile(r"0x[0-9a-fA-F]+"), lambda text: int(text[2:], 16)),
    (re.compile(r"[-+]?(\.[0-9]+|[0-9]+(\.[0-9]*)?)([eE][-+]?[0-9]+)?"), float),
    (re.compile(r"[-+]?\.(inf|Inf|INF)"), lambda text: float(text.replace(".", "", 1))),
    (re.compile(r"\.(nan|NaN|NAN)"), lambda text: float("nan")),
)
#: The tags of scalars that are read as if they were not there.
OF_SCALARS = tuple(YAML + name for name in ("int", "float", "bool", "timestamp"))
#: How many values a document may have once all that is named more than once is written out.
MOST_VALUES = 1_000_000
MERGE = "<<"


class _Loader(yaml.SafeLoader):
    """Makes nodes, and leaves open what a plain scalar means."""

    def resolve(self, kind: type[Any], value: Any, implicit: Any) -> str:
        """Return the tag of a node that has none."""
        if kind is yaml.ScalarNode:
            return PLAIN if implicit[0] else YAML + "str"
        return YAML + ("seq" if kind is yaml.SequenceNode else "map")


def load(text: str, *, as_texts: bool) -> Any:
    """Return what a document says; raises ValueError.

    ``as_texts``: each scalar is a text, or None.
    """
    try:
        node = yaml.compose(text, Loader=_Loader)
        return None if node is None else _Maker(as_texts=as_texts).value(node)
    except yaml.YAMLError as error:
        raise ValueError(" ".join(str(error).split())) from error


class _Maker:
    """Makes values of nodes; of a node that is named more than once one value."""

    def __init__(self, *, as_texts: bool) -> None:
        self.as_texts = as_texts
        self.made: dict[int, tuple[Any, int]] = {}
        self.open: set[int] = set()

    def value(self, node: Any) -> Any:
        """Return the value of a node."""
        return self._made(node)[0]

    def _made(self, node: Any) -> tuple[Any, int]:
        """Return the value of a node, and how many values are in it, written out."""
        if isinstance(node, yaml.ScalarNode):
            return self._scalar(node), 1
        if id(node) in self.open:
            raise RecursionError
        if id(node) not in self.made:
            self.open.add(id(node))
            made = self._list(node) if isinstance(node, yaml.SequenceNode) else self._table(node)
            self.open.discard(id(node))
            if made[1] > MOST_VALUES:
                raise ValueError(
                    f"more than {MOST_VALUES:,} values, once all that is named more than once is written out"
                )
            self.made[id(node)] = made
        return self.made[id(node)]

    def _scalar(self, node: Any) -> Any:
        text, tag = str(node.value), str(node.tag)
        if tag == YAML + "str":
            return text
        if tag == YAML + "null" or (tag == PLAIN and text in NOTHING):
            return None
        if tag != PLAIN and tag not in OF_SCALARS:
            raise _fault(node, f"the tag {shown(tag)!r} is unknown here: leave it out")
        if self.as_texts or tag == YAML + "timestamp":
            return text
        if tag in (PLAIN, YAML + "bool") and text in SWITCHES:
            return SWITCHES[text]
        for pattern, read in NUMBERS if tag != YAML + "bool" else ():
            if pattern.fullmatch(text):
                return read(text) if tag != YAML + "float" else float(read(text))
        if tag != PLAIN:
            raise _fault(node, f"{text!r} is not what its tag {shown(tag)!r} says")
        return text

    def _list(self, node: Any) -> tuple[Any, int]:
        _only(node, "seq")
        items = [self._made(one) for one in node.value]
        return [value for value, _ in items], 1 + sum(count for _, count in items)

    def _table(self, node: Any) -> tuple[Any, int]:
        _only(node, "map")
        made: dict[str, Any] = {}
        merged: dict[str, Any] = {}
        total = 1
        for key, entry in node.value:
            value, count = self._made(entry)
            total += count
            if not isinstance(key, yaml.ScalarNode) or (key.tag == PLAIN and key.value in NOTHING):
                raise _fault(key, "a key is a text: put it in quotes")
            name = str(key.value)
            if name == MERGE and key.tag == PLAIN:
                for table in value if isinstance(value, list) else [value]:
                    if not isinstance(table, dict):
                        raise _fault(key, "<< takes a table, or a list of tables")
                    merged = {**table, **merged}
            elif name in made:
                raise _fault(key, f"the key {name!r} is given twice")
            else:
                made[name] = value
        return {**merged, **made}, total


def shown(tag: str) -> str:
    """Return a tag as it is written."""
    return tag.replace(YAML, "!!")


def _only(node: Any, name: str) -> None:
    if node.tag != YAML + name:
        raise _fault(node, f"the tag {shown(str(node.tag))!r} is unknown here: leave it out")


def _fault(node: Any, reason: str) -> ValueError:
    return ValueError(f"{reason} (at line {node.start_mark.line + 1}, column {node.start_mark.column + 1})")
