"""Reading files of TOML, JSON and YAML, with the line of everything in them. Imports values, text and context."""
