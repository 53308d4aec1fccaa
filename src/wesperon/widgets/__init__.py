"""State machines that take an event and show a frame. Pure. Imports screen and below.

Every widget has ``press(event)``, ``view(columns, rows)`` and ``outcome``, which is ``None`` while it is open. Once
there is an outcome, ``view`` shows the record that stays on the screen.
"""
