"""Put two versions of a plan together: where they differ, one key says which one counts."""

from wesperon import Command, Program, ask, confirm, one_of, slot

OURS = {"Lantern Nebula": 90, "Thimble Group": 30, "Kestrel Galaxy": 60}
THEIRS = {"Lantern Nebula": 120, "Thimble Group": 30, "Kestrel Galaxy": 45, "Wicker Nebula": 15}
CHOICES = {"ours": "", "theirs": "", "both": "the longer one", "all ours": "here and below"}


class Merge(Command):
    """Put the two versions together."""

    prefer = slot(one_of(["ours", "theirs"]), default="ours", help="what counts where nobody is asked")

    def run(self) -> str:
        """Go through the differences."""
        merged, answer = {**THEIRS, **OURS}, ""
        for name in [name for name in OURS if OURS[name] != THEIRS.get(name)]:
            if answer != "all ours":
                question = f"{name}: ours {OURS[name]} s, theirs {THEIRS[name]} s"
                kind = one_of([*CHOICES], note=CHOICES.get, by_key=True)
                answer = ask(question, kind, unattended=self.prefer)
            if answer == "theirs":
                merged[name] = THEIRS[name]
            elif answer == "both":
                merged[name] = max(OURS[name], THEIRS[name])
        if not confirm("Write the plan?", unattended=True):
            return "nothing is written"
        return ", ".join(f"{name} {seconds} s" for name, seconds in merged.items())


raise SystemExit(Program("merge", default_command=Merge).main())
