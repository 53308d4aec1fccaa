"""The ``wesperon`` command."""
