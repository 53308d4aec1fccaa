"""E-mail addresses: ``desk@hollin.example``, a dot-atom, ``@`` and a domain (RFC 5322, 3.4.1; RFC 5321, 4.5.3.1)."""

from __future__ import annotations

from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: What a dot-atom may hold beside letters, digits and dots (RFC 5322, 3.2.3).
SPECIAL = "!#$%&'*+-/=?^_`{|}~"
LONGEST_LOCAL, LONGEST_LABEL, LONGEST = 64, 63, 254


class EmailKind(Kind[str]):
    """An e-mail address, kept as it is written."""

    wanted = "an e-mail address"
    example = "desk@hollin.example"
    placeholder = "ADDRESS"

    def parse(self, text: str) -> str:
        """Return the address; raises Complaint at the first character that cannot be in one."""
        local, at_sign, domain = text.rpartition("@")
        position = None
        for at, char in enumerate(text):
            allowed = SPECIAL + "." if at < len(local) else "@" if at == len(local) else "-."
            if not (char.isalnum() or char in allowed):
                position = at
                break
        labels = domain.split(".")
        is_right = position is None and at_sign and all(local.split(".")) and len(labels) > 1
        is_right = is_right and all(one and len(one) <= LONGEST_LABEL and one.strip("-") == one for one in labels)
        if not is_right or len(local) > LONGEST_LOCAL or len(text) > LONGEST:
            raise no_value(self, text, position)
        return text

    def format(self, value: str) -> str:
        """Return the address."""
        return value

    def validate(self, value: Any) -> str:
        """Return the address; raises Complaint for anything but a text that is one."""
        if isinstance(value, str):
            return self.parse(value)
        raise self.refused(value)


EMAIL = EmailKind()
