"""Add modules to the desk: what that brings along is shown as a table, and confirmed."""

from wesperon import Command, Program, Refusal, any_of, confirm, slot

NEEDS = {"dome": ["motor", "wind"], "guider": ["camera"], "camera": [], "motor": [], "wind": []}
KILOBYTES = {"dome": 120, "guider": 340, "camera": 900, "motor": 80, "wind": 40}


class Add(Command):
    """Add modules, and what they need."""

    modules = slot(any_of(list(NEEDS), least=1), "Which modules?")
    yes = slot(bool, default=False, short="y", help="do not ask")

    def run(self) -> str:
        """Show what will be done, have it confirmed, do it."""
        wanted = sorted({*self.modules, *(need for name in self.modules for need in NEEDS[name])})
        print(f"{'module':10}  {'kB':>5}  why")
        for name in wanted:
            print(f"{name:10}  {KILOBYTES[name]:5}  {'asked for' if name in self.modules else 'needed'}")
        size = sum(KILOBYTES[name] for name in wanted)
        if not (self.yes or confirm(f"Add {len(wanted)} modules, {size} kB?", unattended=False)):
            raise Refusal("nothing is added")
        return f"{len(wanted)} modules are added"


def installed() -> list[dict[str, object]]:
    """List the modules that there are."""
    return [{"module": name, "kB": size, "needs": NEEDS[name]} for name, size in KILOBYTES.items()]


raise SystemExit(Program("modules", members=[Add, installed], results=True).main())
