"""What a program is made of: commands, and groups of them to any depth.

A member may be given as the text ``"module:Name"`` with a summary: it is imported only when it is called, or when its
own page is shown, so that a program of a hundred commands starts like a program of one.
"""

from __future__ import annotations

from wesperon.form import Form
from wesperon.frozen import later
from wesperon.values import DeclarationError
from wesperon.values.records import slots_of
from wesperon.values.slots import Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any, ClassVar, Concatenate, ParamSpec, TypeVar

    from wesperon import context
    from wesperon.commands import entry_points, function_command, merged
    from wesperon.values import keywords, provenance
    from wesperon.values.rules import Rule

    P = ParamSpec("P")
    S = TypeVar("S")
else:
    context = later("wesperon.context")
    entry_points = later("wesperon.commands.entry_points")
    function_command = later("wesperon.commands.function_command")
    merged = later("wesperon.commands.merged")
    keywords = later("wesperon.values.keywords")
    provenance = later("wesperon.values.provenance")


#: How a list of members begins to name those that other packages have as entry points of a group.
ENTRY_POINTS = "entry-points:"
#: What a declaration may say of the place of a member in lists, and what holds if it says nothing.
OF_A_MEMBER: dict[str, Any] = {"aliases": (), "renamed_from": (), "section": "", "listed": True}


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
    body. ``aliases`` in the body are further names, ``renamed_from`` is a name that it had, or several. ``section`` is
    a heading under which the list of commands has it; ``listed = False`` leaves it out there, and its name is then
    typed in full. ``examples`` are command lines, without the program's name, for its page, ``epilogue`` is a text at
    the end of that. ``review = "always"`` has its values confirmed, also if nothing was asked,
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
    #: Further names, which work as well as its own.
    aliases: ClassVar[Any] = ()
    #: A heading in the list of commands.
    section: ClassVar[Any] = ""
    #: Whether the list of commands, the menu and completion have it.
    listed: ClassVar[Any] = True
    examples: ClassVar[Any] = ()
    #: A text at the end of its page: paragraphs, and lists and examples as they were written.
    epilogue: ClassVar[Any] = ""
    #: Whether there is a last look at its values; ``"always"``: also if nothing was asked. None: as the program says.
    review: ClassVar[Any] = None
    #: Whether a console runs it in the background, if it may run anything there.
    background: ClassVar[Any] = False
    #: Whether ``run`` gives steps that may ask on the way (``terminal.interaction``), and whose result is the status.
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
        aliases: str | Sequence[str] = (),
        section: str = "",
        listed: bool = True,
        examples: Sequence[str] = (),
        epilogue: str = "",
        background: bool = False,
        renamed_from: str | Sequence[str] = (),
        rules: Sequence[Rule[Any]] = (),
    ) -> type[Command]:
        """Return the command that calls a ``function``: its parameters are the slots, its docstring the help.

        A function may be a member of a program as it is; this says more about it. ``name`` is the word on the command
        line, if it is not the name of the function. ``check`` is called with the record, as :meth:`Form.check` is.
        ``rules`` say which parameters go together (``exactly_one("pattern", "pattern_file")``).
        ``aliases``, ``section``, ``listed``, ``examples``, ``epilogue``, ``background`` and ``renamed_from`` are those
        of the class. Raises DeclarationError for a
        parameter that cannot be a slot.
        """
        body: dict[str, Any] = {"aliases": aliases, "section": section, "listed": listed, "examples": tuple(examples)}
        body |= {"epilogue": epilogue, "background": background, "renamed_from": renamed_from}
        return function_command.command_of(function, name, check, rules, body)

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

    ``name`` is the word on the command line, ``description`` a text for the help page, ``epilogue`` one at its end.
    ``members`` are command classes, functions, groups, and pairs ``("module:Name", "summary")`` for those that are
    imported only when called; or a mapping from names to any of these. ``"entry-points:GROUP"``, alone or among them,
    stands for the commands that other packages name as entry points of that group, each imported when it is called.
    ``shared`` is a form whose slots, by name only, all commands below have too.
    ``default_command`` is what a call does that names no member: a command, or ``"menu"``, ``"console"``, ``"help"``;
    without it the menu is shown if somebody is there, else a listing, status 2. ``renamed_from`` is a name that the
    group had, or several, ``aliases`` are further names, ``section`` is a heading in the list that has it, and
    ``listed=False`` leaves it out there. A pair for a member may have the same in a mapping as its third item, or old
    names alone.

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
        epilogue: str = "",
        aliases: str | Sequence[str] = (),
        section: str = "",
        listed: bool = True,
        renamed_from: str | Sequence[str] = (),
    ) -> None:
        self._hold(name, description, members, shared, default_command)
        self.epilogue = epilogue
        self.aliases, self.section, self.listed, self.renamed_from = aliases, section, listed, renamed_from

    #: What a list says of it; that of a program nobody lists.
    aliases: str | Sequence[str] = ()
    section = ""
    listed = True
    renamed_from: str | Sequence[str] = ()

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
        if isinstance(members, str) and members.startswith(ENTRY_POINTS):
            members = [members]
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
        #: The members that the declaration names, without those that are looked for in other packages.
        self.declared: dict[str, Member] = {}
        #: The groups of entry points where more of them are, as long as nobody has looked.
        self._elsewhere: tuple[str, ...] = ()
        #: Those of other packages that cannot be members, each with the reason.
        self.left_out: dict[str, str] = {}
        pairs: Any = members.items() if hasattr(members, "items") else ((None, member) for member in members)
        for own, given in pairs:
            if own is None and isinstance(given, str) and given.startswith(ENTRY_POINTS):
                self._elsewhere += (given.removeprefix(ENTRY_POINTS),)
                continue
            member = Member(given, own)
            if member.name.lower() in self.declared:
                raise DeclarationError(f"{name}: two members are called {member.name}")
            self.declared[member.name.lower()] = member
        #: The default command by its name, which a console has beside the members.
        self._default: dict[str, Member] = {}
        if isinstance(default_command, type) and name_of(default_command) not in self.declared:
            self._default[name_of(default_command)] = Member(default_command)
        #: The old names of the members, and their further ones, each with the name that it means.
        self.old: dict[str, str] = {}
        self.aliases_of: dict[str, str] = {}
        for own, member in (*self.declared.items(), *self._default.items()):
            for word in member.renamed_from:
                self._mean(word, own, self.old, "an old name")
            for word in member.aliases:
                self._mean(word, own, self.aliases_of, "a further name")

    def _mean(self, word: str, own: str, meanings: dict[str, str], what: str) -> None:
        """Have a word mean a member, too; raises DeclarationError if it means another one."""
        if word in self.declared or any(word in others for others in (self.old, self.aliases_of)):
            raise DeclarationError(f"{self.name}: {word}, {what} of {own}, is the name of another member")
        meanings[word] = own

    @property
    def members(self) -> dict[str, Member]:
        """The members by their names, those of other packages too, which are looked for now if they were not."""
        if self._elsewhere:
            groups, self._elsewhere = self._elsewhere, ()
            taken = {*self.declared, *self.old, *self.aliases_of}
            found, self.left_out = entry_points.members_in(groups, taken)
            self.declared |= found
        return self.declared

    @property
    def inside(self) -> dict[str, Member]:
        """The members, and the default command by its name, which a console has beside them."""
        return {**self._default, **self.members} if self._default else self.members

    def named(self, word: str, *, inside: bool = False) -> str:
        """Return the name of the member that a ``word`` in small letters means, in full; empty if there is none.

        ``inside`` a console the default command is a member.
        """
        name = word if word in self.declared or word in self._default else self.aliases_of.get(word, "")
        if name in self._default and not inside:
            return ""
        return name or (word if word in self.members else "")

    def examine(self, above: Mapping[str, Slot[Any]]) -> None:
        """Raise DeclarationError if a slot of ``above`` clashes with one below, as far as members are loaded."""
        shared = {**above, **self.slots}
        for member in self.declared.values():
            if not shared or not member.is_loaded:
                continue
            found = member.loaded
            if isinstance(found, CommandGroup):
                found.examine(shared)
            else:
                merged.merged_form(found._below(shared), shared)

    @property
    def slots(self) -> dict[str, Any]:
        """The slots that the group shares with its commands."""
        return dict(self._slots)

    @property
    def table_names(self) -> list[str]:
        """The keys of the group's table in a file beside its own slots: members, and values of the default command."""
        default = self.default_command
        slots = slots_of(default).values() if isinstance(default, type) else ()
        return [*self.members, *self.old, *(key for slot in slots for key in (slot.name, slot.word))]


class Member:
    """One member of a group: loaded already, or where to find it."""

    #: Its further names and old ones, the heading under which it is listed, and whether it is.
    aliases: tuple[str, ...] = ()
    renamed_from: tuple[str, ...] = ()
    section = ""
    listed = True

    def __init__(self, given: Any, name: str | None = None) -> None:
        self.where = ""
        self._loaded: type[Command] | CommandGroup | None = None
        if isinstance(given, str):
            given = (given, "")
        if isinstance(given, tuple):
            self.where, self.summary = given[:2]
            more: Any = given[2] if len(given) > 2 else ()
            self._note(more if isinstance(more, dict) else {"renamed_from": more})
            module, colon, attribute = self.where.partition(":")
            if not (colon and module and attribute):
                raise DeclarationError(f"{self.where!r} is no place of a command: write it as 'module:Name'")
            self.name = name or kebab(attribute)
        elif isinstance(given, CommandGroup):
            self._loaded, self.name, self.summary = given, name or given.name, first_line(given.description)
            self._note({said: getattr(given, said) for said in OF_A_MEMBER})
        elif isinstance(given, type) and issubclass(given, Command):
            self._loaded, self.name, self.summary = given, name or name_of(given), summary_of(given)
            self._note({said: getattr(given, said) for said in OF_A_MEMBER})
        elif callable(given) and not isinstance(given, type):
            command = Command.from_function(given, name=name)
            self._loaded, self.name, self.summary = command, name or name_of(command), summary_of(command)
        else:
            reason = "commands, functions, groups and ('module:Name', 'summary') are"
            raise DeclarationError(f"{given!r} is no member: {reason}")

    def _note(self, said: Mapping[str, Any]) -> None:
        """Take what a declaration says of the place of a member in lists; raises DeclarationError.

        A slot of a command may have such a name: it is none of these, as any value that is not of the right type.
        """
        for key, value in said.items():
            if key not in OF_A_MEMBER:
                raise DeclarationError(f"{self.where}: {key!r} is not one of {', '.join(OF_A_MEMBER)}")
            if value is not OF_A_MEMBER[key] and not isinstance(value, Slot):
                if key in ("aliases", "renamed_from"):
                    setattr(self, key, _names(key, value))
                elif type(value) is type(OF_A_MEMBER[key]):
                    setattr(self, key, value)
                else:
                    raise DeclarationError(f"{key}={value!r}: must be {'a text' if key == 'section' else 'a bool'}")

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
    module, _, attributes = where.partition(":")
    # With a ``fromlist`` the module itself is returned, not its outermost package; importlib would be one import more.
    found = __import__(module, fromlist=[attributes])
    for attribute in attributes.split("."):
        found = getattr(found, attribute, None)  # type: ignore[assignment]
    return found


def _names(key: str, given: Any) -> tuple[str, ...]:
    """Return further names of a command, as they are typed; raises DeclarationError for what is none."""
    names = (given,) if isinstance(given, str) else given
    if not isinstance(names, (tuple, list)) or not all(isinstance(name, str) and is_word(name) for name in names):
        raise DeclarationError(f"{key}={given!r}: must be names, words without blanks that do not begin with -")
    return tuple([kebab(name).lower() for name in names])


def is_word(name: str) -> bool:
    """Return True if a command can be called so: one word, which is no name of a value."""
    return name.isprintable() and name[:1] not in ("", "-") and not any(char.isspace() for char in name)


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
