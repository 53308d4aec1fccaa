"""What a user prefers: ``preferences.toml`` in the configuration folder, for all programs and for one.

What holds is put together from what a program wants, the file for all programs, the file of this one, the environment,
and what was changed while the program runs; each goes before those before it. What is wrong is reported with its place,
and everything else holds.
"""

from __future__ import annotations

from wesperon.files.document import Document
from wesperon.frozen import later
from wesperon.screen.theme import colours_of, roles_for
from wesperon.screen.themes import DEFAULT, look_of
from wesperon.text.escape import visible
from wesperon.user_folders import preference_files
from wesperon.values import Complaint, DeclarationError, quoted, tell
from wesperon.widgets.preferences import PREFERENCES, TABLES, value_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.editing.keys import bindings as keys_bindings
    from wesperon.editing.keys import characters as keys_characters
    from wesperon.editing.keys import families
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.text_state import TextState
    from wesperon.text import spelling
    from wesperon.values import problems
else:
    keys_bindings = later("wesperon.editing.keys.bindings")
    keys_characters = later("wesperon.editing.keys.characters")
    families = later("wesperon.editing.keys.families")
    spelling = later("wesperon.text.spelling")
    problems = later("wesperon.values.problems")

#: Who says what nobody has said, what the program says, and what was changed while it runs.
BY_DEFAULT, BY_PROGRAM, BY_RUN = "default", "program", "this run"


class Preferences:
    """What holds, and where each value is from.

    ``values`` and ``origins`` are by the names of ``widgets.preferences.PREFERENCES``; ``roles`` are those of the
    user's own over the theme; ``faults`` are lines to show.
    """

    def __init__(self) -> None:
        self.values = {name: one.values()[0] for name, one in PREFERENCES.items()}
        self.origins = dict.fromkeys(PREFERENCES, BY_DEFAULT)
        self.roles: dict[str, str] = {}
        self.role_origins: dict[str, str] = {}
        self.faults: list[str] = []
        #: The tables of bindings of the files, with the file of each.
        self.tables: list[tuple[Document, dict[str, Any]]] = []

    def set(self, name: str, said: object, origin: str, *, is_shown: bool = True) -> None:
        """Set a preference to what somebody says; if that is no value of it, add a fault and change nothing."""
        try:
            self.values[name] = value_of(name, said)
            self.origins[name] = origin
        except Complaint as complaint:
            if is_shown:
                self.faults.append(visible(f"{origin}: {complaint.reason}"))

    def apply_file(self, file: str) -> None:
        """Apply all that a file says."""
        try:
            document = Document(file, "preferences")
        except problems.Problems as found:
            self.faults += [visible(problem.sentence) for problem in found]
            return
        for name, said in document.top.items():
            place = document.where((name,))[0]
            if name in PREFERENCES:
                self.set(name, said, place)
            elif name not in TABLES:
                near = spelling.suggestion(name, [*PREFERENCES, *TABLES], declared=True)
                reason = tell(
                    "there is no preference {name}{hint}; there are {list} and the tables [bindings] and [roles]",
                    name=quoted(name),
                    hint=near,
                    list=", ".join(PREFERENCES),
                )
                self.faults.append(visible(f"{place}: {reason}"))
            elif not isinstance(said, dict):
                self.faults.append(visible(f"{place}: {tell('[{name}] must be a table', name=name)}"))
            elif name == "roles":
                self.apply_roles(said, lambda path: document.where(path)[0])
            else:
                self.tables.append((document, said))

    def apply_roles(self, roles: Mapping[str, object], place: Callable[[tuple[str, ...]], str]) -> None:
        """Apply the looks of roles that somebody gives, over the theme."""
        for role, words in roles.items():
            where = place(("roles", role))
            _, faults = look_of(DEFAULT, 0, {role: words})  # type: ignore[dict-item]
            if faults:
                self.faults.append(visible(f"{where}: {role}: {faults[role]}"))
            else:
                self.roles[role], self.role_origins[role] = str(words), where

    def look(self, colours: int) -> dict[str, str]:
        """Return the renditions of all roles, on a terminal with this number of ``colours``."""
        return look_of(self.values["theme"], colours, self.roles)[0]

    def bindings(
        self, own: Mapping[str, object], actions: Mapping[str, Callable[[TextState], TextState]]
    ) -> tuple[Bindings, list[str]]:
        """Return the bindings of a program with those of the files over them, and what is wrong in these.

        Raises DeclarationError if the program's own are wrong.
        """
        bindings, faults = keys_bindings.Bindings(families.family_named(self.values["keys"])), []
        bindings.start_mode = self.values["opens_in"]
        if self.origins["suggestions"] != BY_DEFAULT:
            bindings.suggestions = self.values["suggestions"]
        for path, reason in keys_characters.add_of_program(bindings, own, actions):
            raise DeclarationError(f"bindings: {' '.join(path)}: {reason}")
        for document, table in self.tables:
            for path, reason in bindings.add_tables(table, actions):
                place = document.where(("bindings", *path))[0]
                faults.append(visible(f"{place}: {path[-1]}: {reason}"))
        return bindings, faults


def preferences_of(
    files: Sequence[str],
    program: Mapping[str, object] | None = None,
    environ: Mapping[str, str] | None = None,
    run: Mapping[str, str] | None = None,
) -> Preferences:
    """Return the effective preferences: program, files, environment and changes of this run, merged.

    ``files`` are read in this order, ``program`` is what the program wants, by name, ``environ`` the environment, and
    ``run`` what was changed while the program runs. ``program["theme"]`` may be roles by name.
    """
    made = Preferences()
    for name, said in (program or {}).items():
        if name == "theme" and not isinstance(said, str):
            roles: Any = said
            made.apply_roles(roles, lambda path: BY_PROGRAM)
        elif said:
            made.set(name, said, BY_PROGRAM)
    for file in files:
        made.apply_file(file)
    for name, one in PREFERENCES.items():
        said = (environ or {}).get(one.variable, "") if one.variable else ""
        if said:
            made.set(name, said, one.variable)
    for name, text in (run or {}).items():
        made.set(name, text, BY_RUN)
    return made


def load(
    keys: Mapping[str, object],
    actions: Mapping[str, Callable[[TextState], TextState]],
    files: Sequence[str],
    program: Mapping[str, object] | None = None,
    environ: Mapping[str, str] | None = None,
) -> tuple[Bindings, list[str]]:
    """Return the bindings of a program and of files, and all that is wrong in these (see :func:`preferences_of`)."""
    preferences = preferences_of(files, program, environ)
    bindings, faults = preferences.bindings(keys, actions)
    return bindings, [*preferences.faults, *faults]


def roles_for_output(environ: Mapping[str, str], program: str) -> dict[str, str]:
    """Return the renditions of all roles for what is printed, by the user's files and the environment."""
    files = preference_files(program)
    if not files and not environ.get("WESPERON_THEME"):
        return roles_for(environ)
    return preferences_of(files, environ=environ).look(colours_of(environ))
