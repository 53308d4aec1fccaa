"""What a program is made of: commands, and groups of them to any depth.

A member may be given as the text ``"module:Name"`` with a summary: it is imported only when it is called, or when its
own page is shown, so that a program of a hundred commands starts like a program of one.
"""

from __future__ import annotations

from wesperon.form import Form
from wesperon.frozen import later
from wesperon.values import DeclarationError
from wesperon.values.records import note_call, slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any, ClassVar, Concatenate, ParamSpec, TypeVar

    from wesperon import context
    from wesperon.argv import typed
    from wesperon.commands import function_command
    from wesperon.values import keywords, provenance
    from wesperon.values.rules import Rule
    from wesperon.values.slots import Slot

    P = ParamSpec("P")
    S = TypeVar("S")
else:
    context = later("wesperon.context")
    typed = later("wesperon.argv.typed")
    function_command = later("wesperon.commands.function_command")
    keywords = later("wesperon.values.keywords")
    provenance = later("wesperon.values.provenance")


def known_keywords(init: Callable[Concatenate[S, P], None]) -> Callable[Concatenate[S, P], None]:
    """Make a constructor refuse unknown keywords, and values of another type, as :func:`slot` does.

    A name with members, which most programs are, is looked at by the constructor itself: the checks of all others cost
    a start 2.4 million instructions.
    """

    def checked(self: S, /, *given: P.args, **named: P.kwargs) -> None:
        if not (len(given) == 1 and type(given[0]) is str and named.keys() <= {"members"}):
            keywords.refuse_call(type(self).__name__, init, given, named)
        init(self, *given, **named)

    checked.__doc__ = init.__doc__
    checked.__wrapped__ = init  # type: ignore[attr-defined]
    return checked


class Shared:
    """The values of the slots that a program and its groups share with a command, as attributes."""

    def __init__(self, records: Iterable[Form]) -> None:
        for record in records:
            self.__dict__.update({name: record.__dict__[name] for name in slots_of(record)})

    def __getattr__(self, name: str) -> Any:
        raise AttributeError(f"no slot {name} is shared with this command")


class Command(Form):
    """A form that does something once it is filled; its docstring is its help.

    Its name is the class's in kebab-case (``QueueTarget`` is ``queue-target``), unless ``name = "..."`` is in the
    body. ``renamed_from`` in the body is a name that it had, or several. ``examples`` in the body are command lines,
    without the program's name, for its page. ``review = "always"`` has its values confirmed, also if nothing was asked,
    as before something that cannot be undone. ``background = True`` has a console that may do so run it in the
    background.

    Example:
        >>> class Expose(Command):
        ...     "Expose a target."
        ...
        ...     target = slot()
        ...
        ...     def run(self):
        ...         return f"{self.target} is exposed"
        >>> Program("desk", members=[Expose]).main(["expose", "Lantern"])
        Lantern is exposed
        0

    """

    _methods: ClassVar[frozenset[str]] = frozenset({"from_function", "run", "shared"})
    examples: ClassVar[Any] = ()
    #: Whether there is a last look at its values; ``"always"``: also if nothing was asked. None: as the program says.
    review: ClassVar[Any] = None
    #: Whether a console runs it in the background, if it may run anything there.
    background: ClassVar[Any] = False
    #: Whether ``run`` gives steps that may ask on the way (``forms.interaction``), and whose result is the status.
    in_steps: ClassVar[bool] = False
    _takes_more: ClassVar[bool] = True
    #: A name that the command had, or several: they still work, and no help page has them.
    renamed_from: ClassVar[Any] = ()
    #: The name of a command that is made of a function, if it is not that of the function.
    _name: ClassVar[str | None] = None

    @staticmethod
    def from_function(
        function: Callable[..., Any],
        *,
        name: str | None = None,
        check: Callable[..., object] | None = None,
        examples: Sequence[str] = (),
        background: bool = False,
        renamed_from: str | Sequence[str] = (),
        rules: Sequence[Rule[Any]] = (),
    ) -> type[Command]:
        """Return the command that calls a ``function``: its parameters are the slots, its docstring the help.

        A function may be a member of a program as it is; this says more about it. ``name`` is the word on the command
        line, if it is not the name of the function. ``check`` is called with the record, as :meth:`Form.check` is.
        ``rules`` say which parameters go together (``exactly_one("pattern", "pattern_file")``).
        ``examples``, ``background`` and ``renamed_from`` are those of the class. Raises DeclarationError for a
        parameter that cannot be a slot.
        """
        return function_command.command_of(function, name, check, examples, background, renamed_from, rules)

    @classmethod
    def _below(cls, shared: Mapping[str, Slot[Any]]) -> type[Command]:
        """Return the command as it is below groups that share slots."""
        return cls

    def __getstate__(self) -> dict[str, Any]:
        """Return the values, and those that are shared.

        What the program filled for both together stays in its process.
        """
        return provenance.state_of(self)

    def run(self) -> Any:
        """Do it. What it returns is its result, and is printed; ``None`` is none."""
        raise NotImplementedError(f"{type(self).__name__} does nothing: give it a method run(self)")

    @property
    def shared(self) -> Shared:
        """The values of the slots of the program and its groups, as attributes.

        For a command made by another one these are the values of the command that is running.
        """
        own: Shared | None = provenance.provenance_of(self).shared or context.current().shared
        return own or Shared(())


class CommandGroup:
    """A named set of commands and groups.

    ``name`` is the word on the command line, ``description`` a text for the help page. ``members`` are command classes,
    functions, groups, and pairs ``("module:Name", "summary")`` for those that are imported only when called; or a
    mapping from names to any of these. ``shared`` is a form whose slots, by name only, all commands below have too.
    ``default_command`` is what a call does that names no member: a command, or ``"menu"``, ``"console"``, ``"help"``;
    without it the menu is shown if somebody is there, else a listing, status 2. ``renamed_from`` is a name that the
    group had, or several; a pair for a member may have them as a third item.

    Example:
        >>> def park():
        ...     "Park the telescope."
        ...     return "parked"
        >>> mast = CommandGroup("mast", "The mast and what is on it.", [park])
        >>> Program("desk", members=[mast]).main(["mast", "park"])
        parked
        0

    """

    @known_keywords
    def __init__(
        self,
        name: str,
        description: str = "",
        members: Iterable[Any] | Mapping[str, Any] = (),
        *,
        shared: type[Form] | None = None,
        default_command: type[Command] | Callable[..., Any] | str | None = None,
        renamed_from: str | Sequence[str] = (),
    ) -> None:
        self._hold(name, description, members, shared, default_command)
        self.renamed_from = _names(renamed_from)

    renamed_from: tuple[str, ...] = ()

    def _hold(
        self,
        name: str,
        description: str,
        members: Iterable[Any] | Mapping[str, Any],
        shared: type[Form] | None,
        default_command: type[Command] | Callable[..., Any] | str | None,
    ) -> None:
        """Take the members; raises DeclarationError for what cannot be one. The arguments are the constructor's."""
        if isinstance(default_command, str) and default_command not in ("menu", "console", "help"):
            raise DeclarationError(f"default_command={default_command!r} is no command, nor one of menu, console, help")
        if isinstance(members, (str, bytes, type)) or not hasattr(members, "__iter__"):
            raise DeclarationError(f"{name}: members={members!r}: must be a list of commands and groups, or a mapping")
        if shared is not None and not (isinstance(shared, type) and issubclass(shared, Form)):
            raise DeclarationError(f"{name}: shared={shared!r}: must be a class of slots, a subclass of Form")
        self.name = name
        self.description = description
        self.shared = shared
        if default_command is not None and not isinstance(default_command, (str, type)):
            default_command = _command(default_command)
        self.default_command: type[Command] | str | None = default_command
        #: The shared slots, which are named only: copies, since a declaration is never changed by its use.
        self._slots = {name: slot.by_name_only() for name, slot in slots_of(shared).items()} if shared else {}
        self.members: dict[str, Member] = {}
        pairs: Any = members.items() if hasattr(members, "items") else ((None, member) for member in members)
        for own, given in pairs:
            member = Member(given, own)
            if member.name.lower() in self.members:
                raise DeclarationError(f"{name}: two members are called {member.name}")
            self.members[member.name.lower()] = member
        #: The old names of the members, each with the one that it has now.
        self.old: dict[str, str] = {}
        for own, member in self.members.items():
            for old in member.renamed_from:
                if old in self.members or self.old.get(old, own) != own:
                    raise DeclarationError(f"{name}: {old}, an old name of {own}, is the name of another member")
                self.old[old] = own
        #: The members, and the default command by its name, which a console has beside them.
        self.inside = self.members
        if isinstance(default_command, type) and name_of(default_command) not in self.members:
            self.inside = {**self.members, name_of(default_command): Member(default_command)}

    def examine(self, above: Mapping[str, Slot[Any]]) -> None:
        """Raise DeclarationError if a slot of ``above`` clashes with one below, as far as members are loaded."""
        shared = {**above, **self.slots}
        for member in self.members.values():
            if not shared or not member.is_loaded:
                continue
            found = member.loaded
            if isinstance(found, CommandGroup):
                found.examine(shared)
            else:
                merged_form(found._below(shared), shared)

    @property
    def slots(self) -> dict[str, Any]:
        """The slots that the group shares with its commands."""
        return dict(self._slots)

    @property
    def loaded_slots(self) -> dict[str, Any]:
        """The slots of the group and of everything below it, as far as members are loaded; of two names the last."""
        slots = self.slots
        for member in self.members.values():
            if member.is_loaded:
                one = member.loaded
                slots.update(one.loaded_slots if isinstance(one, CommandGroup) else slots_of(one))
        return slots

    @property
    def has_secrets(self) -> bool:
        """Whether a slot of the group, or below it, is a secret, as far as members are loaded."""
        loaded = [member.loaded for member in self.inside.values() if member.is_loaded]
        return any(slot.secret for slot in self.slots.values()) or any(
            one.has_secrets if isinstance(one, CommandGroup) else any(slot.secret for slot in slots_of(one).values())
            for one in loaded
        )

    def secret_names(self) -> set[str] | None:
        """Return the long names, and the letters, of all secrets of the group and below it.

        Return None if some are not known.
        """
        if not self.load_all():
            return None
        secrets = [slot for slot in self.slots.values() if slot.secret]
        names: set[str] = set()
        for member in self.inside.values():
            one = member.loaded
            if isinstance(one, CommandGroup):
                names |= one.secret_names() or set()
            else:
                secrets += [slot for slot in slots_of(one).values() if slot.secret]
        for slot in secrets:
            names |= {slot.word, *slot.renamed_from, *(slot.short or "")}
        return names

    def commands_with_secrets(self) -> set[str]:
        """Return the names of the members, and of those below them, that take a secret, as far as they are loaded."""
        names: set[str] = set()
        for name, member in self.inside.items():
            if member.is_loaded:
                one = member.loaded
                if isinstance(one, CommandGroup):
                    below = one.commands_with_secrets()
                    names |= below | ({name.lower()} if below or one.has_secrets else set())
                elif any(slot.secret for slot in slots_of(one).values()):
                    names.add(name.lower())
        return names

    def may_have_secrets(self) -> bool:
        """Return True if a slot of the group, or below it, is a secret or not known; loads all that can be loaded."""
        return not self.load_all() or self.has_secrets

    def load_all(self) -> bool:
        """Load every member of the group, and below it. Return False if the slots of one stay unknown."""
        is_whole = True
        for member in self.members.values():
            try:
                one = member.loaded
            except Exception:  # whatever a module of the program raises: it is told when that command is called
                is_whole = False
            else:
                is_whole = (not isinstance(one, CommandGroup) or one.load_all()) and is_whole
        return is_whole

    @property
    def table_names(self) -> list[str]:
        """The keys of the group's table in a file beside its own slots: members, and values of the default command."""
        default = self.default_command
        slots = slots_of(default).values() if isinstance(default, type) else ()
        return [*self.members, *self.old, *(key for slot in slots for key in (slot.name, slot.word))]

    def summaries(self, *, inside: bool = False) -> dict[str, str]:
        """Return the members with a line about each; ``inside`` a console the default command is among them."""
        return {name: member.summary for name, member in (self.inside if inside else self.members).items()}


class Member:
    """One member of a group: loaded already, or where to find it."""

    def __init__(self, given: Any, name: str | None = None) -> None:
        self.where = ""
        self.renamed_from: tuple[str, ...] = ()
        self._loaded: type[Command] | CommandGroup | None = None
        if isinstance(given, str):
            given = (given, "")
        if isinstance(given, tuple):
            self.where, self.summary = given[:2]
            self.renamed_from = _names(given[2]) if len(given) > 2 else ()
            module, colon, attribute = self.where.partition(":")
            if not (colon and module and attribute):
                raise DeclarationError(f"{self.where!r} is no place of a command: write it as 'module:Name'")
            self.name = name or kebab(attribute)
        elif isinstance(given, CommandGroup):
            self._loaded, self.name, self.summary = given, name or given.name, first_line(given.description)
            self.renamed_from = given.renamed_from
        elif isinstance(given, type) and issubclass(given, Command):
            self._loaded, self.name, self.summary = given, name or name_of(given), summary_of(given)
            self.renamed_from = _names(given.renamed_from)
        elif callable(given) and not isinstance(given, type):
            command = Command.from_function(given, name=name)
            self._loaded, self.name, self.summary = command, name or name_of(command), summary_of(command)
        else:
            reason = "commands, functions, groups and ('module:Name', 'summary') are"
            raise DeclarationError(f"{given!r} is no member: {reason}")

    @property
    def is_loaded(self) -> bool:
        """Whether the member has been imported."""
        return self._loaded is not None

    @property
    def loaded(self) -> type[Command] | CommandGroup:
        """The command or group itself, imported now if it was not; raises DeclarationError if it is not there."""
        if self._loaded is None:
            found = object_at(self.where)
            if callable(found) and not isinstance(found, type):
                found = _command(found)
            if not (isinstance(found, CommandGroup) or (isinstance(found, type) and issubclass(found, Command))):
                raise DeclarationError(f"there is no command, function or group at {self.where}")
            self._loaded = found
        return self._loaded


def object_at(where: str) -> Any:
    """Return the object at ``module:Name``, imported now; None if its module has none of that name."""
    module, _, attribute = where.partition(":")
    # With a ``fromlist`` the module itself is returned, not its outermost package; importlib would be one import more.
    return getattr(__import__(module, fromlist=[attribute]), attribute, None)


def _names(given: Any) -> tuple[str, ...]:
    """Old names of a command, as they are typed."""
    if isinstance(given, str):
        given = (given,)
    return tuple([kebab(name) for name in given]) if isinstance(given, (tuple, list)) else ()


def merged_form(
    command: type[Command], shared: Mapping[str, Slot[Any]], forms: Sequence[type[Form]] = ()
) -> type[Form]:
    """Return a form of the slots of a command and those that are shared with it; raises DeclarationError for a clash.

    ``forms`` are those that declare the shared slots: each checks its own values together, and so does the command.
    """
    for name in shared:
        if name in slots_of(command):
            raise DeclarationError(f"{command.__name__}: a slot {name} is shared with the command already")

    def check(self: Form) -> None:
        parts: list[Form] = [part_of(self, one) for one in forms]
        own = part_of(self, command)
        note_call(own, (), Shared(parts))
        for part in (*parts, own):
            type(part).check.__get__(part)()

    checks = any(one.check is not Form.check for one in (command, *forms))
    body: dict[str, Any] = {"__module__": command.__module__, "__qualname__": command.__qualname__}
    body["shared"] = property(lambda record: record)  # as functions of the answers read it on a command
    return Form.with_slots(
        command.__name__, {**shared, **slots_of(command)}, {**body, "check": check} if checks else body
    )


def part_of(filled: Form, form: type[Any]) -> Any:
    """Return the record of one form out of one that was filled for several."""
    origins = filled.origins
    values = {name: filled.__dict__[name] for name in slots_of(form)}
    part = form.of(values, {name: origins[name] for name in slots_of(form)})
    typed.hand_on(filled, part)
    return part


def _command(function: Callable[..., Any]) -> type[Command]:
    """Return the command that a function is."""
    return Command.from_function(function)


def examples_of(command: type[Command]) -> Sequence[str]:
    """Return the examples that a command gives."""
    given = command.examples
    return given if isinstance(given, (tuple, list)) else ()


def name_of(command: type[Command]) -> str:
    """Return the name of a command."""
    own = command._name or getattr(command, "name", None)
    return own if isinstance(own, str) else kebab(command.__name__)


def kebab(name: str) -> str:
    """Return a class name in kebab-case: ``QueueTarget`` is ``queue-target``."""
    made = []
    for at, char in enumerate(name.strip("_")):
        begins = char.isupper() and at > 0 and (not name[at - 1].isupper() or name[at + 1 : at + 2].islower())
        made.append("-" + char.lower() if begins and name[at - 1] != "_" else char.lower())
    return "".join(made).replace("_", "-")


def first_line(text: str | None) -> str:
    """Return the first line of a text."""
    return (text or "").strip().partition("\n")[0]


def summary_of(command: type[Command]) -> str:
    """Return the first line of a command's own docstring."""
    return first_line(command.__dict__.get("__doc__"))
