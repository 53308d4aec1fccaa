"""Plan the frames of one target: when each starts, and when the last one ends."""

from datetime import datetime, time, timedelta

from wesperon import fill, slot, terminal_size

target, frames, seconds, pause, first = fill(
    target=slot(ask="Target"),
    frames=slot(int, "Frames", low=1, high=200),
    seconds=slot(float, "Seconds each", low=0.1, high=3600, unit="s"),
    pause=slot(float, "Pause between", low=0, high=3600, unit="s"),
    first=slot(time, "First frame at"),
)

print(f"{target}: {frames} frame{'s' * (frames > 1)} of {seconds:g} s")
columns = terminal_size().columns
if columns < 29:
    print(f"The table needs 29 columns, and there are {columns}: {'only the starts' if columns > 14 else 'no table'}.")
start = datetime.combine(datetime(2000, 1, 1), first)
for number in range(1, frames + 1):
    end = start + timedelta(seconds=seconds)
    if columns > 14:
        print(f"{number:5}  {start:%H:%M:%S}" + f"  to  {end:%H:%M:%S}" * (columns > 28))
    start = end + timedelta(seconds=pause)
print(f"The last one ends at {end:%H:%M:%S}.")
