"""Modes of files: octal numbers, as ``chmod`` takes them (POSIX, XCU chmod)."""

from __future__ import annotations

from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: All bits that there are.
ALL = 0o7777


class ModeKind(Kind[int]):
    """Permission bits, in octal digits."""

    wanted = "an octal mode"
    example = "644"
    placeholder = "MODE"
    bounded = "value"

    def parse(self, text: str) -> int:
        """Return the bits; raises Complaint at the first digit that is not octal."""
        digits = text[2:] if text[:2] in ("0o", "0O") else text
        misfit = next((at for at, char in enumerate(digits) if char not in "01234567"), None)
        if misfit is not None or not digits or len(digits) > 6 or int(digits, 8) > ALL:
            raise no_value(self, text, None if misfit is None else misfit + len(text) - len(digits))
        return int(digits, 8)

    def format(self, value: int) -> str:
        """Return three octal digits, or more."""
        return f"{value:03o}"

    def validate(self, value: Any) -> int:
        """Return the bits; raises Complaint for anything but a whole number of them."""
        if isinstance(value, int) and not isinstance(value, bool) and 0 <= value <= ALL:
            return value
        raise self.refused(value)


MODE = ModeKind()
