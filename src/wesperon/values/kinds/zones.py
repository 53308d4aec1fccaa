"""Time zones by their names in the IANA database, as :class:`zoneinfo.ZoneInfo` knows them."""

from __future__ import annotations

from zoneinfo import ZoneInfo, available_timezones

from wesperon.text.spelling import suggestion
from wesperon.values.kind import Kind
from wesperon.values.kinds.misreadings import no_value

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class ZoneKind(Kind[ZoneInfo]):
    """A time zone."""

    wanted = "a time zone"
    example = "Etc/UTC"
    placeholder = "ZONE"
    completion = "zones"

    def parse(self, text: str) -> ZoneInfo:
        """Return the zone; raises Complaint, with the nearest names."""
        try:
            return ZoneInfo(text)
        except (ValueError, KeyError, OSError):
            near = suggestion(text, sorted(available_timezones()))
            raise no_value(self, text, hint=near) from None

    def format(self, value: ZoneInfo) -> str:
        """Return the name of the zone."""
        return value.key

    def validate(self, value: Any) -> ZoneInfo:
        """Return the zone itself; raises Complaint for anything but one that has a name."""
        if isinstance(value, ZoneInfo) and value.key:
            return value
        raise self.refused(value)


KIND = ZoneKind()
