"""Programs: from the words to the command that they name, and to its exit status.

``lookup`` follows the words to the command. Everything that is left fills the command, and its result is printed.
"""

from __future__ import annotations

from wesperon.argv import NEVER, mode_of, read_words, words_of
from wesperon.commands.at_once import failed, run_at_once
from wesperon.commands.command_tree import (
    Command,
    CommandGroup,
    Shared,
    known_keywords,
    object_at,
)
from wesperon.form import Form, answer_shell, end_interrupted
from wesperon.frozen import later
from wesperon.values import DeclarationError, tell
from wesperon.values.records import has_secrets, made_class, note_call, slots_of
from wesperon.values.slots import slot
from wesperon.values.wishes import ALWAYS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any, Unpack

    from wesperon import context as contexts
    from wesperon import scope
    from wesperon.argv import ParsedArgs, masking, renaming
    from wesperon.commands import contract as commands_contract
    from wesperon.commands import invocation as commands_invocation
    from wesperon.commands import listing, lookup, merged, pages, tree_secrets
    from wesperon.commands import settings as commands_settings
    from wesperon.commands.invocation import Invocation
    from wesperon.completion import candidates as completion_candidates
    from wesperon.context import Context
    from wesperon.editing.keys import bindings as keys_bindings
    from wesperon.editing.keys import characters as keys_characters
    from wesperon.editing.keys import families
    from wesperon.forms import blank_answers as forms_blank_answers
    from wesperon.forms import class_keywords, filling, precedence
    from wesperon.forms.filling import FillOptions
    from wesperon.forms.signatures import ProgramKeywords
    from wesperon.output import exit_status, log_areas, style
    from wesperon.output import help as output_help
    from wesperon.output import results as output_results
    from wesperon.paging import long_output
    from wesperon.screen import table, themes
    from wesperon.terminal import diagnostics, interaction
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.text import advice as text_advice
    from wesperon.values import candidate, secrets
    from wesperon.values import problems as values_problems
    from wesperon.values import wishes as values_wishes
    from wesperon.values.kinds import choices
    from wesperon.values.problems import Problem, Problems
else:
    contexts = later("wesperon.context")
    commands_invocation = later("wesperon.commands.invocation")
    lookup = later("wesperon.commands.lookup")
    class_keywords = later("wesperon.forms.class_keywords")
    filling = later("wesperon.forms.filling")
    interaction = later("wesperon.terminal.interaction")
    values_problems = later("wesperon.values.problems")
    values_wishes = later("wesperon.values.wishes")
    scope = later("wesperon.scope")
    masking = later("wesperon.argv.masking")
    renaming = later("wesperon.argv.renaming")
    commands_contract = later("wesperon.commands.contract")
    pages = later("wesperon.commands.pages")
    commands_settings = later("wesperon.commands.settings")
    listing = later("wesperon.commands.listing")
    merged = later("wesperon.commands.merged")
    tree_secrets = later("wesperon.commands.tree_secrets")
    completion_candidates = later("wesperon.completion.candidates")
    keys_bindings = later("wesperon.editing.keys.bindings")
    keys_characters = later("wesperon.editing.keys.characters")
    families = later("wesperon.editing.keys.families")
    forms_blank_answers = later("wesperon.forms.blank_answers")
    precedence = later("wesperon.forms.precedence")
    exit_status = later("wesperon.output.exit_status")
    output_help = later("wesperon.output.help")
    log_areas = later("wesperon.output.log_areas")
    output_results = later("wesperon.output.results")
    long_output = later("wesperon.paging.long_output")
    style = later("wesperon.output.style")
    table = later("wesperon.screen.table")
    themes = later("wesperon.screen.themes")
    diagnostics = later("wesperon.terminal.diagnostics")
    text_advice = later("wesperon.text.advice")
    candidate = later("wesperon.values.candidate")
    choices = later("wesperon.values.kinds.choices")
    secrets = later("wesperon.values.secrets")


#: Keywords that a program heeds itself, so that the questions of a command do not.
DONE_HERE = ("gate", "prefixes", "settings", "log")
#: Default commands that a word names and another folder opens: the word, and ``module:Name`` of a function that takes
#: the program and how it is to be filled, and gives the steps. This folder is below, so it knows the name alone.
OPENERS = {"console": "wesperon.console.console:opened_by_default"}


class Program(CommandGroup):
    """The root of a program: its name, its version, what it is about, and its commands.

    Filling one form (:meth:`Form.fill`, :func:`fill` with a class) and running a function (:func:`run`) take the same
    keywords, but for those about several commands.

    Keywords:
        name: the name of the program; for one form, and for a function, that of the script if it is not given
        version: what ``--version`` prints
        description: what the help page says first
        epilogue: what it says at the end: paragraphs, and lists and examples as they were written
        members, shared, default_command: as in :class:`CommandGroup`
        repeats: what a value means that is given again: ``"error"``, or ``"last"``, where the last one counts
        results: whether there are ``--as json``, ``csv`` and ``yaml``
        gate: called once before a command, before any of its questions, with the names that lead to it (none for one
            form), its class and the values that are known so far; it may raise Refusal
        prefixes: whether names and commands may be cut to a beginning that no other has
        settings: whether there is a settings file; or the name of the program that it is for
        log: whether the environment turns areas of the program's own log on (``DESK_LOG=mast,dome:info``)
        timeout: the seconds after which a question that nobody answers ends, as if nobody were there; the user may say
            it (``WESPERON_TIMEOUT``)
        mouse: whether the mouse places the cursor and picks choices, which takes the terminal's own selection away
        style: the name of a style of Pygments, for texts with a syntax
        keys: the family of keys, ``"modeless"`` or ``"modal"``, unless the user says otherwise
        theme: the name of a theme, or roles of text and what they look like over the usual one; the user's goes first
        bindings: keys to actions; see the guide on keys
        actions: names of functions from draft to draft that users may bind keys to
        capture: whether what the process prints while a question is open comes above it
        review: whether all values are shown once more when the questions are answered, to go on or to change one;
            ``"always"``: also if nothing was asked, as before something that cannot be undone
        layout: ``"card"`` asks one question below the other, ``"screen"`` for all that is missing on one screen
        resume: whether the answers of a run that was broken off are kept for a day, secrets aside, and the next run on
            a terminal offers to go on from there
        replay: whether it is said below the questions how to have the same again without them

    Example:
        >>> def expose(target: str, frames: int = 1):
        ...     "Expose a target."
        ...     return f"{frames} of {target}"
        >>> Program("desk", members=[expose]).main(["expose", "Lantern", "--frames=3"])
        3 of Lantern
        0

    """

    @known_keywords
    def __init__(
        self,
        name: str,
        version: str = "",
        description: str = "",
        members: Iterable[Any] | Mapping[str, Any] = (),
        *,
        shared: type[Form] | None = None,
        default_command: type[Command] | Callable[..., Any] | str | None = None,
        results: bool = False,
        repeats: str = "error",
        epilogue: str = "",
        **keywords: Unpack[ProgramKeywords],
    ) -> None:
        if results:
            shared = _with_results(shared)
        self._hold(name, description, members, shared, default_command)
        self.examine({})
        if repeats not in ("error", "last"):
            raise DeclarationError(f"{name}: repeats={repeats!r}: must be 'error' or 'last'")
        self.repeats = repeats
        self.version = version
        self.epilogue = epilogue
        self.results = results
        #: How its questions are asked; the rest it does itself.
        self.wishes: dict[str, Any] = {"name": name}
        if keywords:
            self._wish(keywords)

    #: What it does beside its commands, unless it says otherwise; see the keywords.
    gate: Any = None
    prefixes = True
    log = False
    #: The name of the program whose settings file is read; None: there is none.
    settings_of: str | None = None

    def _wish(self, keywords: Mapping[str, Any]) -> None:
        """Take the keywords of filling; raises DeclarationError for one that says what is not there."""
        wishes = values_wishes.Wishes(keywords)
        if wishes.keys:
            families.check_name(wishes.keys)
        if wishes.theme:
            themes.checked(wishes.theme)
        if wishes.bindings or wishes.actions:
            bindings = keys_bindings.Bindings(families.family_named(wishes.keys or "modeless"))
            for path, reason in keys_characters.add_of_program(bindings, wishes.bindings or {}, wishes.actions or {}):
                raise DeclarationError(f"{self.name}: bindings: {' '.join(path)}: {reason}")
        self.gate, self.prefixes, self.log = wishes.gate, wishes.prefixes, wishes.log
        self.settings_of = (self.name if wishes.settings is True else wishes.settings) or None
        self.wishes.update({key: value for key, value in keywords.items() if key not in DONE_HERE})

    def main(self, words: Sequence[str] | None = None, *, context: Context | None = None) -> int:
        """Run the command that the words name; the exit status.

        ``words`` are those after the program's name; ``None`` means those of the process. What is wrong is printed on
        standard error, unexpected errors in one line (``WESPERON_TRACE=1`` shows the whole trace). If the user stops
        the questions, the process ends by SIGINT. ``context`` is the context to be in force meanwhile; ``None`` means
        the one that is.
        """
        if context is not None:
            with scope.within(context):
                return self.main(words)
        try:
            status = run_at_once(self, words)
            if status is not None:
                return status
            context = contexts.current()
            answer_shell(words, self.candidates, runs=True)
            self.turn_on_log()
            status = self._call(context.words if words is None else words, None, ends_process=True)
            context.flush()
            return status
        except Exception as error:
            return failed(error, self.name)
        except KeyboardInterrupt:
            return end_interrupted()

    def __getattr__(self, name: str) -> Any:
        # With no name, the interpreter adds no suggestion of its own.
        raise AttributeError(
            f"a program has no {name}{text_advice.advice(name, text_advice.PROGRAM_METHODS)}", name="", obj=None
        )

    def turn_on_log(self) -> None:
        """Turn on the areas of the program's log that the environment asks for, if it is declared with ``log=True``."""
        if self.log:
            log_areas.turn_on(self.name, contexts.current().environ)

    def call(self, words: Sequence[str], driver: Driver | None = None, *, context: Context | None = None) -> int:
        """Run the command that the words name; the exit status.

        ``words``, ``driver`` and ``context`` are those of :meth:`Form.fill`. Raises Problems, Refusal and
        KeyboardInterrupt instead of printing.
        """
        with scope.within(context or contexts.current()):
            answer_shell(words, self.candidates, runs=True)
            return self._call(words, driver)

    async def call_async(
        self, words: Sequence[str], driver: Driver | None = None, *, context: Context | None = None
    ) -> int:
        """Do as :meth:`call` inside an event loop, whose other tasks go on while a question is open.

        ``words``, ``driver``, ``context``, the status and the errors are those of :meth:`call`.
        """
        with scope.within(context or contexts.current()):
            answer_shell(words, self.candidates, runs=True)
            options = filling.FillOptions(self.wishes, driver=driver, is_async=True)
            return await interaction.play_async(self._steps(words, options))

    def find(self, word: str, group: CommandGroup | None = None) -> str:
        """Return the name of the member that ``word`` means, in any letter case, or cut to a beginning of its own.

        ``group`` is the group that has the member; ``None`` means the program. Raises Problems, with the nearest names,
        if there is none.
        """
        return lookup.find(self, word, group or self)

    def invocation(self, words: Sequence[str], also_known: Sequence[str] = (), *, inside: bool = False) -> Invocation:
        """Follow ``words`` to the command that they name, as far as they do; raises Problems at one that names none.

        ``also_known`` are names of other commands that a wrong word may have been meant for. ``inside`` a console the
        default command is called by its name, and no word is a value without it.
        """
        return lookup.invocation_of(self, words, also_known, inside=inside)

    def _call(self, words: Sequence[str], driver: Driver | None, *, ends_process: bool = False) -> int:
        options = filling.FillOptions(self.wishes, driver=driver, ends_process=ends_process)
        return interaction.play(self._steps(words, options))

    def _steps(self, words: Sequence[str], options: FillOptions) -> Interaction[int]:
        """Run the command that the words name, in steps; the exit status."""
        call = self.invocation(words_of(words), options.also_known, inside=bool(options.also_known))
        if call.is_help:
            self._say(call, {"help": "yes"})
            return 0
        if call.command is None:
            slots = {**call.shared, **call.default_slots}
            reading = read_words(slots, call.words, prefixes=self.prefixes, command=frozenset(call.indices))
            if "help" in reading.builtin or "version" in reading.builtin:
                self._say(call, reading.builtin)
                return 0
            call.use_default_command()
        if call.command is None:
            if reading.problems:
                self._hide(call, reading)
                raise reading.refused(reading.problems)
            opener = OPENERS.get(str(call.groups[-1].default_command))
            if opener is not None:
                steps: Interaction[int] = object_at(opener)(self, options)
                return (yield from steps)
            if call.groups[-1].default_command == "help":
                contexts.current().print(style.rendered(pages.page_rows(call)))
                return 0
            return (yield from self._run_from_menu(call, reading, options))
        return (yield from self._run(call, options))

    def _run_from_menu(self, call: Invocation, reading: ParsedArgs, options: FillOptions) -> Interaction[int]:
        """Ask which member is wanted, and run it; from its first question the way back leads to the menu again."""
        first, left = len(call.names), set[tuple[str, ...]]()
        while True:
            options.asked_before = [(tell("Command"), name) for name in call.names[first:]]
            options.leads_back, options.takes_up = len(call.names) > first, tuple(call.names) in left
            try:
                if call.command is not None:
                    return (yield from self._run(call, options))
                yield from self._ask_member(call, reading, options)
            except precedence.WayBack:
                left.add(tuple(call.names))
                call.step_back()

    def _run(self, call: Invocation, options: FillOptions) -> Interaction[int]:
        """Open the gate, fill the command, run it, and print its result; raises Problems that name the command."""
        try:
            return (yield from self._run_filled(call, options))
        except values_problems.Problems as problems:
            problems.command = tuple(call.names)
            raise

    def _run_filled(self, call: Invocation, options: FillOptions) -> Interaction[int]:
        command: Any = call.command
        form: Any = merged.merged_form(command, call.shared, call.shared_forms) if call.shared else command
        if self.repeats != "error":
            form = class_keywords.form_with(form, {"repeats": self.repeats})
        reading = read_words(slots_of(form), call.words, prefixes=self.prefixes, command=frozenset(call.indices))
        if "help" in reading.builtin or "version" in reading.builtin:
            self._say(call, reading.builtin)
            return 0
        if not reading.hides:
            reading.masks = lambda problems: self._masked(problems, reading, form)
        if call.renamed or reading.renamed:
            renaming.say_renamed([*call.renamed, *reading.renamed])
        if command.review in (True, False, ALWAYS):
            options.review = command.review
        options.settings_of = self.settings_of
        options.levels = call.levels
        options.old_names = call.old_names
        if self.gate is not None:
            gate, path = self.gate, tuple(call.names)
            options.looks_at = lambda values: gate(path, command, values)
        filled = yield from filling.steps(form, reading, options)
        record = filled if form is command else merged.part_of(filled, command)
        shared = Shared(merged.part_of(filled, one) for one in call.shared_forms)
        note_call(record, call.names, shared, filled if call.shared else None)
        if options.detach is not None and (options.detaches_all or type(record).background is True):
            options.detach(record, lambda: self._around(call, record, filled, options))
            return 0
        return (yield from self._around(call, record, filled, options))

    def _around(self, call: Invocation, record: Any, filled: Form, options: FillOptions) -> Interaction[int]:
        steps = self._perform(call, record, filled, options)
        return (yield from steps if options.around is None else options.around(steps))

    def _perform(self, call: Invocation, record: Any, filled: Form, options: FillOptions) -> Interaction[int]:
        """Run a command that is filled, print its result, and tell those who listen to it."""
        if has_secrets(type(filled)):
            with secrets.Hushing(filled):
                status = yield from self._carry_out(call, record, options)
        else:
            status = yield from self._carry_out(call, record, options)
        if options.listening is not None:
            _, failed = yield from options.listening.tell(call.names, record)
            status = status or int(failed)
        return status

    def _carry_out(self, call: Invocation, record: Any, options: FillOptions) -> Interaction[int]:
        """Run a command that is filled, and print its result; an error may say a secret."""
        context, listening = contexts.current(), options.listening
        result: Any = None
        with scope.within(context.derive(shared=record.shared)):
            if listening is None or type(record).run is not Command.run:
                result = yield from _result_of(record, options)
            elif not listening.has(call.names):
                name = " ".join(call.names)
                raise values_problems.Refusal(tell("{command} has no function to run and no listener", command=name))
        if "WESPERON_LOG" in context.environ:
            diagnostics.area("commands").debug("%s gave a %s", " ".join(call.names), type(result).__name__)
        if type(record).in_steps:
            return result or 0
        if result is not None:
            form = record.shared.as_ if self.results else "text"
            if listening is None:
                output_results.show(result, form=form)
            else:
                yield from long_output.show(result, self.name, form=form, is_async=options.is_async)
        return 0

    def _ask_member(self, call: Invocation, reading: ParsedArgs, options: FillOptions) -> Interaction[None]:
        """Ask which member is wanted, as for any value that is missing; raises Problems if nobody can be asked."""
        group = call.groups[-1]
        summaries = listing.summaries(group)
        if not summaries:
            raise DeclarationError(f"{group.name} has no commands: give it some, as members=[...]")
        of = group.members
        kind = choices.one_of(
            sorted(summaries, key=lambda name: [*listing.headings(group)].index(of[name].section)),
            note=summaries.get,
            aliases=lambda name: of[name].aliases,
            group=lambda name: of[name].section,
        )
        choice: Any = made_class("Choice", (Form,), {"command": slot(kind, tell("Command"))})
        mode = mode_of(reading, contexts.current().environ)
        try:
            asked = filling.FillOptions(
                {**self.wishes, "asking": mode}, driver=options.driver, is_async=options.is_async
            )
            asked.asked_before, asked.leads_back = options.asked_before, options.leads_back
            asked.leaves_record = False  # it is on the card of the command
            filled = yield from filling.steps(choice, read_words(slots_of(choice), [f"--asking={mode}"]), asked)
            call.step(filled.command)
        except values_problems.Problems:
            if mode != NEVER and options.driver is not None:
                raise
            page = output_help.listing([self.name, *call.names], None, listing.headings(group))
            contexts.current().print(page, error=True)
            missing = values_problems.Problem(tell("a command is missing"), missing=True)
            raise values_problems.Problems([missing]) from None  # the list is above

    def _masked(self, problems: Iterable[Problem], reading: ParsedArgs, form: type[Form]) -> Problems:
        """Return the problems of a line, without what may be a secret of another command."""
        names = tree_secrets.secret_names(self)
        if names is not None and not names:
            return values_problems.Problems(problems, reading.words)
        return masking.masked_elsewhere(problems, reading.words, slots_of(form), reading.command, names)

    def _hide(self, call: Invocation, reading: ParsedArgs) -> None:
        """Mask the words that may be a secret of the command that is missing."""
        if tree_secrets.may_have_secrets(self):
            reading.hides = {**tree_secrets.loaded_slots(self), **call.shared}

    def _say(self, call: Invocation, builtin: Mapping[str, str]) -> None:
        """Print what ``--help`` or ``--version``, which are among the program's ``builtin`` names, ask for."""
        if "version" in builtin and "help" not in builtin:
            exit_status.print_page(output_help.version_line(self.name, self.version))
        elif builtin["help"] == "all":
            interaction.play(long_output.say(self.manual(), self.name))
        else:
            interaction.play(long_output.say(style.rendered(pages.page_rows(call)), self.name))

    @property
    def settings(self) -> commands_settings.Settings:
        """The settings file: ``path`` is where it is, ``set(name, value)`` writes one value and leaves all else."""
        return commands_settings.Settings(self)

    def page(self) -> str:
        """Return the help page of the program itself."""
        return self._page(commands_invocation.Invocation(self, ()))

    def _page(self, call: Invocation, columns: int = 0) -> str:
        return "\n".join(table.texts(pages.page_rows(call, columns)))

    def candidates(self, before: Sequence[str], word: str, *, inside: bool = False) -> list[candidate.Candidate]:
        """Return what ``word``, which has been begun, may become after the words ``before`` it.

        ``inside`` is that of :meth:`invocation`.
        """
        try:
            call = self.invocation(before, inside=inside)
        except (values_problems.Problems, values_problems.Refusal):  # one of another package may not load
            return []
        if call.is_help and call.command:
            return []
        default = {} if inside else call.default_slots
        slots = {**call.shared, **(slots_of(call.command) if call.command else default)}
        found = completion_candidates.candidates(slots, before, word, frozenset(call.indices))
        if call.command is None and not call.is_default and not word.startswith("-") and (default or not found):
            folded = word.lower()
            found[:0] = [
                candidate.Candidate(name, summary)
                for name, summary in listing.summaries_for(call.groups[-1], folded, inside=inside).items()
            ]
        return found

    def contract(self) -> str:
        """Return a plain text of everything that callers rely on: commands, positions, names, kinds, choices, defaults.

        Keep it in a file and compare it in a test: what would break a line that somebody has written down shows as a
        changed line.
        """
        first, *rest = commands_contract.contract_of(self, [self.name]).split("\n")
        own = commands_contract.program_lines(prefixes=self.prefixes, settings=self.settings_of, repeats=self.repeats)
        return "\n".join([first, *own, *rest])

    def blank_answers(self) -> str:
        """Return a blank answers file in TOML with a table for each command."""
        tables = []
        for call in pages.all_calls(self):
            # A group's table has the values of its default command too.
            slots = slots_of(call.command) if call.command else {**call.groups[-1].slots, **call.default_slots}
            if slots:
                heading = f"[{'.'.join(call.names)}]\n" if call.names else ""
                tables.append(heading + forms_blank_answers.blank_answers(slots.values()))
        return "\n".join(tables)

    def manual(self, columns: int = 0) -> str:
        """Return the help pages of the program, of each group and command, ``columns`` wide (0: as the terminal)."""
        return "\n\n\n".join(self._page(call, columns) for call in pages.all_calls(self))


def steps(program: Program, words: Sequence[str], options: FillOptions) -> Interaction[int]:
    """Run the command of a program that the words name, in steps; the exit status."""
    return program._steps(words, options)


def _result_of(record: Any, options: FillOptions) -> Interaction[Any]:
    """Return what a command gives back; a coroutine is awaited."""
    run = type(record).run.__get__(record)  # the record may hold a value of that name
    if type(record).in_steps:
        return (yield from run())
    result = interaction.call_interruptibly(run) if options.is_async else run()
    return (yield result) if hasattr(result, "__await__") else result


def _with_results(shared: type[Form] | None) -> type[Form]:
    """Return the shared slots with ``--as``, the form in which a result is printed."""
    kind = choices.one_of(["text", "json", "csv", "yaml"])
    form = slot(kind, default="text", help="the form in which the result is printed")
    made: type[Form] = made_class("Shared", (shared or Form,), {"as_": form})
    return made
