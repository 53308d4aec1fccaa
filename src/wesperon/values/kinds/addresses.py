"""Addresses, networks and interfaces of the Internet Protocol, as :mod:`ipaddress` reads them."""

from __future__ import annotations

import ipaddress

from wesperon.values import tell
from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

#: What each type is called, and an example. The addresses are those that RFC 5737 and RFC 3849 keep for that.
WORDS: dict[type, tuple[str, str]] = {
    ipaddress.IPv4Address: ("an IPv4 address", "192.0.2.7"),
    ipaddress.IPv6Address: ("an IPv6 address", "2001:db8::7"),
    ipaddress.IPv4Network: ("an IPv4 network", "192.0.2.0/24"),
    ipaddress.IPv6Network: ("an IPv6 network", "2001:db8::/32"),
    ipaddress.IPv4Interface: ("an IPv4 interface", "192.0.2.7/24"),
    ipaddress.IPv6Interface: ("an IPv6 interface", "2001:db8::7/32"),
}
#: The same where both versions will do, as in files.
EITHER: dict[str, tuple[Callable[[str], Any], str, str]] = {
    "address": (ipaddress.ip_address, "an IP address", "192.0.2.7"),
    "network": (ipaddress.ip_network, "an IP network", "192.0.2.0/24"),
}
TYPES = {
    "address": (ipaddress.IPv4Address, ipaddress.IPv6Address),
    "network": (ipaddress.IPv4Network, ipaddress.IPv6Network),
}


class AddressKind(Kind["Any"]):
    """An address, a network or an interface; an address has an order and steps."""

    def __init__(self, made: Callable[[str], Any], types: tuple[type, ...], wanted: str, example: str) -> None:
        self.made, self.types, self.wanted, self.example = made, types, wanted, example
        self.placeholder = "NETWORK" if "/" in example else "ADDRESS"
        self.has_steps = self.placeholder == "ADDRESS" and len(types) == 1
        self.bounded = "value" if self.has_steps else ""
        self.question = "spin" if self.has_steps else "line"

    def parse(self, text: str) -> Any:
        """Return what the text means; raises Complaint."""
        try:
            return self.made(text)
        except ValueError as error:
            hint = tell("; it has bits after the network") if "host bits" in str(error) else ""
            raise no_value(self, text, hint=hint) from None

    def format(self, value: Any) -> str:
        """Return the shortest usual form."""
        return str(value)

    def validate(self, value: Any) -> Any:
        """Return the value itself; raises Complaint for another type."""
        if type(value) in self.types:
            return value
        raise self.refused(value)

    def step_by(self, value: Any, units: int, unit: Any = None) -> Any:
        """See ``Kind``; the unit is the next address."""
        return value + units * (1 if unit is None else int(unit))

    def first(self, low: Any, now: float) -> Any:
        """Return the lowest address, else the one that is all zeros."""
        return self.made("0.0.0.0" if self.types[0] is ipaddress.IPv4Address else "::") if low is None else low


def make(given: type | None, settings: Mapping[str, Any]) -> AddressKind:
    """Return the kind of a type; without one, addresses of both versions."""
    return of_both("address") if given is None else AddressKind(given, (given,), *WORDS[given])


def make_network(given: type | None, settings: Mapping[str, Any]) -> AddressKind:
    """Return the kind of a type; without one, networks of both versions."""
    return of_both("network") if given is None else AddressKind(given, (given,), *WORDS[given])


def of_both(name: str) -> AddressKind:
    """Return the kind of both versions."""
    function, wanted, example = EITHER[name]
    return AddressKind(function, TYPES[name], wanted, example)
