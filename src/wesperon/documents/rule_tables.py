"""Slots that go together, as a file says it: ``rules = [{exactly_one = ["a", "b"], name = "source"}]``."""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.values.kinds.choices import any_of, one_of
from wesperon.values.rules import all_or_none, at_least_one, at_most_one, exactly_one, needs
from wesperon.values.slots import slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.documents.faults import Faults
    from wesperon.files.document import Path
    from wesperon.values.rules import Rule
    from wesperon.values.slots import Slot

#: The sorts of rules, by the key that each has.
SORTS: dict[str, Callable[..., Rule[Any]]] = {
    "exactly_one": exactly_one,
    "at_most_one": at_most_one,
    "at_least_one": at_least_one,
    "all_or_none": all_or_none,
    "needs": needs,
}
#: What else a rule may say, and what it means.
OTHERS = {"name": "what conditions call it", "ask": "the question which slots are to be given"}


def read_rules(faults: Faults, path: Path, given: Any, slots: Any) -> list[Rule[Any]]:
    """Return the rules of a list; what is wrong joins the faults. ``slots`` has the names that there are."""
    if not faults.is_a(path, given, list):
        return []
    rules: list[Rule[Any]] = []
    for at, entry in enumerate(given):
        rule = _read(faults, (*path, at), faults.table((*path, at), entry, (*SORTS, *OTHERS)), slots)
        if rule is not None and rule.name and (rule.name in slots or rule.name in [one.name for one in rules]):
            faults.add((*path, at, "name"), tell("{name} is declared already: name it otherwise", name=rule.name))
        elif rule is not None:
            rules.append(rule)
    return rules


def _read(faults: Faults, path: Path, table: Mapping[str, Any], slots: Any) -> Rule[Any] | None:
    count = len(faults.problems)
    sorts = [key for key in table if key in SORTS]
    if len(sorts) != 1:
        got = tell(" and ").join(sorts) or tell("nothing")
        faults.add(path, tell("a rule is one of {list}; got {got}", list=", ".join(SORTS), got=got))
        return None
    sort = sorts[0]
    for key in OTHERS:
        faults.is_a((*path, key), table.get(key, ""), str)
    if faults.is_a((*path, sort), table[sort], list):
        for at, name in enumerate(table[sort]):
            if faults.is_a((*path, sort, at), name, str) and name not in slots:
                faults.unknown((*path, sort, at), name, slots, tell("slot"))
    name = table.get("name", "")
    if isinstance(name, str) and name and (not name.isidentifier() or name.startswith("_")):
        faults.add((*path, "name"), tell("a name is letters from a to z, digits and _, and begins with a letter"), name)
    if len(faults.problems) > count:
        return None
    try:
        if sort == "needs" and (len(table[sort]) != 2 or "ask" in table):
            raise DeclarationError("needs: two names, of which the first needs the second, and no question")
        rule = SORTS[sort](*table[sort], **{key: table[key] for key in OTHERS if key in table and key == "ask"})
    except DeclarationError as error:
        faults.add((*path, sort), str(error))
        return None
    rule.name = name
    return rule


def leave_out(slot: Slot[Any]) -> None:
    """Let a slot of a rule be left out, if it says no default: no file of TOML can say that it is None."""
    if not slot.has_fallback:
        slot.default = False if not slot.shape.takes_text else () if slot.shape.splits or slot.kind.limits else None


def known(rules: Sequence[Rule[Any]], slots: Mapping[str, Slot[Any]]) -> dict[str, Slot[Any]]:
    """Return what a condition may compare of the rules whose slots are all there, by the names of the rules."""
    found: dict[str, Slot[Any]] = {}
    for rule in rules:
        if rule.name and all(name in slots for name in rule.names):
            value = rule.value(())
            kind: Any = bool if value is False else any_of([*rule.names]) if value == () else one_of([*rule.names])
            made: Slot[Any] = slot(kind)
            made.name = rule.name
            found[rule.name] = made
    return found
