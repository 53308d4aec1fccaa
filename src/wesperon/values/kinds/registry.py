"""The registry of kinds: one entry for each, by its name in files. Loaded for every type that is not built in.

An entry says where the kind is, which types name it, and how a value of it is written in a JSON or TOML file.
Everything else is in the kind's own file: its parser, its formatter, which question asks for it (``Kind.question``),
what completes it (``Kind.completion``), and its steps. To add a kind, write its file and one entry here;
``CONTRIBUTING.md`` shows how.
"""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

    from wesperon.values.kind import Kind


class KindEntry(Frozen):
    """One kind.

    ``home`` is ``module:name`` of an object: the kind itself, or a function ``(type, settings)`` that
    makes it. ``types`` are the types that name it, written ``module.Name``; those that end in ``+`` mean derived
    classes too. ``json`` is the type in JSON Schema of a value in a file; a text is accepted for every kind.
    """

    home: str
    types: tuple[str, ...]
    json: str = "string"


#: Name in files to entry.
KINDS: dict[str, KindEntry] = {
    "text": KindEntry("wesperon.values.kind:TEXT", ("builtins.str",)),
    "integer": KindEntry("wesperon.values.kind:INT", ("builtins.int",), "integer"),
    "number": KindEntry("wesperon.values.kind:FLOAT", ("builtins.float",), "number"),
    "decimal": KindEntry("wesperon.values.kinds.decimal:make", ("decimal.Decimal",), "number"),
    "boolean": KindEntry("wesperon.values.kind:BOOL", ("builtins.bool",), "boolean"),
    "date": KindEntry("wesperon.values.kinds.dates:DATE", ("datetime.date",)),
    "date-time": KindEntry("wesperon.values.kinds.dates:DATE_TIME", ("datetime.datetime",)),
    "time": KindEntry("wesperon.values.kinds.dates:TIME", ("datetime.time",)),
    "duration": KindEntry("wesperon.values.kinds.dates:DURATION", ("datetime.timedelta",)),
    "path": KindEntry("wesperon.values.kinds.path:make", ("pathlib.PurePath+",)),
    "one-of": KindEntry("wesperon.values.kinds.enum:make", ("enum.Enum+",)),
    "any-of": KindEntry("", (), "array"),
    "size": KindEntry("wesperon.values.kinds.sizes:SIZE", (), "integer"),
    "percent": KindEntry("wesperon.values.kinds.percents:PERCENT", (), "number"),
    "ranges": KindEntry("wesperon.values.kinds.ranges:RANGES", ()),
    "mode": KindEntry("wesperon.values.kinds.modes:MODE", ()),
    "url": KindEntry("wesperon.values.kinds.urls:URL", ()),
    "email": KindEntry("wesperon.values.kinds.emails:EMAIL", ()),
    "json": KindEntry("wesperon.values.kinds.json_values:JSON", (), "object"),
    "address": KindEntry("wesperon.values.kinds.addresses:make", ("ipaddress.IPv4Address", "ipaddress.IPv6Address")),
    "network": KindEntry(
        "wesperon.values.kinds.addresses:make_network",
        (
            *("ipaddress.IPv4Network", "ipaddress.IPv6Network"),
            *("ipaddress.IPv4Interface", "ipaddress.IPv6Interface"),
        ),
    ),
    "uuid": KindEntry("wesperon.values.kinds.uuids:KIND", ("uuid.UUID",)),
    "pattern": KindEntry("wesperon.values.kinds.patterns:KIND", ("re.Pattern",)),
    "time-zone": KindEntry("wesperon.values.kinds.zones:KIND", ("zoneinfo.ZoneInfo",)),
    "pairs": KindEntry("wesperon.values.kinds.pairs:make", ("builtins.dict+",), "object"),
}

#: Type, as ``module.Name``, to the name of its kind.
BY_TYPE: dict[str, str] = {type_name: name for name, entry in KINDS.items() for type_name in entry.types}


def kind_named(name: str, settings: Mapping[str, Any]) -> Kind[Any]:
    """Return the kind with this name in files; not for those that are made of choices."""
    if len(KINDS[name].types) != 1:  # of no type, or of all of them
        return _made(name, None, settings)
    type_name = KINDS[name].types[0].removesuffix("+")
    module, _, attribute = type_name.rpartition(".")
    if attribute == "PurePath":
        attribute = "Path"
    return _made(name, getattr(__import__(module), attribute), settings)


def find_kind(given: type, settings: Mapping[str, Any]) -> Kind[Any] | None:
    """Return the kind that a type names; None if it names none."""
    name = BY_TYPE.get(_name_of(given))
    if name is None:
        derived = (BY_TYPE.get(_name_of(base) + "+") for base in given.__mro__)
        name = next((found for found in derived if found), None)
    return None if name is None else _made(name, given, settings)


def _name_of(given: type) -> str:
    return f"{given.__module__.partition('.')[0]}.{given.__qualname__}"


def _made(name: str, given: type | None, settings: Mapping[str, Any]) -> Kind[Any]:
    module, _, attribute = KINDS[name].home.partition(":")
    home: Any = getattr(__import__(module, fromlist=[attribute]), attribute)
    kind: Kind[Any] = home(given, settings) if callable(home) else home
    return kind
