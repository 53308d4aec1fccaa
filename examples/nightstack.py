"""Stack the frames of three nights while the plates of the last one are copied: long work shows how far it is."""

import threading
import time

from wesperon import progress, working

NIGHTS = {"Lantern Nebula": 90, "Thimble Group": 60, "Old Ember": 120}


def copy(plates: int) -> None:
    """Copy plates of 8 MiB each; every fourteenth cannot be read."""
    with working("Copying plates", total=plates << 23, unit="bytes") as work:
        for plate in range(plates):
            time.sleep(0.08)
            work.add(1 << 23)
            if plate % 14 == 13:
                work.say(f"plate {plate} cannot be read")


def stack(frames: int) -> None:
    """Stack frames; the moon is too near for more than a hundred."""
    for frame in progress(range(frames), "Stacking", unit="frames"):
        time.sleep(0.03)
        if frame == 100:
            raise ValueError("the moon is too near")


def main() -> None:
    """Do both."""
    copying = threading.Thread(target=copy, args=(100,))
    copying.start()
    nights = progress(NIGHTS, "Nights")
    for night in nights:
        nights.label = night
        try:
            stack(NIGHTS[night])
        except ValueError as error:
            print(f"{night}: {error}")
    copying.join()


if __name__ == "__main__":
    main()
