"""A kiosk for visitors: it asks again and again, and begins anew when a visitor has left in the middle."""

from wesperon import Problems, ask, fill, one_of, slot

SEATS = {"north": 12, "south": 3}
(patience,) = fill(patience=slot(float, default=30, unit="s", help="how long it waits for a visitor who has begun"))
while True:
    try:
        gallery = ask("Which gallery?", one_of([*SEATS, "close the desk"]))
        if gallery == "close the desk":
            break
        seats = ask("How many seats?", int, low=1, high=SEATS[gallery], timeout=patience)
    except Problems as problems:
        if any(problem.timed_out for problem in problems.problems):
            continue
        raise
    SEATS[gallery] -= seats
    print(f"{seats} seats in the {gallery} gallery; {SEATS[gallery]} are left")
