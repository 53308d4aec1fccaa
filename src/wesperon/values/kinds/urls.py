"""Addresses of the web and of other schemes with a host: ``https://desk.example/queue`` (RFC 3986)."""

from __future__ import annotations

from urllib.parse import urlsplit

from wesperon.values import tell
from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class UrlKind(Kind[str]):
    """A URL with a scheme and a host, kept as it is written."""

    wanted = "a URL"
    example = "https://desk.example/queue"
    placeholder = "URL"

    def parse(self, text: str) -> str:
        """Return the URL; raises Complaint."""
        misfit = next((at for at, char in enumerate(text) if char.isspace() or not char.isprintable()), None)
        hint = ""
        try:
            parts = urlsplit(text)
            is_right = misfit is None and bool(parts.scheme and parts.hostname)
            _ = parts.port
        except ValueError as error:
            is_right, hint = False, f": {error}"
        if not is_right:
            if misfit is None and "://" not in text:
                hint = tell(": the scheme is missing, such as https://")
            raise no_value(self, text, misfit, hint=hint)
        return text

    def format(self, value: str) -> str:
        """Return the URL."""
        return value

    def validate(self, value: Any) -> str:
        """Return the URL; raises Complaint for anything but a text that is one."""
        if isinstance(value, str):
            return self.parse(value)
        raise self.refused(value)


URL = UrlKind()
