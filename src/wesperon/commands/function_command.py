"""A plain function as a command: its parameters are the slots, its docstring the help."""

from __future__ import annotations

import sys

from wesperon.commands.command_tree import Command
from wesperon.frozen import later, remembered
from wesperon.values import DeclarationError
from wesperon.values.parameters import Parameters
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any, ClassVar

    from wesperon import context as contexts
    from wesperon import scope
    from wesperon.commands import program as commands_program
    from wesperon.forms import class_keywords
    from wesperon.values import docstrings, together
    from wesperon.values import rules as values_rules
    from wesperon.values.rules import Rule
    from wesperon.values.slots import Slot
else:
    contexts = later("wesperon.context")
    scope = later("wesperon.scope")
    commands_program = later("wesperon.commands.program")
    class_keywords = later("wesperon.forms.class_keywords")
    docstrings = later("wesperon.values.docstrings")
    together = later("wesperon.values.together")
    values_rules = later("wesperon.values.rules")


#: What a call says of all slots (``forms.class_keywords``).
OF_A_CLASS = ("named_only", "repeats", "env_prefix")


class FunctionCommand(Command):
    """A command that calls a function with its values."""

    _parameters: ClassVar[Parameters]
    #: The parameters whose values are shared with the command: they are no slots of its own.
    _taken: ClassVar[tuple[str, ...]] = ()

    def run(self) -> Any:
        """Call the function; what it returns is the result."""
        values = {name: getattr(self.shared, name) for name in self._taken}
        return self._parameters.call({**self.__dict__, **values})

    @classmethod
    def _below(cls, shared: Mapping[str, Slot[Any]]) -> type[Command]:
        """Return the command below groups that share slots, where a parameter of such a name gets the shared value."""
        taken = tuple(name for name in slots_of(cls) if name in shared)
        if not taken:
            return cls
        for name in taken:
            own, other = slots_of(cls)[name], shared[name]
            if (type(own.kind), own.shape) != (type(other.kind), other.shape):
                reason = f"the slot {name} that is shared with the command has another kind ({other.kind.wanted})"
                raise cls._parameters.fault(name, reason)
        return _without(cls, taken)


@remembered(200)
def _without(cls: type[FunctionCommand], taken: tuple[str, ...]) -> type[FunctionCommand]:
    """Return the command without the slots of parameters that get shared values.

    The line of a console asks at every key.
    """
    left = {name: slot for name, slot in slots_of(cls).items() if name not in taken}
    made = FunctionCommand.with_slots(cls.__name__, left, _body(cls))
    made._taken = taken
    return made


def command_of(
    function: Callable[..., Any],
    name: str | None,
    check: Callable[..., object] | None,
    rules: Sequence[Rule[Any]] = (),
    says: Mapping[str, Any] | None = None,
) -> type[Command]:
    """Return the command that calls a function; see :meth:`Command.from_function`, which ``says`` more of it."""
    parameters = Parameters(function)
    own = getattr(function, "__name__", "")
    if not name and not own.isidentifier():
        raise DeclarationError(f"{function!r} has no name for a command: say it with name=, or as the key of a mapping")
    said = function.__doc__
    if said and "\n" in said.strip():  # parameters may be described in it, which a page has in their places
        about, helps = docstrings.read_docstring(said)
        said = about or None
        for parameter, text in helps.items():
            if parameter in parameters.slots and not parameters.slots[parameter].help:
                parameters.slots[parameter].help = text
    body: dict[str, Any] = {
        **{key: value for key, value in (says or {}).items() if key not in parameters.slots},
        "__module__": function.__module__,
        "__qualname__": function.__qualname__,
        "__doc__": said,
        "_parameters": parameters,
        "_name": name,
    }
    if rules:
        body |= values_rules.in_body(rules)
    if check is not None:
        body["check"] = together.checked_by(check)
    return FunctionCommand.with_slots(own or "command", parameters.slots, body)


def _body(cls: type[FunctionCommand]) -> dict[str, Any]:
    """Return what the class says beside its slots."""
    return {name: value for name, value in cls.__dict__.items() if name not in slots_of(cls) and name != "_slots"}


def run_program(function: Callable[..., Any], words: Sequence[str] | None, keywords: Mapping[str, Any]) -> int:
    """Run a function as a program with these keywords; the exit status."""
    options = dict(keywords)
    context, check, name, rules = (options.pop(key, None) for key in ("context", "check", "name", "rules"))
    says = {key: options.pop(key) for key in ("epilogue",) if key in options}
    if context is not None:
        with scope.within(context):
            return run_program(function, words, {**keywords, "context": None})
    options.setdefault("version", getattr(sys.modules.get("__main__"), "__version__", ""))
    said = {key: options.pop(key) for key in OF_A_CLASS if key in options}
    command = command_of(function, name or contexts.current().program_name, check, rules or (), says)
    if said:
        class_keywords.apply_keywords(command, said)
    program = commands_program.Program(name or contexts.current().program_name, default_command=command, **options)
    if not name:
        program.wishes["name"] = ""
    return program.main(words)
