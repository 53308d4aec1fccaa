"""The ``wesperon`` command. Imports the root, console and below."""
