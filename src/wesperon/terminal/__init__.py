"""The only place that touches a terminal: modes, bytes to keys, sizes, signals, and the loops that drive a widget."""
