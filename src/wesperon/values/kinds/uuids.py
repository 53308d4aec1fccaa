"""UUIDs (RFC 9562), as :class:`uuid.UUID` reads them."""

from __future__ import annotations

from uuid import UUID

from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class UuidKind(Kind[UUID]):
    """A UUID, with or without hyphens and braces."""

    wanted = "a UUID"
    example = "4b1c2f5e-6f0a-4c55-9c0e-2f1f0a7d9b31"
    placeholder = "UUID"

    def parse(self, text: str) -> UUID:
        """Return the UUID; raises Complaint."""
        try:
            return UUID(text)
        except ValueError:
            raise no_value(self, text) from None

    def format(self, value: UUID) -> str:
        """Return the 32 digits with hyphens."""
        return str(value)

    def validate(self, value: Any) -> UUID:
        """Return the UUID itself; raises Complaint for anything else."""
        if isinstance(value, UUID):
            return value
        raise self.refused(value)


KIND = UuidKind()
