"""Full screens of parts, while they run on a terminal. Imports commands and below."""
