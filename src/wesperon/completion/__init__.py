"""Completion in the user's shell: candidates, and one script for each shell. Imports argv and below."""
