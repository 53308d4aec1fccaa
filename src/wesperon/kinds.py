"""Kinds that many programs need, for :func:`wesperon.slot`; each is loaded with the first slot that has it.

    slot(size())         10K, 4MiB, 1.5G       an int of bytes
    slot(percent())      25%                   a float: the share, 0.25
    slot(ranges())       1-5,8                 a tuple of ranges
    slot(mode())         644                   an int of permission bits
    slot(url())          https://desk.example  a str
    slot(email())        desk@hollin.example   a str
    slot(json_value())   {"frames": 3}         what it means

Types of the standard library name their kinds themselves: ``slot(IPv4Address)``, ``IPv6Network`` and the others of
:mod:`ipaddress`, ``UUID``, ``re.Pattern``, ``ZoneInfo``.
"""

from __future__ import annotations

from wesperon.values.kinds.registry import kind_named

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.kind import Kind

__all__ = ["email", "json_value", "mode", "percent", "ranges", "size", "url"]


def size() -> Kind[int]:
    """Return the kind of sizes: a number with a unit, as an int of bytes.

    ``K``, ``M``, ``G`` ... and ``KiB``, ``MiB`` ... are multiples of 1024 (IEC 80000-13), ``kB``, ``MB`` ... of 1000.

    Example:
        >>> slot(size(), high=2**30).parse("1.5M")
        1572864

    """
    return kind_named("size", {})


def percent() -> Kind[float]:
    """Return the kind of percentages, as a share; bounds are shares too.

    Example:
        >>> slot(percent(), low=0, high=1).parse("12.5%")
        0.125

    """
    return kind_named("percent", {})


def ranges() -> Kind[tuple[range, ...]]:
    """Return the kind of ranges of whole numbers from 0, as a tuple of ranges.

    Example:
        >>> slot(ranges()).parse("1-3,8")
        (range(1, 4), range(8, 9))

    """
    return kind_named("ranges", {})


def mode() -> Kind[int]:
    """Return the kind of octal modes of files (POSIX, XCU chmod), as an int of permission bits.

    Example:
        >>> oct(slot(mode()).parse("644"))
        '0o644'

    """
    return kind_named("mode", {})


def url() -> Kind[str]:
    """Return the kind of URLs with a scheme and a host (RFC 3986), as a text.

    Example:
        >>> slot(url()).parse("https://desk.example/queue")
        'https://desk.example/queue'

    """
    return kind_named("url", {})


def email() -> Kind[str]:
    """Return the kind of e-mail addresses (RFC 5322, 3.4.1), as a text.

    Example:
        >>> slot(email()).parse("desk@hollin.example")
        'desk@hollin.example'

    """
    return kind_named("email", {})


def json_value() -> Kind[Any]:
    """Return the kind of JSON values (RFC 8259) but ``null``, as what they mean.

    Example:
        >>> slot(json_value()).parse('{"frames": [3, 4]}')
        {'frames': [3, 4]}

    """
    return kind_named("json", {})
