"""The catalogue of messages in the user's language (GNU gettext), one file for each language beside the source."""

from __future__ import annotations

import gettext
import io

from wesperon.package_files import names_in, read_file

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

PACKAGE, NAME = "wesperon.locale", "wesperon"


def catalogue(languages: Iterable[str]) -> gettext.NullTranslations | None:
    """Return the messages in the first of the languages that there is; None if that is English, or if there is none.

    ``languages`` are names as in the environment: ``de_DE.UTF-8``, ``de``.
    """
    for said in languages:
        name = said.partition(".")[0].partition("@")[0]
        for language in (name, name.partition("_")[0]):
            if language == "en":
                return None
            if not language.replace("_", "").isalnum():
                continue
            try:
                data = read_file(PACKAGE, language, "LC_MESSAGES", f"{NAME}.mo")
            except OSError:  # no catalogue for this one: the next language of the user
                continue
            return gettext.GNUTranslations(io.BytesIO(data))
    return None


def languages() -> list[str]:
    """Return the languages that there are beside English."""
    return [name for name in names_in(PACKAGE) if "." not in name and not name.startswith("_")]
