"""Sets of questions in files: slots, choices and the forms of commands, declared in TOML, JSON or YAML.

    name, description, version    of the whole set
    choices                 lists to choose from, by name, for any slot
    slots                   a table for each slot, in the order in which they are asked for
    rules                   a list of tables, each of slots that go together
    commands                a table for each command: about, slots, commands of its own

What a slot may say is in ``KEYS``, its kinds are those of the registry; both are what the JSON Schema is made of.
Everything that is wrong with a file is found in one go, and raised as Problems with places.
"""

from __future__ import annotations

import os
import re
from contextlib import nullcontext

from wesperon.documents.choice_lists import CHOICE, ListReader, column, label_of
from wesperon.documents.faults import Faults, read_whole
from wesperon.documents.rule_tables import known, leave_out, read_rules
from wesperon.documents.slot_rules import OLD_NAME
from wesperon.sources.source import Found, value_of
from wesperon.system.time_limit import time_limit
from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.kinds.choices import any_of, one_of
from wesperon.values.kinds.registry import KINDS, kind_named
from wesperon.values.phrases import bound_text
from wesperon.values.provenance import note_file
from wesperon.values.rules import in_body
from wesperon.values.slots import LAST, VERBATIM, slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.files.document import Path
    from wesperon.values.records import Record
    from wesperon.values.rules import Rule
    from wesperon.values.slots import Slot

#: What a slot may say: the key, the types of its value (as ``documents.faults.TYPES`` has them), and what it means.
KEYS: dict[str, tuple[tuple[type, ...], str]] = {
    "kind": ((str,), "what kind of value it is; text where nothing is said, one-of where there are choices"),
    "ask": ((str,), "the question, and up to 24 characters of it the label"),
    "section": ((str,), "a heading on the help page"),
    "help": ((str, bool), "a sentence for the help page; false: left out of it"),
    "default": ((), "the value where none is given; a list for several"),
    "initial": ((), "what is in the line at first, although it is still asked for; last: the value of the last run"),
    "low": ((), "the lowest value, the least length of a text"),
    "high": ((), "the highest value, the greatest length of a text"),
    "step": ((), "by how much the arrow keys change it"),
    "unit": ((str,), "what is said beside the value"),
    "short": ((str,), "a letter or a digit for the command line, or several"),
    "short_no": ((str,), "the same for what turns a switch off"),
    "alone": ((), "the value if the name is alone; another one comes after = or right after the letter"),
    "env": ((str,), "the environment variable that may hold it"),
    "pattern": ((str,), "a regular expression that the whole text matches"),
    "pattern_says": ((str,), "what that is in words"),
    "exists": (
        (str,),
        "what a path leads to: file, folder, either, nothing or parent (a folder that it may be made in)",
    ),
    "suggest": ((list, dict), "texts that it may well be; or a table with notes, or with the file that holds them"),
    "suggest_as": ((str,), "how these stand: list, grid or inline"),
    "choices": ((list, str, dict), "what there is to choose from: a list, the name of one, or a table with its file"),
    "least": ((int,), "how many at least"),
    "most": ((int,), "how many at most"),
    "secret": ((bool, str), 'never shown; "anywhere": taken as a word nevertheless'),
    "twice": ((bool,), "a secret that is typed again to confirm it"),
    "mask": ((str,), "what is shown for each character of a secret"),
    "lines": ((bool,), "a text of several lines"),
    "syntax": ((str,), "the language that colours it"),
    "live": ((bool,), "checked while it is typed"),
    "repeats": ((str,), "what a second value does: error, or last, where the last one counts"),
    "many": ((bool,), "the name may be repeated"),
    "rest": ((bool, str), 'takes all words that are left; "verbatim": as they are, names too'),
    "named_only": ((bool,), "never filled by position"),
    "renamed_from": ((str, list), "a name that it had, or several"),
    "piped": ((bool,), "standard input may hold it"),
    "applies": ((dict,), "a condition on the answers before; where it does not hold, the slot is skipped"),
}
#: What a condition may say of the slot that it names; one of them, or nothing: then the answer is yes.
TESTS = ("is", "is_not", "one_of", "holds", "at_least", "at_most")
#: The sorts of conditions, by the key that each has, and the type of its value. A condition is of one sort.
SORTS: dict[str, type] = {"slot": str, "all": list, "any": list, "not": dict}
#: How long a pattern of a file may take with the texts of the file, in seconds.
LONGEST = 2
TOP = ("name", "description", "version", "choices", "slots", "rules", "commands")
COMMAND = ("description", "slots", "rules", "commands")


class Declared:
    """One level of a set: the form of its slots, and the commands below."""

    def __init__(self, name: str, description: str, form: type[Any], commands: Mapping[str, Declared]) -> None:
        self.name = name
        self.description = description
        self.form = form
        self.commands = commands
        self.version = ""


def read_set(name: str, base: type[Record]) -> Declared:
    """Return the set that a file declares, its forms derived from `base`.

    Raises Problems with all faults of the file.
    """
    return read_whole(name, lambda faults: SetReader(faults, base).read())


def form_at(path: str, base: type[Record], command: str) -> Any:
    """Return the form that a file declares, or that of a ``command`` in it, its names with blanks between them.

    Raises Problems with all faults of the file, DeclarationError for a command that it has not.
    """
    declared = read_set(path, base)
    for name in command.split():
        if name not in declared.commands:
            raise DeclarationError(f"{path} has no command {name!r}{suggestion(name, declared.commands)}")
        declared = declared.commands[name]
    return declared.form


class SetReader(ListReader):
    """Reads one document; what is wrong joins the faults."""

    sorts: Mapping[str, type] = SORTS

    def __init__(self, faults: Faults, base: type[Record]) -> None:
        super().__init__(faults)
        self.base = base
        self.used: set[str] = set()
        self.choices: dict[str, tuple[Path, Any]] = {}

    def read(self, top: Any = None, names: tuple[str, ...] = TOP) -> Declared:
        """Return the set; ``names`` are the keys that may be at its top."""
        table = self.faults.table((), self.faults.document.top if top is None else top, names)
        stem = os.path.splitext(os.path.basename(self.faults.document.name))[0]
        said = {key: table.get(key, "") for key in ("name", "description", "version")}
        for key, value in said.items():
            if not self.faults.is_a((key,), value, str):
                said[key] = ""
        choices = table.get("choices", {})
        if self.faults.is_a(("choices",), choices, dict):
            self.choices = {str(key): (("choices", key), value) for key, value in choices.items()}
        made = self._level((), said["name"] or stem, said["description"], table)
        made.version = said["version"]
        for key in self.choices:
            if key not in self.used:
                self.kind_of((), {"choices": key})
        if not table.get("slots") and not table.get("commands") and names is TOP:
            self.faults.add((), tell("neither slots nor commands are declared"))
        return made

    def _level(self, path: Path, name: str, description: str, table: Mapping[str, Any]) -> Declared:
        rules = read_rules(self.faults, (*path, "rules"), table.get("rules", []), table.get("slots", {}))
        slots = self.slots((*path, "slots"), table.get("slots", {}), rules)
        form = self._form(path, name, description, slots, rules)
        commands = {}
        tables = table.get("commands", {})
        if self.faults.is_a((*path, "commands"), tables, dict):
            for key, entry in tables.items():
                where = (*path, "commands", key)
                if not _is_name(key):
                    self.faults.add(
                        where, tell("a name is letters from a to z, digits and hyphens, and begins with a letter"), key
                    )
                own = self.faults.table(where, entry, COMMAND)
                said = own.get("description", "")
                said = said if self.faults.is_a((*where, "description"), said, str) else ""
                commands[str(key)] = self._level(where, str(key), said, own)
        return Declared(name, description, form, commands)

    def slots(self, path: Path, table: Any, rules: Sequence[Rule[Any]] = ()) -> dict[str, Slot[Any]]:
        """Return the slots of a table, in their order; a condition may name one of the ``rules``."""
        made: dict[str, Slot[Any]] = {}
        if not self.faults.is_a(path, table, dict):
            return made
        names = {*table, *(rule.name for rule in rules)}
        for name, entry in table.items():
            where = (*path, name)
            if not (name.isidentifier() and name.isascii() and not name.startswith("_")):
                reason = tell("a name is letters from a to z, digits and _, and begins with a letter")
                self.faults.add(where, reason, name)
                continue
            slot = self.slot(where, self.faults.table(where, entry, KEYS), {**made, **known(rules, made)}, names)
            if slot is not None:
                slot.name = name
                made[name] = slot
                if any(name in rule.names for rule in rules):
                    leave_out(slot)
        return made

    def _form(
        self, path: Path, name: str, description: str, slots: Mapping[str, Slot[Any]], rules: Sequence[Rule[Any]]
    ) -> type[Any]:
        title = "".join(part.capitalize() for part in name.replace("-", "_").split("_")) or "Set"
        try:
            body = {"__doc__": description, "__module__": f"set:{name}"}
            whole = [rule for rule in rules if all(one in slots for one in rule.names)]  # else it is reported already
            made: type[Any] = type(title, (self.base,), {**body, **slots, **in_body(whole)})
        except DeclarationError as error:
            self.faults.add((*path, "slots"), str(error).removeprefix(f"{title}: "))
            return self.base
        note_file(made, os.path.realpath(self.faults.document.name))
        return made

    def slot(
        self, path: Path, table: dict[str, Any], before: Mapping[str, Slot[Any]], names: set[str]
    ) -> Slot[Any] | None:
        """Return one slot; None if something is wrong with it."""
        count = len(self.faults.problems)
        for key, value in table.items():
            types = KEYS[key][0]
            if types:
                self.faults.is_a((*path, key), value, *types)
        if len(self.faults.problems) == count:
            self._examine_texts(path, table)
        if len(self.faults.problems) > count:
            return None
        kind = self.kind_of(path, table)
        settings = {key: value for key, value in table.items() if key not in ("kind", "choices", "applies", "ask")}
        if "applies" in table:
            settings["applies"] = self.condition((*path, "applies"), table["applies"], before, names)
        if isinstance(settings.get("suggest"), dict) and "file" in settings["suggest"]:
            settings["suggest"] = self.suggested((*path, "suggest"), settings["suggest"])
        if kind is None or len(self.faults.problems) > count:
            return None
        if kind.limits is not None:  # a set of choices has them itself
            settings.pop("least", None), settings.pop("most", None)
        try:
            return self._declared(path, table, kind, settings)
        except DeclarationError as error:
            self.faults.add(path, str(error))
        except TimeoutError:
            self.faults.add(
                (*path, "pattern"),
                tell("takes more than {seconds} s for one text: repeat no part that repeats itself", seconds=LONGEST),
                table["pattern"],
            )
        return None

    def _declared(self, path: Path, table: dict[str, Any], kind: Any, settings: dict[str, Any]) -> Slot[Any] | None:
        """Return the slot.

        Return None if something is wrong with it. Raises DeclarationError, and TimeoutError for its pattern.
        """
        count = len(self.faults.problems)
        with time_limit(LONGEST) if "pattern" in table else nullcontext():
            bare: Any = slot(
                kind,
                table.get("ask"),
                **{
                    **settings,
                    **dict.fromkeys(("low", "high", "step")),
                    "default": () if table.get("rest") == VERBATIM else None,
                    "initial": MISSING,
                    "alone": MISSING,
                },
            )
            for key in ("low", "high", "step", "default", "initial", "alone"):
                if key in table and (key, table[key]) != ("initial", LAST):
                    settings[key] = self._value((*path, key), bare, key, table[key])
            if len(self.faults.problems) > count:
                return None
            made: Slot[Any] = slot(kind, table.get("ask"), **settings)
        return made

    def _examine_texts(self, path: Path, table: Mapping[str, Any]) -> None:
        """Find what is no text in lists of texts, and no name in those of names."""
        suggest, old = table.get("suggest", []), table.get("renamed_from", [])
        if isinstance(suggest, list):
            for at, text in enumerate(suggest):
                self.faults.is_a((*path, "suggest", at), text, str)
        elif "file" not in suggest:
            for text, note in suggest.items():
                self.faults.is_a((*path, "suggest", text), note, str)
        for name in [old] if isinstance(old, str) else old:
            if self.faults.is_a((*path, "renamed_from"), name, str) and not re.match(OLD_NAME, name):
                reason = tell("a name is letters from a to z, digits and _, and begins with a letter")
                self.faults.add((*path, "renamed_from"), reason, name)

    def _value(self, path: Path, slot: Slot[Any], key: str, value: Any) -> Any:
        """Return a bound or a default: a text is read like a word, anything else is of the slot's kind."""
        try:
            if key == "step" and slot.kind.step_kind:
                return kind_named(slot.kind.step_kind, {}).parse(str(value))
            if key in ("default", "initial") or isinstance(value, list):
                return value_of(slot, Found(value, ""))
            if slot.kind.bounded == "length" and key != "alone":
                if not self.faults.is_a(path, value, int):
                    return MISSING
                return value
            return slot.kind.parse(value) if isinstance(value, str) else slot.kind.validate(value)
        except Complaint as complaint:
            self.faults.add(path, complaint.reason, str(value))
            return MISSING

    def kind_of(self, path: Path, table: Mapping[str, Any]) -> Any:
        """Return the kind that a slot names; None if something is wrong with it."""
        name = table.get("kind", "one-of" if "choices" in table else "text")
        if name not in KINDS:
            self.faults.unknown((*path, "kind"), name, KINDS, tell("kind"))
            return None
        if name not in ("one-of", "any-of"):
            if "choices" in table:
                self.faults.add(
                    (*path, "choices"), tell("choices go with one-of and any-of, and this is {name}", name=name)
                )
                return None
            return kind_named(name, table)
        if "choices" not in table:
            self.faults.add(path, tell("choices are missing: there is nothing to choose from"))
            return None
        given = table["choices"]
        at = (*path, "choices")
        if isinstance(given, str):
            if given not in self.choices:
                self.faults.unknown(at, given, self.choices, tell("list of choices"))
                return None
            self.used.add(given)
            at, given = self.choices[given]
        objects = self.choices_of(at, given)
        if objects is None:
            return None
        about: Any = {key: column(key) for key in CHOICE[2:]}
        try:
            if name == "one-of":
                return one_of(objects, label_of, **about)
            counts = {key: table[key] for key in ("least", "most") if key in table}
            return any_of(objects, label_of, **about, **counts)
        except DeclarationError as error:
            self.faults.add(at, str(error))
            return None

    def condition(self, path: Path, given: Any, before: Mapping[str, Slot[Any]], names: set[str]) -> Condition | None:
        """Return a condition on the answers; None if something is wrong with it."""
        count = len(self.faults.problems)
        table = self.faults.table(path, given, (*self.sorts, *TESTS))
        if len(self.faults.problems) > count:
            return None
        sorts, tests = [key for key in table if key in self.sorts], [key for key in table if key in TESTS]
        if len(sorts) != 1 or len(tests) > (sorts == ["slot"]):
            self._refuse_condition(path, table)
            return None
        sort = sorts[0]
        if not self.faults.is_a((*path, sort), table[sort], self.sorts[sort]):
            return None
        if sort in ("all", "any"):
            if not table[sort]:
                self.faults.add((*path, sort), tell("is empty: a list of conditions has one at least"))
            found = [self.condition((*path, sort, at), one, before, names) for at, one in enumerate(table[sort])]
            inner = [one for one in found if one is not None]
            return _joined(inner, every=sort == "all") if inner and len(inner) == len(found) else None
        if sort == "not":
            one = self.condition((*path, "not"), table["not"], before, names)
            if one is None:
                return None
            return Condition(lambda answers: not one(answers), tell("not ({condition})", condition=one.text))
        return self.of_sort(path, sort, table, before, names)

    def _refuse_condition(self, path: Path, table: Mapping[str, Any]) -> None:
        """Tell that a condition says nothing, or more than one thing."""
        got = tell(" and ").join(table) or tell("nothing")
        several = tell("; several are joined as {example}", example="{ all = [{...}, {...}] }") if table else ""
        self.faults.add(
            path,
            tell(
                "a condition says one thing: {sorts}; or slot and one of {tests}; got {got}{several}",
                sorts=tell(" or ").join(self.sorts),
                tests=", ".join(TESTS),
                got=got,
                several=several,
            ),
        )

    def of_sort(
        self, path: Path, sort: str, table: Mapping[str, Any], before: Mapping[str, Slot[Any]], names: set[str]
    ) -> Condition | None:
        """Return a condition that asks about a slot; None if something is wrong with it."""
        name, tests = table[sort], [key for key in table if key in TESTS]
        if name not in before:
            if name in names:
                self.faults.add(
                    path,
                    tell("{name} is declared after this one: a condition sees only earlier answers", name=name),
                    name,
                )
            else:
                self.faults.unknown((*path, "slot"), name, before, tell("earlier slot"))
            return None
        test = tests[0] if tests else "is"
        wanted = table.get(test, True)
        if test in ("at_least", "at_most"):
            return self._bound((*path, test), before[name], wanted, least=test == "at_least")
        texts = self._texts((*path, test), before[name], wanted if test == "one_of" else [wanted])
        if texts is None:
            return None
        label, values = before[name].label, " / ".join(texts)
        text = (
            tell("{name} is not {value}", name=label, value=values)
            if test == "is_not"
            else tell("{name} is {value}", name=label, value=values)
        )
        return Condition(
            lambda answers: (_said(before[name], getattr(answers, name), texts)) != (test == "is_not"), text
        )

    def _bound(self, path: Path, slot: Slot[Any], given: Any, *, least: bool) -> Condition | None:
        """Return a condition that compares an answer with a bound; None if something is wrong with that."""
        name = slot.name
        if slot.kind.bounded != "value":
            self.faults.add(path, tell("{kind} has no order", kind=slot.kind.wants))
            return None
        bound = self._value(path, slot, "low", given)
        if bound is MISSING:
            return None

        def holds(answers: Any) -> bool:
            value = getattr(answers, name)
            return value is not None and bool(value >= bound if least else value <= bound)

        value = bound_text(slot, bound)
        if least:
            return Condition(holds, tell("{name} is at least {value}", name=slot.label, value=value))
        return Condition(holds, tell("{name} is at most {value}", name=slot.label, value=value))

    def _texts(self, path: Path, slot: Slot[Any], values: Any) -> list[str] | None:
        """Return the texts of the values with which a slot is compared."""
        if not self.faults.is_a(path, values, list):
            return None
        texts = []
        for value in values:
            try:
                texts += slot.shape.texts(slot, slot.shape.value_of_item(slot, value))
            except Complaint as complaint:
                self.faults.add(path, complaint.reason, str(value))
                return None
        return texts


class Condition:
    """A condition on the answers, with what it says in words."""

    def __init__(self, holds: Callable[[Any], bool], text: str) -> None:
        self.holds, self.text = holds, text

    def __call__(self, answers: Any) -> bool:
        """Return True if it holds."""
        return self.holds(answers)


def _joined(conditions: list[Condition], *, every: bool) -> Condition:
    """Return every one of some conditions, or any."""
    if every:
        return Condition(lambda answers: all(one(answers) for one in conditions), _between(tell(" and "), conditions))
    return Condition(lambda answers: any(one(answers) for one in conditions), _between(tell(" or "), conditions))


def _between(word: str, conditions: list[Condition]) -> str:
    return word.join([one.text for one in conditions])


def _said(slot: Slot[Any], value: Any, texts: list[str]) -> bool:
    """Return True if a value is one of some, or, of several, holds one of them."""
    if value is None:
        return False
    return any(text in texts for text in slot.shape.texts(slot, value))


def _is_name(text: str) -> bool:
    return text.replace("-", "").isalnum() and text[:1].isalpha() and text.isascii()
