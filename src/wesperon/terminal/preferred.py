"""What a program and its user prefer, for one driver: looked for once, and changed while it runs."""

from __future__ import annotations

from wesperon.values.wishes import Wishes, checked_timeout

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.screen.theme import Theme
    from wesperon.terminal.preferences import Preferences
    from wesperon.widgets.preferences_page import Chosen, PreferencesPage


class DriverOptions(Wishes):
    """How a program wants its questions run: its wishes, the ``environ``, of which the user's go before, and one more.

    ``ends_process``: the process ends where the user stops the questions, so that no further interrupt matters.
    """

    def __init__(
        self,
        wishes: Mapping[str, Any] | None = None,
        *,
        environ: Mapping[str, str] | None = None,
        ends_process: bool = False,
    ) -> None:
        super().__init__(wishes)
        self.timeout = None if self.timeout is None else checked_timeout(self.timeout)
        if self.keys:
            from wesperon.editing.keys.families import check_name

            check_name(self.keys)
        if self.theme:
            from wesperon.screen.themes import checked

            checked(self.theme)
        self.environ = environ or {}
        self.ends_process = ends_process


class Preferred:
    """The bindings, the roles of the ``theme`` and the mouse, by the options of a program and the user's files."""

    def __init__(self, theme: Theme) -> None:
        self.theme = theme
        self.mouse = False
        self._bindings: Bindings | None = None
        self._is_bound = self._has_looked = False
        #: What the user prefers, once it is known that there is something; what was changed while the program runs.
        self.preferences: Preferences | None = None
        self.changes: dict[str, str] = {}

    def before_the_first_frame(self, options: DriverOptions, find_files: Callable[[], Sequence[str]]) -> None:
        """Apply the user's preferences before anything is shown, if there are any."""
        if not self._has_looked:
            self._has_looked = True
            files = find_files()
            says = any(options.environ.get(name) for name in ("WESPERON_THEME", "WESPERON_MOUSE"))
            if options.theme or says or files:
                self.gather(options, files)
        held = self.preferences
        self.mouse = options.mouse if held is None else held.values["mouse"] == "yes"

    def gather(self, options: DriverOptions, files: Sequence[str]) -> Preferences:
        """Merge what the program, the environment and the user's files say, and what was changed in this run."""
        from wesperon.screen.themes import ROLES
        from wesperon.terminal.preferences import preferences_of

        wanted = {"keys": options.keys, "theme": options.theme, "mouse": options.mouse}
        made = preferences_of(files, wanted, options.environ, self.changes)
        roles = self.theme.roles
        for role in ROLES:
            roles.pop(role, None)
        roles.update(made.look(self.theme.colours))
        self.preferences = made
        return made

    def bindings(self, options: DriverOptions, files: Sequence[str]) -> tuple[Bindings, Sequence[str]]:
        """Return the bindings of the program and of the user, and what is wrong in these, said once."""
        faults: list[str] = []
        if not self._is_bound:
            self._is_bound = True
            if options.bindings or options.actions or options.keys or options.environ.get("WESPERON_KEYS"):
                self.gather(options, files)
            if self.preferences is not None:
                self._bindings, wrong = self.preferences.bindings(options.bindings or {}, options.actions or {})
                faults = [*self.preferences.faults, *wrong]
        if self._bindings is None:
            from wesperon.editing.keys.bindings import UNCHANGED

            self._bindings = UNCHANGED
        return self._bindings, faults

    def page(self, options: DriverOptions, files: Sequence[str], draw_all: Callable[[], object]) -> PreferencesPage:
        """Return the page of preferences, which shows each change at once: ``draw_all`` has all rows drawn again."""
        from wesperon.widgets.preferences_page import PreferencesPage

        made, before = self.preferences or self.gather(options, files), self.changes

        def tried(values: Mapping[str, str]) -> None:
            self.changes = {**before, **values}
            self.gather(options, files)
            draw_all()

        return PreferencesPage(made.values, made.origins, options.name, tried)

    def apply(self, chosen: Chosen | None, options: DriverOptions, files: Sequence[str]) -> Sequence[str]:
        """Apply what was chosen on the page, and keep it if that is wanted. Return what was wrong with that."""
        faults: Sequence[str] = ()
        if chosen is not None and chosen.keeps_for is not None:
            from wesperon.terminal.preferences_file import write_preferences

            faults = write_preferences(chosen.keeps_for, chosen.values)
        made = self.gather(options, files)
        self._is_bound = True
        self._bindings, _ = made.bindings(options.bindings or {}, options.actions or {})
        self.mouse = made.values["mouse"] == "yes"
        return faults
