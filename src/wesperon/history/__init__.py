"""What was entered before, on disk. Imports files and below."""
