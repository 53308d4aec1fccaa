"""Fields side by side on one screen: what is to be exposed, and what it costs of the night."""

from __future__ import annotations

from wesperon import Across, Button, Down, Field, Label, Screen, any_of, one_of, slot

TARGETS = ["Lantern Nebula", "Thimble Group", "Wicker Cluster", "Ladder Cluster"]
FILTERS = ["clear", "red", "green", "blue"]

target = Field(slot(one_of(TARGETS), "Target"), value=TARGETS[0])
filters = Field(slot(any_of(FILTERS), "Filters"), value=("clear",))
frames = Field(slot(int, "Frames", low=1, high=500), value=12)
seconds = Field(slot(float, "Seconds", low=0.1, unit="s"), value=90)
guided = Field(slot(bool, "Guided"), value=True)
note = Field(slot(str, "Note", low=0), value="")
night = Label()


@frames.on_change
@seconds.on_change
@filters.on_change
def count(value: object) -> None:
    """Say how long all of it takes."""
    minutes = frames.value * seconds.value * max(len(filters.value), 1) / 60
    night.show(f"{minutes:.0f} minutes of the night, {len(filters.value)} filters")


def expose() -> None:
    """Leave with the answers, if all of them are right."""
    fields = (target, filters, frames, seconds, guided, note)
    faults = [field.check() for field in fields]
    if not any(faults):
        screen.close({field.label: field.value for field in fields})


def leave() -> None:
    """Leave with nothing."""
    screen.close()


screen = Screen(
    Down(
        Across(
            Down(target, filters, note, title="What"),
            Down(frames, seconds, guided, title="How"),
        ),
        night,
        Across(Button("Expose", expose, default=True), Button("Leave", leave)),
    ),
    title="Exposure",
)

if __name__ == "__main__":
    count(None)
    print(screen.run() or "nothing exposed")
