"""The command line: its grammar, its errors, replay, undeclared arguments. Imports output and below."""
