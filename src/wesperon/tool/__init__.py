"""The ``wesperon`` command. Imports the root, guides and below."""
