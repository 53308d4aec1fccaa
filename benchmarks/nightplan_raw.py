"""The plan of ``examples/nightplan.py``, on the raw argument list."""

import sys
from datetime import datetime, time, timedelta

target = sys.argv[1]
frames = int(sys.argv[2])
seconds, pause = float(sys.argv[3]), float(sys.argv[4])
first = time.fromisoformat(sys.argv[5])

print(f"{target}: {frames} frame{'s' * (frames > 1)} of {seconds:g} s")
start = datetime.combine(datetime(2000, 1, 1), first)
for number in range(1, frames + 1):
    end = start + timedelta(seconds=seconds)
    print(f"{number:5}  {start:%H:%M:%S}  to  {end:%H:%M:%S}")
    start = end + timedelta(seconds=pause)
print(f"The last one ends at {end:%H:%M:%S}.")
