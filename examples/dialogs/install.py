"""Install the desk on this machine: a licence, components, a place, and a confirmation of a whole command line too."""

from pathlib import Path

from wesperon import Command, Complaint, Program, any_of, slot

COMPONENTS = {
    "desk": "the desk itself, 12 MB",
    "charts": "star charts, 80 MB",
    "simulator": "a telescope to try, 30 MB",
}


class Install(Command):
    """Install the desk."""

    review = "always"
    licence = slot(bool, "Do you agree to the licence?", help="it is in LICENCE.txt")
    components = slot(any_of(list(COMPONENTS), note=COMPONENTS.get, least=1), "What is to be installed?")
    place = slot(Path, "Where to?", initial=Path("desk-1"), exists="parent")
    link = slot(bool, "A link in bin?", applies=lambda so_far: "desk" in so_far.components)

    def check(self) -> None:
        """Nothing is installed without the licence."""
        if not self.licence:
            raise Complaint("is needed: nothing can be installed without it", slot="licence")

    def run(self) -> str:
        """Install what was chosen."""
        self.place.mkdir(exist_ok=True)
        for name in self.components:
            (self.place / name).touch()
        return f"{', '.join(self.components)} in {self.place}" + (", with a link" if self.link else "")


raise SystemExit(Program("install", default_command=Install).main())
