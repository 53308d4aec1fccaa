"""A form of several questions, filled in a thread or in an event loop: ``card.py [thread|loop|closed]``."""

from __future__ import annotations

import asyncio
import sys
import threading

from campaign.programs import noise
from wesperon import Form, Problems, one_of, slot


class Plan(Form):
    """An exposure."""

    target = slot(ask="Target")
    lens = slot(one_of(["wide", "narrow", "none"]), "Lens")
    frames = slot(int, "Frames", low=1, high=200)
    note = slot(ask="Note", lines=True, low=0)


async def in_loop() -> Plan | None:
    """Fill it while another task goes on; None if the user stops."""
    ticking = asyncio.create_task(tick())
    try:
        return await Plan.fill_async([], resume=False)
    except (KeyboardInterrupt, Problems):
        print("<stopped>")
        return None
    finally:
        ticking.cancel()


async def tick() -> None:
    """Print something now and then."""
    for number in range(noise.LINES):
        await asyncio.sleep(0.02)
        print(f"<tick:{number}>")


def in_thread() -> None:
    """Fill it in a thread, while the main thread prints."""
    print("got", ascii(tuple(Plan.fill([], resume=False))), flush=True)


def main() -> None:
    """Ask in the way that is named."""
    way, *names = sys.argv[1:]
    noise.begin(names)
    if way == "thread":
        thread = threading.Thread(target=noise.tidy, args=(in_thread,))
        thread.start()
        thread.join()
    elif way == "loop":
        answered = asyncio.run(in_loop())
        print("got", ascii(tuple(answered or ())), flush=True)
    elif way == "closed":  # a loop that is closed while a question is open
        loop = asyncio.new_event_loop()
        task = loop.create_task(in_loop())
        loop.call_later(0.7, loop.stop)
        loop.run_forever()
        loop.close()
        sys.stderr = None  # what asyncio says of a task that it drops
        del task
    else:
        in_thread()


if __name__ == "__main__":
    noise.tidy(main)
