"""The messages in other languages, and the code that finds them. Imports package_files."""
