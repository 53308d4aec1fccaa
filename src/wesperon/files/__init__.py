"""Reading TOML, JSON and YAML, with the line of everything in them. Imports values, text, context and frozen."""
