"""The catalogue of messages in the user's language (GNU gettext), one file for each language beside the source."""

from __future__ import annotations

import gettext
import os

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

FOLDER = os.path.dirname(__file__)
NAME = "wesperon"


def catalogue(languages: Iterable[str]) -> gettext.NullTranslations | None:
    """The messages in the first of the languages that there is; None if that is English, or if there is none.

    ``languages`` are names as in the environment: ``de_DE.UTF-8``, ``de``.
    """
    for said in languages:
        name = said.partition(".")[0].partition("@")[0]
        for language in (name, name.partition("_")[0]):
            if language == "en":
                return None
            path = os.path.join(FOLDER, language, "LC_MESSAGES", f"{NAME}.mo")
            if language.replace("_", "").isalnum() and os.path.exists(path):
                with open(path, "rb") as file:
                    return gettext.GNUTranslations(file)
    return None


def languages() -> list[str]:
    """The languages that there are beside English."""
    return sorted(entry for entry in os.listdir(FOLDER) if os.path.isdir(os.path.join(FOLDER, entry, "LC_MESSAGES")))
