"""The only place that touches a terminal: modes, keys, sizes, and the loops of widgets. Imports files and below."""
