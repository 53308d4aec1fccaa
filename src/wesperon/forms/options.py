"""How a record is to be filled; loaded where the words alone do not fill it."""

from __future__ import annotations

import os

from wesperon.context import current

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.sources.files import ValuesFile
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.options import DriverOptions
    from wesperon.values.problems import Problem
    from wesperon.values.slots import Slot

    Values = dict[str, Any]
else:
    Values = dict

#: The keywords of ``terminal.options.DriverOptions``, which is loaded when somebody is asked.
DRIVER_OPTIONS = ("program", "timeout", "mouse", "style", "keys", "theme", "bindings", "actions", "capture")


class KnownValues(Values):
    """The values that are known so far, by the names of their slots; each is an attribute as well."""

    def __getattr__(self, name: str) -> Any:
        try:
            return self[name]
        except KeyError:
            raise AttributeError(f"{name} has no value yet") from None


class FillOptions:
    """How a record is to be filled.

    ``asking``, ``driver``, ``settings``, ``confirm``, ``resume`` and ``replay`` are those of :meth:`Form.fill`;
    ``driver_options`` the keywords of ``terminal.options.DriverOptions``. ``ends_process``: the caller ends the process
    where the user stops the questions. ``is_async``: the questions are awaited inside an event loop. ``levels`` are the
    tables of a file that may hold values: the path of each, its slots, and further keys that it may have; ``None``
    means one, of the form's own slots.
    """

    def __init__(
        self,
        asking: str | None = None,
        driver: Driver | None = None,
        *,
        ends_process: bool = False,
        is_async: bool = False,
        settings: str | None = None,
        confirm: bool = False,
        resume: bool = True,
        replay: bool = False,
        **driver_options: Any,
    ) -> None:
        self.asking = asking
        self.driver = driver
        self.ends_process = ends_process
        self.is_async = is_async
        self.settings = settings
        self.confirm = confirm
        self.resume = resume
        self.replay = replay
        for name in driver_options:
            if name not in DRIVER_OPTIONS:
                from wesperon.text.spelling import suggestion

                known = (*(FillOptions.__init__.__kwdefaults__ or {}), "asking", "driver", "context", *DRIVER_OPTIONS)
                raise TypeError(f"there is no keyword {name!r} here{suggestion(name, known)}")
        self.driver_options = driver_options
        #: Called with the values that are known before anything is asked; it may raise Refusal.
        self.gate: Callable[[KnownValues], object] | None = None
        #: What was asked before the first question, labels with answers; and whether the way back leads there, which
        #: raises ``precedence.WayBack``.
        self.asked_before: Sequence[tuple[str, str]] = ()
        self.leads_back = False
        #: Whether answers that were left are taken up without an offer, since the user comes back to them.
        self.takes_up = False
        #: Whether the answers stay on the screen.
        self.leaves_record = True
        #: Who hears of the commands that are called, in a console (``commands.listeners``).
        self.listening: Any = None
        #: Runs the steps of the command, and does something before and after them.
        self.around: Callable[[Any], Any] | None = None
        #: Starts what is to run in the background: called with the command, and with what runs it.
        self.detach: Callable[[Any, Callable[[], Any]], object] | None = None
        #: Whether every command is to; else those that say so themselves.
        self.detaches_all = False
        #: Names of other commands that an unknown one may have been meant for.
        self.also_known: Sequence[str] = ()
        #: The names that commands had, by those that they have now.
        self.old_names: Mapping[str, Sequence[str]] = {}
        self.levels: Sequence[tuple[tuple[str, ...], Iterable[Slot[Any]], Iterable[str]]] | None = None

    @classmethod
    def of(cls, form: type[Any], keywords: Mapping[str, Any], *, is_async: bool = False) -> FillOptions:
        """What the ``keywords`` of :meth:`Form.fill` say of a ``form``."""
        given = dict(keywords)
        name, settings = given.pop("name", ""), given.pop("settings", None)
        gate, log = given.pop("gate", None), given.pop("log", False)
        for said in ("version", "description", "prefixes", "context"):  # the words have been read by then
            given.pop(said, None)
        name = name or os.path.splitext(current().program_name)[0]
        options = cls(
            settings=(name if settings is True else settings) or None, is_async=is_async, program=name, **given
        )
        if gate is not None:
            options.gate = lambda values: gate((), form, values)
        if log:
            from wesperon.output.log_areas import turn_on

            turn_on(name, current().environ)
        return options

    def open_gate(self, values: Mapping[str, Any]) -> None:
        """Have the gate look at the values, if there is one."""
        if self.gate is not None:
            said: object = self.gate(KnownValues(values))
            if said is not None:
                from wesperon.values.calls import refuse_result

                raise refuse_result(said, "the gate", "Refusal")

    def reach(self) -> Driver | None:
        """A driver on the controlling terminal; None if there is none, or nobody at it."""
        given: Driver | None = current().driver
        if given is not None:
            return given
        program = self.driver_options.get("program") or os.path.splitext(current().program_name)[0]
        if self.is_async:
            from wesperon.terminal import asyncio_driver

            return asyncio_driver.reach(program)
        from wesperon.terminal.tty_driver import reach

        return reach(program)

    def for_driver(self) -> DriverOptions:
        """How the questions are run; raises Problems if the environment says no number of seconds."""
        from wesperon.terminal.options import DriverOptions

        options = {**self.driver_options, "timeout": self.timeout, "ends_process": self.ends_process}
        options["environ"] = current().environ
        if not options.get("program"):
            options["program"] = os.path.splitext(current().program_name)[0]
        return DriverOptions(**options)

    @property
    def timeout(self) -> float | None:
        """The seconds after which a question ends, and how long a pipe may be silent; raises Problems."""
        text = current().environ.get("WESPERON_TIMEOUT")
        if not text:
            seconds: float | None = self.driver_options.get("timeout")
            return seconds
        from wesperon.values import Complaint
        from wesperon.values.kind import FLOAT

        try:
            return FLOAT.parse(text.strip())
        except Complaint as complaint:
            from wesperon.values.problems import Problem, Problems

            place = "WESPERON_TIMEOUT in the environment"
            raise Problems([Problem(complaint.reason, None, "env", text, location=place)]) from None

    def open(self, file: ValuesFile, slots: Iterable[Slot[Any]]) -> list[Problem]:
        """Take from a file what is there for these slots; the problems with keys that nobody knows."""
        levels = [((), slots, ())] if self.levels is None else self.levels
        found = [
            problem for path, own, tables in levels for problem in file.open_level(path, own, tables, self.old_names)
        ]
        if file.renamed:
            from wesperon.argv.renaming import say_renamed

            say_renamed(file.renamed)
        return found
