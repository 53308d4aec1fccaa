"""Full screens of parts, while they run on a terminal. Imports forms and below."""
